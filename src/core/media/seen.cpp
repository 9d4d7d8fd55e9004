// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/seen.h"

extern "C" {
#include <libswscale/swscale.h>
}

#include <memory>

#include "base/error.h"
#include "base/language.h"

namespace askcount::media {
namespace {

AVPixelFormat format_of(const FilmFrame& f) {
  const bool half = f.chroma == Chroma::Half420;
  if (f.bits == 10) return half ? AV_PIX_FMT_YUV420P10 : AV_PIX_FMT_YUV422P10;
  return half ? AV_PIX_FMT_YUV420P : AV_PIX_FMT_YUV422P;
}

struct FreeScaler {
  void operator()(SwsContext* s) const { sws_freeContext(s); }
};

}  // namespace

image::Coded8 seen(const FilmFrame& f) {
  const std::unique_ptr<SwsContext, FreeScaler> scaler(
      sws_getContext(f.size.width, f.size.height, format_of(f), f.size.width, f.size.height, AV_PIX_FMT_RGB24,
                     SWS_BILINEAR | SWS_ACCURATE_RND, nullptr, nullptr, nullptr));
  if (!scaler) throw failed(say("There is no memory for a picture."));
  const int* coded = sws_getCoefficients(f.matrix == Matrix::Bt601 ? SWS_CS_ITU601 : SWS_CS_ITU709);
  sws_setColorspaceDetails(scaler.get(), coded, 0, sws_getCoefficients(SWS_CS_ITU709), 1, 0, 1 << 16,
                           1 << 16);
  image::Coded8 out(f.size);
  std::uint8_t* planes[] = {out.rgb.data()};
  const int strides[] = {3 * f.size.width};
  sws_scale(scaler.get(), f.plane, f.stride, 0, f.size.height, planes, strides);
  return out;
}

}  // namespace askcount::media
