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

}  // namespace askcount::orders
