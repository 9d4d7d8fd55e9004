// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/field.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace askcount::image {
namespace {

double cosine(int k, double share) {
  return std::cos(std::numbers::pi * k * share);
}

}  // namespace

bool Field::flat() const {
  return std::all_of(stops.begin(), stops.end(), [](float s) { return s == 0; });
}

double Field::term(int term, double x, double y) {
  return cosine(term % kAcross, x) * cosine(term / kAcross, y);
}

double Field::at(double x, double y) const {
  double sum = 0;
  for (int k = 0; k < kTerms; ++k) sum += static_cast<double>(stops[static_cast<size_t>(k)]) * term(k, x, y);
  return std::clamp(sum, -kMost, kMost);
}

FieldRows::FieldRows(const Field& field, int width, int height)
    : field_(field), width_(width), map_(Affine::scaled(1.0 / width, 1.0 / height)) {
  for (int k = 0; k < Field::kAcross; ++k)
    for (int node = 0; node < kNodes; ++node)
      across_[static_cast<size_t>(k)][static_cast<size_t>(node)] =
          static_cast<float>(cosine(k, static_cast<double>(node) / (kNodes - 1)));
}

FieldRows::FieldRows(const Field& field, int width, int height, const Affine& map)
    : FieldRows(field, width, height) {
  map_ = map;
  turned_ = !map.straight();
  for (int k = 0; k < Field::kAcross; ++k)
    for (int node = 0; node < kNodes; ++node)
      across_[static_cast<size_t>(k)][static_cast<size_t>(node)] =
          static_cast<float>(cosine(k, std::clamp(map(place_of(node), 0)[0], 0.0, 1.0)));
}

double FieldRows::place_of(int node) const {
  return static_cast<double>(node) / (kNodes - 1) * width_;
}

/// The stops of a node of row y where the field lies turned: the cosines one from another (Chebyshev).
float FieldRows::turned_stops(int node, int y) const {
  const auto [u, v] = map_(place_of(node), y + 0.5);
  const auto cosines = [](double share, auto& all) {
    const double c = cosine(1, std::clamp(share, 0.0, 1.0));
    all[0] = 1, all[1] = c;
    for (size_t k = 2; k < all.size(); ++k) all[k] = 2 * c * all[k - 1] - all[k - 2];
  };
  std::array<double, Field::kAcross> across{};
  std::array<double, Field::kDown> down{};
  cosines(u, across);
  cosines(v, down);
  double stops = 0;
  for (size_t j = 0; j < down.size(); ++j)
    for (size_t k = 0; k < across.size(); ++k)
      stops += static_cast<double>(field_.stops[j * across.size() + k]) * across[k] * down[j];
  return static_cast<float>(stops);
}

void FieldRows::row(int y, float* gains) const {
  const double share = std::clamp(map_(0, y + 0.5)[1], 0.0, 1.0);
  std::array<float, Field::kAcross> terms{};
  for (int down = 0; down < Field::kDown; ++down)
    for (int across = 0; across < Field::kAcross; ++across)
      terms[static_cast<size_t>(across)] +=
          field_.stops[static_cast<size_t>(down * Field::kAcross + across)] *
          static_cast<float>(cosine(down, share));
  std::array<float, kNodes> nodes{};
  for (size_t node = 0; node < kNodes; ++node) {
    float stops = 0;
    if (turned_)
      stops = turned_stops(static_cast<int>(node), y);
    else
      for (size_t k = 0; k < Field::kAcross; ++k) stops += terms[k] * across_[k][node];
    nodes[node] =
        std::exp2(std::clamp(stops, -static_cast<float>(Field::kMost), static_cast<float>(Field::kMost)));
  }
  // A straight line from node to node.
  const float scale = static_cast<float>(kNodes - 1) / static_cast<float>(width_);
  int x = 0;
  for (int node = 0; node + 1 < kNodes; ++node) {
    const int end =
        node + 2 == kNodes
            ? width_
            : std::min(width_, static_cast<int>(std::ceil(static_cast<float>(node + 1) / scale - 0.5F)));
    const float slope = (nodes[static_cast<size_t>(node) + 1] - nodes[static_cast<size_t>(node)]) * scale;
    const float start = nodes[static_cast<size_t>(node)] + slope * (0.5F - static_cast<float>(node) / scale);
    for (; x < end; ++x) gains[x] = start + slope * static_cast<float>(x);
  }
}

}  // namespace askcount::image
