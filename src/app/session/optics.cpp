// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/optics.h"

#include "app/style/text.h"
#include "optics/find.h"

namespace askcount::app {

Optics::Optics(Document& document, Frames& frames, Job& job, QObject* parent)
    : QObject(parent),
      document_(document),
      frames_(frames),
      job_(job),
      source_(std::make_shared<optics::MendedSource>(optics::Mending{})) {
  connect(&document, &Document::changed, this, &Optics::follow);
  connect(&frames, &Frames::changed, this, &Optics::follow);
  connect(&making_, &Job::ended, this, [this](const QString& words, bool) {
    if (!words.isEmpty()) emit trouble(words);
  });
}

Optics::Key Optics::now() const {
  return {frames_.list(), document_.take().optics, document_.file().parent_path()};
}

void Optics::follow() {
  const Key key = now();
  if (key == making_from_) return;
  making_from_ = key;
  making_.disown();
  struct Made {
    optics::Mending mending;
    std::optional<optics::LensRecord> known;
  };
  const auto made = std::make_shared<Made>();
  const bool same_dark = key.wish.dark_frame == made_from_.wish.dark_frame && key.folder == made_from_.folder;
  making_.start({say_q("Reading what the lens does"),
                 [made, key, dark = same_dark ? dark_ : nullptr](const Work&) {
                   const media::ShotInfo shot = optics::shot_of(key.frames);
                   if (key.frames) made->known = optics::LensRecords::installed().find(shot, key.wish.lens);
                   optics::Wish wish = key.wish;
                   if (dark) wish.dark_frame.clear();
                   if (!key.frames) wish = {};  // nothing to undo
                   made->mending = optics::mending_of(wish, shot, key.folder);
                   if (dark) made->mending.sensor.dark = dark;
                 },
                 [this, made, key] {
                   dark_ = made->mending.sensor.dark;
                   known_ = std::move(made->known);
                   // Where nothing is undone, before and now, what was read of frames still holds.
                   if (!made->mending.none() || !source_->none())
                     source_ = std::make_shared<optics::MendedSource>(std::move(made->mending));
                   made_from_ = key;
                   emit changed();
                 },
                 [this, key] { return key == now(); }});
}

void Optics::find() {
  if (!frames_.gathered()) return;
  const auto found = std::make_shared<optics::Found>();
  job_.start({say_q("Looking for dust and hot pixels"),
              [found, frames = frames_.list()](const Work& work) { *found = optics::find(frames, work); },
              [this, found] { document_.edit([&](take::Take& t) { optics::put(t.optics, *found); }); },
              [this, frames = frames_.list()] { return frames == frames_.list(); }});
}

}  // namespace askcount::app

#include "moc_optics.cpp"
