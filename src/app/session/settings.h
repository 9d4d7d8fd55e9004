// The few settings of the window, in one file of the person's data folder.
#pragma once

#include <string>

#include "base/json.h"

namespace askcount::app {

/// All that was chosen, by name; an empty object where nothing was, or where the file is damaged.
Json settings();

/// Keeps one, beside the others, for this and the next starts. Throws Error where it cannot be written.
void keep_setting(const std::string& name, const Json& value);

}  // namespace askcount::app
