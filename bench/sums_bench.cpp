// SPDX-License-Identifier: GPL-3.0-or-later
// What every edit costs: the solve with its findings, the rulers, the levelling of a long curve.
#include <benchmark/benchmark.h>

#include <cmath>

#include "advice/plan_advice.h"
#include "forecast/forecast.h"
#include "level/levelling.h"
#include "plan/rulers.h"
#include "plan/sums.h"
#include "sky/sun.h"

namespace {

using namespace askcount;

void solve_with_findings(benchmark::State& state) {
  take::Take take = take::demo_take();
  double interval = 5;
  for (auto _ : state) {
    take.wish(plan::Slot::Interval, interval += 0.001);
    benchmark::DoNotOptimize(advice::plan_advice(take));
  }
}
BENCHMARK(solve_with_findings)->Unit(benchmark::kMicrosecond);

/// Light, ramp and every press of 32,000 shots over two days and nights.
void forecast_of_32000_shots(benchmark::State& state) {
  take::Take take = take::demo_take();
  take.wishes.clear();
  take.wish(plan::Slot::Fps, 25);
  take.wish(plan::Slot::Frames, 32000);
  take.wish(plan::Slot::Interval, 5);
  double turn = 0;
  for (auto _ : state) {
    take.light.source.town_lux = 2 + (turn += 0.001);
    benchmark::DoNotOptimize(forecast::forecast_of(take));
  }
}
BENCHMARK(forecast_of_32000_shots)->Unit(benchmark::kMillisecond);

void sun_along_the_span(benchmark::State& state) {
  const take::Take take = take::demo_take();
  for (auto _ : state)
    benchmark::DoNotOptimize(sky::sun_altitudes(take.place, take.start, later(take.start, 7200), 160));
}
BENCHMARK(sun_along_the_span)->Unit(benchmark::kMillisecond);

void level_5000_frames(benchmark::State& state) {
  std::vector<image::Luminance> lights(5000);
  std::vector<const image::Luminance*> pointers;
  std::vector<std::optional<double>> exposures;
  for (size_t n = 0; n < lights.size(); ++n) {
    lights[n].mean = 0.1 * std::exp2(0.1 * std::sin(static_cast<double>(n) * 12.9898));
    lights[n].parts.fill(static_cast<float>(std::log2(lights[n].mean)));
    pointers.push_back(&lights[n]);
    exposures.emplace_back(static_cast<double>(n / 12) / 3);
  }
  for (auto _ : state) benchmark::DoNotOptimize(level::level_all(pointers, exposures));
}
BENCHMARK(level_5000_frames)->Unit(benchmark::kMillisecond);

}  // namespace

BENCHMARK_MAIN();
