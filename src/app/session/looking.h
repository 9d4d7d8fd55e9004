// SPDX-License-Identifier: GPL-3.0-or-later
// Every frame of the take looked at, beside the window.
#pragma once

#include <QObject>
#include <string>
#include <unordered_map>
#include <vector>

#include "app/session/document.h"
#include "app/session/frames.h"
#include "app/session/job.h"
#include "inspect/lanes.h"
#include "inspect/look.h"

namespace askcount::app {

/// Looks at the gathered frames as soon as they are there, on a thread of its own: what is known is shown at
/// once. What was kept beside the take is taken from there; frames that were looked at are never looked at
/// again only because others went or came.
class Looking : public QObject {
  Q_OBJECT
 public:
  Looking(Document& document, Frames& frames, QObject* parent = nullptr);

  /// Begins, unless the look is there or under way. Called by whoever shows it.
  void start();
  bool running() const { return job_.running(); }
  /// Frames that are through, of all.
  std::size_t known() const { return known_; }
  bool complete() const { return known_ > 0 && known_ == look_.frames.size(); }
  const inspect::Look& look() const { return look_; }
  /// What is wrong with them, without what the person has found fine; those of the beat before the rest.
  const std::vector<inspect::Fault>& faults() const { return faults_; }
  const std::vector<inspect::Lane>& lanes() const { return lanes_; }
  /// Why it could not be done; empty where it could.
  QString trouble() const { return trouble_; }

 signals:
  void changed();

 private:
  /// What is known of the frames.
  struct Known {
    inspect::Look look;
    std::size_t frames = 0;  ///< that are through
    std::vector<inspect::Fault> faults;
  };
  void frames_changed();
  void forget();
  void take_over(const media::Frames& of, Known known);
  void filter();

  Document& document_;
  Frames& frames_;
  media::Frames of_;  // the frames the look is of
  inspect::Look look_;
  std::size_t known_ = 0;
  std::unordered_map<std::string, inspect::Measures>
      seen_;                                               // every frame that was ever looked at, by its file
  std::unordered_map<std::string, std::string> troubles_;  // and why one could not be
  std::vector<inspect::Fault> all_faults_, faults_;
  std::vector<std::string> fine_;
  std::vector<inspect::Lane> lanes_;
  QString trouble_;
  Job job_;  // last: it uses the rest
};

}  // namespace askcount::app
