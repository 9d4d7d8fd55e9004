// SPDX-License-Identifier: GPL-3.0-or-later
// What every stage of the window has.
#pragma once

#include <map>
#include <optional>
#include <QKeyEvent>
#include <QLabel>
#include <QWidget>
#include <vector>

#include "advice/by_stage.h"
#include "app/session/session.h"
#include "app/widgets/keys.h"
#include "base/finding.h"

namespace askcount::app {

class PicturePlace;

/// What a stage says while there is nothing for it to work on, with the presses that help.
struct EmptyNote {
  enum class Way { AskForClip, OpenFolder, TryDemo, ToAsk, ToShoot, ToGather };
  struct Press {
    Way way;
    QString label, words;
    bool operator==(const Press&) const = default;
  };
  QString title, text;
  std::vector<Press> presses;
  QString asks = {};  ///< examples of what may be typed there; empty for no line to type in
  bool operator==(const EmptyNote&) const = default;
};

/// Of a stage that needs a plan, and why; and of one that needs frames, with another way to them.
EmptyNote no_plan(const QString& why);
EmptyNote no_frames(const QString& why, const EmptyNote::Press& other);

/// A view of the work area. Holds layout and wiring; what it shows is worked out by the core and lies in the
/// session.
class Stage : public QWidget {
  Q_OBJECT
 public:
  Stage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {}

  /// A stage fills what the window gives it: the stages that are not seen need not be laid out to know how
  /// tall one is.
  bool hasHeightForWidth() const override { return false; }

  /// A few words with a figure each, shown above the findings; `why` where the figure is missing.
  struct Fact {
    QString words, figure, why;
    bool operator==(const Fact&) const = default;
  };
  using Facts = std::vector<Fact>;
  virtual Facts facts() const { return {}; }
  /// What to do where there is nothing to work on yet; nothing otherwise.
  virtual std::optional<EmptyNote> empty() const { return {}; }
  /// The findings shown beside it, and the words above them.
  virtual Findings findings() const = 0;
  virtual QString findings_title() const = 0;
  /// Titles of parts of these findings(): before which of them each stands.
  virtual std::map<size_t, QString> headings(const Findings&) const { return {}; }
  /// Whether what is fine may stand behind one line.
  virtual bool folds_fine() const { return true; }
  /// The left words of the foot.
  virtual QString foot() const { return {}; }
  /// True once what the next stage needs is there.
  virtual bool done() const = 0;
  /// Where its picture stands that can fill the screen, and a line that goes below it then; null where it has
  /// none.
  virtual PicturePlace* picture() { return nullptr; }
  virtual QString picture_words() const { return {}; }
  /// Space was pressed.
  virtual void play() {}
  /// What its keys do.
  virtual const Keys& keys() const { return keys_; }
  /// A key that no control wanted; true where the stage did something with it.
  virtual bool key(QKeyEvent* event) { return keys().pressed(*event); }
  /// One was let go; likewise.
  virtual bool key_released(QKeyEvent* event) { return keys().released(*event); }
  /// Called when the stage comes to the front.
  virtual void entered() {}

 signals:
  void findings_changed();  ///< findings() says something else, though nothing in the session changed
  void foot_changed();      ///< foot() says something else, though nothing in the session changed

 protected:
  /// What the document has worked out of the plan already, so that findings need not do it again. Its
  /// pointers hold until the take changes.
  advice::Known known_plan() const;

  Session& session_;
  Keys keys_;
};

/// A heading of a part of a stage.
QLabel* make_heading(const QString& words, QWidget* parent);

}  // namespace askcount::app
