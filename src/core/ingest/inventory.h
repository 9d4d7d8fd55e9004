// SPDX-License-Identifier: GPL-3.0-or-later
// Everything that lies on the cards: pictures with what they say, put together and in order.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/progress.h"
#include "media/frame.h"

namespace askcount::ingest {

/// Something that was put right or set aside while the files were put in order, and where.
struct ClockNote {
  enum class What {
    NotBelieved,  ///< its time does not fit between its neighbours by number: it stands by number
    SetBack       ///< from here on the clock was behind by `seconds`, and is put forward by as much
  };
  What what = What::NotBelieved;
  std::filesystem::path file;
  double seconds = 0;
};

/// The pictures of some folders.
struct Inventory {
  std::vector<media::Exposure> exposures;     ///< in the order they were shot
  std::vector<std::filesystem::path> copies;  ///< the same file again, on another card
  std::vector<std::string> films;             ///< videos beside the pictures; left there
  std::vector<std::string> ignored;           ///< files that are no pictures Ask Count reads
  std::vector<std::string> unread_folders;    ///< that could not be looked into
  std::vector<ClockNote> clock;
};

/// Every picture below the folders with its metadata, and of a film that is named itself every
/// `film_step`th picture, captured as many times further apart as `film_stretch` says. A raw file and a ready
/// picture of one name are one exposure, as are those of one name and moment on two cards; sidecars go with
/// the picture of their name. In order of time; of equal times, and of files without one, in order of number,
/// where 0001 follows 9999. Reads no pixels. `unreadable` files keep their place by number. Throws BadInput
/// where there is no such folder or no picture in any, Failed where one goes away while it is read (the card
/// is pulled).
Inventory take_inventory(const std::vector<std::filesystem::path>& folders, const Work& work = {},
                         long long film_step = 1, double film_stretch = 1);

/// Which camera an exposure is of: its model and serial number, as far as it says them.
std::string camera_of(const media::Exposure& exposure);

/// The number at the end of a file's name; −1 where there is none, and of a picture of a film.
long long number_of(const std::filesystem::path& file);

/// Puts exposures that stand in order of their names into the order they were shot, and says what of their
/// clock was not believed. The part of take_inventory() that needs no files.
void put_in_order(std::vector<media::Exposure>& exposures, std::vector<ClockNote>& notes);

}  // namespace askcount::ingest
