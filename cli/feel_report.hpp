#pragma once
// What is felt, for people and for programs.

#include "alpglow/feel/feel.hpp"

#include <nlohmann/json_fwd.hpp>

#include <string>

namespace alpglow::cli {

/// As a table cell: a dash where nothing was measured.
std::string shown(double value);
/// A line for each number that was measured, with its verdict.
void printFeel(const feel::Feel& feel, const io::Limits& limits);
nlohmann::json asJson(const feel::Feel& feel, const io::Limits& limits);

/// The limits of a file; without a name none, and the usual verdicts.
io::Limits limitsOf(const std::string& path);
/// One line for each limit that is broken, and the exit code: 1 if any is.
int holdTo(const feel::Feel& feel, const io::Limits& limits, const std::string& path);

}  // namespace alpglow::cli
