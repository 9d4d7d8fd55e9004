// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/fields.h"

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount {
namespace {

constexpr double kMostPixels = 120e6;  // of a picture, so that the memory of several is there

}  // namespace

Fields::Fields(Json& into) : write_(&into) {}

Fields::Fields(const Json& from, std::string document, std::string path)
    : read_(&from), document_(std::move(document)), path_(std::move(path)) {
  if (!from.is_object())
    throw bad_input(say("{}: {} must be an object.", document_, path_.empty() ? "it" : "\"" + path_ + "\""));
  if (!path_.empty()) path_ += '.';
}

const Json* Fields::find(const char* key) const {
  if (!read_) return nullptr;
  const auto it = read_->find(key);
  return it == read_->end() || it->is_null() ? nullptr : &*it;
}

void Fields::words(const char* key, std::string& value) {
  if (write_) {
    (*write_)[key] = value;
  } else if (const Json* j = find(key)) {
    if (!j->is_string()) fail(key, say("must be words"));
    value = j->get<std::string>();
    if (value.find('\0') != std::string::npos) fail(key, say("must not contain a null character"));
  }
}

void Fields::name(const char* key, std::string& value) {
  if (reading() && !has(key)) fail(key, say("is missing"));
  words(key, value);
  if (reading() && value.empty()) fail(key, say("must be a name"));
}

void Fields::flag(const char* key, bool& value) {
  if (write_) {
    (*write_)[key] = value;
  } else if (const Json* j = find(key)) {
    if (!j->is_boolean()) fail(key, say("must be true or false"));
    value = j->get<bool>();
  }
}

void Fields::moment(const char* key, Instant& value, const std::string& zone) {
  std::string text = reading() ? "" : format_iso(value, zone);
  words(key, text);
  if (!reading() || !has(key)) return;
  try {
    value = parse_instant(text, zone);
  } catch (const Error&) {
    fail(key, say("cannot be \"{}\": it is not a date and time, like 2026-10-09T18:14:30+01:00", text));
  }
}

void Fields::size(const char* key, int& width, int& height, int least, int most) {
  std::vector<double> two{static_cast<double>(width), static_cast<double>(height)};
  numbers(key, two, least, most);
  if (!reading()) {
    (*write_)[key] = {width, height};
    return;
  }
  if (two.size() != 2 || two[0] != std::floor(two[0]) || two[1] != std::floor(two[1]))
    fail(key, say("must be a width and a height"));
  if (two[0] * two[1] > kMostPixels) fail(key, say("is more than {} million pixels", kMostPixels / 1e6));
  width = static_cast<int>(two[0]);
  height = static_cast<int>(two[1]);
}

void Fields::numbers(const char* key, std::vector<double>& values, double low, double high) {
  if (write_) {
    (*write_)[key] = values;
  } else if (const Json* j = find(key)) {
    check_list(key, *j);
    values.clear();
    for (const Json& v : *j) {
      if (!v.is_number()) fail(key, say("must be a list of numbers"));
      values.push_back(v.get<double>());
      if (!(values.back() >= low && values.back() <= high)) out_of_range(key, low, high);
    }
  }
}

void Fields::texts(const char* key, std::vector<std::string>& values) {
  if (write_) {
    (*write_)[key] = values;
  } else if (const Json* j = find(key)) {
    check_list(key, *j);
    values.clear();
    for (const Json& v : *j) {
      if (!v.is_string()) fail(key, say("must be a list of words"));
      values.push_back(v.get<std::string>());
    }
  }
}

void Fields::check_list(const char* key, const Json& list) const {
  constexpr size_t kMost = 10000;
  if (!list.is_array()) fail(key, say("must be a list"));
  if (list.size() > kMost) fail(key, say("has {} entries: more than {}", list.size(), kMost));
}

void Fields::fail(const char* key, const std::string& why) const {
  throw bad_input(
      fmt::format("{}: \"{}{}\" {}{}", document_, path_, key, why, why.ends_with('.') ? "" : "."));
}

void Fields::out_of_range(const char* key, double low, double high) const {
  fail(key, say("must be from {} to {}", format_number(low, 3), format_number(high, 3)));
}

}  // namespace askcount
