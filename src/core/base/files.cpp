#include "base/files.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <unistd.h>

#include <cctype>
#include <cerrno>
#include <cstring>
#include <fstream>

#include "base/error.h"

namespace askcount {
namespace fs = std::filesystem;

std::string read_file(const fs::path& file) {
  std::error_code ec;
  if (!fs::exists(file, ec))
    throw bad_input(fmt::format("{} does not exist.", file.string()), "Check the name.");
  if (fs::is_directory(file, ec)) throw bad_input(fmt::format("{} is a folder, not a file.", file.string()));
  std::ifstream in(file, std::ios::binary | std::ios::ate);
  if (!in) throw bad_input(fmt::format("{} cannot be opened: {}.", file.string(), std::strerror(errno)));
  std::string content(static_cast<size_t>(in.tellg()), '\0');
  in.seekg(0);
  if (!in.read(content.data(), static_cast<std::streamsize>(content.size())))
    throw bad_input(fmt::format("{} cannot be read: {}.", file.string(), std::strerror(errno)));
  return content;
}

fs::path part_name(const fs::path& file) {
  return fs::path(file.string() + ".part");
}

void write_file_atomically(const fs::path& file, std::string_view content, Flush flush) {
  const fs::path part = part_name(file);
  const auto fail = [&file] {
    return failed(fmt::format("{} cannot be written: {}.", file.string(), std::strerror(errno)),
                  "Nothing was changed; save it somewhere else or make room.");
  };
  const int fd = ::open(part.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
  if (fd < 0) throw fail();
  RemoveUnlessKept guard(part);
  size_t done = 0;
  while (done < content.size()) {
    const ssize_t n = ::write(fd, content.data() + done, content.size() - done);
    if (n < 0 && errno == EINTR) continue;
    if (n <= 0) {
      const Error error = fail();
      ::close(fd);
      throw error;
    }
    done += static_cast<size_t>(n);
  }
  const bool flushed = flush == Flush::No || ::fsync(fd) == 0;
  if (::close(fd) != 0 || !flushed) throw fail();
  if (::rename(part.c_str(), file.c_str()) != 0) throw fail();
  guard.keep();
}

RemoveUnlessKept::~RemoveUnlessKept() {
  std::error_code ec;
  if (!kept_) fs::remove(file_, ec);
}

void require_folder(const fs::path& folder) {
  std::error_code ec;
  if (!fs::exists(folder, ec))
    throw bad_input(fmt::format("The folder {} does not exist.", folder.string()), "Check the name.");
  if (!fs::is_directory(folder, ec))
    throw bad_input(fmt::format("{} is a file, not a folder.", folder.string()));
  fs::directory_iterator probe(folder, ec);
  if (ec) throw bad_input(fmt::format("The folder {} cannot be read: {}.", folder.string(), ec.message()));
}

bool natural_less(std::string_view a, std::string_view b) {
  size_t i = 0, j = 0;
  const auto digit = [](char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; };
  while (i < a.size() && j < b.size()) {
    if (digit(a[i]) && digit(b[j])) {
      size_t ie = i, je = j;
      while (ie < a.size() && digit(a[ie])) ++ie;
      while (je < b.size() && digit(b[je])) ++je;
      while (i + 1 < ie && a[i] == '0') ++i;
      while (j + 1 < je && b[j] == '0') ++j;
      if (ie - i != je - j) return ie - i < je - j;
      const int order = a.substr(i, ie - i).compare(b.substr(j, je - j));
      if (order != 0) return order < 0;
      i = ie;
      j = je;
    } else {
      if (a[i] != b[j]) return a[i] < b[j];
      ++i;
      ++j;
    }
  }
  return a.size() - i < b.size() - j;
}

}  // namespace askcount
