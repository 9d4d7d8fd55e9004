// SPDX-License-Identifier: GPL-3.0-or-later
#include "film_options.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/error.h"
#include "base/number.h"
#include "base/units.h"

namespace askcount::cli {
namespace {

/// A number that is all of a text.
double number_in(std::string_view text, const std::string& whole, const char* option) {
  const bool below = text.starts_with('-');
  if (below) text.remove_prefix(1);
  const auto value = take_number(text);
  if (!value || !text.empty())
    throw bad_input(fmt::format("{} {} is not understood.", option, whole), "See askcount cut --help.");
  return below ? -*value : *value;
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

void put_bright(const std::string& said, render::Choice& choice) {
  const auto parts = split(said, ':');
  if (parts.size() > 2 || parts[0] != "bright")
    throw bad_input(fmt::format("--trails {} is not understood.", said),
                    "Use bright:30 (30 frames long) or bright:all.");
  if (parts.size() == 1 || parts[1] == "all")
    choice.bright = render::kAllFrames;
  else
    choice.bright = parse_count(parts[1], "--trails");
  choice.trail = 1;
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

/// Adds options one by one; each leaves a change to the wish.
class Adding {
 public:
  using Wish = take::FilmWish;
  using Texts = std::vector<std::string>;
  Adding(const Verb& verb, FilmSaid& said) : verb_(verb), said_(said) {}

  Option text(const char* name, void (*put)(Wish&, const std::string&), const char* help) const {
    const auto hear = [change = hears<std::string>(name, put)](const Texts& all) { change(all.front()); };
    return verb_.add_heard(name, hear, help);
  }
  Option texts(const char* name, void (*put)(Wish&, const Texts&), const char* help) const {
    constexpr int kMost = 1000;
    return verb_.add_heard(name, hears<Texts>(name, put), help).counted(kMost);
  }
  Option number(const char* name, void (*put)(Wish&, const double&), const char* help) const {
    return verb_.add_number(name, hears<double>(name, put), help);
  }
  Option count(const char* name, void (*put)(Wish&, const long long&), const char* help) const {
    return verb_.add_count(name, hears<long long>(name, put), help);
  }
  Option size(const char* name, void (*put)(Wish&, const image::Size&), const char* help) const {
    return add_size(verb_, name, hears<image::Size>(name, put), help);
  }
  template <class T>
  void choice(const char* name, const Words<T>& words, void (*put)(Wish&, const T&), const char* help) const {
    verb_.add_choice(name, words, help, hears<T>(name, put));
  }
  void flag(const char* name, void (*put)(Wish&), const char* help) const {
    verb_.add_flag(
        name, [this_said = &said_, name, put] { this_said->change(name, put); }, help);
  }

 private:
  template <class T>
  std::function<void(const T&)> hears(const char* name, void (*put)(Wish&, const T&)) const {
    return [this_said = &said_, name, put](const T& value) {
      this_said->change(name, [put, value](Wish& wish) { put(wish, value); });
    };
  }
  const Verb& verb_;
  FilmSaid& said_;
};

using Wish = take::FilmWish;

void add_frames(const Adding& add) {
  constexpr long long kMost = 10000000;
  add.text(
      "--fps", [](Wish& w, const std::string& said) { w.fps = parse_frame_rate(said, "--fps"); },
      "Frame rate of the film, where it is not the plan's");
  const auto from = [](Wish& w, const long long& n) {
    w.choice.first = n;
    if (w.choice.last < n) w.choice.last = 0;
  };
  add.count("--from", from, "The first frame of the film, counted from 1").between(1LL, kMost);
  add.count(
         "--to", [](Wish& w, const long long& n) { w.choice.last = n; }, "The last one")
      .between(1LL, kMost);
  add.count(
         "--every", [](Wish& w, const long long& n) { w.choice.every = n; },
         "Only every nth frame; of a video, every nth picture")
      .between(1LL, kMost);
  add.texts(
         "--speed", [](Wish& w, const Adding::Texts& said) { w.choice.speed = speeds_of(said); },
         "How many times as fast, or TIMES@SECONDS of the film, several, eased between them")
      .called("X[@S]");
  add.flag(
      "--backwards", [](Wish& w) { w.choice.way = render::Way::Backward; }, "The last frame first");
  add.flag(
      "--to-and-fro", [](Wish& w) { w.choice.way = render::Way::ToAndFro; }, "To the last frame and back");
  add.number(
         "--hold-first", [](Wish& w, const double& s) { w.choice.still_first_s = s; },
         "Seconds the first picture is held")
      .between(0.0, 600.0);
  add.number(
         "--hold-last", [](Wish& w, const double& s) { w.choice.still_last_s = s; },
         "Seconds the last picture is held")
      .between(0.0, 600.0);
}

void add_between(const Adding& add) {
  using render::Between;
  add.choice<Between>(
      "--between", {{"repeat", Between::Repeat}, {"blend", Between::Blend}, {"motion", Between::Motion}},
      [](Wish& w, const Between& b) { w.choice.between = b; },
      "What is shown between two frames, and in place of one that is missing");
  add.flag(
      "--leave-gaps", [](Wish& w) { w.choice.make_missing = false; },
      "Skips missing frames instead of making them");
  const auto trail = [](Wish& w, const long long& n) {
    w.choice.trail = n;
    if (n > 1) w.choice.bright = 0;
  };
  add.count("--trail", trail, "Frames that are blended into each").between(1LL, render::kLongestTrail);
  add.text(
      "--trails", [](Wish& w, const std::string& said) { put_bright(said, w.choice); },
      "bright:30 or bright:all: for how many frames the brightest stays");
}

void add_picture(const Adding& add) {
  add.size(
      "--size", [](Wish& w, const image::Size& size) { w.size = size; }, "Size of the film");
  add.texts(
         "--view", [](Wish& w, const Adding::Texts& said) { w.views = views_of(said); },
         "The part of the frame that is seen: middle and width as shares of it, degrees clockwise, at a "
         "time of the film; several, eased between them")
      .called("X,Y,W[,TURN][@S]");
  add.flag(
      "--crisp", [](Wish& w) { w.crisp = true; }, "Resampled for sharpness; otherwise without halos");
  using motion::Mode;
  add.choice<Mode>(
      "--steady", {{"none", Mode::None}, {"bumps", Mode::Bumps}, {"all", Mode::All}, {"walk", Mode::Walk}},
      [](Wish& w, const Mode& mode) { w.steady = mode; },
      "Removes only knocks, all movement, or the shake of a walk");
}

/// What the codec cannot hold follows it, unless it is asked for after it.
void put_codec(Wish& w, const media::Codec& codec) {
  media::Coding& c = w.coding;
  c.codec = codec;
  const media::CodecFacts& f = media::facts_of(codec);
  if (!f.bits_8) c.bits = 10;
  if (!f.bits_10) c.bits = 8;
  if (!f.half_420) c.chroma = media::Chroma::Half422;
  if (!f.half_422) c.chroma = media::Chroma::Half420;
}

void add_coding(const Adding& add) {
  using media::Purpose;
  add.choice<Purpose>(
      "--for",
      {{"web", Purpose::Web},
       {"editor", Purpose::Editor},
       {"keep", Purpose::Keep},
       {"phone", Purpose::Phone}},
      [](Wish& w, const Purpose& purpose) { w.coding = media::usual_for(purpose).coding; },
      "The usual coding for it");
  Words<media::Codec> codecs;
  for (const media::CodecFacts& f : media::codecs()) codecs.emplace_back(f.name, f.codec);
  add.choice<media::Codec>("--codec", codecs, put_codec, "How it is encoded");
  add.choice<int>(
      "--bits", {{"8", 8}, {"10", 10}}, [](Wish& w, const int& bits) { w.coding.bits = bits; },
      "8 or 10 for every colour");
  add.choice<media::Chroma>(
      "--chroma", {{"420", media::Chroma::Half420}, {"422", media::Chroma::Half422}},
      [](Wish& w, const media::Chroma& chroma) { w.coding.chroma = chroma; },
      "Colour samples: one for four pixels, or for two");
  add.count(
         "--quality", [](Wish& w, const long long& q) { w.coding.quality = static_cast<int>(q); },
         "Constant rate factor, 0 to 51; lower is better")
      .between(0, 51);
  add.text(
         "--preset", [](Wish& w, const std::string& said) { w.coding.preset = said; }, "The encoder's preset")
      .one_of({media::presets().begin(), media::presets().end()});
}

void put_fade(Wish& w, const std::string& said) {
  const auto parts = split(said, ',');
  if (parts.size() > 2) throw bad_input(fmt::format("--fade {} is not IN or IN,OUT.", said));
  w.fade_in_s = number_in(parts[0], said, "--fade");
  w.fade_out_s = parts.size() == 2 ? number_in(parts[1], said, "--fade") : w.fade_in_s;
  for (const double s : {w.fade_in_s, w.fade_out_s})
    if (s < 0 || s > 60) throw bad_input(fmt::format("--fade {} is not between 0 and 60 s.", said));
}

void put_clock(Wish& w, const std::string& said) {
  for (const std::string& what : split(said, ','))
    if (what == "time")
      w.written.time = true;
    else if (what == "date")
      w.written.date = true;
    else if (what == "elapsed")
      w.written.elapsed = true;
    else
      throw bad_input(fmt::format("--clock {} is not understood.", what), "Use time, date or elapsed.");
}

void put_scale(Wish& w, const std::string& said) {
  const auto parts = split(said, '=');
  if (parts.size() != 2 || parts[0].empty())
    throw bad_input(fmt::format("--scale {} is not WORDS=SHARE.", said), "For example \"1 m=0.2\".");
  const double share = number_in(parts[1], said, "--scale");
  if (!(share > 0 && share <= 1))
    throw bad_input(fmt::format("--scale {} is not a share of the frame's width.", said),
                    "Above 0 and up to 1.");
  w.written.scale = parts[0];
  w.written.scale_share = share;
}

void add_sound_and_words(const Adding& add) {
  const auto sound = [](Wish& w, const std::string& said) {
    std::tie(w.sound, w.sound_from_s) = file_at(said, "--sound");
    w.sound = std::filesystem::absolute(w.sound).string();
  };
  add.text("--sound", sound, "A sound file, from a time in it").called("FILE[@S]");
  add.text("--fade", put_fade, "Seconds faded in and out, picture and sound: IN or IN,OUT");
  add.text(
      "--text", [](Wish& w, const std::string& said) { w.written.text = said; },
      "A line written into the pictures");
  add.text("--clock", put_clock, "Written into the pictures: time, date, elapsed, or several with commas")
      .called("WHAT");
  add.text("--scale", put_scale, "A bar written into the pictures: \"1 m=0.2\", share of the frame's width");
}

void add_metadata(const Adding& add) {
  add.flag(
      "--title", [](Wish& w) { w.said.title = true; }, "The film's metadata says the take's name");
  add.text(
      "--words", [](Wish& w, const std::string& said) { w.said.words = said; },
      "A description in the film's metadata");
  add.text(
      "--author", [](Wish& w, const std::string& said) { w.said.author = said; },
      "The author in the film's metadata");
  add.flag(
      "--chapters", [](Wish& w) { w.said.chapters = true; },
      "Chapters in its metadata where the light changes");
  add.flag(
      "--report", [](Wish& w) { w.report = true; }, "Write a report of the finished film beside it (JSON)");
}

}  // namespace

std::pair<std::string, double> file_at(const std::string& text, const char* option) {
  const size_t at = text.rfind('@');
  if (at == std::string::npos) return {text, 0};
  std::string_view seconds(text);
  seconds.remove_prefix(at + 1);
  const bool below = seconds.starts_with('-');
  if (below) seconds.remove_prefix(1);
  const auto value = take_number(seconds);
  if (!value || !seconds.empty()) return {text, 0};  // an @ in the name
  if (below) throw bad_input(fmt::format("{} {} is before the beginning.", option, text));
  return {text.substr(0, at), *value};
}

void add_film_options(const Verb& verb, FilmSaid& said) {
  const Adding add(verb, said);
  add_frames(add);
  add_between(add);
  add_picture(add);
  add_coding(add);
  add_sound_and_words(add);
  add_metadata(add);
  verb.add_option("--place-said", said.place, "A place in the film's metadata");
  verb.add_option("--poster", said.poster, "A picture of the film at a time of it (.png, .tif or .jpg)")
      .called("FILE[@S]");
}

void FilmSaid::change(const char* option, std::function<void(take::FilmWish&)> how) {
  said.insert(option);
  changes.push_back(std::move(how));
}

take::FilmWish FilmSaid::over(take::FilmWish wish) const {
  for (const auto& [one, other] : {std::pair{"--backwards", "--to-and-fro"}, {"--trail", "--trails"}})
    if (said.contains(one) && said.contains(other))
      throw bad_input(fmt::format("{} and {} do not go together.", one, other), "Leave one of the two out.");
  if (!output.empty()) {
    const auto named = media::codec_of_ending(output);
    if (named && !media::fits_name(output, wish.coding.codec)) wish.coding.codec = *named;
  }
  for (const auto& change : changes) change(wish);
  return wish;
}

FilmSaid other_film(const std::string& text, const FilmSaid& like) {
  const size_t at = text.find('=');
  if (at == std::string::npos || at == 0)
    throw bad_input(fmt::format("--film {} is not NAME=OPTIONS.", text),
                    "For example tall.mp4=\"--size 1080x1920\".");
  FilmSaid other = like;
  other.output = text.substr(0, at);
  other.poster.clear();
  other.said.clear();
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
