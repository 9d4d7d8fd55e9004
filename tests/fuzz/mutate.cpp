// SPDX-License-Identifier: GPL-3.0-or-later
#include "mutate.h"

#include <algorithm>
#include <cctype>

namespace askcount::fuzz {
namespace {

constexpr size_t kLongest = 1 << 20;

/// Numbers that ask for trouble, whatever they stand for.
const std::vector<std::string>& odd_numbers() {
  static const std::vector<std::string> numbers = {"0",
                                                   "-0",
                                                   "-1",
                                                   "1",
                                                   "1e-320",
                                                   "1e308",
                                                   "-1e308",
                                                   "1e999",
                                                   "0.1",
                                                   "2147483647",
                                                   "2147483648",
                                                   "-2147483649",
                                                   "4294967296",
                                                   "9223372036854775807",
                                                   "9223372036854775808",
                                                   "18446744073709551616",
                                                   "65536",
                                                   "255",
                                                   "256",
                                                   "nan",
                                                   "inf",
                                                   "1/0",
                                                   "00",
                                                   "1.",
                                                   ".5",
                                                   "1e",
                                                   "0x10",
                                                   "1,5",
                                                   "1.000.000",
                                                   "\xE2\x88\x92"
                                                   "3",
                                                   "\xD9\xA3",
                                                   "1_000",
                                                   "+7"};
  return numbers;
}

}  // namespace

Mutator::Mutator(std::uint64_t seed, std::vector<std::string> corpus, std::vector<std::string> words)
    : random_(seed), corpus_(std::move(corpus)), words_(std::move(words)) {}

std::string Mutator::next() {
  std::string text = corpus_[below(corpus_.size())];
  for (size_t times = 1 + below(1 + below(8)); times > 0; --times) spoil(text);
  if (text.size() > kLongest) text.resize(kLongest);
  return text;
}

void Mutator::spoil(std::string& text) {
  switch (below(7)) {
    case 0:
    case 1:
      return change_bytes(text);
    case 2:
    case 3:
      return change_number(text);
    case 4:
      return move_part(text);
    case 5:
      return put_in(text);
    default:
      if (below(3) == 0) text.resize(below(text.size() + 1));
  }
}

void Mutator::change_bytes(std::string& text) {
  if (text.empty()) return;
  // Often near the beginning, where formats say what they are.
  const size_t reach = below(2) == 0 ? std::min<size_t>(text.size(), 400) : text.size();
  for (size_t n = 1 + below(6); n > 0; --n) {
    char& c = text[below(reach)];
    c = below(3) == 0 ? static_cast<char>(c ^ (1 << below(8))) : static_cast<char>(below(256));
  }
}

void Mutator::change_number(std::string& text) {
  const auto digit = [&](size_t i) {
    return i < text.size() && std::isdigit(static_cast<unsigned char>(text[i])) != 0;
  };
  if (text.empty()) return;
  size_t from = below(text.size());
  while (from < text.size() && !digit(from)) ++from;
  if (from == text.size()) return;
  while (from > 0 && digit(from - 1)) --from;
  size_t to = from;
  while (digit(to) || (to < text.size() && text[to] == '.')) ++to;
  text.replace(from, to - from, odd_numbers()[below(odd_numbers().size())]);
}

void Mutator::move_part(std::string& text) {
  if (text.empty()) return;
  const size_t from = below(text.size());
  const size_t length = std::min(text.size() - from, 1 + below(1 + below(text.size())));
  const std::string part = text.substr(from, length);
  if (below(2) == 0) text.erase(from, length);
  if (below(3) != 0 && text.size() + part.size() < kLongest) text.insert(below(text.size() + 1), part);
}

void Mutator::put_in(std::string& text) {
  const std::string* what = nullptr;
  std::string part;
  if (!words_.empty() && below(3) != 0) {
    what = &words_[below(words_.size())];
  } else {
    const std::string& other = corpus_[below(corpus_.size())];
    const size_t from = below(other.size() + 1);
    part = other.substr(from, below(other.size() - from + 1));
    what = &part;
  }
  text.insert(below(text.size() + 1), *what);
}

}  // namespace askcount::fuzz
