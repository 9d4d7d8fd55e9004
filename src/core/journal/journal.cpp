#include "journal/journal.h"

#include <nlohmann/json.hpp>

#include <fcntl.h>
#include <fmt/format.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <fstream>
#include <utility>

#include "base/error.h"
#include "base/instant.h"

namespace askcount::journal {

Journal::~Journal() {
  close();
}
Journal::Journal(Journal&& other) noexcept
    : handle_(std::exchange(other.handle_, -1)), file_(std::move(other.file_)) {}
Journal& Journal::operator=(Journal&& other) noexcept {
  if (this != &other) {
    close();
    handle_ = std::exchange(other.handle_, -1);
    file_ = std::move(other.file_);
  }
  return *this;
}

void Journal::open(const std::filesystem::path& file) {
  close();
  file_ = file;
  handle_ = ::open(file.c_str(), O_WRONLY | O_CREAT | O_APPEND | O_CLOEXEC, 0644);
  if (handle_ < 0)
    throw failed(fmt::format("The journal {} cannot be written: {}.", file.string(), std::strerror(errno)),
                 "Save the take where there is room and permission.");
}

void Journal::close() {
  if (handle_ >= 0) ::close(handle_);
  handle_ = -1;
}

void Journal::append(Json entry) {
  if (handle_ < 0) return;
  if (!entry.contains("at")) entry["at"] = now().time_since_epoch().count();
  const std::string line = entry.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n";
  // One write a line: a line is there whole or, after a crash, a half one at the very end.
  if (::write(handle_, line.data(), line.size()) != static_cast<ssize_t>(line.size()) ||
      ::fdatasync(handle_) != 0)
    throw failed(fmt::format("The journal {} cannot be written: {}.", file_.string(), std::strerror(errno)),
                 "Is there room?");
}

std::vector<Json> read_journal(const std::filesystem::path& file) {
  std::vector<Json> list;
  std::ifstream in(file);
  for (std::string line; std::getline(in, line);) {
    Json json = Json::parse(line, nullptr, false);
    if (!json.is_discarded() && json.is_object() && json.contains("what")) list.push_back(std::move(json));
  }
  return list;
}

std::filesystem::path journal_file(const std::filesystem::path& take_file) {
  std::filesystem::path file = take_file;
  return file.replace_extension(".journal");
}

}  // namespace askcount::journal
