// SPDX-License-Identifier: GPL-3.0-or-later
// The slots for where and when, as Ask and Light both have them.
#pragma once

#include "app/session/session.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

/// A slot for the place: one of those known by name, or coordinates as they are pasted; a new name for one
/// that has coordinates. The arrows go through the known places.
void wire_place(Session& session, Sentence* sentence, SlotField* slot);
void show_place(const take::Take& take, SlotField* slot);

/// A moment as people type it: a day as the language writes it (or 2026-10-09) and a time, a day alone (its
/// noon), a time alone (on the day of `near`), or 2026-10-09T17:50; by the clocks of `zone`. Throws BadInput.
Instant read_start(const QString& typed, Instant near, const std::string& zone);
/// A moment as read_start() reads it.
QString shown_moment(Instant at, const std::string& zone);

/// A place as people say it: one that is known by name, or coordinates (its zone is empty then); otherwise a
/// name alone, without either.
sky::Place place_like(const std::string& text);

/// A slot for day and time of the first shot, "2026-10-09 17:50", or a time alone. The arrows step it by a
/// minute.
void wire_start(Session& session, Sentence* sentence, SlotField* slot);
void show_start(const take::Take& take, SlotField* slot);

}  // namespace askcount::app
