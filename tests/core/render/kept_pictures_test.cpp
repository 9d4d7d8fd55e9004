// SPDX-License-Identifier: GPL-3.0-or-later
// Made-up pictures drawn, turned, put right and joined, held against those that were kept: the light of their
// parts. What is right is tested in drawing_test.cpp, optics_test.cpp, render_test.cpp and others.
#include <cmath>

#include "dice.h"
#include "image/resample.h"
#include "image/sampling.h"
#include "image/spread.h"
#include "image/tone.h"
#include "image/veil.h"
#include "kept.h"
#include "made_up.h"
#include "motion/made_frame.h"
#include "optics/spots.h"
#include "optics/warp.h"
#include "painted.h"
#include "render/drawing.h"
#include "render/film_preview.h"
#include "support.h"

namespace askcount {
namespace {

using test::Dice;
using test::Held;

/// A picture of soft colours with lamps in it.
image::Coded8 picture_of(Dice& dice, image::Size size) {
  image::Coded8 p(size);
  const double a = dice.between(5, 30), b = dice.between(5, 30), dark = dice.between(0.2, 1),
               phase = dice.between(0, 6);
  std::vector<std::array<double, 3>> lamps;
  for (int i = dice.whole(0, 6); i > 0; --i)
    lamps.push_back({dice.between(0, size.width), dice.between(0, size.height), dice.between(1, 4)});
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x)
      for (int c = 0; c < 3; ++c) {
        double v = dark * (120 + 60 * std::sin(x / a + c) * std::cos(y / b + phase) +
                           50 * std::sin((x + y) / 7.0 + c));
        for (const auto& [lx, ly, r] : lamps)
          v += 255 * std::exp(-(std::pow(x - lx, 2) + std::pow(y - ly, 2)) / (r * r));
        p.row(y)[3 * x + c] = static_cast<std::uint8_t>(std::clamp(v, 0.0, 255.0));
      }
  return p;
}

/// The means of each colour in a grid of parts, and how far all values are from their mean.
template <class Picture>
Json parts_of(const Picture& p) {
  Json list = test::means_of_parts(p);
  double square = 0, all = 0;
  for (int y = 0; y < p.size.height; ++y)
    for (int x = 0; x < 3 * p.size.width; ++x) {
      const auto v = static_cast<double>(p.row(y)[x]);
      square += v * v, all += v;
    }
  const double many = 3.0 * p.size.width * p.size.height;
  list.push_back(std::sqrt(std::max(0.0, square / many - std::pow(all / many, 2))));
  return list;
}

level::Correction correction_of(Dice& dice, const image::Coded8& picture) {
  level::Correction c;
  c.gain = image::Gain(dice.between(0.5, 2.2), dice.between(0.5, 2.2), dice.between(0.5, 2.2));
  for (const auto field :
       {&level::Correction::field, &level::Correction::red_field, &level::Correction::blue_field})
    if (dice.chance(0.4))
      for (float& s : (c.*field).stops) s = static_cast<float>(dice.between(-0.1, 0.1));
  c.veil =
      image::Veil::of(image::measure_luminance(picture, {0, 0, picture.size.width, picture.size.height}));
  return c;
}

TEST(KeptPictures, DrawnByMadeUpPlans) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 40; ++seed) {
    Dice dice(seed);
    const image::Size size{dice.whole(40, 130), dice.whole(30, 90)},
        to{dice.whole(10, 50) * 2, dice.whole(10, 40) * 2};
    const image::Coded8 picture = picture_of(dice, size);
    render::FramePlan plan;
    plan.correction = correction_of(dice, picture);
    plan.look = test::made_up_look(dice);
    plan.as_shot_k = dice.between(4000, 7000);
    plan.film = to;
    plan.part = render::film_part(size, to);
    plan.fade = dice.chance(0.2) ? static_cast<float>(dice.unit()) : 1;
    image::Picture shown = picture;
    if (dice.chance(0.4)) {
      image::Linear32 light = image::linear(picture);
      light.top = static_cast<float>(dice.one_of<double>({1, 2.5, 6}));
      for (float& v : light.rgb) v *= light.top;
      shown = light;
    }
    const image::Resampling how(size, image::in_pixels(plan.part, size), to);
    Json one = {parts_of(render::drawn(shown, how, plan)), parts_of(render::drawn16(shown, how, plan))};
    // Onto a film's planes, and turned.
    media::FrameBuffer buffer(to, dice.chance(0.5) ? 8 : 10);
    const media::FilmFrame onto = buffer.film();
    const auto planes = [&] {
      Json sums = Json::array();
      for (int which = 0; which < 3; ++which) {
        const int wide = which == 0 ? to.width : to.width / 2, high = which == 0 ? to.height : to.height / 2;
        double sum = 0, slope = 0;
        for (int y = 0; y < high; ++y)
          for (int x = 0; x < wide; ++x) {
            const double v =
                onto.bits == 8 ? onto.row<std::uint8_t>(which, y)[x] : onto.row<std::uint16_t>(which, y)[x];
            sum += v, slope += v * (2.0 * x / wide - 1) * (2.0 * y / high - 1);
          }
        sums.push_back({sum / (wide * high), slope / (wide * high)});
      }
      return sums;
    };
    render::draw(shown, how, plan, onto);
    one.push_back(planes());
    plan.kernel = dice.one_of<image::Kernel>({image::Kernel::Calm, image::Kernel::Crisp});
    plan.frame_size = size;
    plan.map = image::Affine::turned(dice.between(-15, 15), size.width / 2.0, size.height / 2.0,
                                     dice.between(-4, 4), dice.between(-4, 4))
                   .after(image::Affine::scaled(static_cast<double>(size.width) / to.width,
                                                static_cast<double>(size.width) / to.width));
    render::draw(shown, image::Sampling(size, *plan.map, to, plan.kernel), plan, onto);
    one.push_back(planes());
    kept.push_back(one);
  }
  test::hold(kept, "core/drawn", Held::Drawn);
}

TEST(KeptPictures, LensesDustAndTones) {
  Json kept = Json::array();
  for (unsigned seed = 101; seed <= 130; ++seed) {
    Dice dice(seed);
    const image::Size size{dice.whole(60, 140), dice.whole(50, 90)};
    const image::Coded8 picture = picture_of(dice, size);
    const optics::Warp warp(optics::grid_by_hand(dice.chance(0.7) ? dice.between(-6, 6) : 0,
                                                 dice.chance(0.5) ? dice.between(0, 2) : 0, size),
                            dice.chance(0.6) ? dice.between(-8, 8) : 0,
                            dice.chance(0.3) ? dice.between(0, 1.5) : 0, size);
    const auto before = warp.before(0.2, 0.7), after = warp.after(0.8, 0.1);
    image::Picture healed = picture;
    std::vector<optics::Spot> spots;
    for (int i = dice.whole(1, 4); i > 0; --i) {
      optics::Spot spot;
      spot.x = dice.unit(), spot.y = dice.unit(), spot.radius = dice.between(0.01, 0.06);
      spots.push_back(spot);
    }
    optics::heal(healed, spots);
    const image::Spread spread = image::spread_of(picture);
    const image::Luminance light = image::measure_luminance(picture, {3, 2, size.width - 9, size.height - 5});
    const image::Veil veil = image::Veil::of(light);
    Json one = {
        parts_of(image::shown_light(warp.apply(picture))),
        warp.enlarges(),
        before,
        after,
        parts_of(image::coded(healed)),
        spread.most(),
        spread.share[1][20],
        spread.white,
        {light.mean, light.parts[20], light.red[33], light.blue[100], light.darkest[50], light.clipped()},
        {veil.air, veil.thick.stops[0], veil.thick.stops[5], veil.lifted(0.5).stops[0],
         veil.lifted(0.7).stops[5]}};
    kept.push_back(one);
  }
  test::hold(kept, "core/put_right", Held::Drawn);
}

TEST(KeptPictures, KernelsAndTaps) {
  Json kept = Json::array();
  for (const image::Kernel kernel : {image::Kernel::Calm, image::Kernel::Crisp})
    for (const double ratio : {0.4, 1.0, 1.7, 5.2}) {
      const image::KernelTable table(kernel, ratio);
      int first = 0;
      const float* w = table.at(17.3, first);
      kept.push_back({table.taps(), first, std::vector<float>(w, w + table.taps()), image::reach_of(kernel),
                      image::kernel_at(kernel, 0.3), image::kernel_at(kernel, 1.2)});
      const image::Taps taps = image::Taps::of(90, 4.5, 80, static_cast<int>(60 / ratio));
      const image::Taps steps = image::Taps::of(90, 4.5, ratio, 20, kernel);
      kept.push_back(
          {taps.taps, taps.first[7], taps.weights[9], steps.taps, steps.first[11], steps.weights[23]});
    }
  test::hold(kept, "core/kernels");
}

TEST(KeptPictures, FilmsByMadeUpOrders) {
  const image::Size size{96, 64};
  Json kept = Json::array();
  for (unsigned seed = 201; seed <= 224; ++seed) {
    Dice dice(seed);
    const double way = dice.between(0.2, 2), flicker = dice.between(0, 12);
    const test::Painted source(size, [=](size_t n, double x, double y) {
      return 0.5 * test::texture(3 * (x - way * static_cast<double>(n)), 3 * y) +
             flicker * ((n * 7) % 5) / 4.0 + 20;
    });
    const media::Frames frames = test::Painted::frames(24, size);
    render::FilmOrder order;
    order.fps = nearest_frame_rate(25);
    order.size = dice.one_of<image::Size>({{96, 54}, {48, 48}, {64, 36}});
    order.choice.way =
        dice.one_of<render::Way>({render::Way::Forward, render::Way::Backward, render::Way::ToAndFro});
    if (dice.chance(0.5)) order.choice.speed = {{0, dice.between(0.3, 3)}};
    order.choice.between = dice.one_of<render::Between>(
        {render::Between::Repeat, render::Between::Blend, render::Between::Motion});
    order.choice.trail = dice.chance(0.3) ? dice.whole(2, 6) : 1;
    order.choice.bright =
        order.choice.trail == 1 && dice.chance(0.4) ? dice.one_of<long long>({3, 9, render::kAllFrames}) : 0;
    if (dice.chance(0.4))
      order.views = {
          {0, render::held_within({0.4, 0.5, dice.between(0.4, 0.9), dice.between(-6, 6)}, size, order.size)},
          {0.8, render::held_within({0.6, 0.5, dice.between(0.4, 0.9), 0}, size, order.size)}};
    order.crisp = dice.chance(0.4);
    if (dice.chance(0.4))
      order.looks.anchors = {{0, test::made_up_look(dice)}, {20, test::made_up_look(dice)}};
    order.fade_in_s = dice.chance(0.3) ? 0.2 : 0;
    order.fade_out_s = dice.chance(0.3) ? 0.3 : 0;
    if (dice.chance(0.3))
      order.written.text = "Tern Quay", order.written.time = true, order.written.elapsed = true;
    for (int n = 0; n < 24; ++n) order.corrections.emplace_back(dice.between(0.8, 1.25));
    render::SmallFrames small(frames, std::make_shared<test::Painted>(source), {.width = size.width});
    render::FilmPreview preview(order, frames, size, order.size);
    small.want(preview.wanted_from(0));
    small.wait();
    Json one = {preview.frames(), preview.size().width, preview.wanted_from(3)};
    for (const size_t n : {size_t{0}, preview.frames() / 3, preview.frames() - 1}) {
      one.push_back(preview.needed_for(n));
      one.push_back(parts_of(preview.draw(n, small).picture));
    }
    kept.push_back(one);
  }
  test::hold(kept, "core/films", Held::Drawn);
}

TEST(KeptPictures, MadeBetweenTwo) {
  Json kept = Json::array();
  for (unsigned seed = 301; seed <= 308; ++seed) {
    Dice dice(seed);
    const auto painted = [&](double by) {
      image::Coded8 p({120, 90});
      for (int y = 0; y < 90; ++y)
        for (int x = 0; x < 120; ++x)
          for (int c = 0; c < 3; ++c)
            p.row(y)[3 * x + c] =
                static_cast<std::uint8_t>(std::clamp(test::texture(2 * (x - by), 2.0 * y), 0.0, 255.0));
      return image::linear(p);
    };
    const motion::Between made(painted(0), painted(dice.between(1, 9)));
    const double share = dice.unit();
    kept.push_back({parts_of(made.at(share)), made.blended_share(share)});
  }
  test::hold(kept, "core/made", Held::Drawn);
}

}  // namespace
}  // namespace askcount
