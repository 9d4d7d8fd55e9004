// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/subject.h"

#include <algorithm>
#include <cctype>
#include <cmath>

#include "base/language.h"

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
  for (size_t i = 0; i < text.size(); ++i) {
    const auto u = static_cast<unsigned char>(text[i]);
    if (u == 0xC3 && i + 1 < text.size()) {  // À to Þ are small letters 0x20 further on; not the × among them
      const auto next = static_cast<unsigned char>(text[++i]);
      word += text[i - 1];
      word += static_cast<char>(next >= 0x80 && next <= 0x9E && next != 0x97 ? next + 0x20 : next);
    } else if (u == 0xE2 && text.substr(i, 3) == "’") {
      i += 2;
    } else if (std::isalnum(u) || u >= 0x80) {
      word += static_cast<char>(std::tolower(u));
    } else if (u != '\'') {
      end();
    }
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

/// By kind; several where methods differ.
constexpr Range kRanges[] = {
    {to_say("crowds"), 1, 2, to_say("people cross a street in seconds; longer and they only pop up")},
    {to_say("traffic"), 1, 5, to_say("cars need overlapping frames, tail lights want long shutters")},
    {to_say("fast clouds"), 1, 3, to_say("wind aloft: more and they jump")},
    {to_say("slow clouds"), 5, 10, to_say("high or distant clouds hardly move in a second")},
    {to_say("sunrise"), 5, 10, to_say("the sun takes two minutes for its own width")},
    {to_say("sunset"), 5, 10, to_say("the sun takes two minutes for its own width")},
    {to_say("the moon"), 5, 15, to_say("the moon takes two minutes for its own width")},
    {to_say("day into night"), 5, 8,
     to_say("long enough for night shutters, short enough for clouds by day")},
    {to_say("shadows"), 10, 30, to_say("a quarter of a degree a minute")},
    {to_say("slow hand work"), 30, 60, to_say("careful work repeats itself; less would be tiring to watch")},
    {to_say("brisk hand work"), 5, 15, to_say("hands are somewhere else every few seconds")},
    {to_say("building by hand"), 2, 5, to_say("people walk through the frame outdoors")},
    {to_say("plants growing"), 120, 300, to_say("a shoot needs days")},
    {to_say("plants reviving"), 20, 40, to_say("leaves rise within the hour")},
    {to_say("melting"), 60, 300, to_say("minutes, by how thick and how warm")},
    {to_say("drying"), 60, 300, to_say("minutes, by how thick and how warm")},
    {to_say("crystals"), 60, 300, to_say("they grow like plants do")},
    {to_say("tide"), 10, 30, to_say("the water's edge creeps")},
    {to_say("waves"), 1, 2, to_say("a wave breaks within seconds")},
    {to_say("boats"), 1, 5, to_say("they cross like traffic does, and sway within seconds")},
    {to_say("building site"), 900, 14400, to_say("15 minutes to hours: months become minutes")},
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
        kind("crowds", {"crowd",  "people",     "person",       "pedestrian",   "passer-by",     "commuter",
                        "market", "festival",   "street scene", "station hall", "menschen",      "leute",
                        "menge",  "fussgänger", "fußgänger",    "markt",        "strassenszene", "foule",
                        "gens",   "passant",    "piéton",       "marché",       "fête"}),
        kind("traffic",
             {"traffic",  "car",        "vehicle",     "road",         "motorway",   "highway",
              "junction", "tail light", "light trail", "train",        "bus",        "tram",
              "lorry",    "cyclist",    "verkehr",     "auto",         "fahrzeug",   "strasse",
              "straße",   "autobahn",   "kreuzung",    "intersection", "crossroads", "rücklicht",
              "zug",      "züge",       "lichtspur",   "circulation",  "trafic",     "voiture",
              "véhicule", "route",      "autoroute",   "carrefour",    "camion",     "feu arrière"}),
        kind("fast clouds",
             {"fast cloud",   "cloud",         "rain cloud",     "storm",           "thunderstorm",
              "fog",          "mist",          "schnelle wolke", "schnelle wolken", "wolke",
              "wolken",       "regenwolken",   "sturm",          "gewitter",        "nebel",
              "nuage rapide", "nuages rapide", "nuage",          "nuages",          "orage",
              "tempête",      "brouillard",    "brume"}),
        kind("slow clouds", {"slow cloud", "cloud", "rain cloud", "high cloud", "fog", "mist",
                             "langsame wolke", "langsame wolken", "wolke", "wolken", "regenwolken",
                             "hohe wolken", "nebel", "nuage lent", "nuage", "nuages", "brouillard", "brume"}),
        kind("sunrise", {"sunrise", "sun rising", "dawn", "daybreak", "sonnenaufgang", "sonnenaufgänge",
                         "morgendämmerung", "lever du soleil", "lever de soleil", "aube"}),
        kind("sunset", {"sunset", "sun setting", "sundown", "sonnenuntergang", "sonnenuntergänge",
                        "coucher du soleil", "coucher de soleil"}),
        kind("the moon", {"moon", "moonrise", "moonset", "mond", "mondaufgang", "monduntergang", "lune",
                          "lever de lune", "coucher de lune"}),
        kind("day into night",
             {"day into night", "day to night", "night into day", "night to day", "dusk", "nightfall",
              "blue hour", "tag in nacht", "tag zu nacht", "vom tag in die nacht", "nacht in tag",
              "dämmerung", "abenddämmerung", "blaue stunde", "jour à la nuit", "du jour à la nuit",
              "crépuscule", "heure bleue"}),
        kind("stars",
             {"star",        "milky way",   "galaxy",        "night sky",     "starry sky",  "constellation",
              "aurora",      "stern",       "sterne",        "milchstrasse",  "milchstraße", "sternenhimmel",
              "nachthimmel", "polarlicht",  "polarlichter",  "sternbild",     "étoile",      "voie lactée",
              "galaxie",     "ciel étoilé", "ciel nocturne", "aurore boréale"}),
        kind("star trails",
             {"star trail", "startrail", "trails of stars", "polar trail", "sternspur", "sternspuren",
              "strichspuren", "filé détoile", "filés détoile", "traînée détoile", "traînées détoile"}),
        kind("shadows", {"shadow", "sundial", "light and shadow", "moving light", "schatten", "sonnenuhr",
                         "wandernde licht", "ombre", "cadran solaire"}),
        kind("slow hand work", {"slow hand work",
                                "hand work",
                                "handwork",
                                "painting",
                                "drawing",
                                "knitting",
                                "carving",
                                "craft",
                                "model building",
                                "langsame handarbeit",
                                "handarbeit",
                                "malen",
                                "zeichnen",
                                "stricken",
                                "schnitzen",
                                "modellbau",
                                "travail manuel lent",
                                "travail manuel",
                                "peinture",
                                "dessin",
                                "tricot",
                                "sculpture"}),
        kind("brisk hand work",
             {"brisk hand work", "hand work", "handwork", "craft", "handarbeit", "travail manuel", "cooking",
              "baking", "assembling", "flinke handarbeit", "kochen", "backen", "zusammenbau",
              "travail manuel vif", "cuisine", "pâtisserie", "assemblage"}),
        kind("building by hand", {"building by hand",
                                  "trail building",
                                  "trail work",
                                  "path building",
                                  "wegebau",
                                  "tent",
                                  "stall",
                                  "raft",
                                  "shed",
                                  "setting up",
                                  "aufbau von hand",
                                  "zelt",
                                  "zeltaufbau",
                                  "floss",
                                  "floß",
                                  "schuppen",
                                  "construction à la main",
                                  "tente",
                                  "radeau",
                                  "cabane"}),
        kind("plants growing",
             {"plant",   "plants growing", "seedling",   "seed",     "sprout",      "flower",
              "bloom",   "blossom",        "bud",        "mushroom", "germination", "garden",
              "leaf",    "tree",           "pflanze",    "pflanzen", "keimling",    "keimlinge",
              "samen",   "spross",         "blume",      "blumen",   "blüte",       "blüten",
              "knospe",  "knospen",        "pilz",       "pilze",    "garten",      "blatt",
              "blätter", "baum",           "bäume",      "plante",   "graine",      "pousse",
              "fleur",   "bourgeon",       "champignon", "jardin",   "feuille",     "arbre"}),
        kind("plants reviving", {"plants reviving",
                                 "plant",
                                 "pflanze",
                                 "pflanzen",
                                 "plante",
                                 "reviving",
                                 "wilting",
                                 "wilted plant",
                                 "wilted",
                                 "plant reviving",
                                 "welke pflanze",
                                 "plante fanée",
                                 "thirsty plant",
                                 "pflanzen erholen",
                                 "aufrichtende pflanze",
                                 "welken",
                                 "durstige pflanze",
                                 "plantes qui se redressent",
                                 "plante qui se redresse",
                                 "plante assoiffée",
                                 "flétrissement"}),
        kind("melting", {"melting", "ice", "thaw", "snow", "candle", "schmelzen", "schmelze", "eis",
                         "tauwetter", "schnee", "kerze", "fonte", "glace", "dégel", "neige", "bougie"}),
        kind("drying", {"drying", "mud", "plaster", "trocknen", "trocknend", "schlamm", "gips", "séchage",
                        "boue", "plâtre"}),
        kind("crystals", {"crystal", "alum", "frost", "kristall", "kristalle", "alaun", "frost", "reif",
                          "cristal", "cristaux", "alun", "givre"}),
        kind("tide", {"tide", "water edge", "flood tide", "ebb", "mudflat", "gezeiten", "flut", "ebbe",
                      "wasserrand", "watt", "marée", "marée montante", "marée descendante"}),
        kind("waves", {"wave", "surf", "breaker", "waves on a beach", "welle", "wellen", "brandung", "vague",
                       "vagues", "ressac"}),
        kind("boats", {"boat",  "ship",   "ferry",   "harbour", "harbor", "yacht", "sail",   "boot",
                       "boote", "schiff", "schiffe", "fähre",   "fähren", "hafen", "segel",  "jacht",
                       "yacht", "bateau", "bateaux", "navire",  "port",   "voile", "voilier"}),
        kind("building site", {"building site",
                               "construction site",
                               "construction",
                               "excavation",
                               "demolition",
                               "building work",
                               "building",
                               "crane",
                               "scaffolding",
                               "renovation",
                               "house being built",
                               "earthwork",
                               "baustelle",
                               "baustellen",
                               "aushub",
                               "abriss",
                               "kran",
                               "gerüst",
                               "umbau",
                               "hausbau",
                               "rohbau",
                               "chantier",
                               "terrassement",
                               "démolition",
                               "grue",
                               "échafaudage",
                               "rénovation"}),
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
                      say("the shutter and a gap of 1 to 5 s for writing")});
    } else if (k->trails) {
      list.push_back({k->name, shutter + ground.shortest_gap_s,
                      shutter + std::max(1.5, ground.shortest_gap_s + 0.5),
                      say("the shutter and the shortest gap there is: a longer one breaks the arcs")});
    } else {
      for (const Range& r : kRanges)
        if (std::string_view(r.subject) == k->name)
          list.push_back({say(r.subject), r.from_s, r.to_s, say(r.reason)});
    }
  }
  return list;
}

Seconds middle_of(const Habit& h) {
  return std::max(1.0, std::floor(std::round(std::sqrt(h.from_s * h.to_s) * 2) / 2 + 0.5));
}

std::vector<Habit> habits() {
  std::vector<Habit> list;
  for (const SubjectKind& k : subject_kinds())
    for (const Habit& h : habits_for(k.name, {25, 1})) list.push_back(h);
  return list;
}

}  // namespace askcount::plan
