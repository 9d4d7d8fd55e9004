#include "plan/habits.h"

#include <algorithm>
#include <cctype>

namespace askcount::plan {
namespace {

std::string lower(std::string_view text) {
  std::string out(text);
  std::transform(out.begin(), out.end(), out.begin(), [](unsigned char c) { return std::tolower(c); });
  return out;
}

}  // namespace

const std::vector<Habit>& habits() {
  static const std::vector<Habit> table = {
      {"crowds", 1, 2, "people cross a street in seconds; longer and they only pop up"},
      {"traffic", 1, 5, "cars need overlapping frames, tail lights want long shutters"},
      {"fast clouds", 1, 3, "wind aloft: more and they jump"},
      {"slow clouds", 5, 10, "high or distant clouds hardly move in a second"},
      {"sunrise", 5, 10, "the sun takes two minutes for its own width"},
      {"sunset", 5, 10, "the sun takes two minutes for its own width"},
      {"day into night", 5, 8, "long enough for night shutters, short enough for clouds by day"},
      {"stars", 21, 35, "a shutter of about 20 to 30 s and a gap of 1 to 5 s"},
      {"star trails", 20, 32, "the shortest gap there is: a longer one breaks the trails"},
      {"shadows", 10, 30, "a quarter of a degree a minute"},
      {"slow hand work", 30, 60, "careful work repeats itself; less would be tiring to watch"},
      {"brisk hand work", 5, 15, "hands are somewhere else every few seconds"},
      {"building by hand", 2, 5, "people walk through the frame outdoors"},
      {"plants reviving", 20, 40, "leaves rise within the hour"},
      {"plants growing", 120, 300, "a shoot needs days"},
      {"melting", 60, 300, "minutes, by how thick and how warm"},
      {"drying", 60, 300, "minutes, by how thick and how warm"},
      {"crystals", 60, 300, "they grow like plants do"},
      {"tide", 10, 30, "the water's edge creeps"},
      {"boats", 1, 5, "they cross like traffic does, and sway within seconds"},
      {"building site", 900, 14400, "15 minutes to hours: months become minutes"},
  };
  return table;
}

std::vector<Habit> habits_for(std::string_view subject) {
  const std::string wanted = lower(subject);
  std::vector<Habit> exact, part;
  if (wanted.empty()) return exact;
  for (const Habit& h : habits()) {
    const std::string name = h.subject;
    if (name == wanted)
      exact.push_back(h);
    else if (name.find(wanted) != std::string::npos || wanted.find(name) != std::string::npos)
      part.push_back(h);
  }
  return exact.empty() ? part : exact;
}

}  // namespace askcount::plan
