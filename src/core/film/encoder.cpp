#include "film/encoder.h"

#include <fmt/format.h>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/opt.h>
}

#include "base/error.h"

namespace askcount::film {
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

const char* container(const fs::path& named) {
  const std::string ext = named.extension().string();
  if (ext == ".mp4") return "mp4";
  if (ext == ".mov") return "mov";
  if (ext == ".mkv") return "matroska";
  throw bad_input(fmt::format("\"{}\" does not say what kind of film to write.", named.string()),
                  "End its name in .mp4, .mov or .mkv.");
}

}  // namespace

void check_film(const fs::path& named, image::Size size, int bits) {
  container(named);
  if (bits != 8 && bits != 10)
    throw bad_input(fmt::format("Film of {} bits a colour cannot be encoded.", bits), "Use 8 or 10.");
  const auto bad = [](int n) { return n < 16 || n > 8192 || n % 2 != 0; };
  if (bad(size.width) || bad(size.height))
    throw bad_input(fmt::format("The size {}x{} cannot be encoded.", size.width, size.height),
                    "Both numbers must be even, from 16 to 8192: for example 1920x1080.");
}

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
    throw bad_input(fmt::format("{} is there already, and Ask Count did not make it.", output.file.string()),
                    "Name another file, or move that one away first; it was not changed.");
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
  if (!data_->frame) throw failed("There is no memory for a film frame.");
  data_->frame->format = pixel_format(bits, chroma);
  data_->frame->width = size.width;
  data_->frame->height = size.height;
  if (av_frame_get_buffer(data_->frame, 0) < 0) throw failed("There is no memory for a film frame.");
}

FrameBuffer::~FrameBuffer() = default;

FilmFrame FrameBuffer::film() const {
  // Where the encoder still looks at what was drawn last, new memory takes its place.
  if (av_frame_make_writable(data_->frame) < 0) throw failed("There is no memory for a film frame.");
  FilmFrame f;
  f.size = {data_->frame->width, data_->frame->height};
  f.bits = data_->bits;
  f.chroma = data_->chroma;
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

  ~Parts() {
    av_packet_free(&packet);
    avcodec_free_context(&codec);
    if (format && format->pb) avio_closep(&format->pb);
    avformat_free_context(format);
  }

  void check(int result, const char* what) const {
    if (result < 0) throw failed(fmt::format("{} of {} failed: {}.", what, name, words(result)));
  }

  void drain() {
    while (true) {
      const int got = avcodec_receive_packet(codec, packet);
      if (got == AVERROR(EAGAIN) || got == AVERROR_EOF) return;
      check(got, "Encoding");
      packet->duration = 1;
      av_packet_rescale_ts(packet, codec->time_base, stream->time_base);
      packet->stream_index = stream->index;
      check(av_interleaved_write_frame(format, packet), "Writing");
    }
  }
};

Encoder::Encoder(const fs::path& file, const fs::path& named, image::Size size, FrameRate fps,
                 const Coding& coding)
    : parts_(std::make_unique<Parts>()) {
  check_film(named, size, coding.bits);
  av_log_set_level(AV_LOG_ERROR);
  Parts& p = *parts_;
  p.name = named.string();
  p.check(avformat_alloc_output_context2(&p.format, nullptr, container(named), file.c_str()), "Opening");
  const AVCodec* h264 = avcodec_find_encoder_by_name("libx264");
  if (!h264)
    throw failed("The FFmpeg libraries here have no H.264 encoder.", "Install libavcodec with x264.");
  p.codec = avcodec_alloc_context3(h264);
  AVCodecContext& c = *p.codec;
  c.width = size.width;
  c.height = size.height;
  c.pix_fmt = pixel_format(coding.bits, coding.chroma);
  c.time_base = {fps.den, fps.num};
  c.framerate = {fps.num, fps.den};
  c.sample_aspect_ratio = {1, 1};
  c.color_range = AVCOL_RANGE_MPEG;
  c.color_primaries = AVCOL_PRI_BT709;
  c.colorspace = AVCOL_SPC_BT709;
  c.color_trc = AVCOL_TRC_IEC61966_2_1;
  c.chroma_sample_location = AVCHROMA_LOC_CENTER;
  if (p.format->oformat->flags & AVFMT_GLOBALHEADER) c.flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  av_opt_set(c.priv_data, "preset", coding.preset.c_str(), 0);
  av_opt_set_double(c.priv_data, "crf", coding.quality, 0);
  p.check(avcodec_open2(p.codec, h264, nullptr), "Starting the encoder");
  p.stream = avformat_new_stream(p.format, nullptr);
  p.stream->time_base = c.time_base;
  p.stream->avg_frame_rate = c.framerate;
  p.check(avcodec_parameters_from_context(p.stream->codecpar, p.codec), "Starting the film");
  p.packet = av_packet_alloc();
  p.check(avio_open(&p.format->pb, file.c_str(), AVIO_FLAG_WRITE), "Opening");
  AVDictionary* options = nullptr;
  av_dict_set(&options, "movflags", "+faststart", 0);
  av_dict_set(&p.format->metadata, "comment", kMark, 0);
  const int started = avformat_write_header(p.format, &options);
  av_dict_free(&options);
  p.check(started, "Writing");
}

Encoder::~Encoder() = default;

void Encoder::add(FrameBuffer& buffer) {
  AVFrame* frame = buffer.data_->frame;
  frame->pts = parts_->next++;
  parts_->check(avcodec_send_frame(parts_->codec, frame), "Encoding");
  parts_->drain();
}

void Encoder::finish() {
  Parts& p = *parts_;
  p.check(avcodec_send_frame(p.codec, nullptr), "Encoding");
  p.drain();
  p.check(av_write_trailer(p.format), "Closing");
  avio_flush(p.format->pb);
  const int broken = p.format->pb->error;
  p.check(broken, "Writing");
  p.check(avio_closep(&p.format->pb), "Closing");
}

}  // namespace askcount::film
