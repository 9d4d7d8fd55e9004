// SPDX-License-Identifier: GPL-3.0-or-later
#include "motion/motion.h"

#include <fmt/format.h>

#include <memory>

#include "base/units.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct MotionOptions {
  std::string first, second, seconds;
};

Answer motion_verb(const MotionOptions& asked) {
  std::optional<double> seconds;
  if (!asked.seconds.empty()) seconds = parse_length(asked.seconds, "--seconds");
  const motion::Motion m = motion::motion_between(asked.first, asked.second, seconds);
  Answer answer;
  answer.json = {{"seconds", rounded(m.seconds, 3)},
                 {"px_per_s", rounded(m.px_per_s, 3)},
                 {"frame_widths_per_s", rounded(m.frame_widths_per_s, 7)},
                 {"direction_deg", rounded(m.direction_deg, 1)},
                 {"crossing_s", rounded(m.crossing_s, 2)},
                 {"moving_share", rounded(m.moving_share, 4)}};
  answer.words =
      fmt::format("It moves {} pixels a second and crosses the frame in {}.\n",
                  format_number(m.px_per_s, m.px_per_s < 10 ? 1 : 0), format_length(m.crossing_s, 1));
  return answer;
}

}  // namespace

void add_motion(Command& app, Chosen& chosen) {
  const Verb verb =
      add_verb(app, chosen, "motion", "Measure how fast the subject moves between two test pictures");
  const auto asked = std::make_shared<MotionOptions>();
  verb.add_option("first", asked->first, "The earlier picture").required();
  verb.add_option("second", asked->second, "The later picture").required();
  verb.add_option("--seconds", asked->seconds, "Time between them, if their metadata does not say");
  verb.callback([&chosen, asked] { chosen.run = [asked] { return motion_verb(*asked); }; });
}

}  // namespace askcount::cli
