// SPDX-License-Identifier: GPL-3.0-or-later
// The view: the part of the frame that a film shows, and how it moves over film time.
#pragma once

#include <vector>

#include "image/affine.h"
#include "image/pixels.h"

namespace askcount::render {

/// A part of the frame of the film's shape. Never squashed: its height follows from its width.
struct View {
  double x = 0.5, y = 0.5;  ///< its middle, as shares of the frame
  double width = 1;         ///< as a share of the frame's width
  double turn_deg = 0;      ///< clockwise
  bool operator==(const View&) const = default;
};

/// A view the film has at one moment of it.
struct ViewAnchor {
  double at_s = 0;  ///< film time
  View view;
  bool operator==(const ViewAnchor&) const = default;
};

/// The largest view of a film's shape, in the middle.
View whole_view(image::Size frame, image::Size film);

/// The view at a moment of the film: eased from anchor to anchor, its width on the scale on which twice and
/// half are as far apart (a steady zoom). The largest one where there are no anchors.
View view_at(const std::vector<ViewAnchor>& anchors, double film_s, image::Size frame, image::Size film);

/// Takes places of the film, in its pixels, to places of the frame, in its own.
image::Affine film_to_frame(const View& view, image::Size frame, image::Size film);

/// The smallest upright part of the frame (shares) that holds all of the view.
image::RectF part_of(const View& view, image::Size frame, image::Size film);

/// Whether all of the view lies in the frame, but for a thousandth of its width.
bool lies_within(const View& view, image::Size frame, image::Size film);

/// The same view moved and made narrower as far as it takes to lie in the frame.
View held_within(View view, image::Size frame, image::Size film);

/// Throws BadInput naming the anchor where a view is not in the frame, or not at every moment between two
/// anchors; where times do not rise; and for widths below a hundredth of the frame.
void check_views(const std::vector<ViewAnchor>& anchors, image::Size frame, image::Size film);

/// How many of the frame's own pixels lie under one of the film's: below 1 the film is softer than it could
/// be.
double density(const View& view, image::Size frame, image::Size film);

}  // namespace askcount::render
