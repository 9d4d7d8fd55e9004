// SPDX-License-Identifier: GPL-3.0-or-later
// askcount lens: what lens and sensor did to a take's frames, and how it is undone.
#include <fmt/format.h>

#include <memory>

#include "advice/by_stage.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "gathering.h"
#include "optics/find.h"
#include "optics/mended_source.h"
#include "progress_line.h"
#include "stop.h"
#include "take/edit.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct LensOptions {
  std::string take;
  std::vector<std::string> folders;
  std::optional<optics::By> by;
  std::optional<std::string> lens, dark_frame;
  std::optional<double> distortion, dark, vignetting, turn;
  bool find = false, clear = false;

  bool changes() const {
    return by || lens || dark_frame || distortion || dark || vignetting || turn || find || clear;
  }
};

/// The take's frames: of the folders named, or of its own cards; null where there are none.
media::Frames frames_of(const LensOptions& asked, const take::Take& take) {
  GatheringAsked g;
  g.take = asked.take;
  g.folders = asked.folders;
  const auto folder = std::filesystem::path(asked.take).parent_path();
  if (g.folders.empty() && !take.card.empty()) {
    g.folders.push_back((folder / take.card).string());
    for (const std::string& more : take.gather.more_cards) g.folders.push_back((folder / more).string());
  }
  if (g.folders.empty()) return {};
  return gather_shown(gathering_of(g).ask).frames;
}

optics::Found find(const media::Frames& frames) {
  if (!frames) throw bad_input("There are no frames to look at.", "Name their folder after the take.");
  ProgressLine line("Looking for dust");
  const Work work = {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()};
  return optics::find(frames, work);
}

void change_optics(optics::Wish& wish, const LensOptions& asked, const std::optional<optics::Found>& found) {
  if (asked.distortion) wish.distortion_pct = *asked.distortion;
  if (asked.dark) wish.dark_stops = *asked.dark;
  if (asked.distortion || asked.dark) wish.by = optics::By::Hand;
  if (asked.lens) {
    wish.lens = *asked.lens == "own" ? "" : *asked.lens;
    wish.by = optics::By::Record;
  }
  if (asked.by) wish.by = *asked.by;
  if (asked.vignetting) wish.vignetting_stops = *asked.vignetting;
  if (asked.turn) wish.turn_deg = *asked.turn;
  if (asked.dark_frame) {
    if (*asked.dark_frame != "none") media::read_dark_frame(*asked.dark_frame);  // refused here
    const auto folder = std::filesystem::absolute(asked.take).parent_path();
    wish.dark_frame = *asked.dark_frame == "none"
                          ? ""
                          : std::filesystem::absolute(*asked.dark_frame).lexically_proximate(folder).string();
  }
  if (asked.clear) optics::forget(wish);
  if (found) optics::put(wish, *found);
}

Answer lens_verb(const LensOptions& asked) {
  take::Take take = take::load_take(asked.take);
  const media::Frames frames = frames_of(asked, take);
  std::optional<optics::Found> looked;  // takes long: the take may be changed by others meanwhile
  if (asked.find) looked = find(frames);
  std::optional<take::Edited> edited;
  if (asked.changes()) take = edited.emplace(asked.take).take;
  change_optics(take.optics, asked, looked);
  const auto folder = std::filesystem::path(asked.take).parent_path();
  std::optional<optics::LensRecord> known;
  const media::ShotInfo shot = optics::shot_of(frames);
  if (frames && !frames->empty()) {
    known = optics::LensRecords::installed().find(shot, take.optics.lens);
    optics::mending_of(take.optics, shot, folder);  // refused before anything is written
  }
  if (edited) {
    edited->take = take;
    edited->save();
    edited.reset();
  }
  Json spots = Json::array(), hot = Json::array();
  for (const optics::Spot& s : take.optics.spots)
    spots.push_back({{"x", rounded(s.x, 5)}, {"y", rounded(s.y, 5)}, {"radius", rounded(s.radius, 5)}});
  for (const media::SensorPlace& p : take.optics.hot) hot.push_back({p.x, p.y});
  static constexpr const char* kBy[] = {"nothing", "record", "hand"};
  ingest::Gathered found;
  found.frames = frames;
  advice::Known facts;
  facts.frames.gathered = &found;
  facts.lens = known;
  facts.lens_looked_up = true;
  const Findings findings = advice::findings_on(advice::Stage::Level, take, facts);
  Answer answer;
  answer.json = {{"take", asked.take},
                 {"by", kBy[static_cast<size_t>(take.optics.by)]},
                 {"lens", shot.lens},
                 {"distortion_pct", take.optics.distortion_pct},
                 {"dark_stops", take.optics.dark_stops},
                 {"vignetting_stops", take.optics.vignetting_stops},
                 {"turn_deg", take.optics.turn_deg},
                 {"looked", take.optics.looked},
                 {"spots", spots},
                 {"hot", hot},
                 {"dark_frame", take.optics.dark_frame},
                 {"record", nullptr},
                 {"findings", to_json(findings)}};
  if (known)
    answer.json["record"] = {{"name", known->name},
                             {"distortion_pct", rounded(known->distortion_pct, 2)},
                             {"dark_stops", rounded(known->dark_stops, 2)},
                             {"fringe_pct", rounded(known->fringe_pct, 3)}};
  if (!known && frames) {
    answer.words = shot.lens.empty() ? "The frames do not record their lens.\n"
                                     : fmt::format("There is no profile for the lens \"{}\".\n", shot.lens);
    const auto like = optics::LensRecords::installed().like(
        take.optics.lens.empty() ? shot.lens : take.optics.lens, optics::LensRecords::Alike::Loosely);
    answer.json["like"] = like;
  }
  answer.words += words_of(findings);
  if (take.optics.looked)
    answer.words +=
        fmt::format("{} and {} found.\n",
                    counted(static_cast<long long>(take.optics.spots.size()), "{} spot", "{} spots"),
                    counted(static_cast<long long>(take.optics.hot.size()), "{} hot pixel", "{} hot pixels"));
  if (answer.words.empty()) answer.words = "Nothing is corrected.\n";
  return answer;
}

}  // namespace

void add_lens(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "lens", "Correct what lens and sensor did to every frame");
  const auto asked = std::make_shared<LensOptions>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  verb.add_option("folder", asked->folders, "The frames' cards or folders, if the take does not name them");
  using optics::By;
  verb.add_option("--lens", asked->lens,
                  "Correct by this lens's profile; own for the lens the frames record");
  verb.add_option("--distortion", asked->distortion,
                  "By hand: how much too far out a corner lies, in percent; below 0 for a barrel")
      .between(-optics::kMostDistortion_pct, optics::kMostDistortion_pct);
  verb.add_option("--dark-corners", asked->dark, "By hand: how much darker a corner is, in stops")
      .between(0.0, optics::kMostDark_stops);
  verb.add_heard(
          "--by",
          [asked](const std::vector<std::string>& said) {
            asked->by = said.front() == "record" ? By::Record
                        : said.front() == "hand" ? By::Hand
                                                 : By::Nothing;
          },
          "How the lens is corrected: nothing, record (its profile) or hand")
      .one_of({"nothing", "record", "hand"});
  verb.add_option("--corners", asked->vignetting, "Add vignetting of this many stops")
      .between(0.0, optics::kMostDark_stops);
  verb.add_option("--turn", asked->turn, "Degrees to turn clockwise: a level horizon")
      .between(-optics::kMostTurn_deg, optics::kMostTurn_deg);
  verb.add_flag("--find", asked->find, "Look for dust and hot pixels over the take");
  verb.add_flag("--clear", asked->clear, "Forget the dust and hot pixels that were found");
  verb.add_option("--dark-frame", asked->dark_frame,
                  "A raw file shot with the cap on, or a folder of some; none for none");
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return lens_verb(*asked); };
  });
}

}  // namespace askcount::cli
