// SPDX-License-Identifier: GPL-3.0-or-later
// All that there is to say about a take, stage by stage: the one place where findings are put together.
// Window, command and book read them here. A finding is made where its sum is (`judge()` in that room) and
// added to its stage in by_stage.cpp.
#pragma once

#include <array>
#include <optional>
#include <string_view>
#include <vector>

#include "advice/shoot_advice.h"
#include "base/finding.h"
#include "films/finish.h"
#include "forecast/exposure.h"
#include "forecast/forecast.h"
#include "ingest/gather.h"
#include "inspect/faults.h"
#include "level/brightness.h"
#include "media/reader.h"
#include "optics/lens_records.h"
#include "render/render.h"
#include "render/timeline.h"
#include "take/take.h"

namespace askcount::advice {

/// The stages, in the order people work.
enum class Stage { Ask, Light, Set, Shoot, Gather, Level, Cut, Book };
inline constexpr std::array<Stage, 8> kAllStages = {Stage::Ask,    Stage::Light, Stage::Set, Stage::Shoot,
                                                    Stage::Gather, Stage::Level, Stage::Cut, Stage::Book};
/// "ask", "light", "set", "shoot", "gather", "level", "cut", "book".
const char* stage_word(Stage stage);
/// The stage of a word; nothing where there is none.
std::optional<Stage> stage_of_word(std::string_view word);

/// Frames that were gathered, and what was found in them.
struct KnownFrames {
  const ingest::Gathered* gathered = nullptr;
  const inspect::Look* look = nullptr;  ///< null until every frame was looked at
  std::vector<inspect::Fault> faults;
  std::optional<Instant> began;  ///< by the journal, see began_by_journal()
};

/// One of the take's films, whether it is there or not.
struct KnownFilm {
  take::FilmWish wish;
  std::optional<media::FilmFacts> facts;         ///< nothing where there is none
  const render::FilmOutcome* outcome = nullptr;  ///< null where it was made before
  const films::Finished* finished = nullptr;     ///< the same
  const render::Timeline* timeline = nullptr;    ///< null where it is not known
  image::Size frame;                             ///< upright; {} where there are no frames
};

/// What is known beside the take. All of it may be missing: what would need it is then not said. Pointers are
/// borrowed.
struct Known {
  std::optional<forecast::ExposurePlan> exposure;  ///< worked out where it is not given
  const ramp::Ramp* ramp = nullptr;                ///< the same
  const forecast::Forecast* forecast = nullptr;    ///< the same
  const journal::ShootState* shoot = nullptr;
  std::optional<Live> live;  ///< of the stand-in
  bool read_back = false;    ///< the timer's program was read back and agreed
  KnownFrames frames;
  const level::Evenness* evenness = nullptr;
  std::optional<optics::LensRecord> lens;  ///< that the frames were shot with
  bool lens_looked_up = false;             ///< what the lens did is judged before the light is measured
  std::vector<KnownFilm> films;
  Findings kit, mistakes, practice;  ///< what the person's own takes say, see book/kit.h
};

/// All that there is to say on a stage, stops first. Throws nothing for a take that is not whole: it says
/// what is missing.
Findings findings_on(Stage stage, const take::Take& take, const Known& known = {});

/// The same of the whole take, in the order of its stages; what several stages say is said once.
Findings findings_of(const take::Take& take, const Known& known = {});

}  // namespace askcount::advice
