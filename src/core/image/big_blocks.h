// SPDX-License-Identifier: GPL-3.0-or-later
// Memory for pictures, kept a while for the next one of its size.
#pragma once

#include <cstddef>

namespace askcount::image {

/// From this many bytes on memory is a big block: the system would clear each anew, which costs a render more
/// than what is done with it.
inline constexpr std::size_t kBigBlock = std::size_t{1} << 20;

/// A block of at least `bytes` with no defined content, aligned for anything. Throws std::bad_alloc. Safe
/// from several threads, as is giving back.
void* take_big_block(std::size_t bytes);

/// Gives one back that was taken for as many bytes. At most 32 MiB are kept for others; the oldest go back to
/// the system first.
void give_big_block(void* block, std::size_t bytes) noexcept;

}  // namespace askcount::image
