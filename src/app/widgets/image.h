// The core's pictures as Qt's.
#pragma once

#include <QImage>

#include "picture/pixels.h"

namespace askcount::app {

/// A copy.
QImage image_of(const picture::Picture8& picture);

}  // namespace askcount::app
