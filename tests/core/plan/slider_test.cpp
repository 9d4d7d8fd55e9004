// SPDX-License-Identifier: GPL-3.0-or-later
// A camera on a slider.
#include "plan/slider.h"

#include "advice/plan_advice.h"
#include "forecast/shoot.h"
#include "support.h"

namespace askcount::plan {
namespace {

take::Take sliding(double travel_m, double nearest_m) {
  take::Take t = take::demo_take();
  t.light.method = ramp::Method::Fixed;
  t.slider = {travel_m, 0.5, nearest_m};
  return t;
}

TEST(Slider, StepsAndPassesWhatIsNearByThePinholeModel) {
  const take::Take t = sliding(0.6, 1.5);
  const Sliding s = forecast::sliding_of(t, t.sums(), 4);
  EXPECT_NEAR(s.step_mm, 600.0 / 249, 1e-9);
  // 24 mm on 36 mm: at 1.5 m the frame is 2.25 m wide, so 0.6 m are 26.7 % of it.
  EXPECT_NEAR(s.near_across, 0.6 / 2.25, 1e-9);
  EXPECT_NEAR(s.near_step * 249, s.near_across, 1e-12);
  // At this pace a whole width takes 249 ÷ 0.2667 frames, at 25 fps.
  EXPECT_NEAR(s.near_crossing_film_s, 249 / (0.6 / 2.25) / 25, 1e-9);
  EXPECT_NEAR(s.free_s, 20 - 4, 1e-9);
  EXPECT_EQ(forecast::sliding_of(sliding(0, 1), t.sums(), 4).near_crossing_film_s, 0);
}

TEST(Slider, IsJudgedWhereItSwaysOrRaces) {
  const auto code = [](const take::Take& t) -> std::string {
    for (const Finding& f : advice::plan_advice(t))
      if (f.code.starts_with("slider")) return f.code;
    return {};
  };
  EXPECT_EQ(code(sliding(0, 1.5)), "");
  EXPECT_EQ(code(sliding(0.6, 1.5)), "slider");
  EXPECT_EQ(code(sliding(2, 0.3)), "slider_too_fast");
  take::Take busy = sliding(0.6, 1.5);
  busy.slider.settling_s = 15.6;  // 16 s are free, half a second is for the step itself
  EXPECT_EQ(code(busy), "slider_sways");
  busy.slider.settling_s = 15.4;
  EXPECT_EQ(code(busy), "slider");
  EXPECT_EQ(take::take_from_json(take::to_json(busy), "t"), busy);
}

}  // namespace
}  // namespace askcount::plan
