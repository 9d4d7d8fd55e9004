// SPDX-License-Identifier: GPL-3.0-or-later
// The window walked through its stages by itself: for machines without a display, and for the pictures in the
// documents.
#pragma once

#include <filesystem>

#include "app/shell/window.h"

namespace askcount::app {

/// Goes through every stage, waits for its work, makes the clip, and writes one picture of the window a stage
/// and the clip into `out`. Quits the application with 0, or 1 where anything failed.
void walk_through(Window& window, const std::filesystem::path& out);

}  // namespace askcount::app
