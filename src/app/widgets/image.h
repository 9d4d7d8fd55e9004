// SPDX-License-Identifier: GPL-3.0-or-later
// The core's pictures as Qt's.
#pragma once

#include <QImage>

#include "image/pixels.h"

namespace askcount::app {

/// A copy.
QImage image_of(const image::Coded8& picture);

/// And back; a copy too.
image::Coded8 coded_of(const QImage& picture);

}  // namespace askcount::app
