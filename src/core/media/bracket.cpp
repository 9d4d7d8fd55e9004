// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/bracket.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <opencv2/imgproc.hpp>
#include <opencv2/photo.hpp>

#include "image/tone.h"

namespace askcount::media {
namespace {

using image::Linear32;

constexpr float kClips = 0.85F,
                kWhite = 0.97F;   // linear: from here a value counts less, from there not at all
constexpr float kBlack = 0.002F;  // linear: below this there is only noise
constexpr double kMoved = 0.45;   // stops that exposures differ by where something moved
constexpr double kMostOff = 0.8;  // stops that a record is believed to be wrong by
constexpr size_t kFewestPairs = 200;
constexpr double kLargestShift = 0.02;  // of the width: more is no shaken hand

cv::Mat mat_of(Linear32& p) {
  return {p.size.height, p.size.width, CV_32FC3, p.rgb.data()};
}

cv::Mat grey_of(const Linear32& p) {
  cv::Mat grey(p.size.height, p.size.width, CV_8UC1);
  for (int y = 0; y < p.size.height; ++y)
    for (int x = 0; x < p.size.width; ++x) {
      const float* rgb = p.row(y) + 3 * x;
      grey.at<std::uint8_t>(y, x) = static_cast<std::uint8_t>(
          std::lround(255 * image::code_of_linear(image::luminance(rgb[0], rgb[1], rgb[2]))));
    }
  return grey;
}

/// Shifts a picture onto the leading one; what comes in at the edges is the edge.
void align(Linear32& picture, const cv::Mat& lead) {
  const int bits = std::clamp(static_cast<int>(std::log2(std::max(2.0, kLargestShift * lead.cols))), 1, 6);
  const cv::Ptr<cv::AlignMTB> mtb = cv::createAlignMTB(bits, 6, false);
  const cv::Point shift = mtb->calculateShift(lead, grey_of(picture));
  if (shift == cv::Point(0, 0)) return;
  const cv::Mat move = (cv::Mat_<double>(2, 3) << 1, 0, shift.x, 0, 1, shift.y);
  Linear32 moved(picture.size);
  cv::warpAffine(mat_of(picture), mat_of(moved), move, {picture.size.width, picture.size.height},
                 cv::INTER_NEAREST, cv::BORDER_REPLICATE);
  picture = std::move(moved);
}

/// How much more light a picture has, by the places that both show well; what was recorded where they are few
/// or say something else altogether.
double measured_stops(const Linear32& picture, const Linear32& lead, double recorded) {
  std::vector<float> stops;
  const size_t step = std::max<size_t>(1, lead.rgb.size() / 60000);
  for (size_t i = 1; i < lead.rgb.size(); i += step)
    if (lead.rgb[i] > 0.02F && lead.rgb[i] < 0.7F && picture.rgb[i] > 0.02F && picture.rgb[i] < 0.7F)
      stops.push_back(std::log2(picture.rgb[i] / lead.rgb[i]));
  if (stops.size() < kFewestPairs) return recorded;
  const auto middle = stops.begin() + static_cast<long>(stops.size() / 2);
  std::nth_element(stops.begin(), middle, stops.end());
  const auto seen = static_cast<double>(*middle);
  return std::abs(seen - recorded) <= kMostOff ? seen : recorded;
}

/// How well a value tells of the light: not where it clips or is black.
float trust(float v) {
  const float light = std::clamp((kWhite - v) / (kWhite - kClips), 0.0F, 1.0F);
  return light * std::clamp((v - kBlack) / (4 * kBlack), 0.0F, 1.0F);
}

float trust(const float* rgb) {
  return std::min(trust(std::max({rgb[0], rgb[1], rgb[2]})),
                  trust(std::max(rgb[1], std::min(rgb[0], rgb[2]))));
}

/// Where a picture shows something else than the leading one, 0 to 1, softly.
cv::Mat moved(const Linear32& picture, double stops, const Linear32& lead) {
  cv::Mat map(lead.size.height, lead.size.width, CV_32FC1, cv::Scalar(0));
  const auto scale = static_cast<float>(std::exp2(-stops));
  for (int y = 0; y < lead.size.height; ++y)
    for (int x = 0; x < lead.size.width; ++x) {
      const float *a = lead.row(y) + 3 * x, *b = picture.row(y) + 3 * x;
      if (trust(a) < 0.3F || trust(b) < 0.3F) continue;
      const float one = image::luminance(a[0], a[1], a[2]),
                  other = scale * image::luminance(b[0], b[1], b[2]);
      // Noise makes dark places differ too: what is asked for grows there.
      const double apart = std::abs(std::log2(std::max(1e-5F, other) / std::max(1e-5F, one)));
      const double allowed = kMoved * (1 + 0.02 / static_cast<double>(one + 0.005F));
      map.at<float>(y, x) = apart > allowed ? 1.0F : 0.0F;
    }
  // A single place is noise; a patch is something that moved, with its surroundings.
  cv::medianBlur(map, map, 3);
  const int around = std::max(3, lead.size.width / 100) | 1;
  cv::dilate(map, map, cv::getStructuringElement(cv::MORPH_ELLIPSE, {around, around}));
  cv::GaussianBlur(map, map, {around, around}, 0);
  return map;
}

/// Where something moved the picture shows what the leading one would have shown with its light.
void lay_lead_over(Linear32& picture, double stops, const Linear32& lead, const cv::Mat& where) {
  const auto scale = static_cast<float>(std::exp2(stops));
  for (int y = 0; y < lead.size.height; ++y) {
    const float* w = where.ptr<float>(y);
    for (int x = 0; x < lead.size.width; ++x) {
      if (w[x] <= 0) continue;
      for (int c = 0; c < 3; ++c) {
        float& v = picture.row(y)[3 * x + c];
        v += w[x] * (std::min(1.0F, lead.row(y)[3 * x + c] * scale) - v);
      }
    }
  }
}

Linear32 merged(const std::vector<BracketPart>& parts, size_t lead, const std::vector<cv::Mat>& moves) {
  const image::Size size = parts[lead].picture.size;
  Linear32 out(size);
  double least = 0;
  for (const BracketPart& p : parts) least = std::min(least, p.stops);
  // In thirds: what is measured of the stops differs a little from shot to shot, and white is not to.
  out.top = static_cast<float>(std::exp2(std::round(-3 * least) / 3));
  const auto darkest = static_cast<size_t>(
      std::min_element(parts.begin(), parts.end(),
                       [](const BracketPart& a, const BracketPart& b) { return a.stops < b.stops; }) -
      parts.begin());
  std::vector<float> light;
  for (const BracketPart& p : parts) light.push_back(static_cast<float>(std::exp2(p.stops)));
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x) {
      float sum[3] = {}, weights = 0;
      for (size_t i = 0; i < parts.size(); ++i) {
        const float* rgb = parts[i].picture.row(y) + 3 * x;
        float w = trust(rgb) * light[i];  // the variance of light by photons falls with it
        if (i != lead) w *= 1 - moves[i].at<float>(y, x);
        for (int c = 0; c < 3; ++c) sum[c] += w * rgb[c] / light[i];
        weights += w;
      }
      if (weights < 1e-4F) {  // white in all, or black: the darkest tells of white, the leading one of black
        const size_t i = parts[lead].picture.row(y)[3 * x + 1] > 0.5F ? darkest : lead;
        for (int c = 0; c < 3; ++c) {
          const float v = parts[i].picture.row(y)[3 * x + c];
          sum[c] = v >= kWhite && i == darkest ? out.top : v / light[i];
        }
        weights = 1;
      }
      for (int c = 0; c < 3; ++c) out.row(y)[3 * x + c] = std::min(out.top, sum[c] / weights);
    }
  return out;
}

Linear32 fused(const std::vector<BracketPart>& parts) {
  const image::Size size = parts.front().picture.size;
  std::vector<cv::Mat> coded;
  for (const BracketPart& p : parts) {
    cv::Mat m(size.height, size.width, CV_8UC3);
    for (int y = 0; y < size.height; ++y)
      for (int i = 0; i < 3 * size.width; ++i)
        m.ptr(y)[i] =
            static_cast<std::uint8_t>(std::lround(255 * image::code_of_linear(p.picture.row(y)[i])));
    coded.push_back(std::move(m));
  }
  cv::Mat result;
  // By contrast and by how middling a tone is; not by saturation, which greys have none of.
  cv::createMergeMertens(1, 0, 1)->process(coded, result);
  Linear32 out(size);
  for (int y = 0; y < size.height; ++y)
    for (int i = 0; i < 3 * size.width; ++i)
      out.row(y)[i] = image::linear_of_code_value(std::clamp(result.ptr<float>(y)[i], 0.0F, 1.0F));
  return out;
}

}  // namespace

Linear32 blended(std::vector<BracketPart> parts, size_t lead, Blend blend) {
  const cv::Mat grey = grey_of(parts[lead].picture);
  std::vector<cv::Mat> moves(parts.size());
  for (size_t i = 0; i < parts.size(); ++i) {
    if (i == lead) continue;
    BracketPart& p = parts[i];
    align(p.picture, grey);
    p.stops = measured_stops(p.picture, parts[lead].picture, p.stops);
    moves[i] = moved(p.picture, p.stops, parts[lead].picture);
  }
  if (blend == Blend::Merged) return merged(parts, lead, moves);
  for (size_t i = 0; i < parts.size(); ++i)
    if (i != lead) lay_lead_over(parts[i].picture, parts[i].stops, parts[lead].picture, moves[i]);
  return fused(parts);
}

}  // namespace askcount::media
