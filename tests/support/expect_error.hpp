#pragma once

#include "alpglow/io/input_error.hpp"

#include <gtest/gtest.h>

#include <string>

namespace alpglow::testing {

/// The action must throw an InputError whose one line holds all of these words.
template <class Action>
void expectError(Action&& action, std::initializer_list<const char*> words) {
  try {
    action();
    ADD_FAILURE() << "nothing was thrown";
  } catch (const io::InputError& error) {
    const std::string line = error.what();
    EXPECT_EQ(line.find('\n'), std::string::npos) << line;
    for (const char* word : words) EXPECT_NE(line.find(word), std::string::npos) << "\"" << word << "\" in: " << line;
  }
}

}  // namespace alpglow::testing
