// SPDX-License-Identifier: GPL-3.0-or-later
#include "film_options.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/error.h"
#include "base/units.h"

namespace askcount::cli {
namespace {

/// A number that is all of a text.
double number_in(std::string_view text, const std::string& whole, const char* option) {
  const auto value = take_decimal(text);
  if (!value || !text.empty())
    throw bad_input(fmt::format("{} {} is not understood.", option, whole), "See askcount cut --help.");
  return *value;
}

std::vector<std::string> split(const std::string& text, char at) {
  std::vector<std::string> parts(1);
  for (const char c : text)
    if (c == at)
      parts.emplace_back();
    else
      parts.back() += c;
  return parts;
}

/// "VALUE@SECONDS" or "VALUE".
std::pair<std::string, double> value_at(const std::string& text, const char* option) {
  const auto parts = split(text, '@');
  if (parts.size() > 2) throw bad_input(fmt::format("{} {} has more than one time.", option, text));
  return {parts[0], parts.size() == 2 ? number_in(parts[1], text, option) : 0};
}

std::vector<render::SpeedAnchor> speeds_of(const std::vector<std::string>& said) {
  std::vector<render::SpeedAnchor> anchors;
  for (const std::string& one : said) {
    const auto [value, at] = value_at(one, "--speed");
    anchors.push_back({at, number_in(value, one, "--speed")});
  }
  return anchors;
}

std::vector<render::ViewAnchor> views_of(const std::vector<std::string>& said) {
  std::vector<render::ViewAnchor> anchors;
  for (const std::string& one : said) {
    const auto [value, at] = value_at(one, "--view");
    const auto numbers = split(value, ',');
    if (numbers.size() < 3 || numbers.size() > 4)
      throw bad_input(fmt::format("--view {} is not X,Y,WIDTH or X,Y,WIDTH,TURN.", one),
                      "The middle and the width as shares of the frame: 0.5,0.4,0.6@2.");
    render::ViewAnchor anchor;
    anchor.at_s = at;
    anchor.view = {number_in(numbers[0], one, "--view"), number_in(numbers[1], one, "--view"),
                   number_in(numbers[2], one, "--view"),
                   numbers.size() == 4 ? number_in(numbers[3], one, "--view") : 0};
    anchors.push_back(anchor);
  }
  return anchors;
}

void put_trails(const std::string& said, render::Choice& choice) {
  const auto parts = split(said, ':');
  if (parts.size() > 2 || parts[0] != "bright")
    throw bad_input(fmt::format("--trails {} is not understood.", said),
                    "Use bright:30 (30 frames long) or bright:all.");
  if (parts.size() == 1 || parts[1] == "all")
    choice.bright = render::kAllFrames;
  else
    choice.bright = parse_count(parts[1], "--trails");
}

/// Words of a line, with quotes around those that hold spaces.
std::vector<std::string> words_in(const std::string& text) {
  std::vector<std::string> words;
  std::string word;
  char quote = 0;
  bool any = false;
  for (const char c : text) {
    if (quote != 0) {
      if (c == quote)
        quote = 0;
      else
        word += c;
    } else if (c == '\'' || c == '"') {
      quote = c;
      any = true;
    } else if (c == ' ') {
      if (any || !word.empty()) words.push_back(word);
      word.clear();
      any = false;
    } else {
      word += c;
    }
  }
  if (quote != 0) throw bad_input(fmt::format("--film {} has a quote that does not end.", text));
  if (any || !word.empty()) words.push_back(word);
  return words;
}

}  // namespace

std::pair<std::string, double> file_at(const std::string& text, const char* option) {
  const size_t at = text.rfind('@');
  if (at == std::string::npos) return {text, 0};
  std::string_view seconds(text);
  seconds.remove_prefix(at + 1);
  const auto value = take_decimal(seconds);
  if (!value || !seconds.empty()) return {text, 0};  // an @ in the name
  if (*value < 0) throw bad_input(fmt::format("{} {} is before the beginning.", option, text));
  return {text.substr(0, at), *value};
}

void add_film_options(const Verb& verb, FilmAsked& a) {
  verb.add_option("--fps", a.fps, "Frame rate of the film, where it is not the plan's");
  add_size(verb, "--size", a.size, "Size of the film");
  verb.add_option("--from", a.from, "The first frame of the film, counted from 1").between(1, 10000000);
  verb.add_option("--to", a.to, "The last one").between(1, 10000000);
  verb.add_option("--every", a.every, "Only every nth frame; of a video, every nth picture")
      .between(1, 10000000);
  verb.add_option("--speed", a.speed,
                  "How many times as fast, or TIMES@SECONDS of the film, several, eased between them")
      .called("X[@S]");
  verb.add_flag("--backwards", a.backwards, "The last frame first");
  verb.add_flag("--to-and-fro", a.to_and_fro, "To the last frame and back");
  verb.add_option("--hold-first", a.hold_first, "Seconds the first picture stands besides")
      .between(0.0, 600.0);
  verb.add_option("--hold-last", a.hold_last, "Seconds the last picture stands besides").between(0.0, 600.0);
  verb.add_choice("--between", a.between,
                  Words<std::optional<render::Between>>{{"repeat", render::Between::Repeat},
                                                        {"blend", render::Between::Blend},
                                                        {"motion", render::Between::Motion}},
                  "What is between two frames, and in the place of one that is missing");
  verb.add_option("--trail", a.trail, "Frames that are blended into each")
      .between(1, static_cast<int>(render::kLongestTrail));
  verb.add_option("--trails", a.trails, "bright:30 or bright:all: for how many frames the brightest stays");
  verb.add_option("--still", a.still,
                  "Also one picture of all frames (.png, .tif or .jpg): their mean, or with --trails bright "
                  "each place at its brightest");
  verb.add_option(
          "--view", a.view,
          "The part of the frame that is seen: middle and width as shares of it, degrees clockwise, at a "
          "time of the film; several, eased between them")
      .called("X,Y,W[,TURN][@S]");
  verb.add_flag("--crisp", a.crisp, "Resampled for sharpness; otherwise without halos");
  verb.add_choice("--steady", a.steady,
                  Words<std::optional<motion::Mode>>{{"none", motion::Mode::None},
                                                     {"bumps", motion::Mode::Bumps},
                                                     {"all", motion::Mode::All},
                                                     {"walk", motion::Mode::Walk}},
                  "Removes only knocks, all movement, or the shake of a walk");
  Words<std::optional<media::Codec>> codecs;
  for (const media::CodecFacts& f : media::codecs()) codecs.emplace_back(f.name, f.codec);
  verb.add_choice("--codec", a.codec, codecs, "How it is encoded");
  verb.add_choice("--bits", a.bits, Words<std::optional<int>>{{"8", 8}, {"10", 10}},
                  "8 or 10 for every colour");
  verb.add_choice(
      "--chroma", a.chroma,
      Words<std::optional<media::Chroma>>{{"420", media::Chroma::Half420}, {"422", media::Chroma::Half422}},
      "Colour samples: one for four pixels, or for two");
  verb.add_choice("--for", a.purpose,
                  Words<std::optional<media::Purpose>>{{"web", media::Purpose::Web},
                                                       {"editor", media::Purpose::Editor},
                                                       {"keep", media::Purpose::Keep},
                                                       {"phone", media::Purpose::Phone}},
                  "The usual coding for it");
  verb.add_option("--quality", a.quality, "Constant rate factor, 0 to 51; lower is better").between(0, 51);
  verb.add_option("--preset", a.preset, "The encoder's preset")
      .one_of(
          {"ultrafast", "superfast", "veryfast", "faster", "fast", "medium", "slow", "slower", "veryslow"});
  verb.add_option("--sound", a.sound, "A sound file, from a time in it").called("FILE[@S]");
  verb.add_option("--fade", a.fade, "Seconds faded in and out, picture and sound: IN or IN,OUT");
  verb.add_option("--text", a.text, "A line written into the pictures");
  verb.add_heard(
          "--clock", [&a](const std::vector<std::string>& said) { a.clock = split(said.front(), ','); },
          "Written into the pictures: time, date, elapsed, or several with commas")
      .called("WHAT");
  verb.add_option("--scale", a.scale,
                  "A bar written into the pictures: \"1 m=0.2\", share of the frame's width");
  verb.add_option("--poster", a.poster, "A picture of the film at a time of it (.png, .tif or .jpg)")
      .called("FILE[@S]");
  verb.add_flag("--title", a.title, "The film's metadata says the take's name");
  verb.add_option("--words", a.words, "A description in the film's metadata");
  verb.add_option("--place-said", a.place, "A place in the film's metadata");
  verb.add_option("--author", a.author, "The author in the film's metadata");
  verb.add_flag("--chapters", a.chapters, "Chapters in its metadata where the light changes");
  verb.add_flag("--leave-gaps", a.leave_gaps, "Goes over missing frames instead of making them");
  verb.add_flag("--report", a.report, "Write a report of the finished film beside it (JSON)");
}

take::FilmWish wish_of(const FilmAsked& a, take::FilmWish w) {
  if (a.purpose) {
    w.coding = media::usual_for(*a.purpose).coding;
  } else if (!a.codec && !a.output.empty()) {
    // What the name says, where the wish's own codec does not go into it.
    const auto named = media::codec_of_ending(a.output);
    if (named && !media::fits_name(a.output, w.coding.codec)) w.coding.codec = *named;
  }
  if (a.codec) {
    w.coding.codec = *a.codec;
    // What the codec cannot hold follows it where nobody asked for it.
    const media::CodecFacts& f = media::facts_of(*a.codec);
    if (!a.bits && !f.bits_8) w.coding.bits = 10;
    if (!a.bits && !f.bits_10) w.coding.bits = 8;
    if (!a.chroma && !f.half_420) w.coding.chroma = media::Chroma::Half422;
    if (!a.chroma && !f.half_422) w.coding.chroma = media::Chroma::Half420;
  }
  if (a.bits) w.coding.bits = *a.bits;
  if (a.chroma) w.coding.chroma = *a.chroma;
  if (a.quality) w.coding.quality = *a.quality;
  if (!a.preset.empty()) w.coding.preset = a.preset;
  if (a.size.width > 0) w.size = a.size;
  if (!a.fps.empty()) w.fps = parse_frame_rate(a.fps, "--fps");
  if (a.from) w.choice.first = *a.from;
  if (a.to) w.choice.last = *a.to;
  if (a.from && !a.to && w.choice.last > 0 && w.choice.last < *a.from) w.choice.last = 0;
  if (a.every) w.choice.every = *a.every;
  if (!a.speed.empty()) w.choice.speed = speeds_of(a.speed);
  if (a.backwards && a.to_and_fro)
    throw bad_input("--backwards and --to-and-fro do not go together.", "Leave one of the two out.");
  if (a.backwards) w.choice.way = render::Way::Backward;
  if (a.to_and_fro) w.choice.way = render::Way::ToAndFro;
  if (a.hold_first) w.choice.still_first_s = *a.hold_first;
  if (a.hold_last) w.choice.still_last_s = *a.hold_last;
  if (a.between) w.choice.between = *a.between;
  if (a.trail) w.choice.trail = *a.trail, w.choice.bright = *a.trail > 1 ? 0 : w.choice.bright;
  if (!a.trails.empty()) {
    put_trails(a.trails, w.choice);
    if (!a.trail) w.choice.trail = 1;
  }
  if (!a.view.empty()) w.views = views_of(a.view);
  w.crisp |= a.crisp;
  if (a.steady) w.steady = *a.steady;
  if (!a.sound.empty()) std::tie(w.sound, w.sound_from_s) = file_at(a.sound, "--sound");
  if (!a.fade.empty()) {
    const auto parts = split(a.fade, ',');
    if (parts.size() > 2) throw bad_input(fmt::format("--fade {} is not IN or IN,OUT.", a.fade));
    w.fade_in_s = number_in(parts[0], a.fade, "--fade");
    w.fade_out_s = parts.size() == 2 ? number_in(parts[1], a.fade, "--fade") : w.fade_in_s;
    for (const double s : {w.fade_in_s, w.fade_out_s})
      if (s < 0 || s > 60) throw bad_input(fmt::format("--fade {} is not between 0 and 60 s.", a.fade));
  }
  if (!a.text.empty()) w.written.text = a.text;
  for (const std::string& what : a.clock) {
    if (what == "time")
      w.written.time = true;
    else if (what == "date")
      w.written.date = true;
    else if (what == "elapsed")
      w.written.elapsed = true;
    else
      throw bad_input(fmt::format("--clock {} is not understood.", what), "Use time, date or elapsed.");
  }
  if (!a.scale.empty()) {
    const auto parts = split(a.scale, '=');
    if (parts.size() != 2 || parts[0].empty())
      throw bad_input(fmt::format("--scale {} is not WORDS=SHARE.", a.scale), "For example \"1 m=0.2\".");
    w.written.scale = parts[0];
    w.written.scale_share = number_in(parts[1], a.scale, "--scale");
    if (!(w.written.scale_share > 0 && w.written.scale_share <= 1))
      throw bad_input(fmt::format("--scale {} is not a share of the frame's width.", a.scale),
                      "Above 0 and up to 1.");
  }
  w.said.title |= a.title;
  w.said.chapters |= a.chapters;
  if (a.leave_gaps) w.choice.make_missing = false;
  if (!a.words.empty()) w.said.words = a.words;
  if (!a.author.empty()) w.said.author = a.author;
  return w;
}

FilmAsked other_film(const std::string& text, const FilmAsked& asked) {
  const size_t at = text.find('=');
  if (at == std::string::npos || at == 0)
    throw bad_input(fmt::format("--film {} is not NAME=OPTIONS.", text),
                    "For example tall.mp4=\"--size 1080x1920\".");
  FilmAsked other = asked;
  other.output = text.substr(0, at);
  other.still.clear();
  other.glimpse.clear();
  other.poster.clear();
  std::vector<std::string> words = words_in(text.substr(at + 1));
  words.insert(words.begin(), {"film", "film"});
  std::vector<char*> argv;
  argv.reserve(words.size());
  for (std::string& word : words) argv.push_back(word.data());
  Command command("film", "One more film from the same frames", "");
  Verb verb = command.add_verb("film", "One more film from the same frames");
  add_film_options(verb, other);
  verb.callback([] {});
  if (command.parse(static_cast<int>(argv.size()), argv.data()))
    throw bad_input(fmt::format("--film {} has an option that is not understood.", other.output),
                    "See askcount cut --help.");
  return other;
}

}  // namespace askcount::cli
