#include "gather/gather.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

#include "base/error.h"
#include "base/units.h"
#include "image/luminance.h"
#include "source/frame_source.h"

namespace askcount::gather {
namespace {

constexpr double kUneven = 0.25;     // how far an interval may be off its neighbours' and still be even
constexpr double kWholeHole = 0.12;  // the same, a multiple of it, for a hole
constexpr int kLongestHole = 50;     // missing frames beyond which a take has ended
constexpr size_t kMarkerReach = 8;   // how far from an end of the run a marker may be
constexpr double kSameScene = 0.5;   // correlation of two frames' layouts
constexpr double kOtherScene = 0.3;

using source::Frame;

double seconds_apart(const Frame& a, const Frame& b) {
  return static_cast<double>((*b.info().captured - *a.info().captured).count()) / 1000;
}

double median(std::vector<double> v) {
  std::nth_element(v.begin(), v.begin() + static_cast<long>(v.size() / 2), v.end());
  return v[v.size() / 2];
}

/// The intervals' usual length around place `i`.
double usual(const std::vector<double>& apart, size_t i) {
  const size_t from = i < 4 ? 0 : i - 4, to = std::min(apart.size(), i + 5);
  return median({apart.begin() + static_cast<long>(from), apart.begin() + static_cast<long>(to)});
}

/// Frames from one shot to the next at an even interval: 1 where nothing is missing, 0 where the run breaks.
long long steps(double apart, double interval, double clock_s) {
  if (interval <= 0) return 0;
  if (std::abs(apart - interval) <= std::max(kUneven * interval, clock_s)) return 1;
  const double n = std::round(apart / interval);
  const bool hole = n >= 2 && n <= kLongestHole + 1 &&
                    std::abs(apart - n * interval) <= std::max(kWholeHole * interval, clock_s);
  return hole ? static_cast<long long>(n) : 0;
}

struct Run {
  size_t first = 0, last = 0;  // inclusive
};

/// The longest run of even intervals. A hole only belongs to it where at least two even intervals follow on
/// either side, so that a lone test shot is not taken for the take's first frame.
Run longest_run(const std::vector<double>& apart, const std::vector<long long>& step) {
  Run best, now;
  const auto even_from = [&](size_t i) { return i + 1 < apart.size() && step[i] == 1 && step[i + 1] == 1; };
  const auto even_until = [&](size_t i) { return i >= 2 && step[i - 1] == 1 && step[i - 2] == 1; };
  for (size_t i = 0; i < apart.size(); ++i) {
    const bool joined = step[i] == 1 || (step[i] > 1 && even_until(i) && even_from(i + 1));
    if (joined)
      now.last = i + 1;
    else
      now = {i + 1, i + 1};
    if (now.last - now.first > best.last - best.first) best = now;
  }
  return best;
}

using Layout = std::array<float, image::Luminance::kParts>;

Layout level_parts(const image::Picture& picture) {
  const image::Size size = image::size_of(picture);
  return image::measure_luminance(picture, {0, 0, size.width, size.height}).parts;
}

/// What a frame's parts look like beside each other; from its thumbnail where it has one.
std::optional<Layout> layout_of(const Frame& frame) {
  if (!frame.readable()) return {};
  try {
    return level_parts(source::any_source().small(frame));
  } catch (const Error&) {
    return {};
  }
}

double correlation(const Layout& a, const Layout& b) {
  double ma = 0, mb = 0;
  for (size_t i = 0; i < a.size(); ++i) ma += a[i], mb += b[i];
  ma /= static_cast<double>(a.size());
  mb /= static_cast<double>(b.size());
  double ab = 0, aa = 0, bb = 0;
  for (size_t i = 0; i < a.size(); ++i) {
    ab += (a[i] - ma) * (b[i] - mb);
    aa += (a[i] - ma) * (a[i] - ma);
    bb += (b[i] - mb) * (b[i] - mb);
  }
  return aa > 0 && bb > 0 ? ab / std::sqrt(aa * bb) : 0;
}

bool looks_like(const Frame& frame, const std::optional<Layout>& scene) {
  const auto layout = layout_of(frame);
  return !layout || !scene || correlation(*layout, *scene) > kOtherScene;
}

/// Frames from one end of a run up to and with its last marker; 0 where there is none. `at(i)` is the i-th
/// frame from that end.
template <typename At>
size_t marker_reaches(At at, size_t length) {
  const size_t reach = std::min(kMarkerReach, length / 4);
  if (reach == 0) return 0;
  const auto scene = layout_of(at(reach)), beside = layout_of(at(reach + 1));
  if (!scene || !beside || correlation(*scene, *beside) < kSameScene)
    return 0;  // nothing steady to compare with
  for (size_t i = reach; i-- > 0;)
    if (!looks_like(at(i), scene)) return i + 1;
  return 0;
}

Dropped dropped(const Frame& frame, bool before, const std::optional<Layout>& scene) {
  const char* side = before ? "before" : "after";
  if (!frame.readable()) return {frame.file(), Dropped::Why::Unreadable, before, frame.trouble()};
  if (!looks_like(frame, scene))
    return {frame.file(), Dropped::Why::Marker, before, fmt::format("Marker {} the take.", side)};
  return {frame.file(), Dropped::Why::Test, before,
          fmt::format("Test shot {} the take: off its even interval.", side)};
}

/// The number at the end of a file's name; −1 where there is none.
long long number_of(const std::filesystem::path& file) {
  const std::string stem = file.stem().string();
  size_t from = stem.size();
  while (from > 0 && stem[from - 1] >= '0' && stem[from - 1] <= '9' && stem.size() - from < 9) --from;
  long long number = -1;
  std::from_chars(stem.data() + from, stem.data() + stem.size(), number);
  return number;
}

/// A card on its way to a take: the frames that are still in it, and what was found out.
struct Sorting {
  std::vector<Frame> frames;
  Gathered found;
};

/// Keeps frames [first, last] and says of the others why they were left out.
void keep(Sorting& s, Run run) {
  const size_t n = run.last - run.first + 1;
  const auto at = [&](size_t i) -> const Frame& { return s.frames[run.first + i]; };
  const size_t front = marker_reaches(at, n);
  const size_t back = marker_reaches([&](size_t i) -> const Frame& { return at(n - 1 - i); }, n);
  run = {run.first + front, run.last - back};
  std::vector<Dropped> left_out;
  const auto first_scene = layout_of(s.frames[run.first]), last_scene = layout_of(s.frames[run.last]);
  // More shots than anyone makes to test with are another take.
  const auto reason = [&](const Frame& frame, bool before, size_t count) {
    Dropped d = dropped(frame, before, before ? first_scene : last_scene);
    if (count > 20 && d.why == Dropped::Why::Test)
      d = {frame.file(), Dropped::Why::OtherTake, before, "Belongs to another, shorter take."};
    return d;
  };
  for (size_t i = 0; i < run.first; ++i) left_out.push_back(reason(s.frames[i], true, run.first));
  for (size_t i = run.last + 1; i < s.frames.size(); ++i)
    left_out.push_back(reason(s.frames[i], false, s.frames.size() - run.last - 1));
  // A shot right between a marker and the take is a test, whatever its timing.
  for (Dropped& d : left_out)
    if (d.why == Dropped::Why::Test && (front > 0 || back > 0))
      d.text = fmt::format("Test shot {} the take.", d.before ? "before" : "after");
  s.found.dropped = std::move(left_out);
  s.frames = {s.frames.begin() + static_cast<long>(run.first),
              s.frames.begin() + static_cast<long>(run.last) + 1};
}

/// Takes out second shots of one press: much too soon after the one before, with the beat going on as if
/// they were not there. More than one in ten are no accident (brackets), and stay.
std::vector<Dropped> take_out_doubles(std::vector<Frame>& frames) {
  std::vector<double> apart;
  for (size_t i = 0; i + 1 < frames.size(); ++i)
    apart.push_back(frames[i].info().captured && frames[i + 1].info().captured
                        ? seconds_apart(frames[i], frames[i + 1])
                        : 0);
  if (apart.size() < 8) return {};
  const double beat = median(apart);
  std::vector<size_t> doubles;
  for (size_t i = 1; i + 1 < frames.size(); ++i)
    if (apart[i - 1] > 0 && apart[i - 1] < 0.35 * beat &&
        std::abs(apart[i - 1] + apart[i] - beat) < 0.15 * beat)
      doubles.push_back(i);
  if (doubles.size() * 10 > frames.size()) return {};
  std::vector<Dropped> out;
  for (auto it = doubles.rbegin(); it != doubles.rend(); ++it) {
    out.insert(out.begin(), {frames[*it].file(), Dropped::Why::Double, true, "Second shot of one press."});
    frames.erase(frames.begin() + static_cast<long>(*it));
  }
  return out;
}

/// Without times on every frame: all of them by number, holes by what is missing in the numbers.
void take_by_number(Sorting& s) {
  keep(s, {0, s.frames.size() - 1});
  for (size_t i = 0; i + 1 < s.frames.size(); ++i) {
    const std::filesystem::path &one = s.frames[i].file(), &next = s.frames[i + 1].file();
    const long long a = number_of(one), b = number_of(next);
    if (a >= 0 && b > a + 1 && b - a <= kLongestHole + 1 && one.parent_path() == next.parent_path())
      s.found.missing.push_back({i, b - a - 1, 0});
  }
}

/// The longest run of even intervals among the frames that have a time.
Run even_run(const std::vector<Frame>& frames, double clock_s) {
  std::vector<size_t> clocked;
  for (size_t i = 0; i < frames.size(); ++i)
    if (frames[i].info().captured) clocked.push_back(i);
  std::vector<double> apart;
  std::vector<size_t> unread;  // unreadable files between two that have a time
  for (size_t i = 0; i + 1 < clocked.size(); ++i) {
    apart.push_back(seconds_apart(frames[clocked[i]], frames[clocked[i + 1]]));
    unread.push_back(clocked[i + 1] - clocked[i] - 1);
  }
  std::vector<long long> step;
  for (size_t i = 0; i < apart.size(); ++i) {
    const long long n = steps(apart[i], usual(apart, i), clock_s);
    step.push_back(
        std::min<long long>(n, std::max<long long>(n > 0 ? 1 : 0, n - static_cast<long long>(unread[i]))));
  }
  const Run run = longest_run(apart, step);
  return {clocked[run.first], clocked[run.last]};
}

/// The interval, and the holes in a take that has been found by its times.
void measure_beat(Sorting& s, double clock_s, bool whole_seconds) {
  std::vector<double> apart;
  std::vector<size_t> from;  // frame that each of them starts at
  for (size_t i = 0, last = SIZE_MAX; i < s.frames.size(); ++i) {
    if (!s.frames[i].info().captured) continue;
    if (last != SIZE_MAX) {
      apart.push_back(seconds_apart(s.frames[last], s.frames[i]));
      from.push_back(last);
    }
    last = i;
  }
  if (apart.empty()) return;
  double interval = median(apart);
  for (size_t k = 0; k < apart.size(); ++k) {
    const size_t next = k + 1 < from.size() ? from[k + 1] : s.frames.size() - 1;
    const long long lost =
        steps(apart[k], usual(apart, k), clock_s) - 1 - static_cast<long long>(next - from[k] - 1);
    if (lost > 0) s.found.missing.push_back({from[k], lost, apart[k]});
  }
  if (whole_seconds || apart.size() > 8) {  // whole seconds hide the fraction that the whole run shows
    long long count = 0;
    double total = 0;
    for (const double a : apart)
      if (std::abs(a - interval) <= std::max(kUneven * interval, clock_s)) total += a, ++count;
    if (count > 0) interval = total / static_cast<double>(count);
  }
  s.found.interval_s = interval;
}

/// A frame that cannot be read has no time: between its neighbours is where it belongs.
void take_by_time(Sorting& s) {
  const bool whole_seconds = std::all_of(s.frames.begin(), s.frames.end(), [](const Frame& f) {
    return !f.info().captured || f.info().captured->time_since_epoch().count() % 1000 == 0;
  });
  const double clock_s = whole_seconds ? 1.01 : 0.02;
  const std::vector<Dropped> doubles = whole_seconds ? std::vector<Dropped>{} : take_out_doubles(s.frames);
  const auto clocked = std::count_if(s.frames.begin(), s.frames.end(),
                                     [](const Frame& f) { return f.info().captured.has_value(); });
  if (clocked < 4) return;
  keep(s, even_run(s.frames, clock_s));
  s.found.dropped.insert(s.found.dropped.end(), doubles.begin(), doubles.end());
  measure_beat(s, clock_s, whole_seconds);
}

}  // namespace

std::string why_word(Dropped::Why why) {
  static constexpr const char* words[] = {"test", "marker", "other_take", "unreadable", "double"};
  return words[static_cast<int>(why)];
}

Gathered gather(const std::filesystem::path& folder, const Work& work) {
  Sorting s;
  s.found = scan(folder, work);
  s.frames = *s.found.frames;
  const bool timed = std::all_of(s.frames.begin(), s.frames.end(),
                                 [](const Frame& f) { return f.info().captured || !f.readable(); });
  if (timed)
    take_by_time(s);
  else
    take_by_number(s);
  s.found.frames = source::frames_of(std::move(s.frames));
  return std::move(s.found);
}

}  // namespace askcount::gather
