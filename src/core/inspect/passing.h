// SPDX-License-Identifier: GPL-3.0-or-later
// What is in one frame, or in a few, and in neither its neighbours before nor those after.
#pragma once

#include <cstdint>
#include <deque>
#include <functional>
#include <vector>

namespace askcount::inspect {

/// Follows one take's small pictures in order and says of each, once its neighbours after it are there, which
/// share of it is odd: unlike the frames before, unlike those after, while those are alike.
class Passing {
 public:
  static constexpr size_t kReach = 7;  ///< neighbours on either side
  using Tell = std::function<void(size_t frame, float odd)>;

  explicit Passing(Tell tell) : tell_(std::move(tell)) {}
  /// The next frame's small picture; empty where it was not seen.
  void next(std::vector<std::uint8_t> small);
  /// No more come: tells of those that still wait.
  void end();

 private:
  void tell(size_t frame);

  Tell tell_;
  std::deque<std::vector<std::uint8_t>> kept_;
  size_t first_ = 0, count_ = 0, told_ = 0;  // number of kept_.front(); frames that came; frames told of
};

}  // namespace askcount::inspect
