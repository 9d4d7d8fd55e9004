// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/darkroom.h"

#include <algorithm>
#include <cmath>

#include "app/widgets/image.h"
#include "base/error.h"
#include "render/drawing.h"

namespace askcount::app {
namespace {

constexpr int kCacheKib = 160 << 10;
constexpr int kMostWaiting = 40;

int kib_of(const media::Shown& shown) {
  const image::Size size = image::size_of(shown.picture);
  const int bytes = std::holds_alternative<image::Linear32>(shown.picture) ? 12 : 3;
  return std::max(1, size.width * size.height / 1024 * bytes);
}

}  // namespace

Darkroom::Darkroom(QObject* parent)
    : QObject(parent),
      frames_(
          this, kCacheKib, kMostWaiting, [](const Read& shown) { return shown ? kib_of(*shown) : 1; },
          [this] { emit ready(); }) {}

void Darkroom::read_through(std::shared_ptr<const media::FrameSource> source) {
  if (source == source_) return;
  source_ = std::move(source);
  forget();
}

const Darkroom::Read* Darkroom::read(const media::Frame& frame, const render::FramePlan& plan, int width) {
  const image::Size film = plan.film.width > 0 ? plan.film : image::Size{width, width};
  const image::Size wanted = {
      width, std::max(1, static_cast<int>(std::lround(width / std::max(0.05, film.shape()))))};
  const QString key = QString("%1|%2x%3|%4|%5")
                          .arg(QString::fromStdString(frame.file().string()))
                          .arg(wanted.width)
                          .arg(wanted.height)
                          .arg(plan.part.x + 2 * plan.part.y)
                          .arg(frame.blends() ? static_cast<int>(frame.blend) : 0);
  return frames_.wanted(key, [frame, wanted, part = plan.part, source = source_]() -> Read {
    try {
      return std::make_shared<const media::Shown>(
          (source ? *source : media::any_source()).read(frame, {wanted, part}));
    } catch (const std::exception&) {
      return nullptr;  // shown as a dark pixel; Gather says why
    }
  });
}

QImage Darkroom::developed(const media::Frame& frame, const render::FramePlan& plan, int width) {
  const Read* there = read(frame, plan, width);
  if (!there) return {};
  if (!*there) {
    QImage dark(1, 1, QImage::Format_RGB888);
    dark.fill(QColor(40, 40, 40));
    return dark;
  }
  return image_of(render::developed(**there, plan, {width, width}));
}

std::optional<std::array<double, 3>> Darkroom::light_at(const media::Frame& frame,
                                                        const render::FramePlan& plan, int width,
                                                        const QPointF& place) {
  const Read* there = read(frame, plan, width);
  if (!there || !*there) return {};
  const image::Size size = image::size_of((*there)->picture);
  const image::RectF& part = (*there)->part;
  constexpr double kAround = 0.01;  // of the width, to either side
  const double x = part.x + place.x() * part.width, y = part.y + place.y() * part.height;
  const double reach = std::max(1.0, kAround * part.width);
  const image::Luminance l = image::measure_luminance(
      (*there)->picture,
      image::whole_pixels({std::clamp(x - reach, 0.0, size.width - 1.0),
                           std::clamp(y - reach, 0.0, size.height - 1.0), 2 * reach, 2 * reach},
                          size));
  return l.mean_colour();
}

}  // namespace askcount::app

#include "moc_darkroom.cpp"
