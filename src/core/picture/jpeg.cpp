#include "picture/jpeg.h"

#include <fmt/format.h>
#include <turbojpeg.h>

#include <cerrno>
#include <cstring>
#include <fstream>
#include <memory>

#include "base/error.h"

namespace askcount::picture {
namespace {

struct Close {
  void operator()(void* handle) const { tjDestroy(handle); }
};
using Handle = std::unique_ptr<void, Close>;

/// One decoder a thread: making one costs more than reading a thumbnail.
tjhandle decoder() {
  thread_local Handle handle(tjInitDecompress());
  return handle.get();
}

Error unreadable(const std::string& name, const std::string& why) {
  return failed(fmt::format("{} cannot be read as a picture: {}.", name, why));
}

/// Warnings that mean that part of the picture is not there.
bool means_loss(const std::string& warning) {
  return warning.find("remature end") != std::string::npos || warning.find("orrupt") != std::string::npos ||
         warning.find("nvalid") != std::string::npos;
}

}  // namespace

Bytes read_bytes(const std::filesystem::path& file) {
  std::ifstream in(file, std::ios::binary | std::ios::ate);
  if (!in) throw failed(fmt::format("{} cannot be opened: {}.", file.string(), std::strerror(errno)));
  const auto length = in.tellg();
  Bytes bytes(length > 0 ? static_cast<size_t>(length) : 0);
  in.seekg(0);
  if (!in.read(reinterpret_cast<char*>(bytes.data()), static_cast<std::streamsize>(bytes.size())))
    throw failed(fmt::format("{} cannot be read: {}.", file.string(), std::strerror(errno)));
  return bytes;
}

Size jpeg_size(std::span<const std::uint8_t> bytes, const std::string& name) {
  Size size;
  int subsampling = 0, colours = 0;
  if (bytes.empty()) throw unreadable(name, "it is empty");
  if (tjDecompressHeader3(decoder(), bytes.data(), bytes.size(), &size.width, &size.height, &subsampling,
                          &colours) != 0)
    throw unreadable(name, tjGetErrorStr2(decoder()));
  return size;
}

Size scaled_size(Size full, int eighths) {
  const tjscalingfactor factor{eighths, 8};
  return {TJSCALED(full.width, factor), TJSCALED(full.height, factor)};
}

int decoding_eighths(const Rect& crop, Size film) {
  for (const int eighths : {1, 2, 3, 4, 5, 6, 7})
    if (crop.width * eighths >= film.width * 8 && crop.height * eighths >= film.height * 8) return eighths;
  return 8;
}

Picture8 decode_jpeg(std::span<const std::uint8_t> bytes, int eighths, const std::string& name) {
  Picture8 picture(scaled_size(jpeg_size(bytes, name), eighths));
  const int done = tjDecompress2(decoder(), bytes.data(), bytes.size(), picture.rgb.data(), picture.size.width, 0,
                                 picture.size.height, TJPF_RGB, 0);
  if (done != 0) {
    const std::string why = tjGetErrorStr2(decoder());
    if (tjGetErrorCode(decoder()) == TJERR_FATAL || means_loss(why)) throw unreadable(name, why);
  }
  return picture;
}

Bytes encode_jpeg(const Picture8& picture, int quality) {
  thread_local Handle handle(tjInitCompress());
  unsigned char* data = nullptr;
  unsigned long length = 0;
  if (tjCompress2(handle.get(), picture.rgb.data(), picture.size.width, 0, picture.size.height, TJPF_RGB, &data,
                  &length, TJSAMP_422, quality, 0) != 0)
    throw failed(fmt::format("A picture cannot be compressed: {}.", tjGetErrorStr2(handle.get())));
  Bytes bytes(data, data + length);
  tjFree(data);
  return bytes;
}

}  // namespace askcount::picture
