// SPDX-License-Identifier: GPL-3.0-or-later
// The fields of a document: written and read by one list, and what is wrong named by its place.
#include "base/fields.h"

#include <nlohmann/json.hpp>

#include "support.h"

namespace askcount {
namespace {

enum class Way { On, Back };

struct Inner {
  double share = 0.5;
  bool operator==(const Inner&) const = default;
};

struct Thing {
  std::string name = "thing", note;
  double stops = 1;
  int count = 3;
  long long far = 7;
  bool on = false;
  std::optional<double> maybe;
  Way way = Way::On;
  int width = 10, height = 20;
  std::vector<double> numbers;
  std::vector<std::string> texts;
  Inner inner;
  std::vector<Inner> list;
  Instant at{};
  bool operator==(const Thing&) const = default;
};

void visit(Fields& f, Inner& i) {
  f.number("share", i.share, 0, 1);
}

void visit(Fields& f, Thing& t) {
  f.name("name", t.name);
  f.words("note", t.note);
  f.number("stops", t.stops, -5, 5);
  f.number("count", t.count, 1, 9);
  f.number("far", t.far, 0, 1e15);
  f.flag("on", t.on);
  f.maybe_number("maybe", t.maybe, 0, 10);
  f.choice("way", t.way, {{Way::On, "on"}, {Way::Back, "back"}});
  f.size("size", t.width, t.height, 1, 100);
  f.numbers("numbers", t.numbers, 0, 100);
  f.texts("texts", t.texts);
  f.part("inner", t.inner, [](Fields& g, Inner& i) { visit(g, i); });
  f.list("list", t.list, [](Fields& g, Inner& i) { visit(g, i); });
  f.moment("at", t.at, "Europe/London");
}

Json written(Thing t) {
  Json json = Json::object();
  Fields f(json);
  visit(f, t);
  return json;
}

Thing read(const Json& json) {
  Thing t;
  Fields f(json, "a.thing");
  visit(f, t);
  return t;
}

TEST(Fields, ComeBackAsTheyWereWritten) {
  Thing t;
  t.name = "Ümläut \"and\" more";
  t.note = "x";
  t.stops = -4.75;
  t.count = 9;
  t.far = 123456789012345;
  t.on = true;
  t.maybe = 2.5;
  t.way = Way::Back;
  t.width = 100, t.height = 1;
  t.numbers = {0, 99.5};
  t.texts = {"a", ""};
  t.inner.share = 1;
  t.list = {{0}, {0.25}};
  t.at = parse_instant("2026-10-09T17:50:00+01:00", "UTC");
  EXPECT_EQ(read(written(t)), t);
  EXPECT_EQ(written(t)["at"], "2026-10-09T17:50:00+01:00");
  EXPECT_EQ(written(t)["size"], Json::array({100, 1}));
}

TEST(Fields, WhatIsAbsentOrNullStaysAndWhatIsUnknownIsPassedOver) {
  EXPECT_EQ(read({{"name", "thing"}}), Thing{});
  Json nulls = written({});
  for (auto& [key, value] : nulls.items())
    if (key != "name") value = nullptr;
  EXPECT_EQ(read(nulls), Thing{});
  EXPECT_EQ(read({{"name", "thing"}, {"newer", {{"deep", 1}}}}), Thing{});
  EXPECT_TRUE(written({})["maybe"].is_null());
}

TEST(Fields, WhatIsWrongIsNamedByItsPlace) {
  const auto refused = [](const std::function<void(Json&)>& spoil, const char* place) {
    Json json = written({});
    spoil(json);
    const Error e = test::error_of([&] { read(json); });
    EXPECT_EQ(e.kind(), Error::Kind::BadInput);
    const std::string words = e.what();
    EXPECT_NE(words.find("a.thing"), std::string::npos) << words;
    EXPECT_NE(words.find(place), std::string::npos) << words;
  };
  refused([](Json& j) { j["stops"] = 5.001; }, "stops");
  refused([](Json& j) { j["stops"] = -5.001; }, "stops");
  refused([](Json& j) { j["stops"] = "1"; }, "stops");
  refused([](Json& j) { j["count"] = 0; }, "count");
  refused([](Json& j) { j["count"] = 10; }, "count");
  refused([](Json& j) { j["count"] = 2.5; }, "count");
  refused([](Json& j) { j["on"] = 1; }, "on");
  refused([](Json& j) { j["note"] = 1; }, "note");
  refused([](Json& j) { j["name"] = ""; }, "name");
  refused([](Json& j) { j.erase("name"); }, "name");
  refused([](Json& j) { j["maybe"] = 11; }, "maybe");
  refused([](Json& j) { j["way"] = "sideways"; }, "on, back");
  refused([](Json& j) { j["size"] = {1, 2, 3}; }, "size");
  refused([](Json& j) { j["size"] = {0, 2}; }, "size");
  refused([](Json& j) { j["size"] = {1.5, 2}; }, "size");
  refused([](Json& j) { j["numbers"] = {1, 101}; }, "numbers");
  refused([](Json& j) { j["numbers"] = {1, "x"}; }, "numbers");
  refused([](Json& j) { j["texts"] = {1}; }, "texts");
  refused([](Json& j) { j["inner"] = 7; }, "inner");
  refused([](Json& j) { j["inner"] = {{"share", 2}}; }, "inner.share");
  refused([](Json& j) { j["list"] = Json::array({{{"share", 0}}, {{"share", -1}}}); }, "list[1].share");
  refused([](Json& j) { j["list"] = Json::object(); }, "list");
  refused([](Json& j) { j["at"] = "yesterday"; }, "yesterday");
  EXPECT_EQ(test::error_of([] { read(Json::array()); }).kind(), Error::Kind::BadInput);
  for (const double edge : {-5.0, 5.0}) EXPECT_EQ(read({{"name", "x"}, {"stops", edge}}).stops, edge);
}

}  // namespace
}  // namespace askcount
