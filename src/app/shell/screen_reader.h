// SPDX-License-Identifier: GPL-3.0-or-later
// What screen readers are told of the widgets that draw themselves.
#pragma once

namespace askcount::app {

/// Gives every widget of ours a role and a value, from then on: slots are texts that can be edited, the bar
/// of stages is a list of tabs, what is drawn is a graphic. Their names are their accessibleName(). To be
/// called once, before the window is made; calling it again does nothing.
void tell_screen_readers();

}  // namespace askcount::app
