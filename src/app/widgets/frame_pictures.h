// Frames as pictures for the window, read beside it.
#pragma once

#include <filesystem>
#include <QCache>
#include <QImage>
#include <QObject>
#include <QSet>
#include <QThreadPool>

namespace askcount::app {

/// Reads frames small, on threads of its own, and remembers the last ones. Ask for what is to be shown now;
/// ready() tells when it is there.
class FramePictures : public QObject {
  Q_OBJECT
 public:
  explicit FramePictures(QObject* parent = nullptr);
  ~FramePictures() override;

  /// The frame at least `width` pixels wide where it has them, its light multiplied by `gain`; a null image
  /// while it is being read. A file that cannot be read gives an image of one dark pixel.
  QImage picture(const std::filesystem::path& file, int width, double gain = 1);
  /// The embedded thumbnail, or the frame very small.
  QImage thumbnail(const std::filesystem::path& file);
  void forget();

 signals:
  void ready();

 private:
  QImage wanted(const QString& key, const std::function<QImage()>& read);

  QCache<QString, QImage> images_;
  QSet<QString> waiting_;
  QThreadPool pool_;
  int generation_ = 0;
};

}  // namespace askcount::app
