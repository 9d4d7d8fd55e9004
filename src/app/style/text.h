// The core's words as Qt's.
#pragma once

#include <QRegularExpression>
#include <QString>
#include <string>

namespace askcount::app {

inline QString to_q(const std::string& text) {
  return QString::fromStdString(text);
}

/// Words whose numbers stay with their units where a line breaks.
inline QString tied(QString words) {
  static const QRegularExpression unit(
      "(?<=\\d) (?=(?:s|min|h|d|fps|px|mm|m|cm|GB|MB|W|%|°C|stops?|frames?|shots?)\\b|%)");
  return words.replace(unit, QString(QChar(0x00A0)));
}

}  // namespace askcount::app
