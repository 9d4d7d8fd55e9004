#include "app/stages/stage.h"

#include "app/style/style.h"

namespace askcount::app {

QLabel* make_heading(const QString& text, QWidget* parent) {
  auto* label = new QLabel(text, parent);
  label->setFont(word_font(9.5, QFont::DemiBold));
  label->setForegroundRole(QPalette::PlaceholderText);
  return label;
}

EmptyNote no_plan(const QString& why) {
  return {"No plan yet",
          why,
          {{EmptyNote::Way::ToAsk, "Say what you want", "How long the clip is to be, and what moves."}}};
}

EmptyNote no_frames(const QString& why, const EmptyNote::Press& other) {
  return {"No frames yet",
          why,
          {{EmptyNote::Way::OpenFolder, "Open a card or a folder of frames", "They are read, not changed."},
           other}};
}

}  // namespace askcount::app
