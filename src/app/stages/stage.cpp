#include "app/stages/stage.h"

#include "app/style/style.h"

namespace askcount::app {

QLabel* make_heading(const QString& text, QWidget* parent) {
  auto* label = new QLabel(text, parent);
  label->setFont(word_font(9.5, QFont::DemiBold));
  label->setForegroundRole(QPalette::PlaceholderText);
  return label;
}

}  // namespace askcount::app
