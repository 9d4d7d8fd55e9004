// SPDX-License-Identifier: GPL-3.0-or-later
#include "motion/made_frame.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

namespace askcount::motion {
namespace {

constexpr int kFlowWidth = 800;  // pixels across at which motion is looked for, at most
constexpr double kFlowShare = 0.5;
constexpr float kStands = 0.1F;       // pixels: what moves less stands
constexpr float kWaysAgree = 1;       // pixels that the way there and the way back may differ by, at least,
constexpr float kAgreesShare = 0.4F;  // and as a share of the way
constexpr float kCovered = 0.12F;     // difference of the two pictures from which a part may be covered
constexpr float kTears = 0.22F, kTorn = 0.3F;  // and from which a way is not believed

constexpr float kCodes = 65535;

/// Codes that are as fine as the eye sees, square roots of the light: what is mixed in them is not ruled by
/// its brighter part.
cv::Mat codes_of(const image::Linear32& p) {
  cv::Mat out(p.size.height, p.size.width, CV_16UC3);
  const float scale = kCodes / std::sqrt(p.top);
  for (int y = 0; y < p.size.height; ++y) {
    const float* in = p.row(y);
    auto* o = out.ptr<std::uint16_t>(y);
    for (int i = 0; i < 3 * p.size.width; ++i)
      o[i] = static_cast<std::uint16_t>(std::min(kCodes, std::sqrt(std::max(0.0F, in[i])) * scale + 0.5F));
  }
  return out;
}

/// Grey of codes, 0 to 1, at another size.
cv::Mat grey_resized(const cv::Mat& codes, cv::Size size) {
  cv::Mat small = codes, light, grey;
  if (size != codes.size()) cv::resize(codes, small, size, 0, 0, cv::INTER_AREA);
  small.convertTo(light, CV_32F, 1 / kCodes);
  cv::transform(light, grey, cv::Matx13f(0.2126F, 0.7152F, 0.0722F));
  return grey;
}

cv::Mat eight_bits(const cv::Mat& grey) {
  cv::Mat out;
  grey.convertTo(out, CV_8U, 255);
  return out;
}

cv::Mat flow_of(const cv::Mat& a, const cv::Mat& b) {
  const auto dis = cv::DISOpticalFlow::create(cv::DISOpticalFlow::PRESET_MEDIUM);
  dis->setFinestScale(0);
  dis->setGradientDescentIterations(12);
  dis->setVariationalRefinementIterations(0);
  dis->setPatchStride(4);
  cv::Mat flow;
  dis->calc(a, b, flow);
  return flow;
}

/// Each place of `flow` put where it has got to after `share` of its way; places that nothing came to have
/// not a number. Of several that come to one place the one whose end fits better stays.
cv::Mat carried(const cv::Mat& flow, const cv::Mat& from, const cv::Mat& to, float share, float sign) {
  cv::Mat out(flow.size(), CV_32FC2, cv::Scalar::all(NAN)), best(flow.size(), CV_32F, cv::Scalar(1e9));
  for (int y = 0; y < flow.rows; ++y)
    for (int x = 0; x < flow.cols; ++x) {
      const cv::Vec2f v = flow.at<cv::Vec2f>(y, x);
      const int ex = std::clamp(static_cast<int>(static_cast<float>(x) + v[0] + 0.5F), 0, flow.cols - 1);
      const int ey = std::clamp(static_cast<int>(static_cast<float>(y) + v[1] + 0.5F), 0, flow.rows - 1);
      const float off = std::abs(from.at<float>(y, x) - to.at<float>(ey, ex));
      const float mx = static_cast<float>(x) + share * v[0], my = static_cast<float>(y) + share * v[1];
      const int left = static_cast<int>(std::floor(mx)), above = static_cast<int>(std::floor(my));
      for (int k = 0; k < 4; ++k) {
        const int px = left + k % 2, py = above + k / 2;
        if (px < 0 || py < 0 || px >= flow.cols || py >= flow.rows) continue;
        float& there = best.at<float>(py, px);
        if (off < there) there = off, out.at<cv::Vec2f>(py, px) = sign * v;
      }
    }
  return out;
}

/// Places without a way take the mean of those around that have one.
void fill(cv::Mat& flow) {
  cv::Mat known(flow.size(), CV_32F), held = flow.clone();
  for (int y = 0; y < flow.rows; ++y)
    for (int x = 0; x < flow.cols; ++x) {
      cv::Vec2f& v = held.at<cv::Vec2f>(y, x);
      const bool there = !std::isnan(v[0]);
      known.at<float>(y, x) = there ? 1.0F : 0.0F;
      if (!there) v = {0, 0};
    }
  for (const int side : {5, 15, 61}) {
    cv::Mat sum, count;
    cv::boxFilter(held, sum, CV_32F, {side, side}, {-1, -1}, false);
    cv::boxFilter(known, count, CV_32F, {side, side}, {-1, -1}, false);
    bool all = true;
    for (int y = 0; y < flow.rows; ++y)
      for (int x = 0; x < flow.cols; ++x) {
        cv::Vec2f& v = flow.at<cv::Vec2f>(y, x);
        if (!std::isnan(v[0])) continue;
        const float n = count.at<float>(y, x);
        if (n > 0.5F)
          v = sum.at<cv::Vec2f>(y, x) / n;
        else
          all = false;
      }
    if (all) return;
  }
  for (int y = 0; y < flow.rows; ++y)
    for (int x = 0; x < flow.cols; ++x) {
      cv::Vec2f& v = flow.at<cv::Vec2f>(y, x);
      if (std::isnan(v[0])) v = {0, 0};
    }
}

/// A picture seen at places moved along `by` times the flow, of the flow's size.
cv::Mat moved(const cv::Mat& picture, const cv::Mat& flow, float by) {
  cv::Mat map(flow.size(), CV_32FC2), out;
  for (int y = 0; y < flow.rows; ++y) {
    const auto* v = flow.ptr<cv::Vec2f>(y);
    auto* m = map.ptr<cv::Vec2f>(y);
    for (int x = 0; x < flow.cols; ++x)
      m[x] = {static_cast<float>(x) + by * v[x][0], static_cast<float>(y) + by * v[x][1]};
  }
  cv::remap(picture, out, map, {}, cv::INTER_LINEAR, cv::BORDER_REPLICATE);
  return out;
}

/// The way of every place of a picture between, and what of it is seen in the first picture.
struct Way {
  cv::Mat flow, of_first;
};

/// Smooth weights, 0 to 1, where `share` is what they are by themselves.
cv::Mat spread_out(const cv::Mat& weights) {
  cv::Mat out;
  cv::GaussianBlur(weights, out, {7, 7}, 0);
  return out;
}

}  // namespace

struct Between::Parts {
  image::Size size;
  float top = 1;
  cv::Mat a, b;            // codes
  cv::Mat grey_a, grey_b;  // 0 to 1, of the flow's size
  cv::Mat there, back;     // flow from a to b, and from b to a

  Way way(const cv::Mat& flow, float share) const;
  cv::Mat torn(const cv::Mat& first, const cv::Mat& second, float share) const;
};

Between::Between(const image::Linear32& a, const image::Linear32& b) : parts_(std::make_unique<Parts>()) {
  Parts& p = *parts_;
  p.size = a.size;
  p.top = std::max(a.top, b.top);
  p.a = codes_of(a);
  p.b = codes_of(b);
  const double scale = std::min(kFlowShare, static_cast<double>(kFlowWidth) / a.size.width);
  const cv::Size size(std::max(16, static_cast<int>(a.size.width * scale)),
                      std::max(16, static_cast<int>(a.size.height * scale)));
  p.grey_a = grey_resized(p.a, size);
  p.grey_b = grey_resized(p.b, size);
  const cv::Mat from = eight_bits(p.grey_a), to = eight_bits(p.grey_b);
  p.there = flow_of(from, to);
  p.back = flow_of(to, from);
}

Between::~Between() = default;

/// Covered parts: where the way there and the way back do not agree at one picture but do at the other, and
/// what is seen differs, only the other shows the place.
Way Between::Parts::way(const cv::Mat& flow, float share) const {
  const cv::Mat in_a = moved(there, flow, -share), in_b = moved(back, flow, 1 - share);
  const cv::Mat seen_a = moved(grey_a, flow, -share), seen_b = moved(grey_b, flow, 1 - share);
  Way out{flow, cv::Mat(flow.size(), CV_32F)};
  for (int y = 0; y < flow.rows; ++y) {
    const auto *v = flow.ptr<cv::Vec2f>(y), *va = in_a.ptr<cv::Vec2f>(y), *vb = in_b.ptr<cv::Vec2f>(y);
    const float *ga = seen_a.ptr<float>(y), *gb = seen_b.ptr<float>(y);
    float* w = out.of_first.ptr<float>(y);
    for (int x = 0; x < flow.cols; ++x) {
      const cv::Vec2f off_a = va[x] - v[x], off_b = vb[x] + v[x];
      const float length = v[x].dot(v[x]);
      const float most = std::max(kWaysAgree * kWaysAgree, kAgreesShare * kAgreesShare * length);
      const bool ok_a = off_a.dot(off_a) < most, ok_b = off_b.dot(off_b) < most;
      w[x] = ok_a == ok_b || std::abs(ga[x] - gb[x]) < kCovered ? 1 - share : ok_a ? 1.0F : 0.0F;
    }
  }
  out.of_first = spread_out(out.of_first);
  return out;
}

/// How far no way fits, 0 to 1.
cv::Mat Between::Parts::torn(const cv::Mat& first, const cv::Mat& second, float share) const {
  cv::Mat least;
  for (const cv::Mat* flow : std::initializer_list<const cv::Mat*>{&first, &second}) {
    cv::Mat off, mean;
    cv::absdiff(moved(grey_a, *flow, -share), moved(grey_b, *flow, 1 - share), off);
    cv::boxFilter(off, mean, CV_32F, {9, 9});
    if (least.empty())
      least = mean;
    else
      least = cv::min(least, mean);
  }
  cv::Mat share_torn = (least - kTears) / (kTorn - kTears);
  cv::min(share_torn, 1.0, share_torn);
  cv::max(share_torn, 0.0, share_torn);
  return share_torn;
}

namespace {

/// Codes at a place between pixels, by straight lines; the nearest edge's beyond it.
inline cv::Vec3f seen(const cv::Mat& codes, float x, float y) {
  x = std::clamp(x, 0.0F, static_cast<float>(codes.cols - 1));
  y = std::clamp(y, 0.0F, static_cast<float>(codes.rows - 1));
  const int left = std::min(static_cast<int>(x), codes.cols - 2);
  const int above = std::min(static_cast<int>(y), codes.rows - 2);
  const float fx = x - static_cast<float>(left), fy = y - static_cast<float>(above);
  const auto *p = codes.ptr<cv::Vec3w>(above) + left, *q = codes.ptr<cv::Vec3w>(above + 1) + left;
  return (1 - fy) * ((1 - fx) * cv::Vec3f(p[0]) + fx * cv::Vec3f(p[1])) +
         fy * ((1 - fx) * cv::Vec3f(q[0]) + fx * cv::Vec3f(q[1]));
}

cv::Mat scaled(const cv::Mat& m, cv::Size size) {
  if (m.size() == size) return m;
  cv::Mat out;
  cv::resize(m, out, size, 0, 0, cv::INTER_LINEAR);
  return out;
}

}  // namespace

image::Linear32 Between::at(double share_of_way) const {
  const Parts& p = *parts_;
  const auto share = static_cast<float>(share_of_way);
  cv::Mat first = carried(p.there, p.grey_a, p.grey_b, share, 1);
  cv::Mat second = carried(p.back, p.grey_b, p.grey_a, 1 - share, -1);
  fill(first);
  fill(second);
  const cv::Size full(p.size.width, p.size.height);
  const auto by = static_cast<float>(full.width) / static_cast<float>(first.cols);
  const cv::Mat torn = scaled(p.torn(first, second, share), full);
  // Both ways count alike: neither is right everywhere.
  const Way one = p.way(first, share), other = p.way(second, share);
  const cv::Mat way_one = scaled(one.flow, full), way_other = scaled(other.flow, full);
  const cv::Mat first_one = scaled(one.of_first, full), first_other = scaled(other.of_first, full);
  image::Linear32 out(p.size);
  out.top = p.top;
  const float scale = std::sqrt(p.top) / kCodes;
  for (int y = 0; y < full.height; ++y) {
    const std::array<const cv::Vec2f*, 2> ways{way_one.ptr<cv::Vec2f>(y), way_other.ptr<cv::Vec2f>(y)};
    const std::array<const float*, 2> firsts{first_one.ptr<float>(y), first_other.ptr<float>(y)};
    const float* t = torn.ptr<float>(y);
    const auto *a = p.a.ptr<cv::Vec3w>(y), *b = p.b.ptr<cv::Vec3w>(y);
    float* o = out.row(y);
    for (int x = 0; x < full.width; ++x) {
      const cv::Vec3f there_a(a[x]), there_b(b[x]);
      cv::Vec3f code(0, 0, 0);
      for (size_t k = 0; k < 2; ++k) {
        const cv::Vec2f v = ways[k][x] * by;
        const float w = firsts[k][x];
        if (v.dot(v) < kStands * kStands) {
          code += w * there_a + (1 - w) * there_b;
          continue;
        }
        const float px = static_cast<float>(x), py = static_cast<float>(y);
        code += w * seen(p.a, px - share * v[0], py - share * v[1]) +
                (1 - w) * seen(p.b, px + (1 - share) * v[0], py + (1 - share) * v[1]);
      }
      code *= 0.5F;
      if (t[x] > 0) code += ((1 - share) * there_a + share * there_b - code) * t[x];
      code *= scale;
      for (int c = 0; c < 3; ++c) o[3 * x + c] = code[c] * code[c];
    }
  }
  return out;
}

double Between::blended_share(double share_of_way) const {
  const auto share = static_cast<float>(share_of_way);
  cv::Mat first = carried(parts_->there, parts_->grey_a, parts_->grey_b, share, 1);
  cv::Mat second = carried(parts_->back, parts_->grey_b, parts_->grey_a, 1 - share, -1);
  fill(first);
  fill(second);
  return cv::mean(parts_->torn(first, second, share))[0];
}

}  // namespace askcount::motion
