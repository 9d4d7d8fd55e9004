// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/kit_from.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"
#include "base/median.h"
#include "base/units.h"
#include "ingest/inventory.h"
#include "ingest/pace.h"

namespace askcount::forecast {
namespace {

constexpr double kDiagonal_mm = 43.27;  // of 36 × 24 mm
constexpr int kLastNumber = 9999;

using Exposures = std::vector<const media::Exposure*>;

/// Those of the body that took the most.
Exposures of_one_body(const std::vector<media::Exposure>& all) {
  std::map<std::string, Exposures> bodies;
  for (const media::Exposure& e : all)
    if (e.readable() && !e.info.body.empty()) bodies[e.info.body].push_back(&e);
  const auto most = std::max_element(bodies.begin(), bodies.end(), [](const auto& a, const auto& b) {
    return a.second.size() < b.second.size();
  });
  if (most == bodies.end())
    throw bad_input(say("No photograph here says which camera took it."),
                    say("Use files as they came from the camera."));
  return most->second;
}

/// The width of the sensor, across the longer side: as the file says, or by the focal length it compares to.
std::optional<double> sensor_of(const media::ShotInfo& info) {
  if (info.sensor_width_mm) return *info.sensor_width_mm;
  if (!info.focal_mm || !info.focal_35mm || *info.focal_35mm <= 0 || info.size.height <= 0) return {};
  const double diagonal = kDiagonal_mm * *info.focal_mm / *info.focal_35mm,
               shape = static_cast<double>(info.size.width) / info.size.height;
  return diagonal * shape / std::sqrt(1 + shape * shape);
}

std::optional<double> middle_size(const Exposures& list, std::filesystem::path media::Exposure::*kind) {
  std::vector<double> sizes;
  for (const media::Exposure* e : list)
    if (!(e->*kind).empty()) {
      media::Exposure one;
      one.*kind = e->*kind;
      if (const double mb = ingest::megabytes_of(one); mb > 0) sizes.push_back(mb);
    }
  return sizes.empty() ? std::nullopt : std::optional(median(sizes));
}

class Telling {
 public:
  Telling(const Exposures& list, const plan::Kit& known) : list_(list) {
    out_.kit = known;
    plan::Body body = known.bodies.front();
    body.guessed = {"writing_s",         "buffer_mb",       "write_mb_s", "power_w",
                    "longest_shutter_s", "sensor_width_mm", "card_slots", "highest_iso"};
    for (const plan::Body& b : known.bodies)
      if (b.name == list.front()->info.body) body = b;
    body.name = list.front()->info.body;
    out_.told.push_back(say("body {}", body.name));
    pixels(body);
    files(body);
    shutters(body);
    std::erase_if(out_.kit.bodies, [&](const plan::Body& b) { return b.name == body.name; });
    out_.kit.bodies.insert(out_.kit.bodies.begin(), body);
    std::erase_if(out_.kit.bodies, [](const plan::Body& b) {  // it only stood for one
      return b.name == plan::example_kit().bodies.front().name;
    });
    lenses();
    out_.taken.push_back(
        say("{} s from an exposure to the next press: try ten frames", format_number(body.writing_s, 1)));
    out_.taken.push_back(say("a buffer of {} MB, emptied at {} MB/s", format_number(body.buffer_mb, 0),
                             format_number(body.write_mb_s, 0)));
    out_.taken.push_back(say("batteries, cards and timers"));
  }

  ToldByPhotographs told() { return std::move(out_); }

 private:
  void pixels(plan::Body& body) {
    for (const media::Exposure* e : list_) {
      const int across = std::max(e->info.size.width, e->info.size.height),
                down = std::min(e->info.size.width, e->info.size.height);
      if (across > 0 && (e == list_.front() || across > body.pixels_across))
        body.pixels_across = across, body.pixels_down = down;
    }
    out_.told.push_back(say("{} × {} pixels", body.pixels_across, body.pixels_down));
    for (const media::Exposure* e : list_) {
      const auto width = sensor_of(e->info);
      if (!width) continue;
      body.sensor_width_mm = std::round(*width * 10) / 10;
      body.sensor_height_mm =
          std::round(*width * body.pixels_down / std::max(1, body.pixels_across) * 10) / 10;
      out_.told.push_back(say("a sensor {} mm wide", format_number(body.sensor_width_mm, 1)));
      std::erase(body.guessed, "sensor_width_mm");
      return;
    }
    out_.taken.push_back(say("a sensor {} mm wide", format_number(body.sensor_width_mm, 1)));
  }
  void files(plan::Body& body) {
    if (const auto mb = middle_size(list_, &media::Exposure::raw)) {
      body.raw_mb = std::round(*mb * 10) / 10;
      out_.told.push_back(say("raw files of {} MB", format_number(body.raw_mb, 1)));
    }
    if (const auto mb = middle_size(list_, &media::Exposure::compressed)) {
      body.compressed_mb = std::max(0.1, std::round(*mb * 10) / 10);
      out_.told.push_back(say("compressed files of {} MB", format_number(body.compressed_mb, 1)));
    }
    const long long last = ingest::number_of(list_.back()->file());  // they stand in the order they were shot
    if (last < 0) return;
    body.next_file_number = static_cast<int>(last % kLastNumber) + 1;
    out_.told.push_back(say("the next file number, {}", body.next_file_number));
  }
  void shutters(plan::Body& body) {
    std::optional<double> shortest, longest;
    for (const media::Exposure* e : list_) {
      if (!e->info.shutter_s) continue;
      shortest = std::min(shortest.value_or(1e9), *e->info.shutter_s);
      longest = std::max(longest.value_or(0), *e->info.shutter_s);
    }
    if (!shortest) return;
    body.shortest_shutter_s = std::min(body.shortest_shutter_s, *shortest);
    const std::string from = dial_shutter_words(exact_shutter(*shortest)),
                      to = dial_shutter_words(exact_shutter(*longest));
    out_.told.push_back(from == to ? say("a shutter of {} seen", from)
                                   : say("shutters from {} to {} seen", from, to));
  }
  void lenses() {
    std::map<std::string, plan::Lens> seen;
    for (const media::Exposure* e : list_) {
      const media::ShotInfo& i = e->info;
      if (!i.focal_mm && i.lens.empty()) continue;
      const std::string name = !i.lens.empty() ? i.lens : say("{} mm", format_number(*i.focal_mm, 0));
      auto [at, fresh] = seen.try_emplace(name);
      plan::Lens& lens = at->second;
      if (fresh) lens = {name, i.focal_mm.value_or(24), 1e3, 0};
      if (i.f_number) {
        lens.widest_f = std::min(lens.widest_f, *i.f_number);
        lens.smallest_f = std::max(lens.smallest_f, *i.f_number);
      }
    }
    for (auto& one : seen) {
      const std::string& name = one.first;
      plan::Lens& lens = one.second;
      const plan::Lens usual;
      if (lens.smallest_f <= 0)
        lens.widest_f = usual.widest_f, lens.smallest_f = usual.smallest_f;
      else
        out_.told.push_back(say("{} from f/{} to f/{}", name, format_number(lens.widest_f, 1),
                                format_number(lens.smallest_f, 1)));
      lens.smallest_f =
          std::max(lens.smallest_f, std::min(16.0, usual.smallest_f));  // all of them close so far
      std::erase_if(out_.kit.lenses, [&](const plan::Lens& l) { return l.name == name; });
      out_.kit.lenses.insert(out_.kit.lenses.begin(), lens);
    }
  }

  const Exposures& list_;
  ToldByPhotographs out_;
};

}  // namespace

ToldByPhotographs kit_from(const std::vector<std::filesystem::path>& photographs, const plan::Kit& known) {
  std::vector<media::Exposure> all;
  for (const std::filesystem::path& one : photographs) {
    std::error_code ec;
    if (std::filesystem::is_directory(one, ec)) {
      const ingest::Inventory inventory = ingest::take_inventory({one});
      all.insert(all.end(), inventory.exposures.begin(), inventory.exposures.end());
      continue;
    }
    if (!std::filesystem::exists(one, ec))
      throw bad_input(say("{} does not exist.", one.string()), say("Check the name."));
    const media::Frame frame = media::frame_of(one);
    if (!frame.readable()) throw bad_input(frame.trouble());
    all.push_back(frame.main());
  }
  std::stable_sort(all.begin(), all.end(), [](const media::Exposure& a, const media::Exposure& b) {
    return a.info.captured < b.info.captured;
  });
  const Exposures list = of_one_body(all);
  return Telling(list, known).told();
}

}  // namespace askcount::forecast
