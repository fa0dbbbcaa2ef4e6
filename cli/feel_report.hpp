#pragma once
// What is felt, for people and for programs.

#include "alpglow/feel/feel.hpp"

#include <nlohmann/json_fwd.hpp>

#include <string>

namespace alpglow::cli {

/// As a table cell: a dash where nothing was measured.
std::string shown(double value);
/// A line with its verdict; none where nothing was measured.
void printFelt(const feel::Feel& feel, io::Felt what, const io::Limits& limits, const std::string& help);
/// A line for each number.
void printFeel(const feel::Feel& feel, const io::Limits& limits);
/// Every pop: when, how much, and behind what.
void printPops(const feel::Feel& feel);
nlohmann::json asJson(const feel::Feel& feel, const io::Limits& limits);

/// The limits of a file; without a name none, and the usual verdicts.
io::Limits limitsOf(const std::string& path);
/// One line for each limit that is broken, one for those that nothing measures, and the exit code: 1 if any is broken,
/// or if none was measured.
int holdTo(const feel::Feel& feel, const io::Limits& limits, const std::string& path);

}  // namespace alpglow::cli
