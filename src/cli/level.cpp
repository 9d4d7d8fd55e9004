// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include <memory>

#include "advice/by_stage.h"
#include "base/language.h"
#include "base/units.h"
#include "book/learn.h"
#include "filing.h"
#include "films/film.h"
#include "gathering.h"
#include "level/brightness.h"
#include "look/anchors.h"
#include "media/film_frames.h"
#include "optics/mended_source.h"
#include "progress_line.h"
#include "stop.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct LevelOptions : GatheringAsked {
  image::Size shape;  ///< {} for the whole frame
  bool thumbnails = false;
};

Answer level_verb(const LevelOptions& asked) {
  const Gathering gathering = gathering_of(asked);
  const ingest::Gathered g = gather_shown(gathering.ask);
  const take::Take take = gathering.take.value_or(take::Take{});
  ProgressLine line("Measuring");
  const auto luminances =
      level::measure(g.frames, *films::source_of(take, gathering.folder, g.frames), asked.shape,
                     asked.thumbnails ? level::MeasuredFrom::Thumbnails : level::MeasuredFrom::Frames,
                     {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
  const level::Evenness e =
      level::even_out(g.frames, luminances, films::smoothing_of(take), {{}, stop_token()});
  advice::Known known;
  known.frames.gathered = &g;
  known.evenness = &e;
  known.lens = optics::LensRecords::installed().find(optics::shot_of(g.frames), take.optics.lens);
  const Findings findings = advice::findings_on(advice::Stage::Level, take, known);
  if (gathering.take)
    file_take(take, asked.take, [&](book::Entry& entry) {
      book::learn(entry, take, g);
      book::learn(entry, e);
    });
  const auto zones = [](const std::array<double, 3>& z) {
    return Json::array({rounded(z[0], 4), rounded(z[1], 4), rounded(z[2], 4)});
  };
  const auto numbers = [](const std::vector<size_t>& frames) {
    Json list = Json::array();
    for (const size_t n : frames) list.push_back(n + 1);
    return list;
  };
  Json corrections = Json::array(), clicks = Json::array();
  for (size_t n = 0; n < e.frames.size(); ++n)
    corrections.push_back({{"frame", n + 1},
                           {"file", media::name_of((*g.frames)[n].file())},
                           {"as_shot_stops", rounded(e.frames[n].as_shot, 4)},
                           {"correction_stops", rounded(e.frames[n].correction(), 4)},
                           {"red_stops", rounded(e.frames[n].red, 4)},
                           {"blue_stops", rounded(e.frames[n].blue, 4)},
                           {"after_stops", rounded(e.after[n], 4)}});
  for (const level::Click& c : e.clicks)
    clicks.push_back({{"frame", c.frame + 1},
                      {"recorded_stops", rounded(c.recorded, 3)},
                      {"measured_stops", rounded(c.measured, 3)}});
  Json kept = Json::array();
  for (const level::Change& c : e.kept)
    kept.push_back(
        {{"frame", c.frame + 1}, {"stops", rounded(c.stops, 3)}, {"flash", c.flash}, {"frames", c.frames}});
  Answer answer;
  answer.json = {{"frames", e.frames.size()},
                 {"flicker_before", rounded(e.most_before(), 4)},
                 {"flicker_after", rounded(e.most_after(), 4)},
                 {"whole_before", rounded(e.flicker_before, 4)},
                 {"whole_after", rounded(e.flicker_after, 4)},
                 {"colour_before", rounded(e.colour_before, 4)},
                 {"colour_after", rounded(e.colour_after, 4)},
                 {"part_before", rounded(e.part_before, 4)},
                 {"part_after", rounded(e.part_after, 4)},
                 {"set_aside", numbers(e.set_aside)},
                 {"zones_before", zones(e.zones_before)},
                 {"zones_after", zones(e.zones_after)},
                 {"clicks", clicks},
                 {"late_clicks", numbers(e.late_clicks)},
                 {"kept_changes", kept},
                 {"clipped", numbers(e.held)},
                 {"anchors", look::to_json(take.look.anchors)},
                 {"suggested_anchors", numbers(films::suggested_anchors(e))},
                 {"corrections", corrections},
                 {"findings", to_json(findings)}};
  answer.words = fmt::format("{}: flicker {} stops before, {} after, where it is most.\n",
                             counted(static_cast<long long>(e.frames.size()), "{} frame", "{} frames"),
                             level::flicker_words(e.most_before()), level::flicker_words(e.most_after())) +
                 words_of(findings);
  return answer;
}

}  // namespace

void add_level(Command& app, Chosen& chosen) {
  const Verb verb =
      add_verb(app, chosen, "level", "Measure brightness, join the clicks and find the flicker");
  const auto asked = std::make_shared<LevelOptions>();
  verb.add_option("folder", asked->folders, "The cards or folders, or a video").required();
  verb.add_option("--take", asked->take,
                  "The take they were shot for: its plan chooses, and what you decided in it is applied");
  add_every(verb, asked->every);
  add_brackets(verb, asked->brackets);
  add_size(verb, "--size", asked->shape, "Measure only the part this film size shows (1920x1080)");
  verb.add_flag("--thumbnails", asked->thumbnails, "A first curve from embedded thumbnails, quickly");
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return level_verb(*asked); };
  });
}

}  // namespace askcount::cli
