// SPDX-License-Identifier: GPL-3.0-or-later
#include "level/brightness.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <mutex>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "image/part_terms.h"
#include "level/colour_wander.h"
#include "level/field_light.h"

namespace askcount::level {
namespace {

constexpr double kRaised = 0.05,
                 kClippedShare = 0.002;  // stops, and share of the picture, that are worth one

/// Mean light of the frame once it is corrected; what the fields do is taken part by part.
double mean_after(const image::Luminance& l, const Correction& c) {
  return l.mean_after(c.gain) * field_gain(l, c);
}

constexpr size_t kZones = 3;
constexpr int kOfZone = image::Luminance::kParts / static_cast<int>(kZones);

/// Red and blue against green in the upper, middle and lower third, as shot and corrected.
class ZoneColours {
 public:
  ZoneColours() {
    for (size_t zone = 0; zone < kZones; ++zone) {
      parts_[zone].assign(image::Luminance::kParts, false);
      const auto first = parts_[zone].begin() + static_cast<long>(zone) * kOfZone;
      std::fill(first, first + kOfZone, true);
    }
  }
  void add(const image::Luminance& l, const Levelled& levelled) {
    for (size_t zone = 0; zone < kZones; ++zone) {
      const std::vector<bool>& own = parts_[zone];
      const int from = static_cast<int>(zone) * kOfZone;
      double red = 0, blue = 0;  // what the fields add
      for (int p = from; p < from + kOfZone; ++p) {
        red += image::stops_at(levelled.red_field, p) / kOfZone;
        blue += image::stops_at(levelled.blue_field, p) / kOfZone;
      }
      red_[zone].add(last_ ? shared_change(last_->red, l.red, l.parts, own).stops : 0, levelled.red + red);
      blue_[zone].add(last_ ? shared_change(last_->blue, l.blue, l.parts, own).stops : 0,
                      levelled.blue + blue);
    }
    last_ = &l;
  }
  /// Flicker of the colour and third where it is most.
  double before() const { return most(&Wander::before); }
  double after() const { return most(&Wander::after); }

 private:
  struct Wander {
    std::vector<double> before, after;
    void add(double change, double correction) {
      before.push_back((before.empty() ? 0 : before.back()) + change);
      after.push_back(before.back() + correction);
    }
  };
  double most(std::vector<double> Wander::*which) const {
    double out = 0;
    for (size_t zone = 0; zone < kZones; ++zone)
      out = std::max({out, flicker(red_[zone].*which), flicker(blue_[zone].*which)});
    return out;
  }
  const image::Luminance* last_ = nullptr;
  std::array<Wander, kZones> red_, blue_;
  std::array<std::vector<bool>, kZones> parts_;  // which are of each
};

/// Brightness of the upper, middle and lower third, as shot and corrected.
class Zones {
 public:
  void add(const image::Luminance& l, const Correction& c) {
    const double all = mean_after(l, {c.gain}) / l.mean;
    for (size_t zone = 0; zone < kZones; ++zone) {
      double before = 0, after = 0;
      for (int p = static_cast<int>(zone) * kOfZone; p < static_cast<int>(zone + 1) * kOfZone; ++p) {
        before += static_cast<double>(std::exp2(l.parts[static_cast<size_t>(p)]));
        after += light_after_fields(l, c, p);
      }
      before_[zone].push_back(std::log2(std::max(1e-6, before)));
      after_[zone].push_back(std::log2(std::max(1e-6, after * all)));
    }
  }
  std::array<double, 3> before() const {
    return {flicker(before_[0]), flicker(before_[1]), flicker(before_[2])};
  }
  std::array<double, 3> after() const { return {flicker(after_[0]), flicker(after_[1]), flicker(after_[2])}; }

 private:
  std::array<std::vector<double>, 3> before_, after_;
};

/// Brightness of the ninths of a picture, by what most of each shares: what moves through one is no flicker.
class Ninths {
 public:
  static constexpr int kAcross = 3, kAll = 9;

  Ninths() {
    for (int p = 0; p < image::Luminance::kParts; ++p) {
      const int x = p % image::Luminance::kAcross * kAcross / image::Luminance::kAcross;
      const int y = p / image::Luminance::kAcross * kAcross / image::Luminance::kDown;
      auto& own = curves_[static_cast<size_t>(y * kAcross + x)].own;
      own.resize(image::Luminance::kParts, false);
      own[static_cast<size_t>(p)] = true;
    }
  }
  /// `kept` is what true changes have added up to.
  void add(const image::Luminance& l, const Correction& c, double kept) {
    constexpr float kTooDark = -9;  // stops of white: nothing follows there
    std::array<float, image::Luminance::kParts> as_shot{}, corrected{};
    const double all =
        std::log2(std::max(1e-6, mean_after(l, {c.gain}) / std::max(1e-6, static_cast<double>(l.mean))));
    const bool flat = c.flat();  // all parts change alike
    for (int p = 0; p < image::Luminance::kParts; ++p) {
      const auto at = static_cast<size_t>(p);
      const bool dark = l.parts[at] < kTooDark;
      const double own = flat || dark ? l.parts[at] : std::log2(std::max(1e-9, light_after_fields(l, c, p)));
      as_shot[at] = dark ? image::Luminance::kUnknown : l.parts[at];
      corrected[at] = dark ? image::Luminance::kUnknown : static_cast<float>(all + own);
    }
    for (Curve& curve : curves_) {
      const SharedChange was = change(last_parts_, as_shot, l, curve);
      const SharedChange is = !flat || !last_flat_    ? change(last_corrected_, corrected, l, curve)
                              : was == SharedChange{} ? was
                                                      : SharedChange{was.stops + all - last_all_, was.chance};
      const double step = any_ ? kept - last_kept_ : 0;
      curve.before.push_back((curve.before.empty() ? 0 : curve.before.back()) + was.stops - step);
      curve.after.push_back((curve.after.empty() ? 0 : curve.after.back()) + is.stops - step);
      curve.chance += was.chance * was.chance;
    }
    last_parts_ = as_shot;
    last_corrected_ = corrected;
    last_all_ = all;
    last_flat_ = flat;
    last_kept_ = kept;
    any_ = true;
  }
  void tell(Evenness& e) const {
    constexpr double kSeen = 0.01;  // stops: what is left of a part's counts before what there was
    double most = 0;
    for (size_t n = 0; n < curves_.size(); ++n) {
      const double before = flicker_of(curves_[n], curves_[n].before),
                   after = flicker_of(curves_[n], curves_[n].after);
      const double counts = after > kSeen ? 100 + after : before;
      if (counts <= most) continue;
      most = counts;
      e.part_before = before;
      e.part_after = after;
      e.part = n;
    }
  }

 private:
  struct Curve {
    std::vector<bool> own;
    std::vector<double> before, after;
    double chance = 0;  // squared standard errors of the changes, added up
  };
  SharedChange change(const std::array<float, image::Luminance::kParts>& before,
                      const std::array<float, image::Luminance::kParts>& now, const image::Luminance& l,
                      const Curve& curve) const {
    return any_ ? shared_change(before, now, l.parts, curve.own) : SharedChange{};
  }
  /// Without what chance makes of parts that move each for itself: a value errs by half of what a change
  /// does.
  static double flicker_of(const Curve& curve, const std::vector<double>& stops) {
    constexpr double kOutOfChance = 3;
    const double all = flicker(stops), n = static_cast<double>(std::max<size_t>(1, stops.size()));
    return std::sqrt(std::max(0.0, all * all - kOutOfChance * curve.chance / n / 2));
  }
  std::array<Curve, kAll> curves_;
  std::array<float, image::Luminance::kParts> last_parts_{}, last_corrected_{};
  double last_kept_ = 0, last_all_ = 0;
  bool any_ = false, last_flat_ = false;
};

}  // namespace

image::Luminance measure_frame(const image::Picture& picture, image::Size film) {
  const image::Size size = image::size_of(picture);
  const image::RectF part = image::in_pixels(image::part_of_shape(size, film), size);
  return image::measure_luminance(picture, image::whole_pixels(part, size));
}

Luminances measure(const media::Frames& frames, const media::FrameSource& source, image::Size film,
                   MeasuredFrom from, const Work& work) {
  Luminances out(frames->size());
  std::mutex reporting;
  size_t done = 0;
  tbb::parallel_for(size_t{0}, frames->size(), [&](size_t i) {
    if (work.stop.stop_requested()) return;
    const media::Frame& frame = (*frames)[i];
    if (frame.shown()) try {
        const image::Picture small =
            from == MeasuredFrom::Thumbnails ? source.small(frame) : source.read(frame, {}).picture;
        out[i] = std::make_unique<image::Luminance>(measure_frame(small, film));
      } catch (const std::exception&) {
        // Left null: the frame is named as unreadable by whoever reads the curve.
      }
    const std::lock_guard lock(reporting);
    work.report(++done, frames->size());
  });
  if (work.stop.stop_requested()) throw cancelled(say("Measuring was stopped; nothing was changed."));
  if (!out.empty() && std::all_of(out.begin(), out.end(), [](const auto& l) { return !l; }))
    throw failed(say("None of {} can be read; {} is the first.",
                     counted(static_cast<long long>(out.size()), "{} frame", "{} frames"),
                     frames->front().file().string()),
                 say("Is the card inserted?"));
  return out;
}

std::vector<std::optional<double>> exposures_of(const std::vector<media::Frame>& frames) {
  std::vector<std::optional<double>> out;
  out.reserve(frames.size());
  // A value that some frames lack was the same there as before: only changes count.
  media::ShotInfo last;
  const auto keep = [](std::optional<double>& known, const std::optional<double>& now) {
    if (now) known = now;
  };
  for (auto f = frames.rbegin(); f != frames.rend(); ++f) {
    keep(last.shutter_s, f->info().shutter_s);
    keep(last.f_number, f->info().f_number);
    keep(last.iso, f->info().iso);
  }
  for (const media::Frame& f : frames) {
    const media::ShotInfo& i = f.info();
    keep(last.shutter_s, i.shutter_s);
    keep(last.f_number, i.f_number);
    keep(last.iso, i.iso);
    out.push_back(i.shutter_s || i.f_number || i.iso ? media::relative_stops(last) : std::nullopt);
  }
  return out;
}

Evenness even_out(const media::Frames& frames, const Luminances& luminances, Smoothing smoothing,
                  const Work& work) {
  Evenness e;
  e.asked_to_keep = smoothing.keep;
  const auto exposures = exposures_of(*frames);
  Leveller leveller(exposures, smoothing);
  for (const auto& luminance : luminances) leveller.add(luminance.get());
  std::vector<double> as_shot;
  const auto gradual = [&](size_t n) {
    return std::any_of(leveller.gradual_changes().begin(), leveller.gradual_changes().end(),
                       [n](const auto& g) { return n >= g.frame && n < g.frame + g.frames; });
  };
  Zones zones;
  Ninths ninths;
  ZoneColours colours;
  for (size_t n = 0; n < luminances.size(); ++n) {
    if (work.stop.stop_requested()) throw cancelled(say("Levelling was stopped; nothing was changed."));
    work.report(n, luminances.size());
    e.frames.push_back(leveller.level(n));
    as_shot.push_back(e.frames[n].as_shot);
    const bool flash = leveller.flash(n), over = n > 0 && leveller.flash(n - 1) && !flash;
    if (leveller.local_change(n) != 0 && !over && !gradual(n))
      e.kept.push_back({n, leveller.local_change(n), flash, 1});
    if (leveller.smoothed_change(n) != 0) e.smoothed.push_back({n, leveller.smoothed_change(n), flash, 1});
    if (!luminances[n]) {
      e.unreadable.push_back(n);
      e.corrections.emplace_back();
      e.after.push_back(e.frames[n].target);
      continue;
    }
    const image::Luminance& l = *luminances[n];
    e.corrections.push_back(correction_of(leveller, l, e.frames[n]));
    const image::Gain& gain = e.corrections.back().gain;
    e.after.push_back(e.frames[n].as_shot + std::log2(std::max(1e-6, mean_after(l, e.corrections.back())) /
                                                      std::max(1e-6, l.mean)));
    const double raised = std::log2(std::max({gain.red, gain.green, gain.blue}));
    if (raised > kRaised && l.clipped() > kClippedShare) {
      e.held.push_back(n);
      e.raised_most = std::max(e.raised_most, raised);
    }
    if (leveller.set_aside(n)) {
      e.set_aside.push_back(n);
      continue;
    }
    zones.add(l, e.corrections.back());
    ninths.add(l, e.corrections.back(), leveller.kept_light(n));
    colours.add(l, e.frames[n]);
  }
  for (const Leveller::Gradual& g : leveller.gradual_changes())
    (g.smoothed ? e.smoothed : e.kept).push_back({g.frame, g.stops, false, g.frames});
  for (auto* list : {&e.kept, &e.smoothed})
    std::sort(list->begin(), list->end(), [](const Change& a, const Change& b) { return a.frame < b.frame; });
  ninths.tell(e);
  e.zones_before = zones.before();
  e.zones_after = zones.after();
  e.late_clicks = leveller.late_clicks();
  e.clicks = find_clicks(as_shot, exposures);
  std::vector<double> before, after;
  for (size_t n = 0; n < luminances.size(); ++n) {
    if (leveller.set_aside(n)) continue;
    before.push_back(as_shot[n] - leveller.kept_light(n));
    after.push_back(e.after[n] - leveller.kept_light(n));
  }
  e.flicker_before = flicker(before);
  e.flicker_after = flicker(after);
  std::vector<double> red, blue;
  for (size_t n = 0; n < luminances.size(); ++n) {
    red.push_back(leveller.red_wander(n));
    blue.push_back(leveller.blue_wander(n));
    e.red_after.push_back(red[n] + e.frames[n].red);
    e.blue_after.push_back(blue[n] + e.frames[n].blue);
  }
  e.colour_before = std::max({flicker(red), flicker(blue), colours.before()});
  e.colour_after = std::max({flicker(e.red_after), flicker(e.blue_after), colours.after()});
  return e;
}

}  // namespace askcount::level
