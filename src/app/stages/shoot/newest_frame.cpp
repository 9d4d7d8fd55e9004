// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/shoot/newest_frame.h"

#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/stages/stage.h"
#include "app/style/text.h"

namespace askcount::app {
namespace {

constexpr int kWidth = 480;

/// A file that just landed: its metadata need not be read to show it.
media::Frame landed_frame(const std::filesystem::path& file) {
  media::Exposure exposure;
  exposure.compressed = file;
  return media::Frame(std::move(exposure));
}

}  // namespace

NewestFrame::NewestFrame(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(4);
  heading_ = make_heading({}, this);
  picture_ = new PictureView(this);
  histogram_ = new Histogram(this);
  histogram_->setObjectName("histogram");
  rows->addWidget(heading_);
  rows->addWidget(picture_, 1);
  rows->addWidget(histogram_);
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.frames, &Frames::changed)
      .on(session.playhead, &Playhead::moved)
      .on(session.run, &Run::changed)
      .on(session.run, &Run::shot_landed)
      .on(pictures_, &FramePictures::ready);
}

std::optional<media::Frame> NewestFrame::newest() const {
  if (session_.run.active()) {
    if (!session_.run.landed()) return {};
    return landed_frame(session_.run.landed()->file);
  }
  const media::Frames frames = session_.frames.list();
  if (frames->empty()) return {};
  return (*frames)[static_cast<size_t>(session_.playhead.at())];
}

void NewestFrame::refresh() {
  const bool active = session_.run.active();
  heading_->setText(active                       ? say_q("Newest frame")
                    : session_.frames.gathered() ? say_q("The frame looked at")
                                                 : say_q("The camera"));
  const auto frame = newest();
  const bool shown = frame && frame->file().extension() != ".DNG";
  const QImage image = shown ? pictures_.picture(*frame, kWidth) : QImage();
  picture_->set(image, frame ? ""
                       : active && !session_.run.state().standin
                           ? say_q("A real camera keeps its pictures to itself.")
                           : say_q("Nothing has been shot yet."));
  if (!image.isNull() || !frame) histogram_->set(image);
}

}  // namespace askcount::app
