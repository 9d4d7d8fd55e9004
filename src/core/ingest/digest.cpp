// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/digest.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <openssl/evp.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <cstring>
#include <vector>

#include "base/error.h"
#include "base/language.h"

namespace askcount::ingest {

struct Digest::Parts {
  EVP_MD_CTX* context = EVP_MD_CTX_new();
};

Digest::Digest() : parts_(std::make_unique<Parts>()) {
  if (parts_->context == nullptr || EVP_DigestInit_ex(parts_->context, EVP_sha256(), nullptr) != 1)
    throw failed(say("Checksums cannot be worked out: libcrypto refuses."));
}

Digest::~Digest() {
  EVP_MD_CTX_free(parts_->context);
}

void Digest::add(const void* bytes, std::size_t length) {
  EVP_DigestUpdate(parts_->context, bytes, length);
}

std::string Digest::text() {
  std::array<unsigned char, EVP_MAX_MD_SIZE> sum{};
  unsigned int length = 0;
  EVP_DigestFinal_ex(parts_->context, sum.data(), &length);
  std::string text;
  for (unsigned int i = 0; i < length; ++i) text += fmt::format("{:02x}", sum[i]);
  return text;
}

std::string digest_on_disk(const std::filesystem::path& file) {
  const int fd = ::open(file.c_str(), O_RDONLY | O_CLOEXEC);
  if (fd < 0) throw failed(say("{} cannot be read back: {}.", file.string(), std::strerror(errno)));
  ::posix_fadvise(fd, 0, 0, POSIX_FADV_DONTNEED);
  ::posix_fadvise(fd, 0, 0, POSIX_FADV_SEQUENTIAL);
  Digest digest;
  std::vector<char> block(1 << 20);
  ssize_t n = 0;
  while ((n = ::read(fd, block.data(), block.size())) != 0) {
    if (n < 0 && errno == EINTR) continue;
    if (n < 0) {
      const int why = errno;
      ::close(fd);
      throw failed(say("{} cannot be read back: {}.", file.string(), std::strerror(why)));
    }
    digest.add(block.data(), static_cast<size_t>(n));
  }
  ::close(fd);
  return digest.text();
}

}  // namespace askcount::ingest
