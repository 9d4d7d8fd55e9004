// SPDX-License-Identifier: GPL-3.0-or-later
// The few settings of the window, in one file of the person's data folder.
#pragma once

#include <string>

#include "base/json.h"

namespace askcount::app {

/// All that was chosen, by name; an empty object where nothing was, or where the file is damaged.
Json settings();

/// The word that was chosen for one; empty where nothing was, or what is there is no word.
std::string chosen_word(const std::string& name);

/// Keeps one, beside the others, for this and the next starts. Throws Error where it cannot be written.
void keep_setting(const std::string& name, const Json& value);

}  // namespace askcount::app
