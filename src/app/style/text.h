// The core's words as Qt's.
#pragma once

#include <QString>
#include <string>

namespace askcount::app {

inline QString to_q(const std::string& text) {
  return QString::fromStdString(text);
}

}  // namespace askcount::app
