// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/sound_track.h"

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavutil/channel_layout.h>
}

#include <algorithm>
#include <cmath>
#include <cstring>
#include <string_view>

#include "base/error.h"
#include "base/language.h"

namespace askcount::media {

struct SoundTrack::Parts {
  SoundReader reader;
  AVCodecContext* codec = nullptr;
  AVStream* stream = nullptr;
  AVFrame* frame = nullptr;
  AVPacket* packet = nullptr;
  std::int64_t at = 0;  // samples written
  bool ended = false;

  Parts(const Sound& sound, double length_s) : reader(sound, length_s) {}
  ~Parts() {
    av_packet_free(&packet);
    av_frame_free(&frame);
    avcodec_free_context(&codec);
  }

  int drain(AVFormatContext& format) {
    while (true) {
      const int got = avcodec_receive_packet(codec, packet);
      if (got == AVERROR(EAGAIN) || got == AVERROR_EOF) return 0;
      if (got < 0) return got;
      av_packet_rescale_ts(packet, codec->time_base, stream->time_base);
      packet->stream_index = stream->index;
      if (const int written = av_interleaved_write_frame(&format, packet); written < 0) return written;
    }
  }

  int piece(AVFormatContext& format) {
    const size_t many = codec->frame_size > 0 ? static_cast<size_t>(codec->frame_size) : 1024;
    const std::vector<float> samples = reader.next(many);
    const size_t got = samples.size() / 2;
    if (got < many) ended = true;
    if (got == 0) return 0;
    frame->nb_samples = static_cast<int>(got);
    frame->format = codec->sample_fmt;
    frame->sample_rate = codec->sample_rate;
    av_channel_layout_copy(&frame->ch_layout, &codec->ch_layout);
    if (const int room = av_frame_get_buffer(frame, 0); room < 0) return room;
    if (codec->sample_fmt == AV_SAMPLE_FMT_FLTP) {
      for (size_t n = 0; n < got; ++n)
        for (int c = 0; c < 2; ++c)
          reinterpret_cast<float*>(frame->data[c])[n] = samples[2 * n + static_cast<size_t>(c)];
    } else if (codec->sample_fmt == AV_SAMPLE_FMT_S16) {
      auto* out = reinterpret_cast<std::int16_t*>(frame->data[0]);
      for (size_t n = 0; n < 2 * got; ++n)
        out[n] = static_cast<std::int16_t>(std::lround(std::clamp(samples[n], -1.0F, 1.0F) * 32767));
    } else {
      std::memcpy(frame->data[0], samples.data(), samples.size() * sizeof(float));
    }
    frame->pts = at;
    at += static_cast<std::int64_t>(got);
    const int sent = avcodec_send_frame(codec, frame);
    av_frame_unref(frame);
    return sent < 0 ? sent : drain(format);
  }
};

SoundTrack::SoundTrack(const Sound& sound, double length_s, AVFormatContext& format, const char* name)
    : parts_(std::make_unique<Parts>(sound, length_s)) {
  Parts& p = *parts_;
  const AVCodec* encoder = avcodec_find_encoder_by_name(name);
  if (!encoder)
    throw failed(std::string(say("The FFmpeg libraries here have no encoder for sound (")) + name + ").");
  p.codec = avcodec_alloc_context3(encoder);
  p.codec->sample_rate = SoundReader::kRate;
  AVChannelLayout stereo = AV_CHANNEL_LAYOUT_STEREO;
  av_channel_layout_copy(&p.codec->ch_layout, &stereo);
  p.codec->sample_fmt = encoder->sample_fmts[0];
  p.codec->time_base = {1, SoundReader::kRate};
  p.codec->bit_rate = 192000;
  if (format.oformat->flags & AVFMT_GLOBALHEADER) p.codec->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  if (avcodec_open2(p.codec, encoder, nullptr) < 0)
    throw failed(say("The encoder for sound cannot be started."));
  p.stream = avformat_new_stream(&format, nullptr);
  p.stream->time_base = p.codec->time_base;
  if (avcodec_parameters_from_context(p.stream->codecpar, p.codec) < 0)
    throw failed(say("The encoder for sound cannot be started."));
  p.frame = av_frame_alloc();
  p.packet = av_packet_alloc();
}

SoundTrack::~SoundTrack() = default;

int SoundTrack::write_until(double film_s, AVFormatContext& format) {
  Parts& p = *parts_;
  while (!p.ended && static_cast<double>(p.at) < film_s * SoundReader::kRate)
    if (const int written = p.piece(format); written < 0) return written;
  return 0;
}

int SoundTrack::finish(AVFormatContext& format) {
  Parts& p = *parts_;
  while (!p.ended)
    if (const int written = p.piece(format); written < 0) return written;
  if (const int sent = avcodec_send_frame(p.codec, nullptr); sent < 0) return sent;
  return p.drain(format);
}

}  // namespace askcount::media
