#include "app/widgets/frame_pictures.h"

#include "app/widgets/image.h"
#include "base/error.h"
#include "picture/jpeg.h"
#include "picture/metadata.h"
#include "picture/tone.h"

namespace askcount::app {
namespace {

constexpr int kCacheBytes = 160 << 20;

QImage unreadable() {
  QImage image(1, 1, QImage::Format_RGB888);
  image.fill(QColor(40, 40, 40));
  return image;
}

QImage read(const std::filesystem::path& file, int width, double gain) {
  try {
    const picture::Bytes bytes = picture::read_bytes(file);
    const picture::Size full = picture::jpeg_size(bytes, file.string());
    int eighths = 1;
    while (eighths < 8 && full.width * eighths < width * 8) ++eighths;
    picture::Picture8 p = picture::decode_jpeg(bytes, eighths, file.string());
    if (const int turn = picture::read_shot_info(file).orientation; turn > 1) p = picture::oriented(p, turn);
    return image_of(gain == 1 ? p : picture::with_gain(p, gain));
  } catch (const Error&) {
    return unreadable();
  }
}

QImage read_small(const std::filesystem::path& file) {
  try {
    const picture::Bytes bytes = picture::read_thumbnail(file);
    if (!bytes.empty()) return image_of(picture::decode_jpeg(bytes, 8, file.string()));
    return read(file, 160, 1);
  } catch (const Error&) {
    return unreadable();
  }
}

}  // namespace

FramePictures::FramePictures(QObject* parent) : QObject(parent), images_(kCacheBytes) {
  pool_.setMaxThreadCount(1);
}

FramePictures::~FramePictures() {
  pool_.clear();
  pool_.waitForDone();
}

void FramePictures::forget() {
  pool_.clear();
  ++generation_;
  waiting_.clear();
  images_.clear();
}

QImage FramePictures::wanted(const QString& key, const std::function<QImage()>& read) {
  if (const QImage* image = images_.object(key)) return *image;
  if (waiting_.contains(key)) return {};
  if (waiting_.size() > 120) {  // scrubbed past: what waits is no longer wanted
    pool_.clear();
    waiting_.clear();
  }
  waiting_.insert(key);
  const int generation = generation_;
  pool_.start([this, key, read, generation] {
    const QImage image = read();
    QMetaObject::invokeMethod(this, [this, key, image, generation] {
      if (generation != generation_) return;
      waiting_.remove(key);
      images_.insert(key, new QImage(image), std::max<int>(1, static_cast<int>(image.sizeInBytes())));
      emit ready();
    });
  });
  return {};
}

QImage FramePictures::picture(const std::filesystem::path& file, int width, double gain) {
  const QString key =
      QString("%1|%2|%3").arg(QString::fromStdString(file.string())).arg(width).arg(gain, 0, 'f', 4);
  return wanted(key, [file, width, gain] { return read(file, width, gain); });
}

QImage FramePictures::thumbnail(const std::filesystem::path& file) {
  return wanted(QString::fromStdString(file.string()), [file] { return read_small(file); });
}

}  // namespace askcount::app
