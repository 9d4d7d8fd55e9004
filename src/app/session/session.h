// SPDX-License-Identifier: GPL-3.0-or-later
// Everything that is open in a window: the take, and what was made from it.
#pragma once

#include <QObject>

#include "app/session/book_keeper.h"
#include "app/session/camera_way.h"
#include "app/session/document.h"
#include "app/session/estimating.h"
#include "app/session/filer.h"
#include "app/session/films.h"
#include "app/session/frames.h"
#include "app/session/job.h"
#include "app/session/levelling.h"
#include "app/session/looking.h"
#include "app/session/optics.h"
#include "app/session/outlook_picture.h"
#include "app/session/playhead.h"
#include "app/session/preview.h"
#include "app/session/run.h"
#include "app/session/test_pictures.h"

namespace askcount::app {

/// How the stand-in shoots from the window.
struct ShootWish {
  double scale = 0;  ///< field seconds a real second; 0 as fast as it can, with a hand that follows the light
  bool limits = false;  ///< the kit's battery, card and buffer end
  std::vector<simulate::Fault> faults;
};

/// The parts, each with its own signal, and the few things that take several of them. What a part holds is of
/// the open take: when another is opened, or the take changes under a result, it goes.
class Session : public QObject {
  Q_OBJECT
 public:
  explicit Session(QObject* parent = nullptr);
  ~Session() override;

  /// Opens a take with its film and a shoot that was under way when the program ended; throws as
  /// take::load_take and leaves what was open as it was.
  void open(const std::filesystem::path& file);
  /// Begins a new take, which says nothing but the person's kit. What was open and has no file of its own is
  /// put aside, nothing is lost.
  void begin();
  /// The same with the demo's plan, and with a card or a folder of frames that are there already.
  void begin_demo();
  void begin_with(const std::filesystem::path& card);
  /// A new take from one that was filed: its place, framing and plan, at a time of `at`'s day; where
  /// `exactly` the first shot is at that moment. Throws as take::load_take.
  void begin_again(const std::filesystem::path& old, Instant at, bool exactly);
  /// Takes up the newest take that had no file when its session ended, however it ended, and that no other
  /// window has open; false where there is none. One that cannot be read is put aside, and trouble() says so.
  bool recover();

  /// Packs the saved take and all that belongs to it: a new folder, or an archive (.tar, .zip). told() or
  /// trouble() says how it went. Nothing happens while other work goes on.
  void pack(const std::filesystem::path& to);

  /// Two test pictures for the take, absolute or beside it.
  void choose_tests(const std::filesystem::path& first, const std::filesystem::path& second);
  /// Lays a picture taken at the place under the take's sky: its lens and aim by its own words, by the sun or
  /// moon in it, or by the camera. Throws Error where it cannot be read or does not say its focal length.
  void lay_under(const std::filesystem::path& file);
  /// Has the stand-in shoot the take onto its card.
  void shoot(const ShootWish& wish = {});
  /// Begins beside a real camera, whose timer is started at this moment: by the clock, after its delay, or at
  /// once.
  void accompany();

  Job job;  ///< the long work at hand
  Document document;
  Frames frames{document, job};
  Playhead playhead{document, frames};
  Looking looking{document, frames};
  Optics optics{document, frames, job};
  Levelling levelling{document, frames, optics, job};
  CameraWay way{frames, optics};
  Films films{document, frames, levelling, way};
  Preview preview{document, frames, optics, levelling, way, films};
  Estimating estimating{document, frames, films};
  TestPictures tests;
  OutlookPicture outlook;
  Run run;
  BookKeeper book;
  Filer filer{{document, frames, looking, levelling, films, run, book}};

 signals:
  void trouble(QString words);
  void told(QString words);  ///< something went well

 private:
  void put_aside_and_down(take::Take take);
  void put_down(take::Take take, const Document::Origin& origin);
  void load_pictures();
  /// Of frames that came without a plan, the film is as large as they fill.
  void size_film();
  RunPlan run_plan() const;
  /// Mistakes that came more than once in the book go on the checklist of a new take.
  void learn_from_others(take::Take& fresh) const;
  /// The kit's shutter count and file number go on after a shoot.
  void count_on();

  bool sizes_film_ = false;  // once the frames are gathered
};

}  // namespace askcount::app
