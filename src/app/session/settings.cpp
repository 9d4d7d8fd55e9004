// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/settings.h"

#include <nlohmann/json.hpp>

#include "app/session/keeping.h"
#include "base/files.h"

namespace askcount::app {
namespace {

std::filesystem::path settings_file() {
  return data_folder() / "settings.json";
}

}  // namespace

Json settings() {
  std::error_code ec;
  if (!std::filesystem::exists(settings_file(), ec)) return Json::object();
  try {
    Json all = read_json(settings_file());
    return all.is_object() ? all : Json::object();
  } catch (const std::exception&) {
    return Json::object();
  }
}

std::string chosen_word(const std::string& name) {
  const Json all = settings();
  const auto it = all.find(name);
  return it != all.end() && it->is_string() ? it->get<std::string>() : std::string();
}

void keep_setting(const std::string& name, const Json& value) {
  Json all = settings();
  all[name] = value;
  write_file_atomically({settings_file(), FileKind::Record}, all.dump(1) + "\n");
}

}  // namespace askcount::app
