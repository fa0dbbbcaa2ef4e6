# Warnings for all code of the project, and what sanitizers need. Errors only where the project itself is worked on.
function(alpglow_strict target)
  if(MSVC)
    target_compile_options(${target} PRIVATE /W4 $<$<BOOL:${ALPGLOW_WARNINGS_AS_ERRORS}>:/WX>)
  else()
    target_compile_options(${target} PRIVATE -Wall -Wextra -Wpedantic -Wconversion -Wshadow
      $<$<BOOL:${ALPGLOW_WARNINGS_AS_ERRORS}>:-Werror>)
  endif()
  if(ALPGLOW_SANITIZE)
    # The core has no run-time types, so nobody may look for those of its objects (vptr). What is read through null or beyond
    # an object, the address sanitizer finds at less than half of the time to compile.
    target_compile_options(${target} PRIVATE -fsanitize=${ALPGLOW_SANITIZE} -fno-sanitize-recover=undefined -fno-sanitize=vptr,null,object-size
      -fno-omit-frame-pointer $<$<CXX_COMPILER_ID:GNU>:-Wno-maybe-uninitialized>)
    target_link_options(${target} PUBLIC -fsanitize=${ALPGLOW_SANITIZE})
  endif()
endfunction()

# alpglow_library(NAME DIR [EXPORT_NAME name] SOURCES file...)
# A library alpglow_NAME (static unless BUILD_SHARED_LIBS), known inside and outside as alpglow::EXPORT_NAME (NAME by default), with its public
# headers under DIR/include, installed as the package's component NAME.
function(alpglow_library name dir)
  cmake_parse_arguments(PARSE_ARGV 2 arg "" "EXPORT_NAME" "SOURCES")
  if(NOT arg_EXPORT_NAME)
    set(arg_EXPORT_NAME ${name})
  endif()
  add_library(alpglow_${name} ${arg_SOURCES})
  add_library(alpglow::${arg_EXPORT_NAME} ALIAS alpglow_${name})
  set_target_properties(alpglow_${name} PROPERTIES EXPORT_NAME ${arg_EXPORT_NAME} POSITION_INDEPENDENT_CODE ON)
  target_compile_features(alpglow_${name} PUBLIC cxx_std_17)
  alpglow_strict(alpglow_${name})
  # Nobody puts other functions in the place of these at run time, so they may be inlined.
  target_compile_options(alpglow_${name} PRIVATE $<$<CXX_COMPILER_ID:GNU>:-fno-semantic-interposition>)
  target_include_directories(alpglow_${name} PUBLIC
    $<BUILD_INTERFACE:${CMAKE_CURRENT_SOURCE_DIR}/include> $<INSTALL_INTERFACE:${CMAKE_INSTALL_INCLUDEDIR}>)
  if(NOT ALPGLOW_INSTALL)
    return()
  endif()
  install(TARGETS alpglow_${name} EXPORT alpglow_${name}
    ARCHIVE DESTINATION ${CMAKE_INSTALL_LIBDIR} LIBRARY DESTINATION ${CMAKE_INSTALL_LIBDIR})
  install(DIRECTORY ${dir}/include/ DESTINATION ${CMAKE_INSTALL_INCLUDEDIR})
  install(EXPORT alpglow_${name} FILE alpglow-${name}.cmake NAMESPACE alpglow::
    DESTINATION ${CMAKE_INSTALL_LIBDIR}/cmake/alpglow)
endfunction()
