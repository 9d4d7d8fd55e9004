// SPDX-License-Identifier: GPL-3.0-or-later
// The column of findings: what Ask Count noticed, each with what fixes it.
#pragma once

#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>
#include <set>
#include <string>

#include "app/stages/stage.h"
#include "base/finding.h"

namespace askcount::app {

class PressLine;

class FindingsColumn : public QWidget {
  Q_OBJECT
 public:
  explicit FindingsColumn(QWidget* parent);
  /// What there is to say on a stage: its findings, titles of parts of them, and the figures above them.
  struct Said {
    QString title;
    Findings findings;
    std::map<size_t, QString> headings;
    bool folds_fine = true;
    Stage::Facts facts;
  };
  void show_findings(const Said& said);
  /// Shows the first of them again.
  void to_top();
  /// The cautions shown were read: from the next time on each is a line that unfolds.
  void mark_read();
  /// Whether there is something to see to, or to read for the first time; and whether something stops the
  /// take.
  bool wants_room() const;
  bool has_stop() const;
  static constexpr int kWidth = 292;

 signals:
  /// The action of a finding was pressed.
  void fix(askcount::Fix fix);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  void show_facts(const Stage::Facts& facts);
  QWidget* make_card(const Finding& finding, const QString& heading);
  QWidget* make_folded(const Finding& caution);
  QString heading_of(size_t index) const;
  /// Puts what is fine behind one line, or shows it.
  void fold();

  QLabel* title_;
  QScrollArea* scroll_;
  QWidget* list_;
  QVBoxLayout* rows_;
  Findings shown_;
  std::map<size_t, QString> headings_;
  bool folds_ = true;
  QWidget* table_ = nullptr;
  std::vector<std::pair<QLabel*, QLabel*>> fact_labels_;
  std::vector<QWidget*> cards_;  // one for each of shown_
  PressLine* fold_;              // "6 things are fine", before the first of them
  bool open_ = false;
  Stage::Facts facts_;
  std::set<std::string> read_;  // titles of cautions
};

}  // namespace askcount::app
