// SPDX-License-Identifier: GPL-3.0-or-later
// What is measured in pictures (sharpness, haze, movement, what passes, brackets, dust), held against what
// was kept. What is right is tested in audit_test.cpp, steady_test.cpp, bracket_test.cpp and optics_test.cpp.
#include <cmath>

#include "cards.h"
#include "dice.h"
#include "ingest/likeness.h"
#include "inspect/look.h"
#include "inspect/stillness.h"
#include "kept.h"
#include "level/brightness.h"
#include "media/bracket.h"
#include "motion/camera_path.h"
#include "optics/spots.h"
#include "painted.h"

namespace askcount {
namespace {

using test::Dice;
using test::Held;

TEST(KeptMeasures, OfFramesThatWereHarmed) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 4; ++seed) {
    Dice dice(seed);
    test::Card card{.frames = 16, .seed = static_cast<int>(seed), .noise = dice.between(0, 6)};
    std::vector<test::Harm> harms(16);
    double x = 0;
    for (test::Harm& h : harms) {
      if (dice.chance(0.2)) x += dice.between(-5, 5);
      h.dx = x, h.dy = dice.chance(0.1) ? dice.between(-3, 3) : 0;
      h.blur = dice.chance(0.15) ? dice.whole(1, 3) : 0;
      h.haze = dice.chance(0.2) ? dice.between(0.1, 0.8) : 0;
      h.gain = dice.chance(0.3) ? dice.between(0.2, 1.6) : 1;
      h.blob = dice.chance(0.15) ? dice.between(0.1, 0.5) : 0;
      h.drops = dice.chance(0.15) ? dice.whole(1, 4) : 0;
    }
    card.harm = [&](int n) { return harms[static_cast<size_t>(n)]; };
    const test::Folder folder;
    test::write_card(card, folder / "card");
    const ingest::Gathered g = ingest::gather(folder / "card");
    const inspect::Look look = inspect::look_at(g.frames, media::any_source());
    for (const inspect::Measures& m : look.frames)
      kept.push_back({m.stops, m.code, m.spread, m.clipped, m.fine[3], m.fine[14], m.coarse[3], m.coarse[14],
                      m.light[20], m.x, m.y, m.turn_deg, m.step_x, m.step_y, m.step_held_by, m.points,
                      m.held_by, 10 * m.odd});
    const auto a = ingest::layout_of(g.frames->front()), b = ingest::layout_of(g.frames->back());
    if (a && b) kept.push_back({ingest::correlation(*a, *b), ingest::is_blank(*a)});
    for (const auto& l :
         level::measure(g.frames, media::any_source(), {160, 90}, level::MeasuredFrom::Thumbnails))
      kept.push_back({l->stops(), l->parts[7], l->red[100], l->clipped()});
  }
  test::hold(kept, "core/measures", Held::Measured);
}

TEST(KeptMeasures, PathsOfCamerasThatMoved) {
  Json kept = Json::array();
  for (unsigned seed = 101; seed <= 104; ++seed) {
    Dice dice(seed);
    std::vector<std::array<double, 3>> way;
    for (int n = 0; n < 14; ++n)
      way.push_back({dice.between(-3, 3), dice.between(-2, 2), dice.between(-0.3, 0.3)});
    const image::Size size{360, 240};
    const double cloud = dice.chance(0.5) ? 4 : 0;
    const test::Painted source(size, [&](size_t n, double x, double y) {
      const auto& [dx, dy, turn] = way[n];
      const auto at = image::Affine::turned(-turn, size.width / 2.0, size.height / 2.0, -dx, -dy)(x, y);
      return y < 70 && cloud > 0 ? test::texture(at[0] - cloud * static_cast<double>(n), at[1])
                                 : 0.8 * test::texture(2 * at[0], 2 * at[1]);
    });
    const media::Frames frames = test::Painted::frames(way.size(), size);
    std::vector<size_t> which(way.size());
    for (size_t n = 0; n < which.size(); ++n) which[n] = n;
    // In thousandths of the width.
    for (const motion::Pose& p : motion::measure_path(frames, which, source, 360))
      kept.push_back({1000 * p.dx, 1000 * p.dy, 100 * p.turn_deg, p.held_by, 1e4 * p.error});
  }
  test::hold(kept, "core/paths", Held::Measured);
}

TEST(KeptMeasures, BracketsMadeIntoOnePicture) {
  Json kept = Json::array();
  for (unsigned seed = 201; seed <= 212; ++seed) {
    Dice dice(seed);
    const image::Size size{96, 64};
    const int many = dice.whole(2, 4);
    const auto lead = static_cast<size_t>(dice.whole(0, many - 1));
    const double apart = dice.between(1, 3), walker = dice.between(0, 90), noise = dice.between(0, 0.01);
    std::vector<media::BracketPart> parts;
    for (int k = 0; k < many; ++k) {
      media::BracketPart part{image::Linear32(size),
                              apart * (k - static_cast<double>(lead)) + (dice.chance(0.3) ? 0.2 : 0)};
      for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
          const bool walks = std::abs(x - walker - 6 * k) < 4 && y > 30;
          const double light =
              walks ? 0.05 : std::exp2(-7 + 0.09 * x + 0.02 * test::texture(3.0 * x, 3.0 * y) / 8);
          for (int c = 0; c < 3; ++c)
            part.picture.row(y)[3 * x + c] = static_cast<float>(
                std::clamp(light * std::exp2(apart * (k - static_cast<double>(lead))) + noise * dice.normal(),
                           0.0, 1.0));
        }
      parts.push_back(std::move(part));
    }
    const image::Linear32 out =
        media::blended(std::move(parts), lead, dice.chance(0.5) ? media::Blend::Merged : media::Blend::Fused);
    Json list = {out.top};
    for (const auto& [x, y] : {std::pair{5, 5}, {30, 40}, {60, 20}, {90, 60}, {48, 32}})
      list.push_back(100 * out.row(y)[3 * x + 1]);
    double sum = 0;
    for (const float v : out.rgb) sum += v;
    list.push_back(100 * sum / static_cast<double>(out.rgb.size()));
    kept.push_back(list);
  }
  test::hold(kept, "core/brackets", Held::Measured);
}

TEST(KeptMeasures, DustOverATake) {
  Json kept = Json::array();
  for (unsigned seed = 301; seed <= 302; ++seed) {
    Dice dice(seed);
    std::vector<std::array<double, 4>> specks;
    for (int i = dice.whole(1, 4); i > 0; --i)
      specks.push_back(
          {dice.between(20, 460), dice.between(20, 300), dice.between(3, 8), dice.between(0.05, 0.5)});
    const image::Size size{480, 320};
    const test::Painted source(size, [&](size_t n, double x, double y) {
      double v =
          150 +
          0.25 * (test::texture(x - 23.0 * static_cast<double>(n), y + 7.0 * static_cast<double>(n)) - 128);
      for (const auto& [sx, sy, r, d] : specks)
        v *= 1 - d * std::exp(-(std::pow(x - sx, 2) + std::pow(y - sy, 2)) / (r * r));
      return v;
    });
    for (const optics::Spot& s : optics::find_spots(test::Painted::frames(12, size), source))
      kept.push_back({seed, 1000 * s.x, 1000 * s.y, 1000 * s.radius});
  }
  test::hold(kept, "core/dust", Held::Measured);
}

}  // namespace
}  // namespace askcount
