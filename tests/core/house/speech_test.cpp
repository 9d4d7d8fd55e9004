// SPDX-License-Identifier: GPL-3.0-or-later
// Another language: its words, its numbers, and what no language may touch.
#include "advice/next_change.h"
#include "base/json.h"
#include "base/language.h"
#include "base/units.h"
#include "book/book.h"
#include "book/entry.h"
#include "book/learn.h"
#include "book/tables.h"
#include "forecast/light.h"
#include "paper/cards.h"
#include "plan/exposure_match.h"
#include "plan/slot.h"
#include "plan/subject.h"
#include "ramp/light.h"
#include "support.h"

namespace askcount {
namespace {

using plan::Slot;

/// A language for one test, English again afterwards.
class Speech : public ::testing::Test {
 protected:
  void TearDown() override { speak({}); }
  /// A comma before decimals, points between groups, and these words.
  static void speak_with(std::map<std::string, std::string> words) {
    speak({[words](const char* english, long long n) -> std::string {
             const auto at = words.find(n == 1 ? std::string(english) + " (1)" : english);
             return at == words.end() ? "" : at->second;
           },
           ",", "."});
  }
};

TEST_F(Speech, IsEnglishWhereNothingElseIsSaid) {
  EXPECT_EQ(say("Rig"), "Rig");
  EXPECT_EQ(say("After frame {}.", 7), "After frame 7.");
  EXPECT_EQ(counted(1, "{} frame", "{} frames"), "1 frame");
  EXPECT_EQ(counted(1200, "{} frame", "{} frames"), "1,200 frames");
  EXPECT_EQ(say("at|a place"), "at") << "what a word is about is for the translator alone";
}

TEST_F(Speech, FindsTheWordsTheOrderAndTheFormOfALanguage) {
  speak_with({{"Rig", "Aufbau"},
              {"{} of {}", "{1} davon {0}"},
              {"{} frame (1)", "{} Bild"},
              {"{} frame", "{} Bilder"},
              {"at|a place", "bei"}});
  EXPECT_EQ(say("Rig"), "Aufbau");
  EXPECT_EQ(say("{} of {}", 3, "250"), "250 davon 3");
  EXPECT_EQ(counted(1, "{} frame", "{} frames"), "1 Bild");
  EXPECT_EQ(counted(12000, "{} frame", "{} frames"), "12.000 Bilder");
  EXPECT_EQ(counted(3, to_say("{} shot", "{} shots")), "3 shots") << "what nobody translated stays English";
  EXPECT_EQ(say("at|a place"), "bei");
}

TEST_F(Speech, FallsBackWhereATranslationDoesNotFit) {
  speak_with({{"After frame {}.", "Nach Bild {} von {}."}, {"{} GB", "{:d} GB"}, {"Rig {}", "Aufbau {"}});
  EXPECT_EQ(say("After frame {}.", 7), "After frame 7.");
  EXPECT_EQ(say("{} GB", std::string("2,5")), "2,5 GB");
  EXPECT_EQ(say("Rig {}", 1), "Rig 1");
}

TEST_F(Speech, WritesNumbersAndLengthsItsWay) {
  speak_with({{"{} d {} h", "{} T {} h"}});
  EXPECT_EQ(format_number(4.8, 2), "4,8");
  EXPECT_EQ(format_count(1234567), "1.234.567");
  EXPECT_EQ(format_length(4.8), "4,8 s");
  EXPECT_EQ(format_length(51 * 3600.0 * 10), "21 T 6 h");
  EXPECT_EQ(format_shutter(2.5), "2,5 s");
  EXPECT_EQ(plain_number(4.8, 2), "4.8") << "files and programs keep the point";
}

TEST_F(Speech, ReadsWhatItWrites) {
  speak_with({{"{} frame (1)", "{} Bild"},
              {"{} frame", "{} Bilder"},
              {"{} fps", "{} B/s"},
              {"{} times", "{}-mal"},
              {"{} of a step", "{} Schritt"},
              {"half a step", "ein halber Schritt"},
              {"s sec secs second seconds", "s sek sekunde sekunden"},
              {"h hr hrs hour hours", "h std stunde stunden"},
              {"d day days", "d tag tage"}});
  const std::pair<Slot, double> values[] = {
      {Slot::Clip, 4.8},         {Slot::Fps, 23.976},   {Slot::Fps, 25},       {Slot::Frames, 1},
      {Slot::Frames, 12000},     {Slot::Interval, 2.5}, {Slot::SpeedUp, 2.5},  {Slot::SpeedUp, 4200},
      {Slot::Step, 0.012},       {Slot::Trail, 0.5},    {Slot::Trail, 0.8},    {Slot::Trail, 0.25},
      {Slot::Shutter, 1 / 125.}, {Slot::Shutter, 0.5},  {Slot::Field, 83 * 60}};
  for (const auto& [slot, value] : values) {
    const std::string shown = plan::format_slot(slot, value);
    EXPECT_NEAR(plan::parse_slot(slot, shown), value, value * 0.01) << shown;
  }
  EXPECT_DOUBLE_EQ(parse_length("2 Stunden", "x"), 7200);
  EXPECT_DOUBLE_EQ(parse_length("2 Tage 3 Std", "x"), 2 * 86400 + 3 * 3600);
  EXPECT_DOUBLE_EQ(parse_length("90 seconds", "x"), 90) << "English is understood in every window";
  EXPECT_EQ(parse_count("12.000", "x"), 12000);
  EXPECT_EQ(parse_count("12\u202F000", "x"), 12000) << "blanks that do not break a line";
  for (const char* wrong : {"12.00", "1.2345", ".500", "1..000"})
    EXPECT_EQ(test::error_of([&] { parse_count(wrong, "x"); }).kind(), Error::Kind::BadInput) << wrong;
}

TEST_F(Speech, ReadsMeteredExposuresWithEitherComma) {
  const auto same = [](const char* text) {
    const plan::Metered m = plan::parse_metered(text);
    EXPECT_DOUBLE_EQ(m.shutter_s, 0.5) << text;
    EXPECT_DOUBLE_EQ(m.f_number, 2.8) << text;
    EXPECT_DOUBLE_EQ(m.iso, 400) << text;
  };
  same("1/2,f2.8,iso400");
  same("0.5 s at f/2.8, ISO 400");
  speak_with({});
  same("1/2, f/2,8, ISO 400");
  same("0,5 s, f2,8, iso400");
  const plan::Metered m{0.5, 2.8, 400};
  EXPECT_EQ(plan::metered_words(m), "0,5 s, f/2,8, ISO 400");
  same(plan::metered_words(m).c_str());
}

/// A take made in one language is the same in another, and for the command.
TEST_F(Speech, DoesNotTouchWhatIsKept) {
  take::Take take = test::small_take(30);
  take.temperature_c = 4.5;
  take.subject = "Wolken";
  const auto documents = [&take] {
    const ramp::Ramp ramp = forecast::ramp_of(take);
    book::Entry entry = book::entry_of(take, "/takes/a.askcount");
    return std::vector<std::string>{take::to_text(take),
                                    plan::to_json(take.kit).dump(),
                                    ramp::csv_of(forecast::curve_of(take, ramp), take.place.zone),
                                    paper::ramp_csv(take, ramp),
                                    book::to_text(entry),
                                    book::csv_of({entry})};
  };
  const std::vector<std::string> english = documents();
  speak({[](const char* text, long long) { return "§" + std::string(text) + "§"; }, ",", "."});
  const std::vector<std::string> other = documents();
  for (size_t i = 0; i < english.size(); ++i) EXPECT_EQ(other[i], english[i]) << "document " << i;
  EXPECT_EQ(take::take_from_json(parse_json(other[0], "a"), "a").temperature_c, 4.5);
}

/// The window's own notes are English in the journal and told in the language spoken; a person's are theirs.
TEST_F(Speech, TellsTheNotesOfAJournal) {
  journal::ShootState state;
  state.notes = {{3, "Changed the battery", ""}, {7, "Fog from the west", ""}};
  speak_with({{"Changed the battery", "Akku gewechselt"}, {"{}frame {}   {}", "{}Bild {}   {}"}});
  const std::vector<std::string> told = advice::log_lines(state, "UTC", 5);
  ASSERT_EQ(told.size(), 2u);
  EXPECT_EQ(told[0], "Bild 8   Fog from the west");
  EXPECT_EQ(told[1], "Bild 4   Akku gewechselt");
}

/// A page of the book is in one language, whatever the window speaks.
TEST_F(Speech, ThePageOfTheBookIsInOneLanguage) {
  const test::Folder folder;
  book::Book book(folder / "book.db");
  book.file(book::entry_of(test::small_take(30), folder / "a.askcount"));
  const auto page = [&book] { return book::page_of(book::printed_of(book, {}, book.list()), {""}); };
  const std::string english = page();
  EXPECT_NE(english.find("Boats on the flood tide"), std::string::npos);
  speak({[](const char* text, long long) { return "§" + std::string(text); }, ",", "."});
  EXPECT_EQ(page(), english);
}

/// Subjects are known by what people call them in each language that ships, whoever reads the take.
TEST_F(Speech, KnowsSubjectsInEveryLanguage) {
  for (const auto& [words, kind] : {std::pair{"Sterne über Gannet Head", "stars"},
                                    {"Étoiles", "stars"},
                                    {"Milchstraße", "stars"},
                                    {"Sternspuren", "star trails"},
                                    {"Filés d’étoiles", "star trails"},
                                    {"Regenwolken", "fast clouds"},
                                    {"les nuages", "fast clouds"},
                                    {"BAUSTELLE am Kai", "building site"},
                                    {"le chantier", "building site"},
                                    {"Boote auf der Flut", "tide"},
                                    {"Verkehr", "traffic"},
                                    {"Pflanzen wachsen", "plants growing"},
                                    {"Cristaux d'alun", "crystals"},
                                    {"Dämmerung", "day into night"}}) {
    const auto kinds = plan::kinds_of(words);
    EXPECT_TRUE(
        std::any_of(kinds.begin(), kinds.end(), [&](const auto* k) { return k->name == std::string(kind); }))
        << words << " is " << (kinds.empty() ? "nothing" : kinds.front()->name);
  }
  for (const char* none : {"starlings", "Starkstrom", "Gartenzwerg", "voiturier"})
    EXPECT_TRUE(plan::kinds_of(none).empty()) << none << " is " << plan::kinds_of(none).front()->name;
  EXPECT_TRUE(plan::any_kind("Sterne", &plan::SubjectKind::points_of_light));
  EXPECT_TRUE(plan::any_kind("Schiffe im Hafen", &plan::SubjectKind::by_water));
}

}  // namespace
}  // namespace askcount
