// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/coding.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::media {
namespace {

std::string ending_of(const std::filesystem::path& named) {
  std::string ending = named.extension().string();
  if (!ending.empty()) ending.erase(0, 1);
  return lowered(ending);
}

template <typename Each>
std::string listed(const Each& words) {
  std::string all;
  for (size_t n = 0; n < words.size(); ++n)
    all += fmt::format("{}{}", n == 0 ? "" : n + 1 == words.size() ? say(" or ") : ", ", words[n]);
  return all;
}

}  // namespace

const CodecFacts& facts_of(Codec codec) {
  return codecs()[static_cast<size_t>(codec)];
}

Codec codec_named(std::string_view name) {
  std::vector<std::string> names;
  for (const CodecFacts& f : codecs()) {
    if (name == f.name) return f.codec;
    names.emplace_back(f.name);
  }
  throw bad_input(say("There is no codec \"{}\".", name), say("Use {}.", listed(names)));
}

const Container* container_of(const std::filesystem::path& named) {
  const auto& all = containers();
  const auto found =
      std::find_if(all.begin(), all.end(), [&](const Container& c) { return ending_of(named) == c.ending; });
  return found == all.end() ? nullptr : &*found;
}

std::string film_endings(std::string_view before) {
  std::vector<std::string> endings;
  for (const Container& c : containers()) endings.push_back(fmt::format("{}{}", before, c.ending));
  return listed(endings);
}

std::optional<Codec> codec_of_ending(const std::filesystem::path& named) {
  const Container* container = container_of(named);
  return container ? std::optional(container->usual) : std::nullopt;
}

bool fits_name(const std::filesystem::path& named, Codec codec) {
  const auto& endings = facts_of(codec).endings;
  return std::any_of(endings.begin(), endings.end(), [&](const char* e) { return ending_of(named) == e; });
}

Usual usual_for(Purpose purpose) {
  Coding c;
  switch (purpose) {
    case Purpose::Web:
      return {c, "mp4"};
    case Purpose::Phone:
      c.quality = 24;
      return {c, "mp4"};
    case Purpose::Editor:
      c.codec = Codec::ProRes, c.bits = 10, c.chroma = Chroma::Half422;
      return {c, "mov"};
    case Purpose::Keep:
      c.codec = Codec::Ffv1, c.bits = 10, c.chroma = Chroma::Half422;
      return {c, "mkv"};
  }
  return {c, "mp4"};
}

void check_coding(const std::filesystem::path& named, image::Size size, const Coding& coding) {
  const CodecFacts& f = facts_of(coding.codec);
  if (!codec_of_ending(named))
    throw bad_input(say("\"{}\" does not say what kind of film to write.", named.string()),
                    say("End its name in {}.", film_endings(".")));
  if (!fits_name(named, coding.codec)) {
    std::vector<std::string> endings;
    for (const char* e : f.endings) endings.push_back(fmt::format(".{}", e));
    throw bad_input(say("A .{} file cannot hold {}.", ending_of(named), say(f.words)),
                    say("End the name of {} in {}.", named.filename().string(), listed(endings)));
  }
  if (coding.bits != 8 && coding.bits != 10)
    throw bad_input(say("{} bits per colour cannot be encoded.", coding.bits), say("Use 8 or 10."));
  if (coding.bits == 8 ? !f.bits_8 : !f.bits_10)
    throw bad_input(say("{} does not support {} bits per colour.", say(f.words), coding.bits),
                    say("Use {}, or another codec.", coding.bits == 8 ? 10 : 8));
  if (coding.chroma == Chroma::Half420 ? !f.half_420 : !f.half_422)
    throw bad_input(say("{} does not support {} colour.", say(f.words),
                        coding.chroma == Chroma::Half420 ? "4:2:0" : "4:2:2"),
                    say("Use {}, or another codec.", coding.chroma == Chroma::Half420 ? "422" : "420"));
  const auto bad = [](int n) { return n < 16 || n > 8192 || n % 2 != 0; };
  if (bad(size.width) || bad(size.height))
    throw bad_input(say("The size {}x{} cannot be encoded.", size.width, size.height),
                    say("Both numbers must be even, from 16 to 8192: for example 1920x1080."));
  if (size.width < f.least_width || size.height < f.least_height ||
      std::max(size.width, size.height) > f.most_side)
    throw bad_input(say("{} does not support {}x{}.", say(f.words), size.width, size.height),
                    say("Use from {} to {} pixels, or another codec.", f.least_width, f.most_side));
}

}  // namespace askcount::media
