// SPDX-License-Identifier: GPL-3.0-or-later
// Ten test frames judged against the plan before the take begins.
#pragma once

#include <optional>
#include <QGridLayout>
#include <QLabel>
#include <QWidget>

#include "app/session/job.h"
#include "app/session/session.h"
#include "app/widgets/press_button.h"
#include "forecast/tried.h"

namespace askcount::app {

/// Reads the newest frames of a card that is chosen or dropped here, and says "start" or what to change. What
/// was learnt goes to the take's kit, as one step that can be undone.
class TryPane : public QWidget {
  Q_OBJECT
 public:
  TryPane(Session& session, QWidget* parent);

  /// Judges the newest frames on a card; changed() tells when it is done.
  void try_card(const std::filesystem::path& card);
  /// What the last frames said of the open take; nothing where none were tried.
  const std::optional<forecast::Tried>& tried() const { return tried_; }

 signals:
  void changed();

 protected:
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  void refresh();
  void learn();

  Session& session_;
  Job job_;
  std::optional<forecast::Tried> tried_;
  std::uint64_t take_ = 0;  // which one they were tried for
  QString said_;
  QLabel *verdict_, *words_;
  PressButton* choose_;
  QGridLayout* grid_;
};

}  // namespace askcount::app
