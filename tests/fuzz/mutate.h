// SPDX-License-Identifier: GPL-3.0-or-later
// Inputs spoiled at random: the same seed gives the same inputs.
#pragma once

#include <cstdint>
#include <random>
#include <string>
#include <vector>

namespace askcount::fuzz {

/// Makes inputs from good ones: bytes and numbers changed, parts left out, doubled, moved, or put in from
/// another, words of the format where they do not belong, ends cut off.
class Mutator {
 public:
  /// `words` are put in as they are: keys, signs and numbers that the format knows.
  Mutator(std::uint64_t seed, std::vector<std::string> corpus, std::vector<std::string> words);
  std::string next();

 private:
  void spoil(std::string& text);
  void change_bytes(std::string& text);
  void change_number(std::string& text);
  void move_part(std::string& text);
  void put_in(std::string& text);
  size_t below(size_t n) { return n == 0 ? 0 : static_cast<size_t>(random_() % n); }

  std::mt19937_64 random_;
  std::vector<std::string> corpus_, words_;
};

}  // namespace askcount::fuzz
