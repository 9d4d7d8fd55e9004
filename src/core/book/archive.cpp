// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/archive.h"

#include <archive.h>
#include <archive_entry.h>
#include <fmt/format.h>

#include <array>
#include <fstream>
#include <memory>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::book {
namespace fs = std::filesystem;
namespace {

struct Close {
  void operator()(archive* a) const { archive_write_free(a); }
  void operator()(archive_entry* e) const { archive_entry_free(e); }
};

}  // namespace

bool is_archive(const fs::path& file) {
  const std::string ending = lowered(file.extension().string());
  return ending == ".tar" || ending == ".zip";
}

void write_archive(const fs::path& folder, const fs::path& file, const Work& work) {
  TemporaryFile passing({file, FileKind::Frame});
  const std::unique_ptr<archive, Close> out(archive_write_new());
  const auto check = [&](int code) {
    if (code < ARCHIVE_WARN)
      throw failed(say("{} cannot be written: {}.", file.string(), archive_error_string(out.get())),
                   say("Is there room?"));
  };
  if (lowered(file.extension().string()) == ".zip") {
    check(archive_write_set_format_zip(out.get()));
    check(archive_write_zip_set_compression_store(out.get()));
  } else {
    check(archive_write_set_format_pax_restricted(out.get()));
  }
  check(archive_write_open_filename(out.get(), passing.path().c_str()));
  std::size_t files = 0, done = 0;
  for (const auto& entry : fs::recursive_directory_iterator(folder)) files += entry.is_regular_file() ? 1 : 0;
  std::array<char, 1 << 18> block{};
  for (const auto& entry : fs::recursive_directory_iterator(folder)) {
    if (work.stop.stop_requested()) throw cancelled(say("The packing was stopped; no archive was written."));
    if (!entry.is_regular_file()) continue;
    const fs::path name = folder.filename() / entry.path().lexically_relative(folder);
    const std::unique_ptr<archive_entry, Close> head(archive_entry_new());
    archive_entry_set_pathname_utf8(head.get(), name.generic_string().c_str());
    archive_entry_set_size(head.get(), static_cast<la_int64_t>(entry.file_size()));
    archive_entry_set_filetype(head.get(), AE_IFREG);
    archive_entry_set_perm(head.get(), 0644);
    const auto changed = std::chrono::file_clock::to_sys(entry.last_write_time()).time_since_epoch();
    archive_entry_set_mtime(head.get(), std::chrono::duration_cast<std::chrono::seconds>(changed).count(), 0);
    check(archive_write_header(out.get(), head.get()));
    std::ifstream in(entry.path(), std::ios::binary);
    while (in.read(block.data(), block.size()) || in.gcount() > 0)
      if (archive_write_data(out.get(), block.data(), static_cast<std::size_t>(in.gcount())) < 0)
        check(ARCHIVE_FATAL);
    if (!in.eof()) throw failed(say("{} cannot be read.", entry.path().string()));
    work.report(++done, files);
  }
  check(archive_write_close(out.get()));
  passing.put_in_place();
}

}  // namespace askcount::book
