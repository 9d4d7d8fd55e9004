// The core's pictures as Qt's.
#pragma once

#include <QImage>

#include "image/pixels.h"

namespace askcount::app {

/// A copy.
QImage image_of(const image::Coded8& picture);

}  // namespace askcount::app
