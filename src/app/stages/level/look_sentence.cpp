// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/level/look_sentence.h"

#include <algorithm>

#include "app/stages/slot_wiring.h"
#include "app/style/text.h"
#include "base/error.h"

namespace askcount::app {

LookSentence::LookSentence(Session& session, LookLanes& lanes, QWidget* parent)
    : Sentence(parent, 10.5), session_(session), lanes_(lanes) {
  setObjectName("look values");
  for (int lane = 0; lane < static_cast<int>(look::kLanes); ++lane) {
    const look::Lane& l = look::lanes()[static_cast<size_t>(lane)];
    begin_phrase(say_q(l.title));
    add(say_q(l.title));
    slots_[static_cast<size_t>(lane)] = add_slot(say_q(l.title));
    add_break();
    end_phrase([this, value = l.value, neutral = l.neutral] {
      session_.document.edit([&](take::Take& t) {
        for (look::Anchor& a : t.look.anchors) a.look.*value = neutral;
      });
    });
    wire_value(lane);
  }
  connect(this, &Sentence::phrases_changed, this, [this] {
    std::vector<int> shown;
    for (int lane = 0; lane < static_cast<int>(look::kLanes); ++lane)
      if (has_phrase(lane)) shown.push_back(lane);
    lanes_.show_lanes(shown);
    setVisible(!shown.empty());
  });
  connect(this, &Sentence::phrase_added, this, [this](int lane) { lanes_.choose(lane); });
  hide();  // nothing is said yet
  refresh_when_seen(parent, [this] { show_look(); })
      .on(session.levelling, &Levelling::looks_changed)
      .on(session.playhead, &Playhead::moved)
      .on(session.frames, &Frames::changed);
}

void LookSentence::wire_value(int lane) {
  SlotField* slot = slots_[static_cast<size_t>(lane)];
  connect(slot, &SlotField::committed, this, [this, lane](const QString& text) {
    try {
      lanes_.change(lane, typed_value(look::lanes()[static_cast<size_t>(lane)], text));
      complain({});
    } catch (const Error& e) {
      complain(QString::fromUtf8(e.what()));
    }
  });
  connect(slot, &SlotField::nudged, this,
          [this, lane](int steps) { lanes_.step(lane, steps, QString("look slot %1").arg(lane)); });
}

void LookSentence::show_look() {
  const look::Looks& looks = session_.levelling.looks();
  const look::Look here = look::look_at(looks, static_cast<double>(session_.playhead.at()));
  for (size_t lane = 0; lane < look::kLanes; ++lane) {
    const look::Lane& l = look::lanes()[lane];
    const double value = here.*l.value;
    slots_[lane]->set(lane_value(l, value, looks.as_shot_k), SlotField::Kind::Plain,
                      value == l.neutral ? QString(" ") : to_q(format_number(value, l.digits)));
    set_said(static_cast<int>(lane),
             std::any_of(looks.anchors.begin(), looks.anchors.end(),
                         [&](const look::Anchor& a) { return a.look.*l.value != l.neutral; }));
  }
  reflow();
}

}  // namespace askcount::app

#include "moc_look_sentence.cpp"
