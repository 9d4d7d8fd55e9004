// SPDX-License-Identifier: GPL-3.0-or-later
// SHA-256 of what is read and written.
#pragma once

#include <cstddef>
#include <filesystem>
#include <memory>
#include <string>

namespace askcount::ingest {

/// Adds up bytes; libcrypto's SHA-256.
class Digest {
 public:
  Digest();
  ~Digest();
  Digest(const Digest&) = delete;
  void add(const void* bytes, std::size_t length);
  /// 64 hexadecimal digits; nothing may be added afterwards.
  std::string text();

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

/// The digest of a file as it lies on the disk: what the system holds of it in memory is let go first. Throws
/// Failed naming the file.
std::string digest_on_disk(const std::filesystem::path& file);

}  // namespace askcount::ingest
