// SPDX-License-Identifier: GPL-3.0-or-later
// Dew, cold and wind: when they come, and exactly where a warning begins.
#include "sky/weather.h"

#include <cmath>

#include "support.h"

namespace askcount::sky {
namespace {

bool has(const Findings& list, const char* code) {
  return std::any_of(list.begin(), list.end(), [&](const Finding& f) { return f.code == code; });
}

Findings judged(const Weather& w, double temperature_c = 11, double focal_mm = 24) {
  return judge(w, temperature_c, focal_mm, 4 * 3600, "19:09");
}

TEST(DewPoint, IsThatOfTheTables) {
  EXPECT_NEAR(dew_point_c(20, 1), 20, 1e-9);
  EXPECT_NEAR(dew_point_c(20, 0.5), 9.3, 0.05);  // as printed in tables of moist air
  EXPECT_NEAR(dew_point_c(10, 0.8), 6.7, 0.05);
  EXPECT_NEAR(dew_point_c(0, 0.6), -6.8, 0.1);
}

TEST(Dew, ComesWhenGlassIsAtTheDewPoint) {
  Weather w;
  EXPECT_FALSE(dew_after_s(w, 11, 1e6)) << "nobody said how damp it is";
  w.dew_point_c = 7;
  w.cooling_c_per_hour = 1;
  // Glass is 2 °C below the air: 11 − 2 − 7 = 2 °C to go, at a degree an hour.
  EXPECT_NEAR(dew_after_s(w, 11, 1e6).value_or(-1), 7200, 1e-6);
  EXPECT_NEAR(dew_after_s(w, 11, 7200).value_or(-1), 7200, 1e-6) << "just within the take";
  EXPECT_FALSE(dew_after_s(w, 11, 7199));
  EXPECT_EQ(dew_after_s(w, 9, 1e6), 0) << "there already";
  w.cooling_c_per_hour = 2;
  EXPECT_NEAR(dew_after_s(w, 11, 1e6).value_or(-1), 3600, 1e-6);
  w.cooling_c_per_hour = 0;
  EXPECT_FALSE(dew_after_s(w, 11, 1e6)) << "it does not get colder";
  EXPECT_EQ(dew_after_s(w, 8, 1e6), 0);
}

TEST(WeatherJudged, DewIsAStopWithoutAHeaterAndFineWithOne) {
  Weather w;
  w.humidity = 0.95;
  Findings list = judged(w);
  ASSERT_TRUE(has(list, "dew"));
  EXPECT_EQ(list.front().severity, Severity::Stop);
  w.heater = true;
  EXPECT_EQ(judged(w).front().severity, Severity::Ok);
  w.humidity = 0.2;
  EXPECT_TRUE(has(judged(w), "no_dew"));
  EXPECT_FALSE(has(judged(w), "dew"));
}

TEST(WeatherJudged, ColdBelowFiveAndWindAboveWhatTheLensStands) {
  EXPECT_FALSE(has(judged({}, 5), "cold"));
  EXPECT_TRUE(has(judged({}, 4.9), "cold"));
  const auto shakes = [](double wind, double focal_mm, bool tall) {
    Weather w;
    w.wind_m_s = wind;
    w.tall_tripod = tall;
    return has(judged(w, 11, focal_mm), "wind");
  };
  EXPECT_FALSE(shakes(9, 85, false));
  EXPECT_TRUE(shakes(9.1, 85, false));
  EXPECT_FALSE(shakes(7, 24, true)) << "a tall tripod stands 2 m/s less";
  EXPECT_TRUE(shakes(7.1, 24, true));
  EXPECT_FALSE(shakes(5, 85.5, false)) << "a long lens begins above 85 mm";
  EXPECT_TRUE(shakes(5.1, 85.5, false));
  EXPECT_TRUE(shakes(3.1, 200, true));
  EXPECT_FALSE(shakes(3, 200, true));
}

}  // namespace
}  // namespace askcount::sky
