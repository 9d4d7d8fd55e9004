#include "gather/gather.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "base/error.h"
#include "base/units.h"
#include "picture/light.h"

namespace askcount::gather {
namespace {

constexpr double kUneven = 0.25;     // how far an interval may be off its neighbours' and still be even
constexpr double kWholeHole = 0.12;  // the same, a multiple of it, for a hole
constexpr int kLongestHole = 50;     // missing frames beyond which a take has ended
constexpr size_t kMarkerReach = 8;   // how far from an end of the run a marker may be
constexpr double kSameScene = 0.5;   // correlation of two frames' layouts
constexpr double kOtherScene = 0.3;

double seconds_apart(const Frame& a, const Frame& b) {
  return static_cast<double>((*b.info.captured - *a.info.captured).count()) / 1000;
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

using Layout = std::array<float, picture::FrameLight::kBlocks>;

/// What a frame's parts look like beside each other; from its thumbnail where it has one.
std::optional<Layout> layout_of(const Frame& frame) {
  if (!frame.readable()) return {};
  try {
    const std::string name = frame.file.string();
    const picture::Bytes thumbnail = picture::read_thumbnail(frame.file);
    const picture::Picture8 small = thumbnail.empty()
                                        ? picture::decode_jpeg(picture::read_bytes(frame.file), 1, name)
                                        : picture::decode_jpeg(thumbnail, 8, name);
    return picture::measure_light(small, {0, 0, small.size.width, small.size.height}).blocks;
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
size_t behind_marker(At at, size_t length) {
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
  if (!frame.readable()) return {frame.file, Dropped::Why::Unreadable, before, frame.trouble};
  if (!looks_like(frame, scene))
    return {frame.file, Dropped::Why::Marker, before, fmt::format("Marker {} the take.", side)};
  return {frame.file, Dropped::Why::Test, before,
          fmt::format("Test shot {} the take: off its even interval.", side)};
}

/// The number at the end of a file's name; −1 where there is none.
long long number_of(const std::filesystem::path& file) {
  const std::string stem = file.stem().string();
  size_t from = stem.size();
  while (from > 0 && stem[from - 1] >= '0' && stem[from - 1] <= '9' && stem.size() - from < 9) --from;
  return from < stem.size() ? std::stoll(stem.substr(from)) : -1;
}

/// Keeps frames [first, last] and says of the others why they were left out.
void keep(Gathered& g, Run run) {
  const size_t n = run.last - run.first + 1;
  const auto at = [&](size_t i) -> const Frame& { return g.frames[run.first + i]; };
  const size_t front = behind_marker(at, n);
  const size_t back = behind_marker([&](size_t i) -> const Frame& { return at(n - 1 - i); }, n);
  run = {run.first + front, run.last - back};
  std::vector<Dropped> left_out;
  const auto first_scene = layout_of(g.frames[run.first]), last_scene = layout_of(g.frames[run.last]);
  // More shots than anyone makes to test with are another take.
  const auto reason = [&](const Frame& frame, bool before, size_t count) {
    Dropped d = dropped(frame, before, before ? first_scene : last_scene);
    if (count > 20 && d.why == Dropped::Why::Test)
      d = {frame.file, Dropped::Why::OtherTake, before, "Belongs to another, shorter take."};
    return d;
  };
  for (size_t i = 0; i < run.first; ++i) left_out.push_back(reason(g.frames[i], true, run.first));
  for (size_t i = run.last + 1; i < g.frames.size(); ++i)
    left_out.push_back(reason(g.frames[i], false, g.frames.size() - run.last - 1));
  // A shot right between a marker and the take is a test, whatever its timing.
  for (Dropped& d : left_out)
    if (d.why == Dropped::Why::Test && (front > 0 || back > 0))
      d.text = fmt::format("Test shot {} the take.", d.before ? "before" : "after");
  g.dropped = std::move(left_out);
  g.frames = {g.frames.begin() + static_cast<long>(run.first),
              g.frames.begin() + static_cast<long>(run.last) + 1};
}

/// Takes out second shots of one press: much too soon behind the one before, with the beat going on as if
/// they were not there. More than one in ten are no accident (brackets), and stay.
std::vector<Dropped> take_out_doubles(std::vector<Frame>& frames) {
  std::vector<double> apart;
  for (size_t i = 0; i + 1 < frames.size(); ++i)
    apart.push_back(
        frames[i].info.captured && frames[i + 1].info.captured ? seconds_apart(frames[i], frames[i + 1]) : 0);
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
    out.insert(out.begin(), {frames[*it].file, Dropped::Why::Double, true, "Second shot of one press."});
    frames.erase(frames.begin() + static_cast<long>(*it));
  }
  return out;
}

}  // namespace

std::string why_word(Dropped::Why why) {
  static constexpr const char* words[] = {"test", "marker", "other_take", "unreadable", "double"};
  return words[static_cast<int>(why)];
}

Gathered gather(const std::filesystem::path& folder, const Work& work) {
  Gathered g = scan(folder, work);
  const bool timed = std::all_of(g.frames.begin(), g.frames.end(),
                                 [](const Frame& f) { return f.info.captured || !f.readable(); });
  if (!timed) {
    keep(g, {0, g.frames.size() - 1});
    for (size_t i = 0; i + 1 < g.frames.size(); ++i) {
      const long long a = number_of(g.frames[i].file), b = number_of(g.frames[i + 1].file);
      if (a >= 0 && b > a + 1 && b - a <= kLongestHole + 1 &&
          g.frames[i].file.parent_path() == g.frames[i + 1].file.parent_path())
        g.missing.push_back({i, b - a - 1, 0});
    }
    return g;
  }
  // A frame that cannot be read has no time: between its neighbours is where it belongs.
  const bool whole_seconds = std::all_of(g.frames.begin(), g.frames.end(), [](const Frame& f) {
    return !f.info.captured || f.info.captured->time_since_epoch().count() % 1000 == 0;
  });
  const double clock_s = whole_seconds ? 1.01 : 0.02;
  const std::vector<Dropped> doubles = whole_seconds ? std::vector<Dropped>{} : take_out_doubles(g.frames);
  std::vector<size_t> clocked;
  for (size_t i = 0; i < g.frames.size(); ++i)
    if (g.frames[i].info.captured) clocked.push_back(i);
  if (clocked.size() < 4) return g;
  std::vector<double> apart;
  std::vector<long long> step;
  std::vector<size_t> unread;  // unreadable files between two that have a time
  for (size_t i = 0; i + 1 < clocked.size(); ++i) {
    apart.push_back(seconds_apart(g.frames[clocked[i]], g.frames[clocked[i + 1]]));
    unread.push_back(clocked[i + 1] - clocked[i] - 1);
  }
  for (size_t i = 0; i < apart.size(); ++i) {
    const long long s = steps(apart[i], usual(apart, i), clock_s);
    step.push_back(
        std::min<long long>(s, std::max<long long>(s > 0 ? 1 : 0, s - static_cast<long long>(unread[i]))));
  }
  const Run run = longest_run(apart, step);
  keep(g, {clocked[run.first], clocked[run.last]});
  g.dropped.insert(g.dropped.end(), doubles.begin(), doubles.end());

  std::vector<double> kept_apart;
  std::vector<std::pair<size_t, double>> pairs;  // frame, seconds to the next that has a time
  for (size_t i = 0, last = SIZE_MAX; i < g.frames.size(); ++i) {
    if (!g.frames[i].info.captured) continue;
    if (last != SIZE_MAX) {
      kept_apart.push_back(seconds_apart(g.frames[last], g.frames[i]));
      pairs.emplace_back(last, kept_apart.back());
    }
    last = i;
  }
  if (kept_apart.empty()) return g;
  double interval = median(kept_apart);
  for (size_t k = 0; k < pairs.size(); ++k) {
    const auto [i, seconds] = pairs[k];
    const size_t next = k + 1 < pairs.size() ? pairs[k + 1].first : g.frames.size() - 1;
    const long long lost =
        steps(seconds, usual(kept_apart, k), clock_s) - 1 - static_cast<long long>(next - i - 1);
    if (lost > 0) g.missing.push_back({i, lost, seconds});
  }
  if (whole_seconds || kept_apart.size() > 8) {  // whole seconds hide the fraction that the whole run shows
    long long count = 0;
    double total = 0;
    for (size_t k = 0; k < kept_apart.size(); ++k)
      if (std::abs(kept_apart[k] - interval) <= std::max(kUneven * interval, clock_s))
        total += kept_apart[k], ++count;
    if (count > 0) interval = total / static_cast<double>(count);
  }
  g.interval_s = interval;
  return g;
}

Findings judge(const Gathered& g) {
  Findings list;
  long long lost = 0, unreadable = 0;
  for (const Missing& m : g.missing) lost += m.frames;
  for (const Frame& f : g.frames) unreadable += f.readable() ? 0 : 1;
  if (lost > 0)
    list.push_back({"frames_missing",
                    Severity::Warning,
                    counted(lost, "frame") + " missing",
                    fmt::format("The first behind frame {}. The film jumps there.",
                                format_count(static_cast<long long>(g.missing[0].after) + 1)),
                    "",
                    {}});
  else
    list.push_back({"no_gaps",
                    Severity::Ok,
                    "No frame is missing",
                    g.interval_s ? fmt::format("{}, one every {}.",
                                               counted(static_cast<long long>(g.frames.size()), "frame"),
                                               format_length(*g.interval_s))
                                 : fmt::format("{} in number order; they carry no capture times.",
                                               counted(static_cast<long long>(g.frames.size()), "frame")),
                    "",
                    {}});
  if (unreadable > 0)
    list.push_back({"frames_unreadable",
                    Severity::Warning,
                    counted(unreadable, "frame") + " cannot be read",
                    "Their neighbours stand in for them in the film.",
                    "",
                    {}});
  if (!g.dropped.empty()) {
    long long tests = 0, markers = 0, doubles = 0;
    for (const Dropped& d : g.dropped)
      (d.why == Dropped::Why::Marker ? markers : d.why == Dropped::Why::Double ? doubles : tests) += 1;
    list.push_back({"left_out",
                    Severity::Ok,
                    counted(static_cast<long long>(g.dropped.size()), "picture") + " left out",
                    fmt::format("{} and {} around the take{}. The files stay where they are.",
                                counted(markers, "marker"), counted(tests, "test shot"),
                                doubles > 0 ? ", " + counted(doubles, "second shot") + " of one press" : ""),
                    "",
                    {}});
  }
  const auto differs = std::find_if(g.frames.begin(), g.frames.end(), [&](const Frame& f) {
    return f.readable() && !(f.info.size == g.frames.front().info.size) && g.frames.front().readable();
  });
  if (differs != g.frames.end())
    list.push_back(
        {"sizes_differ",
         Severity::Warning,
         "Frames of different size",
         fmt::format("{} is {} × {}; the take began with {} × {}. Each is cropped to the film's shape.",
                     differs->file.filename().string(), differs->info.size.width, differs->info.size.height,
                     g.frames.front().info.size.width, g.frames.front().info.size.height),
         "",
         {}});
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::gather
