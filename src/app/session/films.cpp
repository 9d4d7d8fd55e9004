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
    file_ = document_.film_file();
    emit changed();
    look();
  });
}

Films::Key Films::now() const {
  return {document_.generation(), document_.film_file(), frames_.list(), document_.take().film,
          orders::film_rate(document_.take()).value_or(FrameRate{})};
}

void Films::put(const Made& made) {
  file_ = made.file;
  film_ = made.facts;
  stood_in_ = made.stood_in;
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
                made->stood_in = static_cast<long long>(outcome.unreadable.size());
              },
              [this, made] { put(*made); }, [this, key] { return key == now(); }});
}

}  // namespace askcount::app
