// SPDX-License-Identifier: GPL-3.0-or-later
// A finding's shape: a tick, a triangle, a cross or a ring, so that colour alone never tells.
#pragma once

#include <QPainter>

#include "base/finding.h"

namespace askcount::app {

/// Draws it, 13 by 18 pixels, from `at` on; antialiased.
void draw_mark(QPainter& p, Severity severity, const QPointF& at);

}  // namespace askcount::app
