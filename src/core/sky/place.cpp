// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/place.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

#include "base/error.h"
#include "base/instant.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::sky {
namespace {

/// Numbers and the letters N, S, E, W of a text, in order.
struct ZonePiece {
  double number = 0;
  char letter = 0;  // 0 for a number
  bool minus = false;
};

std::optional<std::vector<ZonePiece>> pieces_of(std::string_view text) {
  std::vector<ZonePiece> list;
  std::string clean;
  for (size_t i = 0; i < text.size(); ++i) {
    const auto c = static_cast<unsigned char>(text[i]);
    if (text.substr(i, 3) == "\u2212")
      clean += '-', i += 2;  // a true minus
    else
      clean += c >= 0x80 ? ' ' : static_cast<char>(c);  // degree and minute signs
  }
  for (size_t i = 0; i < clean.size();) {
    const char c = clean[i];
    const bool minus = c == '-' || c == '+';
    if (std::isdigit(static_cast<unsigned char>(c)) ||
        (minus && i + 1 < clean.size() && std::isdigit(static_cast<unsigned char>(clean[i + 1])))) {
      std::string_view rest = std::string_view(clean).substr(i);
      const auto v = take_decimal(rest);
      if (!v) return {};
      list.push_back({std::abs(*v), 0, c == '-'});
      i = clean.size() - rest.size();
    } else if (std::isalpha(static_cast<unsigned char>(c))) {
      size_t end = i;
      while (end < clean.size() && std::isalpha(static_cast<unsigned char>(clean[end]))) ++end;
      std::string word = clean.substr(i, end - i);
      for (char& w : word) w = static_cast<char>(std::toupper(static_cast<unsigned char>(w)));
      if (word == "N" || word == "S" || word == "E" || word == "W" || word == "NORTH" || word == "SOUTH" ||
          word == "EAST" || word == "WEST")
        list.push_back({0, word[0], false});
      else if (word != "LAT" && word != "LON" && word != "LONG" && word != "LATITUDE" &&
               word != "LONGITUDE" && word != "GEO" && word != "DEG")
        return {};
      i = end;
    } else if (std::string_view(" ,;:'\"/()\t=").find(c) != std::string_view::npos) {
      ++i;
    } else {
      return {};
    }
  }
  return list;
}

/// Degrees, minutes, seconds of one to three numbers.
std::optional<double> angle_of(const std::vector<ZonePiece>& numbers) {
  if (numbers.empty() || numbers.size() > 3) return {};
  double v = 0, unit = 1;
  for (size_t i = 0; i < numbers.size(); ++i, unit *= 60) {
    if (i > 0 && (numbers[i].number >= 60 || numbers[i].minus)) return {};
    if (i + 1 < numbers.size() && numbers[i].number != std::floor(numbers[i].number)) return {};
    v += numbers[i].number / unit;
  }
  return numbers.front().minus ? -v : v;
}

}  // namespace

std::vector<Place> demo_places() {
  return {{"Tern Quay", 56.1, -5.5, "Europe/London", 3},
          {"Gannet Head", 28.3, -16.6, "Atlantic/Canary", 210},
          {"The alum jar", 56.1, -5.5, "Europe/London", 8}};
}

void check_place(const Place& place) {
  if (!(std::abs(place.latitude_deg) <= 90))
    throw bad_input(say("Latitude {} is not between -90 and 90.", format_number(place.latitude_deg, 4)));
  if (!(std::abs(place.longitude_deg) <= 180))
    throw bad_input(say("Longitude {} is not between -180 and 180.", format_number(place.longitude_deg, 4)));
  wall_time(Instant{}, place.zone);
}

std::pair<double, double> parse_coordinates(std::string_view text) {
  const auto error = [&] {
    return bad_input(say("\"{}\" is not a place on the globe.", text),
                     say("Write it like 56.1, -5.5 or 56°06'00\"N 5°30'00\"W."));
  };
  const auto pieces = pieces_of(text);
  if (!pieces) throw error();
  std::optional<double> latitude, longitude;
  if (std::any_of(pieces->begin(), pieces->end(), [](const ZonePiece& p) { return p.letter != 0; })) {
    const bool before = pieces->front().letter != 0;  // N 56 or 56 N
    std::vector<ZonePiece> numbers;
    char letter = 0;
    const auto close = [&](char which) {
      const auto v = angle_of(numbers);
      if (!v) throw error();
      const double signed_v = which == 'S' || which == 'W' ? -*v : *v;
      auto& into = which == 'N' || which == 'S' ? latitude : longitude;
      if (into) throw error();
      into = signed_v;
      numbers.clear();
    };
    for (const ZonePiece& p : *pieces) {
      if (p.letter == 0)
        numbers.push_back(p);
      else if (!before)
        close(p.letter);
      else {
        if (letter) close(letter);
        letter = p.letter;
      }
    }
    if (before) close(letter);
    if (!numbers.empty()) throw error();
  } else if (const size_t n = pieces->size(); n == 2 || n == 4 || n == 6) {
    const auto half = pieces->begin() + static_cast<long>(n / 2);
    latitude = angle_of({pieces->begin(), half});
    longitude = angle_of({half, pieces->end()});
  }
  if (!latitude || !longitude || std::abs(*latitude) > 90 || std::abs(*longitude) > 180) throw error();
  return {*latitude, *longitude};
}

std::string format_coordinates(double latitude_deg, double longitude_deg) {
  return fmt::format("{:.4f}° {}, {:.4f}° {}", std::abs(latitude_deg), latitude_deg < 0 ? 'S' : 'N',
                     std::abs(longitude_deg), longitude_deg < 0 ? 'W' : 'E');
}

double sea_horizon_dip_deg(double height_m) {
  return 1.76 / 60 * std::sqrt(std::max(0.0, height_m));
}

}  // namespace askcount::sky
