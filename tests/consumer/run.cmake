file(REMOVE_RECURSE ${WORK})
function(step)
  execute_process(COMMAND ${ARGN} RESULT_VARIABLE code OUTPUT_VARIABLE output ERROR_VARIABLE output)
  if(NOT code EQUAL 0)
    message(FATAL_ERROR "${ARGN}\n${output}")
  endif()
endfunction()
step(${CMAKE_COMMAND} --install ${BUILD} --prefix ${WORK}/prefix)
step(${CMAKE_COMMAND} -S ${SOURCE} -B ${WORK}/build -G Ninja -D CMAKE_PREFIX_PATH=${WORK}/prefix
  -D CMAKE_CXX_COMPILER=${CXX} "-DCMAKE_CXX_FLAGS=${FLAGS}" -D TOOLS=${TOOLS})
step(${CMAKE_COMMAND} --build ${WORK}/build)
step(${WORK}/build/consumer)

# With pkg-config, and no CMake.
file(GLOB_RECURSE pc ${WORK}/prefix/alpglow.pc)
get_filename_component(where ${pc} DIRECTORY)
get_filename_component(libraries ${where} DIRECTORY)
set(strict "-Wall -Wextra -Wpedantic -Wconversion -Wsign-conversion -Wshadow -Werror")
step(${CMAKE_COMMAND} -E env PKG_CONFIG_PATH=${where} sh -c
  "${CXX} -std=c++17 ${strict} ${SOURCE}/main.cpp $(pkg-config --cflags --libs alpglow) -Wl,-rpath,${libraries} -o ${WORK}/by_pkg_config")
step(${WORK}/by_pkg_config)
# Linked by a compiler of C.
step(${CMAKE_COMMAND} -E env PKG_CONFIG_PATH=${where} sh -c
  "${CXX} -std=c++17 -c ${SOURCE}/main.cpp $(pkg-config --cflags alpglow) -o ${WORK}/by_c.o && cc ${WORK}/by_c.o $(pkg-config --static --libs alpglow) -Wl,-rpath,${libraries} -o ${WORK}/by_c")
step(${WORK}/by_c)
if(TOOLS)
  step(${CMAKE_COMMAND} -E env PKG_CONFIG_PATH=${where} sh -c
    "${CXX} -std=c++17 ${SOURCE}/reader.cpp $(pkg-config --cflags --libs alpglow-designs alpglow) -Wl,-rpath,${libraries} -o ${WORK}/reader_by_pkg_config")
  step(sh -c "pkg-config --version && PKG_CONFIG_PATH=${where} pkg-config --exists --print-errors alpglow-play alpglow-conformance")
  # What reads from memory holds nothing that opens files.
  step(sh -c "! nm ${WORK}/reader_by_pkg_config | grep -E ' U (open|flock|rename)(@|$)'")
endif()

# One part alone asks for nothing that others need. A part that is not installed says so.
step(${CMAKE_COMMAND} -S ${SOURCE}/../.. -B ${WORK}/part -G Ninja -D ALPGLOW_BUILD_TOOLS=OFF -D ALPGLOW_PARTS=conformance
  -D ALPGLOW_BUILD_TESTS=OFF -D ALPGLOW_BUILD_EXAMPLES=OFF -D CMAKE_CXX_COMPILER=${CXX}
  -D CMAKE_DISABLE_FIND_PACKAGE_TinyGLTF=ON -D CMAKE_DISABLE_FIND_PACKAGE_SDL2=ON -D CMAKE_DISABLE_FIND_PACKAGE_embree=ON
  -D CMAKE_DISABLE_FIND_PACKAGE_fmt=ON -D CMAKE_DISABLE_FIND_PACKAGE_PkgConfig=ON)
if(NOT TOOLS)
  execute_process(COMMAND ${CMAKE_COMMAND} -S ${SOURCE}/missing -B ${WORK}/missing -D CMAKE_PREFIX_PATH=${WORK}/prefix
    RESULT_VARIABLE code OUTPUT_VARIABLE output ERROR_VARIABLE output)
  if(code EQUAL 0 OR NOT output MATCHES "has no part[ \n]*\"designs\"")
    message(FATAL_ERROR "a part that is missing goes unsaid: ${output}")
  endif()
endif()

# Every recipe, from the Debian package.
step(${CMAKE_CPACK_COMMAND} -G DEB --config ${BUILD}/CPackConfig.cmake -B ${WORK}/deb)
file(GLOB deb ${WORK}/deb/*.deb)
step(dpkg-deb -x ${deb} ${WORK}/root)
step(${CMAKE_COMMAND} -S ${SOURCE}/recipes -B ${WORK}/recipes -G Ninja -D CMAKE_PREFIX_PATH=${WORK}/root/usr
  -D CMAKE_CXX_COMPILER=${CXX} -D EXAMPLES=${SOURCE}/../../examples -D TOOLS=${TOOLS})
step(${CMAKE_COMMAND} --build ${WORK}/recipes)
file(GLOB recipes ${WORK}/recipes/recipe_*)
list(LENGTH recipes count)
if(count LESS 8)
  message(FATAL_ERROR "only ${count} recipes were built")
endif()
foreach(recipe ${recipes})
  step(${recipe})
endforeach()
