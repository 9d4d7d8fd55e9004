// SPDX-License-Identifier: GPL-3.0-or-later
// A take and all that belongs to it in one place, to be moved or kept.
#pragma once

#include <cstdint>
#include <filesystem>
#include <optional>
#include <vector>

#include "base/output.h"
#include "base/progress.h"
#include "book/entry.h"

namespace askcount::book {

/// What is packed: the take's own file, its journals, its cards with everything below them, the pictures,
/// tables, dark frames and sounds it names, and the films that the book knows of with what lies beside them.
struct Order {
  std::filesystem::path take;        ///< its file
  std::filesystem::path to;          ///< a folder that is not there yet or empty, or an archive: .tar or .zip
  std::optional<book::Entry> entry;  ///< what the book has of it; nothing for none
};

struct Packed {
  std::filesystem::path take;  ///< where the take's file lies in what was packed
  std::size_t files = 0;
  std::uint64_t bytes = 0;
  std::vector<std::string> missing;  ///< that the take names or was made of and that are not in it: gone,
                                     ///< links, or never on a card of the take
};

/// Packs. In the copy every path is relative to the take's file, so that it is opened wherever it is put;
/// what was said of it in the book lies beside it ("NAME.book") and goes into the book there. Frames are
/// copied as ingest::copy() does, checked twice. The take itself and all that is read stay as they are.
///
/// Throws BadInput where the target is there and not empty, or within one of the cards; as take::load_take()
/// and ingest::copy(); Failed where something cannot be read or written; Cancelled where it was stopped. An
/// archive is there whole or not at all; of a folder what was copied stays, and its take's file comes last.
Packed pack(const Order& order, const Work& work = {});

}  // namespace askcount::book
