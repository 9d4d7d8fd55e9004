// SPDX-License-Identifier: GPL-3.0-or-later
// What a look does to colours: the light that is taken for white, the cast, and how far colours are from
// grey.
#pragma once

#include <array>
#include <optional>

#include "look/look.h"

namespace askcount::look {

/// Linear BT.709 red, green and blue times a matrix, rows first.
using Matrix = std::array<std::array<double, 3>, 3>;
inline constexpr Matrix kIdentity = {{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}};

/// a · b.
Matrix times(const Matrix& a, const Matrix& b);
using Triple = std::array<double, 3>;
Triple times(const Matrix& a, const Triple& v);

/// Chromaticity of a black body of `kelvin`, 1,667 to 25,000. Source: Kim et al., US patent 7024034 (2006),
/// the cubic fits in common use.
std::array<double, 2> white_xy(double kelvin);

/// The matrix for a light of `kelvin` to be white in a picture made for a light of `made_for_k`: Bradford's
/// adaptation (Lam 1985), luminance of grey kept.
Matrix adaptation(double kelvin, double made_for_k);

/// All the look says of colours in one matrix, in pictures that were made for `as_shot_k`. Luminance of grey
/// is kept.
Matrix colour_matrix(const Look& look, double as_shot_k);

/// A look's warmth and cast that make this linear colour grey, in pictures made for `as_shot_k`. Nothing
/// where no warmth from 2,000 to 15,000 K and no cast of up to a stop does (a colour, not a grey).
struct PickedWhite {
  double warmth_k = 0, cast = 0;
};
std::optional<PickedWhite> pick_white(const std::array<double, 3>& rgb, double as_shot_k);

}  // namespace askcount::look
