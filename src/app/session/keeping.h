// SPDX-License-Identifier: GPL-3.0-or-later
// What is kept between sessions: recent takes, and a take that has no file of its own yet.
#pragma once

#include <filesystem>
#include <memory>
#include <QLockFile>
#include <QStringList>
#include <vector>

#include "book/book.h"
#include "sky/place.h"

namespace askcount::app {

/// The folder for it, made where it is missing: the system's place for an application's data.
std::filesystem::path data_folder();

/// The takes opened last, the newest first, at most eight; those that are gone are left out.
QStringList recent_takes();
void remember_take(const std::filesystem::path& file);

/// The places that ship (made up) and those the person has named, each once.
std::vector<sky::Place> known_places();
/// Remembers a place the person has named or moved; the ones that ship stay as they are.
void keep_place(const sky::Place& place);

/// What earlier versions kept of practice and rehearsals in files of their own: taken from there, once.
std::vector<book::Score> earlier_scores();

/// A file of its own for a take that has none, so that a crash loses nothing. Never one that is there.
std::filesystem::path new_unsaved_file();
/// The takes that never got a file, the newest first.
std::vector<std::filesystem::path> unsaved_files();
/// Takes a kept take out of those, under the same name in the data folder: another was begun. Returns where,
/// or nothing where it cannot be moved.
std::filesystem::path put_away(const std::filesystem::path& unsaved);
/// Takes the lock of a take's file, `.NAME.lock` beside it, held as long as the result lives; null where
/// another window has it. Where no lock can be written (a folder that may only be read) it is free.
std::unique_ptr<QLockFile> lock_of(const std::filesystem::path& take_file);
/// Gives a file that cannot be read another name beside it, so that nothing writes to it; returns where, or
/// nothing where it cannot be moved.
std::filesystem::path put_aside(const std::filesystem::path& file);

}  // namespace askcount::app
