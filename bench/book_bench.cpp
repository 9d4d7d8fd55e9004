// SPDX-License-Identifier: GPL-3.0-or-later
// A book of 10,000 takes: filing, listing, searching, reading the kit off it, opening it.
#include <benchmark/benchmark.h>
#include <fmt/format.h>
#include <unistd.h>

#include <cstdlib>

#include "book/book.h"
#include "book/kit.h"

namespace {

using namespace askcount;

book::Entry made_up(int n) {
  static constexpr const char* subjects[] = {"clouds", "stars", "boats", "traffic", "plants", "people"};
  static constexpr const char* places[] = {"Tern Quay", "Gannet Head", "Window sill", "The Ropewalk"};
  book::Entry e;
  e.file = fmt::format("/made/up/take {}.askcount", n);
  e.name = fmt::format("Take {} of the {}", n, subjects[n % 6]);
  e.subject = subjects[n % 6];
  e.place = {places[n % 4], 56.1, -5.5, "Europe/London", 0};
  e.start = Instant(std::chrono::hours(400000 + 7 * n));
  e.planned = {300, 5, 25, "1/125 s to 4 s", 1, "300 times, one every 5 s", "hand", 13.0, 4.0};
  e.gear = {"Body", "Lens", "Timer", {"Cell A", "Cell B"}, {"Card"}, {}};
  e.came = book::Came{250 + n % 50, n % 3, n % 4, 0, 5.0, 1, 1500, "/made/up", "Body"};
  e.evened = book::Evened{0.12, 0.001, true};
  e.faults = std::map<std::string, long long>{{"late", n % 4}, {"dew", n % 7}};
  e.shot = book::Shot{false, 250, n % 3, 30, n % 5, 1, {fmt::format("Changed the battery after {}", n)}};
  e.films = {{fmt::format("/made/up/take {}.mp4", n), 10, 25, 1920, 1080, "h264", 1e7, e.start}};
  e.by_frames = {{"writing", "Body", 0.6 + 0.001 * (n % 100), 0.5, book::Measure::Bound::Exact, {}, {}},
                 {"drift", "Timer", 0.1 * (n % 5), 0, book::Measure::Bound::Exact, 11.0, {}}};
  e.by_journal = {
      {"battery", "Cell A", 500.0 + n % 200, 450, book::Measure::Bound::Exact, 1.0 * (n % 30), {}}};
  e.words = {static_cast<book::Verdict>(n % 4),
             fmt::format("A note about the {} and wind force {}", places[n % 4], n % 9),
             "Start ten minutes earlier", true};
  e.picture.assign(4000, static_cast<char>(n));
  return e;
}

/// Gone at the end.
struct Folder {
  std::string name = "/tmp/askcount-book-XXXXXX";
  Folder() {
    if (!mkdtemp(name.data())) std::abort();
  }
  ~Folder() { std::filesystem::remove_all(name); }
};

book::Book& large_book() {
  static const Folder folder;
  static book::Book book(folder.name + "/book.db");
  static const bool filled = [] {
    std::vector<book::Entry> all;
    for (int n = 0; n < 10000; ++n) all.push_back(made_up(n));
    book.file(all);
    return true;
  }();
  (void)filled;
  return book;
}

void list_10000(benchmark::State& state) {
  book::Book& book = large_book();
  for (auto _ : state) benchmark::DoNotOptimize(book.list());
}
BENCHMARK(list_10000)->Unit(benchmark::kMillisecond);

void search_10000(benchmark::State& state) {
  book::Book& book = large_book();
  book::Query query;
  query.words = "wind gannet";
  for (auto _ : state) benchmark::DoNotOptimize(book.list(query));
}
BENCHMARK(search_10000)->Unit(benchmark::kMillisecond);

void by_place_and_month(benchmark::State& state) {
  book::Book& book = large_book();
  book::Query query;
  query.place = "quay";
  query.month = 10;
  for (auto _ : state) benchmark::DoNotOptimize(book.list(query));
}
BENCHMARK(by_place_and_month)->Unit(benchmark::kMillisecond);

void kit_of_10000(benchmark::State& state) {
  book::Book& book = large_book();
  for (auto _ : state) benchmark::DoNotOptimize(book::kit_facts(book.measures(), {}));
}
BENCHMARK(kit_of_10000)->Unit(benchmark::kMillisecond);

void open_a_large_one(benchmark::State& state) {
  const auto file = large_book().path();
  for (auto _ : state) benchmark::DoNotOptimize(book::Book(file).path());
}
BENCHMARK(open_a_large_one)->Unit(benchmark::kMillisecond);

void check_a_large_one(benchmark::State& state) {
  book::Book& book = large_book();
  for (auto _ : state) book.check();
}
BENCHMARK(check_a_large_one)->Unit(benchmark::kMillisecond);

void file_one_more(benchmark::State& state) {
  book::Book& book = large_book();
  int n = 10000;
  for (auto _ : state) book.file(made_up(n++));
}
BENCHMARK(file_one_more)->Unit(benchmark::kMillisecond);

}  // namespace

BENCHMARK_MAIN();
