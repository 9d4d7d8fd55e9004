// SPDX-License-Identifier: GPL-3.0-or-later
// Every take files itself: what the window comes to know of the open one goes into the book.
#pragma once

#include <optional>
#include <QObject>
#include <QTimer>

#include "app/session/book_keeper.h"
#include "app/session/films.h"
#include "app/session/looking.h"
#include "app/session/run.h"

namespace askcount::app {

/// The parts of a session that a Filer listens to, and the book it files in.
struct FilerParts {
  Document& document;
  Frames& frames;
  Looking& looking;
  Levelling& levelling;
  Films& films;
  Run& run;
  BookKeeper& book;
};

/// Listens to the parts of a session. What comes in quick succession is filed once. Takes that were never
/// saved are filed where they are kept, once they have frames.
class Filer : public QObject {
  Q_OBJECT
 public:
  explicit Filer(const FilerParts& parts);
  /// Files what still waits.
  ~Filer() override;

 private:
  void soon();
  void file_now();
  void after_saving();

  Document& document_;
  Frames& frames_;
  Looking& looking_;
  Levelling& levelling_;
  BookKeeper& book_;
  QTimer timer_;
  std::optional<Filing> waiting_;
  std::filesystem::path kept_;  // where the open take was filed while it had no file of its own
};

}  // namespace askcount::app
