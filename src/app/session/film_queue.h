// SPDX-License-Identifier: GPL-3.0-or-later
// Films on their way: made one after the other beside the window, whatever is open in it meanwhile.
#pragma once

#include <filesystem>
#include <memory>
#include <QObject>
#include <QString>
#include <vector>

#include "app/session/job.h"
#include "films/finish.h"
#include "render/render.h"
#include "take/take.h"

namespace askcount::app {

/// Films of one take that are made from one reading of its frames. A copy of all that they are made from:
/// nothing that is changed later changes them.
struct FilmBatch {
  std::uint64_t generation = 0;  ///< of the document, to know the take again while it is open
  take::Take take;
  std::filesystem::path folder;  ///< where the take's file lies
  std::filesystem::path file;    ///< that file; where the take is kept, before it has one
  media::Frames frames;
  std::vector<std::string> names;      ///< of its films, as the take has them
  std::vector<take::FilmWish> wishes;  ///< the same films
  std::vector<render::FilmOrder> orders;
  Findings about;  ///< what else is to be known of them: that the take ended early
};

/// What came of one film.
struct FilmMade {
  std::filesystem::path file;
  render::FilmOutcome outcome;
  films::Finished finished;
};

/// Batches wait their turn. Pausing holds the one at work after the frame at hand; its files are written
/// under other names until they are whole, so that what ends early leaves nothing behind.
class FilmQueue : public QObject {
  Q_OBJECT
 public:
  explicit FilmQueue(QObject* parent = nullptr);
  ~FilmQueue() override;

  struct Entry {
    int id = 0;
    QString title;   ///< "Boats on the flood tide, 2 films"
    QString folder;  ///< where they will lie
  };
  /// Puts a batch last; it begins at once where nothing else is at work.
  int add(FilmBatch batch);
  /// Takes a batch out; the one at work stops.
  void cancel(int id);
  /// Puts a waiting batch before the one before it; the one at work stays first.
  void earlier(int id);
  void set_paused(bool paused);
  bool paused() const;
  /// Whether the work has come to the pause and stands still.
  bool held() const;

  /// The one at work first, then those that wait.
  const std::vector<Entry>& entries() const { return entries_; }
  bool working() const { return !entries_.empty(); }
  /// The batch at work; null where there is none.
  const FilmBatch* at_work() const { return batches_.empty() ? nullptr : batches_.front().get(); }
  const Job& job() const { return job_; }

 signals:
  void changed();     ///< entries() or paused()
  void progressed();  ///< job() of the one at work
  /// The films of a batch are there, in the order of its names.
  void made(std::shared_ptr<const FilmBatch> batch, std::vector<FilmMade> films);
  void trouble(QString words);

 private:
  /// Where the work waits while it is paused.
  class Gate;
  void next();

  Job job_;
  std::shared_ptr<Gate> gate_;
  std::vector<Entry> entries_;
  std::vector<std::shared_ptr<const FilmBatch>> batches_;  // of the entries
  int last_id_ = 0;
};

}  // namespace askcount::app
