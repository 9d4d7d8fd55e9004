// SPDX-License-Identifier: GPL-3.0-or-later
// What keys do: pressed, let go, and told on the page of keys.
#pragma once

#include <functional>
#include <QKeyEvent>
#include <QKeySequence>
#include <vector>

namespace askcount::app {

/// The keys of a stage or of the window. What is told of them is what is pressed: both come from here.
class Keys {
 public:
  struct Deed {
    Qt::Key key;
    Qt::KeyboardModifiers with;  ///< Shift or Ctrl
    QString words;               ///< empty for another key to the deed before it
    std::function<void()> press;
    std::function<void()> let_go;  ///< what is held only while it is pressed
    bool repeats = true;           ///< again and again while it is held down

    /// As it is written on keyboards: "Shift+N".
    QString name() const { return QKeySequence(with | key).toString(QKeySequence::NativeText); }
  };

  void add(Qt::Key key, const QString& words, std::function<void()> press, Qt::KeyboardModifiers with = {}) {
    deeds_.push_back({key, with, words, std::move(press), {}, true});
  }
  /// A key that does something only while it is held.
  void add_held(Qt::Key key, const QString& words, std::function<void()> press,
                std::function<void()> let_go) {
    deeds_.push_back({key, {}, words, std::move(press), std::move(let_go), false});
  }
  /// A key that does its deed once, however long it is held down.
  void add_once(Qt::Key key, const QString& words, std::function<void()> press) {
    deeds_.push_back({key, {}, words, std::move(press), {}, false});
  }

  /// Does what the key is for; false where it is for nothing here. Where Shift has no deed of its own, the
  /// key alone is meant; with Ctrl or Alt only what was said so.
  bool pressed(const QKeyEvent& event) const;
  bool released(const QKeyEvent& event) const;

  const std::vector<Deed>& deeds() const { return deeds_; }

 private:
  const Deed* deed_for(const QKeyEvent& event) const;
  std::vector<Deed> deeds_;
};

/// A widget with keys of its own while it has the focus. The page of keys finds them by this.
class Keyed {
 public:
  virtual ~Keyed() = default;
  const Keys& keys() const { return keys_; }

 protected:
  Keys keys_;
};

}  // namespace askcount::app
