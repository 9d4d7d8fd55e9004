// SPDX-License-Identifier: GPL-3.0-or-later
// The languages the window speaks: which there are, and which is spoken.
#pragma once

#include <QLocale>
#include <QStringList>

#include "base/instant.h"

namespace askcount::app {

/// The codes of the languages there are translations for, English first: "en", "de", "fr" and what else lies
/// as .qm in the program's resources, in share/ask-count/translations beside its bin, or in the folder
/// translations of the person's data. A language is added by a file there; no code knows its name.
QStringList languages();

/// The language that was chosen, or empty where the desktop's is followed.
QString chosen_language();
/// Keeps a choice (empty: as the desktop) for the next start. Throws Error where it cannot be written.
void choose_language(const QString& code);

/// Says everything in that language from now on, Qt's own texts too, and writes numbers as is usual for those
/// who speak it; `code` empty is the desktop's. A language nobody translated is English with that language's
/// numbers. To be called once the application is there and before any window is. Returns the code of what is
/// spoken.
QString speak_language(const QString& code);

/// A day as the language writes it, and as people type it: that way, or 2026-10-09. Before speak_language()
/// only the latter. read_day() throws BadInput as parse_day() does.
QString shown_day(const Day& day);
Day read_day(const QString& typed);

}  // namespace askcount::app
