// SPDX-License-Identifier: GPL-3.0-or-later
#include "level/levelling.h"

#include <algorithm>
#include <cmath>

#include "level/field_light.h"
#include "level/smoothing.h"

namespace askcount::level {
namespace {

constexpr double kVisibleChange =
    0.04;                             // stops of the mean below which a local change is left to the smoothing
constexpr double kSureChange = 6;     // spreads beyond which it is no accident
constexpr long kMostAlike = 3;        // changes half as large around it, itself among them
constexpr int kFlashAhead = 2;        // frames after a change that its spread is judged with
constexpr double kClick = 1.0 / 6;    // stops: the least change of the record that is a click
constexpr double kMovement = 0.0015;  // stops a frame: what the mean does for itself beyond this is movement
constexpr double kLeastFlash = 0.4;   // stops
constexpr double kSureFlash = 5;      // spreads
constexpr double kFarDarker = 1.5;    // stops below its neighbours, and
constexpr double kSureDarker = 8;     // usual steps between frames, that set a frame aside
constexpr double kBeyondRaising = 4;  // stops
constexpr double kBlack = -8;         // stops of white
// Shares of a click that the pictures' change may be off by: more and it was not there, less and it was.
constexpr double kOffClick = 0.6, kOnClick = 0.35;

bool counts(const std::vector<bool>& measured, size_t part) {
  return measured.empty() || measured[part];
}

/// Log2 of the mean light of the parts that count.
double mean_of(const std::array<float, image::Luminance::kParts>& parts, const std::vector<bool>& measured) {
  double light = 0;
  int count = 0;
  for (size_t p = 0; p < parts.size(); ++p)
    if (counts(measured, p)) light += static_cast<double>(std::exp2(parts[p])), ++count;
  return std::max(-20.0, std::log2(std::max(1e-9, light / count)));
}

/// The parts that follow a gain and are to be measured; those that are nearly black or white tell nothing.
PartFlicker::Parts telling(PartFlicker::Parts stops, const std::vector<bool>& measured) {
  constexpr float kTooDark = -9, kTooLight = -0.15F;  // stops of white
  for (size_t p = 0; p < stops.size(); ++p)
    if (!(stops[p] > kTooDark && stops[p] < kTooLight && counts(measured, p)))
      stops[p] = image::Luminance::kUnknown;
  return stops;
}

/// Log2 of each part's luminance over its green; unknown where its colours are.
double over_green(const image::Luminance& l, size_t p) {
  return std::log2(static_cast<double>(image::luminance(std::exp2(l.red[p]), 1, std::exp2(l.blue[p]))));
}

/// The green of the parts that tell of brightness.
PartFlicker::Parts green_of(const image::Luminance& l, PartFlicker::Parts telling) {
  for (size_t p = 0; p < telling.size(); ++p)
    if (telling[p] < image::Luminance::kUnknown) {
      const bool coloured = l.red[p] < image::Luminance::kUnknown && l.blue[p] < image::Luminance::kUnknown;
      telling[p] = coloured ? telling[p] - static_cast<float>(over_green(l, p)) : image::Luminance::kUnknown;
    }
  return telling;
}

/// The parts as they would be had red and blue not wandered this many stops from green.
std::array<float, image::Luminance::kParts> without_wander(const image::Luminance& l, double red,
                                                           double blue) {
  std::array<float, image::Luminance::kParts> out = l.parts;
  if (red == 0 && blue == 0) return out;
  for (size_t p = 0; p < out.size(); ++p) {
    if (l.red[p] >= image::Luminance::kUnknown || l.blue[p] >= image::Luminance::kUnknown) continue;
    const double r = static_cast<double>(l.red[p]), b = static_cast<double>(l.blue[p]);
    const auto light = [](double rr, double bb) {
      return static_cast<double>(
          image::luminance(static_cast<float>(std::exp2(rr)), 1, static_cast<float>(std::exp2(bb))));
    };
    out[p] += static_cast<float>(std::log2(light(r - red, b - blue) / light(r, b)));
  }
  return out;
}

/// Recorded exposure with holes filled by what was recorded before (or, at the start, after).
std::vector<double> filled(const std::vector<std::optional<double>>& exposures) {
  std::vector<double> out(exposures.size());
  double last = 0;
  for (const auto& e : exposures)
    if (e) {
      last = *e;
      break;
    }
  for (size_t i = 0; i < exposures.size(); ++i) out[i] = last = exposures[i].value_or(last);
  return out;
}

/// A choice of no parts is one of all.
Smoothing asking_some(Smoothing smoothing) {
  if (std::none_of(smoothing.measured.begin(), smoothing.measured.end(), [](bool m) { return m; }))
    smoothing.measured.clear();
  return smoothing;
}

}  // namespace

Leveller::Leveller(const std::vector<std::optional<double>>& exposures, Smoothing smoothing)
    : smoothing_(asking_some(std::move(smoothing))),
      exposure_(filled(exposures)),
      joined_(exposures.size()),
      colours_(smoothing_.reach, smoothing_.parts, smoothing_.measured),
      parts_(smoothing_.reach),
      green_(smoothing_.reach) {
  const long n = static_cast<long>(exposure_.size());
  for (long i = 0; i < n; ++i)
    joined_[static_cast<size_t>(i)] = local_line([&](long k) { return exposure_[static_cast<size_t>(k)]; },
                                                 [](long) { return true; }, i, n, smoothing_.join_reach);
  local_.reserve(exposure_.size());
  local_step_.assign(exposure_.size(), 0.0);
  smoothed_step_.assign(exposure_.size(), 0.0);
  flash_.assign(exposure_.size(), false);
  aside_.assign(exposure_.size(), Aside::No);
  samples_.reserve(exposure_.size());
}

size_t Leveller::lookahead() const {
  return static_cast<size_t>(smoothing_.reach) + GradualChange::kAhead;
}

void Leveller::add(const image::Luminance* luminance) {
  Sample s;
  if (!samples_.empty()) s.all_shared = samples_.back().all_shared;
  colours_.add(luminance);
  image::Luminance plain;  // without what colours have wandered: parts differ by that too
  if (luminance) {
    s.known = true;
    s.stops = measured_stops(*luminance);
    plain.parts = without_wander(*luminance, red_wander(samples_.size()), blue_wander(samples_.size()));
    const double mean =
        s.stops + mean_of(plain.parts, smoothing_.measured) - mean_of(luminance->parts, smoothing_.measured);
    if (any_) {
      std::vector<double> changes;
      for (size_t b = 0; b < plain.parts.size(); ++b)
        if (counts(smoothing_.measured, b))
          changes.push_back(static_cast<double>(plain.parts[b] - last_parts_[b]));
      s.shared = median_of(changes);
      s.apart = mean - last_mean_ - s.shared;
      s.all_shared += s.shared;
    }
    last_parts_ = plain.parts;
    last_mean_ = mean;
    any_ = true;
  }
  if (smoothing_.parts && luminance) {
    const PartFlicker::Parts light = telling(plain.parts, smoothing_.measured);
    const PartFlicker::Parts green = green_of(*luminance, telling(luminance->parts, smoothing_.measured));
    parts_.add(&light);
    green_.add(&green);
  } else if (smoothing_.parts) {
    parts_.add(nullptr);
    green_.add(nullptr);
  }
  veils_.push_back(luminance ? image::Veil::of(*luminance) : veils_.empty() ? image::Veil() : veils_.back());
  samples_.push_back(s);
  if (samples_.size() > 2) align_click(samples_.size() - 2);
}

double Leveller::measured_stops(const image::Luminance& luminance) const {
  return smoothing_.measured.empty() ? luminance.stops() : mean_of(luminance.parts, smoothing_.measured);
}

/// Where the pictures show the click of frame i a frame earlier or later than the record has it, the record
/// is put right.
void Leveller::align_click(size_t i) {
  const double turned = exposure_[i] - exposure_[i - 1];
  if (std::abs(turned) < kClick || !samples_[i - 1].known || !samples_[i].known || !samples_[i + 1].known)
    return;
  const auto off = [&](size_t at) { return std::abs(samples_[at].shared - turned) / std::abs(turned); };
  if (off(i) < kOffClick) return;
  // Only where the frames around were not turned too.
  if (off(i + 1) < kOnClick && i + 1 < exposure_.size() && exposure_[i + 1] == exposure_[i]) {
    exposure_[i] = exposure_[i - 1];
    late_.push_back(i + 1);
  } else if (i >= 2 && off(i - 1) < kOnClick && exposure_[i - 1] == exposure_[i - 2]) {
    exposure_[i - 1] = exposure_[i];
    late_.push_back(i - 1);
  }
}

bool Leveller::wished(const std::vector<size_t>& frames, size_t n) const {
  return std::find(frames.begin(), frames.end(), n) != frames.end();
}

/// What a flash changes at frame i, by the frames around; 0 where there is none.
double Leveller::flash_step(size_t i, size_t from, size_t to) {
  const auto light = [&](size_t k) { return samples_[k].stops - exposure_[k]; };
  if (!samples_[i].known) return 0;
  std::vector<double> around;
  for (size_t k = from; k < to; ++k)
    if (samples_[k].known) around.push_back(light(k));
  if (around.size() < 7) return 0;
  const double usual = median_of(around);
  for (double& v : around) v = std::abs(v - usual);
  const double least = std::max(kLeastFlash, kSureFlash * 1.4826 * median_of(around));
  const auto brighter = [&](size_t k) { return samples_[k].known ? light(k) - usual : 0; };
  double now = 0;
  if (i < flash_end_) {
    now = brighter(i);
  } else if (i > 0 && brighter(i) >= least && brighter(i - 1) < least / 2) {
    for (size_t end = i + 1; end <= i + kFlashAhead && end < to && flash_end_ <= i; ++end)
      if (samples_[end].known && brighter(end) < std::min(least, brighter(i)) / 2) flash_end_ = end;
    flash_smoothed_ = wished(smoothing_.smooth, i);
    if (flash_end_ > i) now = brighter(i);
  }
  const double step = now - flash_light_;
  flash_light_ = now;
  flash_[i] = now != 0;
  return step;
}

/// Whether frame i, or i with one beside it, is far darker than those around, or black where they are not;
/// nothing else is said of a change that lasts.
void Leveller::judge_alone(size_t i, size_t from, size_t to) {
  const auto light = [&](size_t k) { return samples_[k].stops - exposure_[k]; };
  if (!samples_[i].known || wished(smoothing_.keep, i)) return;
  const auto set_aside = [&](Aside how) {
    aside_[i] = how;
    parts_.leave_out(i);
    green_.leave_out(i);
  };
  // Black all at once, for however long, or from the first frame on: there is nothing to level in it.
  if (samples_[i].stops < kBlack) {
    size_t other = i;
    while (other > 0 && !told(other - 1)) --other;
    const auto brighter = [&](size_t k) {
      return samples_[k].known && light(k) - light(i) >= kBeyondRaising;
    };
    bool alone = other > 0 && brighter(other - 1);
    for (size_t k = i + 1; k < to && other == 0; ++k) alone = alone || brighter(k);
    if (alone) return set_aside(Aside::AsShot);
  }
  const auto all = static_cast<long>(samples_.size()), at = static_cast<long>(i);
  std::vector<double> beside, before, after, steps;
  for (const long k : {at - 2, at - 1, at + 1, at + 2})
    if (k >= 0 && k < all && samples_[static_cast<size_t>(k)].known) {
      beside.push_back(light(static_cast<size_t>(k)));
      (k < at ? before : after).push_back(beside.back());
    }
  if (beside.size() < 2 || after.empty()) return;
  const double usual = median_of(beside), off = usual - light(i);
  if (off < kFarDarker) return;
  const auto comes_back = [&](const std::vector<double>& side) {
    return std::any_of(side.begin(), side.end(), [&](double v) { return usual - v < off / 2; });
  };
  if (!comes_back(after) || (!before.empty() && !comes_back(before))) return;
  for (size_t k = from + 1; k < to; ++k)
    if (samples_[k].known && samples_[k - 1].known) steps.push_back(std::abs(light(k) - light(k - 1)));
  if (steps.size() < 5 || off < kSureDarker * median_of(steps)) return;
  set_aside(off < kBeyondRaising ? Aside::Corrected : Aside::AsShot);
}

/// What a gradual change that is kept adds at frame i.
double Leveller::gradual_step(size_t i) {
  const double step = gradual_.step(
      i, [this](size_t k) { return samples_[k].all_shared - exposure_[k]; }, samples_.size());
  if (step == 0) return 0;
  const size_t began = *gradual_.began();
  if (gradual_changes_.empty() || gradual_changes_.back().frame != began)
    gradual_changes_.push_back({began, 0, 0, wished(smoothing_.smooth, began)});
  Gradual& change = gradual_changes_.back();
  change.stops += step;
  change.frames = i + 1 - began;
  return change.smoothed ? 0 : step;
}

void Leveller::settle_local(size_t until) {
  const size_t back = 2 * static_cast<size_t>(smoothing_.reach);
  for (size_t i = local_.size(); i <= until; ++i) {
    const size_t from = i > back ? i - back : 0;
    const size_t to = std::min(samples_.size(),
                               std::max<size_t>(i + kFlashAhead + 1, static_cast<size_t>(smoothing_.reach)));
    std::vector<double> spread;
    for (size_t k = from; k < to; ++k)
      if (samples_[k].known && k > 0) spread.push_back(std::abs(samples_[k].apart));
    judge_alone(i, from, to);
    const double sigma = spread.size() > 4 ? 1.4826 * median_of(spread) : 1e9;
    const double d = samples_[i].apart;
    const double turned = i > 0 ? std::abs(exposure_[i] - exposure_[i - 1]) : 0;
    // A click makes clipped and dark parts change less than the rest: that is the click's doing, not a
    // lamp's.
    const bool of_click = turned >= kClick && std::abs(d) < turned;
    // What happens all the time is no change of the scene but something that flickers in it.
    const auto alike =
        std::count_if(spread.begin(), spread.end(), [d](double other) { return other >= std::abs(d) / 2; });
    const bool real =
        !of_click && alike <= kMostAlike && std::abs(d) > std::max(kVisibleChange, kSureChange * sigma);
    const bool smooth = wished(smoothing_.smooth, i);
    const double flashes = flash_step(i, from, to);
    local_step_[i] = real && !smooth ? d : 0;
    smoothed_step_[i] = real && smooth ? d : 0;
    if (flashes != 0) {  // smoothed by wish at its first frame it is smoothed whole
      local_step_[i] = flash_smoothed_ ? 0 : flashes;
      smoothed_step_[i] = flash_smoothed_ && flashes > 0 ? flashes : 0;
    }
    local_step_[i] += gradual_step(i);
    if (i > 0 && samples_[i].known && samples_[i - 1].known && wished(smoothing_.keep, i))
      local_step_[i] = samples_[i].stops - samples_[i - 1].stops - (exposure_[i] - exposure_[i - 1]);
    local_.push_back((i > 0 ? local_[i - 1] : 0) + local_step_[i]);
  }
}

bool Leveller::both_known(size_t i) const {
  return i > 0 && told(i) && told(i - 1);
}

/// How much of the changes between n and i is movement in the picture, which no gain may follow: what the
/// mean does beyond what most parts share, as far as that does not go with the flicker itself (parts that are
/// white or black follow less of it).
std::vector<double> Leveller::moved(size_t from, size_t to, size_t n) const {
  std::vector<double> out(to - from + 1, 0.0);
  const auto apart = [&](size_t i) {
    return local_step_[i] != 0 || wished(smoothing_.smooth, i) ? 0 : samples_[i].apart;
  };
  double product = 0, square = 0;
  for (size_t i = from; i <= to; ++i)
    if (both_known(i))
      product += apart(i) * samples_[i].shared, square += samples_[i].shared * samples_[i].shared;
  const double follows = square > 1e-9 ? product / square : 0;
  std::vector<double> sizes;
  for (size_t i = from; i <= to; ++i)
    if (both_known(i)) sizes.push_back(std::abs(apart(i) - follows * samples_[i].shared));
  if (sizes.size() < 4) return out;
  const double usual = 1.4826 * median_of(sizes);
  const double part = std::max(0.0, 1 - kMovement * kMovement / (usual * usual + 1e-12));
  const auto movement = [&](size_t i) {
    return both_known(i) ? part * (apart(i) - follows * samples_[i].shared) : 0;
  };
  for (size_t i = n + 1; i <= to; ++i) out[i - from] = out[i - 1 - from] + movement(i);
  for (size_t i = n; i > from; --i) out[i - 1 - from] = out[i - from] - movement(i);
  return out;
}

Levelled Leveller::level(size_t n) {
  const auto reach = static_cast<size_t>(smoothing_.reach);
  const size_t first = n > reach ? n - reach : 0, last = std::min(n + reach, exposure_.size() - 1);
  settle_local(last);
  const bool known = samples_[n].known;
  const bool alone = set_aside(n);
  Levelled out;
  const ColourWander::Held colours = known && !alone ? colours_.held(n) : ColourWander::Held();
  const bool by_colour = !colours.red_field.flat() || !colours.blue_field.flat();
  // Where colours flicker in parts their green tells the brightness that is to be held.
  if (smoothing_.parts && known && !flash_[n] && !alone)
    out.field = (by_colour ? green_ : parts_).field(n, &exposure_);
  // Where parts flicker apart, what they do is no movement.
  const std::vector<double> movement =
      out.field.flat() && !by_colour ? moved(first, last, n) : std::vector<double>(last - first + 1, 0.0);
  const double light = local_line(
      [&](long i) {
        const auto k = static_cast<size_t>(i);
        return samples_[k].stops - exposure_[k] - local_[k] - movement[k - first];
      },
      [&](long i) { return told(static_cast<size_t>(i)); }, static_cast<long>(n), static_cast<long>(last) + 1,
      smoothing_.reach);
  out.target = light + local_[n] + joined_[n];
  out.as_shot = known ? samples_[n].stops : out.target;
  if (aside_[n] == Aside::AsShot) out.target = out.as_shot;
  if (known && aside_[n] != Aside::AsShot) {
    // What the clicks ask for is done in any case.
    const double clicks = joined_[n] - exposure_[n], strength = smoothing_.strength;
    out.target = out.as_shot + clicks + strength * (out.correction() - clicks);
    out.red = strength * colours.red;
    out.blue = strength * colours.blue;
    out.red_field = colours.red_field;
    out.blue_field = colours.blue_field;
    for (image::Field* field : {&out.field, &out.red_field, &out.blue_field})
      for (float& s : field->stops) s *= static_cast<float>(strength);
  }
  const auto always = [](long) { return true; };
  for (const auto& [i, w] :
       line_weights(always, static_cast<long>(n), static_cast<long>(last) + 1, smoothing_.reach)) {
    const image::Veil& veil = veils_[static_cast<size_t>(i)];
    out.veil.air += static_cast<float>(w) * veil.air;
    for (size_t k = 0; k < veil.thick.stops.size(); ++k)
      out.veil.thick.stops[k] += static_cast<float>(w) * veil.thick.stops[k];
  }
  return out;
}

Correction correction_of(const Leveller& leveller, const image::Luminance& shown, const Levelled& levelled) {
  Correction out;
  out.field = levelled.field;
  out.red_field = levelled.red_field;
  out.blue_field = levelled.blue_field;
  out.veil = levelled.veil;
  // What the fields do to the mean the gain does not.
  const double by_field = std::log2(field_gain(shown, out));
  const double change = levelled.target - leveller.measured_stops(shown);
  out.gain = image::gain_for(shown, shown.stops() + change - by_field, levelled.tint());
  return out;
}

int Smoothing::frames_of(double seconds, double fps) {
  return std::max(1, static_cast<int>(seconds * fps + 1e-9));
}

std::vector<Levelled> level_all(const std::vector<const image::Luminance*>& luminances,
                                const std::vector<std::optional<double>>& exposures, Smoothing smoothing) {
  Leveller leveller(exposures, smoothing);
  for (const image::Luminance* luminance : luminances) leveller.add(luminance);
  std::vector<Levelled> out;
  out.reserve(luminances.size());
  for (size_t n = 0; n < luminances.size(); ++n) out.push_back(leveller.level(n));
  return out;
}

double flicker(const std::vector<double>& stops) {
  const long n = static_cast<long>(stops.size());
  if (n < 3) return 0;
  const long width = std::min(11L, n);
  double sum = 0;
  for (long c = 0; c < n; ++c) {
    const long low = std::clamp(c - width / 2, 0L, n - width);
    // Least squares of a + b x + c x² by its normal equations, x from the frame in question.
    double s[5] = {}, t[3] = {};
    for (long i = low; i < low + width; ++i) {
      const double x = static_cast<double>(i - c),
                   y = stops[static_cast<size_t>(i)] - stops[static_cast<size_t>(c)];
      double p = 1;
      for (int k = 0; k < 5; ++k, p *= x) {
        s[k] += p;
        if (k < 3) t[k] += p * y;
      }
    }
    if (width < 4) continue;
    const double det = s[0] * (s[2] * s[4] - s[3] * s[3]) - s[1] * (s[1] * s[4] - s[3] * s[2]) +
                       s[2] * (s[1] * s[3] - s[2] * s[2]);
    const double at = (t[0] * (s[2] * s[4] - s[3] * s[3]) - s[1] * (t[1] * s[4] - s[3] * t[2]) +
                       s[2] * (t[1] * s[3] - s[2] * t[2])) /
                      det;
    sum += at * at;
  }
  return std::sqrt(sum / static_cast<double>(n));
}

std::vector<Click> find_clicks(const std::vector<double>& as_shot,
                               const std::vector<std::optional<double>>& exposures) {
  const std::vector<double> e = filled(exposures);
  std::vector<size_t> at;
  for (size_t i = 1; i < e.size(); ++i)
    if (std::abs(e[i] - e[i - 1]) >= kClick) at.push_back(i);
  std::vector<Click> clicks;
  for (size_t k = 0; k < at.size(); ++k) {
    const size_t low = std::max(k > 0 ? at[k - 1] : 0, at[k] > 6 ? at[k] - 6 : 0);
    const size_t high = std::min(k + 1 < at.size() ? at[k + 1] : e.size(), at[k] + 6);
    // The record taken out, the light is a line with a step at the click: least squares of both.
    double s[3][4] = {};
    for (size_t i = low; i < high; ++i) {
      const double row[3] = {1, static_cast<double>(i) - static_cast<double>(at[k]), i >= at[k] ? 1.0 : 0.0};
      for (int r = 0; r < 3; ++r) {
        for (int c = 0; c < 3; ++c) s[r][c] += row[r] * row[c];
        s[r][3] += row[r] * (as_shot[i] - e[i]);
      }
    }
    for (int r = 0; r < 2; ++r)
      for (int below = r + 1; below < 3; ++below) {
        const double f = s[r][r] != 0 ? s[below][r] / s[r][r] : 0;
        for (int c = r; c < 4; ++c) s[below][c] -= f * s[r][c];
      }
    const double recorded = e[at[k]] - e[at[k] - 1];
    clicks.push_back({at[k], recorded, recorded + (std::abs(s[2][2]) > 1e-9 ? s[2][3] / s[2][2] : 0)});
  }
  return clicks;
}

}  // namespace askcount::level
