// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/number.h"

#include <charconv>
#include <string>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount {
namespace {

bool digit_at(std::string_view text, std::size_t at) {
  return at < text.size() && text[at] >= '0' && text[at] <= '9';
}

/// The width of a mark at `at` that may part groups: blanks that break no line are several bytes.
std::size_t mark_width(std::string_view text, std::size_t at) {
  for (const std::string_view mark : {"\u00A0", "\u202F", "\u2019"})
    if (text.substr(at).starts_with(mark)) return mark.size();
  return at < text.size() && std::string_view(" ',.").find(text[at]) != std::string_view::npos ? 1 : 0;
}

/// Whether exactly three digits stand at `at`.
bool group_at(std::string_view text, std::size_t at) {
  return digit_at(text, at) && digit_at(text, at + 1) && digit_at(text, at + 2) && !digit_at(text, at + 3);
}

/// Whether this mark parts groups here, of a number that begins with `first` digits.
bool groups(std::string_view text, std::size_t at, std::string_view mark, std::string_view first) {
  if (first.empty() || first.size() > 3 || first[0] == '0' || !group_at(text, at + mark.size())) return false;
  if ((mark != "," && mark != ".") || mark == language().thousands) return true;
  const std::size_t next = at + mark.size() + 3;  // twice, it is no decimal mark
  return text.substr(next).starts_with(mark) && group_at(text, next + mark.size());
}

}  // namespace

std::optional<double> take_number(std::string_view& text) {
  std::string digits;
  std::size_t used = 0;
  while (digit_at(text, used)) digits += text[used++];
  const std::string_view mark = text.substr(used, mark_width(text, used));
  if (!mark.empty() && groups(text, used, mark, digits))
    while (text.substr(used).starts_with(mark) && group_at(text, used + mark.size())) {
      digits += text.substr(used + mark.size(), 3);
      used += mark.size() + 3;
    }
  if (used < text.size() && (text[used] == '.' || text[used] == ',')) {
    digits += '.';
    for (++used; digit_at(text, used); ++used) digits += text[used];
  }
  double value = 0;
  const auto [end, err] = std::from_chars(digits.data(), digits.data() + digits.size(), value);
  if (digits.empty() || err != std::errc{} || end != digits.data() + digits.size()) return {};
  text.remove_prefix(used);
  return value;
}

double parse_number(std::string_view text, double low, double high, std::string_view name) {
  const std::size_t first = text.find_first_of("0123456789");
  std::optional<double> value;
  if (first != std::string_view::npos) {
    const std::string_view before = text.substr(0, first);
    std::string_view rest = text.substr(first);
    value = take_number(rest);
    if (value && (before.ends_with('-') || before.ends_with("\u2212"))) value = -*value;
    if (rest.find_first_of("0123456789") != std::string_view::npos) value.reset();  // of two, which?
  }
  if (!value || !(*value >= low && *value <= high))
    throw bad_input(
        say("For {}, write a number from {} to {}.", name, format_number(low, 2), format_number(high, 1)));
  return *value;
}

}  // namespace askcount
