// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/units.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <optional>
#include <vector>

#include "base/error.h"
#include "base/language.h"
#include "base/number.h"

namespace askcount {
namespace {

constexpr Seconds kLongestTime_s = 100.0 * 365.25 * 86400;

std::string trimmed(std::string_view text) {
  const auto blank = [](char c) { return std::isspace(static_cast<unsigned char>(c)) != 0; };
  while (!text.empty() && blank(text.front())) text.remove_prefix(1);
  while (!text.empty() && blank(text.back())) text.remove_suffix(1);
  std::string plain(text);
  for (const char* wide : {"\u00A0", "\u202F"})  // blanks that do not break a line
    for (size_t at = plain.find(wide); at != std::string::npos; at = plain.find(wide, at))
      plain.replace(at, std::string_view(wide).size(), " ");
  return plain;
}

void skip_blanks(std::string_view& text) {
  while (!text.empty() && text.front() == ' ') text.remove_prefix(1);
}

/// Whether a word is one of a list of words with blanks between them.
bool among(const std::string& word, const std::string& list) {
  return !word.empty() && (" " + list + " ").find(" " + word + " ") != std::string::npos;
}

/// The unit word at the front of `text` in seconds, consumed; nothing where it is not one. The English words
/// are known in every language.
std::optional<double> take_unit(std::string_view& text) {
  size_t used = 0;
  const auto letter = [](unsigned char c) { return std::isalpha(c) || c >= 0x80; };
  while (used < text.size() && letter(static_cast<unsigned char>(text[used]))) ++used;
  const std::string word = lowered(std::string(text.substr(0, used)));
  static constexpr std::pair<const char*, double> kUnits[] = {{to_say("ms"), 0.001},
                                                              {to_say("s sec secs second seconds"), 1},
                                                              {to_say("m min mins minute minutes"), 60},
                                                              {to_say("h hr hrs hour hours"), 3600},
                                                              {to_say("d day days"), 86400}};
  for (const auto& [words, seconds] : kUnits)
    if (among(word, words) || among(word, say(words))) {
      text.remove_prefix(used);
      return seconds;
    }
  return {};
}

/// Whole numbers as they are shown, their groups of three closed up: "1,200", "1.200" and "1 200" are 1200.
std::string ungrouped(const std::string& text) {
  std::string digits;
  int group = -1;  // digits since the last mark; none so far
  for (const char c : text) {
    if (c == ',' || c == '.' || c == ' ' || c == '\'') {
      if (digits.empty() || (group >= 0 && group != 3)) return text;
      group = 0;
    } else {
      digits += c;
      if (group >= 0) ++group;
    }
  }
  return group < 0 || group == 3 ? digits : text;
}

std::optional<double> clock_length(std::string_view text) {
  std::vector<double> parts;
  while (true) {
    const auto n = take_number(text);
    if (!n) return {};
    parts.push_back(*n);
    if (text.empty()) break;
    if (text.front() != ':') return {};
    text.remove_prefix(1);
  }
  if (parts.size() < 2 || parts.size() > 3) return {};
  for (size_t i = 1; i < parts.size(); ++i)
    if (parts[i] >= 60) return {};
  for (size_t i = 0; i + 1 < parts.size(); ++i)
    if (parts[i] != std::floor(parts[i])) return {};
  double total = 0;
  for (const double p : parts) total = total * 60 + p;
  return total;
}

std::optional<double> fraction(std::string_view text) {
  const auto above = take_number(text);
  skip_blanks(text);
  if (!above || text.empty() || text.front() != '/') return {};
  text.remove_prefix(1);
  skip_blanks(text);
  const auto below = take_number(text);
  skip_blanks(text);
  if (!below || *below <= 0) return {};
  if (!text.empty()) {
    const auto unit = take_unit(text);
    if (!unit || !text.empty()) return {};
    return *above / *below * *unit;
  }
  return *above / *below;
}

std::optional<double> worded_length(std::string_view text) {
  double total = 0;
  double last = 0;  // the unit before, in seconds
  while (!text.empty()) {
    const auto n = take_number(text);
    if (!n) return {};
    skip_blanks(text);
    auto unit = text.empty() ? std::optional<double>{} : take_unit(text);
    if (!unit) {
      if (!text.empty()) return {};
      if (last == 3600)
        unit = 60;
      else if (last == 0 || last == 60)
        unit = 1;
      else
        return {};
    }
    if (last != 0 && *unit >= last) return {};
    total += *n * *unit;
    last = *unit;
    skip_blanks(text);
  }
  if (last == 0) return {};
  return total;
}

}  // namespace

Seconds parse_length(std::string_view text, const Called& name) {
  const std::string clean = trimmed(text);
  std::optional<double> seconds;
  if (clean.find(':') != std::string::npos)
    seconds = clock_length(clean);
  else if (clean.find('/') != std::string::npos)
    seconds = fraction(clean);
  else
    seconds = worded_length(clean);
  if (!seconds)
    throw bad_value(name, say("\"{}\" is not a length of time.", text),
                    say("Write it like 90 s, 1h30, 2:30 or 1/125."));
  if (!(*seconds > 0)) throw bad_value(name, say("\"{}\" must be longer than zero.", text));
  if (*seconds > kLongestTime_s) throw bad_value(name, say("\"{}\" is longer than 100 years.", text));
  return *seconds;
}

double parse_positive(std::string_view text, const Called& name) {
  const std::string clean = trimmed(text);
  std::optional<double> value = fraction(clean);
  if (!value) {
    std::string_view rest = clean;
    value = take_number(rest);
    if (!rest.empty()) value.reset();
  }
  if (!value) throw bad_value(name, say("\"{}\" is not a number.", text), say("Write it like 0.5."));
  if (!(*value > 0) || !std::isfinite(*value)) throw bad_value(name, say("\"{}\" must be above zero.", text));
  return *value;
}

long long parse_count(std::string_view text, const Called& name) {
  const std::string clean = ungrouped(trimmed(text));
  long long n = 0;
  const auto [end, err] = std::from_chars(clean.data(), clean.data() + clean.size(), n);
  if (clean.empty() || err != std::errc{} || end != clean.data() + clean.size())
    throw bad_value(name, say("\"{}\" is not a whole number.", text), say("Write it like 250."));
  if (n <= 0) throw bad_value(name, say("\"{}\" must be at least 1.", text));
  return n;
}

std::optional<double> take_decimal(std::string_view& text) {
  std::string_view digits = text;
  if (digits.starts_with('+')) digits.remove_prefix(1);
  double value = 0;
  const auto [end, err] =
      std::from_chars(digits.data(), digits.data() + digits.size(), value, std::chars_format::fixed);
  if (err != std::errc{} || !std::isfinite(value)) return {};
  text = {end, static_cast<size_t>(digits.data() + digits.size() - end)};
  return value;
}

std::string plain_number(double value, int decimals) {
  std::string text = fmt::format("{:.{}f}", value, decimals);
  if (text.find('.') != std::string::npos) {
    text.erase(text.find_last_not_of('0') + 1);
    if (text.back() == '.') text.pop_back();
  }
  return text == "-0" ? "0" : text;
}

std::string format_number(double value, int decimals) {
  std::string text = plain_number(value, decimals);
  if (const size_t at = text.find('.'); at != std::string::npos) text.replace(at, 1, language().point);
  return text;
}

std::string format_count(long long count) {
  std::string digits = std::to_string(std::llabs(count));
  for (int i = static_cast<int>(digits.size()) - 3; i > 0; i -= 3)
    digits.insert(static_cast<size_t>(i), language().thousands);
  return count < 0 ? "-" + digits : digits;
}

std::string format_length(Seconds seconds, int decimals) {
  if (seconds < 0) return "-" + format_length(-seconds, decimals);
  if (seconds > 0 && seconds < 0.1) return format_number(seconds, std::max(decimals, 4)) + " s";
  const double scale = std::pow(10.0, decimals);
  if (std::round(seconds * scale) / scale < 60) return format_number(seconds, decimals) + " s";
  if (seconds >= 100 * 3600) {
    const long long hours = std::llround(seconds / 3600);
    return hours % 24 ? say("{} d {} h", hours / 24, hours % 24) : say("{} d", hours / 24);
  }
  const long long whole = std::llround(seconds);
  const long long h = whole / 3600, m = whole / 60 % 60, s = whole % 60;
  std::string text;
  const auto add = [&text](long long n, const char* unit) {
    if (!text.empty()) text += ' ';
    text += fmt::format("{} {}", n, unit);
  };
  if (h) add(h, "h");
  if (m) add(m, "min");
  if (s) add(s, "s");
  return text;
}

std::string format_shutter(Seconds seconds) {
  if (seconds <= 0) return "0 s";
  if (seconds >= 60) return format_length(seconds, 0);
  if (seconds >= 0.3) return format_number(seconds, seconds < 10 ? 1 : 0) + " s";
  return fmt::format("1/{} s", format_number(1 / seconds, 1 / seconds < 10 ? 1 : 0));
}

std::string format_trail(double trail) {
  if (std::abs(trail - 0.5) < 0.005) return say("half a step");
  if (std::abs(trail - 1) < 0.005) return say("a whole step");
  if (std::abs(trail - 0.25) < 0.002) return say("a quarter step");
  if (trail < 0.005) return say("under 0.01 of a step");
  return say("{} of a step", format_number(trail, trail < 0.1 ? 3 : 2));
}

std::string lowered(std::string text) {
  for (char& c : text)
    if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
  return text;
}

}  // namespace askcount
