// SPDX-License-Identifier: GPL-3.0-or-later
// The look: tones and colours by worked examples, anchors, files of looks and tables.
#include <cmath>
#include <nlohmann/json.hpp>

#include "look/anchors.h"
#include "look/colour.h"
#include "look/cube.h"
#include "look/monotone.h"
#include "look/tones.h"
#include "support.h"

namespace askcount::look {
namespace {

double stops_of(double linear) {
  return std::log2(linear / kMidGrey);
}

double linear_of_code(double code) {
  return static_cast<double>(image::linear_of_code_value(static_cast<float>(code)));
}

TEST(Monotone, GoesThroughItsPointsAndNeverBeyondThem) {
  const std::vector<double> x = {0, 10, 11, 50, 90}, y = {0, 0, 3, 3.1, 1};
  const Monotone curve(x, y);
  for (size_t i = 0; i < x.size(); ++i) EXPECT_NEAR(curve(x[i]), y[i], 1e-12);
  for (size_t i = 0; i + 1 < x.size(); ++i) {
    double last = y[i];
    const double direction = y[i + 1] >= y[i] ? 1 : -1;
    for (double at = x[i]; at <= x[i + 1]; at += (x[i + 1] - x[i]) / 50) {
      EXPECT_GE(direction * (curve(at) - last), -1e-9) << at;
      last = curve(at);
    }
  }
  EXPECT_EQ(curve(-5), 0);
  EXPECT_EQ(curve(200), 1);
}

TEST(Tones, OfNoLookAreWhatTheyWere) {
  const ToneCurve none{Look{}};
  EXPECT_TRUE(none.none());
  for (const double v : {0.0, 0.003, 0.18, 0.7, 1.0}) EXPECT_EQ(none(v), v);
}

TEST(Tones, MoveByTheStopsThatAreAskedFor) {
  Look look;
  look.bright_parts = -0.7;
  look.dark_parts = 0.5;
  const ToneCurve curve(look);
  const double upper = linear_of_code(0.8), lower = linear_of_code(0.2);
  EXPECT_NEAR(stops_of(curve(upper)) - stops_of(upper), -0.7, 0.01);
  EXPECT_NEAR(stops_of(curve(lower)) - stops_of(lower), 0.5, 0.01);
  EXPECT_NEAR(curve(kMidGrey), kMidGrey, 1e-4);
  EXPECT_NEAR(curve(1), 1, 1e-4);
  EXPECT_EQ(curve(0), 0);
}

TEST(Tones, HaveTheirDepthAtMidGrey) {
  for (const double depth : {0.7, 1.0, 1.3, 1.6}) {
    Look look;
    look.depth = depth;
    const ToneCurve curve(look);
    const double step = 0.05;
    const double slope =
        (stops_of(curve(kMidGrey * std::exp2(step))) - stops_of(curve(kMidGrey * std::exp2(-step)))) /
        (2 * step);
    EXPECT_NEAR(slope, depth, 0.05);
  }
}

TEST(Tones, RiseThroughoutWhateverIsAsked) {
  for (const Lane& lane : lanes())
    for (const double end : {lane.least, lane.most}) {
      Look look;
      look.*lane.value = end;
      if (lane.value == &Look::bright_parts) look.dark_parts = -end;  // the worst together
      if (lane.value == &Look::depth) look.bright_parts = 1.5, look.dark_parts = -2;
      const ToneCurve curve(look);
      double last = -1;
      for (double v = 0; v <= 1; v += 1.0 / 512) {
        EXPECT_GE(curve(v), last - 1e-7) << lane.key << " " << end << " at " << v;
        last = curve(v);
        EXPECT_TRUE(last >= 0 && last <= 1);
      }
    }
}

TEST(Tones, LightIsAGainThatHoldsWhite) {
  Look look;
  look.light = 1;
  EXPECT_NEAR(ToneCurve(look)(0.1), 0.2, 1e-5);
  EXPECT_NEAR(ToneCurve(look)(1), 1, 1e-5);
  look.light = 0;
  look.black = 2;
  EXPECT_EQ(ToneCurve(look)(0.02), 0);
  EXPECT_NEAR(ToneCurve(look)(0.51), 0.5, 1e-6);
  look.black = -2;
  EXPECT_NEAR(ToneCurve(look)(0), 0.02, 1e-6);
}

// Planck's law by the CIE 1931 observer: x 0.4476 y 0.4074 at 2856 K (illuminant A), x 0.3221 y 0.3318 at
// 6000 K.
TEST(Colour, BlackBodiesHaveTheirTabulatedChromaticity) {
  EXPECT_NEAR(white_xy(2856)[0], 0.4476, 0.001);
  EXPECT_NEAR(white_xy(2856)[1], 0.4074, 0.001);
  EXPECT_NEAR(white_xy(6000)[0], 0.3221, 0.001);
  EXPECT_NEAR(white_xy(6000)[1], 0.3318, 0.001);
}

TEST(Colour, AdaptationIsUndoneByItsOpposite) {
  const Matrix back = times(adaptation(5600, 3200), adaptation(3200, 5600));
  const auto grey = times(back, Triple{0.4, 0.4, 0.4});
  EXPECT_NEAR(grey[0] / grey[1], 1, 1e-5);
  EXPECT_NEAR(grey[2] / grey[1], 1, 1e-5);
  EXPECT_EQ(adaptation(5600, 5600), kIdentity);
}

TEST(Colour, KeepsTheLuminanceOfGreyAndDrainsToIt) {
  Look look;
  look.warmth_k = 3000;
  look.cast = -0.4;
  look.colour = 1.7;
  const auto out = times(colour_matrix(look, 5600), Triple{0.5, 0.5, 0.5});
  EXPECT_NEAR(0.2126 * out[0] + 0.7152 * out[1] + 0.0722 * out[2], 0.5, 0.001);
}

TEST(Colour, APickedGreyBecomesGrey) {
  for (const Triple seen : {Triple{0.30, 0.25, 0.15}, Triple{0.2, 0.24, 0.30}, Triple{0.21, 0.2, 0.2}}) {
    const auto white = pick_white(seen, 5600);
    ASSERT_TRUE(white);
    Look look;
    look.warmth_k = white->warmth_k;
    look.cast = white->cast;
    const auto out = times(colour_matrix(look, 5600), seen);
    EXPECT_NEAR(out[0] / out[1], 1, 0.01);
    EXPECT_NEAR(out[2] / out[1], 1, 0.01);
  }
  EXPECT_FALSE(pick_white({0.5, 0.01, 0.01}, 5600));
  EXPECT_FALSE(pick_white({0, 0, 0}, 5600));
}

Looks three() {
  Looks looks;
  Look day, dusk, night;
  dusk.light = 0.5;
  dusk.warmth_k = 4000;
  night.light = 1.5;
  night.colour = 0.8;
  set_anchor(looks.anchors, 100, night);
  set_anchor(looks.anchors, 0, day);
  set_anchor(looks.anchors, 60, dusk);
  return looks;
}

TEST(Anchors, StandBeforeTheFirstAndAfterTheLastAndNeverOvershoot) {
  const Looks looks = three();
  EXPECT_EQ(looks.anchors.front().frame, 0);
  EXPECT_EQ(look_at(looks, 500), look_at(looks, 100));
  EXPECT_NEAR(look_at(looks, 60).light, 0.5, 1e-9);
  EXPECT_NEAR(look_at(looks, 60).warmth_k, 4000, 1e-6);
  double last = -1;
  for (int n = 0; n <= 100; ++n) {
    const Look l = look_at(looks, n);
    EXPECT_GE(l.light, last);
    last = l.light;
    EXPECT_TRUE(l.colour >= 0.8 - 1e-9 && l.colour <= 1 + 1e-9);
    EXPECT_TRUE(l.warmth_k > 3999 && l.warmth_k < 5601);
  }
}

TEST(Anchors, AreChangedInPlaceAndTakenAway) {
  std::vector<Anchor> anchors = three().anchors;
  Look other;
  other.haze = 0.3;
  set_anchor(anchors, 60, other);
  EXPECT_EQ(anchors.size(), 3u);
  EXPECT_EQ(anchors[1].look, other);
  remove_anchor(anchors, 60);
  remove_anchor(anchors, 61);
  EXPECT_EQ(anchors.size(), 2u);
  EXPECT_TRUE(Looks{}.none());
}

TEST(Anchors, GoThroughAFileAndBack) {
  const test::Folder folder;
  const auto file = folder / "dusk.look";
  save_looks(three().anchors, file);
  EXPECT_EQ(load_looks(file), three().anchors);
  save_looks({}, file);  // its own kind may be written over
  EXPECT_TRUE(load_looks(file).empty());
  EXPECT_EQ(written_kind(file), FileKind::Look);
}

TEST(Anchors, ThatMakeNoSenseAreRefusedByName) {
  const auto refused = [](const char* text, const char* part) {
    try {
      anchors_from_json(Json::parse(text), "x.look");
      ADD_FAILURE() << text;
    } catch (const Error& e) {
      EXPECT_NE(std::string(e.what()).find(part), std::string::npos) << e.what();
    }
  };
  refused(R"([{"frame": 3, "light": 9}])", "\"light\" is 9");
  refused(R"([{"frame": 3, "glow": 1}])", "\"glow\"");
  refused(R"([{"frame": 0}])", "\"frame\"");
  refused(R"([{"frame": 2.5}])", "\"frame\"");
  refused(R"([{"frame": 2}, {"frame": 2}])", "given twice");
  refused(R"([{"frame": 2, "depth": "much"}])", "\"depth\" must be a number");
  refused(R"({"frame": 2})", "list");
}

std::string cube_text(int size, int values) {
  std::string text = fmt::format("TITLE \"harbour\"\nLUT_3D_SIZE {}\nDOMAIN_MIN 0 0 0\n", size);
  const auto share = [size](int i) { return static_cast<double>(i % size) / (size - 1); };
  for (int i = 0; i < values; ++i)
    text += fmt::format("{:.6f} {:.6f} {:.6f}\n", share(i), share(i / size), share(i / size / size));
  return text;
}

TEST(Cubes, ThatChangeNothingChangeNothing) {
  const test::Folder folder;
  test::write(folder / "same.cube", cube_text(5, 125));
  const Cube cube = load_cube(folder / "same.cube");
  EXPECT_EQ(cube.name, "harbour");
  float r[] = {0, 12.5F, 100, 254, 255}, g[] = {0, 200, 60.25F, 3, 255}, b[] = {0, 77, 61, 128, 255};
  const float r0[] = {0, 12.5F, 100, 254, 255}, b0[] = {0, 77, 61, 128, 255};
  cube.apply(r, g, b, 5);
  for (size_t i = 0; i < 5; ++i) {
    EXPECT_NEAR(r[i], r0[i], 0.01);
    EXPECT_NEAR(b[i], b0[i], 0.01);
  }
  save_cube(cube, folder / "again.cube");
  EXPECT_EQ(load_cube(folder / "again.cube").rgb, cube.rgb);
}

TEST(Cubes, WithHolesAreRefusedByLine) {
  const test::Folder folder;
  const auto refused = [&](const std::string& text, const char* part) {
    test::write(folder / "bad.cube", text);
    try {
      load_cube(folder / "bad.cube");
      ADD_FAILURE() << part;
    } catch (const Error& e) {
      EXPECT_NE(std::string(e.what()).find(part), std::string::npos) << e.what();
      EXPECT_NE(std::string(e.what()).find("bad.cube"), std::string::npos);
    }
  };
  refused(cube_text(3, 26), "26 of 27");
  refused(cube_text(3, 28), "more than the 27");
  refused("LUT_3D_SIZE 2\n0 0\n", "line 2");
  refused("LUT_3D_SIZE 2\n0 0 nan\n", "line 2");
  refused("0 0 0\n", "before LUT_3D_SIZE");
  refused("LUT_3D_SIZE 400\n", "from 2 to 129");
  refused("LUT_3D_SIZE 2\nDOMAIN_MAX 4 4 4\n", "DOMAIN_MAX");
  refused("", "no LUT_3D_SIZE");
}

TEST(Cubes, OfCurvesAreRead) {
  const test::Folder folder;
  test::write(folder / "inverted.cube", std::string("LUT_1D_SIZE 2\n1 1 1\n0 0 0\n"));
  const Cube cube = load_cube(folder / "inverted.cube");
  float r = 40, g = 128, b = 255;
  cube.apply(&r, &g, &b, 1);
  EXPECT_NEAR(r, 215, 0.1);
  EXPECT_NEAR(g, 127, 0.1);
  EXPECT_NEAR(b, 0, 0.1);
}

}  // namespace
}  // namespace askcount::look
