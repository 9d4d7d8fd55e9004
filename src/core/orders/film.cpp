#include "orders/film.h"

namespace askcount::orders {

render::FilmOrder film_order(const take::Take& take, const std::filesystem::path& output) {
  render::FilmOrder order;
  order.output = output;
  order.fps = take.sums().fps;
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
