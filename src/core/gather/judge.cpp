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
  const auto left_out = [&](Dropped::Why why) {
    return std::count_if(g.dropped.begin(), g.dropped.end(), [&](const Dropped& d) { return d.why == why; });
  };
  const long long unread_beside = left_out(Dropped::Why::Unreadable);
  if (lost > 0)
    list.push_back({"frames_missing",
                    Severity::Warning,
                    counted(lost, "frame") + " missing",
                    fmt::format("The first after frame {}. The film jumps there.",
                                format_count(static_cast<long long>(g.missing[0].after) + 1)),
                    "",
                    {}});
  else if (unread_beside == 0 && g.unread_folders.empty())
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
  if (unread_beside > 0)
    list.push_back(
        {"ends_unreadable",
         Severity::Warning,
         counted(unread_beside, "picture") + " beside the take cannot be read",
         fmt::format("{} is the first. They may be frames of it: its first or last ones would be missing.",
                     std::find_if(g.dropped.begin(), g.dropped.end(),
                                  [](const Dropped& d) { return d.why == Dropped::Why::Unreadable; })
                         ->file.filename()
                         .string()),
         "",
         {}});
  if (!g.unread_folders.empty())
    list.push_back(
        {"folders_unread",
         Severity::Warning,
         counted(static_cast<long long>(g.unread_folders.size()), "folder") + " cannot be looked into",
         fmt::format("{}: frames in it are missing here. See who may read it.", g.unread_folders.front()),
         "",
         {}});
  if (unreadable > 0)
    list.push_back(
        {"frames_unreadable",
         Severity::Warning,
         counted(unreadable, "frame") + " cannot be read",
         "Their neighbours stand in for them in the film: five in a row at most, and one in ten in all.",
         "",
         {}});
  if (!g.dropped.empty()) {
    std::string what;
    const auto add = [&](Dropped::Why why, const char* noun, const char* rest) {
      if (const long long n = left_out(why); n > 0)
        what += (what.empty() ? "" : ", ") + counted(n, noun) + rest;
    };
    add(Dropped::Why::Marker, "marker", "");
    add(Dropped::Why::Test, "test shot", "");
    add(Dropped::Why::OtherTake, "shot", " of another take");
    add(Dropped::Why::Double, "second shot", " of one press");
    add(Dropped::Why::Unreadable, "picture", " that cannot be read");
    list.push_back({"left_out",
                    Severity::Ok,
                    counted(static_cast<long long>(g.dropped.size()), "picture") + " left out",
                    what + ". The files stay where they are.",
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
