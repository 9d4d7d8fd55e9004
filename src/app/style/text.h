// SPDX-License-Identifier: GPL-3.0-or-later
// The core's words as Qt's.
#pragma once

#include <QRegularExpression>
#include <QString>
#include <string>
#include <utility>

#include "base/language.h"

#include "base/language.h"

namespace askcount::app {

inline QString to_q(const std::string& text) {
  return QString::fromStdString(text);
}

/// An English text of the source in the language spoken, as say(); with values in its places, likewise.
inline QString say_q(const char* english) {
  return to_q(say(english));
}
template <typename First, typename... Rest>
QString say_q(fmt::format_string<First, Rest...> english, First&& first, Rest&&... rest) {
  return to_q(say(english, std::forward<First>(first), std::forward<Rest>(rest)...));
}

/// Whether a person typed one of the window's words, whole and in any case: in the language spoken, or in
/// English, which every window understands.
inline bool meant(const QString& typed, const char* english) {
  const QString word = typed.trimmed();
  return word.compare(say_q(english), Qt::CaseInsensitive) == 0 ||
         word.compare(QString::fromUtf8(english).section('|', 0, 0), Qt::CaseInsensitive) == 0;
}
inline bool meant(const std::string& typed, const char* english) {
  return meant(to_q(typed), english);
}

/// A number of things in words, as counted().
template <typename Number>
QString counted_q(Number n, const char* one, const char* many) {
  return to_q(counted(static_cast<long long>(n), one, many));
}

/// Words whose numbers stay with their units where a line breaks.
inline QString tied(QString words) {
  static const QRegularExpression unit(
      "(?<=\\d) (?=(?:s|min|h|d|fps|px|mm|m|cm|GB|MB|W|%|°C|stops?|frames?|shots?)\\b|%)");
  return words.replace(unit, QString(QChar(0x00A0)));
}

}  // namespace askcount::app
