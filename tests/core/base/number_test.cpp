// SPDX-License-Identifier: GPL-3.0-or-later
// Numbers as people write them, in languages with a point and with a comma.
#include "base/number.h"

#include "base/units.h"
#include "plan/slot.h"
#include "support.h"

namespace askcount {
namespace {

class Number : public ::testing::Test {
 protected:
  void TearDown() override { speak({}); }
  static void speak_german() { speak({{}, ",", "."}); }

  static std::optional<double> number(std::string_view text) {
    const auto value = take_number(text);
    return text.empty() ? value : std::nullopt;  // all of it, or it was not understood
  }
  static double in(std::string_view text) { return parse_number(text, -1e9, 1e9, "the value"); }
  static bool refused(std::string_view text) {
    return test::error_of([&] { in(text); }).kind() == Error::Kind::BadInput;
  }
};

TEST_F(Number, GroupsOfThreeStandApartByTheMarkOfTheLanguage) {
  EXPECT_EQ(number("1,250"), 1250);
  EXPECT_EQ(number("1.250"), 1.25);
  EXPECT_EQ(number("12,345,678"), 12345678);
  EXPECT_EQ(number("1,250.5"), 1250.5);
  speak_german();
  EXPECT_EQ(number("1.250"), 1250);
  EXPECT_EQ(number("1,250"), 1.25);
  EXPECT_EQ(number("1.250,5"), 1250.5);
}

TEST_F(Number, BlanksAndApostrophesGroupEverywhere) {
  for (const char* text : {"1 250", "1'250", "1\u00A0250", "1\u202F250", "1\u2019250", "1250"})
    EXPECT_EQ(number(text), 1250) << text;
  EXPECT_EQ(number("1.250.000"), 1250000) << "twice, it is no decimal point";
}

TEST_F(Number, DecimalsMayHaveEitherMark) {
  EXPECT_EQ(number("4.8"), 4.8);
  EXPECT_EQ(number("4,8"), 4.8);
  EXPECT_EQ(number("0,125"), 0.125) << "no group begins with nought";
  EXPECT_EQ(number("4,1250"), 4.125) << "four digits are no group";
  EXPECT_EQ(number("1234,567"), 1234.567) << "before a group stand three digits at most";
  speak_german();
  EXPECT_EQ(number("4.8"), 4.8);
}

TEST_F(Number, WhatIsNoNumberIsLeftAlone) {
  for (const char* text : {"", "x", ",", "1,25,0", "1 25", "1.2.3", "1,,250"})
    EXPECT_FALSE(number(text)) << text;
}

TEST_F(Number, OneIsFoundAmongWords) {
  EXPECT_EQ(in("ISO 100,000"), 100000);
  EXPECT_EQ(in("f/2.8"), 2.8);
  EXPECT_EQ(in("24 mm"), 24);
  EXPECT_EQ(in("-3 °C"), -3);
  EXPECT_EQ(in("\u22123 °C"), -3);
  EXPECT_EQ(in("frame 1,200"), 1200);
  EXPECT_TRUE(refused("none"));
  EXPECT_TRUE(refused("from 3 to 5")) << "which of them?";
  EXPECT_EQ(std::string(test::error_of([] { parse_number("12", 1, 10, "the last frame"); }).what()),
            "For the last frame, write a number from 1 to 10.");
}

TEST_F(Number, EveryReaderKnowsThem) {
  EXPECT_EQ(parse_length("1,250 s", "x"), 1250);
  EXPECT_EQ(parse_length("1/4 s", "x"), 0.25);
  EXPECT_EQ(parse_positive("1,250", "x"), 1250);
  EXPECT_EQ(parse_count("1,200", "x"), 1200);
  EXPECT_EQ(parse_count("1.200", "x"), 1200) << "a count has no decimals";
  EXPECT_EQ(plan::parse_slot(Slot::SpeedUp, "4,200 times"), 4200);
  EXPECT_EQ(plan::parse_slot(Slot::SpeedUp, "4.2 times"), 4.2);
}

// What an error is about is said apart from its words: the command has options, the window has slots.
TEST_F(Number, ErrorsKnowWhatTheyAreAbout) {
  const Error slot = test::error_of([] { plan::parse_slot(Slot::Interval, "soon"); });
  EXPECT_EQ(slot.about(), About(Slot::Interval));
  EXPECT_EQ(std::string(slot.what()),
            "The interval \"soon\" is not a length of time. Write it like 90 s, 1h30, 2:30 or 1/125.");
  EXPECT_EQ(slot.rest(), "\"soon\" is not a length of time. Write it like 90 s, 1h30, 2:30 or 1/125.");
  EXPECT_EQ(about_word(Input::Meter), std::string("meter"));
  EXPECT_FALSE(test::error_of([] { parse_length("soon", "The delay"); }).about());
}

}  // namespace
}  // namespace askcount
