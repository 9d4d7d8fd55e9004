// Frames that wait, decoded, until the levelling has seen far enough ahead.
#pragma once

#include <deque>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "level/levelling.h"
#include "render/plan.h"
#include "source/frame_source.h"

namespace askcount::render {

/// A frame decoded at the scale the largest film needs.
struct Decoded {
  size_t index = 0;
  std::shared_ptr<const source::Shown> shown;  ///< null where it could not be read
  image::Size full;                            ///< of the whole upright frame
  image::RectF part;                           ///< of it that all films need together, as shares
  std::vector<image::Luminance> luminance;     ///< one a film that levels on the way, in their order
  std::string trouble;
};

/// A frame ready to be drawn for every film.
struct Due {
  std::shared_ptr<const source::Shown> shown;
  image::RectF part;             ///< of the frame that `shown` was asked for, as shares
  std::vector<FramePlan> plans;  ///< one a film
};

/// Takes decoded frames in order and gives each back once every film's correction of it is known. Used from
/// one thread at a time.
class Queue {
 public:
  Queue(const source::Frames& frames, std::span<const FilmOrder> orders);

  /// Frames that must follow one before it is given back.
  size_t lookahead() const { return lookahead_; }
  /// Takes the next decoded frame (null when there are no more) and gives the one that is due, if any. Throws
  /// TooManyUnreadable where more frames in a row, or of all, cannot be read than neighbours may stand in
  /// for.
  std::shared_ptr<Due> pass(std::shared_ptr<Decoded> in);

  const std::vector<std::string>& troubles() const { return troubles_; }
  /// Flicker of what was decoded, in stops; 0 for films whose levelling was known before.
  double flicker_before(size_t film) const;

 private:
  struct Levelling {
    level::Leveller leveller;
    std::vector<double> as_shot;
  };
  std::shared_ptr<Decoded> stand_in_for(const Decoded& frame) const;
  void count_trouble(const Decoded& in);
  level::Correction correction_of(size_t film, const Decoded& frame, const Decoded& from);

  std::span<const FilmOrder> orders_;
  std::vector<std::optional<Levelling>> levellings_;  // nothing where gains are known or not wanted
  std::vector<size_t> measured_as_;                   // place of a film in Decoded::luminance
  size_t lookahead_ = 1;
  std::deque<std::shared_ptr<Decoded>> held_;
  std::shared_ptr<Decoded> last_;  // the last that could be read
  std::vector<std::string> troubles_;
  size_t total_ = 0;     // frames of the take
  size_t in_a_row_ = 0;  // that could not be read, up to the last one that came
};

/// Whether a film's levelling is worked out while it is rendered.
inline bool levels_on_the_way(const FilmOrder& order) {
  return order.levelled && order.corrections.empty();
}

}  // namespace askcount::render
