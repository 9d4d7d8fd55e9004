#include "advice/next_change.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>

#include "base/units.h"
#include "orders/light.h"
#include "orders/shoot.h"

namespace askcount::advice {
namespace {

const char* turning_word(const ramp::Click& click) {
  switch (click.dial) {
    case ramp::Dial::Aperture:
      return click.brighter ? "wider" : "smaller";
    case ramp::Dial::Shutter:
      return click.brighter ? "slower" : "faster";
    case ramp::Dial::Iso:
      break;
  }
  return click.brighter ? "higher" : "lower";
}

std::string turn_words(const ramp::RampStep& step) {
  std::string words = fmt::format("{} one click {}, {} to {}", ramp::dial_word(step.click.dial),
                                  turning_word(step.click), ramp::dial_words(step.click.dial, step.before),
                                  ramp::dial_words(step.click.dial, step.after));
  words[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(words[0])));
  return words;
}

}  // namespace

NextChange next_change(const take::Take& take, const ramp::Ramp* ramp, const journal::ShootState& state,
                       long long frame) {
  using ramp::School;
  if (take.light.school == School::Fixed)
    return {"Keep your hands off", "The exposure is fixed for the whole take.", {}, 0};
  if (take.light.school == School::AperturePriority)
    return {"Watch the shutter", "Aperture priority: it must not outgrow the interval.", {}, 0};
  if (!ramp || ramp->steps.empty()) return {"Nothing to turn", "The light stays within the band.", {}, 0};
  const auto due = journal::due_clicks(*ramp, state, frame, orders::rule_of(take));
  if (due.empty()) return {"No change is left", "The rest of the take keeps these dials.", {}, 0};
  NextChange next;
  next.due = due.front();
  next.what = turn_words(ramp->steps[static_cast<size_t>(next.due->click)]);
  next.in_s = static_cast<double>(next.due->frame - std::max(0LL, frame)) *
              (state.active ? state.interval_s : take.sums().interval_s);
  next.why = fmt::format("After frame {}", format_count(next.due->frame));
  if (next.due->late > 0) next.why += fmt::format(", {} late", counted(next.due->late, "frame"));
  const bool by_clock = state.active && (!state.standin || state.scale > 0);
  if (by_clock && next.in_s > 0) next.why += fmt::format(", in {}", format_length(std::round(next.in_s)));
  next.why += ".";
  if (state.active && state.standin && state.scale <= 0)
    next.why += " The stand-in's own hand follows the light.";
  return next;
}

std::vector<std::string> log_lines(const journal::ShootState& state, const ramp::Ramp* ramp,
                                   const std::string& zone, size_t most) {
  struct Line {
    long long frame;
    std::string text;
  };
  std::vector<Line> lines;
  for (const journal::ShootState::Change& c : state.changes) {
    if (!ramp || c.click < 0 || c.click >= static_cast<long long>(ramp->steps.size())) continue;
    const long long late = c.frame - c.planned;
    const std::string how = c.skipped   ? "skipped"
                            : late == 0 ? "on time"
                            : late > 0  ? counted(late, "frame") + " late"
                                        : counted(-late, "frame") + " early";
    lines.push_back({c.frame, fmt::format("{}   frame {}   {}   {}", format_clock(c.at, zone, true),
                                          format_count(c.frame),
                                          ramp::step_words(ramp->steps[static_cast<size_t>(c.click)]), how)});
  }
  for (const journal::ShootState::Note& n : state.notes)
    lines.push_back({n.frame, fmt::format("{}frame {}   {}", n.fault.empty() ? "" : "✕ ",
                                          format_count(n.frame + 1), n.words)});
  std::stable_sort(lines.begin(), lines.end(),
                   [](const Line& a, const Line& b) { return a.frame > b.frame; });
  std::vector<std::string> texts;
  for (size_t i = 0; i < std::min(most, lines.size()); ++i) texts.push_back(std::move(lines[i].text));
  return texts;
}

}  // namespace askcount::advice
