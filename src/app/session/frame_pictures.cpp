// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/frame_pictures.h"

#include <algorithm>
#include <cmath>

#include "app/widgets/image.h"
#include "base/error.h"
#include "image/tone.h"
#include "media/frame_source.h"
#include "render/drawing.h"

namespace askcount::app {
namespace {

constexpr int kPicturesKib = 160 << 10, kMostPicturesWaiting = 120;

QImage unreadable() {
  QImage image(1, 1, QImage::Format_RGB888);
  image.fill(QColor(40, 40, 40));
  return image;
}

QImage drawn(const std::function<image::Coded8()>& draw) {
  try {
    return image_of(draw());
  } catch (const Error&) {
    return unreadable();
  }
}

QString name_of(const media::Frame& frame) {
  return QString::fromStdString(frame.file().string());
}

}  // namespace

FramePictures::FramePictures(QObject* parent)
    : QObject(parent),
      images_(
          this, kPicturesKib, kMostPicturesWaiting,
          [](const QImage& image) { return static_cast<int>(image.sizeInBytes() >> 10); },
          [this] { emit ready(); }) {}

QImage FramePictures::wanted(const QString& key, const std::function<QImage()>& read) {
  const QImage* image = images_.wanted(key, read);
  return image ? *image : QImage();
}

QImage FramePictures::picture(const media::Frame& frame, int width) {
  return wanted(QString("%1|%2").arg(name_of(frame)).arg(width), [frame, width] {
    return drawn([&] { return render::preview(media::any_source(), frame, {}, {width, width}); });
  });
}

QImage FramePictures::pixels(const media::Frame& frame, const QSize& room, const QPointF& around) {
  // By fortieths: every pixel the pointer moves would be a picture of its own.
  const QPointF at(std::round(around.x() * 40) / 40, std::round(around.y() * 40) / 40);
  const QString key = QString("%1|pixels|%2x%3|%4,%5")
                          .arg(name_of(frame))
                          .arg(room.width())
                          .arg(room.height())
                          .arg(at.x())
                          .arg(at.y());
  return wanted(key, [frame, room, at] {
    return drawn([&] {
      const image::Size full = image::upright(frame.info().size, frame.info().orientation);
      image::RectF part;
      part.width = std::min(1.0, static_cast<double>(room.width()) / std::max(1, full.width));
      part.height = std::min(1.0, static_cast<double>(room.height()) / std::max(1, full.height));
      part.x = std::clamp(at.x() - part.width / 2, 0.0, 1 - part.width);
      part.y = std::clamp(at.y() - part.height / 2, 0.0, 1 - part.height);
      const media::Shown shown = media::any_source().preview(
          frame,
          {{static_cast<int>(part.width * full.width), static_cast<int>(part.height * full.height)}, part});
      const image::Coded8 whole = image::coded(shown.picture);
      const image::Rect at = image::whole_pixels(shown.part, whole.size);
      image::Coded8 cut(image::Size{at.width, at.height});
      for (int y = 0; y < at.height; ++y)
        std::copy_n(whole.row(at.y + y) + static_cast<std::ptrdiff_t>(at.x) * 3,
                    static_cast<std::size_t>(at.width) * 3, cut.row(y));
      return cut;
    });
  });
}

QImage FramePictures::thumbnail(const media::Frame& frame) {
  return wanted(name_of(frame),
                [frame] { return drawn([&] { return image::coded(media::any_source().small(frame)); }); });
}

}  // namespace askcount::app

#include "moc_frame_pictures.cpp"
