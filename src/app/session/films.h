// SPDX-License-Identifier: GPL-3.0-or-later
// The take's films: which is looked at, what is wished of it, made, found again, and known by what is in it.
#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <QObject>

#include "app/session/camera_way.h"
#include "app/session/document.h"
#include "app/session/film_queue.h"
#include "app/session/frames.h"
#include "app/session/levelling.h"
#include "media/reader.h"
#include "render/render.h"
#include "render/timeline.h"

namespace askcount::app {

/// A take has one film or several; one of them is looked at. What is in a film that was made with other
/// settings is still its film (what differs is a finding); one of another take is not.
class Films : public QObject {
  Q_OBJECT
 public:
  Films(Document& document, Frames& frames, Levelling& levelling, CameraWay& way, QObject* parent = nullptr);

  /// How many films the take has, the first of them its own, and which is looked at, from 0.
  int count() const;
  int at() const { return at_; }
  void choose(int film);
  /// What the take wishes of the film that is looked at.
  const take::FilmWish& wish() const { return wish_of(at_); }
  const take::FilmWish& wish_of(int film) const;
  /// The same of a take being edited.
  take::FilmWish& wish_in(take::Take& take) const;
  /// Changes it as one step that can be undone; see Document::edit.
  void edit(const std::function<void(take::FilmWish&)>& change, const QString& drag = {});
  /// Sets the view, held within the frame, or the speed at a moment of the film, as one step that can be
  /// undone for each `drag`. One alone holds for all of it. Throws as render::check_views() and
  /// render::check_choice(); nothing is changed then.
  void set_view(double at_s, const render::View& view, const QString& drag = {});
  void set_speed(double at_s, double times, const QString& drag = {});
  /// Half of the time from one frame of the film to the next: anchors nearer than that are one.
  double tolerance_s() const;
  /// Another film like the one looked at, with a name of its own; it is looked at then. And one less.
  void add();
  void remove();
  /// Calls the film looked at something else; its file is called so. Not the take's own, which is called as
  /// the take. trouble() where the name cannot be a file's, or another film has it.
  void rename(const QString& name);

  /// Nothing where there is no film yet.
  const std::optional<media::FilmFacts>& film() const { return shown().facts; }
  /// Where it is; the name it is to have where there is none yet. A film of that name that Ask Count did not
  /// make is left alone: the take's is then beside it.
  std::filesystem::path file() const;
  /// How the film goes through the frames that were gathered; nothing where there are none, or the take
  /// wishes for what is not there.
  const std::optional<render::Timeline>& timeline() const;
  /// The take's frame (from 0) that a frame of that film shows, and the film's frame that shows one of the
  /// take's, or comes nearest.
  long long take_frame(long long film_frame) const;
  long long film_frame(long long take_frame) const;
  /// What its making found out; nothing where it was made before.
  const std::optional<render::FilmOutcome>& outcome() const { return shown().outcome; }
  /// What it was found to be when it was opened again; likewise.
  const std::optional<films::Finished>& finished() const { return shown().finished; }
  /// Where frames of the take are missing.
  std::vector<render::Gap> gaps() const;
  /// Grows with every film: one that was made again is another.
  int number() const { return number_; }

  /// The size of the take's upright frames; 3 × 2 where none says one.
  image::Size frame_size() const;
  /// What one of the take's films is made by. Throws as films::film_order().
  render::FilmOrder order_of(int film) const;
  /// Has all films of the take made from one reading, as it wishes them now: they are put into the queue.
  /// changed() tells when they are there. Nothing happens without frames.
  void make();
  /// One picture of all frames of the film looked at, with its view and look, beside it: where each place was
  /// brightest where its trails stay, their mean otherwise. told() says where it is. Nothing happens while
  /// other work goes on.
  void make_still(Job& job);
  /// Whether films of the open take are made or wait for it.
  bool making() const;

  FilmQueue queue;

 signals:
  void changed();  ///< what is there, or which is looked at
  void trouble(QString words);
  void told(QString words);

 private:
  void make_folder() const;
  struct Shown {
    std::filesystem::path file;
    std::optional<media::FilmFacts> facts;
    std::optional<render::FilmOutcome> outcome;
    std::optional<films::Finished> finished;
  };
  std::filesystem::path wished_file(int film) const;
  const Shown& shown() const;
  void follow();
  void look();

  Document& document_;
  Frames& frames_;
  Levelling& levelling_;
  CameraWay& way_;
  Job reading_;  // films that are there already
  int at_ = 0, number_ = 0;
  std::map<std::string, Shown> shown_;  // by name
  struct Gone {
    take::FilmWish wish;
    media::Frames frames;
    std::optional<FrameRate> fps;
    bool operator==(const Gone&) const = default;
  };
  mutable std::optional<Gone> gone_through_;  // what timeline_ is of
  mutable std::optional<render::Timeline> timeline_;
};

}  // namespace askcount::app
