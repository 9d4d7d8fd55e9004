#include <fmt/format.h>

#include <algorithm>

#include "base/units.h"
#include "gather/gather.h"

namespace askcount::gather {

Findings judge(const Gathered& g) {
  Findings list;
  const std::vector<source::Frame>& frames = *g.frames;
  long long lost = 0, unreadable = 0;
  for (const Missing& m : g.missing) lost += m.frames;
  for (const source::Frame& f : frames) unreadable += f.readable() ? 0 : 1;
  if (lost > 0)
    list.push_back({"frames_missing",
                    Severity::Warning,
                    counted(lost, "frame") + " missing",
                    fmt::format("The first after frame {}. The film jumps there.",
                                format_count(static_cast<long long>(g.missing[0].after) + 1)),
                    "",
                    {}});
  else
    list.push_back({"no_gaps",
                    Severity::Ok,
                    "No frame is missing",
                    g.interval_s ? fmt::format("{}, one every {}.",
                                               counted(static_cast<long long>(frames.size()), "frame"),
                                               format_length(*g.interval_s))
                                 : fmt::format("{} in number order; they carry no capture times.",
                                               counted(static_cast<long long>(frames.size()), "frame")),
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
  const auto differs = std::find_if(frames.begin(), frames.end(), [&](const source::Frame& f) {
    return f.readable() && !(f.info().size == frames.front().info().size) && frames.front().readable();
  });
  if (differs != frames.end())
    list.push_back(
        {"sizes_differ",
         Severity::Warning,
         "Frames of different size",
         fmt::format("{} is {} × {}; the take began with {} × {}. Each is cropped to the film's shape.",
                     differs->file().filename().string(), differs->info().size.width,
                     differs->info().size.height, frames.front().info().size.width,
                     frames.front().info().size.height),
         "",
         {}});
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::gather
