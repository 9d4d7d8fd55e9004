// SPDX-License-Identifier: GPL-3.0-or-later
// The fields of a JSON object, named once for writing and reading.
#pragma once

#include <fmt/format.h>

#include <cmath>
#include <initializer_list>
#include <nlohmann/json.hpp>
#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "base/instant.h"
#include "base/json.h"
#include "base/language.h"

namespace askcount {

/// Goes over the fields of an object, to write them or to read them: a `visit(Fields&, T&)` names each once,
/// with its range. When reading, absent and null fields keep the value that is there, unknown ones are
/// ignored, and anything wrong throws BadInput naming the document and the field ("kit.json:
/// "bodies[0].raw_mb" must be from 0.1 to 2000.").
class Fields {
 public:
  /// Writes into `into`.
  explicit Fields(Json& into);
  /// Reads from `from`; `document` and `path` are how errors call it. Throws where it is no object.
  Fields(const Json& from, std::string document, std::string path = {});

  bool reading() const { return read_ != nullptr; }
  bool has(const char* key) const { return find(key) != nullptr; }

  void words(const char* key, std::string& value);
  /// A name that may not be absent or empty.
  void name(const char* key, std::string& value);
  void flag(const char* key, bool& value);

  /// A moment in universal time, told as ISO 8601 by the clock of `zone`; read with an offset or by that
  /// clock.
  void moment(const char* key, Instant& value, const std::string& zone = "UTC");
  /// Two whole numbers in a list: a width and a height.
  void size(const char* key, int& width, int& height, int least, int most);

  /// A list of numbers, each in the range; a list of words.
  void numbers(const char* key, std::vector<double>& values, double low, double high);
  void texts(const char* key, std::vector<std::string>& values);

  template <typename Number>
  void number(const char* key, Number& value, double low, double high) {
    if (write_) {
      (*write_)[key] = value;
      return;
    }
    const Json* j = find(key);
    if (!j) return;
    if (!j->is_number()) fail(key, say("must be a number"));
    const double v = j->get<double>();
    if (!(v >= low && v <= high)) out_of_range(key, low, high);
    if (std::is_integral_v<Number> && v != std::floor(v)) fail(key, say("must be whole"));
    value = static_cast<Number>(v);
  }

  /// A number that may be absent: null.
  void maybe_number(const char* key, std::optional<double>& value, double low, double high) {
    if (write_) {
      (*write_)[key] = value ? Json(*value) : Json(nullptr);
    } else if (has(key)) {
      double v = 0;
      number(key, v, low, high);
      value = v;
    }
  }

  /// An enum told by one word of a few.
  template <typename Enum>
  void choice(const char* key, Enum& value, std::initializer_list<std::pair<Enum, const char*>> words_of) {
    choice(key, value, std::span(words_of.begin(), words_of.size()));
  }
  template <typename Enum>
  void choice(const char* key, Enum& value, std::span<const std::pair<Enum, const char*>> words_of) {
    std::string word;
    for (const auto& [v, w] : words_of)
      if (v == value) word = w;
    words(key, word);
    if (!reading()) return;
    std::string known;
    for (const auto& [v, w] : words_of) {
      if (word == w) {
        value = v;
        return;
      }
      known += (known.empty() ? "" : ", ") + std::string(w);
    }
    fail(key, say("must be one of ") + known);
  }

  /// An object within this one.
  template <typename T, typename Visit>
  void part(const char* key, T& value, Visit&& visit) {
    if (write_) {
      Json inner = Json::object();
      Fields fields(inner);
      visit(fields, value);
      (*write_)[key] = std::move(inner);
    } else if (const Json* j = find(key)) {
      Fields fields(*j, document_, path_ + key);
      visit(fields, value);
    }
  }

  /// An object that may be absent: null.
  template <typename T, typename Visit>
  void maybe(const char* key, std::optional<T>& value, Visit&& visit) {
    if (write_ && !value) {
      (*write_)[key] = nullptr;
    } else if (write_ || has(key)) {
      if (!value) value.emplace();
      part(key, *value, visit);
    }
  }

  /// A list of objects.
  template <typename T, typename Visit>
  void list(const char* key, std::vector<T>& values, Visit&& visit) {
    if (write_) {
      Json out = Json::array();
      for (T& value : values) {
        Json inner = Json::object();
        Fields fields(inner);
        visit(fields, value);
        out.push_back(std::move(inner));
      }
      (*write_)[key] = std::move(out);
      return;
    }
    const Json* j = find(key);
    if (!j) return;
    check_list(key, *j);
    values.clear();
    for (size_t i = 0; i < j->size(); ++i) {
      Fields fields((*j)[i], document_, fmt::format("{}{}[{}]", path_, key, i));
      T value;
      visit(fields, value);
      values.push_back(std::move(value));
    }
  }

  /// Throws BadInput for a field: `why` goes on from its name.
  [[noreturn]] void fail(const char* key, const std::string& why) const;

 private:
  const Json* find(const char* key) const;
  /// Throws BadInput unless it is a list of no more entries than any document of ours has.
  void check_list(const char* key, const Json& list) const;
  [[noreturn]] void out_of_range(const char* key, double low, double high) const;

  Json* write_ = nullptr;
  const Json* read_ = nullptr;
  std::string document_, path_;
};

}  // namespace askcount
