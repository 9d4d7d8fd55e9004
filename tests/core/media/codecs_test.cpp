// SPDX-License-Identifier: GPL-3.0-or-later
// The tables of codecs and containers agree with each other and with the FFmpeg libraries.
#include <gtest/gtest.h>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/opt.h>
}

#include <algorithm>
#include <set>

#include "media/coding.h"
#include "support.h"

namespace askcount::media {
namespace {

TEST(Codecs, StandInTheOrderOfTheEnumAndAreFoundByName) {
  std::set<std::string> names;
  for (size_t n = 0; n < codecs().size(); ++n) {
    const CodecFacts& f = codecs()[n];
    EXPECT_EQ(static_cast<size_t>(f.codec), n) << f.name;
    EXPECT_EQ(codec_named(f.name), f.codec);
    EXPECT_TRUE(names.insert(f.name).second) << f.name;
    EXPECT_TRUE(f.bits_8 || f.bits_10) << f.name;
    EXPECT_TRUE(f.half_420 || f.half_422) << f.name;
  }
  const Error wrong = test::error_of([] { codec_named("divx"); });
  for (const std::string& name : names)
    EXPECT_NE(std::string(wrong.what()).find(name), std::string::npos) << wrong.what();
}

TEST(Codecs, LieInContainersThatAre) {
  for (const CodecFacts& f : codecs()) {
    ASSERT_FALSE(f.endings.empty()) << f.name;
    for (const char* ending : f.endings) {
      const Container* c = container_of(std::string("film.") + ending);
      ASSERT_TRUE(c) << f.name << " in " << ending;
      EXPECT_EQ(c->sound == nullptr, f.animation) << f.name << " in " << ending;
      EXPECT_TRUE(fits_name(std::string("FILM.") + ending, f.codec));
    }
  }
  for (const Container& c : containers()) {
    EXPECT_TRUE(fits_name(std::string("film.") + c.ending, c.usual)) << c.ending;
    EXPECT_EQ(codec_of_ending(std::string("film.") + c.ending), c.usual);
    EXPECT_NE(film_endings(".").find(std::string(".") + c.ending), std::string::npos);
    EXPECT_TRUE(av_guess_format(c.muxer, nullptr, nullptr)) << c.muxer;
    if (c.sound) {
      EXPECT_TRUE(avcodec_find_encoder_by_name(c.sound)) << c.sound;
    }
  }
  EXPECT_EQ(container_of("film.avi"), nullptr);
  EXPECT_EQ(container_of("film"), nullptr);
}

/// What each encoder is told is an option it knows, with a value it takes, for every preset and quality.
TEST(Codecs, TellTheirEncodersOnlyWhatTheyKnow) {
  for (const CodecFacts& f : codecs()) {
    const AVCodec* encoder = avcodec_find_encoder_by_name(f.encoder);
    if (!encoder) continue;  // left out of the libraries here: the encoder says so when it is asked for
    EXPECT_EQ(std::string(avcodec_get_name(encoder->id)), f.ffmpeg) << f.name;
    for (const char* preset : presets())
      for (const int quality : {0, 18, 51}) {
        Coding coding;
        coding.codec = f.codec, coding.preset = preset, coding.quality = quality;
        coding.bits = f.bits_10 ? 10 : 8;
        AVCodecContext* c = avcodec_alloc_context3(encoder);
        for (const auto& [name, value] : f.options(coding))
          EXPECT_EQ(av_opt_set(c, name, value.c_str(), AV_OPT_SEARCH_CHILDREN), 0)
              << f.name << ": " << name << "=" << value;
        avcodec_free_context(&c);
      }
  }
}

}  // namespace
}  // namespace askcount::media
