// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/said_dials.h"

#include <regex>
#include <string>

#include "base/error.h"
#include "base/language.h"
#include "base/number.h"

namespace askcount::plan {

SaidDials parse_dials(std::string_view text) {
  static const std::regex kOne(R"(\s*(f|iso)\s*/?\s*([0-9][0-9.,]*[0-9]|[0-9])\s*,?)", std::regex::icase);
  SaidDials dials;
  const std::string all(text);
  auto from = all.cbegin();
  for (std::smatch m; from != all.cend() &&
                      std::regex_search(from, all.cend(), m, kOne, std::regex_constants::match_continuous);
       from = m[0].second) {
    const bool aperture = m[1].str() == "f" || m[1].str() == "F";
    if (aperture)
      dials.f_number = parse_number(m[2].str(), 0.5, 128, say("the aperture"));
    else
      dials.iso = parse_number(m[2].str(), 1, 1e7, "ISO");
  }
  if (from != all.cend() || (!dials.f_number && !dials.iso))
    throw bad_input(say("\"{}\" is no aperture and no ISO.", all), say("Write it like f/4, ISO 800."));
  return dials;
}

}  // namespace askcount::plan
