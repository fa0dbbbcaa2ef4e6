# Fails if a program has a symbol: cmake -D PROGRAM=… -D SYMBOL=… -P links_without.cmake
execute_process(COMMAND nm -C ${PROGRAM} OUTPUT_VARIABLE symbols RESULT_VARIABLE code)
if(NOT code EQUAL 0 OR NOT symbols MATCHES "alpglow::")
  message(FATAL_ERROR "nm says nothing of ${PROGRAM}")
endif()
if(symbols MATCHES "${SYMBOL}[^\n]*")
  message(FATAL_ERROR "${PROGRAM} holds ${CMAKE_MATCH_0}")
endif()
