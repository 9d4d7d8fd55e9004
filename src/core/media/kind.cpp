// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/kind.h"

#include <algorithm>
#include <array>
#include <string>
#include <string_view>
#include <utility>

#include "base/units.h"

namespace askcount::media {
namespace {

using Endings = std::pair<Kind, std::string_view>;  // endings with a space on either side

bool digits_only(const std::string& name) {
  return std::all_of(name.begin(), name.end(), [](char c) { return c >= '0' && c <= '9'; });
}

constexpr std::array<Endings, 7> kEndings{{
    {Kind::Jpeg, " .jpg .jpeg .jpe "},
    {Kind::Raw,
     " .dng .raw .cr2 .cr3 .crw .nef .nrw .arw .srf .sr2 .raf .orf .rw2 .pef .ptx .srw .x3f .3fr .fff .iiq "
     ".mos .mef .mrw .erf .dcr .kdc .rwl .gpr .cap .bay "},
    {Kind::Tiff, " .tif .tiff "},
    {Kind::Png, " .png "},
    {Kind::Heif, " .heic .heif .hif .avif "},
    {Kind::Film, " .mp4 .mov .m4v .mkv .avi .mts .m2ts .mpg .mpeg .webm .wmv .mxf "},
    {Kind::Sidecar, " .xmp .thm .wav .pp3 .dop .gpx .lrv "},
}};

}  // namespace

Kind kind_of(const std::filesystem::path& file) {
  const bool in_film = !file.has_extension() && file.has_parent_path() && file.parent_path().has_extension();
  const std::string ending =
      " " + lowered((in_film ? file.parent_path().extension() : file.extension()).string()) + " ";
  if (ending == "  " || (in_film && !digits_only(file.filename().string()))) return Kind::Other;
  for (const auto& [kind, endings] : kEndings)
    if (endings.find(ending) != std::string_view::npos)
      return in_film && kind != Kind::Film ? Kind::Other : kind;
  return Kind::Other;
}

bool is_still(Kind kind) {
  return kind <= Kind::Heif;
}

const char* kind_word(Kind kind) {
  static constexpr const char* words[] = {"jpeg", "raw", "tiff", "png", "heif", "film", "sidecar", "other"};
  return words[static_cast<int>(kind)];
}

}  // namespace askcount::media
