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
step(${CMAKE_COMMAND} -E env PKG_CONFIG_PATH=${where} sh -c
  "${CXX} -std=c++17 ${SOURCE}/main.cpp $(pkg-config --cflags --libs alpglow) -Wl,-rpath,${libraries} -o ${WORK}/by_pkg_config")
step(${WORK}/by_pkg_config)

# Every recipe, from the Debian package.
step(${CMAKE_CPACK_COMMAND} -G DEB --config ${BUILD}/CPackConfig.cmake -B ${WORK}/deb)
file(GLOB deb ${WORK}/deb/*.deb)
step(dpkg-deb -x ${deb} ${WORK}/root)
step(${CMAKE_COMMAND} -S ${SOURCE}/recipes -B ${WORK}/recipes -G Ninja -D CMAKE_PREFIX_PATH=${WORK}/root/usr
  -D CMAKE_CXX_COMPILER=${CXX} -D CMAKE_BUILD_TYPE=Release -D EXAMPLES=${SOURCE}/../../examples -D TOOLS=${TOOLS})
step(${CMAKE_COMMAND} --build ${WORK}/recipes)
file(GLOB recipes ${WORK}/recipes/recipe_*)
list(LENGTH recipes count)
if(count LESS 8)
  message(FATAL_ERROR "only ${count} recipes were built")
endif()
foreach(recipe ${recipes})
  step(${recipe})
endforeach()
