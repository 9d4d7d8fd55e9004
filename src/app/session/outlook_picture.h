// SPDX-License-Identifier: GPL-3.0-or-later
// The take's picture of the place: read, its skyline found, laid under the panorama.
#pragma once

#include <optional>
#include <QImage>
#include <QObject>

#include "app/session/job.h"
#include "forecast/place_picture.h"
#include "skyline/laid.h"

namespace askcount::app {

/// Works beside the window.
class OutlookPicture : public QObject {
  Q_OBJECT
 public:
  explicit OutlookPicture(QObject* parent = nullptr);

  static constexpr int kLongest_px = 1500;  ///< of a picture's longer side, that are kept

  /// Reads it, where it was not `read` before, and finds its skyline; changed() tells, trouble() says what
  /// went wrong. Nothing where it is being read or was read already.
  void load(const std::filesystem::path& file, std::shared_ptr<const skyline::Photograph> read = {});
  void forget();

  /// What was read; null where there is none.
  const skyline::Photograph* photograph() const { return photograph_.get(); }
  const std::vector<double>& skyline() const { return skyline_; }
  const std::filesystem::path& file() const { return file_; }
  bool busy() const { return job_.running(); }
  /// The picture as it lies under a panorama; made anew where either is another.
  const QImage& laid(const skyline::View& view, const sky::Panorama& panorama);

 signals:
  void changed();
  void trouble(QString words);

 private:
  Job job_;
  std::filesystem::path file_;  // asked for last, whatever came of it
  std::shared_ptr<const skyline::Photograph> photograph_;
  std::vector<double> skyline_;
  QImage laid_;
  skyline::View laid_view_;
  sky::Panorama laid_panorama_;
};

}  // namespace askcount::app
