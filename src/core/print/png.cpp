#include "print/png.h"

#include <fmt/format.h>
#include <fontconfig/fontconfig.h>
#include <pango/pangocairo.h>
#include <pango/pangofc-fontmap.h>
#include <zlib.h>

#include <string>

#include "base/error.h"
#include "base/files.h"

namespace askcount::print {
namespace {

cairo_status_t append(void* closure, const unsigned char* data, unsigned int length) {
  static_cast<std::string*>(closure)->append(reinterpret_cast<const char*>(data), length);
  return CAIRO_STATUS_SUCCESS;
}

/// The PNG with our name in it, right after its header, so that it is known again.
std::string marked(const std::string& png) {
  constexpr size_t kHeader = 33;  // the signature and the IHDR chunk
  const std::string chunk = std::string("tEXtSoftware") + '\0' + "Ask Count";
  const auto number = [](std::uint32_t n) {
    return std::string{static_cast<char>(n >> 24), static_cast<char>(n >> 16), static_cast<char>(n >> 8),
                       static_cast<char>(n)};
  };
  const auto crc = static_cast<std::uint32_t>(
      crc32(0, reinterpret_cast<const Bytef*>(chunk.data()), static_cast<uInt>(chunk.size())));
  return png.substr(0, kHeader) + number(static_cast<std::uint32_t>(chunk.size() - 4)) + chunk + number(crc) +
         png.substr(kHeader);
}

}  // namespace

std::string png_bytes(cairo_surface_t* surface) {
  std::string bytes;
  const cairo_status_t status = cairo_surface_write_to_png_stream(surface, append, &bytes);
  if (status != CAIRO_STATUS_SUCCESS)
    throw failed(fmt::format("The picture cannot be made: {}.", cairo_status_to_string(status)));
  return marked(bytes);
}

void write_png(cairo_surface_t* surface, const std::filesystem::path& file, const Guard& guard) {
  write_file_atomically({file, FileKind::Picture, guard}, png_bytes(surface));
}

namespace {

/// Beside the program where it is installed, otherwise where it was built.
std::filesystem::path fonts_folder() {
  std::error_code ec;
  const std::filesystem::path program = std::filesystem::read_symlink("/proc/self/exe", ec);
  const std::filesystem::path installed = program.parent_path().parent_path() / "share/ask-count/fonts";
  return !ec && std::filesystem::is_directory(installed, ec) ? installed
                                                             : std::filesystem::path(ASKCOUNT_FONTS);
}

}  // namespace

void know_fonts() {
  // A list of fonts of our own: what a window has loaded from its resources stands in the process's list
  // under names that are no files, and letters drawn with those are boxes.
  static FcConfig* const fonts = [] {
    FcConfig* config = FcInitLoadConfigAndFonts();
    const std::string folder = fonts_folder().string();
    const auto* name = reinterpret_cast<const FcChar8*>(folder.c_str());
    return config && FcConfigAppFontAddDir(config, name) == FcTrue ? config : nullptr;
  }();
  if (!fonts) throw failed(fmt::format("The fonts in {} cannot be used.", fonts_folder().string()));
  thread_local const bool used = [] {  // every thread has a font map
    pango_fc_font_map_set_config(PANGO_FC_FONT_MAP(pango_cairo_font_map_get_default()), fonts);
    return true;
  }();
  (void)used;
}

}  // namespace askcount::print
