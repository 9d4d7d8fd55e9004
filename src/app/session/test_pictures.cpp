// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/test_pictures.h"

#include <algorithm>
#include <memory>

#include "app/style/text.h"
#include "app/widgets/image.h"
#include "base/error.h"

namespace askcount::app {

TestPictures::TestPictures(QObject* parent) : QObject(parent) {
  connect(&job_, &Job::ended, this, [this](const QString& words, bool) {
    if (!words.isEmpty()) emit trouble(words);
    emit changed();
  });
}

void TestPictures::load(const std::filesystem::path& first, const std::filesystem::path& second) {
  if (files_[0] == first && files_[1] == second) return;
  forget();
  files_[0] = first;
  files_[1] = second;
  const auto pair = std::make_shared<motion::Pair>();
  const auto motion = std::make_shared<std::optional<motion::Motion>>();
  const auto words = std::make_shared<std::string>();
  job_.start({say_q("Measuring motion"),
              [=](const Work&) {
                *pair = motion::read_pair(first, second);
                try {
                  *motion = motion::motion_of(*pair);
                } catch (const Error& e) {  // the pictures are there all the same, to be marked by hand
                  *words = e.what();
                }
              },
              [this, pair, motion, words] {
                first_ = image_of(pair->first);
                second_ = image_of(pair->second);
                pair_ = std::move(*pair);
                motion_ = *motion;
                take_part();
                if (!words->empty()) emit trouble(QString::fromStdString(*words));
                emit changed();
                if (motion_) emit found();
              },
              [this, first, second] { return files_[0] == first && files_[1] == second; }});
}

void TestPictures::forget() {
  if (files_[0].empty() && files_[1].empty()) return;
  job_.disown();
  pair_.reset();
  motion_.reset();
  by_hand_ = false;
  first_ = second_ = part_ = {};
  files_[0].clear();
  files_[1].clear();
  emit changed();
}

void TestPictures::mark(double x0, double y0, double x1, double y1) {
  if (!pair_) return;
  motion_ = motion::motion_marked(x0, y0, x1, y1, pair_->full, pair_->seconds);
  by_hand_ = true;
  take_part();
  emit changed();
  emit found();
}

void TestPictures::take_part() {
  part_ = {};
  if (!pair_ || !motion_) return;
  try {
    const motion::MovingPart part = motion::cut_moving(*pair_, *motion_);
    QImage image(part.where.width, part.where.height, QImage::Format_ARGB32);
    for (int y = 0; y < part.where.height; ++y)
      for (int x = 0; x < part.where.width; ++x) {
        const std::uint8_t* p = part.picture.row(y) + 3 * x;
        image.setPixel(x, y,
                       qRgba(p[0], p[1], p[2], part.alpha[static_cast<size_t>(y) * part.where.width + x]));
      }
    part_ = image;
    part_.setText(say_q("width"), QString::number(pair_->first.size.width));
  } catch (const Error&) {
    // The preview then draws its plain shape.
  }
}

}  // namespace askcount::app

#include "moc_test_pictures.cpp"
