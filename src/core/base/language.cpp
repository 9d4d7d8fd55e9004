// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/language.h"

#include "base/units.h"

namespace askcount {
namespace {

constexpr char kAbout = '|';  // what stands behind it tells a translator what a short word is about

Language& spoken() {
  static Language language;
  return language;
}

thread_local int in_english = 0;

std::string translated(const char* english, long long n) {
  const Language& now = language();
  return now.translate && *english ? now.translate(english, n) : std::string();
}

}  // namespace

void speak(Language language) {
  spoken() = std::move(language);
}

const Language& language() {
  static const Language english;
  return in_english > 0 ? english : spoken();
}

InEnglish::InEnglish() {
  ++in_english;
}
InEnglish::~InEnglish() {
  --in_english;
}

std::string say(const char* english) {
  std::string words = translated(english, -1);
  if (words.empty()) words = english;
  return words.substr(0, words.find(kAbout));
}

std::string filled(const std::string& translated, std::string_view english, fmt::format_args values) {
  try {
    return fmt::vformat(translated, values);
  } catch (const fmt::format_error&) {
    return fmt::vformat(fmt::string_view(english.data(), english.size()), values);
  }
}

std::string counted(long long n, const char* one, const char* many) {
  const char* english = n == 1 ? one : many;
  const std::string number = format_count(n);
  std::string words = translated(one, n);
  return filled(words.empty() ? english : words, english, fmt::make_format_args(number));
}

}  // namespace askcount
