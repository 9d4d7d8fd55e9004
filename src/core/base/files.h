// SPDX-License-Identifier: GPL-3.0-or-later
// Files read, and files written whole or not at all. Everything that writes goes through here.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "base/output.h"
#include "base/passing.h"

namespace askcount {

/// Throws BadInput, naming the file, unless it is a plain file (a pipe would never end).
void require_plain_file(const std::filesystem::path& file);

/// The whole of a plain file of at most 256 MB. Throws BadInput naming it where it cannot be read.
std::string read_file(const std::filesystem::path& file);

/// Whether a file is on the disk before it takes its name, and its name before its writer returns: all are,
/// but what the stand-in camera shoots and what may be lost.
enum class Flush { Yes, No };

/// Writes to a temporary name beside the file and renames: the old content stays whole until the new one is.
/// Throws as TemporaryFile; nothing half-written is left.
void write_file_atomically(const Output& output, std::string_view content, Flush flush = Flush::Yes);

/// Fills an empty file that is there, as one that another program made and holds open while it waits for the
/// content; where none is, or it is not empty, as write_file_atomically(). Throws as TemporaryFile; the file
/// is empty again then.
void fill_waiting_file(const Output& output, std::string_view content);

/// Writes all of it to an open file; false, and errno says why, where that cannot be.
bool write_all(int handle, std::string_view bytes);

/// A file that lies in a passing folder beside the one it is to become, made anew (O_EXCL: nothing that was
/// there is opened, no link is followed). It is removed when this goes out of scope, unless it was put in
/// place.
class TemporaryFile {
 public:
  /// Throws as check_output() where the file must not be written, BadInput where its folder is not there, and
  /// Failed where nothing can be written beside it; all name the file. What a dead program left beside it is
  /// removed, unless this is a frame (of which a folder has too many to be looked through for each).
  explicit TemporaryFile(const Output& output);
  ~TemporaryFile();
  TemporaryFile(const TemporaryFile&) = delete;
  TemporaryFile& operator=(const TemporaryFile&) = delete;

  const std::filesystem::path& path() const { return path_; }
  const std::filesystem::path& target() const { return target_; }
  /// Writes all of its content, in place of what was in it. Throws Failed, naming the target.
  void fill(std::string_view content);
  /// Brings it to the disk and takes the target's name; when this returns a power cut loses neither. A link
  /// that is written over stays a link: what it points to is replaced. The permissions of a file that was
  /// there stay. A frame takes no name that is taken. Throws Failed, naming the target; it then stays as it
  /// was.
  void put_in_place(Flush flush = Flush::Yes);

 private:
  std::filesystem::path target_, path_;
  bool fresh_;  // it must not replace anything
  std::unique_ptr<PassingFolder> passing_;
};

/// A hidden folder beside the file that is to be made of what is in it; gone with everything in it when this
/// goes out of scope.
class TemporaryFolder {
 public:
  /// Throws BadInput naming the target's folder where nothing can be written to it.
  explicit TemporaryFolder(const std::filesystem::path& target);

  const std::filesystem::path& path() const { return passing_->path(); }

 private:
  std::unique_ptr<PassingFolder> passing_;
};

/// Throws BadInput unless `folder` exists and is a folder that can be read.
void require_folder(const std::filesystem::path& folder);

/// Compares names as people count: "x9" before "x10". True where `a` comes before `b`.
bool natural_less(std::string_view a, std::string_view b);

}  // namespace askcount
