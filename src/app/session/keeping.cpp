// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/keeping.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <QDateTime>
#include <QStandardPaths>
#include <QTimeZone>
#include <QUuid>

#include "base/error.h"
#include "base/files.h"
#include "base/json.h"

namespace askcount::app {
namespace fs = std::filesystem;
namespace {

constexpr int kRecent = 8;
fs::path places_file() {
  return data_folder() / "places.json";
}
fs::path recent_file() {
  return data_folder() / "recent.json";
}

}  // namespace

fs::path data_folder() {
  const fs::path folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation).toStdString();
  std::error_code ec;
  fs::create_directories(folder, ec);
  return folder;
}

QStringList recent_takes() {
  QStringList list;
  std::error_code ec;
  if (!fs::exists(recent_file(), ec)) return list;
  try {
    for (const Json& file : read_json(recent_file()))
      if (file.is_string() && fs::exists(file.get<std::string>(), ec))
        list << QString::fromStdString(file.get<std::string>());
  } catch (const std::exception&) {
    // A damaged list is no list.
  }
  return list;
}

void remember_take(const fs::path& file) {
  QStringList list = recent_takes();
  const QString name = QString::fromStdString(fs::absolute(file).string());
  list.removeAll(name);
  list.prepend(name);
  Json json = Json::array();
  for (int i = 0; i < std::min<int>(kRecent, static_cast<int>(list.size())); ++i)
    json.push_back(list[i].toStdString());
  try {
    write_file_atomically({recent_file(), FileKind::Record}, json.dump(1), Flush::No);
  } catch (const Error&) {
    // Not being able to remember is no reason to stop.
  }
}

std::vector<sky::Place> known_places() {
  std::vector<sky::Place> list = sky::demo_places();
  std::error_code ec;
  if (!fs::exists(places_file(), ec)) return list;
  try {
    for (const Json& p : read_json(places_file())) {
      const sky::Place place{p.at("name"), p.at("latitude_deg"), p.at("longitude_deg"), p.at("zone"),
                             p.value("height_m", 0.0)};
      sky::check_place(place);
      list.push_back(place);
    }
  } catch (const std::exception&) {
    // What can be read of a damaged list is used.
  }
  return list;
}

void keep_place(const sky::Place& place) {
  if (place.name.empty()) return;
  for (const sky::Place& p : sky::demo_places())
    if (p.name == place.name) return;
  Json json = Json::array();
  for (const sky::Place& p : known_places()) {
    const auto demo = sky::demo_places();
    if (p.name != place.name &&
        std::none_of(demo.begin(), demo.end(), [&](const sky::Place& d) { return d.name == p.name; }))
      json.push_back({{"name", p.name},
                      {"latitude_deg", p.latitude_deg},
                      {"longitude_deg", p.longitude_deg},
                      {"zone", p.zone},
                      {"height_m", p.height_m}});
  }
  json.push_back({{"name", place.name},
                  {"latitude_deg", place.latitude_deg},
                  {"longitude_deg", place.longitude_deg},
                  {"zone", place.zone},
                  {"height_m", place.height_m}});
  try {
    write_file_atomically({places_file(), FileKind::Record}, json.dump(1));
  } catch (const Error&) {
    // Not being able to remember is no reason to stop.
  }
}

std::vector<book::Score> earlier_scores() {
  std::vector<book::Score> list;
  std::error_code ec;
  const auto take = [&](const char* name, const char* kind, const char* of, const char* value) {
    const fs::path file = data_folder() / name;
    if (!fs::exists(file, ec)) return;
    try {
      for (const Json& s : read_json(file))
        list.push_back({kind, s.value(of, ""), s.value(value, 0.0),
                        parse_instant(s.value("at", ""), QTimeZone::systemTimeZoneId().toStdString())});
    } catch (const std::exception&) {
      // What can be read of a damaged list is used.
    }
    fs::rename(file, file.string() + ".filed", ec);
  };
  take("practice.json", "timer", "timer", "seconds");
  take("rehearsals.json", "dusk", "take", "score");
  return list;
}

fs::path new_unsaved_file() {
  const fs::path folder = data_folder() / "unsaved";
  std::error_code ec;
  fs::create_directories(folder, ec);
  const QString time = QDateTime::currentDateTime().toString("yyyy-MM-dd HH.mm.ss");
  const QString letters = QUuid::createUuid().toString(QUuid::Id128).left(6);
  return folder / QString("take of %1 %2.askcount").arg(time, letters).toStdString();
}

std::vector<fs::path> unsaved_files() {
  std::vector<std::pair<fs::file_time_type, fs::path>> found;
  std::error_code ec;
  const auto add = [&](const fs::path& file) {
    if (file.extension() == ".askcount" && fs::is_regular_file(file, ec))
      found.emplace_back(fs::last_write_time(file, ec), file);
  };
  for (const fs::directory_entry& entry : fs::directory_iterator(data_folder() / "unsaved", ec))
    add(entry.path());
  add(data_folder() / "unsaved.askcount");  // where earlier versions kept the only one
  std::sort(found.rbegin(), found.rend());
  std::vector<fs::path> files;
  for (auto& [time, file] : found) files.push_back(std::move(file));
  return files;
}

fs::path put_away(const fs::path& unsaved) {
  std::error_code ec;
  const fs::path away = data_folder() / unsaved.filename();
  if (away == unsaved || fs::exists(fs::symlink_status(away, ec))) return {};
  fs::rename(unsaved, away, ec);
  if (ec) return {};
  remember_take(away);
  return away;
}

std::unique_ptr<QLockFile> lock_of(const fs::path& take_file) {
  auto lock = std::make_unique<QLockFile>(QString::fromStdString(
      (take_file.parent_path() / ("." + take_file.filename().string() + ".lock")).string()));
  lock->setStaleLockTime(0);  // held as long as its window lives
  const bool theirs = !lock->tryLock(0) && lock->error() == QLockFile::LockFailedError;
  return theirs ? nullptr : std::move(lock);
}

fs::path put_aside(const fs::path& file) {
  std::error_code ec;
  for (int n = 1; n < 1000; ++n) {
    const fs::path aside = file.string() + (n > 1 ? " " + std::to_string(n) : "") + ".unreadable";
    if (fs::exists(fs::symlink_status(aside, ec))) continue;
    fs::rename(file, aside, ec);
    return ec ? fs::path() : aside;
  }
  return {};
}

}  // namespace askcount::app
