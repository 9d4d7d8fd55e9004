// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/scene.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>

#include "base/error.h"
#include "simulate/alum_jar.h"
#include "simulate/gannet_head.h"
#include "simulate/ropewalk.h"
#include "simulate/tern_quay.h"

namespace askcount::simulate {
namespace {

constexpr char kUse[] = "Use Tern Quay, Gannet Head, the alum jar or the Ropewalk.";

}  // namespace

const std::vector<std::string>& scene_names() {
  static const std::vector<std::string> names = {"Tern Quay", "Gannet Head", "The alum jar", "The Ropewalk"};
  return names;
}

double flashing_s(double from_s, double open_s, double period_s, double flash_s) {
  double lit = 0;
  for (int n = 0; n * period_s < from_s + open_s; ++n)
    lit += std::max(0.0, std::min(from_s + open_s, n * period_s + flash_s) - std::max(from_s, n * period_s));
  return lit;
}

double scene_clock_s(Instant at) {
  constexpr long long kFrom_ms = 1791504000000;  // 2026-10-09
  return static_cast<double>(at.time_since_epoch().count() - kFrom_ms) / 1000;
}

std::string scene_named(const std::string& text) {
  const auto plain = [](const std::string& s) {
    std::string out;
    for (const char c : s)
      if (std::isalpha(static_cast<unsigned char>(c)))
        out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
  };
  const std::string wanted = plain(text);
  for (const std::string& name : scene_names())
    if (!wanted.empty() && plain(name).find(wanted) != std::string::npos) return name;
  throw bad_input(fmt::format("There is no scene \"{}\".", text), kUse);
}

sky::Place scene_place(const std::string& name) {
  for (const sky::Place& p : sky::demo_places())
    if (p.name == name) return p;
  return sky::demo_places().front();
}

Instant scene_start(const std::string& name) {
  const std::string zone = scene_place(name).zone;
  if (name == "Gannet Head") return parse_wall_time("2026-08-12 23:30", zone);
  if (name == "The alum jar") return parse_wall_time("2026-10-09 09:00", zone);
  if (name == "The Ropewalk") return parse_wall_time("2026-10-09 12:00", zone);
  return parse_wall_time("2026-10-09 17:50", zone);
}

std::unique_ptr<Scene> make_scene(const std::string& name, const SceneSetting& setting) {
  if (name == "Tern Quay") return std::make_unique<TernQuay>(setting);
  if (name == "Gannet Head") return std::make_unique<GannetHead>(setting);
  if (name == "The alum jar") return std::make_unique<AlumJar>(setting);
  if (name == "The Ropewalk") return std::make_unique<Ropewalk>(setting);
  throw bad_input(fmt::format("There is no scene \"{}\".", name), kUse);
}

}  // namespace askcount::simulate
