// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/weather.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/cold.h"
#include "base/language.h"

namespace askcount::sky {

double dew_point_c(double t, double humidity) {
  constexpr double kA = 17.62, kB = 243.12;
  const double g = std::log(std::clamp(humidity, 0.01, 1.0)) + kA * t / (kB + t);
  return kB * g / (kA - g);
}

std::optional<Seconds> dew_after_s(const Weather& w, double temperature_c, Seconds longest_s) {
  if (!w.humidity && !w.dew_point_c) return {};
  const double point = w.dew_point_c ? *w.dew_point_c : dew_point_c(temperature_c, *w.humidity);
  const double spare = temperature_c - kGlassBelowAir_c - point;
  if (spare <= 0) return 0;
  if (w.cooling_c_per_hour <= 0) return {};
  const Seconds after = spare / w.cooling_c_per_hour * 3600;
  return after <= longest_s ? std::optional(after) : std::nullopt;
}

Findings judge(const Weather& w, double temperature_c, double focal_mm, Seconds field_s,
               const std::string& dew_clock) {
  Findings list;
  if (w.humidity || w.dew_point_c) {
    const double point = w.dew_point_c ? *w.dew_point_c : dew_point_c(temperature_c, *w.humidity);
    const auto after = dew_after_s(w, temperature_c, field_s);
    const std::string air =
        say("Air {} °C, dew point {} °C.", format_number(temperature_c, 1), format_number(point, 1));
    if (after)
      list.push_back({"dew", w.heater ? Severity::Ok : Severity::Stop,
                      *after <= 0 ? say("Dew from the start") : say("Dew from ") + dew_clock,
                      air + (w.heater ? say(" Switch the lens heater on before that.")
                                      : say(" Bring a lens heater or a warm sock with a heat pack, and "
                                            "switch it on before that."))});
    else
      list.push_back({"no_dew", Severity::Ok, say("No dew"), air + say(" The glass stays dry.")});
  }
  if (temperature_c < 5)
    list.push_back(
        {"cold", Severity::Warning, say("Cold"),
         say("At {} °C batteries hold {} of their charge: keep the spare ones warm. Dress for hours "
             "of standing, and stop when fingers go numb.",
             format_number(temperature_c, 0), format_number(cold_share(temperature_c) * 100, 0) + " %")});
  const double steady = (focal_mm > 85 ? 5 : 9) - (w.tall_tripod ? 2 : 0);
  if (w.wind_m_s > steady)
    list.push_back({"wind", Severity::Warning, say("Wind shakes it"),
                    say("{} m/s on {}{}: set the tripod low, hang no weight that swings, take off "
                        "strap and hood, stand in the lee.",
                        format_number(w.wind_m_s, 0), focal_mm > 85 ? say("a long lens") : say("the camera"),
                        w.tall_tripod ? say(" and a tall tripod") : "")});
  return list;
}

}  // namespace askcount::sky
