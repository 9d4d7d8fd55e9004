#include "plan/subject.h"

#include <algorithm>
#include <cctype>

namespace askcount::plan {
namespace {

/// Small letters, words in the singular.
std::vector<std::string> words_of(std::string_view text) {
  std::vector<std::string> words;
  std::string word;
  const auto end = [&] {
    if (word.empty()) return;
    const size_t n = word.size();
    if (n > 4 && word.ends_with("ies"))
      word.replace(n - 3, 3, "y");
    else if (n > 4 && (word.ends_with("shes") || word.ends_with("ches") || word.ends_with("sses") ||
                       word.ends_with("xes")))
      word.resize(n - 2);
    else if (n > 3 && word.ends_with("s") && !word.ends_with("ss") && !word.ends_with("us"))
      word.resize(n - 1);
    words.push_back(word);
    word.clear();
  };
  for (const char c : text) {
    const auto u = static_cast<unsigned char>(c);
    if (std::isalnum(u) || u >= 0x80)
      word += static_cast<char>(std::tolower(u));
    else if (c != '\'')
      end();
  }
  end();
  return words;
}

/// Whether the words of a phrase stand in the text one after the other.
bool stands_in(const std::vector<std::string>& text, const std::vector<std::string>& phrase) {
  return std::search(text.begin(), text.end(), phrase.begin(), phrase.end()) != text.end();
}

struct Range {
  const char* subject;
  Seconds from_s, to_s;
  const char* reason;
};

/// By kind; several where schools differ.
constexpr Range kRanges[] = {
    {"crowds", 1, 2, "people cross a street in seconds; longer and they only pop up"},
    {"traffic", 1, 5, "cars need overlapping frames, tail lights want long shutters"},
    {"fast clouds", 1, 3, "wind aloft: more and they jump"},
    {"slow clouds", 5, 10, "high or distant clouds hardly move in a second"},
    {"sunrise", 5, 10, "the sun takes two minutes for its own width"},
    {"sunset", 5, 10, "the sun takes two minutes for its own width"},
    {"the moon", 5, 15, "the moon takes two minutes for its own width"},
    {"day into night", 5, 8, "long enough for night shutters, short enough for clouds by day"},
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

SubjectKind kind(const char* name, std::vector<const char*> words) {
  SubjectKind k;
  k.name = name;
  k.words = std::move(words);
  return k;
}

}  // namespace

const std::vector<SubjectKind>& subject_kinds() {
  static const std::vector<SubjectKind> table = [] {
    std::vector<SubjectKind> t = {
        kind("crowds", {"crowd", "people", "person", "pedestrian", "passer-by", "commuter", "market",
                        "festival", "street scene", "station hall"}),
        kind("traffic", {"traffic", "car", "vehicle", "road", "motorway", "highway", "junction", "tail light",
                         "light trail", "train", "bus", "tram", "lorry", "cyclist"}),
        kind("fast clouds", {"fast cloud", "cloud", "rain cloud", "storm", "thunderstorm", "fog", "mist"}),
        kind("slow clouds", {"slow cloud", "cloud", "rain cloud", "high cloud", "fog", "mist"}),
        kind("sunrise", {"sunrise", "sun rising", "dawn", "daybreak"}),
        kind("sunset", {"sunset", "sun setting", "sundown"}),
        kind("the moon", {"moon", "moonrise", "moonset"}),
        kind("day into night", {"day into night", "day to night", "night into day", "night to day", "dusk",
                                "nightfall", "blue hour"}),
        kind("stars", {"star", "milky way", "galaxy", "night sky", "starry sky", "constellation", "aurora"}),
        kind("star trails", {"star trail", "startrail", "trails of stars", "polar trail"}),
        kind("shadows", {"shadow", "sundial", "light and shadow", "moving light"}),
        kind("slow hand work", {"slow hand work", "hand work", "handwork", "painting", "drawing", "knitting",
                                "carving", "craft", "model building"}),
        kind("brisk hand work", {"brisk hand work", "cooking", "baking", "assembling"}),
        kind("building by hand", {"building by hand", "tent", "stall", "raft", "shed", "setting up"}),
        kind("plants reviving", {"plants reviving", "reviving", "wilting", "thirsty plant"}),
        kind("plants growing", {"plant", "plants growing", "seedling", "seed", "sprout", "flower", "bloom",
                                "blossom", "bud", "mushroom", "germination", "garden", "leaf", "tree"}),
        kind("melting", {"melting", "ice", "thaw", "snow", "candle"}),
        kind("drying", {"drying", "mud", "plaster"}),
        kind("crystals", {"crystal", "alum", "frost"}),
        kind("tide", {"tide", "water edge", "flood tide", "ebb", "mudflat"}),
        kind("boats", {"boat", "ship", "ferry", "harbour", "harbor", "yacht", "sail"}),
        kind("building site", {"building site", "construction site", "construction", "excavation",
                               "demolition", "building work", "building", "crane", "scaffolding",
                               "renovation", "house being built", "earthwork"}),
    };
    const auto named = [&t](std::string_view name) -> SubjectKind& {
      return *std::find_if(t.begin(), t.end(), [name](const SubjectKind& k) { return name == k.name; });
    };
    named("stars").points_of_light = true;
    named("star trails").trails = true;
    for (const char* name : {"stars", "star trails", "day into night", "the moon"})
      named(name).at_night = true;
    for (const char* name : {"shadows", "plants reviving", "plants growing", "melting", "drying", "crystals",
                             "tide", "building site", "slow hand work"})
      named(name).crisp = true;
    named("tide").by_water = named("boats").by_water = true;
    named("traffic").by_traffic = named("crowds").by_traffic = true;
    named("building site").by_site = true;
    return t;
  }();
  return table;
}

std::vector<const SubjectKind*> kinds_of(std::string_view subject) {
  struct Phrase {
    const SubjectKind* kind;
    std::vector<std::string> words;
  };
  static const std::vector<Phrase> phrases = [] {
    std::vector<Phrase> list;
    for (const SubjectKind& k : subject_kinds()) {
      list.push_back({&k, words_of(k.name)});
      for (const char* word : k.words) list.push_back({&k, words_of(word)});
    }
    return list;
  }();
  const std::vector<std::string> text = words_of(subject);
  std::vector<const SubjectKind*> list;
  size_t longest = 1;
  for (const Phrase& p : phrases) {
    const size_t n = p.words.size();
    if (n < longest || !stands_in(text, p.words)) continue;
    if (n > longest) list.clear();
    longest = n;
    if (list.empty() || list.back() != p.kind) list.push_back(p.kind);
  }
  return list;
}

bool any_kind(std::string_view subject, bool SubjectKind::*trait) {
  const auto kinds = kinds_of(subject);
  return std::any_of(kinds.begin(), kinds.end(), [trait](const SubjectKind* k) { return k->*trait; });
}

bool all_kinds(std::string_view subject, bool SubjectKind::*trait) {
  const auto kinds = kinds_of(subject);
  return !kinds.empty() &&
         std::all_of(kinds.begin(), kinds.end(), [trait](const SubjectKind* k) { return k->*trait; });
}

bool has_word(std::string_view text, std::initializer_list<const char*> words) {
  const std::vector<std::string> all = words_of(text);
  return std::any_of(words.begin(), words.end(), [&](const char* w) { return stands_in(all, words_of(w)); });
}

std::vector<Habit> habits_for(std::string_view subject, const HabitGround& ground) {
  std::vector<Habit> list;
  const Seconds shutter = ground.shutter_s > 0 ? ground.shutter_s : 25;
  for (const SubjectKind* k : kinds_of(subject)) {
    if (k->points_of_light) {
      list.push_back({k->name, shutter + std::max(1.0, ground.shortest_gap_s),
                      shutter + std::max(5.0, ground.shortest_gap_s + 1),
                      "the shutter and a gap of 1 to 5 s for writing"});
    } else if (k->trails) {
      list.push_back({k->name, shutter + ground.shortest_gap_s,
                      shutter + std::max(1.5, ground.shortest_gap_s + 0.5),
                      "the shutter and the shortest gap there is: a longer one breaks the arcs"});
    } else {
      for (const Range& r : kRanges)
        if (std::string_view(r.subject) == k->name) list.push_back({r.subject, r.from_s, r.to_s, r.reason});
    }
  }
  return list;
}

std::vector<Habit> habits() {
  std::vector<Habit> list;
  for (const SubjectKind& k : subject_kinds())
    for (const Habit& h : habits_for(k.name, {25, 1})) list.push_back(h);
  return list;
}

}  // namespace askcount::plan
