// SPDX-License-Identifier: GPL-3.0-or-later
#include "targets.h"

#include <fmt/format.h>
#include <cmath>
#include <nlohmann/json.hpp>

#include <stdexcept>

#include "advice/checklist.h"
#include "base/error.h"
#include "base/files.h"
#include "base/frame_rate.h"
#include "base/units.h"
#include "book/tables.h"
#include "cards.h"
#include "journal/journal.h"
#include "journal/state.h"
#include "look/anchors.h"
#include "look/cube.h"
#include "media/frame_source.h"
#include "plan/days.h"
#include "plan/exposure_match.h"
#include "ramp/light.h"
#include "render/picture_file.h"
#include "simulate/fault.h"
#include "simulate/flaws.h"
#include "simulate/raw.h"
#include "simulate/rig_json.h"
#include "sky/place.h"
#include "timer/program.h"

namespace askcount::fuzz {
namespace {

namespace fs = std::filesystem;

void same(bool so, const std::string& what) {
  if (!so) throw std::logic_error(what);
}

/// What was written and read again must be written the same; says where it is not.
template <typename Value>
void came_back(const Value& value, const Value& again, const char* what) {
  const Json once = to_json(value), twice = to_json(again);
  same(once == twice,
       fmt::format("{} is another when it was written and read: {}", what, Json::diff(once, twice).dump()));
}

std::string bytes_of(const fs::path& file) {
  return read_file(file);
}

std::vector<std::string> keys_of(const Json& json) {
  std::vector<std::string> keys = {"null", "true", "[]", "{}",      "[[[[",
                                   "\"\"", ":",    ",",  "\\u0000", "\\ud800"};
  for (const auto& [key, value] : json.items()) keys.push_back("\"" + key + "\": ");
  return keys;
}

Target takes() {
  Target t;
  t.name = "take";
  take::Take night = test::small_take(300);
  night.subject = "stars";
  night.look.anchors = {{3, {}}};
  t.corpus = {take::to_json(take::demo_take()).dump(1), take::to_json(night).dump(),
              take::to_json(take::Take{}).dump()};
  t.words = keys_of(take::to_json(take::demo_take()));
  t.times = 1200;
  t.feed = [](const std::string& input, const fs::path&) {
    const take::Take take = take::take_from_json(parse_json(input, "fuzzed"), "fuzzed");
    came_back(take, take::take_from_json(take::to_json(take), "again"), "a take");
    take.solution();
    advice::checklist_of(take);
    take.sums();
  };
  return t;
}

Target kits() {
  Target t;
  t.name = "kit";
  t.corpus = {plan::to_json(take::demo_take().kit).dump(1)};
  t.words = keys_of(plan::to_json(take::demo_take().kit));
  t.feed = [](const std::string& input, const fs::path&) {
    const plan::Kit kit = plan::kit_from_json(parse_json(input, "fuzzed"), "fuzzed");
    came_back(kit, plan::kit_from_json(plan::to_json(kit), "again"), "a kit");
  };
  return t;
}

Target journals() {
  Target t;
  t.name = "journal";
  t.refuses = false;  // a line that cannot be read is passed over
  t.corpus = {
      R"({"what":"start","standin":false,"first_ms":1791568200000,"interval_s":20,"count":40,"scale":1,"at":1791568190000}
{"what":"tick","code":"focus","done_ms":1791568100000,"at":1791568190000}
{"what":"shot","number":3,"frame":0,"file":"100QUAY/QUAY0217.JPG","at":1791568200100}
{"what":"click","frame":9,"asked":8,"dial":"shutter","at":1791568380000}
{"what":"note","words":"fox","at":1791568400000}
{"what":"battery","at":1791568500000}
{"what":"end","at":1791569000000}
)"};
  t.words = {"\n",      "\"at\":",   "\"what\":", "\"frame\":", "\"start\"",
             "\"end\"", "\"click\"", "null",      "[",          "{"};
  t.feed = [](const std::string& input, const fs::path& folder) {
    test::write(folder / "a.journal", input);
    journal::state_of(journal::read_journal(folder / "a.journal"));
  };
  return t;
}

Target rigs() {
  Target t;
  t.name = "socket";
  const simulate::RigSetting rig =
      simulate::rig_for(forecast::shoot_order(test::small_take(10, {60, 40}), "/nowhere/card"));
  t.corpus = {simulate::to_json(rig).dump()};
  t.words = keys_of(simulate::to_json(rig));
  t.feed = [rig](const std::string& input, const fs::path&) {
    const simulate::RigSetting read = simulate::rig_from_json(parse_json(input, "The line"), rig);
    const Json once = simulate::to_json(read), twice = simulate::to_json(simulate::rig_from_json(once, rig));
    same(once == twice, "a rig is another when it was sent: " + Json::diff(once, twice).dump());
  };
  return t;
}

Target tables() {
  Target t;
  t.name = "cube";
  std::string cube = "TITLE \"warm\"\nLUT_3D_SIZE 2\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\n";
  for (int i = 0; i < 8; ++i) cube += fmt::format("{} {} 0.5\n", i % 2, i / 4);
  t.corpus = {cube, "# curve\nLUT_1D_SIZE 3\n0 0 0\n.4 .5 .6\n1 1 1\n"};
  t.words = {"LUT_3D_SIZE 129", "LUT_1D_SIZE 65536", "LUT_3D_SIZE -2", "DOMAIN_MAX", "\n", "#", "TITLE",
             "1e-400"};
  t.feed = [](const std::string& input, const fs::path& folder) {
    test::write(folder / "a.cube", input);
    const look::Cube cube = look::load_cube(folder / "a.cube");
    float red = 300, green = -5, blue = 128;
    cube.apply(&red, &green, &blue, 1);
  };
  return t;
}

Target looks() {
  Target t;
  t.name = "looks";
  look::Anchor anchor;
  anchor.frame = 12;
  anchor.look.light = 0.5;
  const Json json = {{"askcount-look", 1}, {"anchors", look::to_json(std::vector<look::Anchor>{anchor})}};
  t.corpus = {json.dump()};
  t.words = keys_of(look::to_json(anchor.look));
  t.feed = [](const std::string& input, const fs::path& folder) {
    test::write(folder / "a.look", input);
    const auto anchors = look::load_looks(folder / "a.look");
    came_back(anchors, look::anchors_from_json(look::to_json(anchors), "again"), "a look");
  };
  return t;
}

Target csv() {
  Target t;
  t.name = "csv";
  book::Entry e;
  e.how = book::How::Hand;
  e.name = "Fog, \"thick\"";
  e.words.note = "two\nlines";
  e.planned.frames = 300;
  e.start = parse_instant("2026-02-01T07:00:00Z", "UTC");
  t.corpus = {book::csv_of({e, e}), "name,frames\nGulls,20\n"};
  t.words = {"\"", "\"\"", ",", ";", "\r\n", "\n", "name", "start", "frames", "\xEF\xBB\xBF"};
  t.feed = [](const std::string& input, const fs::path&) {
    const std::string once = book::csv_of(book::entries_from_csv(input, "fuzzed.csv"));
    same(book::csv_of(book::entries_from_csv(once, "again.csv")) == once, "a table is another when saved");
  };
  return t;
}

Target readings() {
  Target t;
  t.name = "readings";
  t.corpus = {ramp::csv_of({{parse_instant("2026-02-01T07:00:00Z", "UTC"), 12.5},
                            {parse_instant("2026-02-01T07:10:00Z", "UTC"), 11}},
                           "UTC"),
              "time,ev100\n2026-10-09 17:50,12.5\n2026-10-09 18:20,9\n"};
  t.words = {",", ";", "\n", "\r\n", "#", "T", "Z", "+02:00", "ev100"};
  t.feed = [](const std::string& input, const fs::path&) {
    const auto read = ramp::readings_of_csv(input, "Europe/London", "fuzzed.csv");
    const std::string once = ramp::csv_of(read, "Europe/London");
    same(ramp::csv_of(ramp::readings_of_csv(once, "Europe/London", "again.csv"), "Europe/London") == once,
         "readings are others when saved");
  };
  return t;
}

Target entries() {
  Target t;
  t.name = "book";
  book::Entry e;
  e.name = "Fog";
  e.came.emplace().frames = 20;
  const Json json = {{"takes", Json::array({book::answer_json(e, true)})}};
  t.corpus = {json.dump(), book::to_json(e).dump()};
  t.words = keys_of(book::to_json(e));
  t.feed = [](const std::string& input, const fs::path&) {
    const Json json = parse_json(input, "fuzzed");
    try {
      book::entries_from_json(json, "fuzzed");
    } catch (const Error&) {
      // Then it may be a single one.
    }
    const book::Entry e = book::entry_from_json(json, "fuzzed");
    same(book::to_json(book::entry_from_json(book::to_json(e), "again")) == book::to_json(e),
         "an entry is another when it was filed");
  };
  return t;
}

Target words() {
  Target t;
  t.name = "words";
  t.corpus = {"10 s",
              "1h 23min 4s",
              "33:20",
              "1/125 s",
              "56.1 N 5.5 W",
              "56°06'00\"N, 5°30'00\"W",
              "56 6 0, -5 30 0",
              "2026-10-09T17:50:00+01:00",
              "2026-10-09 17:50",
              "24000/1001",
              "7:30-18x5",
              "1/125,f8,iso100",
              "3x2",
              "dew@150=40",
              "250",
              "3,000",
              "banding=0.2",
              "2026-10-09"};
  t.words = {"s", "min", "h", "d", ":", "/",   "-", "°", "'", "\"", "N",
             "W", "T",   "Z", "+", "f", "iso", "@", "=", "x", " "};
  t.times = 20000;
  t.refuses = false;  // each of its readers is asked
  t.feed = [](const std::string& input, const fs::path&) {
    const auto tried = [](auto&& read) {
      try {
        read();
      } catch (const Error& e) {
        same(*e.what() != '\0', "it is refused without a word");
      }
    };
    tried([&] {
      const double s = parse_length(input, "length");
      same(std::isfinite(s), "a length without end");
      if (s > 0.01 && s < 1e7) {
        const double again = parse_length(format_length(s, 3), "again");
        same(std::abs(again - s) <= 0.0011 + s * 0.01, "a length is another when it was written");
      }
    });
    tried([&] { same(parse_positive(input, "number") > 0, "a number above zero that is not"); });
    tried([&] { same(parse_count(input, "count") > 0, "a count above zero that is not"); });
    tried([&] {
      const FrameRate r = parse_frame_rate(input, "fps");
      same(r.value() >= 1 && r.value() <= 1000, "a frame rate out of its range");
      same(parse_frame_rate(format_frame_rate(r), "again") == r, "a frame rate is another when written");
    });
    tried([&] {
      const auto [lat, lon] = sky::parse_coordinates(input);
      same(std::abs(lat) <= 90 && std::abs(lon) <= 180, "coordinates that are nowhere");
    });
    tried([&] {
      const Instant at = std::chrono::floor<std::chrono::seconds>(parse_instant(input, "Europe/London"));
      same(parse_instant(format_iso(at, "Europe/London"), "UTC") == at, "a moment is another when written");
    });
    tried([&] { parse_wall_time(input, "Pacific/Auckland"); });
    tried([&] { same(parse_day(format_day(parse_day(input))) == parse_day(input), "a day is another"); });
    tried([&] { plan::parse_work(input); });
    tried([&] { plan::parse_metered(input); });
    tried([&] {
      plan::ShotMake make;
      plan::parse_brackets(input, make);
    });
    tried([&] { simulate::parse_fault(input); });
    tried([&] {
      simulate::Flaws flaws;
      simulate::add_flaw(flaws, input);
    });
    for (const plan::Slot slot : plan::kAllSlots) tried([&] { plan::parse_slot(slot, input); });
  };
  return t;
}

/// A file of a picture, read as frames are.
Target picture(const std::string& name, const std::string& ending, std::vector<std::string> corpus) {
  Target t;
  t.name = name;
  t.corpus = std::move(corpus);
  t.words = {"Exif",
             "II*",
             std::string("MM\0*", 4),
             "\xff\xd8\xff",
             "\xff\xda",
             std::string(4, '\0'),
             std::string(4, '\xff'),
             "IHDR",
             "IDAT",
             "IEND"};
  t.times = 250;
  t.feed = [ending](const std::string& input, const fs::path& folder) {
    const fs::path file = folder / ("a." + ending);
    test::write(file, input);
    const media::Frame frame = media::frame_of(file);
    media::any_source().small(frame);
    media::any_source().read(frame, {{24, 16}, {}});
  };
  return t;
}

std::vector<Target> pictures() {
  const test::Folder folder;
  test::Card card;
  card.size = {48, 32};
  card.frames = 1;
  test::write_card(card, folder / "card");
  const fs::path jpeg = fs::recursive_directory_iterator(folder / "card")->path();
  image::Linear32 seen(image::Size{32, 24});
  std::fill(seen.rgb.begin(), seen.rgb.end(), 0.2F);
  const media::CameraTime captured(std::chrono::milliseconds(1791568200000));
  simulate::write_raw(seen, {{0.01, 8, 100}, 0, captured, 0}, {}, folder / "a.dng");
  image::Coded16 picture(image::Size{24, 16});
  media::ShotInfo info;
  info.software = "fuzz";
  render::write_picture(picture, render::Format::Tiff16, 90, info, folder / "a.tif");
  render::write_picture(picture, render::Format::Png16, 90, info, folder / "a.png");
  const fs::path first = fs::is_regular_file(jpeg) ? jpeg : fs::directory_iterator(jpeg)->path();
  return {fuzz::picture("jpeg", "jpg", {bytes_of(first)}),
          fuzz::picture("dng", "dng", {bytes_of(folder / "a.dng")}),
          fuzz::picture("tiff", "tif", {bytes_of(folder / "a.tif")}),
          fuzz::picture("png", "png", {bytes_of(folder / "a.png")})};
}

}  // namespace

std::vector<Target> targets() {
  std::vector<Target> all = {takes(), kits(), journals(), rigs(),    tables(),
                             looks(), csv(),  readings(), entries(), words()};
  for (Target& t : pictures()) all.push_back(std::move(t));
  return all;
}

}  // namespace askcount::fuzz
