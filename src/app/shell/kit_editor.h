// SPDX-License-Identifier: GPL-3.0-or-later
// The kit: what is owned, edited list by list, brought in and taken out as a file.
#pragma once

#include <QDialog>
#include <QGridLayout>
#include <QLabel>
#include <QListWidget>
#include <QScrollArea>

#include "app/session/session.h"
#include "app/shell/kit_ask.h"

namespace askcount::app {

/// Every change goes through plan::kit_from_json and so is checked; what is refused is said and changes
/// nothing.
class KitEditor : public QDialog {
  Q_OBJECT
 public:
  KitEditor(Session& session, QWidget* parent);

 protected:
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

 private:
  void refresh();
  void show_entry();
  void change(const std::function<void(Json&)>& edit);
  void add();
  void remove();
  void use_first();
  void import_file();
  void export_file();
  void tell(const QString& words, bool bad);
  Json kit() const;
  void add_field(const QString& key, const Json& value, const std::vector<std::string>& path, int row);

  Session& session_;
  KitAsk* ask_;
  QListWidget *lists_, *entries_;
  QScrollArea* scroll_;
  QLabel* said_;
  bool filling_ = false;
};

}  // namespace askcount::app
