// SPDX-License-Identifier: GPL-3.0-or-later
// Pictures of places, motion between two pictures, trial films and the plans of films, held against what was
// kept. What is right is tested in outlook_test.cpp, motion_test.cpp, trial_test.cpp and render_test.cpp.
#include <cmath>

#include "dice.h"
#include "kept.h"
#include "media/coding.h"
#include "motion/motion.h"
#include "motion/steadying.h"
#include "painted.h"
#include "render/film_plan.h"
#include "simulate/trial_film.h"
#include "skyline/laid.h"
#include "skyline/photograph.h"
#include "skyline/skyline.h"
#include "support.h"

namespace askcount {
namespace {

using test::Dice;
using test::Held;

/// Sky over hills, with a sun or moon in it.
image::Coded8 place_of(Dice& dice, image::Size size) {
  image::Coded8 p(size);
  const double hill = dice.between(0.35, 0.7), high = dice.between(0.05, 0.2), wave = dice.between(8, 40),
               sx = dice.between(20, size.width - 20.0), sy = dice.between(10, size.height * 0.25);
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x) {
      const double edge = size.height * (hill - high * std::sin(x / wave));
      const bool sky = y < edge;
      const bool sun = std::hypot(x - sx, y - sy) < 3;
      for (int c = 0; c < 3; ++c)
        p.row(y)[3 * x + c] = static_cast<std::uint8_t>(
            sun   ? 255
            : sky ? 120 + 40 * c + 30 * y / size.height
                  : std::clamp(0.5 * test::texture(4.0 * x, 4.0 * y) + 5 * c, 0.0, 120.0));
    }
  return p;
}

TEST(KeptOutlook, SkylinesAimsAndPicturesLaid) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 16; ++seed) {
    Dice dice(seed);
    const image::Size size{180, 120};
    const image::Coded8 picture = place_of(dice, size);
    skyline::View view;
    view.optics = skyline::optics_for(dice.one_of<double>({18, 24, 50}), 36, size);
    view.aim = {dice.between(0, 360), dice.between(-5, 20), dice.between(-6, 6)};
    const std::vector<double> line = skyline::skyline_of(picture);
    Json one = Json::array();
    for (size_t i = 0; i < line.size(); i += 15) one.push_back(line[i]);
    Json horizon = Json::array();
    for (const sky::HorizonPoint& p : skyline::traced(line, view, {}, dice.between(0.05, 1)))
      horizon.push_back({p.bearing_deg, p.altitude_deg});
    one.push_back(horizon);
    if (const auto light = skyline::find_light(picture)) {
      one.push_back({light->x, light->y});
      const sky::Aim aim = skyline::aim_by({dice.between(5, 25), dice.between(0, 360)}, *light, view.optics,
                                           dice.between(-3, 3));
      one.push_back({aim.bearing_deg, aim.tilt_deg,
                     skyline::bearing_by(dice.between(0, 360), *light, view.optics, 5, 1),
                     skyline::true_bearing(dice.between(0, 360), dice.between(-20, 20))});
    }
    sky::Move move;
    move.from = move.to = view.aim;
    const skyline::Laid laid =
        skyline::laid_under(picture, view, sky::panorama_for(move, view.optics, 200, 120, 10));
    std::array<double, 4> sum{};
    for (size_t i = 0; i < laid.rgba.size(); ++i) sum[i % 4] += laid.rgba[i];
    for (double& s : sum) s /= static_cast<double>(laid.rgba.size()) / 4;
    one.push_back(sum);
    kept.push_back(one);
  }
  test::hold(kept, "core/outlook", Held::Drawn);
}

TEST(KeptMotion, BetweenTwoMadeUpPictures) {
  Json kept = Json::array();
  for (unsigned seed = 101; seed <= 112; ++seed) {
    Dice dice(seed);
    const double dx = dice.between(-20, 20), dy = dice.between(-8, 8);
    const auto picture = [&](double by) {
      image::Coded8 p({240, 160});
      for (int y = 0; y < 160; ++y)
        for (int x = 0; x < 240; ++x) {
          const bool boat = std::abs(x - 110 - by * dx) < 26 && std::abs(y - 80 - by * dy) < 17;
          const double v = boat ? 40 + 0.9 * test::texture(5 * (x - by * dx), 5 * (y - by * dy))
                                : 0.4 * test::texture(3.0 * x, 3.0 * y);
          for (int c = 0; c < 3; ++c)
            p.row(y)[3 * x + c] = static_cast<std::uint8_t>(std::clamp(v, 0.0, 255.0));
        }
      return p;
    };
    const motion::Motion m = motion::find_motion(picture(0), picture(1), {2400, 1600}, dice.between(0.5, 4));
    kept.push_back(
        {m.dx, m.dy, m.px_per_s, m.frame_widths_per_s, m.direction_deg, m.crossing_s, m.moving_share});
    const motion::Motion by_hand = motion::motion_marked(dice.between(0, 2000), 500, dice.between(0, 2000),
                                                         dice.between(0, 1000), {2400, 1600}, 2);
    kept.push_back(
        {by_hand.dx, by_hand.direction_deg, by_hand.crossing_s,
         motion::frame_widths_per_s(dice.between(0.1, 20), dice.between(2, 200), dice.between(14, 85), 36)});
  }
  test::hold(kept, "core/motion", Held::Measured);
}

TEST(KeptTrial, FilmsOfMadeUpPlans) {
  Json kept = Json::array();
  for (unsigned seed = 201; seed <= 212; ++seed) {
    Dice dice(seed);
    simulate::TrialPlan plan;
    plan.scene = simulate::scene_names()[seed % 4];
    plan.size = {48, 32};
    plan.fps = nearest_frame_rate(25);
    plan.interval_s = dice.between(1, 120);
    plan.frames = dice.whole(4, 60);
    plan.start = simulate::scene_start(plan.scene) + std::chrono::seconds(dice.whole(0, 20000));
    plan.haste = dice.between(0.5, 4);
    const ramp::Exposure first{std::exp2(dice.between(-8, 3)), 8, 100 * std::exp2(dice.between(0, 4))};
    plan.chain = {first};
    if (dice.chance(0.5))
      for (long long n = 1; n < plan.frames; ++n)
        plan.chain.push_back({first.shutter_s * std::exp2(n / 6.0), 8, first.iso});
    if (dice.chance(0.5))
      for (long long n = 0; n < plan.frames; ++n) plan.ev.push_back(12 - 0.1 * static_cast<double>(n));
    if (dice.chance(0.4)) plan.filter_stops = 6, plan.filters_off = plan.frames / 2;
    plan.camera.noise = 0;
    const simulate::TrialFilm film(plan);
    const simulate::OverMeter over = film.over_meter();
    const image::Coded8 frame = film.frame(plan.frames / 3);
    double sum = 0;
    for (const auto v : frame.rgb) sum += v;
    kept.push_back({over.first, over.last, over.least, over.most, simulate::over_words(over),
                    simulate::is_lost(over), film.over_stops(plan.frames / 2),
                    sum / static_cast<double>(frame.rgb.size()),
                    simulate::frame_at(plan.fps, plan.frames, dice.between(0, 4))});
  }
  test::hold(kept, "core/trials", Held::Drawn);
}

/// Frames of which some cannot be shown.
class SomeShowable : public render::Showable {
 public:
  SomeShowable(size_t frames, Dice& dice) {
    for (size_t n = 0; n < frames; ++n) can_.push_back(!dice.chance(0.15));
  }
  bool at(size_t place) const override { return can_[place]; }
  std::optional<size_t> before(size_t place) const override {
    for (size_t k = place + 1; k-- > 0;)
      if (can_[k]) return k;
    return {};
  }
  std::optional<size_t> after(size_t place) const override {
    for (size_t k = place; k < can_.size(); ++k)
      if (can_[k]) return k;
    return {};
  }

 private:
  std::vector<bool> can_;
};

TEST(KeptFilmPlan, RecipesNeedsAndMaps) {
  Json kept = Json::array();
  for (unsigned seed = 301; seed <= 360; ++seed) {
    Dice dice(seed);
    const image::Size frame{600, 400};
    const auto frames = static_cast<size_t>(dice.whole(20, 90));
    render::FilmOrder order;
    order.fps = nearest_frame_rate(25);
    order.size = dice.one_of<image::Size>({{192, 108}, {100, 100}, {90, 160}});
    order.choice.way =
        dice.one_of<render::Way>({render::Way::Forward, render::Way::Backward, render::Way::ToAndFro});
    order.choice.every = dice.chance(0.3) ? 2 : 1;
    if (dice.chance(0.6)) order.choice.speed = {{0, dice.between(0.2, 3)}, {1, dice.between(0.2, 3)}};
    order.choice.between = dice.one_of<render::Between>(
        {render::Between::Repeat, render::Between::Blend, render::Between::Motion});
    order.choice.trail = dice.chance(0.3) ? dice.whole(2, 7) : 1;
    order.choice.bright =
        order.choice.trail == 1 && dice.chance(0.3) ? dice.one_of<long long>({4, render::kAllFrames}) : 0;
    if (dice.chance(0.3)) order.gaps = {{5, 2}, {11, 1}};
    if (dice.chance(0.5) && order.size.height <= order.size.width)
      order.views = {
          {0, {dice.between(0.4, 0.6), dice.between(0.4, 0.6), dice.between(0.3, 0.5), dice.between(-8, 8)}},
          {1, {dice.between(0.4, 0.6), dice.between(0.4, 0.6), dice.between(0.3, 0.5), 0}}};
    order.fade_in_s = dice.chance(0.3) ? dice.between(0.1, 0.8) : 0;
    order.fade_out_s = dice.chance(0.3) ? dice.between(0.1, 0.8) : 0;
    order.crisp = dice.chance(0.5);
    if (dice.chance(0.4)) {
      order.steady = motion::Mode::All;
      for (size_t n = 0; n < frames; ++n)
        order.path.push_back({0.003 * dice.normal(), 0.003 * dice.normal(), 0.1 * dice.normal(), 0.9, 1e-4});
    }
    if (dice.chance(0.2)) order.excerpt = render::FilmOrder::Excerpt{5, 9};
    const render::FilmPlan plan(order, frames, frame, render::known_steadied(order, frames, frame));
    const size_t places = plan.timeline().sequence().size();
    const SomeShowable showable(places, dice);
    Json one = {plan.timeline().frames(), render::frames_shown(order, frames).size(), plan.steadied().edge};
    const image::RectF measured = plan.measured_part(frame);
    one.push_back({measured.x, measured.y, measured.width, measured.height});
    for (size_t n = 0; n < plan.timeline().frames(); n += 1 + plan.timeline().frames() / 6) {
      const render::Recipe recipe = plan.recipe_of(n, showable);
      Json parts = Json::array();
      for (const auto& p : recipe.parts) parts.push_back({p.place, p.for_place, p.weight});
      const auto span = plan.span_of(n);
      const size_t take_frame = plan.timeline().sequence()[std::min(places - 1, span.first)];
      const render::FramePlan layer = plan.layer_plan(n, static_cast<double>(take_frame), take_frame, frame);
      const render::Need need = plan.need_of(span.first, frame);
      Json map = Json::array();
      if (layer.map)
        map = {layer.map->xx, layer.map->xy, layer.map->x0, layer.map->yx, layer.map->yy, layer.map->y0};
      one.push_back({span.first,
                     span.last,
                     static_cast<int>(recipe.joining),
                     recipe.share,
                     parts,
                     recipe.made,
                     layer.fade,
                     map,
                     {layer.part.x, layer.part.y, layer.part.width, layer.part.height},
                     {need.part.x, need.part.y, need.part.width, need.part.height, need.density},
                     plan.view(n).width});
    }
    kept.push_back(one);
  }
  test::hold(kept, "core/film_plans");
}

TEST(KeptFilmPlan, CodingsThatCanBe) {
  Json kept = Json::array();
  for (const media::CodecFacts& c : media::codecs())
    kept.push_back({c.name, c.words, c.encoder, c.ffmpeg, c.bits_8, c.bits_10, c.half_420, c.half_422,
                    c.least_width, c.most_side, c.endings});
  for (const auto purpose :
       {media::Purpose::Web, media::Purpose::Editor, media::Purpose::Keep, media::Purpose::Phone}) {
    const media::Usual usual = media::usual_for(purpose);
    kept.push_back({usual.ending, media::facts_of(usual.coding.codec).name, usual.coding.quality,
                    usual.coding.preset, usual.coding.bits, static_cast<int>(usual.coding.chroma)});
  }
  test::hold(kept, "core/codings");
}

}  // namespace
}  // namespace askcount
