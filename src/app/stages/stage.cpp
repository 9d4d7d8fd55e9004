// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/stage.h"

#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {

QLabel* make_heading(const QString& text, QWidget* parent) {
  auto* label = new QLabel(text, parent);
  label->setFont(word_font(9.5, QFont::DemiBold));
  label->setForegroundRole(QPalette::PlaceholderText);
  return label;
}

advice::Known Stage::known_plan() const {
  advice::Known known;
  known.exposure = session_.document.exposure();
  known.ramp = session_.document.ramp();
  if (session_.document.sums()) known.forecast = &session_.document.forecast();
  return known;
}

EmptyNote no_plan(const QString& why) {
  return {say_q("No plan yet"),
          why,
          {{EmptyNote::Way::ToAsk, say_q("Say what you want"),
            say_q("How long the clip is to be, and what moves.")}}};
}

EmptyNote no_frames(const QString& why, const EmptyNote::Press& other) {
  return {say_q("No frames yet"),
          why,
          {{EmptyNote::Way::OpenFolder, say_q("Open a card or a folder of frames"),
            say_q("They are read, not changed.")},
           other}};
}

}  // namespace askcount::app

#include "moc_stage.cpp"
