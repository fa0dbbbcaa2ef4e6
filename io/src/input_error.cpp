#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <limits>
#include <numeric>

namespace alpglow::io {

namespace {

std::string position(const std::string& file, int line, int column) {
  return column > 0 ? fmt::format("{}:{}:{}", file, line, column) : fmt::format("{}:{}", file, line);
}

constexpr std::size_t longestPath = 300, longestReason = 700;  // bytes, in messages

bool insideCharacter(char c) { return (static_cast<unsigned char>(c) & 0xC0) == 0x80; }

/// How many bytes of UTF-8 its first character has; 0 if it is none.
std::size_t bytesOfCharacter(std::string_view text) {
  const auto first = static_cast<unsigned char>(text[0]);
  if (first < 0x80) return 1;
  const std::size_t bytes = first < 0xC2 ? 0 : first < 0xE0 ? 2 : first < 0xF0 ? 3 : first < 0xF5 ? 4 : 0;
  if (bytes == 0 || text.size() < bytes) return 0;
  for (std::size_t i = 1; i < bytes; ++i) {
    if (!insideCharacter(text[i])) return 0;
  }
  const auto second = static_cast<unsigned char>(text[1]);
  const bool detour = (first == 0xE0 && second < 0xA0) || (first == 0xF0 && second < 0x90);
  const bool half = first == 0xED && second >= 0xA0, beyond = first == 0xF4 && second >= 0x90;
  return detour || half || beyond ? 0 : bytes;
}

/// Bytes that are no character, would move the cursor, or turn the direction of the text; 0 if the first is harmless.
std::size_t harmful(std::string_view text) {
  const auto byte = [text](std::size_t i) { return i < text.size() ? static_cast<unsigned char>(text[i]) : 0u; };
  if (bytesOfCharacter(text) == 0) return 1;
  if (byte(0) < 0x20 || byte(0) == 0x7F) return 1;
  if (byte(0) == 0xC2 && byte(1) >= 0x80 && byte(1) < 0xA0) return 2;  // the second set of control characters
  const bool turns = byte(0) == 0xE2 && ((byte(1) == 0x80 && byte(2) >= 0xA8 && byte(2) <= 0xAE) ||
                                         (byte(1) == 0x81 && byte(2) >= 0xA6 && byte(2) <= 0xA9));
  return turns ? 3 : 0;
}

std::string lower(std::string_view text) {
  std::string result(text);
  for (char& c : result) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  return result;
}

/// "ShiftLeft", "left-shift" and "shift_left" have the same two.
std::vector<std::string> partsOf(std::string_view name) {
  std::vector<std::string> parts;
  bool begins = true;
  for (const char c : name) {
    const auto letter = static_cast<unsigned char>(c);
    if (c == '-' || c == '_' || c == ' ') {
      begins = true;
      continue;
    }
    const bool number = std::isdigit(letter) != 0;
    if (begins || std::isupper(letter) != 0 ||
        (number && std::isdigit(static_cast<unsigned char>(parts.back().back())) == 0))
      parts.emplace_back();
    parts.back() += static_cast<char>(std::tolower(letter));
    begins = false;
  }
  return parts;
}

/// How far a word is from a name: by letters, but for what people write instead.
double slip(std::string_view word, const std::string& known) {
  if (lower(word) == lower(known)) return 0;
  std::vector<std::string> parts = partsOf(word), knownParts = partsOf(known);
  std::sort(parts.begin(), parts.end());
  const auto last = knownParts.empty() ? std::string() : knownParts.back();
  const bool kind =
      knownParts.size() == 2 && (knownParts[0] == "key" || knownParts[0] == "digit" || knownParts[0] == "arrow");
  std::sort(knownParts.begin(), knownParts.end());
  if (parts == knownParts) return 0.25;               // in another order
  if (lower(word) == last) return kind ? 0.5 : 0.75;  // without what kind it is
  return static_cast<double>(editDistance(lower(word), lower(known)));
}

}  // namespace

std::string plainText(std::string_view text, std::size_t most) {
  std::string plain;
  for (std::size_t i = 0; i < text.size();) {
    // Beyond twice the room only the end will be seen.
    if (plain.size() > 2 * most && text.size() - i > 2 * most) {
      i = text.size() - 2 * most;
      while (i < text.size() && insideCharacter(text[i])) ++i;
      plain.resize(2 * most);
    }
    const std::size_t bytes = harmful(text.substr(i));
    for (std::size_t k = 0; k < bytes; ++k) plain += fmt::format("\\x{:02x}", static_cast<unsigned char>(text[i + k]));
    const std::size_t shown = bytes == 0 ? bytesOfCharacter(text.substr(i)) : 0;
    plain += text.substr(i, shown);
    i += bytes + shown;
  }
  if (plain.size() <= most) return plain;
  std::size_t head = most * 2 / 3, tail = plain.size() - most / 3;
  while (head > 0 && insideCharacter(plain[head])) --head;
  while (tail < plain.size() && insideCharacter(plain[tail])) ++tail;
  return plain.substr(0, head) + "…" + plain.substr(tail);
}

InputError::InputError(const std::string& file, const std::string& what)
    : runtime_error(plainText(file, longestPath) + ": " + plainText(what, longestReason)),
      reason_(plainText(what, longestReason)) {}

InputError::InputError(const std::string& file, int line, int column, const std::string& what)
    : runtime_error(position(plainText(file, longestPath), line, column) + ": " + plainText(what, longestReason)),
      line_(line),
      reason_(plainText(what, longestReason)) {}

std::size_t editDistance(std::string_view a, std::string_view b) {
  std::vector<std::size_t> row(b.size() + 1);
  std::iota(row.begin(), row.end(), std::size_t{0});
  for (std::size_t i = 0; i < a.size(); ++i) {
    std::size_t diagonal = row[0];
    row[0] = i + 1;
    for (std::size_t j = 0; j < b.size(); ++j) {
      const std::size_t replaced = diagonal + (a[i] == b[j] ? 0 : 1);
      diagonal = row[j + 1];
      row[j + 1] = std::min({replaced, row[j] + 1, diagonal + 1});
    }
  }
  return row.back();
}

std::string nearestName(std::string_view word, const std::vector<std::string>& known) {
  constexpr std::size_t longest = 64;  // nobody mistypes more than that
  word = word.substr(0, longest);
  std::string best;
  double least = std::numeric_limits<double>::infinity();
  for (const std::string& name : known) {
    const double far = slip(word, name);
    if (far >= least) continue;
    least = far;
    best = name;
  }
  return best;
}

}  // namespace alpglow::io
