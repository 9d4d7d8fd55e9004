// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/frames.h"

#include <memory>

#include "app/style/text.h"
#include "base/error.h"
#include "forecast/gather.h"

namespace askcount::app {

Frames::Frames(Document& document, Job& job, QObject* parent)
    : QObject(parent), document_(document), job_(job) {
  connect(&document, &Document::changed, this, &Frames::after_edit);
  connect(&job, &Job::ended, this, [this] {
    if (waiting_ && !job_.running()) gather_when_free();
  });
}

media::Frames Frames::list() const {
  static const media::Frames none = media::frames_of({});
  return gathered_ ? gathered_->frames : none;
}

std::vector<std::filesystem::path> Frames::cards() const {
  std::vector<std::filesystem::path> list;
  if (document_.card().empty()) return list;
  list.push_back(document_.card());
  for (const std::string& more : document_.take().gather.more_cards) list.push_back(document_.beside(more));
  return list;
}

void Frames::gather_when_free() {
  waiting_ = job_.running();
  if (!waiting_) gather();
}

void Frames::after_edit() {
  const Key key = now();
  if (!gathered_) {
    // The same cards again, as by undo of a change of them: they are read again.
    if (!key.cards.empty() && made_from_ == key) gather_when_free();
    return;
  }
  if (made_from_ != key) {
    const bool same_cards = made_from_.generation == key.generation && made_from_.cards == key.cards;
    let_go();
    if (same_cards) gather_when_free();
    return;
  }
  if (decided_ != document_.take().gather || planned_ != planned()) decide();
}

namespace {

bool same_pictures(const std::vector<media::Frame>& a, const std::vector<media::Frame>& b) {
  const auto same = [](const media::Exposure& x, const media::Exposure& y) {
    return x.raw == y.raw && x.compressed == y.compressed && x.trouble == y.trouble &&
           x.info.captured == y.info.captured;
  };
  return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                    [&](const media::Frame& x, const media::Frame& y) {
                      return x.set_aside == y.set_aside && x.blend == y.blend && x.middle == y.middle &&
                             std::equal(x.exposures.begin(), x.exposures.end(), y.exposures.begin(),
                                        y.exposures.end(), same);
                    });
}

}  // namespace

Frames::Planned Frames::planned() const {
  const ingest::Ask ask = forecast::gather_ask(document_.take(), {});
  return {ask.interval_s, ask.frames, ask.days, ask.start};
}

void Frames::decide() {
  const ingest::Ask ask = forecast::gather_ask(document_.take(), cards());
  decided_ = document_.take().gather;
  planned_ = planned();
  const media::Frames before = gathered_ ? gathered_->frames : nullptr;
  try {
    gathered_ = ingest::decided(*found_, ask);
  } catch (const Error&) {  // a take that is not there any more: the one that fits
    ingest::Ask any = ask;
    any.choose.reset();
    any.join.clear();
    gathered_ = ingest::decided(*found_, any);
  }
  // The same frames are not looked at and measured again.
  if (before && same_pictures(*before, *gathered_->frames)) gathered_->frames = before;
  emit changed();
}

void Frames::gather() {
  const Key key = now();
  if (key.cards.empty()) return;
  const auto found = std::make_shared<ingest::Found>();
  job_.start({say_q("Reading the card"),
              [found, key, take = document_.take()](const Work& work) {
                ingest::Ask ask = forecast::gather_ask(take, key.cards);
                forecast::read_films(take, ask);
                *found = ingest::find(ask, work);
              },
              [this, found, key] {
                found_ = std::move(*found);
                made_from_ = key;
                decide();
              },
              [this, key] { return key == now(); }});
}

void Frames::forget() {
  made_from_ = {};
  waiting_ = false;
  let_go();
}

void Frames::let_go() {
  if (!gathered_) return;
  gathered_.reset();
  found_.reset();
  emit changed();
}

}  // namespace askcount::app

#include "moc_frames.cpp"
