#include "orders/film.h"

#include "base/error.h"

namespace askcount::orders {

std::optional<FrameRate> film_rate(const take::Take& take) {
  const auto fps = take.solution()[plan::Slot::Fps];
  return fps ? std::optional(nearest_frame_rate(*fps)) : std::nullopt;
}

render::FilmOrder film_order(const take::Take& take, const std::filesystem::path& output) {
  render::FilmOrder order;
  order.output = output;
  const auto rate = film_rate(take);
  if (!rate) throw bad_input("The film's frame rate is not said.", "Say it: 25 fps, for one.");
  order.fps = *rate;
  order.size = take.film.size;
  order.coding.quality = take.film.quality;
  return order;
}

std::filesystem::path film_file(const std::filesystem::path& wished) {
  std::filesystem::path file = wished;
  std::error_code ec;
  for (int n = 1;
       std::filesystem::exists(std::filesystem::symlink_status(file, ec)) && !film::made_by_us(file); ++n)
    file = wished.parent_path() / (wished.stem().string() + (n > 1 ? " clip " + std::to_string(n) : " clip") +
                                   wished.extension().string());
  return file;
}

}  // namespace askcount::orders
