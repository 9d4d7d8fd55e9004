// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/coloured.h"

#include <fmt/format.h>

extern "C" {
#include <libavfilter/avfilter.h>
#include <libavfilter/buffersink.h>
#include <libavfilter/buffersrc.h>
#include <libavutil/pixdesc.h>
}

#include "base/error.h"
#include "base/language.h"
#include "media/frame_buffer.h"

namespace askcount::media {

struct Coloured::Parts {
  AVFilterGraph* graph = nullptr;
  AVFilterContext *source = nullptr, *sink = nullptr;
  AVFrame* out = nullptr;
  bool palette = false;
  FrameRate fps;

  ~Parts() {
    av_frame_free(&out);
    avfilter_graph_free(&graph);
  }
  static void check(int result) {
    if (result < 0) throw failed(say("The FFmpeg libraries cannot make moving pictures of these frames."));
  }
  void drain(const Take& take, AVRational to) {
    while (av_buffersink_get_frame(sink, out) >= 0) {
      out->pts = av_rescale_q(out->pts, av_buffersink_get_time_base(sink), to);
      take(out);
      av_frame_unref(out);
    }
  }
};

Coloured::Coloured(image::Size size, AVPixelFormat from, FrameRate fps, bool palette)
    : parts_(std::make_unique<Parts>()) {
  Parts& p = *parts_;
  p.palette = palette;
  p.fps = fps;
  p.graph = avfilter_graph_alloc();
  p.out = av_frame_alloc();
  const std::string in = fmt::format("video_size={}x{}:pix_fmt={}:time_base={}/{}:pixel_aspect=1/1",
                                     size.width, size.height, static_cast<int>(from), fps.den, fps.num);
  Parts::check(avfilter_graph_create_filter(&p.source, avfilter_get_by_name("buffer"), "in", in.c_str(),
                                            nullptr, p.graph));
  Parts::check(avfilter_graph_create_filter(&p.sink, avfilter_get_by_name("buffersink"), "out", nullptr,
                                            nullptr, p.graph));
  const std::string from_film =
      fmt::format("scale=in_color_matrix={}:in_range=tv:flags=accurate_rnd+full_chroma_int,",
                  matrix_of(size) == Matrix::Bt601 ? "bt601" : "bt709");
  // No palette of all frames: that one would hold all of them in memory.
  const std::string how =
      palette ? from_film +
                    "format=rgb24,"
                    "split[a][b];[a]palettegen=stats_mode=single:max_colors=255[p];[b][p]paletteuse=new=1:"
                    "dither=bayer:bayer_scale=4"
              : from_film + "format=bgra";
  AVFilterInOut* outputs = avfilter_inout_alloc();
  AVFilterInOut* inputs = avfilter_inout_alloc();
  outputs->name = av_strdup("in");
  outputs->filter_ctx = p.source;
  outputs->pad_idx = 0;
  outputs->next = nullptr;
  inputs->name = av_strdup("out");
  inputs->filter_ctx = p.sink;
  inputs->pad_idx = 0;
  inputs->next = nullptr;
  const int parsed =
      avfilter_graph_parse_ptr(p.graph, ("[in]" + how + "[out]").c_str(), &inputs, &outputs, nullptr);
  avfilter_inout_free(&inputs);
  avfilter_inout_free(&outputs);
  Parts::check(parsed);
  Parts::check(avfilter_graph_config(p.graph, nullptr));
}

Coloured::~Coloured() = default;

AVPixelFormat Coloured::format() const {
  return parts_->palette ? AV_PIX_FMT_PAL8 : AV_PIX_FMT_BGRA;
}

AVRational Coloured::time_base() const {
  return parts_->palette ? AVRational{1, 100} : AVRational{1, 1000};
}

void Coloured::add(const AVFrame* frame, const Take& take) {
  Parts& p = *parts_;
  Parts::check(av_buffersrc_write_frame(p.source, frame));
  p.drain(take, time_base());
}

void Coloured::finish(const Take& take) {
  Parts::check(av_buffersrc_add_frame(parts_->source, nullptr));
  parts_->drain(take, time_base());
}

}  // namespace askcount::media
