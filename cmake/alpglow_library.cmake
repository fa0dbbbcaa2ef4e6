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

# alpglow_library(NAME DIR [EXPORT_NAME name] [PC_REQUIRES "module ..."] [PC_LIBS flags] [PC_CFLAGS flags] [PC_PRIVATE flags...] SOURCES file...)
# A library alpglow_NAME (static unless BUILD_SHARED_LIBS), known inside and outside as alpglow::EXPORT_NAME (NAME by default), with its public
# headers under DIR/include, installed as the package's component NAME and as alpglow-NAME.pc (the core: alpglow.pc).
function(alpglow_library name dir)
  cmake_parse_arguments(PARSE_ARGV 2 arg "" "EXPORT_NAME;PC_REQUIRES;PC_LIBS;PC_CFLAGS" "SOURCES;PC_PRIVATE")
  if(NOT arg_EXPORT_NAME)
    set(arg_EXPORT_NAME ${name})
  endif()
  get_filename_component(directory ${dir} ABSOLUTE)
  add_library(alpglow_${name} ${arg_SOURCES})
  add_library(alpglow::${arg_EXPORT_NAME} ALIAS alpglow_${name})
  set_target_properties(alpglow_${name} PROPERTIES EXPORT_NAME ${arg_EXPORT_NAME} POSITION_INDEPENDENT_CODE ON
    UNITY_BUILD OFF)  # sources keep names to themselves, and may have the same
  target_compile_features(alpglow_${name} PUBLIC cxx_std_17)
  alpglow_strict(alpglow_${name})
  # Nobody puts other functions in the place of these at run time, so they may be inlined.
  target_compile_options(alpglow_${name} PRIVATE $<$<CXX_COMPILER_ID:GNU>:-fno-semantic-interposition>)
  target_include_directories(alpglow_${name} PUBLIC
    $<BUILD_INTERFACE:${directory}/include> $<INSTALL_INTERFACE:${CMAKE_INSTALL_INCLUDEDIR}>)
  if(NOT ALPGLOW_INSTALL)
    return()
  endif()
  install(TARGETS alpglow_${name} EXPORT alpglow_${name}
    ARCHIVE DESTINATION ${CMAKE_INSTALL_LIBDIR} LIBRARY DESTINATION ${CMAKE_INSTALL_LIBDIR})
  install(DIRECTORY ${dir}/include/ DESTINATION ${CMAKE_INSTALL_INCLUDEDIR})
  set(pc_name alpglow-${name})
  if(name STREQUAL core)
    set(pc_name alpglow)
  else()
    string(PREPEND arg_PC_REQUIRES "alpglow ")
  endif()
  file(RELATIVE_PATH pc_up "/${CMAKE_INSTALL_LIBDIR}/pkgconfig" "/")
  list(JOIN arg_PC_PRIVATE " " arg_PC_PRIVATE)
  configure_file(${PROJECT_SOURCE_DIR}/cmake/alpglow.pc.in ${PROJECT_BINARY_DIR}/${pc_name}.pc @ONLY)
  install(FILES ${PROJECT_BINARY_DIR}/${pc_name}.pc DESTINATION ${CMAKE_INSTALL_LIBDIR}/pkgconfig)
  install(EXPORT alpglow_${name} FILE alpglow-${name}.cmake NAMESPACE alpglow::
    DESTINATION ${CMAKE_INSTALL_LIBDIR}/cmake/alpglow)
endfunction()
