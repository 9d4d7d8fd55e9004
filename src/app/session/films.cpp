#include "app/session/films.h"

#include <memory>

#include "base/error.h"
#include "orders/film.h"
#include "render/render.h"

namespace askcount::app {

Films::Films(Document& document, Frames& frames, Levelling& levelling, Job& job, QObject* parent)
    : QObject(parent), document_(document), frames_(frames), levelling_(levelling), job_(job) {
  connect(&document, &Document::replaced, this, [this] {
    film_.reset();
    emit changed();
    look();
  });
}

Films::Key Films::now() const {
  return {document_.generation(), document_.film_file(), frames_.list(), document_.take().film,
          document_.sums() ? document_.sums()->fps : FrameRate{}};
}

void Films::put(const film::FilmFacts& facts) {
  film_ = facts;
  ++number_;
  emit changed();
}

void Films::look() {
  reading_.disown();
  const std::filesystem::path file = document_.film_file();
  std::error_code ec;
  if (document_.file().empty() || !std::filesystem::exists(file, ec)) return;
  const auto facts = std::make_shared<film::FilmFacts>();
  reading_.start(
      {"Looking at the film", [facts, file](const Work&) { *facts = film::read_film(file); },
       [this, facts] {
         if (!film_) put(*facts);
       },
       [this, generation = document_.generation()] { return generation == document_.generation(); }});
}

void Films::make() {
  if (job_.running() || !frames_.gathered() || !document_.sums()) return;
  render::FilmOrder order;
  try {
    order = orders::film_order(document_.take(), document_.film_file());
  } catch (const Error& e) {
    emit trouble(QString::fromUtf8(e.what()));
    return;
  }
  if (levelling_.evenness()) order.gains = levelling_.evenness()->gains;
  const auto facts = std::make_shared<film::FilmFacts>();
  const Key key = now();
  job_.start({doing(),
              [order, facts, frames = key.frames](const Work& work) {
                *facts = render::render(frames, source::any_source(), order, work).facts;
              },
              [this, facts] { put(*facts); }, [this, key] { return key == now(); }});
}

}  // namespace askcount::app
