// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/fault.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <random>

#include "base/error.h"
#include "base/units.h"

namespace askcount::simulate {
namespace {

using Kind = Fault::Kind;
struct Known {
  const char* word;
  double amount;
  const char* words;
};
constexpr std::array<Known, 10> kKnown = {
    {{"battery", 0,
      "The battery died. What is on the card is safe: change it, start the timer again, and join the two "
      "parts."},
     {"card", 0, "The card is full. Everything on it is safe: change it and start the timer again."},
     {"bump", 0.02, "The tripod was bumped. Do not move it back: the two parts can be lined up later."},
     {"focus", 0.004,
      "The focus shifted. Frames before it are sharp: refocus now, tape the ring, note the frame."},
     {"dew", 60,
      "Dew on the lens. Wipe once between two shots and switch the heater on; the hazy frames can be left "
      "out."},
     {"skip", 0, "One press was not heard. A single missing frame can be drawn from its neighbours."},
     {"double", 0, "One press gave two shots. The second one is left out when the take is gathered."},
     {"hand", 0, "Something was in front of the lens. That frame can be drawn from its neighbours."},
     {"lamp", 0.4,
      "A lamp flickers. Its light can be levelled in its own part of the picture; fix it if you can reach "
      "it."},
     {"clock", 3600,
      "The camera's clock is wrong. Leave it until the take is over: file numbers keep the order."}}};

}  // namespace

const char* fault_word(Kind kind) {
  return kKnown[static_cast<size_t>(kind)].word;
}
std::string fault_words(const Fault& fault) {
  return kKnown[static_cast<size_t>(fault.kind)].words;
}

Fault parse_fault(std::string_view text) {
  const std::string all(text);
  const size_t at = all.find('@'), equals = all.find('=');
  const std::string word = all.substr(0, std::min(at, equals));
  std::string known;
  for (size_t i = 0; i < kKnown.size(); ++i) {
    known += (known.empty() ? "" : ", ") + std::string(kKnown[i].word);
    if (word != kKnown[i].word) continue;
    Fault f{static_cast<Kind>(i), 0, kKnown[i].amount};
    if (at != std::string::npos)
      f.at =
          parse_count(all.substr(at + 1, equals == std::string::npos ? std::string::npos : equals - at - 1),
                      Input::Fault) -
          1;
    else if (f.kind != Kind::Clock)
      throw bad_value(Input::Fault, fmt::format("\"{}\" does not say at which frame.", all),
                      fmt::format("Write {}@120.", word));
    if (equals != std::string::npos) {
      const bool below = all[equals + 1] == '-';
      f.amount = parse_positive(all.substr(equals + 1 + below), Input::Fault) * (below ? -1 : 1);
    }
    return f;
  }
  throw bad_value(Input::Fault, fmt::format("\"{}\" is no fault the stand-in knows.", all),
                  "It knows " + known + ", as in bump@120.");
}

std::vector<Fault> chance_faults(double chance, long long frames, std::uint64_t seed) {
  std::vector<Fault> list;
  if (chance <= 0) return list;
  std::mt19937_64 random(seed * 7919 + 17);
  std::uniform_real_distribution<double> even(0, 1);
  constexpr Kind kinds[] = {Kind::Skip, Kind::Double, Kind::Hand};
  for (long long n = 0; n < frames; ++n)
    if (even(random) < chance) list.push_back({kinds[random() % 3], n, 0});
  return list;
}

FrameHarm harm_at(const std::vector<Fault>& faults, long long frame) {
  FrameHarm h;
  for (const Fault& f : faults) {
    if (frame < f.at) continue;
    switch (f.kind) {
      case Kind::Bump:
        h.shift_x += f.amount, h.shift_y += 0.4 * f.amount;
        break;
      case Kind::Focus:
        h.blur += f.amount;
        break;
      case Kind::Dew: {
        const double grown = std::min(1.0, static_cast<double>(frame - f.at + 1) / std::max(1.0, f.amount));
        h.haze += 0.55 * grown;
        h.blur += 0.006 * grown;
        break;
      }
      case Kind::Hand:
        h.hand = h.hand || frame == f.at;
        break;
      case Kind::Lamp: {
        std::mt19937_64 random(static_cast<std::uint64_t>(frame) * 2654435761u + 5);
        h.stops += std::uniform_real_distribution<double>(-f.amount, f.amount)(random);
        break;
      }
      case Kind::Clock:
        h.clock_s += f.amount;
        break;
      default:
        break;
    }
  }
  return h;
}

}  // namespace askcount::simulate
