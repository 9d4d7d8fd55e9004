// Files written whole or not at all.
#pragma once

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

namespace askcount {

/// The whole of a file. Throws BadInput naming it where it cannot be read.
std::string read_file(const std::filesystem::path& file);

/// Whether a file is flushed to the disk before it takes its name: a document is, a camera's frame is not.
enum class Flush { Yes, No };

/// Writes to a temporary name beside `file` and renames: the old content stays whole until the new one is.
/// Throws Failed naming the file; nothing half-written is left.
void write_file_atomically(const std::filesystem::path& file, std::string_view content,
                           Flush flush = Flush::Yes);

/// The temporary name used beside `file` while it is being written.
std::filesystem::path part_name(const std::filesystem::path& file);

/// Removes a file when it goes out of scope unless keep() was called; used for half-written output.
class RemoveUnlessKept {
 public:
  explicit RemoveUnlessKept(std::filesystem::path file) : file_(std::move(file)) {}
  ~RemoveUnlessKept();
  RemoveUnlessKept(const RemoveUnlessKept&) = delete;
  RemoveUnlessKept& operator=(const RemoveUnlessKept&) = delete;
  void keep() { kept_ = true; }

 private:
  std::filesystem::path file_;
  bool kept_ = false;
};

/// Throws BadInput unless `folder` exists and is a folder that can be read.
void require_folder(const std::filesystem::path& folder);

/// Compares names as people count: "x9" before "x10". True where `a` comes before `b`.
bool natural_less(std::string_view a, std::string_view b);

}  // namespace askcount
