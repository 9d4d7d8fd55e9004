// SPDX-License-Identifier: GPL-3.0-or-later
// When to shoot: windows of the day with their reasons, one press to take; the best nights of the coming
// month.
#pragma once

#include <QVBoxLayout>
#include <QWidget>

#include "advice/when.h"
#include "app/session/session.h"

namespace askcount::app {

class WhenPane : public QWidget {
 public:
  WhenPane(Session& session, QWidget* parent);

 private:
  void refresh();
  void show(const std::vector<advice::Suggestion>& windows, const std::vector<advice::Suggestion>& nights,
            const std::string& zone);
  void row(QVBoxLayout* into, const advice::Suggestion& suggestion, const QString& press);

  /// What the suggestions are made from.
  struct Key {
    sky::Place place;
    Day evening;
    Seconds field_s = 0;
    bool operator==(const Key&) const = default;
  };

  Session& session_;
  QVBoxLayout *windows_, *nights_;
  Key asked_;
  Job job_;
};

}  // namespace askcount::app
