// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/view.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "render/timeline.h"

namespace askcount::render {
namespace {

constexpr double kNarrowest = 0.01, kSlack = 0.001;

double between(double a, double b, double share) {
  return a + (b - a) * share;
}

}  // namespace

View whole_view(image::Size frame, image::Size film) {
  const image::RectF part = image::part_of_shape(frame, film);
  return {part.x + part.width / 2, part.y + part.height / 2, part.width, 0};
}

View view_at(const std::vector<ViewAnchor>& anchors, double film_s, image::Size frame, image::Size film) {
  if (anchors.empty()) return whole_view(frame, film);
  const auto after =
      std::find_if(anchors.begin(), anchors.end(), [film_s](const ViewAnchor& a) { return a.at_s > film_s; });
  if (after == anchors.begin()) return after->view;
  const ViewAnchor& before = *(after - 1);
  if (after == anchors.end()) return before.view;
  const double share = eased((film_s - before.at_s) / (after->at_s - before.at_s));
  const View &a = before.view, &b = after->view;
  View v;
  v.width = a.width * std::pow(b.width / a.width, share);
  v.turn_deg = between(a.turn_deg, b.turn_deg, share);
  // The middle goes with the width, so that a zoom heads straight for where it ends.
  const double along = std::abs(b.width - a.width) > 1e-9 ? (v.width - a.width) / (b.width - a.width) : share;
  v.x = between(a.x, b.x, along);
  v.y = between(a.y, b.y, along);
  return v;
}

image::Affine film_to_frame(const View& view, image::Size frame, image::Size film) {
  const double scale = view.width * frame.width / film.width;
  const image::Affine middle = image::Affine::shifted(-film.width / 2.0, -film.height / 2.0);
  const image::Affine larger = image::Affine::scaled(scale, scale).after(middle);
  const image::Affine turned =
      view.turn_deg == 0 ? larger : image::Affine::turned(view.turn_deg, 0, 0).after(larger);
  return image::Affine::shifted(view.x * frame.width, view.y * frame.height).after(turned);
}

image::RectF part_of(const View& view, image::Size frame, image::Size film) {
  const image::Affine map = film_to_frame(view, frame, film);
  double left = 1e9, right = -1e9, above = 1e9, below = -1e9;
  for (const auto& corner : std::array<std::array<int, 2>, 4>{
           {{0, 0}, {film.width, 0}, {0, film.height}, {film.width, film.height}}}) {
    const auto [x, y] = map(corner[0], corner[1]);
    left = std::min(left, x), right = std::max(right, x);
    above = std::min(above, y), below = std::max(below, y);
  }
  return {left / frame.width, above / frame.height, (right - left) / frame.width,
          (below - above) / frame.height};
}

bool lies_within(const View& view, image::Size frame, image::Size film) {
  const image::RectF p = part_of(view, frame, film);
  return p.x >= -kSlack && p.y >= -kSlack && p.x + p.width <= 1 + kSlack && p.y + p.height <= 1 + kSlack;
}

View held_within(View view, image::Size frame, image::Size film) {
  view.width = std::max(view.width, kNarrowest);
  const image::RectF p = part_of(view, frame, film);
  const double too_large = std::max(p.width, p.height);
  if (too_large > 1) view.width /= too_large;
  const image::RectF q = part_of(view, frame, film);
  view.x = std::clamp(view.x, q.width / 2, 1 - q.width / 2);
  view.y = std::clamp(view.y, q.height / 2, 1 - q.height / 2);
  return view;
}

void check_views(const std::vector<ViewAnchor>& anchors, image::Size frame, image::Size film) {
  for (size_t n = 0; n < anchors.size(); ++n) {
    const ViewAnchor& a = anchors[n];
    const std::string at = say("The view at {} s of the film", format_number(a.at_s, 2));
    if (!(a.at_s >= 0))
      throw bad_input(say("A view is set before the film begins."), say("Its time is 0 or more."));
    if (n > 0 && !(a.at_s > anchors[n - 1].at_s))
      throw bad_input(at + say(" is not later than the one before it."),
                      say("Each needs a time of its own, rising."));
    if (!(a.view.width >= kNarrowest))
      throw bad_input(say("{} is {} of the frame wide.", at, format_number(a.view.width, 4)),
                      say("Use a hundredth or more."));
    if (lies_within(a.view, frame, film)) continue;
    const View held = held_within(a.view, frame, film);
    throw bad_input(
        at + say(" reaches outside the frame."),
        say("The nearest that does not is {},{},{}{}.", format_number(held.x, 4), format_number(held.y, 4),
            format_number(held.width, 4), held.turn_deg != 0 ? "," + format_number(held.turn_deg, 2) : ""));
  }
  for (size_t n = 1; n < anchors.size(); ++n)
    for (int part = 1; part < 16; ++part) {
      const double at = between(anchors[n - 1].at_s, anchors[n].at_s, part / 16.0);
      if (!lies_within(view_at(anchors, at, frame, film), frame, film))
        throw bad_input(say("On its way from {} to {} s the view reaches outside the frame.",
                            format_number(anchors[n - 1].at_s, 2), format_number(anchors[n].at_s, 2)),
                        say("Make it narrower at one of them, or turn it less."));
    }
}

double density(const View& view, image::Size frame, image::Size film) {
  return view.width * frame.width / film.width;
}

}  // namespace askcount::render
