// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/trial_film.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "image/tone.h"
#include "simulate/gannet_head.h"

namespace askcount::simulate {
namespace {

using image::Linear32;
using image::Size;

constexpr int kNodes = 33;
constexpr size_t kMostNights = 400;
constexpr Size kSmallMeter = {60, 34};
constexpr double kMostWide = 2;        // a canvas against the frame, where the head turns
constexpr double kFirstGrowth_h = 12;  // what grows has begun so long before
constexpr int kSensorAcross = 1500;    // pixels that the camera's noise is said for

bool has_true_sky(const std::string& scene) {
  return scene == "Gannet Head";
}

/// The middle tone of a scene: the mean of the logarithm, which neither lamps nor the sun pull up.
double middle_tone(const Linear32& seen) {
  double sum = 0;
  for (size_t i = 0; i < seen.rgb.size(); i += 3)
    sum += std::log2(
        std::max(1e-7, static_cast<double>(image::luminance(seen.rgb[i], seen.rgb[i + 1], seen.rgb[i + 2]))));
  return sum / (static_cast<double>(seen.rgb.size()) / 3);
}

}  // namespace

/// The scene through a camera that may turn. Under a true sky it really does; a drawn scene is drawn as wide
/// as the turn, and the frame goes along it.
class TrialFilm::View {
 public:
  View(const TrialPlan& plan, Size size) : plan_(plan), size_(size) {
    simulate::SceneSetting setting{size, plan.place};
    setting.across_deg = plan.across_deg;
    setting.haste = plan.haste;
    setting.begins = later(plan.start, -kFirstGrowth_h * 3600);
    if (plan.move) setting.aim = sky::aim_at(*plan.move, 0.5);
    if (has_true_sky(plan.scene)) {
      sky_ = std::make_unique<simulate::GannetHead>(setting);
      return;
    }
    if (plan.move) {
      const double across = plan.across_deg > 0 ? plan.across_deg : kUsual_deg;
      const double turn = std::remainder(plan.move->to.bearing_deg - plan.move->from.bearing_deg, 360);
      const double tilt = plan.move->to.tilt_deg - plan.move->from.tilt_deg;
      right_ = std::clamp(turn / across, 1 - kMostWide, kMostWide - 1) * size.width;
      down_ =
          std::clamp(-tilt / (across * size.height / size.width), 1 - kMostWide, kMostWide - 1) * size.height;
      const double wider = (size.width + std::abs(right_)) / size.width;
      setting.size = {static_cast<int>(std::ceil(size.width + std::abs(right_))),
                      static_cast<int>(std::ceil(size.height + std::abs(down_)))};
      if (plan.across_deg > 0) setting.across_deg = plan.across_deg * wider;
    }
    canvas_ = setting.size;
    scene_ = simulate::make_scene(plan.scene, setting);
  }

  Linear32 seen(Instant start, double open_s, double share) const {
    if (sky_)
      return plan_.move ? sky_->seen_towards(sky::aim_at(*plan_.move, share), start, open_s)
                        : sky_->seen(start, open_s);
    Linear32 all = scene_->seen(start, open_s);
    if (canvas_ == size_) return all;
    const double gone = plan_.move->eased ? share * share * (3 - 2 * share) : share;
    const auto place = [gone](double way) { return way >= 0 ? way * gone : -way * (1 - gone); };
    const double x = place(right_), y = place(down_);
    const int x0 = std::min(static_cast<int>(x), canvas_.width - size_.width - 1),
              y0 = std::min(static_cast<int>(y), canvas_.height - size_.height);
    // Between two pixels across, so that a slow turn does not step.
    const auto part = static_cast<float>(std::clamp(x - x0, 0.0, 1.0));
    Linear32 out(size_);
    for (int v = 0; v < size_.height; ++v) {
      const float* from = all.row(std::max(0, y0) + v) + 3 * std::max(0, x0);
      float* to = out.row(v);
      const int next = x0 + 1 + size_.width <= canvas_.width && x0 >= 0 ? 3 : 0;
      for (int i = 0; i < 3 * size_.width; ++i) to[i] = from[i] * (1 - part) + from[i + next] * part;
    }
    return out;
  }

 private:
  static constexpr double kUsual_deg = 74;
  const TrialPlan& plan_;
  Size size_, canvas_;
  double right_ = 0, down_ = 0;  // how far the frame goes over the canvas, in pixels
  std::unique_ptr<simulate::GannetHead> sky_;
  std::unique_ptr<simulate::Scene> scene_;
};

TrialFilm::TrialFilm(TrialPlan plan) : plan_(std::move(plan)) {
  if (plan_.frames < 1 || plan_.chain.empty())
    throw bad_input(say("A trial film needs frames and an exposure."),
                    say("Say how long the clip is to be, and of what."));
  view_ = std::make_unique<const View>(plan_, plan_.size);
  const View small(plan_, kSmallMeter);
  const long long last = std::max(1LL, plan_.frames - 1);
  std::set<long long> frames;
  for (int k = 0; k < kNodes; ++k)
    frames.insert(std::llround(k / (kNodes - 1.0) * static_cast<double>(last)));
  // The light does not go evenly over a night that is not shot.
  for (size_t n = 1, nights = 0; n < plan_.at_s.size() && nights < kMostNights; ++n)
    if (plan_.at_s[n] - plan_.at_s[n - 1] > 1.5 * plan_.interval_s)
      frames.insert({static_cast<long long>(n) - 1, static_cast<long long>(n)}), ++nights;
  for (const long long n : frames) {
    const double share = static_cast<double>(n) / static_cast<double>(last);
    nodes_.push_back({n, middle_tone(small.seen(plan_.at(std::min(n, plan_.frames - 1)), 0.01, share))});
  }
}

TrialFilm::~TrialFilm() = default;

const ramp::Exposure& TrialFilm::exposure(long long n) const {
  return plan_.chain[std::min(plan_.chain.size() - 1, static_cast<size_t>(n))];
}

double TrialFilm::filters(long long n) const {
  return plan_.filters_off && n >= *plan_.filters_off ? 0 : plan_.filter_stops;
}

double TrialFilm::own_light(long long n) const {
  const auto next =
      std::find_if(nodes_.begin(), nodes_.end(), [n](const Node& node) { return node.frame >= n; });
  if (next == nodes_.begin()) return nodes_.front().light;
  if (next == nodes_.end()) return nodes_.back().light;
  const Node &a = *(next - 1), &b = *next;
  return a.light +
         static_cast<double>(n - a.frame) / static_cast<double>(b.frame - a.frame) * (b.light - a.light);
}

double TrialFilm::gain_stops(long long n) const {
  if (!plan_.ev.empty())
    return ramp::light_stops_of_ev(plan_.ev[std::min(plan_.ev.size() - 1, static_cast<size_t>(n))]) -
           own_light(n);
  return filters(0) - ramp::meter_stops(nodes_.front().light, exposure(0));
}

double TrialFilm::over_stops(long long n) const {
  return ramp::meter_stops(own_light(n) + gain_stops(n), exposure(n)) - filters(n);
}

OverMeter TrialFilm::over_meter() const {
  OverMeter over;
  over.first = over.least = over.most = over_stops(0);
  over.last = over_stops(plan_.frames - 1);
  for (long long n = 1; n < plan_.frames; ++n) {
    const double stops = over_stops(n);
    over.least = std::min(over.least, stops);
    over.most = std::max(over.most, stops);
  }
  return over;
}

long long frame_at(FrameRate fps, long long frames, double seconds) {
  return std::clamp(static_cast<long long>(std::floor(seconds * fps.value() + 1e-6)), 0LL, frames - 1);
}

bool is_lost(const OverMeter& over) {
  return over.most > ramp::kClips_stops || over.least < ramp::kDrowns_stops;
}

std::string over_words(const OverMeter& over) {
  const auto stops = [](double s) { return format_number(std::abs(s), 1) + say(" stops"); };
  if (!is_lost(over)) {
    const double worst = std::abs(over.least) > std::abs(over.most) ? over.least : over.most;
    if (std::abs(worst) < 1.05) return say("It stays within a stop of the meter.");
    return say("It goes as far as {} {} than the meter's.", stops(worst),
               worst < 0 ? say("darker") : say("brighter"));
  }
  const bool drowns = over.least < ramp::kDrowns_stops;
  const double worst = drowns ? over.least : over.most;
  return say("{} is {} {} than the meter's: it {}.",
             worst == over.last    ? say("Its last frame")
             : worst == over.first ? say("Its first frame")
                                   : say("Its worst frame"),
             stops(worst), drowns ? say("darker") : say("brighter"),
             drowns ? say("drowns") : say("burns out"));
}

image::Coded8 TrialFilm::frame(long long n) const {
  n = std::clamp(n, 0LL, plan_.frames - 1);
  const ramp::Exposure& e = exposure(n);
  const double share = plan_.frames > 1 ? static_cast<double>(n) / static_cast<double>(plan_.frames - 1) : 0;
  const Linear32 seen = view_->seen(plan_.at(n), e.shutter_s, share);
  // Small pictures of a large sensor are less noisy.
  simulate::CameraSettings camera = plan_.camera;
  camera.noise *= std::min(1.0, static_cast<double>(plan_.size.width) / kSensorAcross);
  const double off = simulate::aperture_error(camera, static_cast<std::uint64_t>(n));
  return simulate::develop(seen, e, gain_stops(n) - filters(n) + off, camera, static_cast<std::uint64_t>(n));
}

}  // namespace askcount::simulate
