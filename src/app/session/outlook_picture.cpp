// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/outlook_picture.h"

#include "app/style/text.h"
#include "skyline/skyline.h"

namespace askcount::app {
OutlookPicture::OutlookPicture(QObject* parent) : QObject(parent) {
  connect(&job_, &Job::ended, this, [this](const QString& words, bool) {
    if (!words.isEmpty()) emit trouble(words);
    emit changed();
  });
}

void OutlookPicture::load(const std::filesystem::path& file,
                          std::shared_ptr<const skyline::Photograph> read) {
  if (file_ == file) return;
  forget();
  file_ = file;
  const auto photograph = std::make_shared<std::shared_ptr<const skyline::Photograph>>(std::move(read));
  const auto skyline = std::make_shared<std::vector<double>>();
  job_.start({say_q("Reading the picture of the place"),
              [=](const Work&) {
                if (!*photograph)
                  *photograph = std::make_shared<const skyline::Photograph>(
                      skyline::read_photograph(file, kLongest_px));
                *skyline = skyline::skyline_of((*photograph)->picture);
              },
              [this, photograph, skyline] {
                photograph_ = *photograph;
                skyline_ = std::move(*skyline);
              },
              [this, file] { return file_ == file; }});
}

void OutlookPicture::forget() {
  if (file_.empty()) return;
  job_.disown();
  file_.clear();
  photograph_.reset();
  skyline_.clear();
  laid_ = {};
  emit changed();
}

const QImage& OutlookPicture::laid(const skyline::View& view, const sky::Panorama& panorama) {
  if (!photograph_) return laid_;
  if (!laid_.isNull() && view == laid_view_ && panorama == laid_panorama_) return laid_;
  const skyline::Laid laid = skyline::laid_under(photograph_->picture, view, panorama);
  laid_ = QImage(laid.rgba.data(), laid.size.width, laid.size.height, 4 * laid.size.width,
                 QImage::Format_RGBA8888)
              .convertToFormat(QImage::Format_ARGB32_Premultiplied);
  laid_view_ = view;
  laid_panorama_ = panorama;
  return laid_;
}

}  // namespace askcount::app

#include "moc_outlook_picture.cpp"
