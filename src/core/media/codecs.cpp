// SPDX-License-Identifier: GPL-3.0-or-later
// The codecs and the kinds of file there are: the one place to edit for a new one, with the enum in coding.h.
#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "media/coding.h"

namespace askcount::media {
namespace {

using Options = EncoderOptions;

/// How much time an encoder takes, as a step from 0 (ultrafast) to 8 (veryslow).
int step_of(const Coding& coding) {
  int step = 0;
  for (const char* name : presets()) {
    if (coding.preset == name) return step;
    ++step;
  }
  return 5;
}

/// The quality on the scale of an encoder that goes from 0 to 63.
int of_63(const Coding& coding, int best) {
  return std::clamp(static_cast<int>(std::lround(coding.quality * 1.2 + 8)), best, 63);
}

Options h264(const Coding& c) {
  return {{"preset", c.preset}, {"crf", std::to_string(c.quality)}};
}

Options h265(const Coding& c) {
  return {{"preset", c.preset},
          {"crf", std::to_string(c.quality == 0 ? 0 : c.quality + 3)},
          {"x265-params", c.quality == 0 ? "log-level=error:lossless=1" : "log-level=error"}};
}

Options av1(const Coding& c) {
  return {{"preset", std::to_string(std::clamp(12 - step_of(c), 4, 12))},
          {"crf", std::to_string(of_63(c, 1))}};
}

Options vp9(const Coding& c) {
  Options options = {{"b", "0"},
                     {"threads", "auto"},
                     {"crf", std::to_string(of_63(c, 0))},
                     {"deadline", "good"},
                     {"cpu-used", std::to_string(std::clamp(8 - step_of(c), 1, 8))},
                     {"row-mt", "1"}};
  if (c.quality == 0) options.emplace_back("lossless", "1");
  return options;
}

Options prores(const Coding&) {
  return {{"threads", "auto"}, {"profile", "hq"}};
}

Options dnxhr(const Coding& c) {
  return {{"threads", "auto"}, {"profile", c.bits == 10 ? "dnxhr_hqx" : "dnxhr_hq"}};
}

Options ffv1(const Coding&) {
  return {{"threads", "auto"}, {"level", "3"}, {"g", "1"}, {"slicecrc", "1"}};
}

Options webp(const Coding& c) {
  return {{"quality", std::to_string(std::clamp(100 - 2 * c.quality, 0, 100))}};
}

Options none(const Coding&) {
  return {};
}

constexpr char kAsItIs[] = "pcm_s16le";

}  // namespace

const std::vector<CodecFacts>& codecs() {
  static const std::vector<CodecFacts> all = {{.codec = Codec::H264,
                                               .name = "h264",
                                               .words = "H.264",
                                               .encoder = "libx264",
                                               .ffmpeg = "h264",
                                               .endings = {"mp4", "mov", "mkv"},
                                               .options = h264},
                                              {.codec = Codec::H265,
                                               .name = "h265",
                                               .words = "H.265",
                                               .encoder = "libx265",
                                               .ffmpeg = "hevc",
                                               .endings = {"mp4", "mov", "mkv"},
                                               .least_width = 64,
                                               .least_height = 64,
                                               .tag = "hvc1",  // what players of phones look for
                                               .options = h265},
                                              {.codec = Codec::Av1,
                                               .name = "av1",
                                               .words = "AV1",
                                               .encoder = "libsvtav1",
                                               .ffmpeg = "av1",
                                               .half_422 = false,
                                               .endings = {"mp4", "webm", "mkv"},
                                               .least_width = 64,
                                               .least_height = 64,
                                               .options = av1},
                                              {.codec = Codec::Vp9,
                                               .name = "vp9",
                                               .words = "VP9",
                                               .encoder = "libvpx-vp9",
                                               .ffmpeg = "vp9",
                                               .endings = {"webm", "mkv", "mp4"},
                                               .options = vp9},
                                              {.codec = Codec::ProRes,
                                               .name = "prores",
                                               .words = "ProRes",
                                               .encoder = "prores_ks",
                                               .ffmpeg = "prores",
                                               .bits_8 = false,
                                               .half_420 = false,
                                               .has_quality = false,
                                               .endings = {"mov", "mkv"},
                                               .sound = kAsItIs,
                                               .options = prores},
                                              {.codec = Codec::DnxHr,
                                               .name = "dnxhr",
                                               .words = "DNxHR",
                                               .encoder = "dnxhd",
                                               .ffmpeg = "dnxhd",
                                               .half_420 = false,
                                               .has_quality = false,
                                               .endings = {"mov", "mkv"},
                                               .least_width = 256,
                                               .least_height = 120,
                                               .sound = kAsItIs,
                                               .options = dnxhr},
                                              {.codec = Codec::Ffv1,
                                               .name = "ffv1",
                                               .words = "FFV1",
                                               .encoder = "ffv1",
                                               .ffmpeg = "ffv1",
                                               .has_quality = false,
                                               .endings = {"mkv"},
                                               .sound = kAsItIs,
                                               .options = ffv1},
                                              {.codec = Codec::WebP,
                                               .name = "webp",
                                               .words = to_say("animated WebP"),
                                               .encoder = "libwebp_anim",
                                               .ffmpeg = "webp",
                                               .bits_10 = false,
                                               .half_422 = false,
                                               .animation = true,
                                               .endings = {"webp"},
                                               .options = webp},
                                              {.codec = Codec::Gif,
                                               .name = "gif",
                                               .words = to_say("animated GIF"),
                                               .encoder = "gif",
                                               .ffmpeg = "gif",
                                               .bits_10 = false,
                                               .half_422 = false,
                                               .has_quality = false,
                                               .animation = true,
                                               .endings = {"gif"},
                                               .most_side = 2048,
                                               .options = none}};
  return all;
}

const std::vector<Container>& containers() {
  // AAC begins a little before the film, and Matroska would move the pictures by as much.
  static const std::vector<Container> all = {
      {"mp4", "mp4", Codec::H264, "aac"},       {"mov", "mov", Codec::H264, "aac"},
      {"mkv", "matroska", Codec::H264, "flac"}, {"webm", "webm", Codec::Vp9, "libopus"},
      {"webp", "webp", Codec::WebP, nullptr},   {"gif", "gif", Codec::Gif, nullptr}};
  return all;
}

const std::vector<const char*>& presets() {
  static const std::vector<const char*> all = {"ultrafast", "superfast", "veryfast", "faster",  "fast",
                                               "medium",    "slow",      "slower",   "veryslow"};
  return all;
}

}  // namespace askcount::media
