// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/keys.h"

#include <algorithm>

namespace askcount::app {

const Keys::Deed* Keys::deed_for(const QKeyEvent& event) const {
  const Qt::KeyboardModifiers said =
      event.modifiers() & (Qt::ShiftModifier | Qt::ControlModifier | Qt::AltModifier);
  const auto find = [&](Qt::KeyboardModifiers with) {
    const auto at = std::find_if(deeds_.begin(), deeds_.end(),
                                 [&](const Deed& d) { return d.key == event.key() && d.with == with; });
    return at == deeds_.end() ? nullptr : &*at;
  };
  if (const Deed* exact = find(said)) return exact;
  return said == Qt::ShiftModifier ? find({}) : nullptr;
}

bool Keys::pressed(const QKeyEvent& event) const {
  const Deed* deed = deed_for(event);
  if (!deed) return false;
  if (deed->repeats || !event.isAutoRepeat()) deed->press();
  return true;
}

bool Keys::released(const QKeyEvent& event) const {
  if (event.isAutoRepeat()) return false;
  const auto held = std::find_if(deeds_.begin(), deeds_.end(),
                                 [&](const Deed& d) { return d.key == event.key() && d.let_go; });
  if (held == deeds_.end()) return false;
  held->let_go();
  return true;
}

}  // namespace askcount::app
