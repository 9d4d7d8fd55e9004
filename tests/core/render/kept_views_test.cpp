// SPDX-License-Identifier: GPL-3.0-or-later
// Timelines, views and looks by made-up wishes, held against those that were kept. What is right is tested in
// timeline_test.cpp, view_test.cpp, look_test.cpp and tones_test.cpp.
#include <cmath>

#include "dice.h"
#include "image/affine.h"
#include "kept.h"
#include "look/anchors.h"
#include "look/colour.h"
#include "look/cube.h"
#include "look/look.h"
#include "look/suggest.h"
#include "look/table.h"
#include "look/tones.h"
#include "made_up.h"
#include "render/timeline.h"
#include "render/view.h"
#include "support.h"

namespace askcount {
namespace {

using test::Dice;

TEST(KeptCut, TimelinesByMadeUpWishes) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 120; ++seed) {
    Dice dice(seed);
    const long long frames = dice.whole(2, 400);
    render::Choice choice;
    if (dice.chance(0.3)) choice.first = dice.whole(1, static_cast<int>(frames));
    if (dice.chance(0.3)) choice.last = dice.whole(static_cast<int>(choice.first), static_cast<int>(frames));
    choice.every = dice.chance(0.3) ? dice.whole(1, 5) : 1;
    choice.way =
        dice.one_of<render::Way>({render::Way::Forward, render::Way::Backward, render::Way::ToAndFro});
    if (dice.chance(0.5)) {
      double at = 0;
      for (int i = dice.whole(1, 3); i > 0; --i, at += dice.between(0.3, 4))
        choice.speed.push_back({at, std::exp2(dice.between(-3, 3))});
    }
    choice.between = dice.one_of<render::Between>(
        {render::Between::Repeat, render::Between::Blend, render::Between::Motion});
    choice.make_missing = dice.chance(0.7);
    choice.still_first_s = dice.chance(0.3) ? dice.between(0, 2) : 0;
    choice.still_last_s = dice.chance(0.3) ? dice.between(0, 2) : 0;
    std::vector<render::Gap> gaps;
    for (int i = 0, after = dice.whole(0, 20); i < 3 && after + 1 < frames; ++i, after += dice.whole(1, 60))
      gaps.push_back({static_cast<size_t>(after), dice.whole(1, 7)});
    render::Timeline timeline(choice, frames, nearest_frame_rate(dice.one_of<double>({24, 25, 60})), gaps);
    if (dice.chance(0.2)) timeline.keep(timeline.frames() / 3, timeline.frames() / 3 + 1, 4);
    Json places = Json::array();
    for (size_t n = 0; n < timeline.frames(); n += 1 + timeline.frames() / 12)
      places.push_back({timeline.place(n), timeline.take_place(n), timeline.missing(n)});
    kept.push_back({timeline.frames(), timeline.sequence().size(), timeline.sequence().front(),
                    timeline.sequence().back(), timeline.many_missing(), places,
                    render::Timeline::speed_at(choice.speed, dice.between(0, 5))});
  }
  test::hold(kept, "core/timelines");
}

TEST(KeptCut, ViewsByMadeUpAnchors) {
  Json kept = Json::array();
  for (unsigned seed = 201; seed <= 280; ++seed) {
    Dice dice(seed);
    const image::Size frame{6000, 4000},
        film = dice.one_of<image::Size>({{1920, 1080}, {1080, 1920}, {1000, 1000}});
    std::vector<render::ViewAnchor> anchors;
    double at = dice.between(0, 2);
    for (int i = dice.whole(0, 3); i > 0; --i, at += dice.between(0.5, 5))
      anchors.push_back(
          {at, render::held_within({dice.unit(), dice.unit(), dice.between(0.1, 1.2), dice.between(-20, 20)},
                                   frame, film)});
    const render::View view = render::view_at(anchors, dice.between(0, 10), frame, film);
    const image::RectF part = render::part_of(view, frame, film);
    const auto place = render::film_to_frame(view, frame, film)(100, 700);
    kept.push_back({view.x, view.y, view.width, view.turn_deg, part.x, part.y, part.width, part.height,
                    place[0], place[1], render::lies_within(view, frame, film),
                    render::density(view, frame, film), render::whole_view(frame, film).width});
  }
  test::hold(kept, "core/views");
}

TEST(KeptLook, TonesColoursAndTables) {
  Json kept = Json::array();
  for (unsigned seed = 301; seed <= 360; ++seed) {
    Dice dice(seed);
    const look::Look look = test::made_up_look(dice);
    const look::ToneCurve curve(look);
    Json tones = Json::array();
    for (const double v : {0.0, 0.001, 0.02, 0.09, 0.18, 0.4, 0.7, 0.95, 1.0}) tones.push_back(curve(v));
    const double made_for = dice.between(3000, 8000);
    const look::Matrix m = look::colour_matrix(look, made_for);
    Json one = {tones, curve.none(), m[0], m[1], m[2], look::white_xy(dice.between(1700, 24000))};
    if (const auto picked = look::pick_white(
            {dice.between(0.2, 0.6), dice.between(0.2, 0.6), dice.between(0.2, 0.6)}, made_for))
      one.push_back({picked->warmth_k, picked->cast});
    if (seed % 6 == 0) {
      const look::Cube cube = look::table_of(look, made_for, "A look");
      for (const size_t i : {1000UL, 30000UL, 77777UL}) one.push_back(cube.rgb[i]);
      std::vector<float> r, g, b;
      for (int i = 0; i < 6; ++i)
        r.push_back(static_cast<float>(dice.between(0, 255))),
            g.push_back(static_cast<float>(dice.between(0, 255))),
            b.push_back(static_cast<float>(dice.between(0, 255)));
      cube.apply(r.data(), g.data(), b.data(), 6);
      one.push_back({r, g, b});
    }
    kept.push_back(one);
  }
  test::hold(kept, "core/looks");
}

TEST(KeptLook, AnchorsThatAreSuggested) {
  Json kept = Json::array();
  for (unsigned seed = 401; seed <= 440; ++seed) {
    Dice dice(seed);
    std::vector<std::array<double, 3>> light;
    const double fall = dice.between(0, 8), bend = dice.unit(), red = dice.between(0, 1);
    const int frames = dice.whole(5, 300);
    for (int n = 0; n < frames; ++n) {
      const double s = static_cast<double>(n) / frames;
      light.push_back({-fall * std::pow(s, 0.3 + 2 * bend), red * std::sin(5 * s), -red * s * s});
    }
    kept.push_back(look::suggest_anchors(light));
  }
  test::hold(kept, "core/suggested");
}

}  // namespace
}  // namespace askcount
