// SPDX-License-Identifier: GPL-3.0-or-later
// The order pictures were shot in: by their times, and by their numbers where those do not tell.
#include <algorithm>
#include <charconv>
#include <chrono>
#include <cmath>
#include <map>

#include "ingest/inventory.h"
#include "media/film_frames.h"

namespace askcount::ingest {
namespace {

using media::CameraTime;
using media::Exposure;

constexpr long long kRollOver = 5000;  // numbers further apart than this have begun anew in between
constexpr size_t kLongestDoubt = 20;   // files in a row whose time may be wrong

/// Exposures of one folder in the order of their numbers: indices.
using Chain = std::vector<size_t>;

/// Seconds of the camera's clock; an hour that its zone moved on is taken out again.
double seconds(const Exposure& e, std::optional<int> zone) {
  const double t = media::seconds_of(*e.info.captured);
  return zone && e.info.zone_min ? t - 60.0 * (*e.info.zone_min - *zone) : t;
}

void move_clock(Exposure& e, double by_s) {
  *e.info.captured += std::chrono::milliseconds(std::llround(by_s * 1000));
}

/// Turns a folder whose numbers begin anew (… 9999, 0001 …) so that it begins after the widest hole.
void roll_over(Chain& chain, const std::vector<Exposure>& exposures) {
  if (chain.size() < 2) return;
  const auto number = [&](size_t i) { return number_of(exposures[chain[i]].file()); };
  if (number(0) < 0 || number(chain.size() - 1) - number(0) < kRollOver) return;
  if (number(0) > 200 || number(chain.size() - 1) < 9800) return;
  size_t widest = 0;
  long long hole = 0;
  for (size_t i = 1; i < chain.size(); ++i)
    if (number(i) - number(i - 1) > hole) hole = number(i) - number(i - 1), widest = i;
  if (hole < kRollOver / 5) return;
  // Where times say otherwise they are right: numbers that were only skipped.
  const auto &last = exposures[chain.back()].info.captured, &first = exposures[chain.front()].info.captured;
  if (last && first && *last > *first) return;
  std::rotate(chain.begin(), chain.begin() + static_cast<long>(widest), chain.end());
}

double median_gap(const Chain& chain, const std::vector<Exposure>& exposures, std::optional<int> zone) {
  std::vector<double> gaps;
  std::optional<double> before;
  for (const size_t i : chain)
    if (exposures[i].info.captured) {
      const double t = seconds(exposures[i], zone);
      if (before && t > *before) gaps.push_back(t - *before);
      before = t;
    }
  if (gaps.empty()) return 0;
  std::nth_element(gaps.begin(), gaps.begin() + static_cast<long>(gaps.size() / 2), gaps.end());
  return gaps[gaps.size() / 2];
}

/// Whether the file at place k follows the one before it by number, with none between.
bool follows(const Chain& chain, const std::vector<Exposure>& exposures, size_t k) {
  const long long a = number_of(exposures[chain[k - 1]].file()), b = number_of(exposures[chain[k]].file());
  return a >= 0 && (b == a + 1 || (a == 9999 && b <= 1));
}

/// Times that do not fit between those of the neighbours by number are not believed: a few wrong ones in a
/// row go; a clock that was set back in mid-take, and stays so, is put forward.
void doubt(Chain& chain, std::vector<Exposure>& exposures, std::optional<int> zone,
           std::vector<ClockNote>& notes) {
  std::vector<size_t> timed;  // places in the chain
  for (size_t k = 0; k < chain.size(); ++k)
    if (exposures[chain[k]].info.captured) timed.push_back(k);
  if (timed.size() < 4) return;
  const double beat = median_gap(chain, exposures, zone);
  const auto at = [&](size_t j) { return seconds(exposures[chain[timed[j]]], zone); };
  const auto slack = [&](size_t files) { return 3 * beat * static_cast<double>(files + 1) + 2; };
  for (size_t j = 1; j < timed.size(); ++j) {
    const double before = at(j - 1);
    const bool backwards = at(j) < before - 1;
    if (!backwards && at(j) - before <= slack(0)) continue;
    // How many files until the clock is right again?
    size_t back = 0;
    for (size_t n = 1; n <= kLongestDoubt && j + n < timed.size() && back == 0; ++n)
      // Ahead of their time, files are wrong only where the clock falls back behind them.
      if (at(j + n) >= before - 1 && at(j + n) - before <= slack(n) &&
          (backwards || at(j + n) < at(j + n - 1) - 1))
        back = n;
    // A first file that is off leaves all others behind it right.
    if (back > 0 && follows(chain, exposures, timed[j])) {
      for (size_t n = 0; n < back; ++n) {
        Exposure& e = exposures[chain[timed[j + n]]];
        notes.push_back({ClockNote::What::NotBelieved, e.file(), at(j + n) - before});
        e.info.captured.reset();
      }
      timed.erase(timed.begin() + static_cast<long>(j), timed.begin() + static_cast<long>(j + back));
      --j;
      continue;
    }
    if (!backwards || !follows(chain, exposures, timed[j])) continue;
    const double by = before + beat - at(j);
    if (j == 1) {  // the first one alone was ahead
      Exposure& e = exposures[chain[timed[0]]];
      notes.push_back({ClockNote::What::NotBelieved, e.file(), before - at(j)});
      e.info.captured.reset();
      timed.erase(timed.begin());
      --j;
      continue;
    }
    notes.push_back({ClockNote::What::SetBack, exposures[chain[timed[j]]].file(), by});
    for (size_t k = j; k < timed.size(); ++k) move_clock(exposures[chain[timed[k]]], by);
  }
}

}  // namespace

std::string camera_of(const Exposure& exposure) {
  return exposure.info.body + "|" + exposure.info.serial;
}

long long number_of(const std::filesystem::path& file) {
  if (media::is_in_film(file)) return -1;  // its number is its place in the film
  const std::string stem = file.stem().string();
  size_t from = stem.size();
  while (from > 0 && stem[from - 1] >= '0' && stem[from - 1] <= '9' && stem.size() - from < 9) --from;
  long long number = -1;
  std::from_chars(stem.data() + from, stem.data() + stem.size(), number);
  return number;
}

void put_in_order(std::vector<Exposure>& exposures, std::vector<ClockNote>& notes) {
  std::optional<int> zone;
  for (const Exposure& e : exposures)
    if (!zone) zone = e.info.zone_min;
  // Folders in the order they come, each in the order of its numbers.
  std::vector<Chain> chains;
  std::map<std::pair<std::string, std::string>, size_t> chain_of;
  for (size_t i = 0; i < exposures.size(); ++i) {
    // Two cameras into one folder count each for itself.
    const auto [at, fresh] = chain_of.emplace(
        std::pair(exposures[i].file().parent_path().string(), exposures[i].info.body), chains.size());
    if (fresh) chains.emplace_back();
    chains[at->second].push_back(i);
  }
  // Files that say nothing of their camera stand with the folder's others.
  for (auto& [key, nameless] : chain_of) {
    if (!key.second.empty()) continue;
    size_t largest = nameless;
    for (const auto& [other, at] : chain_of)
      if (other.first == key.first && at != nameless &&
          (largest == nameless || chains[at].size() > chains[largest].size()))
        largest = at;
    if (largest == nameless) continue;
    Chain merged;
    std::merge(chains[nameless].begin(), chains[nameless].end(), chains[largest].begin(),
               chains[largest].end(), std::back_inserter(merged));
    chains[nameless].clear();
    chains[largest] = std::move(merged);
  }
  struct Key {
    std::optional<double> t;
    size_t place, index;
  };
  std::vector<Key> keys;
  for (Chain& chain : chains) {
    roll_over(chain, exposures);
    doubt(chain, exposures, zone, notes);
    // A file without a time stands after the one before it; the first ones stand before the first that has
    // one.
    std::optional<double> last;
    for (const size_t i : chain)
      if (!last && exposures[i].info.captured) last = seconds(exposures[i], zone);
    for (const size_t i : chain) {
      if (exposures[i].info.captured) last = seconds(exposures[i], zone);
      keys.push_back({last, keys.size(), i});
    }
  }
  std::stable_sort(keys.begin(), keys.end(), [](const Key& a, const Key& b) { return a.t < b.t; });
  std::vector<Exposure> sorted;
  sorted.reserve(keys.size());
  for (const Key& key : keys) sorted.push_back(std::move(exposures[key.index]));
  exposures = std::move(sorted);
}

}  // namespace askcount::ingest
