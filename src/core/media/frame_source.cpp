// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/frame_source.h"

#include <algorithm>
#include <cmath>
#include <new>
#include <optional>

#include "base/error.h"
#include "base/language.h"
#include "image/tone.h"
#include "media/bracket.h"
#include "media/jpeg.h"
#include "media/kind.h"
#include "media/raw.h"
#include "media/stills.h"

namespace askcount::media {
namespace {

constexpr int kLargeEnough = 700;  // pixels of an embedded picture that is worth looking at

/// Throws where it is known already that a frame cannot be read.
void require_readable(const Frame& frame) {
  if (frame.exposures.empty()) throw failed(say("A frame has no file."));
  if (!frame.readable()) throw failed(frame.trouble());
}

/// A whole upright picture as what was wanted of it.
Shown whole(image::Picture picture, const Want& want) {
  const image::RectF part = image::in_pixels(want.part, image::size_of(picture));
  return {std::move(picture), part};
}

/// JPEG bytes turned upright, no smaller than wanted.
Shown of_jpeg(const Bytes& bytes, int orientation, const Want& want, const std::string& name,
              Unsaid unsaid = Unsaid::Srgb) {
  const image::Size stored = jpeg_size(bytes, name);
  const image::Size full = image::upright(stored, orientation);
  const int eighths = decoding_eighths(image::in_pixels(want.part, full), want.at_least);
  const image::Size scaled = image::upright(scaled_size(stored, eighths), orientation);
  const image::RectF part = image::in_pixels(want.part, scaled);
  if (orientation > 1 && orientation <= 8)
    return {image::oriented(decode_jpeg(bytes, eighths, name, {}, unsaid), orientation), part};
  const int first = std::clamp(static_cast<int>(std::floor(part.y)), 0, scaled.height - 1);
  const int end = std::clamp(static_cast<int>(std::ceil(part.y + part.height)), first + 1, scaled.height);
  return {decode_jpeg(bytes, eighths, name, {first, end - first}, unsaid),
          {part.x, part.y - first, part.width, part.height}};
}

}  // namespace

image::Grey8 FrameSource::grey(const Frame& frame, int width) const {
  return image::grey(image::coded(preview(frame, {{width, 0}, {}}).picture));
}

image::Grey8 CompressedSource::grey(const Frame& frame, int width) const {
  require_readable(frame);
  const std::string name = frame.file().string();
  const Bytes bytes = read_bytes(frame.file());
  const image::Size stored = jpeg_size(bytes, name);
  const image::Size full = image::upright(stored, frame.info().orientation);
  const int eighths = decoding_eighths(image::in_pixels({}, full), {width, 0});
  image::Grey8 lying = decode_jpeg_grey(bytes, eighths, name);
  return frame.info().orientation > 1 ? image::oriented(lying, frame.info().orientation) : lying;
}

Shown CompressedSource::read(const Frame& frame, const Want& want) const {
  require_readable(frame);
  return of_jpeg(read_bytes(frame.file()), frame.info().orientation, want, frame.file().string(),
                 frame.info().dcf_optional ? Unsaid::DcfOptional : Unsaid::Srgb);
}

image::Picture CompressedSource::small(const Frame& frame) const {
  require_readable(frame);
  const std::string name = frame.file().string();
  const Bytes thumbnail = read_thumbnail(frame.file());
  const image::Coded8 lying =
      thumbnail.empty() ? decode_jpeg(read_bytes(frame.file()), 1, name) : decode_jpeg(thumbnail, 8, name);
  return image::oriented(lying, frame.info().orientation);
}

Shown RawSource::read(const Frame& frame, const Want& want) const {
  require_readable(frame);
  const int orientation = frame.info().orientation;
  const bool turned = orientation > 1 && orientation <= 8;
  RawWant raw;
  raw.at_least = want.at_least;
  raw.part = want.part;
  raw.care = &care_;
  if (turned) {  // all of it, then the part
    const auto whole_of = [](int pixels, double share) {
      return static_cast<int>(std::ceil(pixels / std::max(1e-6, share)));
    };
    raw.at_least = image::upright(
        {whole_of(want.at_least.width, want.part.width), whole_of(want.at_least.height, want.part.height)},
        orientation);
    raw.part = {};
    return whole(image::oriented(develop_raw(frame.file(), raw), orientation), want);
  }
  image::Linear32 picture = develop_raw(frame.file(), raw);
  const image::RectF all = {0, 0, static_cast<double>(picture.size.width),
                            static_cast<double>(picture.size.height)};
  return {std::move(picture), all};
}

Shown RawSource::preview(const Frame& frame, const Want& want) const {
  require_readable(frame);
  const EmbeddedPicture embedded = read_embedded(frame.file());
  if (!embedded.jpeg.empty()) {
    Shown shown = of_jpeg(embedded.jpeg, embedded.orientation, want, frame.file().string());
    if (shown.part.width >= std::min(want.at_least.width, kLargeEnough) ||
        shown.part.height >= std::min(want.at_least.height, kLargeEnough))
      return shown;
  }
  return read(frame, want);
}

image::Picture RawSource::small(const Frame& frame) const {
  return preview(frame, {}).picture;
}

Shown StillSource::read(const Frame& frame, const Want& want) const {
  require_readable(frame);
  const std::filesystem::path& file = frame.file();
  switch (kind_of(file)) {
    case Kind::Heif:
      return whole(decode_heif(file), want);
    case Kind::Png:
      return whole(image::oriented(decode_png(file), frame.info().orientation), want);
    default:
      return whole(image::oriented(decode_tiff(file), frame.info().orientation), want);
  }
}

bool StillSource::gives_light(const Frame& frame) const {
  return kind_of(frame.file()) == Kind::Tiff;  // most have more than 8 bits
}

image::Picture StillSource::small(const Frame& frame) const {
  require_readable(frame);
  if (kind_of(frame.file()) == Kind::Heif) return decode_heif(frame.file(), true);
  return read(frame, {}).picture;
}

namespace {

/// Whatever a file does stays with its frame: all that goes wrong is an Error that names the file.
template <typename Read>
auto guarded(const Frame& frame, Read&& read) {
  const auto name = [&] { return frame.exposures.empty() ? std::string() : frame.file().string(); };
  try {
    return read();
  } catch (const Error&) {
    throw;
  } catch (const std::bad_alloc&) {
    throw unreadable_picture(name(), say("there is not enough memory for it"));
  } catch (const std::exception& e) {
    throw unreadable_picture(name(), e.what());
  }
}

/// Each kind of file by the source that reads it.
class AnySource : public FrameSource {
 public:
  explicit AnySource(SensorCare care = {}) : raw_(std::move(care)) {}
  Shown read(const Frame& frame, const Want& want) const override {
    return guarded(frame,
                   [&] { return frame.blends() ? read_bracket(frame, want) : of(frame).read(frame, want); });
  }
  Shown preview(const Frame& frame, const Want& want) const override {
    return guarded(frame, [&] { return of(frame).preview(frame, want); });
  }
  image::Grey8 grey(const Frame& frame, int width) const override {
    return guarded(frame, [&] { return of(frame).grey(frame, width); });
  }
  image::Picture small(const Frame& frame) const override {
    return guarded(frame, [&] { return of(frame).small(frame); });
  }
  bool gives_light(const Frame& frame) const override {
    return frame.blends() || of(frame).gives_light(frame);
  }

 private:
  /// All exposures that can be read, as one; where only one can, that.
  Shown read_bracket(const Frame& frame, const Want& want) const {
    std::vector<BracketPart> parts;
    std::optional<size_t> lead;
    std::optional<image::RectF> place;
    const auto middle = relative_stops(frame.info());
    for (size_t i = 0; i < frame.exposures.size(); ++i) {
      const Frame one(frame.exposures[i]);
      Shown shown;
      try {
        shown = of(one).read(one, want);
      } catch (const Error&) {
        if (i == frame.middle) throw;  // nothing can stand for the one that leads
        continue;
      }
      if (place && !(*place == shown.part)) continue;  // of another size
      place = shown.part;
      if (i == frame.middle) lead = parts.size();
      const auto stops = relative_stops(frame.exposures[i].info);
      parts.push_back({image::shown_light(std::move(shown.picture)), stops && middle ? *stops - *middle : 0});
    }
    if (!lead) return of(frame).read(frame, want);
    if (parts.size() == 1) return {std::move(parts.front().picture), *place};
    return {blended(std::move(parts), *lead, frame.blend), *place};
  }

  const FrameSource& of(const Frame& frame) const {
    switch (frame.exposures.empty() ? Kind::Jpeg : kind_of(frame.file())) {
      case Kind::Raw:
        return raw_;
      case Kind::Tiff:
      case Kind::Png:
      case Kind::Heif:
        return stills_;
      case Kind::Film:
        return films_;
      default:
        return compressed_;
    }
  }
  CompressedSource compressed_;
  RawSource raw_;
  StillSource stills_;
  FilmSource films_;
};

}  // namespace

std::unique_ptr<const FrameSource> source_with(SensorCare care) {
  return std::make_unique<AnySource>(std::move(care));
}

const FrameSource& any_source() {
  static const AnySource source;
  return source;
}

}  // namespace askcount::media
