// SPDX-License-Identifier: GPL-3.0-or-later
// What lens and sensor did to the open take's frames, made ready to be undone.
#pragma once

#include <memory>
#include <optional>
#include <QObject>

#include "app/session/document.h"
#include "app/session/frames.h"
#include "app/session/job.h"
#include "optics/mended_source.h"

namespace askcount::app {

/// Follows the take. Records and dark frames are read beside the window; until that is through, what was
/// ready before stands.
class Optics : public QObject {
  Q_OBJECT
 public:
  Optics(Document& document, Frames& frames, Job& job, QObject* parent = nullptr);

  /// Reads frames without what is to be undone. Another source where that has changed.
  const std::shared_ptr<const optics::MendedSource>& source() const { return source_; }
  /// What source() undoes.
  const optics::Wish& undone() const { return made_from_.wish; }
  /// The record of the take's lens; nothing where there is none, or before it was looked up.
  const std::optional<optics::LensRecord>& known() const { return known_; }
  /// Looks for dust and hot pixels over the take, as one edit. Nothing happens without frames, or while other
  /// work goes on.
  void find();

 signals:
  void changed();
  void trouble(QString words);

 private:
  struct Key {
    media::Frames frames;
    optics::Wish wish;
    std::filesystem::path folder;
    bool operator==(const Key&) const = default;
  };
  Key now() const;
  void follow();

  Document& document_;
  Frames& frames_;
  Job& job_;
  Job making_;
  Key made_from_, making_from_;
  std::shared_ptr<const media::DarkFrame> dark_;  ///< of made_from_
  std::shared_ptr<const optics::MendedSource> source_;
  std::optional<optics::LensRecord> known_;
};

}  // namespace askcount::app
