#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "source/frame_source.h"
#include "source/jpeg.h"

namespace askcount::source {
namespace {

/// Throws where the audit already found that a frame cannot be read.
void require_readable(const Frame& frame) {
  if (frame.exposures.empty()) throw failed("A frame has no file.");
  if (!frame.readable()) throw failed(frame.trouble());
}

}  // namespace

Frame frame_of(const std::filesystem::path& file) {
  Exposure exposure;
  exposure.compressed = file;
  try {
    exposure.info = read_shot_info(file);
  } catch (const std::exception& e) {
    exposure.trouble = e.what();
  }
  return Frame(std::move(exposure));
}

Shown CompressedSource::read(const Frame& frame, const Want& want) const {
  require_readable(frame);
  const std::string name = frame.file().string();
  const Bytes bytes = read_bytes(frame.file());
  const image::Size stored = jpeg_size(bytes, name);
  const int orientation = frame.info().orientation;
  const image::Size full = image::upright(stored, orientation);
  const int eighths = decoding_eighths(image::in_pixels(want.part, full), want.at_least);
  const image::Size scaled = image::upright(scaled_size(stored, eighths), orientation);
  const image::RectF part = image::in_pixels(want.part, scaled);
  if (orientation > 1 && orientation <= 8)
    return {image::oriented(decode_jpeg(bytes, eighths, name), orientation), part};
  const int first = std::clamp(static_cast<int>(std::floor(part.y)), 0, scaled.height - 1);
  const int end = std::clamp(static_cast<int>(std::ceil(part.y + part.height)), first + 1, scaled.height);
  return {decode_jpeg(bytes, eighths, name, {first, end - first}),
          {part.x, part.y - first, part.width, part.height}};
}

image::Picture CompressedSource::small(const Frame& frame) const {
  require_readable(frame);
  const std::string name = frame.file().string();
  const Bytes thumbnail = read_thumbnail(frame.file());
  const image::Coded8 lying =
      thumbnail.empty() ? decode_jpeg(read_bytes(frame.file()), 1, name) : decode_jpeg(thumbnail, 8, name);
  return image::oriented(lying, frame.info().orientation);
}

const FrameSource& any_source() {
  static const CompressedSource source;  // the only kind there is so far
  return source;
}

}  // namespace askcount::source
