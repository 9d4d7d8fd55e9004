#include "app/session/films.h"

#include <algorithm>
#include <cmath>
#include <memory>

#include "base/error.h"
#include "orders/film.h"
#include "render/render.h"

namespace askcount::app {

Films::Films(Document& document, Frames& frames, Levelling& levelling, Job& job, QObject* parent)
    : QObject(parent), document_(document), frames_(frames), levelling_(levelling), job_(job) {
  connect(&document, &Document::replaced, this, [this] {
    film_.reset();
    outcome_.reset();
    file_ = document_.film_file();
    emit changed();
    look();
  });
}

Films::Key Films::now() const {
  return {document_.generation(), document_.film_file(), frames_.list(), document_.take().film,
          orders::rate_of(document_.take(), document_.take().film).value_or(FrameRate{})};
}

std::optional<cut::Timeline> Films::timeline() const {
  const auto count = static_cast<long long>(frames_.list()->size());
  const auto rate = orders::rate_of(document_.take(), document_.take().film);
  if (count == 0 || !rate) return {};
  try {
    return cut::Timeline(document_.take().film.choice, count, *rate);
  } catch (const Error&) {
    return {};
  }
}

long long Films::take_frame(long long film_frame) const {
  const auto t = timeline();
  if (!t || film_frame < 0) return std::max(0LL, film_frame);
  const size_t at = std::min(static_cast<size_t>(film_frame), t->frames() - 1);
  return static_cast<long long>(t->take_place(at) + 1e-9);
}

long long Films::film_frame(long long take_frame) const {
  const auto t = timeline();
  if (!t) return take_frame;
  size_t best = 0;
  double least = 1e18;
  for (size_t n = 0; n < t->frames(); ++n)
    if (const double off = std::abs(t->take_place(n) - static_cast<double>(take_frame)); off < least)
      least = off, best = n;
  return static_cast<long long>(best);
}

void Films::put(const Made& made) {
  file_ = made.file;
  film_ = made.facts;
  stood_in_ = made.stood_in;
  outcome_ = made.outcome;
  ++number_;
  emit changed();
}

void Films::look() {
  reading_.disown();
  if (document_.file().empty()) return;
  const auto found = std::make_shared<Made>();
  reading_.start(
      {"Looking at the film",
       [found, wished = document_.film_file()](const Work&) {
         std::error_code ec;
         found->file = orders::film_file(wished);
         if (std::filesystem::exists(found->file, ec)) found->facts = film::read_film(found->file);
       },
       [this, found] {
         if (!film_ && found->facts.frames > 0) put(*found);
       },
       [this, generation = document_.generation()] { return generation == document_.generation(); }});
}

void Films::make() {
  if (job_.running() || !frames_.gathered()) return;
  render::FilmOrder order;
  try {
    order = orders::film_order(document_.take(), document_.film_file(), document_.file().parent_path(),
                               frames_.list());
  } catch (const Error& e) {
    emit trouble(QString::fromUtf8(e.what()));
    return;
  }
  if (levelling_.evenness() && !levelling_.stale()) order.corrections = levelling_.evenness()->corrections;
  const auto made = std::make_shared<Made>();
  const Key key = now();
  job_.start({doing(),
              [order, made, frames = key.frames, take = document_.take(),
               folder = document_.file().parent_path()](const Work& work) mutable {
                const auto source = orders::source_of(take, folder, frames);
                made->file = order.output = orders::film_file(order.output);
                const render::FilmOutcome outcome = render::render(frames, *source, order, work);
                made->facts = outcome.facts;
                made->outcome = outcome;
                made->stood_in = static_cast<long long>(outcome.unreadable.size());
              },
              [this, made] { put(*made); }, [this, key] { return key == now(); }});
}

}  // namespace askcount::app
