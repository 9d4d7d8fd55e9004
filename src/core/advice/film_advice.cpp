// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/film_advice.h"

#include <fmt/format.h>

#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "films/film.h"
#include "render/plan.h"
#include "render/render.h"

namespace askcount::advice {
namespace {

std::string codec_words(const media::FilmFacts& made) {
  for (const media::CodecFacts& f : media::codecs())
    if (made.codec == f.ffmpeg) return f.words;
  return made.codec;
}

void add_made(Findings& list, const take::Take& take, const take::FilmWish& wish,
              const media::FilmFacts& made, size_t frames) {
  list.push_back({"film_checked", Severity::Ok, say("Checked after writing"),
                  say("{} in {} at {}, {} × {}, {}.", counted(made.frames, "{} frame", "{} frames"),
                      format_length(made.duration_s), frame_rate_words(made.fps), made.size.width,
                      made.size.height, codec_words(made))});
  const auto rate = films::rate_of(take, wish);
  const bool differs = take.solution().complete() && rate && !(made.fps == *rate);
  const bool other_length = frames > 0 && made.frames != static_cast<long long>(frames);
  const bool other_codec = made.codec != media::facts_of(wish.coding.codec).ffmpeg;
  if (!(made.size == wish.size) || differs || other_length || other_codec)
    list.push_back({"film_outdated", Severity::Warning, say("Made with other settings"),
                    say("Make the clip again to have it as the sentence says.")});
}

void add_crop(Findings& list, image::Size frame, image::Size film) {
  const image::RectF part = render::film_part(frame, film);
  list.push_back({"crop", Severity::Ok, say("Cropped, not squashed"),
                  say("The film shows the middle {} % of the frame.",
                      format_number(100 * part.width * part.height, 0))});
  const auto across = static_cast<int>(std::lround(part.width * frame.width));
  if (across < film.width)
    list.push_back({"enlarged", Severity::Warning, say("The film is larger than the frame"),
                    say("The frame has {} pixels across for {}. It will look soft.", across, film.width)});
}

}  // namespace

Findings film_advice(const take::Take& take, const take::FilmWish& wish,
                     const std::optional<media::FilmFacts>& made, long long stood_in, image::Size frame,
                     size_t frames) {
  Findings list;
  if (made) add_made(list, take, wish, *made, frames);
  if (made && stood_in > 0 && made->frames > 0)
    list.push_back(
        {"neighbours_stand_in", Severity::Warning,
         say("Neighbours stand in for {}", counted(stood_in, "{} frame", "{} frames")),
         say("They cannot be read: {} % of the film. No more than {} % may be made so.",
             format_number(100.0 * static_cast<double>(stood_in) / static_cast<double>(made->frames), 1),
             format_number(100 * render::kMostStandIns, 0))});
  if (frame.width > 0 && wish.views.empty()) add_crop(list, frame, wish.size);
  if (!wish.views.empty())
    if (const auto soft = soft_view(wish.views, wish.size, frame)) list.push_back(*soft);
  const auto rate = films::rate_of(take, wish);
  const auto other = rate ? other_rate(take, *rate, static_cast<long long>(frames)) : std::nullopt;
  if (other)
    list.push_back(*other);
  else if (take.solution().complete())
    list.push_back({"fps_of_plan", Severity::Ok, say("The plan's frame rate"),
                    say("The film runs at the rate the frames were counted for.")});
  sort_by_severity(list);
  return list;
}

Findings outcome_advice(const render::FilmOutcome& outcome, image::Size film, image::Size frame) {
  Findings list;
  if (outcome.steadied && frame.width > 0) {
    const double scale = static_cast<double>(film.width) / frame.width;  // at the whole width
    const auto pixels = [scale](double of_frame) { return format_number(of_frame * scale, 2); };
    const double edge = 100 * outcome.steadied->edge;
    const std::string cost = edge < 0.05 ? say("Nothing is cropped for it.")
                                         : say("It crops {} % at the edges.", format_number(edge, 1));
    const bool wide = edge > 15;
    list.push_back({"steadied", wide ? Severity::Warning : Severity::Ok,
                    wide ? say("Steadying crops much of the frame") : say("Steadied"),
                    say("{} px from frame to frame before, {} after. {}{}",
                        pixels(outcome.steadied->jitter_before), pixels(outcome.steadied->jitter_after), cost,
                        wide ? say(" Choose the frames before or after the knock, or take out less.") : "")});
  }
  if (!outcome.set_aside.empty())
    list.push_back(
        {"frames_set_aside", Severity::Warning,
         counted(static_cast<long long>(outcome.set_aside.size()),
                 "{} frame is far darker than those beside it",
                 "{} frames are far darker than those beside them"),
         say("The first is {}. The levelling of the others goes by without them. On Gather leave them "
             "out, or let their neighbours stand in.",
             outcome.set_aside.front())});
  if (outcome.made > 0)
    list.push_back({"frames_made", Severity::Ok,
                    say("{} made from neighbours",
                        counted(static_cast<long long>(outcome.made), "{} frame", "{} frames")),
                    say("They were not shot: between frames, or in the place of some that cannot be read.")});
  return list;
}

std::optional<Finding> other_rate(const take::Take& take, FrameRate fps, long long frames) {
  const auto planned = films::film_rate(take);
  if (!planned || *planned == fps) return {};
  const auto count = static_cast<double>(frames);
  return Finding{"other_rate", Severity::Warning, say("Not the planned frame rate"),
                 say("The frames were counted for {}: {} would last {} there and last {} here. Everything "
                     "moves {} times as fast on the screen as was planned.",
                     frame_rate_words(*planned), counted(frames, "{} frame", "{} frames"),
                     format_length(count / planned->value()), format_length(count / fps.value()),
                     format_number(fps.value() / planned->value(), 2))};
}

std::optional<Finding> soft_view(const std::vector<render::ViewAnchor>& views, image::Size film,
                                 image::Size frame) {
  if (frame.width <= 0) return {};
  double least = views.empty() ? render::density(render::whole_view(frame, film), frame, film) : 1e9;
  double at = 0;
  for (const render::ViewAnchor& a : views)
    if (const double d = render::density(a.view, frame, film); d < least) least = d, at = a.at_s;
  if (least >= 0.995) return {};
  return Finding{"view_soft", Severity::Warning, say("The view has fewer pixels than the film"),
                 say("{}{} across for {}. It will look a little soft.",
                     views.empty() ? "" : say("At {} s: ", format_number(at, 2)),
                     counted(std::lround(least * film.width), "{} pixel", "{} pixels"), film.width)};
}

std::optional<Finding> missing_made(const render::Timeline& timeline) {
  const size_t many = timeline.many_missing();
  if (many == 0) return {};
  std::vector<std::string> after;
  size_t last = 0;
  for (size_t n = 0; n < timeline.frames(); ++n) {
    if (!timeline.missing(n)) continue;
    const size_t frame = static_cast<size_t>(timeline.take_place(n)) + 1;
    if (frame != last && after.size() < 4) after.push_back(fmt::format("{}", frame));
    last = frame;
  }
  return Finding{"missing_made", Severity::Ok,
                 say("{} made from neighbours",
                     counted(static_cast<long long>(many), "{} missing frame", "{} missing frames")),
                 say("After frame {}.", fmt::join(after, ", "))};
}

}  // namespace askcount::advice
