// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/exposure_match.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"

namespace askcount::plan {
namespace {

constexpr double kClick = 1.0 / 3;
constexpr double kClose = 1.0 / 6;  // half a click: nearer than a dial can be set
constexpr double kAiry_um = 2.44 * 0.55;
constexpr double kSidereal_arcsec_s = 15.041;
constexpr double kArcsec = 206.265;  // µm over mm to seconds of arc

double to_clicks(double stops) {
  return std::round(stops / kClick) * kClick;
}

/// Sets of at most `most` filters with their sums of stops.
struct Stack {
  std::vector<size_t> which;
  double stops = 0;
};
std::vector<Stack> stacks(const std::vector<Filter>& filters, size_t most) {
  std::vector<Stack> list = {{}};
  for (size_t i = 0; i < filters.size() && i < 12; ++i) {
    const size_t n = list.size();
    for (size_t k = 0; k < n; ++k) {
      if (list[k].which.size() >= most) continue;
      Stack more = list[k];
      more.which.push_back(i);
      more.stops += filters[i].stops;
      list.push_back(more);
    }
  }
  return list;
}

std::string f_words(double f) {
  const double mark = marked_f_number(f), shown = std::abs(exact_f_number(mark) / f - 1) < 0.01 ? mark : f;
  return "f/" + format_number(shown, shown < 9.5 ? 1 : 0);
}

std::string iso_words(double iso) {
  const double mark = marked_iso(iso);
  return "ISO " + format_number(std::abs(exact_iso(mark) / iso - 1) < 0.01 ? mark : iso, 0);
}

/// What was metered with a comma after each part: "1/125 s at f/8, ISO 100" too. Where a comma stands before
/// decimals, one between two digits is that.
std::string with_commas(std::string_view text) {
  std::string plain(text);
  if (const size_t at = plain.find(" at "); at != std::string::npos) plain.replace(at, 4, ", ");
  const auto digit = [&plain](size_t i) {
    return i < plain.size() && std::isdigit(static_cast<unsigned char>(plain[i])) != 0;
  };
  if (language().point == ",")
    for (size_t i = 1; i + 1 < plain.size(); ++i)
      if (plain[i] == ',' && digit(i - 1) && digit(i + 1)) plain[i] = '.';
  return plain;
}

}  // namespace

Metered parse_metered(std::string_view text) {
  Metered m;
  bool shutter = false, aperture = false;
  const std::string plain = with_commas(text);
  size_t from = 0;
  while (from <= plain.size()) {
    const size_t comma = std::min(plain.find(',', from), plain.size());
    std::string part;
    for (const char c : plain.substr(from, comma - from))
      if (c != ' ') part += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    if (part.starts_with("iso"))
      m.iso = parse_positive(part.substr(3), Input::Meter);
    else if (part.starts_with("f")) {
      m.f_number = parse_positive(part.substr(part.starts_with("f/") ? 2 : 1), Input::Meter);
      aperture = true;
    } else if (!part.empty()) {
      m.shutter_s = parse_length(part, Input::Meter);
      shutter = true;
    }
    from = comma + 1;
  }
  if (!shutter || !aperture)
    throw bad_value(Input::Meter, say("\"{}\" does not say shutter and aperture.", text),
                    say("Write it like 1/125,f8,iso100."));
  return m;
}

std::string metered_words(const Metered& m) {
  return fmt::format(
      "{}, {}, {}",
      format_shutter(exact_shutter(m.shutter_s) == m.shutter_s ? marked_shutter(m.shutter_s) : m.shutter_s),
      f_words(m.f_number), iso_words(m.iso));
}

ExposureMatch match_exposure(const Metered& metered, Seconds wanted_s, const Kit& kit) {
  const Body body = kit.bodies.empty() ? Body{} : kit.bodies.front();
  const Lens lens = kit.lenses.empty() ? Lens{} : kit.lenses.front();
  ExposureMatch best;
  best.stops = std::log2(wanted_s / metered.shutter_s);
  double least = std::numeric_limits<double>::max();
  for (const size_t most : {2u, 3u}) {
    for (const Stack& stack : stacks(kit.filters, most)) {
      double left = best.stops - stack.stops;             // still to lose by the dials
      if (left < -1.5 && !stack.which.empty()) continue;  // a filter only to open up again
      Metered set = metered;
      set.shutter_s = wanted_s;
      // ISO down to its lowest when there is too much light, the aperture first when there is too little.
      const auto turn_iso = [&] {
        const double room_low = std::log2(body.lowest_iso / set.iso),
                     room_high = std::log2(body.highest_iso / set.iso);
        const double by = std::clamp(to_clicks(-left), std::min(0.0, room_low), std::max(0.0, room_high));
        set.iso *= std::exp2(by);
        left += by;
      };
      const auto turn_aperture = [&] {
        const double room_open = 2 * std::log2(lens.widest_f / set.f_number),
                     room_close = 2 * std::log2(lens.smallest_f / set.f_number);
        const double by = std::clamp(to_clicks(left), std::min(0.0, room_open), std::max(0.0, room_close));
        set.f_number *= std::exp2(by / 2);
        left -= by;
      };
      if (left > 0)
        turn_iso(), turn_aperture();
      else
        turn_aperture(), turn_iso();
      const double turned = std::abs(2 * std::log2(set.f_number / metered.f_number));
      const double small = std::max(
          0.0, 2 * std::log2(set.f_number / std::max(metered.f_number, diffraction_f(body.pixel_um()))));
      const double cost = 100 * std::max(0.0, std::abs(left) - kClose) +
                          static_cast<double>(stack.which.size()) + turned + 2 * small +
                          0.3 * std::max(0.0, std::log2(set.iso / metered.iso));
      if (cost >= least - 1e-9) continue;
      least = cost;
      best.filter_stops = stack.stops;
      best.setting = set;
      best.missing_stops = std::abs(left) <= kClose + 1e-9 ? 0 : left;
      best.nearest_shutter_s = wanted_s * std::exp2(-best.missing_stops);
      best.filters.clear();
      std::vector<size_t> order = stack.which;
      std::sort(order.begin(), order.end(),
                [&](size_t a, size_t b) { return kit.filters[a].stops > kit.filters[b].stops; });
      for (const size_t i : order) best.filters.push_back(kit.filters[i].name);
    }
    if (best.missing_stops == 0) break;  // three filters only where two do not reach
  }
  return best;
}

Findings judge(const ExposureMatch& m, Seconds wanted_s, const Kit& kit) {
  const Body body = kit.bodies.empty() ? Body{} : kit.bodies.front();
  const Lens lens = kit.lenses.empty() ? Lens{} : kit.lenses.front();
  Findings list;
  std::string stack;
  for (const std::string& f : m.filters) stack += (stack.empty() ? "" : " + ") + f;
  const std::string wanted = dial_shutter_words(wanted_s);
  const std::string need = std::abs(m.stops) < kClose ? say("{}, as metered", wanted)
                           : m.stops > 0
                               ? say("{} needs {} stops less light", wanted, format_number(m.stops, 1))
                               : say("{} needs {} stops more light", wanted, format_number(-m.stops, 1));
  const std::string dials = say("{} and {}", f_words(m.setting.f_number), iso_words(m.setting.iso));
  if (m.missing_stops > 0) {
    list.push_back(
        {"no_filter_gets_there", Severity::Stop, say("No filter gets there"),
         say("{}. The nearest is {} at {}{}. Come at another time of day, take a shorter trail, or "
             "blend frames later.",
             need, format_shutter(m.nearest_shutter_s), dials, stack.empty() ? "" : say(" with ") + stack),
         fix::SetSlot{Slot::Shutter, m.nearest_shutter_s}});
  } else if (m.missing_stops < 0) {
    list.push_back({"too_dark", Severity::Stop, say("Too dark for this shutter"),
                    say("{}. The nearest is {} at {}.", need, format_shutter(m.nearest_shutter_s), dials),
                    fix::SetSlot{Slot::Shutter, m.nearest_shutter_s}});
  } else if (stack.empty()) {
    list.push_back(
        {"exposure_fits", Severity::Ok, say("No filter needed"), fmt::format("{}: {}.", need, dials)});
  } else {
    list.push_back({"filter_needed", Severity::Ok, say("Put on ") + stack,
                    say("{}: {} stops by filter, then {}.", need, format_number(m.filter_stops, 1), dials)});
  }
  if (m.filters.size() >= 2 && lens.focal_mm / body.sensor_width_mm < 0.8)
    list.push_back({"stack_vignettes", Severity::Warning, say("Stacked filters darken the corners"),
                    say("{} filters on {} mm: look at the corners of a test frame.", m.filters.size(),
                        format_number(lens.focal_mm, 0))});
  for (const Filter& f : kit.filters)
    if (f.polariser && std::find(m.filters.begin(), m.filters.end(), f.name) != m.filters.end() &&
        lens.focal_mm / body.sensor_width_mm < 0.9)
      list.push_back({"polariser_uneven", Severity::Warning, say("A polariser darkens a wide sky unevenly"),
                      say("The dark part wanders as the sun moves. Leave it off where the sky is large.")});
  const double limit = diffraction_f(body.pixel_um());
  if (m.setting.f_number > limit * 1.02)
    list.push_back({"diffraction", Severity::Warning, say("Softer from diffraction"),
                    say("From {} on this sensor loses sharpness; {} is smaller.", f_words(limit),
                        f_words(m.setting.f_number))});
  if (m.setting.f_number >= 10.9)  // f/11 and smaller
    list.push_back(
        {"dust", Severity::Warning, say("Dust will show"),
         say("At small apertures every speck on the sensor is a spot in every frame. Clean it first.")});
  return list;
}

Metered test_exposure(const Metered& setting, const Kit& kit) {
  const Body body = kit.bodies.empty() ? Body{} : kit.bodies.front();
  Metered test = setting;
  test.iso = std::max(setting.iso, body.highest_iso);
  test.shutter_s = setting.shutter_s * setting.iso / test.iso;
  return test;
}

double diffraction_f(double pixel_um) {
  return 2 * pixel_um / kAiry_um;
}

double star_drift_px(Seconds shutter_s, double focal_mm, double pixel_um, double declination_deg) {
  const double scale = kArcsec * pixel_um / focal_mm;  // seconds of arc in a pixel
  return kSidereal_arcsec_s * std::abs(std::cos(declination_deg * 3.14159265358979 / 180)) * shutter_s /
         scale;
}

StarRules star_rules(const Body& body, const Lens& lens, double f_number) {
  const double equivalent = lens.focal_mm * 36 / body.sensor_width_mm;
  return {500 / equivalent, 600 / equivalent, (35 * f_number + 30 * body.pixel_um()) / lens.focal_mm};
}

Depth depth_of_field(const Body& body, double focal_mm, double f_number, double focus_m, double blur_um) {
  const double blur_mm = (blur_um > 0 ? blur_um : 2 * body.pixel_um()) / 1000;
  const double h = focal_mm * focal_mm / (f_number * blur_mm) + focal_mm, s = focus_m * 1000;  // mm
  Depth d;
  d.hyperfocal_m = h / 1000;
  d.near_m = s * (h - focal_mm) / (h + s - 2 * focal_mm) / 1000;
  d.far_m = s >= h ? std::numeric_limits<double>::infinity() : s * (h - focal_mm) / (h - s) / 1000;
  return d;
}

}  // namespace askcount::plan
