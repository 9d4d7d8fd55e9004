#include "base/fields.h"

#include "base/error.h"
#include "base/units.h"

namespace askcount {

Fields::Fields(Json& into) : write_(&into) {}

Fields::Fields(const Json& from, std::string document, std::string path)
    : read_(&from), document_(std::move(document)), path_(std::move(path)) {
  if (!from.is_object())
    throw bad_input(
        fmt::format("{}: {} must be an object.", document_, path_.empty() ? "it" : "\"" + path_ + "\""));
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
    if (!j->is_string()) fail(key, "must be words");
    value = j->get<std::string>();
  }
}

void Fields::name(const char* key, std::string& value) {
  if (reading() && !has(key)) fail(key, "is missing");
  words(key, value);
  if (reading() && value.empty()) fail(key, "must be a name");
}

void Fields::flag(const char* key, bool& value) {
  if (write_) {
    (*write_)[key] = value;
  } else if (const Json* j = find(key)) {
    if (!j->is_boolean()) fail(key, "must be true or false");
    value = j->get<bool>();
  }
}

void Fields::numbers(const char* key, std::vector<double>& values, double low, double high) {
  if (write_) {
    (*write_)[key] = values;
  } else if (const Json* j = find(key)) {
    if (!j->is_array()) fail(key, "must be a list");
    values.clear();
    for (const Json& v : *j) {
      if (!v.is_number()) fail(key, "must be a list of numbers");
      values.push_back(v.get<double>());
      if (!(values.back() >= low && values.back() <= high)) out_of_range(key, low, high);
    }
  }
}

void Fields::texts(const char* key, std::vector<std::string>& values) {
  if (write_) {
    (*write_)[key] = values;
  } else if (const Json* j = find(key)) {
    if (!j->is_array()) fail(key, "must be a list");
    values.clear();
    for (const Json& v : *j) {
      if (!v.is_string()) fail(key, "must be a list of words");
      values.push_back(v.get<std::string>());
    }
  }
}

void Fields::fail(const char* key, const std::string& why) const {
  throw bad_input(fmt::format("{}: \"{}{}\" {}.", document_, path_, key, why));
}

void Fields::out_of_range(const char* key, double low, double high) const {
  fail(key, fmt::format("must be from {} to {}", format_number(low, 3), format_number(high, 3)));
}

}  // namespace askcount
