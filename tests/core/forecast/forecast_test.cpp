// SPDX-License-Identifier: GPL-3.0-or-later
// One forecast, and everything that reads it: whatever two places say of a take is the same.
#include "forecast/forecast.h"

#include <chrono>
#include <cmath>

#include "base/dials.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "forecast/trial.h"
#include "ingest/gather.h"
#include "paper/calendar.h"
#include "simulate/shoot.h"
#include "support.h"
#include "timer/keyed.h"

namespace askcount::forecast {
namespace {

using plan::Slot;
using take::Take;

struct Unlike {
  const char* name;
  Take (*take)();
};

Take plain(const char* subject, double frames, double interval_s) {
  Take t;
  t.name = subject;
  t.subject = subject;
  t.place = simulate::scene_place("Tern Quay");
  t.start = parse_wall_time("2026-10-09 12:00", t.place.zone);
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Interval, interval_s);
  t.wish(Slot::Frames, frames);
  t.stand_in.frame_size = {48, 32};
  return t;
}

Take dusk() {
  Take t = take::demo_take();
  t.stand_in.frame_size = {48, 32};
  return t;
}
Take dig() {
  Take t = plain("building site", 180, 60);
  t.start = parse_wall_time("2026-10-09 09:00", t.place.zone);
  t.work = plan::parse_work("9-10");
  return t;
}
Take dig_by_weeks() {
  Take t = plain("building site", 40, 1200);
  t.start = parse_wall_time("2026-10-08 14:10", t.place.zone);  // a Thursday, within the hours
  t.work = plan::parse_work("7:30-16x5");
  return t;
}
Take road() {
  Take t = plain("traffic", 90, 2);
  t.metered = plan::Metered{1.0 / 250, 8, 100};
  return t;
}
Take city_by_itself() {
  Take t = plain("city", 960, 8);
  t.start = parse_wall_time("2026-10-09 17:50", t.place.zone);
  t.metered = plan::Metered{1.0 / 60, 16, 100};
  t.light.method = ramp::Method::AperturePriority;
  return t;
}
Take southern_dusk() {
  Take t = plain("sunset", 120, 30);
  t.place = {"A southern bay", -33.9, 18.4, "Africa/Johannesburg", 0};
  t.start = parse_wall_time("2026-10-09 18:20", t.place.zone);
  return t;
}
Take stars() {
  Take t = plain("stars", 60, 25);
  t.place = simulate::scene_place("Gannet Head");
  t.start = simulate::scene_start("Gannet Head");
  t.kit = plan::demo_kit();
  t.timer = "Tidewatch radio";
  t.light.source.sky_mag = 21.5;
  return t;
}
Take seedlings() {
  Take t = plain("plants growing", 48, 900);
  t.kit = plan::demo_kit();
  t.kit.lamps = {{"Bench flash", 0, 30, 12}};
  t.lamp = true;
  t.focus.magnification = 0.5;
  return t;
}
Take short_battery() {
  Take t = plain("slow clouds", 180, 10);
  t.kit = plan::demo_kit();
  t.kit.batteries = {{"Old cell", 100, 4, 20}};
  t.temperature_c = 10;
  return t;
}
Take bank_and_heater() {
  Take t = plain("star trails", 700, 32);
  t.place = simulate::scene_place("Gannet Head");
  t.start = simulate::scene_start("Gannet Head");
  t.kit = plan::demo_kit();
  t.kit.power_banks = {{"Bank", 37, 0.25, 0, true}};
  t.kit.heater_w = 6;
  t.external_power = true;
  return t;
}
Take small_card() {
  Take t = plain("crowds", 150, 5);
  t.kit = plan::demo_kit();
  t.kit.cards = {{"Sliver", 2, 90}};
  return t;
}
Take long_count() {
  Take t = plain("shadows", 450, 20);
  t.kit = plan::demo_kit();
  t.kit.batteries = {{"Cell", 2000, 40, 20}};
  t.timer = "Tidewatch cable";  // counts to 399
  return t;
}
Take brackets() {
  Take t = plain("clouds", 60, 12);
  t.kit = plan::demo_kit();
  plan::parse_brackets("3x2", t.shot);
  t.metered = plan::Metered{1.0 / 125, 8, 100};
  return t;
}

class OneForecast : public ::testing::TestWithParam<Unlike> {};

TEST_P(OneForecast, IsWhatEveryPlaceSays) {
  const Take t = GetParam().take();
  const plan::Sums sums = t.sums();
  const ramp::Ramp ramp = ramp_in_any_case(t);
  const ExposurePlan exposure = exposure_of(t, ramp);
  const Forecast f = forecast_of(t, ramp, exposure, Detail::Shots);
  const timer::Program program = program_of(t, exposure);

  // The list and its sums.
  ASSERT_EQ(f.shots.size(), static_cast<size_t>(f.planned));
  EXPECT_EQ(f.planned, plan::shots_of(sums));
  EXPECT_EQ(program.count, f.planned);
  EXPECT_DOUBLE_EQ(program.interval_s, f.schedule.interval_s());
  long long heard = 0, shots = 0, frames = 0;
  for (const Shot& s : f.shots) heard += s.heard == plan::Heard::Yes && s.pressed;
  EXPECT_EQ(heard, f.frames);
  for (const ForecastDay& d : f.days) shots += d.shots, frames += d.frames;
  EXPECT_EQ(shots, f.planned);
  EXPECT_EQ(frames, f.frames);
  const Forecast summary = forecast_of(t);
  EXPECT_EQ(summary.frames, f.frames);
  EXPECT_EQ(summary.lost, f.lost);
  EXPECT_EQ(summary.ends_at, f.ends_at);
  EXPECT_EQ(summary.ends_by, f.ends_by);
  EXPECT_DOUBLE_EQ(summary.ends_s, f.ends_s);

  // The timer's program, day by day.
  if (!t.work.always()) {
    long long by_days = 0;
    for (const long long d : program.days) by_days += d;
    EXPECT_EQ(by_days, f.planned);
    EXPECT_EQ(program.days.size(), f.days.size());
    const auto days = days_of(t, sums);
    ASSERT_TRUE(days);
    EXPECT_EQ(static_cast<size_t>(std::ceil(days->days - 1e-9)), f.days.size());
  }

  // The calendar: an event a day, from the first opening to the last closing of it.
  const std::string calendar = paper::calendar_text(t);
  const size_t events = t.work.always() ? 1 : f.days.size();
  size_t found = 0;
  for (size_t at = calendar.find("Ten minutes"); at != std::string::npos;
       at = calendar.find("Ten minutes", at + 1))
    ++found;
  EXPECT_EQ(found, events);

  // Budgets: what ends first there ends the take here, at the same frame.
  if (f.lost == 0 && f.ends_by != End::Plan && f.ends_by != End::Light) {
    long long first = f.planned + 1;
    for (const plan::Budget& b : budgets_of(t, sums))
      if (b.ends_at_frame &&
          (b.name == "battery" || b.name == "power bank" || b.name == "card" || b.name == "timer"))
        first = std::min(first, *b.ends_at_frame);
    EXPECT_EQ(first, f.ends_at);
    EXPECT_EQ(f.frames, f.ends_at);
  }

  // The program keyed in as it is told.
  const timer::Keyed keyed{10, program.hold_s, program.setting_s, program.keyed_count(), false};
  const plan::Sums at_once = sums_at_once(t, program);
  const timer::Outcome o = timer::what_happens(
      keyed, program.timer, camera_of(t, program, ramp, exposure, program.hold_s), at_once);
  if (t.work.always()) {
    EXPECT_EQ(o.missed, f.lost);
  }
}

TEST_P(OneForecast, IsPlayedByTheStandIn) {
  const test::Folder folder;
  const Take t = GetParam().take();
  const Forecast f = forecast_of(t, Detail::Shots);
  simulate::RigSetting rig = rig_of(t, folder / "card");
  rig.test_shots = 0;
  rig.markers = false;
  std::vector<Instant> opened;
  std::vector<double> shutters;
  simulate::Rig standin(rig);
  const auto outcome = standin.run(
      [&](const simulate::RigEvent& e) {
        if (e.kind != simulate::RigEvent::Kind::Shot) return;
        opened.push_back(e.start);
        shutters.push_back(e.exposure.shutter_s);
      },
      {});
  EXPECT_EQ(outcome.frames, f.frames);
  size_t n = 0;
  const Instant start = world_of(t).start;
  for (const Shot& s : f.shots) {
    if (s.heard != plan::Heard::Yes || !s.pressed) continue;
    ASSERT_LT(n, opened.size());
    EXPECT_NEAR(seconds_between(start, opened[n]), s.at_s, 0.002) << n;
    EXPECT_NEAR(std::log2(shutters[n] / s.exposure.shutter_s), 0, 1e-6) << n;
    ++n;
  }
  EXPECT_EQ(n, opened.size());
}

INSTANTIATE_TEST_SUITE_P(
    OfUnlikeTakes, OneForecast,
    ::testing::Values(Unlike{"Dusk", dusk}, Unlike{"Dig", dig}, Unlike{"DigByWeeks", dig_by_weeks},
                      Unlike{"Road", road}, Unlike{"CityByItself", city_by_itself},
                      Unlike{"SouthernDusk", southern_dusk}, Unlike{"Stars", stars},
                      Unlike{"Seedlings", seedlings}, Unlike{"ShortBattery", short_battery},
                      Unlike{"BankAndHeater", bank_and_heater}, Unlike{"SmallCard", small_card},
                      Unlike{"LongCount", long_count}, Unlike{"Brackets", brackets}),
    [](const auto& info) { return info.param.name; });

TEST(Forecast, OfADigIsThreeMorningsOfWork) {
  const Forecast f = forecast_of(dig(), Detail::Shots);
  ASSERT_EQ(f.days.size(), 3u);
  EXPECT_EQ(f.days[0].shots, 61);  // 9:00, 9:01 … 10:00
  EXPECT_EQ(f.days[1].shots, 61);
  EXPECT_EQ(f.days[2].shots, 58);
  EXPECT_EQ(format_day(*f.days[2].date), "2026-10-11");
  EXPECT_DOUBLE_EQ(f.shots[61].at_s, 86400);
  EXPECT_DOUBLE_EQ(f.shots.back().at_s, 2 * 86400 + 57 * 60);
}

TEST(Forecast, SkipsTheDaysOffAndTheHoursBeforeTheStart) {
  const Forecast f = forecast_of(dig_by_weeks());
  // Thursday from 14:10: 14:10, 14:30 … 15:50; then 7:30 … 15:50 on Friday, and on Monday.
  ASSERT_EQ(f.days.size(), 3u);
  EXPECT_EQ(f.days[0].shots, 6);
  EXPECT_EQ(f.days[1].shots, 26);
  EXPECT_EQ(format_day(*f.days[1].date), "2026-10-09");
  EXPECT_EQ(format_day(*f.days[2].date), "2026-10-12");
  EXPECT_EQ(f.days[2].shots, 8);
}

TEST(Forecast, ANinetyDayTakeIsNinetyDaysOnTheCalendar) {
  Take t = plain("building site", 1, 600);
  t.wishes.clear();
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Interval, 600);
  t.wish(Slot::Field, 90 * 86400.0);
  t.start = parse_wall_time("2026-03-02 07:00", t.place.zone);  // a Monday
  t.work = plan::parse_work("7-18x5");
  const Forecast f = forecast_of(t);
  // 12 weeks and Monday to Saturday: 65 days, each 67 shots.
  EXPECT_EQ(f.days.size(), 65u);
  EXPECT_EQ(f.planned, 65 * 67);
  EXPECT_EQ(format_day(*f.days.back().date), "2026-05-29");
  // Monday 7:00 to the last Friday 18:00, an hour less for the summer's clock.
  EXPECT_NEAR(t.sums().field_s / 3600, 88 * 24 + 11 - 1, 0.01);
}

TEST(Forecast, ABatteryIsOneModel) {
  const Take t = short_battery();
  // 100 shots, 1.5 % less a degree below 20 °C: 85 at 10 °C; its four hours would be 1,224 at 10 s.
  const Forecast f = forecast_of(t);
  EXPECT_EQ(f.ends_by, End::Battery);
  EXPECT_EQ(f.frames, 85);
  Take hours = t;
  hours.kit.batteries = {{"Old cell", 10000, 0.2, 20}};  // 720 s, 612 s in the cold
  EXPECT_EQ(forecast_of(hours).frames, 61);
}

TEST(Forecast, AHeaterDrainsTheBankThatFeedsIt) {
  // 37 Wh less a quarter, less 7.5 % at 15 °C, by 3 W and 6 W.
  const Take t = bank_and_heater();
  EXPECT_EQ(forecast_of(t).frames, static_cast<long long>(37 * 0.75 * 0.925 / 9 * 3600 / 32));
  Take without = t;
  without.kit.heater_w = 0;
  EXPECT_EQ(forecast_of(without).ends_by, End::Plan) << "it would feed 962";
  EXPECT_EQ(forecast_of(without).frames, 700);
}

TEST(Forecast, ATimerThatCountsNoFurtherEndsTheTakeButNotADayOfWork) {
  EXPECT_EQ(forecast_of(long_count()).ends_by, End::Timer);
  EXPECT_EQ(forecast_of(long_count()).frames, 399);
  Take t = long_count();
  t.work = plan::parse_work("10-11");  // 181 a day
  EXPECT_EQ(forecast_of(t).ends_by, End::Plan);
  EXPECT_EQ(forecast_of(t).frames, 450);
}

TEST(Forecast, ACameraThatExposesByItselfLosesPressesFromAFrameOn) {
  const Take t = city_by_itself();
  const Forecast f = forecast_of(t, Detail::Shots);
  EXPECT_EQ(f.shots.front().exposure.f_number, exact_f_number(16)) << "the aperture is the person's";
  ASSERT_TRUE(f.first_lost);
  for (long long n = 0; n < *f.first_lost; ++n)
    EXPECT_EQ(f.shots[static_cast<size_t>(n)].heard, plan::Heard::Yes);
  EXPECT_GT(*f.first_lost, 400);
  EXPECT_LT(f.lost, 400);
  // The shot before the first that is lost is too long for its interval.
  const Shot& before = f.shots[static_cast<size_t>(*f.first_lost) - 1];
  EXPECT_GT(before.exposure.shutter_s + t.body().writing_s, 8);
}

}  // namespace
}  // namespace askcount::forecast
