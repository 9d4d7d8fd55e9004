// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/gather.h"

#include <fmt/format.h>

#include <chrono>
#include <map>
#include <memory>

#include "advice/by_stage.h"
#include "advice/gather_advice.h"
#include "base/csv.h"
#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "book/learn.h"
#include "filing.h"
#include "forecast/forecast.h"
#include "forecast/gather.h"
#include "gathering.h"
#include "inspect/faults.h"
#include "inspect/look.h"
#include "inspect/store.h"
#include "media/film_frames.h"
#include "media/kind.h"
#include "progress_line.h"
#include "stop.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct GatherOptions : GatheringAsked {
  std::vector<std::string> keep, leave_out;
  std::string csv;
  std::optional<int> choose;
  std::string join;
  std::optional<double> clock_s;
  bool list_only = false, force = false;
};

/// A file as it lies below the folders that were named.
std::string name_of(const std::filesystem::path& file, const std::vector<std::string>& folders) {
  if (folders.size() == 1 && media::is_in_film(file) && media::on_disk(file) == folders.front())
    return media::name_of(file);
  for (const std::string& folder : folders) {
    const std::filesystem::path below = file.lexically_relative(folder);
    if (!below.empty() && *below.begin() != "..")
      return folders.size() == 1 ? below.generic_string() : file.generic_string();
  }
  return file.generic_string();
}

Json moment_json(const std::optional<media::CameraTime>& t) {
  return t ? Json(format_iso(Instant(t->time_since_epoch()), "UTC").substr(0, 19)) : Json(nullptr);
}

std::string format_word(const media::Frame& f) {
  const media::Exposure& e = f.exposures.front();
  const std::string ready = e.compressed.empty() ? "" : media::kind_word(media::kind_of(e.compressed));
  const std::string raw = e.raw.empty() ? "" : media::kind_word(media::kind_of(e.raw));
  return raw.empty() ? ready : ready.empty() ? raw : raw + "+" + ready;
}

Json take_json(const ingest::FoundTake& t, const std::vector<std::string>& folders, bool chosen) {
  const auto& frames = *t.frames;
  return {{"frames", frames.size()},
          {"exposures_each", t.exposures_each},
          {"first",
           frames.empty() ? Json(nullptr) : Json(name_of(frames.front().exposures.front().file(), folders))},
          {"last",
           frames.empty() ? Json(nullptr) : Json(name_of(frames.back().exposures.back().file(), folders))},
          {"interval_s", t.interval_s ? Json(rounded(*t.interval_s, 3)) : Json(nullptr)},
          {"start", moment_json(t.start())},
          {"end", moment_json(t.end())},
          {"format", frames.empty() ? Json(nullptr) : Json(format_word(frames.front()))},
          {"chosen", chosen}};
}

Json fault_json(const ingest::FoundTake& t, const inspect::Fault& f,
                const std::vector<std::string>& folders) {
  return {{"code", inspect::fault_word(f.kind)},
          {"frame", f.frame + 1},
          {"last", f.last + 1},
          {"file", name_of((*t.frames)[f.frame].file(), folders)},
          {"amount", rounded(f.amount, 3)},
          {"unit", f.unit},
          {"severity", severity_word(inspect::severity_of(f.kind))},
          {"text", f.text},
          {"mend", inspect::remedy_word(f.remedy)}};
}

/// One line a frame with all measures.
std::string csv_of(const ingest::FoundTake& t, const inspect::Look& look,
                   const std::vector<inspect::Fault>& faults) {
  std::map<size_t, std::string> codes;
  for (const inspect::Fault& f : faults)
    for (size_t n = f.frame; n <= (f.kind == inspect::FaultKind::Missing ? f.frame : f.last); ++n)
      codes[n] += (codes[n].empty() ? "" : " ") + std::string(inspect::fault_word(f.kind));
  std::string text = csv_row({"frame",       "file",        "time",           "shutter_s",
                              "f_number",    "iso",         "exposure_stops", "brightness_stops",
                              "clipped",     "x_px",        "y_px",           "turn_deg",
                              "still_share", "step_x_px",   "step_y_px",      "points_log2",
                              "fine_log2",   "coarse_log2", "odd_share",      "faults"});
  const auto mean = [](const inspect::Parts& p) {
    double sum = 0;
    for (const float v : p) sum += static_cast<double>(v);
    return sum / inspect::kParts;
  };
  for (size_t n = 0; n < look.frames.size(); ++n) {
    const media::Frame& f = (*t.frames)[n];
    const media::ShotInfo& i = f.info();
    const inspect::Measures& m = look.frames[n];
    const auto maybe = [](const std::optional<double>& v, int decimals) {
      return v ? fmt::format("{:.{}f}", *v, decimals) : "";
    };
    const std::string time = i.captured
                                 ? format_iso(Instant(i.captured->time_since_epoch()), "UTC").substr(0, 19) +
                                       fmt::format(".{:03}", i.captured->time_since_epoch().count() % 1000)
                                 : "";
    std::vector<std::string> cells = {std::to_string(n + 1),
                                      media::name_of(f.file()),
                                      time,
                                      maybe(i.shutter_s, 6),
                                      maybe(i.f_number, 1),
                                      maybe(i.iso, 0),
                                      maybe(media::relative_stops(i), 3)};
    for (const auto& [value, decimals] : {std::pair{m.stops, 4},
                                          {m.clipped, 4},
                                          {m.x, 2},
                                          {m.y, 2},
                                          {m.turn_deg, 3},
                                          {m.held_by, 2},
                                          {m.step_x, 2},
                                          {m.step_y, 2},
                                          {m.points, 3},
                                          {mean(m.fine), 3},
                                          {mean(m.coarse), 3},
                                          {m.odd, 4}})
      cells.push_back(m.seen() ? fmt::format("{:.{}f}", value, decimals) : "");
    cells.push_back(codes[n]);
    text += csv_row(cells);
  }
  return text;
}

/// The take's frames looked at, and all there is to say about them.
struct Looked {
  inspect::Look look;
  std::vector<inspect::Fault> faults;
  Findings findings;
};

/// What there is to say on Gather; an empty take stands for none.
Findings findings_of(const ingest::Gathered& g, const Looked& looked, const std::optional<take::Take>& take,
                     const GatherOptions& asked) {
  advice::Known known;
  known.frames = {&g, asked.list_only ? nullptr : &looked.look, looked.faults,
                  advice::began_by_journal(asked.take)};
  return advice::findings_on(advice::Stage::Gather, take.value_or(take::Take{}), known);
}

Looked looked_at(const ingest::Gathered& g, const std::optional<take::Take>& take,
                 const GatherOptions& asked) {
  Looked out;
  if (asked.list_only) {
    out.faults = inspect::beat_faults(g);
    out.findings = findings_of(g, out, take, asked);
    return out;
  }
  out.look = look_at_frames(g, asked.take);
  const inspect::Planned planned = take ? forecast::planned_of(*take, g.frames->size()) : inspect::Planned{};
  out.faults = inspect::faults_of(g, out.look, planned);
  out.findings = findings_of(g, out, take, asked);
  return out;
}

/// What was asked for, as the gathering has it.
ingest::Ask ask_of(const GatherOptions& asked, ingest::Ask ask) {
  if (asked.choose) ask.choose = static_cast<size_t>(*asked.choose - 1);
  for (size_t from = 0; from < asked.join.size();) {
    const size_t end = std::min(asked.join.find(',', from), asked.join.size());
    ask.join.push_back(static_cast<size_t>(parse_count(asked.join.substr(from, end - from), "--join") - 1));
    from = end + 1;
  }
  ask.keep.insert(ask.keep.end(), asked.keep.begin(), asked.keep.end());
  ask.leave_out.insert(ask.leave_out.end(), asked.leave_out.begin(), asked.leave_out.end());
  if (asked.clock_s) ask.clock_s = *asked.clock_s;
  return ask;
}

Json dropped_json(const ingest::Dropped& d) {
  return {{"file", d.file().string()},
          {"why", ingest::why_word(d.why)},
          {"when", d.before ? "before" : "after"},
          {"text", d.text}};
}

Json gathered_json(const ingest::Gathered& g, const Looked& looked, const GatherOptions& asked) {
  Json missing = Json::array(), dropped = Json::array(), takes = Json::array(), audit = Json::array(),
       in_doubt = Json::array();
  long long lost = 0;
  for (const ingest::Missing& m : g.missing) {
    missing.push_back({{"after_frame", m.after + 1},
                       {"after_file", media::name_of((*g.frames)[m.after].file())},
                       {"frames", m.frames},
                       {"seconds", rounded(m.seconds, 3)}});
    lost += m.frames;
  }
  for (const ingest::Dropped& d : g.dropped) dropped.push_back(dropped_json(d));
  for (const ingest::Dropped& d : g.weak) in_doubt.push_back(dropped_json(d));
  for (size_t i = 0; i < g.takes.size(); ++i)
    takes.push_back(take_json(g.takes[i], asked.folders, i == g.chosen));
  for (const inspect::Fault& f : looked.faults) audit.push_back(fault_json(g, f, asked.folders));
  const Json chosen = take_json(g, asked.folders, true);
  return {{"frames", g.frames->size()},
          {"exposures_each", g.exposures_each},
          {"first", chosen["first"]},
          {"last", chosen["last"]},
          {"interval_s", chosen["interval_s"]},
          {"format", chosen["format"]},
          {"missing_frames", lost},
          {"missing", missing},
          {"dropped", dropped},
          {"in_doubt", in_doubt},
          {"films", g.films},
          {"ignored", g.ignored},
          {"unread_folders", g.unread_folders},
          {"takes", takes},
          {"why_chosen", g.why_chosen},
          {"looked_at", !asked.list_only},
          {"audit", audit},
          {"findings", to_json(looked.findings)}};
}

std::string gathered_words(const ingest::Gathered& g, const Looked& looked, const GatherOptions& asked) {
  std::string words;
  const auto take_words = [&](const ingest::FoundTake& t) {
    return fmt::format("{}{}, from {} to {}{}",
                       counted(static_cast<long long>(t.frames->size()), "{} frame", "{} frames"),
                       t.exposures_each > 1 ? fmt::format(" of {} exposures", t.exposures_each) : "",
                       name_of(t.frames->front().exposures.front().file(), asked.folders),
                       name_of(t.frames->back().exposures.back().file(), asked.folders),
                       t.interval_s ? ", one every " + format_length(*t.interval_s) : "");
  };
  if (g.takes.size() > 1)
    for (size_t i = 0; i < g.takes.size(); ++i)
      words += fmt::format("{} take {}: {}.\n", i == g.chosen ? "*" : " ", i + 1, take_words(g.takes[i]));
  else
    words += take_words(g) + ".\n";
  for (const ingest::Dropped& d : g.dropped)
    words += fmt::format("left out {}: {}\n", media::name_of(d.file()), d.text);
  for (const inspect::Fault& f : looked.faults)
    words += fmt::format(
        "frame {}{} {}: {}\n", f.frame + 1,
        f.last > f.frame && f.kind != inspect::FaultKind::Missing ? fmt::format(" to {}", f.last + 1) : "",
        inspect::fault_word(f.kind), f.text);
  return words + words_of(looked.findings);
}

Answer gather_verb(const GatherOptions& asked) {
  const Gathering gathering = gathering_of(asked);
  const std::optional<take::Take>& take = gathering.take;
  const ingest::Ask ask = ask_of(asked, gathering.ask);
  const ingest::Gathered g = gather_shown(ask);
  Looked looked = looked_at(g, take, asked);
  if (ask.clock_s != 0)  // it was put right here
    std::erase_if(looked.findings, [](const Finding& f) { return f.code == "clock_wrong"; });
  if (take)
    file_take(*take, asked.take, [&](book::Entry& e) {
      book::learn(e, *take, g);
      if (!asked.list_only) book::learn(e, advice::open_faults(*take, g, looked.faults));
      e.picture = book::picture_of(g.frames);
    });
  if (!asked.csv.empty())
    write_file_atomically({asked.csv, FileKind::Table, {{}, asked.force}},
                          csv_of(g, looked.look, looked.faults));
  Json json = gathered_json(g, looked, asked);
  json["forecast"] = take && take->solution().complete()
                         ? forecast::to_json(*take, forecast::forecast_of(*take))
                         : Json(nullptr);
  return {json, gathered_words(g, looked, asked)};
}

}  // namespace

void add_gather(Command& app, Chosen& chosen) {
  const Verb verb =
      add_verb(app, chosen, "gather", "Find the takes on cards and in folders, and look at every frame");
  const auto asked = std::make_shared<GatherOptions>();
  verb.add_option("folder", asked->folders, "The cards or folders, or a video").required();
  verb.add_option("--choose", asked->choose, "Use this one, by its number in the list").between(1, 100000);
  verb.add_option("--join", asked->join, "Join these into one: 1,2");
  verb.add_option("--keep", asked->keep, "A file to keep as a frame, whatever speaks against it");
  verb.add_option("--leave-out", asked->leave_out, "A file to leave out");
  add_every(verb, asked->every);
  verb.add_option("--clock", asked->clock_s, "Seconds to add to the camera's clock");
  verb.add_option("--take", asked->take,
                  "The take they were shot for: its plan chooses, and what you decided in it is applied");
  verb.add_option("--csv", asked->csv, "Write one line per frame with all measurements");
  verb.add_flag("--list", asked->list_only, "Only find and sort; do not look at the pictures");
  add_force(verb, asked->force);
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return gather_verb(*asked); };
  });
}

}  // namespace askcount::cli
