// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/sound.h"

#include <fmt/format.h>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/channel_layout.h>
#include <libswresample/swresample.h>
}

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "media/reader.h"

namespace askcount::media {

struct SoundReader::Parts {
  Sound sound;
  AVFormatContext* format = nullptr;
  AVCodecContext* codec = nullptr;
  SwrContext* resampler = nullptr;
  AVPacket* packet = nullptr;
  AVFrame* frame = nullptr;
  int stream = -1;
  std::int64_t until = 0;  // samples there are to be
  std::int64_t given = 0;
  std::vector<float> ahead;  // decoded, not given yet
  bool ended = false;

  ~Parts() {
    av_frame_free(&frame);
    av_packet_free(&packet);
    swr_free(&resampler);
    avcodec_free_context(&codec);
    avformat_close_input(&format);
  }

  void open() {
    quieten_film_libraries();
    const auto fail = [&](const std::string& why) {
      return bad_input(say("{} cannot be used as a film's sound: {}.", sound.file.string(), why),
                       say("Choose a file with sound in it."));
    };
    require_plain_file(sound.file);
    if (avformat_open_input(&format, sound.file.c_str(), nullptr, nullptr) < 0)
      throw fail(say("it is not sound"));
    if (avformat_find_stream_info(format, nullptr) < 0) throw fail(say("it is damaged"));
    const AVCodec* decoder = nullptr;
    stream = av_find_best_stream(format, AVMEDIA_TYPE_AUDIO, -1, -1, &decoder, 0);
    if (stream < 0 || !decoder) throw fail(say("there is no sound in it"));
    codec = avcodec_alloc_context3(decoder);
    const AVStream& s = *format->streams[stream];
    if (avcodec_parameters_to_context(codec, s.codecpar) < 0 || avcodec_open2(codec, decoder, nullptr) < 0)
      throw fail(say("it cannot be decoded"));
    if (codec->sample_rate <= 0) throw fail(say("it does not say how fast it goes"));
    AVChannelLayout stereo = AV_CHANNEL_LAYOUT_STEREO;
    AVChannelLayout in;
    if (codec->ch_layout.order == AV_CHANNEL_ORDER_UNSPEC)
      av_channel_layout_default(&in, std::max(1, codec->ch_layout.nb_channels));
    else
      av_channel_layout_copy(&in, &codec->ch_layout);
    const int made = swr_alloc_set_opts2(&resampler, &stereo, AV_SAMPLE_FMT_FLT, kRate, &in,
                                         codec->sample_fmt, codec->sample_rate, 0, nullptr);
    av_channel_layout_uninit(&in);
    if (made < 0 || swr_init(resampler) < 0) throw fail(say("it cannot be brought to 48 kHz"));
    packet = av_packet_alloc();
    frame = av_frame_alloc();
  }

  /// Seconds there are from where it begins; 0 where the file does not say.
  double length() const {
    return format->duration > 0
               ? std::max(0.0, static_cast<double>(format->duration) / AV_TIME_BASE - sound.from_s)
               : 0;
  }

  void convert(const AVFrame* in) {
    const int most = swr_get_out_samples(resampler, in ? in->nb_samples : 0);
    if (most <= 0) return;
    const size_t had = ahead.size();
    ahead.resize(had + 2 * static_cast<size_t>(most));
    auto* into = reinterpret_cast<std::uint8_t*>(ahead.data() + had);
    const int got = swr_convert(resampler, &into, most,
                                in ? const_cast<const std::uint8_t**>(in->extended_data) : nullptr,
                                in ? in->nb_samples : 0);
    ahead.resize(had + 2 * static_cast<size_t>(std::max(0, got)));
  }

  /// Decodes until this many samples lie ahead, or there are no more.
  void fill(size_t samples) {
    while (!ended && ahead.size() < 2 * samples) {
      const int read = av_read_frame(format, packet);
      if (read >= 0 && packet->stream_index != stream) {
        av_packet_unref(packet);
        continue;
      }
      // What is damaged in between is passed over, as every player does.
      avcodec_send_packet(codec, read >= 0 ? packet : nullptr);
      if (read >= 0) av_packet_unref(packet);
      while (avcodec_receive_frame(codec, frame) >= 0) {
        convert(frame);
        av_frame_unref(frame);
      }
      if (read < 0) {
        convert(nullptr);
        ended = true;
      }
    }
  }
};

void check_sound(const Sound& sound) {
  if (!sound.file.empty()) SoundReader(sound, 1).next(1);
}

SoundReader::SoundReader(const Sound& sound, double length_s) : parts_(std::make_unique<Parts>()) {
  Parts& p = *parts_;
  p.sound = sound;
  p.open();
  double length = length_s;
  if (p.length() > 0) length = std::min(length, p.length());
  p.until = std::llround(length * kRate);
  auto skip = static_cast<size_t>(std::llround(sound.from_s * kRate));
  while (skip > 0) {
    const size_t piece = std::min<size_t>(skip, 1U << 16U);
    p.fill(piece);
    const size_t there = std::min(piece, p.ahead.size() / 2);
    if (there == 0) break;
    p.ahead.erase(p.ahead.begin(), p.ahead.begin() + static_cast<long>(2 * there));
    skip -= there;
  }
  p.fill(1);
  if (p.ahead.empty())
    throw bad_input(say("{} cannot be used as a film's sound: there is no sound in it{}.",
                        sound.file.string(), sound.from_s > 0 ? say(" from there on") : ""),
                    say("Choose a file with sound in it."));
}

SoundReader::~SoundReader() = default;

std::vector<float> SoundReader::next(size_t samples) {
  Parts& p = *parts_;
  const auto left = static_cast<size_t>(std::max<std::int64_t>(0, p.until - p.given));
  samples = std::min(samples, left);
  p.fill(samples);
  samples = std::min(samples, p.ahead.size() / 2);
  std::vector<float> out(p.ahead.begin(), p.ahead.begin() + static_cast<long>(2 * samples));
  p.ahead.erase(p.ahead.begin(), p.ahead.begin() + static_cast<long>(2 * samples));
  const double in = p.sound.fade_in_s * kRate, end = p.sound.fade_out_s * kRate;
  for (size_t n = 0; n < samples; ++n) {
    const auto at = static_cast<double>(p.given + static_cast<std::int64_t>(n));
    double loud = 1;
    if (in > 0) loud = std::min(loud, at / in);
    if (end > 0) loud = std::min(loud, (static_cast<double>(p.until) - at) / end);
    loud = std::clamp(loud, 0.0, 1.0);
    // Alike to the ear all the way: the quarter of a sine.
    const auto gain = static_cast<float>(std::sin(loud * 1.57079632679));
    out[2 * n] *= gain;
    out[2 * n + 1] *= gain;
  }
  p.given += static_cast<std::int64_t>(samples);
  return out;
}

std::vector<float> sound_levels(const Sound& sound, double length_s, size_t pieces) {
  SoundReader reader(sound, length_s);
  std::vector<float> levels(pieces, 0);
  const double each = length_s * SoundReader::kRate / static_cast<double>(std::max<size_t>(1, pieces));
  for (size_t n = 0; n < pieces; ++n) {
    const auto from = std::llround(static_cast<double>(n) * each),
               to = std::llround(static_cast<double>(n + 1) * each);
    const std::vector<float> samples = reader.next(static_cast<size_t>(std::max(1LL, to - from)));
    if (samples.empty()) break;
    double sum = 0;
    for (const float v : samples) sum += static_cast<double>(v) * static_cast<double>(v);
    levels[n] = static_cast<float>(std::sqrt(sum / static_cast<double>(samples.size())));
  }
  return levels;
}

}  // namespace askcount::media
