// SPDX-License-Identifier: GPL-3.0-or-later
// askcount thumbnail: a small picture of a take, for file managers.
#include <fmt/format.h>

#include <algorithm>
#include <memory>

#include "base/error.h"
#include "base/files.h"
#include "base/units.h"
#include "book/book.h"
#include "book/learn.h"
#include "filing.h"
#include "forecast/gather.h"
#include "image/canvas.h"
#include "ingest/gather.h"
#include "media/jpeg.h"
#include "verbs.h"

namespace askcount::cli {
namespace {
namespace fs = std::filesystem;

struct ThumbnailOptions {
  std::string take, output;
  int size = 256;
  bool force = false;
};

/// A film's poster that lies beside the take: "NAME poster.jpg", where NAME begins as the take's file does;
/// the newest of them.
fs::path poster_of(const fs::path& take) {
  fs::path found;
  fs::file_time_type newest{};
  std::error_code ec;
  for (const auto& entry :
       fs::directory_iterator(take.parent_path().empty() ? "." : take.parent_path(), ec)) {
    const std::string name = entry.path().filename().string();
    if (!name.starts_with(take.stem().string()) || name.find(" poster") == std::string::npos ||
        entry.path().extension() != ".jpg")
      continue;
    const auto at = entry.last_write_time(ec);
    if (found.empty() || at > newest) found = entry.path(), newest = at;
  }
  return found;
}

/// JPEG bytes: by the poster, by the book, by the frames.
media::Bytes picture_of(const fs::path& file) {
  if (const fs::path poster = poster_of(file); !poster.empty()) return media::read_bytes(poster);
  std::string bytes;
  std::error_code ec;
  if (const fs::path own = book_file(); fs::exists(own, ec)) {
    try {
      book::Book book(own);
      if (const auto e = book.of_file(file)) bytes = book.picture(e->id);
    } catch (const Error&) {
      // The frames show it as well.
    }
  }
  if (bytes.empty()) {
    const take::Take take = take::load_take(file);
    // File managers ask without a person: only frames that lie with the take are looked at.
    const fs::path named = fs::path(take.card).lexically_normal(), card = file.parent_path() / named;
    const bool with_it = !named.empty() && !named.is_absolute() && *named.begin() != "..";
    if (with_it && fs::exists(card, ec))
      bytes = book::picture_of(ingest::gather(forecast::gather_ask(take, {card})).frames);
  }
  if (bytes.empty())
    throw bad_input(fmt::format("{} has no picture yet: no frames and no film.", file.string()));
  return {bytes.begin(), bytes.end()};
}

Answer thumbnail_verb(const ThumbnailOptions& asked) {
  const fs::path file = asked.take;
  take::load_take(file);  // refuses what is no take
  const media::Bytes bytes = picture_of(file);
  const image::Size full = media::jpeg_size(bytes, file.string());
  const int eighths =
      media::decoding_eighths({0, 0, static_cast<double>(full.width), static_cast<double>(full.height)},
                              {std::min(full.width, asked.size), std::min(full.height, asked.size)});
  const image::Coded8 decoded = media::decode_jpeg(bytes, eighths, file.string());
  const image::Coded8 small = book::shrunk(decoded, {asked.size, asked.size});
  fill_waiting_file({asked.output, FileKind::Picture, {{file}, asked.force}},
                    image::Canvas(small.size.width, small.size.height, small.rgb.data()).png());
  return {{{"thumbnail", asked.output}, {"width", small.size.width}, {"height", small.size.height}},
          fmt::format("{}: {} × {}.\n", asked.output, small.size.width, small.size.height)};
}

}  // namespace

void add_thumbnail(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "thumbnail", "A small picture of a take, for file managers (PNG)");
  const auto asked = std::make_shared<ThumbnailOptions>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  verb.add_option("-o,--output", asked->output, "The picture to write").required();
  verb.add_option("--size", asked->size, "Longest side, in pixels").between(16, 2048);
  add_force(verb, asked->force);
  verb.callback([&chosen, asked] { chosen.run = [asked] { return thumbnail_verb(*asked); }; });
}

}  // namespace askcount::cli
