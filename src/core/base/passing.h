// SPDX-License-Identifier: GPL-3.0-or-later
// Where files lie until they are whole: hidden folders of ours, which say in themselves that they are.
#pragma once

#include <filesystem>
#include <system_error>

namespace askcount {

/// A hidden folder within another (".askcount-writing-" and ten letters), with a mark of ours in it, locked
/// as long as this lives. It goes with everything in it when this goes out of scope. Nothing but such a
/// folder is ever taken for a leftover of ours: a name alone proves nothing.
class PassingFolder {
 public:
  /// Where none can be made, made() is false and why() is the errno.
  explicit PassingFolder(const std::filesystem::path& within);
  ~PassingFolder();
  PassingFolder(const PassingFolder&) = delete;
  PassingFolder& operator=(const PassingFolder&) = delete;

  bool made() const { return held_ >= 0; }
  int why() const { return why_; }
  const std::filesystem::path& path() const { return path_; }

 private:
  std::filesystem::path path_;
  int held_ = -1;  // the folder, open and locked
  int why_ = 0;
};

/// Removes from a folder the passing folders that programs which died left in it. Others stay: those of
/// programs that are at work, those without our mark, and what cannot be removed.
void remove_passing_folders(const std::filesystem::path& within);

/// Brings to the disk which names a folder has, so that what was renamed in it keeps its new name when the
/// power goes. Not all disks can; the names stand either way.
void sync_names(const std::filesystem::path& folder);

/// Makes a folder and those above it that are not there, each on the disk within the one above it. The error
/// is none where the folder is there, made or not.
std::error_code make_folders(const std::filesystem::path& folder);

/// Brings a file's content to the disk. False, and errno says why, where that cannot be.
bool sync_content(const std::filesystem::path& file);

}  // namespace askcount
