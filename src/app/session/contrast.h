// SPDX-License-Identifier: GPL-3.0-or-later
// High contrast: as the desktop asks for it, or as the person chose in the window.
#pragma once

#include <QDBusConnection>

namespace askcount::app {

/// What was chosen in the menu.
enum class Contrast {
  AsDesktop,
  Normal,
  High  ///< words in black or white, lines that are seen, nothing pale
};

/// The choice that was kept; AsDesktop before there is one. keep_contrast() throws Error where it cannot be
/// written.
Contrast chosen_contrast();
void keep_contrast(Contrast contrast);

/// Whether the desktop asks for high contrast: by its settings portal (the setting "contrast" of
/// org.freedesktop.appearance), or, where it has none, by a palette that is black on white or white on black
/// to the last step. Waits half a second for an answer at most; false where there is none.
bool desktop_wants_contrast(QDBusConnection desktop);

/// The connection that is to be asked: the session's, where there is one.
QDBusConnection desktop_bus();

/// Whether the window is to be drawn in high contrast.
bool wants_contrast();

}  // namespace askcount::app
