// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/levelling.h"

#include "app/style/text.h"
#include "base/error.h"
#include "films/film.h"

namespace askcount::app {

Levelling::Levelling(Document& document, Frames& frames, Optics& optics, Job& job, QObject* parent)
    : QObject(parent), document_(document), frames_(frames), optics_(optics), job_(job) {
  for (const auto& follow_all : {&Levelling::follow, &Levelling::follow_looks}) {
    connect(&document, &Document::changed, this, follow_all);
    connect(&frames, &Frames::changed, this, follow_all);
  }
}

Levelling::Key Levelling::now() const {
  return {frames_.list(), document_.take().film.size, films::smoothing_of(document_.take())};
}

void Levelling::follow() {
  const Key key = now();
  if (!evenness_ || made_from_ == key) return;
  if (made_from_.measures_as(key)) {
    level_anew();
    return;
  }
  levelling_.disown();
  measured_.reset();
  evenness_.reset();
  emit changed();
}

void Levelling::level_anew() {
  levelling_.disown();
  const Key key = now();
  const auto evenness = std::make_shared<level::Evenness>();
  levelling_.start({say_q("Levelling"),
                    [evenness, key, measured = measured_](const Work& work) {
                      *evenness = level::even_out(key.frames, *measured, key.smoothing, work);
                    },
                    [this, evenness, key] {
                      evenness_ = std::move(*evenness);
                      made_from_ = key;
                      emit changed();
                    },
                    [this, key] { return key == now(); }});
}

void Levelling::follow_looks() {
  const take::LookWish& wish = document_.take().look;
  if (wish.anchors == looks_.anchors && wish.cube == cube_name_ && looks_frames_ == frames_.list()) return;
  const bool same_cube = wish.cube == cube_name_;
  const auto cube = looks_.cube;
  take::Take take = document_.take();
  if (same_cube) take.look.cube.clear();  // read already
  try {
    looks_ = films::looks_of(take, document_.file().parent_path(), frames_.list());
  } catch (const Error& e) {
    emit trouble(QString::fromUtf8(e.what()));
    take.look.cube.clear();
    looks_ = films::looks_of(take, {}, frames_.list());
  }
  if (same_cube) looks_.cube = cube;
  cube_name_ = wish.cube;
  looks_frames_ = frames_.list();
  emit looks_changed();
}

render::FramePlan Levelling::plan(size_t n, bool as_shot) const {
  render::FilmOrder order;
  order.size = document_.take().film.size;
  if (!as_shot) order.looks = looks_;
  const media::ShotInfo& info = (*frames_.list())[n].info();
  const bool known = !as_shot && evenness_ && n < evenness_->corrections.size();
  return render::plan_of(order, n, image::upright(info.size, info.orientation),
                         known ? evenness_->corrections[n] : level::Correction());
}

void Levelling::take_in(level::Luminances measured, const media::Frames& frames, image::Size film,
                        const optics::Wish& undone) {
  const Key key = now();
  if (evenness_ || key.frames != frames || !(key.film == film) || undone != optics_.undone()) return;
  measured_ = std::make_shared<const level::Luminances>(std::move(measured));
  measured_through_ = undone;
  level_anew();
}

void Levelling::start() {
  if (!frames_.gathered()) return;
  const Key key = now();
  const auto evenness = std::make_shared<level::Evenness>();
  const auto measured = std::make_shared<level::Luminances>();
  const std::shared_ptr<const media::FrameSource> source = optics_.source();
  job_.start({say_q("Measuring brightness"),
              [evenness, measured, key, source](const Work& work) {
                *measured = level::measure(key.frames, *source, key.film, level::MeasuredFrom::Frames, work);
                *evenness = level::even_out(key.frames, *measured, key.smoothing, {{}, work.stop});
              },
              [this, evenness, measured, key, undone = optics_.undone()] {
                evenness_ = std::move(*evenness);
                measured_ = measured;
                measured_through_ = undone;
                made_from_ = key;
                follow();
                emit changed();
              },
              [this, key] { return key.measures_as(now()); }});
}

}  // namespace askcount::app

#include "moc_levelling.cpp"
