// The take's film: made, found again, and known by what is really in it.
#pragma once

#include <filesystem>
#include <optional>
#include <QObject>

#include "app/session/document.h"
#include "app/session/frames.h"
#include "app/session/job.h"
#include "app/session/levelling.h"
#include "cut/timeline.h"
#include "film/reader.h"
#include "render/render.h"

namespace askcount::app {

/// What is in the film of the open take. One that was made with other settings is still its film (what
/// differs is a finding); one of another take is not.
class Films : public QObject {
  Q_OBJECT
 public:
  Films(Document& document, Frames& frames, Levelling& levelling, Job& job, QObject* parent = nullptr);

  /// Nothing where there is no film.
  const std::optional<film::FilmFacts>& film() const { return film_; }
  /// Where it is; the name it is to have where there is none yet. A film of that name that Ask Count did not
  /// make is left alone: the take's is then beside it.
  const std::filesystem::path& file() const { return file_; }
  /// How the film that the take wishes goes through the frames that were gathered; nothing where there are
  /// none, or the take wishes for what is not there.
  std::optional<cut::Timeline> timeline() const;
  /// The take's frame (from 0) that a frame of that film shows, and the film's frame that shows one of the
  /// take's, or comes nearest.
  long long take_frame(long long film_frame) const;
  long long film_frame(long long take_frame) const;
  /// Frames of it that neighbours stand in for; 0 where it was made before.
  long long stood_in() const { return stood_in_; }
  /// What its making found out; nothing where it was made before.
  const std::optional<render::FilmOutcome>& outcome() const { return outcome_; }
  /// Grows with every film: one that was made again is another.
  int number() const { return number_; }
  /// Makes the film as the take wishes it; changed() tells when it is there. Nothing happens without frames,
  /// or while other work goes on. The work ends where the take comes to wish for another film meanwhile.
  void make();
  /// Whether make() is at work.
  bool making() const { return job_.running() && job_.doing() == doing(); }

 signals:
  void changed();
  void trouble(QString words);

 private:
  /// What a film is made from.
  struct Key {
    std::uint64_t generation = 0;
    std::filesystem::path file;
    source::Frames frames;
    take::FilmWish wish;
    FrameRate fps;
    bool operator==(const Key&) const = default;
  };
  static QString doing() { return "Making the clip"; }
  Key now() const;
  void look();
  struct Made {
    std::filesystem::path file;
    film::FilmFacts facts;
    long long stood_in = 0;
    std::optional<render::FilmOutcome> outcome;
  };
  void put(const Made& made);

  Document& document_;
  Frames& frames_;
  Levelling& levelling_;
  Job& job_;
  Job reading_;  // a film that is there already
  std::filesystem::path file_;
  std::optional<film::FilmFacts> film_;
  long long stood_in_ = 0;
  std::optional<render::FilmOutcome> outcome_;
  int number_ = 0;
};

}  // namespace askcount::app
