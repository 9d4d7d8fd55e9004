// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/reader.h"

#include <fmt/format.h>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/display.h>
#include <libswscale/swscale.h>
}

#include <webp/demux.h>
#include <algorithm>
#include <cmath>
#include <fstream>
#include <memory>
#include <optional>
#include <vector>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"

namespace askcount::media {
namespace {

struct Opened {
  AVFormatContext* format = nullptr;
  int stream = -1;

  explicit Opened(const std::filesystem::path& file) {
    quieten_film_libraries();
    const auto fail = [&](const std::string& why) {
      return failed(say("{} cannot be played: {}.", file.string(), why));
    };
    require_plain_file(file);
    if (avformat_open_input(&format, file.c_str(), nullptr, nullptr) < 0) throw fail(say("it is not a film"));
    if (avformat_find_stream_info(format, nullptr) < 0) throw fail(say("it is damaged"));
    stream = av_find_best_stream(format, AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
    if (stream < 0) throw fail(say("there is no picture in it"));
  }
  ~Opened() { avformat_close_input(&format); }
  Opened(const Opened&) = delete;
  AVStream& video() const { return *format->streams[stream]; }
  FrameRate fps() const {
    const AVRational r = video().avg_frame_rate;
    return r.num > 0 && r.den > 0 ? FrameRate{r.num, r.den} : FrameRate{};
  }
  /// Seconds from the first picture to that time stamp.
  double seconds_at(std::int64_t stamp) const {
    return static_cast<double>(stamp - first_stamp()) * av_q2d(video().time_base);
  }
  std::int64_t first_stamp() const { return video().start_time == AV_NOPTS_VALUE ? 0 : video().start_time; }
  std::string said(const char* key) const {
    const AVDictionaryEntry* e = av_dict_get(format->metadata, key, nullptr, 0);
    return e != nullptr ? e->value : "";
  }
  /// What is said under this name, whatever maker's prefix stands before it ("….model").
  std::string said_of(std::string_view name) const {
    const AVDictionaryEntry* e = nullptr;
    while ((e = av_dict_get(format->metadata, "", e, AV_DICT_IGNORE_SUFFIX)) != nullptr) {
      const std::string_view key = e->key;
      if (key == name || (key.ends_with(name) && key[key.size() - name.size() - 1] == '.')) return e->value;
    }
    return {};
  }
  /// The pictures it should have: by its index, or by its length where it has none.
  long long indexed() const {
    if (video().nb_frames > 0) return video().nb_frames;
    const double seconds = video().duration > 0
                               ? static_cast<double>(video().duration) * av_q2d(video().time_base)
                           : format->duration > 0 ? static_cast<double>(format->duration) / AV_TIME_BASE
                                                  : 0;
    return static_cast<long long>(seconds * fps().value() + 1e-3);
  }
  int orientation() const {
    const std::uint8_t* matrix = av_stream_get_side_data(&video(), AV_PKT_DATA_DISPLAYMATRIX, nullptr);
    if (matrix == nullptr) return 1;
    const double turn = av_display_rotation_get(reinterpret_cast<const std::int32_t*>(matrix));
    const long quarters = std::isnan(turn) ? 0 : (std::lround(-turn / 90) % 4 + 4) % 4;  // clockwise
    constexpr int kExif[] = {1, 6, 3, 8};
    return kExif[quarters];
  }
};

}  // namespace

namespace {

/// Whether a file begins as WebP's do.
bool begins_as_webp(const std::filesystem::path& file) {
  std::ifstream in(file, std::ios::binary);
  std::string head(12, 0);
  return in.read(head.data(), 12) && head.starts_with("RIFF") && head.ends_with("WEBP");
}

/// What an animated WebP holds: the FFmpeg libraries of Debian 12 do not read them. Nothing for what is none.
std::optional<FilmFacts> read_webp(const std::filesystem::path& file) {
  if (!begins_as_webp(file)) return {};
  const std::string bytes = read_file(file);
  const WebPData data{reinterpret_cast<const std::uint8_t*>(bytes.data()), bytes.size()};
  const std::unique_ptr<WebPDemuxer, decltype(&WebPDemuxDelete)> webp(WebPDemux(&data), WebPDemuxDelete);
  if (!webp || !(WebPDemuxGetI(webp.get(), WEBP_FF_FORMAT_FLAGS) & ANIMATION_FLAG)) return {};
  FilmFacts facts;
  facts.codec = "webp";
  facts.size = {static_cast<int>(WebPDemuxGetI(webp.get(), WEBP_FF_CANVAS_WIDTH)),
                static_cast<int>(WebPDemuxGetI(webp.get(), WEBP_FF_CANVAS_HEIGHT))};
  double thousandths = 0;
  WebPIterator picture{};
  for (int more = WebPDemuxGetFrame(webp.get(), 1, &picture); more; more = WebPDemuxNextFrame(&picture))
    ++facts.frames, thousandths += picture.duration;
  WebPDemuxReleaseIterator(&picture);
  if (facts.frames == 0) return {};
  facts.duration_s = thousandths / 1000;
  if (thousandths > 0) facts.fps = nearest_frame_rate(static_cast<double>(facts.frames) / facts.duration_s);
  return facts;
}

}  // namespace

void quieten_film_libraries() {
  av_log_set_level(AV_LOG_QUIET);
}

FilmWeights weigh_film(const std::filesystem::path& file) {
  require_plain_file(file);
  FilmWeights w;
  const auto all = static_cast<double>(std::filesystem::file_size(file));
  if (const auto webp = read_webp(file)) {
    w.keys = static_cast<std::size_t>(webp->frames);
    w.key_bytes = all;
    return w;
  }
  const Opened film(file);
  AVPacket* packet = av_packet_alloc();
  while (av_read_frame(film.format, packet) >= 0) {
    if (packet->stream_index != film.stream) {
      w.sound_bytes += packet->size;
    } else if (packet->flags & AV_PKT_FLAG_KEY) {
      ++w.keys, w.key_bytes += packet->size;
    } else {
      ++w.others, w.other_bytes += packet->size;
    }
    av_packet_unref(packet);
  }
  av_packet_free(&packet);
  w.rest_bytes = std::max(0.0, all - w.key_bytes - w.other_bytes - w.sound_bytes);
  return w;
}

FilmFacts read_film(const std::filesystem::path& file) {
  require_plain_file(file);  // a pipe would never end
  if (const auto webp = read_webp(file)) return *webp;
  const Opened film(file);
  const int sound = av_find_best_stream(film.format, AVMEDIA_TYPE_AUDIO, -1, -1, nullptr, 0);
  FilmFacts facts;
  AVPacket* packet = av_packet_alloc();
  std::int64_t end = 0;
  while (av_read_frame(film.format, packet) >= 0) {
    if (packet->stream_index == film.stream) {
      ++facts.frames;
      const std::int64_t at = packet->pts == AV_NOPTS_VALUE ? packet->dts : packet->pts;
      end = std::max(end, at + packet->duration);
    }
    if (packet->stream_index == sound && packet->pts != AV_NOPTS_VALUE) {
      const AVStream& s = *film.format->streams[sound];
      facts.sound_s =
          std::max(facts.sound_s, static_cast<double>(packet->pts + packet->duration) * av_q2d(s.time_base));
    }
    av_packet_unref(packet);
  }
  av_packet_free(&packet);
  const AVStream& v = film.video();
  facts.duration_s = film.seconds_at(end);
  facts.fps = film.fps();
  facts.indexed = film.indexed();
  facts.orientation = film.orientation();
  facts.camera = film.said_of("model");
  if (const std::string made = film.said("creation_time"); made.size() >= 19)
    facts.made = read_time(made.substr(0, 19), "%Y-%m-%dT%H:%M:%S");
  facts.size = {v.codecpar->width, v.codecpar->height};
  facts.codec = avcodec_get_name(v.codecpar->codec_id);
  return facts;
}

struct FilmReader::Parts {
  Opened film;
  AVCodecContext* codec = nullptr;
  AVPacket* packet = av_packet_alloc();
  AVFrame* frame = av_frame_alloc();
  SwsContext* scaler = nullptr;
  std::vector<std::uint8_t> rows;
  long long skip_before = -1;

  Parts(const std::filesystem::path& file, int threads) : film(file) {
    const AVCodec* decoder = avcodec_find_decoder(film.video().codecpar->codec_id);
    codec = avcodec_alloc_context3(decoder);
    avcodec_parameters_to_context(codec, film.video().codecpar);
    codec->thread_count = threads;
    if (!decoder || avcodec_open2(codec, decoder, nullptr) < 0)
      throw failed(say("{} cannot be played: there is no decoder for it.", file.string()));
  }
  ~Parts() {
    sws_freeContext(scaler);
    av_frame_free(&frame);
    av_packet_free(&packet);
    avcodec_free_context(&codec);
  }

  bool decode() {
    while (true) {
      const int got = avcodec_receive_frame(codec, frame);
      if (got >= 0) return true;
      if (got != AVERROR(EAGAIN)) return false;
      int read = 0;
      while ((read = av_read_frame(film.format, packet)) >= 0 && packet->stream_index != film.stream)
        av_packet_unref(packet);
      if (read < 0)
        avcodec_send_packet(codec, nullptr);
      else
        avcodec_send_packet(codec, packet);
      av_packet_unref(packet);
    }
  }

  long long number() const {
    return std::llround(film.seconds_at(frame->best_effort_timestamp) * film.fps().value());
  }
};

FilmReader::FilmReader(const std::filesystem::path& file, int threads)
    : parts_(std::make_unique<Parts>(file, threads)) {}
FilmReader::~FilmReader() = default;
FilmReader::FilmReader(FilmReader&&) noexcept = default;
FilmReader& FilmReader::operator=(FilmReader&&) noexcept = default;

FrameRate FilmReader::fps() const {
  return parts_->film.fps();
}
image::Size FilmReader::size() const {
  return {parts_->codec->width, parts_->codec->height};
}

std::optional<image::Coded8> FilmReader::next(image::Size fit, const std::stop_token& stop) {
  Parts& p = *parts_;
  do {
    if (stop.stop_requested() || !p.decode()) return {};
  } while (p.number() < p.skip_before);
  p.skip_before = -1;
  const image::Size to = fit.width > 0 && fit.height > 0 ? fit : size();
  p.scaler = sws_getCachedContext(p.scaler, p.frame->width, p.frame->height,
                                  static_cast<AVPixelFormat>(p.frame->format), to.width, to.height,
                                  AV_PIX_FMT_RGB24, SWS_BILINEAR, nullptr, nullptr, nullptr);
  // What a film does not say follows its size, as everywhere: BT.601 below 720 lines.
  const bool old = p.frame->colorspace == AVCOL_SPC_BT470BG || p.frame->colorspace == AVCOL_SPC_SMPTE170M ||
                   (p.frame->colorspace == AVCOL_SPC_UNSPECIFIED && p.frame->height < 720);
  const int* coded = sws_getCoefficients(old ? SWS_CS_ITU601 : SWS_CS_ITU709);
  const int full = p.frame->color_range == AVCOL_RANGE_JPEG ? 1 : 0;
  sws_setColorspaceDetails(p.scaler, coded, full, sws_getCoefficients(SWS_CS_ITU709), 1, 0, 1 << 16, 1 << 16);
  // The scaler writes in wide strokes that may pass the end of a row: it gets rows with room after them.
  const int stride = (3 * to.width + 127) / 64 * 64;
  p.rows.resize(static_cast<size_t>(stride) * to.height + 64);
  std::uint8_t* planes[] = {p.rows.data()};
  const int strides[] = {stride};
  sws_scale(p.scaler, p.frame->data, p.frame->linesize, 0, p.frame->height, planes, strides);
  image::Coded8 out(to);
  for (int y = 0; y < to.height; ++y)
    std::copy_n(p.rows.data() + static_cast<size_t>(y) * stride, 3 * static_cast<size_t>(to.width),
                out.row(y));
  return out;
}

void FilmReader::seek(long long frame) {
  Parts& p = *parts_;
  const double seconds = static_cast<double>(frame) / p.film.fps().value();
  const auto at =
      p.film.first_stamp() + static_cast<std::int64_t>(seconds / av_q2d(p.film.video().time_base));
  av_seek_frame(p.film.format, p.film.stream, at, AVSEEK_FLAG_BACKWARD);
  avcodec_flush_buffers(p.codec);
  p.skip_before = frame;
}

bool FilmReader::damaged() const {
  return (parts_->frame->flags & AV_FRAME_FLAG_CORRUPT) != 0 || parts_->frame->decode_error_flags != 0;
}

void FilmReader::pass_to(long long frame) {
  parts_->skip_before = frame;
}

}  // namespace askcount::media
