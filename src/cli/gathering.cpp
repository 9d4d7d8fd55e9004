// SPDX-License-Identifier: GPL-3.0-or-later
#include "gathering.h"

#include "forecast/gather.h"
#include "inspect/store.h"
#include "progress_line.h"
#include "stop.h"

namespace askcount::cli {

void add_every(const Verb& verb, std::optional<int>& every) {
  verb.add_option("--every", every,
                  "Every nth picture of a video; by default by the plan's interval, or every one")
      .between(1, 10000000);
}

void add_brackets(const Verb& verb, std::optional<media::Blend>& brackets) {
  using media::Blend;
  verb.add_choice<std::optional<Blend>>(
      "--brackets", brackets, {{"merged", Blend::Merged}, {"fused", Blend::Fused}, {"middle", Blend::Middle}},
      "How several exposures of one shot are combined");
}

Gathering gathering_of(const GatheringAsked& asked) {
  Gathering g;
  const std::vector<std::filesystem::path> sources(asked.folders.begin(), asked.folders.end());
  if (!asked.take.empty()) {
    g.take = take::load_take(asked.take);
    g.folder = std::filesystem::path(asked.take).parent_path();
    g.ask = forecast::gather_ask(*g.take, sources);
    if (!asked.every) forecast::read_films(*g.take, g.ask);
  }
  g.ask.folders = sources;
  if (!g.take) g.ask.blend = take::LevelWish{}.brackets;
  if (asked.brackets) g.ask.blend = *asked.brackets;
  if (asked.every) g.ask.film_step = *asked.every;
  return g;
}

ingest::Gathered gather_shown(const ingest::Ask& ask) {
  ProgressLine line("Reading");
  return ingest::gather(ask, {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
}

inspect::Look look_at_frames(const ingest::Gathered& g, const std::string& take) {
  const std::filesystem::path store = take.empty() ? std::filesystem::path() : inspect::store_of(take);
  if (!take.empty())
    if (auto kept = inspect::kept_look(store, g.frames)) return std::move(*kept);
  ProgressLine line("Looking at");
  inspect::Look look =
      inspect::look_at(g.frames, media::any_source(),
                       {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
  if (!take.empty()) inspect::keep_look(store, g.frames, look);
  return look;
}

}  // namespace askcount::cli
