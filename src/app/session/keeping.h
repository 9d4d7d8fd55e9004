// What is kept between sessions: recent takes, and a take that has no file of its own yet.
#pragma once

#include <filesystem>
#include <QStringList>
#include <vector>

#include "base/json.h"
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

/// What was practised or rehearsed, the newest last, at most 200 of a kind.
std::vector<Json> scores(const std::string& kind);
void keep_score(const std::string& kind, Json score);

/// Where a take without a file saves itself, so that a crash loses nothing.
std::filesystem::path unsaved_file();
/// Puts an unsaved take aside under a name of its own before another begins; returns where.
std::filesystem::path put_unsaved_aside();

}  // namespace askcount::app
