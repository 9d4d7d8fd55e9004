// SPDX-License-Identifier: GPL-3.0-or-later
// What is engraved on a camera's dials, and the exact thirds of a stop it stands for.
#pragma once

#include <string>

namespace askcount {

/// The exact third of a stop a marked shutter, f-number or ISO stands for (1/125 is 2^-7, f/5.6 is 2^2.5);
/// the value itself where it is not within a twelfth of a stop of a mark.
double exact_shutter(double marked_s);
double exact_f_number(double marked);
double exact_iso(double marked);

/// The marks dials carry for exact values: 1/125 for 2^-7, 5.6 for 2^2.5, 125 for 100 × 2^(1/3).
double marked_shutter(double exact_s);
double marked_f_number(double exact);
double marked_iso(double exact);

/// A shutter for the eye: by its mark where it is an exact third of a stop ("1/125 s"), as it is otherwise.
std::string dial_shutter_words(double seconds);

}  // namespace askcount
