// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/encoder.h"

#include <fmt/format.h>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/opt.h>
}

#include <cmath>
#include <cstdlib>

#include "base/error.h"
#include "base/language.h"
#include "media/coloured.h"
#include "media/reader.h"
#include "media/sound_track.h"

namespace askcount::media {
namespace fs = std::filesystem;
namespace {

constexpr char kMark[] = "Made with Ask Count";  // what the container's comment says

std::string words(int error) {
  char text[AV_ERROR_MAX_STRING_SIZE] = {};
  av_strerror(error, text, sizeof text);
  return text;
}

AVPixelFormat pixel_format(int bits, Chroma chroma) {
  if (chroma == Chroma::Half422) return bits == 10 ? AV_PIX_FMT_YUV422P10 : AV_PIX_FMT_YUV422P;
  return bits == 10 ? AV_PIX_FMT_YUV420P10 : AV_PIX_FMT_YUV420P;
}

AVColorSpace space_of(image::Size film) {
  return matrix_of(film) == Matrix::Bt601 ? AVCOL_SPC_SMPTE170M : AVCOL_SPC_BT709;
}

void set_options(AVCodecContext& c, const Coding& coding) {
  c.gop_size = kFromKeyToKey;
  for (const auto& [name, value] : facts_of(coding.codec).options(coding))
    av_opt_set(&c, name, value.c_str(), AV_OPT_SEARCH_CHILDREN);
}

}  // namespace

bool made_by_us(const fs::path& film) {
  if (written_kind(film) != FileKind::Film) return false;
  AVFormatContext* format = nullptr;
  if (avformat_open_input(&format, film.c_str(), nullptr, nullptr) < 0) return false;
  const AVDictionaryEntry* entry = av_dict_get(format->metadata, "comment", nullptr, 0);
  const bool ours = entry && std::string_view(entry->value) == kMark;
  avformat_close_input(&format);
  return ours;
}

void check_film_output(const Output& output) {
  check_output(output);
  std::error_code ec;
  if (output.guard.force || !fs::exists(output.file, ec) || fs::file_size(output.file, ec) == 0) return;
  if (!made_by_us(output.file))
    throw bad_input(say("{} already exists, and Ask Count did not make it.", output.file.string()),
                    say("Name another file, or move that one away first; it was not changed."));
}

struct FrameBuffer::Data {
  AVFrame* frame = nullptr;
  int bits = 8;
  Chroma chroma = Chroma::Half420;
  ~Data() { av_frame_free(&frame); }
};

FrameBuffer::FrameBuffer(image::Size size, int bits, Chroma chroma) : data_(std::make_unique<Data>()) {
  data_->bits = bits;
  data_->chroma = chroma;
  data_->frame = av_frame_alloc();
  if (!data_->frame) throw failed(say("There is no memory for a film frame."));
  data_->frame->format = pixel_format(bits, chroma);
  data_->frame->width = size.width;
  data_->frame->height = size.height;
  data_->frame->color_range = AVCOL_RANGE_MPEG;
  data_->frame->color_primaries = AVCOL_PRI_BT709;
  data_->frame->color_trc = AVCOL_TRC_IEC61966_2_1;
  data_->frame->colorspace = space_of(size);
  if (av_frame_get_buffer(data_->frame, 0) < 0) throw failed(say("There is no memory for a film frame."));
}

FrameBuffer::~FrameBuffer() = default;

FilmFrame FrameBuffer::film() const {
  // Where the encoder still looks at what was drawn last, new memory takes its place.
  if (av_frame_make_writable(data_->frame) < 0) throw failed(say("There is no memory for a film frame."));
  FilmFrame f;
  f.size = {data_->frame->width, data_->frame->height};
  f.bits = data_->bits;
  f.chroma = data_->chroma;
  f.matrix = matrix_of(f.size);
  for (int i = 0; i < 3; ++i) {
    f.plane[i] = data_->frame->data[i];
    f.stride[i] = data_->frame->linesize[i];
  }
  return f;
}

struct Encoder::Parts {
  std::string name;
  AVFormatContext* format = nullptr;
  AVCodecContext* codec = nullptr;
  AVStream* stream = nullptr;
  AVPacket* packet = nullptr;
  std::int64_t next = 0;
  FrameRate fps;
  std::unique_ptr<Coloured> coloured;  // for codecs that take red, green and blue
  std::unique_ptr<SoundTrack> sound;

  ~Parts() {
    av_packet_free(&packet);
    avcodec_free_context(&codec);
    if (format && format->pb) avio_closep(&format->pb);
    avformat_free_context(format);
  }

  void check(int result, const std::string& what) const {
    if (result < 0) throw failed(say("{} of {} failed: {}.", what, name, words(result)));
  }

  void drain() {
    while (true) {
      const int got = avcodec_receive_packet(codec, packet);
      if (got == AVERROR(EAGAIN) || got == AVERROR_EOF) return;
      check(got, say("Encoding"));
      if (!coloured) packet->duration = 1;
      av_packet_rescale_ts(packet, codec->time_base, stream->time_base);
      packet->stream_index = stream->index;
      check(av_interleaved_write_frame(format, packet), say("Writing"));
    }
  }

  void send(AVFrame* frame) {
    check(avcodec_send_frame(codec, frame), say("Encoding"));
    drain();
  }

  void start_pictures(const Coding& coding, image::Size size);
  void tell(const Extras& extras);
};

void Encoder::Parts::start_pictures(const Coding& coding, image::Size size) {
  const CodecFacts& facts = facts_of(coding.codec);
  const AVCodec* encoder = avcodec_find_encoder_by_name(facts.encoder);
  if (!encoder)
    throw failed(say("The FFmpeg libraries here have no {} encoder.", facts.words),
                 say("Install libavcodec with {}, or choose another codec.", facts.encoder));
  codec = avcodec_alloc_context3(encoder);
  AVCodecContext& c = *codec;
  c.width = size.width;
  c.height = size.height;
  c.pix_fmt = pixel_format(coding.bits, coding.chroma);
  c.time_base = {fps.den, fps.num};
  c.framerate = {fps.num, fps.den};
  c.sample_aspect_ratio = {1, 1};
  c.color_range = AVCOL_RANGE_MPEG;
  c.color_primaries = AVCOL_PRI_BT709;
  c.colorspace = space_of(size);
  c.color_trc = AVCOL_TRC_IEC61966_2_1;
  c.chroma_sample_location = AVCHROMA_LOC_CENTER;
  if (facts.animation) {
    coloured = std::make_unique<Coloured>(size, c.pix_fmt, fps, coding.codec == Codec::Gif);
    c.pix_fmt = coloured->format();
    c.color_range = AVCOL_RANGE_JPEG;
    c.colorspace = AVCOL_SPC_RGB;
    c.time_base = coloured->time_base();
  }
  if (facts.tag && std::string_view(format->oformat->name) != "matroska")
    c.codec_tag = MKTAG(facts.tag[0], facts.tag[1], facts.tag[2], facts.tag[3]);
  if (format->oformat->flags & AVFMT_GLOBALHEADER) c.flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  set_options(c, coding);
  check(avcodec_open2(codec, encoder, nullptr), say("Starting the encoder"));
  stream = avformat_new_stream(format, nullptr);
  stream->time_base = c.time_base;
  stream->avg_frame_rate = c.framerate;
  stream->sample_aspect_ratio = {1, 1};
  check(avcodec_parameters_from_context(stream->codecpar, codec), say("Starting the film"));
}

void Encoder::Parts::tell(const Extras& extras) {
  const auto say_one = [&](const char* key, const std::string& text) {
    if (!text.empty()) av_dict_set(&format->metadata, key, text.c_str(), 0);
  };
  say_one("comment", kMark);
  say_one("title", extras.title);
  say_one("description", extras.words);
  say_one("artist", extras.author);
  say_one("location_name", extras.place);
  if (!extras.place.empty() && extras.words.empty()) say_one("description", extras.place);
  if (extras.chapters.empty()) return;
  auto** chapters = static_cast<AVChapter**>(
      av_calloc(extras.chapters.size(), sizeof(AVChapter*)));  // freed with the format
  for (size_t n = 0; n < extras.chapters.size(); ++n) {
    const double end = n + 1 < extras.chapters.size() ? extras.chapters[n + 1].at_s : extras.length_s;
    auto* chapter = static_cast<AVChapter*>(av_mallocz(sizeof(AVChapter)));
    chapter->id = static_cast<std::int64_t>(n) + 1;
    chapter->time_base = {1, 1000};
    chapter->start = std::llround(extras.chapters[n].at_s * 1000);
    chapter->end = std::llround(end * 1000);
    av_dict_set(&chapter->metadata, "title", extras.chapters[n].title.c_str(), 0);
    chapters[n] = chapter;
  }
  format->chapters = chapters;
  format->nb_chapters = static_cast<unsigned>(extras.chapters.size());
}

Encoder::Encoder(const fs::path& file, const fs::path& named, image::Size size, FrameRate fps,
                 const Coding& coding, const Extras& extras)
    : parts_(std::make_unique<Parts>()) {
  check_coding(named, size, coding);
  quieten_film_libraries();
  Parts& p = *parts_;
  p.name = named.string();
  p.fps = fps;
  p.check(avformat_alloc_output_context2(&p.format, nullptr, container_of(named)->muxer, file.c_str()),
          say("Opening"));
  p.start_pictures(coding, size);
  if (!extras.sound.file.empty()) {
    if (p.coloured)
      throw bad_input(say("{} holds no sound.", named.filename().string()),
                      say("Leave the sound out, or name a film."));
    const char* beside = facts_of(coding.codec).sound;
    p.sound = std::make_unique<SoundTrack>(extras.sound, extras.length_s, *p.format,
                                           beside ? beside : container_of(named)->sound);
  }
  p.packet = av_packet_alloc();
  p.check(avio_open(&p.format->pb, file.c_str(), AVIO_FLAG_WRITE), say("Opening"));
  AVDictionary* options = nullptr;
  av_dict_set(&options, "movflags", extras.place.empty() ? "+faststart" : "+faststart+use_metadata_tags", 0);
  if (p.coloured) av_dict_set(&options, "loop", "0", 0);
  p.tell(extras);
  const int started = avformat_write_header(p.format, &options);
  av_dict_free(&options);
  p.check(started, say("Writing"));
}

Encoder::~Encoder() = default;

void Encoder::add(FrameBuffer& buffer) {
  Parts& p = *parts_;
  AVFrame* frame = buffer.data_->frame;
  frame->pts = p.next++;
  if (p.coloured) {
    p.coloured->add(frame, [&](AVFrame* coloured) { p.send(coloured); });
  } else {
    p.send(frame);
  }
  // Sound goes beside the pictures it belongs to, so that neither waits in memory for the other.
  if (p.sound)
    p.check(p.sound->write_until(static_cast<double>(p.next) / p.fps.value(), *p.format),
            say("Writing the sound"));
}

void Encoder::finish() {
  Parts& p = *parts_;
  if (p.coloured) p.coloured->finish([&](AVFrame* coloured) { p.send(coloured); });
  p.check(avcodec_send_frame(p.codec, nullptr), say("Encoding"));
  p.drain();
  if (p.sound) p.check(p.sound->finish(*p.format), say("Writing the sound"));
  p.check(av_write_trailer(p.format), say("Closing"));
  avio_flush(p.format->pb);
  const int broken = p.format->pb->error;
  p.check(broken, say("Writing"));
  p.check(avio_closep(&p.format->pb), say("Closing"));
}

}  // namespace askcount::media
