// SPDX-License-Identifier: GPL-3.0-or-later
// The findings in a line at the foot: how many things are fine, and the worst that is not.
#pragma once

#include <QAbstractButton>

#include "base/finding.h"

namespace askcount::app {

/// Pressed, it opens the column of findings or shuts it. Not there where nothing was found.
class FindingsTally : public QAbstractButton {
  Q_OBJECT
 public:
  explicit FindingsTally(QWidget* parent);
  void show_findings(const Findings& findings);
  QSize sizeHint() const override;
  QSize minimumSizeHint() const override { return {60, 20}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  int count_width() const;

  long fine_ = 0;
  Finding worst_;
  bool has_worst_ = false;
};

}  // namespace askcount::app
