// SPDX-License-Identifier: GPL-3.0-or-later
// What people are told, in the language of whoever reads it. The core writes English; a program that has
// another language says so once, at its start.
#pragma once

#include <fmt/format.h>

#include <functional>
#include <string>
#include <string_view>
#include <utility>

namespace askcount {

/// How a language says what the core has in English, and how it writes numbers.
struct Language {
  /// The words for an English text as it stands in the source, with its places `{}` (or `{0}`, `{1}`, where
  /// another order is wanted); for a counted one, the form that goes with `n`. Empty where there are none:
  /// the English is said then. Called from any thread.
  std::function<std::string(const char* english, long long n)> translate;
  std::string point = ".";      ///< before the decimals
  std::string thousands = ",";  ///< between groups of three digits
};

/// Says everything in that language from now on. To be called before anything is said and before threads are
/// begun: what was said already stays as it is.
void speak(Language language);

/// The language spoken; English, unless a program said another.
const Language& language();

/// English in its scope and on its thread, whatever is spoken: for words that are kept in files, so that they
/// are the same for everyone.
class InEnglish {
 public:
  InEnglish();
  ~InEnglish();
  InEnglish(const InEnglish&) = delete;
  InEnglish& operator=(const InEnglish&) = delete;
};

/// Marks a text of a table for translation, where it cannot be translated yet; say() it where it is told.
constexpr const char* to_say(const char* english) {
  return english;
}

/// An English text of the source in the language spoken. The text is looked for as it stands, so it must be
/// one that is marked: a literal here or in to_say(). Where one English word is several in other languages,
/// what it is about stands behind a stroke and is not said: "at|a place" is "at".
std::string say(const char* english);
inline std::string say(const std::string& english) {
  return say(english.c_str());
}

/// What say() and counted() fill. Falls back to the English where a translation's places do not fit.
std::string filled(const std::string& translated, std::string_view english, fmt::format_args values);

/// The same with values in its places, as fmt::format fills them.
template <typename First, typename... Rest>
std::string say(fmt::format_string<First, Rest...> english, First&& first, Rest&&... rest) {
  const fmt::string_view text = english;
  const std::string key(text.data(), text.size());
  return filled(say(key), key, fmt::make_format_args(first, rest...));
}

/// "1 frame", "1,200 frames": the form that goes with the number, the number in its place.
std::string counted(long long n, const char* one, const char* many);

/// What is counted, one and many, marked for translation in a table.
struct Countable {
  const char *one = nullptr, *many = nullptr;
};
constexpr Countable to_say(const char* one, const char* many) {
  return {one, many};
}
inline std::string counted(long long n, const Countable& what) {
  return counted(n, what.one, what.many);
}

}  // namespace askcount
