// SPDX-License-Identifier: GPL-3.0-or-later
// How film is encoded: codecs, what each can hold, and the usual choices in words.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "image/pixels.h"
#include "media/frame_buffer.h"

namespace askcount::media {

enum class Codec { H264, H265, Av1, Vp9, ProRes, DnxHr, Ffv1, WebP, Gif };

/// How a film is encoded.
struct Coding {
  /// 0 (best) to 51, as the constant rate factor of x264; other codecs get what looks alike, and some have no
  /// such choice.
  int quality = 18;
  std::string preset = "medium";  ///< how much time is taken: ultrafast to veryslow
  int bits = 8;                   ///< 8 or 10 for every colour
  Chroma chroma = Chroma::Half420;
  Codec codec = Codec::H264;
  bool operator==(const Coding&) const = default;
};

/// Pictures from one that stands by itself to the next, where a codec has such: the encoders are told so.
inline constexpr int kFromKeyToKey = 250;

/// What an encoder is told, by the names the FFmpeg libraries know.
using EncoderOptions = std::vector<std::pair<const char*, std::string>>;

/// What a codec can hold, and how it is asked to.
struct CodecFacts {
  Codec codec;
  const char* name;     ///< as it is asked for: "h264"
  const char* words;    ///< as it is read: "H.264"
  const char* encoder;  ///< of the FFmpeg libraries
  const char* ffmpeg;   ///< what they call the film: "hevc"
  bool bits_8 = true, bits_10 = true, half_420 = true, half_422 = true;
  bool has_quality = true;  ///< Coding::quality is a choice
  bool animation = false;   ///< pictures in red, green and blue, each with a time of its own; without sound
  std::vector<const char*> endings;                           ///< of files that hold it, the usual one first
  int least_width = 16, least_height = 16, most_side = 8192;  ///< pixels
  const char* tag = nullptr;    ///< four letters it is called by in files that are not Matroska; null: usual
  const char* sound = nullptr;  ///< the encoder of sound beside it; null for the container's
  EncoderOptions (*options)(const Coding&);
};

/// A kind of film's file.
struct Container {
  const char* ending;
  const char* muxer;  ///< of the FFmpeg libraries
  Codec usual;        ///< what it holds by default
  const char* sound;  ///< the encoder of its sound; null where it holds none
};
const std::vector<Container>& containers();
/// By the ending of a file's name; null for endings that are no film's.
const Container* container_of(const std::filesystem::path& named);
/// "mp4, mov or mkv": the endings of all, each with this before it.
std::string film_endings(std::string_view before = "");

/// The words for Coding::preset, the fastest first.
const std::vector<const char*>& presets();

/// All of them, in the order of the enum.
const std::vector<CodecFacts>& codecs();
const CodecFacts& facts_of(Codec codec);
/// By its name; throws BadInput with those there are.
Codec codec_named(std::string_view name);
/// What a file of this ending holds by default; nothing for endings that are no film's.
std::optional<Codec> codec_of_ending(const std::filesystem::path& named);

/// Whether a file of this ending can hold it.
bool fits_name(const std::filesystem::path& named, Codec codec);

/// What a film is for, in words.
enum class Purpose { Web, Editor, Keep, Phone };
/// The coding for it. `ending` is what a film's name ends in for it.
struct Usual {
  Coding coding;
  const char* ending;
};
Usual usual_for(Purpose purpose);

/// Throws BadInput, saying what would do, where film of this name, size (even, 16 to 8192 pixels), bits or
/// colour samples cannot be written.
void check_coding(const std::filesystem::path& named, image::Size size, const Coding& coding);

}  // namespace askcount::media
