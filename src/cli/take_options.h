// SPDX-License-Identifier: GPL-3.0-or-later
// What can be said of a take on the command line: one set of options for `count`, `set`, `ramp` and
// `program`.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "take/take.h"
#include "verbs.h"

namespace askcount::cli {

/// What was said of where, when, whither and what. Nothing said changes nothing.
struct WhereAndWhenAsked {
  PlaceAsked place;
  std::string start, aim, subject, meter, meter_at, darkness, shows;
  std::optional<double> variation;
};
/// --place, --lat, --lon, --zone, --height, --place-name, --start, --aim, --variation, --subject, --meter,
/// --meter-at,
/// --darkness.
void add_where_and_when(const Verb& verb, WhereAndWhenAsked& asked);
/// Puts it into a take. Throws BadInput naming the option.
void say(const WhereAndWhenAsked& asked, take::Take& take);

/// Everything a plan is made of besides.
struct PlanAsked {
  WhereAndWhenAsked where;
  std::map<plan::Slot, std::string> slots;
  std::string name, kit, brackets, spare, work, slide, settling, temperature, timer, speed, distance, disk,
      files, lens, method;
  std::optional<plan::CardUse> cards;
  std::optional<double> f_number, iso, declination, focus_m, magnification, grows;
  std::optional<double> nearest_m;
  std::optional<bool> dark_frames, external_power, endless, lamp, cold;
};
void add_plan(const Verb& verb, PlanAsked& asked);
/// Puts it into a take; slots become the latest wishes. Throws BadInput naming the option.
void say(const PlanAsked& asked, take::Take& take);

/// --save FILE, with --force.
struct SaveAsked {
  std::string file;
  bool force = false;
};
void add_save(const Verb& verb, SaveAsked& asked);
/// Throws BadInput unless a file named ends in .askcount.
void check_save(const SaveAsked& asked);
/// A take into a file of its own. Throws BadInput where one is there already, unless it may go.
void save_new(const take::Take& take, const std::filesystem::path& file, const Guard& guard);
/// Saves where a file was named; over the take that was `given` too.
void save(const SaveAsked& asked, const take::Take& take, const std::vector<std::filesystem::path>& inputs,
          const std::string& given = {});

}  // namespace askcount::cli
