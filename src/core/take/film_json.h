// SPDX-License-Identifier: GPL-3.0-or-later
// A film's wish as a part of the take's JSON.
#pragma once

#include "base/fields.h"
#include "take/film_wish.h"

namespace askcount::take {

/// Names every field of a film once, for writing and for reading; see Fields.
void visit(Fields& f, FilmWish& film);

}  // namespace askcount::take
