// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/check.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <optional>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "image/tone.h"
#include "level/levelling.h"

namespace askcount::render {
namespace {

constexpr int kLookedAt = 320;       // pixels across
constexpr double kBlack = 1.0;       // mean code below which nothing is shown
constexpr double kRepeated = 0.004;  // mean difference of codes below which a frame is the one before

double difference(const image::Coded8& a, const image::Coded8& b) {
  long long sum = 0;
  for (size_t i = 0; i < a.rgb.size(); ++i) sum += std::abs(int{a.rgb[i]} - int{b.rgb[i]});
  return static_cast<double>(sum) / static_cast<double>(a.rgb.size());
}

std::string listed(const std::vector<long long>& frames) {
  std::string out;
  for (size_t n = 0; n < frames.size() && n < 6; ++n)
    out += fmt::format("{}{}", n > 0 ? ", " : "", frames[n] + 1);
  return frames.size() > 6 ? out + say(" and others") : out;
}

}  // namespace

FilmCheck check_film(const std::filesystem::path& film, const Work& work) {
  FilmCheck check;
  check.facts = media::read_film(film);
  check.bytes = std::filesystem::file_size(film);
  if (check.facts.codec == "webp") {
    check.decoded = check.facts.frames;
    return check;
  }
  media::FilmReader reader(film);
  const image::Size full = reader.size();
  const int wide = std::min(kLookedAt, full.width);
  const image::Size size{wide, std::max(3, full.height * wide / std::max(1, full.width))};
  std::array<std::vector<double>, 3> stops;
  std::vector<double> whole;
  std::optional<image::Coded8> before;
  const auto& linear = image::linear_of_code();
  while (auto picture = reader.next(size, work.stop)) {
    std::array<double, 3> light{};
    double codes = 0;
    for (int y = 0; y < size.height; ++y) {
      double row = 0;
      for (int x = 0; x < size.width; ++x) {
        const std::uint8_t* p = picture->row(y) + static_cast<std::ptrdiff_t>(3) * x;
        row += static_cast<double>(image::luminance(linear[p[0]], linear[p[1]], linear[p[2]]));
        codes += p[0] + p[1] + p[2];
      }
      light[static_cast<size_t>(3 * y / size.height)] += row;
    }
    codes /= 3.0 * size.width * size.height;
    const bool black = codes < kBlack;  // and no flicker: it is told apart
    if (black) check.black.push_back(check.decoded);
    if (before && difference(*before, *picture) < kRepeated) check.repeated.push_back(check.decoded);
    for (size_t third = 0; third < 3 && !black; ++third)
      stops[third].push_back(std::log2(std::max(1e-6, 3 * light[third] / (size.width * size.height))));
    if (!black)
      whole.push_back(
          std::log2(std::max(1e-6, (light[0] + light[1] + light[2]) / (size.width * size.height))));
    before = std::move(picture);
    ++check.decoded;
    work.report(static_cast<size_t>(check.decoded), static_cast<size_t>(check.facts.frames));
  }
  if (work.stop.stop_requested()) throw cancelled(say("The check was stopped; the film is written."));
  for (size_t third = 0; third < 3; ++third) check.flicker[third] = level::flicker(stops[third]);
  check.whole_flicker = level::flicker(whole);
  return check;
}

Findings judge(const FilmCheck& check, const FilmOrder& order, const std::vector<bool>& expected_still) {
  Findings list;
  const auto add = [&](const char* code, const std::string& title, const std::string& text) {
    list.push_back({code, Severity::Warning, title, text});
  };
  if (check.decoded != check.facts.frames)
    add("film_damaged", say("Not every frame can be decoded"),
        say("{} of {} come out. Make the film again, elsewhere if the disk is full.", check.decoded,
            format_count(check.facts.frames)));
  const double fps = order.fps.value();
  std::vector<long long> black = check.black;
  std::erase_if(black, [&](long long n) {
    return static_cast<double>(n) < order.fade_in_s * fps + 1 ||
           static_cast<double>(n) > static_cast<double>(check.decoded) - order.fade_out_s * fps - 2;
  });
  if (order.fade_in_s <= 0 && order.fade_out_s <= 0) black = check.black;
  if (!black.empty())
    add("film_black",
        say("{} black",
            black.size() == 1
                ? say("A frame is")
                : counted(static_cast<long long>(black.size()), "{} frame", "{} frames") + say(" are")),
        say("Of the film: {}. Look at the frames of the take there.", listed(black)));
  std::vector<long long> repeated = check.repeated;
  std::erase_if(repeated, [&](long long n) {
    const auto at = static_cast<size_t>(n);
    return (at < expected_still.size() && expected_still[at]) ||
           std::binary_search(check.black.begin(), check.black.end(), n);
  });
  if (!repeated.empty())
    add("film_repeats",
        say("{} the one before",
            repeated.size() == 1
                ? say("A frame repeats")
                : counted(static_cast<long long>(repeated.size()), "{} frame", "{} frames") + say(" repeat")),
        say("Of the film: {}. The take has the same picture twice there, or nothing moves in it.",
            listed(repeated)));
  if (!order.extras.sound.file.empty() && check.facts.sound_s + 0.1 < check.facts.duration_s)
    add("sound_short", say("The sound ends before the film"),
        say("It lasts {}, the film {}.", format_length(check.facts.sound_s),
            format_length(check.facts.duration_s)));
  return list;
}

}  // namespace askcount::render
