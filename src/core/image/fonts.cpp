// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/fonts.h"

#include <fmt/format.h>
#include <fontconfig/fontconfig.h>
#include <pango/pangocairo.h>
#include <pango/pangofc-fontmap.h>

#include <filesystem>

#include "base/error.h"

namespace askcount::image {
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

}  // namespace askcount::image
