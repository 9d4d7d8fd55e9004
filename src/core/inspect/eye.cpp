// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/eye.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "image/tone.h"

namespace askcount::inspect {
namespace {

constexpr int kPartPixels = 24;    // middle-sized pixels along a part
constexpr float kDarkFloor = 8;    // codes: below this brightness is noise
constexpr int kWhite = 253;        // codes from here on are white
constexpr int kFewestPixels = 96;  // along the shorter side, to measure movement

void brightness(const cv::Mat& grey, Measures& m) {
  std::array<std::uint32_t, 256> count{};
  const int every = grey.rows > 800 ? 2 : 1;  // rows of a large picture tell the same
  for (int y = 0; y < grey.rows; y += every) {
    const std::uint8_t* row = grey.ptr<std::uint8_t>(y);
    for (int x = 0; x < grey.cols; ++x) ++count[row[x]];
  }
  double light = 0, code = 0, white = 0;
  for (size_t c = 0; c < count.size(); ++c) {
    light += count[c] * static_cast<double>(image::linear_of_code()[c]);
    code += count[c] * static_cast<double>(c);
    if (c >= kWhite) white += count[c];
  }
  const double pixels = static_cast<double>((grey.rows + every - 1) / every) * grey.cols;
  m.stops = static_cast<float>(std::log2(std::max(1e-6, light / pixels)));
  m.code = static_cast<float>(code / pixels);
  m.clipped = static_cast<float>(white / pixels);
}

/// Energy of the Laplacian within each part: the finest detail. And how far its strongest stand out.
Parts fine_detail(const cv::Mat& grey, float& points) {
  Parts energy{};
  std::array<std::uint32_t, 1024> count{};
  for (int part = 0; part < kParts; ++part) {
    const int px = part % kPartsAcross, py = part / kPartsAcross;
    const int x0 = std::max(1, grey.cols * px / kPartsAcross),
              x1 = std::min(grey.cols - 1, grey.cols * (px + 1) / kPartsAcross);
    const int y0 = std::max(1, grey.rows * py / kPartsDown),
              y1 = std::min(grey.rows - 1, grey.rows * (py + 1) / kPartsDown);
    double sum = 0, pixels = 0;
    const int every = grey.rows > 800 ? 2 : 1;  // rows of a large picture tell the same
    for (int y = y0; y < y1; y += every) {
      const std::uint8_t *up = grey.ptr<std::uint8_t>(y - 1), *row = grey.ptr<std::uint8_t>(y),
                         *down = grey.ptr<std::uint8_t>(y + 1);
      std::uint32_t line = 0;  // 1,020² over the quarter of a row fits
      for (int x = x0; x < x1; ++x) {
        const int v = 4 * row[x] - row[x - 1] - row[x + 1] - up[x] - down[x];
        line += static_cast<std::uint32_t>(v * v);
      }
      sum += static_cast<double>(line);
      pixels += x1 - x0;
      if (y % 4 != 0) continue;
      for (int x = x0; x < x1; ++x)
        ++count[static_cast<size_t>(std::abs(4 * row[x] - row[x - 1] - row[x + 1] - up[x] - down[x])) & 1023];
    }
    energy[static_cast<size_t>(part)] = static_cast<float>(sum / std::max(1.0, pixels));
  }
  std::uint64_t all = 0, seen = 0;
  for (const std::uint32_t n : count) all += n;
  int usual = -1, strongest = -1;
  for (size_t v = 0; v < count.size(); ++v) {
    seen += count[v];
    if (usual < 0 && seen * 2 >= all) usual = static_cast<int>(v);
    if (strongest < 0 && seen * 10000 >= all * 9998) strongest = static_cast<int>(v);
  }
  points = static_cast<float>(std::log2((strongest + 1.0) / (usual + 1.0)));
  return energy;
}

/// Fine detail from the picture itself, the rest from one that was made smaller.
void detail(const cv::Mat& grey, const cv::Mat& smaller, Measures& m) {
  const Parts fine = fine_detail(grey, m.points);
  cv::Mat middle;
  cv::resize(smaller, middle, {kPartsAcross * kPartPixels, kPartsDown * kPartPixels}, 0, 0, cv::INTER_AREA);
  cv::Scalar mean, deviation;
  cv::meanStdDev(middle, mean, deviation);
  m.spread = static_cast<float>(deviation[0]);
  for (int part = 0; part < kParts; ++part) {
    const cv::Rect at(part % kPartsAcross * kPartPixels, part / kPartsAcross * kPartPixels, kPartPixels,
                      kPartPixels);
    cv::meanStdDev(middle(at), mean, deviation);
    const double bright = (mean[0] + kDarkFloor) * (mean[0] + kDarkFloor);
    const auto i = static_cast<size_t>(part);
    m.light[i] = std::log2(std::max(1e-4F, image::linear_of_code_value(static_cast<float>(mean[0] / 255))));
    m.coarse[i] = static_cast<float>(std::log2(deviation[0] * deviation[0] / bright + 1e-6));
    m.fine[i] = static_cast<float>(std::log2(static_cast<double>(fine[i]) / bright + 1e-6));
  }
}

std::vector<std::uint8_t> small_of(const cv::Mat& grey) {
  cv::Mat small;
  cv::resize(grey, small, {Seen::kSmallAcross, Seen::kSmallDown}, 0, 0, cv::INTER_AREA);
  static const auto table = [] {
    std::array<std::uint8_t, 256> t{};
    for (size_t c = 0; c < t.size(); ++c)
      t[c] = static_cast<std::uint8_t>(std::lround(40 * (std::log2(static_cast<double>(c) + 4) - 2)));
    return t;
  }();
  std::vector<std::uint8_t> out(small.total());
  for (size_t i = 0; i < out.size(); ++i) out[i] = table[small.data[i]];
  return out;
}

/// The lower half of the frequencies of a windowed picture: those that its noise does not own.
cv::Mat low_spectrum(cv::Mat window, const cv::Mat& hann) {
  cv::multiply(window, hann, window);
  cv::Mat all;
  cv::dft(window, all, cv::DFT_COMPLEX_OUTPUT);
  const int n = all.rows / 2, h = n / 2, far = all.rows - h;
  cv::Mat low(n, n, CV_32FC2);
  all(cv::Rect(0, 0, h, h)).copyTo(low(cv::Rect(0, 0, h, h)));
  all(cv::Rect(far, 0, h, h)).copyTo(low(cv::Rect(h, 0, h, h)));
  all(cv::Rect(0, far, h, h)).copyTo(low(cv::Rect(0, h, h, h)));
  all(cv::Rect(far, far, h, h)).copyTo(low(cv::Rect(h, h, h, h)));
  return low;
}

Windows windows_of(const cv::Mat& picture, int full_width) {
  Windows w;
  w.size = picture.size();
  w.scale = picture.cols > 0 ? static_cast<double>(full_width) / picture.cols : 1;
  const int shorter = std::min(picture.cols, picture.rows);
  if (shorter < kFewestPixels) return w;
  w.side = shorter >= 380 ? 96 : shorter >= 190 ? 64 : 32;
  const int across = std::min(8, picture.cols / w.side), down = std::min(5, picture.rows / w.side);
  cv::Mat hann;
  cv::createHanningWindow(hann, {w.side, w.side}, CV_32F);
  for (int j = 0; j < down; ++j)
    for (int i = 0; i < across; ++i) {
      const auto at = [](int n, int of, int room) { return of > 1 ? n * room / (of - 1) : room / 2; };
      const cv::Rect where(at(i, across, picture.cols - w.side), at(j, down, picture.rows - w.side), w.side,
                           w.side);
      cv::Mat window;
      picture(where).convertTo(window, CV_32F);
      cv::Scalar mean, deviation;
      cv::meanStdDev(window, mean, deviation);
      window -= mean;
      w.middle.emplace_back(static_cast<float>(where.x) + static_cast<float>(w.side) / 2,
                            static_cast<float>(where.y) + static_cast<float>(w.side) / 2);
      w.spectrum.push_back(low_spectrum(window, hann));
      const bool white = cv::countNonZero(picture(where) >= kWhite) * 2 > w.side * w.side;
      w.texture.push_back(white ? 0 : static_cast<float>(deviation[0]));
    }
  cv::Mat all;
  cv::resize(picture, all, {Windows::kWhole, Windows::kWhole}, 0, 0, cv::INTER_AREA);
  all.convertTo(all, CV_32F);
  all -= cv::mean(all);
  cv::createHanningWindow(hann, all.size(), CV_32F);
  w.whole = low_spectrum(all, hann);
  return w;
}

}  // namespace

Seen see(const image::Grey8& picture, int full_width) {
  const cv::Mat grey(picture.size.height, picture.size.width, CV_8UC1,
                     const_cast<std::uint8_t*>(picture.luma.data()));
  cv::Mat smaller = grey;
  // By a whole number: that is quick.
  if (const int by = static_cast<int>(std::lround(static_cast<double>(grey.cols) / kStillWidth)); by > 1)
    cv::resize(grey(cv::Rect(0, 0, grey.cols / by * by, std::max(1, grey.rows / by) * by)), smaller,
               {grey.cols / by, std::max(1, grey.rows / by)}, 0, 0, cv::INTER_AREA);
  Seen seen;
  brightness(grey, seen.measures);
  detail(grey, smaller, seen.measures);
  seen.small = small_of(smaller);
  seen.windows = std::make_shared<const Windows>(windows_of(smaller, full_width));
  return seen;
}

}  // namespace askcount::inspect
