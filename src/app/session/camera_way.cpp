// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/camera_way.h"

#include <numeric>

#include "app/style/text.h"

namespace askcount::app {

CameraWay::CameraWay(Frames& frames, Optics& optics, QObject* parent)
    : QObject(parent), frames_(frames), optics_(optics) {
  connect(&frames, &Frames::changed, this, &CameraWay::follow);
  connect(&optics, &Optics::changed, this, &CameraWay::follow);
  connect(&job_, &Job::progressed, this, &CameraWay::progressed);
  connect(&job_, &Job::ended, this, [this](const QString& words, bool cancelled) {
    if (!words.isEmpty() && !cancelled) emit trouble(words);
    emit changed();
  });
}

void CameraWay::follow() {
  if (of_ == frames_.list() && through_ == optics_.source()) return;
  job_.disown();
  of_.reset();
  looked_at_ = 0;
  if (!path_) return;
  path_.reset();
  emit changed();
}

void CameraWay::want(int film_width) {
  const int width = motion::width_looked_at(film_width);
  if (!frames_.gathered() || (of_ == frames_.list() && looked_at_ >= width && (path_ || measuring()))) return;
  job_.disown();
  of_ = frames_.list();
  through_ = optics_.source();
  looked_at_ = width;
  const auto found = std::make_shared<std::vector<motion::Pose>>();
  job_.start({say_q("Measuring the camera's movement"),
              [found, frames = of_, source = through_, film_width](const Work& work) {
                std::vector<size_t> all(frames->size());
                std::iota(all.begin(), all.end(), size_t{0});
                *found = motion::measure_path(frames, all, *source, film_width, work);
              },
              [this, found] { path_ = std::move(*found); }, [this, of = of_] { return of == of_; }});
}

}  // namespace askcount::app

#include "moc_camera_way.cpp"
