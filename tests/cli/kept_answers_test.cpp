// SPDX-License-Identifier: GPL-3.0-or-later
// Every verb's JSON, for five unlike takes, held against an answer that was kept (tests/data/answers). A
// change of a sum, a key or a word anywhere in the core is seen here. Where the change is meant:
// ASKCOUNT_KEEP_ANSWERS=1 build/release/tests/cli_tests --gtest_filter='KeptAnswers*', and read the
// difference.
#include "askcount.h"
#include "kept.h"

namespace askcount {
namespace {

struct Asked {
  std::string name, arguments;
  test::Held held = test::Held::Exactly;
};

/// A take by the options that plan it, and what else is asked about it. In the arguments {t} is the take's
/// file, {c} its card, {o} a folder for outputs.
struct Story {
  std::string name, plan, shoot;
};

/// How gtest calls it.
void PrintTo(const Story& story, std::ostream* out) {
  *out << story.name;
}

const Story kStories[] = {
    {"dusk",
     "--frames 24 --interval 20s --fps 25 --trail 0.2 --subject 'day into night' --place '56.1 N 5.5 W' "
     "--place-name 'Tern Quay' --zone Europe/London --start 2026-10-09T18:20 --aim 248,9 --temperature 4",
     "--scene 'Tern Quay'"},
    {"stars",
     "--frames 20 --interval 25s --shutter 20s --fps 24 --subject stars --place '58.4 N 6.2 W' "
     "--place-name 'Gannet Head' --zone Europe/London --start 2026-08-12T23:10 --declination -29 --method "
     "fixed",
     "--scene 'Gannet Head'"},
    {"plants",
     "--clip 0.8s --fps 25 --field 3d --subject plants --magnification 1.2 --place '56.1 N 5.5 W' "
     "--place-name 'Window sill' --zone Europe/London --start 2026-10-03T09:00 --external-power "
     "--brackets 3x2",
     "--scene 'the alum jar'"},
    {"street",
     "--frames 30 --interval 1s --fps 25 --crossing 30s --trail 0.4 --subject traffic --place '56.1 N 5.5 W' "
     "--place-name 'The Ropewalk' --zone Europe/London --start 2026-07-02T08:30 --meter 1/125,f8,iso100",
     "--scene 'the Ropewalk'"},
    {"site",
     "--clip 1s --fps 24000/1001 --interval 15min --subject 'building site' --place '56.1 N 5.5 W' "
     "--place-name 'Tern Quay' --zone Europe/London --start 2026-06-01T07:00 --work 7-18x5 --spare 2",
     "--scene 'Tern Quay'"}};

/// What is asked in words and pictures, once the take is planned.
const Asked kPlanned[] = {
    {"set", "set {t} --trail 0.25"},
    {"program", "program {t}"},
    {"check-program", "check-program {t} --delay 2s --hold 1s --interval 9s --count 30"},
    {"checklist", "checklist {t}"},
    {"findings planned", "findings {t}"},
    {"ramp", "ramp {t}"},
    {"frame", "frame {t} --focal 24 --sensor 36x24 --bearing 248 --tilt 9"},
    {"along", "along {t} --plan {o}/plan.pdf --timer {o}/timer.pdf --calendar {o}/take.ics"}};

const Asked kShot[] = {
    {"gather", "gather {c} --take {t}", test::Held::Measured},
    {"copy", "copy {c} --to {o}/copied"},
    {"level", "level {c} --take {t}", test::Held::Measured},
    {"findings", "findings {t} --card {c}", test::Held::Measured},
    {"look", "look {t} --at 5 --light 0.5 --warmth 4800"},
    {"lens", "lens {t} {c} --turn 0.4", test::Held::Measured},
    {"develop", "develop {c} -o {o}/pictures --format png16 --size 60x40", test::Held::Measured},
    {"cut", "cut {c} --take {t} -o {o}/film.mp4 --size 96x64", test::Held::Measured},
    {"book", "book", test::Held::Measured},
    {"book show", "book show {t}", test::Held::Measured},
    {"pack", "pack {t} -o {o}/packed"}};

/// The folder of the test by a name, wherever it lies.
Json without_folder(const Json& json, const std::string& folder) {
  std::string text = json.dump();
  for (size_t at = 0; (at = text.find(folder, at)) != std::string::npos;)
    text.replace(at, folder.size(), "HERE");
  return Json::parse(text);
}

class KeptAnswers : public ::testing::TestWithParam<Story> {
 protected:
  std::string filled(std::string arguments) const {
    for (const auto& [sign, what] : {std::pair<std::string, test::fs::path>{"{t}", folder_ / "take.askcount"},
                                     {"{c}", folder_ / "card"},
                                     {"{o}", folder_ / "out"}})
      for (size_t at = 0; (at = arguments.find(sign)) != std::string::npos;)
        arguments.replace(at, sign.size(), what.string());
    return arguments;
  }

  static std::string quoted(const test::fs::path& file) { return "'" + file.string() + "'"; }

  void ask(const Asked& asked) {
    test::hold(without_folder(answer(filled(asked.arguments)), folder_.path().string()),
               GetParam().name + "/" + asked.name, asked.held);
  }

  /// The same of what may be refused.
  void ask_or_refuse(const Asked& asked) {
    const test::Said said = askcount(filled(asked.arguments) + " --json");
    const Json json = said.exit == 0 ? Json::parse(said.out) : Json{{"refused", said.err}};
    test::hold(without_folder(json, folder_.path().string()), GetParam().name + "/" + asked.name, asked.held);
  }

  /// What the first finding that offers something does to a copy of the take.
  void ask_fix() {
    const Json findings = answer(filled("findings {t}"))["findings"];
    const auto offers =
        std::find_if(findings.begin(), findings.end(), [](const Json& f) { return !f["mend"].is_null(); });
    ASSERT_NE(offers, findings.end()) << GetParam().name;
    test::fs::copy_file(folder_ / "take.askcount", folder_ / "fixed.askcount");
    ask({"mend", "fix " + quoted(folder_ / "fixed.askcount") + " " + (*offers)["code"].get<std::string>()});
  }

  /// How the subject moves from one frame of the card to one four further on.
  void ask_motion() {
    std::set<test::fs::path> frames;
    for (const auto& e : test::fs::recursive_directory_iterator(folder_ / "card"))
      if (e.path().extension() == ".JPG") frames.insert(e.path());
    ASSERT_GT(frames.size(), 9u);
    ask_or_refuse(
        {"motion",
         "motion " + quoted(*std::next(frames.begin(), 5)) + " " + quoted(*std::next(frames.begin(), 9)),
         test::Held::Measured});
  }

  test::Folder folder_;
};

TEST_P(KeptAnswers, StayWhatTheyWere) {
  const std::string kept_home = std::getenv("XDG_DATA_HOME");
  setenv("XDG_DATA_HOME", (folder_ / "data").c_str(), 1);  // a book of its own
  test::fs::create_directories(folder_ / "out");
  ask({"count", "count " + GetParam().plan + " --save {t}"});
  for (const Asked& asked : kPlanned) ask(asked);
  ask_fix();
  ask({"trial", "trial {t} -o {o}/trial.mp4", test::Held::Measured});
  ask({"shoot", "shoot {t} --card {c} --frame-size 96x64 " + GetParam().shoot, test::Held::Measured});
  for (const Asked& asked : kShot) ask(asked);
  ask_motion();
  ask({"make", "make {t} -o {o}/made.mp4 --frame-size 96x64", test::Held::Measured});
  setenv("XDG_DATA_HOME", kept_home.c_str(), 1);
}

INSTANTIATE_TEST_SUITE_P(Takes, KeptAnswers, ::testing::ValuesIn(kStories),
                         [](const auto& story) { return story.param.name; });

TEST(KeptAnswersOf, WhatNeedsNoTake) {
  const std::vector<Asked> all = {
      {"kit", "kit"},
      {"timers", "timers"},
      {"sky", "sky --lat 56.1 --lon -5.5 --zone Europe/London --date 2026-10-09 --at 2026-10-09T18:30"},
      {"sky south", "sky --lat -33.9 --lon 18.4 --zone Africa/Johannesburg --date 2026-12-21 --nights 20"}};
  for (const Asked& asked : all) test::hold(answer(asked.arguments), asked.name, asked.held);
}

}  // namespace
}  // namespace askcount
