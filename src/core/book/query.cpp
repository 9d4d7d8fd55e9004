// SPDX-License-Identifier: GPL-3.0-or-later
// What is asked for in words.
#include <array>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "book/book.h"

namespace askcount::book {

Query query_of(const std::vector<std::string>& said) {
  static constexpr std::array kMonths = {"jan", "feb", "mar", "apr", "may", "jun",
                                         "jul", "aug", "sep", "oct", "nov", "dec"};
  Query q;
  for (const std::string& one : said) {
    const size_t at = one.find('=');
    const std::string key = at == std::string::npos ? "words" : lowered(one.substr(0, at));
    const std::string value = at == std::string::npos ? one : one.substr(at + 1);
    if (key == "subject") {
      q.subject = value;
    } else if (key == "place") {
      q.place = value;
    } else if (key == "verdict") {
      q.verdict = value == "none" ? Verdict::None : verdict_of(lowered(value));
    } else if (key == "words") {
      q.words += (q.words.empty() ? "" : " ") + value;
    } else if (key == "month") {
      const std::string word = lowered(value);
      for (size_t m = 0; m < kMonths.size(); ++m)
        if (word.size() >= 3 && word.starts_with(kMonths[m])) q.month = static_cast<int>(m) + 1;
      if (q.month == 0) q.month = static_cast<int>(std::min(99LL, parse_count(value, "month")));
      if (q.month > 12) throw bad_input(say("\"{}\" is not a month.", value), say("Use 1 to 12, or oct."));
    } else {
      throw bad_input(say("Takes cannot be searched by \"{}\".", key),
                      say("Search by subject, place, month, verdict or words."));
    }
  }
  return q;
}

}  // namespace askcount::book
