// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/colour_profile.h"

#include <lcms2.h>

#include <algorithm>
#include <array>
#include <cstdlib>
#include <mutex>
#include <vector>

namespace askcount::media {
namespace {

struct CloseProfile {
  void operator()(void* p) const { cmsCloseProfile(p); }
};
struct CloseTransform {
  void operator()(void* t) const { cmsDeleteTransform(t); }
};
using Profile = std::unique_ptr<void, CloseProfile>;
using Transform = std::unique_ptr<void, CloseTransform>;

constexpr cmsUInt32Number kFlags = cmsFLAGS_NOCACHE;  // a transform's cache is not for several threads

/// BT.709 primaries, linear.
Profile linear_709() {
  const cmsCIExyY white = {0.3127, 0.3290, 1};
  const cmsCIExyYTRIPLE primaries = {{0.64, 0.33, 1}, {0.30, 0.60, 1}, {0.15, 0.06, 1}};
  const std::unique_ptr<cmsToneCurve, decltype(&cmsFreeToneCurve)> line(cmsBuildGamma(nullptr, 1),
                                                                        cmsFreeToneCurve);
  cmsToneCurve* curves[] = {line.get(), line.get(), line.get()};
  return Profile(cmsCreateRGBProfile(&white, &primaries, curves));
}

Transform transform_between(const Profile& from, const Profile& to, cmsUInt32Number in, cmsUInt32Number out) {
  return Transform(cmsCreateTransform(from.get(), in, to.get(), out, INTENT_RELATIVE_COLORIMETRIC, kFlags));
}

/// Whether codes come out as they went in, to half a code of 8 bits.
bool changes_nothing(const Profile& profile, const Profile& srgb) {
  const Transform deep = transform_between(profile, srgb, TYPE_RGB_16, TYPE_RGB_16);
  if (!deep) return false;
  for (int r = 0; r <= 4; ++r)
    for (int g = 0; g <= 4; ++g)
      for (int b = 0; b <= 4; ++b) {
        const auto code = [](int step) { return static_cast<std::uint16_t>(step * 65535 / 4); };
        const std::array<std::uint16_t, 3> in = {code(r), code(g), code(b)};
        std::array<std::uint16_t, 3> out{};
        cmsDoTransform(deep.get(), in.data(), out.data(), 1);
        for (size_t c = 0; c < 3; ++c)
          if (std::abs(in[c] - out[c]) > 257 / 2) return false;
      }
  return true;
}

}  // namespace

struct ColourProfile::Transforms {
  Transform coded, linear;
};

ColourProfile::ColourProfile(std::unique_ptr<Transforms> made) : made_(std::move(made)) {}
ColourProfile::~ColourProfile() = default;

std::shared_ptr<const ColourProfile> ColourProfile::from(void* opened) {
  const Profile profile(opened);
  if (!profile || cmsGetColorSpace(profile.get()) != cmsSigRgbData) return {};
  const Profile srgb(cmsCreate_sRGBProfile());
  if (changes_nothing(profile, srgb)) return {};
  auto made = std::make_unique<Transforms>();
  made->coded = transform_between(profile, srgb, TYPE_RGB_8, TYPE_RGB_8);
  made->linear = transform_between(profile, linear_709(), TYPE_RGB_16, TYPE_RGB_FLT);
  if (!made->coded || !made->linear) return {};
  return std::shared_ptr<const ColourProfile>(new ColourProfile(std::move(made)));
}

std::shared_ptr<const ColourProfile> ColourProfile::of(std::span<const std::uint8_t> icc) {
  if (icc.empty()) return {};
  cmsSetLogErrorHandler(nullptr);
  // The frames of a take have one profile: what was made of the last few is kept.
  constexpr size_t kKept = 8;
  struct Known {
    std::vector<std::uint8_t> icc;
    std::shared_ptr<const ColourProfile> profile;
  };
  static std::mutex mutex;
  static std::vector<Known> known;
  const std::lock_guard lock(mutex);
  for (const Known& k : known)
    if (std::equal(k.icc.begin(), k.icc.end(), icc.begin(), icc.end())) return k.profile;
  if (known.size() == kKept) known.erase(known.begin());
  known.push_back({{icc.begin(), icc.end()},
                   from(cmsOpenProfileFromMem(icc.data(), static_cast<cmsUInt32Number>(icc.size())))});
  return known.back().profile;
}

std::shared_ptr<const ColourProfile> ColourProfile::dcf_optional() {
  static const auto profile = [] {
    const cmsCIExyY white = {0.3127, 0.3290, 1};
    const cmsCIExyYTRIPLE primaries = {{0.64, 0.33, 1}, {0.21, 0.71, 1}, {0.15, 0.06, 1}};
    constexpr double kPower = 563.0 / 256;
    const std::unique_ptr<cmsToneCurve, decltype(&cmsFreeToneCurve)> power(cmsBuildGamma(nullptr, kPower),
                                                                           cmsFreeToneCurve);
    cmsToneCurve* curves[] = {power.get(), power.get(), power.get()};
    return from(cmsCreateRGBProfile(&white, &primaries, curves));
  }();
  return profile;
}

void ColourProfile::to_srgb(image::Coded8& picture) const {
  for (int y = 0; y < picture.size.height; ++y)
    cmsDoTransform(made_->coded.get(), picture.row(y), picture.row(y),
                   static_cast<cmsUInt32Number>(picture.size.width));
}

void ColourProfile::to_linear(const std::uint16_t* codes, float* rgb, int n) const {
  cmsDoTransform(made_->linear.get(), codes, rgb, static_cast<cmsUInt32Number>(n));
  for (int i = 0; i < 3 * n; ++i) rgb[i] = std::max(0.0F, rgb[i]);
}

}  // namespace askcount::media
