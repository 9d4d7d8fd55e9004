// SPDX-License-Identifier: GPL-3.0-or-later
// The verbs of the askcount command. Each adds its options to the parser and, once chosen, does its work.
#pragma once

#include <filesystem>
#include <functional>
#include <nlohmann/json.hpp>
#include <string>

#include "base/finding.h"
#include "base/json.h"
#include "image/pixels.h"
#include "options.h"
#include "sky/ambient.h"
#include "sky/place.h"

namespace askcount::cli {

/// What a verb has to say: one object for --json, lines for people otherwise.
struct Answer {
  Json json;
  std::string words;
  int exit = 0;  ///< 1 where it did its work and what it has to say is bad: not everything was copied
};

/// Where a chosen verb leaves what is to be run, and whether the answer is wanted as JSON.
struct Chosen {
  std::function<Answer()> run;
  bool as_json = false;
  bool stoppable =
      false;  ///< it watches stop_token(); Ctrl+C ends others at once, which leave nothing behind
};

void add_count(Command& app, Chosen& chosen);
void add_forecast(Command& app, Chosen& chosen);
void add_set(Command& app, Chosen& chosen);
void add_findings(Command& app, Chosen& chosen);
void add_fix(Command& app, Chosen& chosen);
void add_kit(Command& app, Chosen& chosen);
void add_motion(Command& app, Chosen& chosen);
void add_shoot(Command& app, Chosen& chosen);
void add_copy(Command& app, Chosen& chosen);
void add_gather(Command& app, Chosen& chosen);
void add_level(Command& app, Chosen& chosen);
void add_look(Command& app, Chosen& chosen);
void add_develop(Command& app, Chosen& chosen);
void add_lens(Command& app, Chosen& chosen);
void add_cut(Command& app, Chosen& chosen);
void add_book(Command& app, Chosen& chosen);
void add_pack(Command& app, Chosen& chosen);
void add_thumbnail(Command& app, Chosen& chosen);
void add_make(Command& app, Chosen& chosen);
void add_demo(Command& app, Chosen& chosen);

/// timers, program, check-program and checklist.
void add_timer(Command& app, Chosen& chosen);
void add_try(Command& app, Chosen& chosen);
void add_along(Command& app, Chosen& chosen);
void add_frame(Command& app, Chosen& chosen);
void add_trial(Command& app, Chosen& chosen);
void add_ramp(Command& app, Chosen& chosen);
void add_sky(Command& app, Chosen& chosen);

/// Where something happens, as options say it.
struct PlaceAsked {
  std::string latitude, longitude, coordinates, name;
  std::string zone;  ///< empty for UTC
  double height_m = 0;
};
/// --lat, --lon, --place, --zone, --height.
void add_place(const Verb& verb, PlaceAsked& place);
/// One without a name is called by its coordinates. Throws BadInput where it is no place on the globe, or not
/// said.
sky::Place place_of(const PlaceAsked& asked);

/// A verb with its --json flag.
Verb add_verb(Command& app, Chosen& chosen, const std::string& name, const std::string& what);

/// The same for one below another verb.
Verb add_verb(const Verb& above, Chosen& chosen, const std::string& name, const std::string& what);

/// An option for a size in pixels, "1920x1080".
Option add_size(const Verb& verb, const std::string& name, image::Size& size, const std::string& what);
Option add_size(const Verb& verb, const std::string& name, std::function<void(const image::Size&)> hear,
                const std::string& what);

/// --sky: what lies between sun and ground, told by its word in takes.
Option add_cover(const Verb& verb, std::optional<sky::Cover>& cover);

/// --force: a file that is there may go, unless it is a photograph or what is read.
void add_force(const Verb& verb, bool& force);

/// Findings as lines for people.
std::string words_of(const Findings& findings);

}  // namespace askcount::cli
