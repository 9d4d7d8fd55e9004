// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/preview.h"

#include <chrono>

#include "app/style/text.h"
#include "base/error.h"
#include "base/units.h"

namespace askcount::app {
namespace {

QString of_total(const QString& what, size_t done, size_t total) {
  return what + ": " +
         say_q("{} of {}", format_count(static_cast<long long>(done)),
               format_count(static_cast<long long>(total)));
}

}  // namespace

Preview::Preview(Document& document, Frames& frames, Optics& optics, Levelling& levelling, CameraWay& way,
                 Films& films)
    : frames_(frames), optics_(optics), levelling_(levelling), way_(way), films_(films) {
  connect(&document, &Document::changed, this, &Preview::follow);
  connect(&frames, &Frames::changed, this, &Preview::follow);
  connect(&optics, &Optics::changed, this, &Preview::follow);
  connect(&levelling, &Levelling::changed, this, &Preview::follow);
  connect(&levelling, &Levelling::looks_changed, this, &Preview::follow);
  connect(&way, &CameraWay::changed, this, &Preview::follow);
  connect(&way, &CameraWay::progressed, this, &Preview::filled);
  connect(&films, &Films::changed, this, &Preview::follow);
}

void Preview::look(bool on) {
  if (looking_ == on) return;
  looking_ = on;
  if (!on) {
    let_go();
    now_.reset();
  }
  follow();
}

/// The window does not wait for a frame that is being read.
void Preview::let_go() {
  small_of_.reset();
  std::erase_if(leaving_, [](const std::future<void>& f) {
    return f.wait_for(std::chrono::seconds(0)) == std::future_status::ready;
  });
  if (!small_) return;
  leaving_.push_back(
      std::async(std::launch::async, [small = std::move(small_)]() mutable { small.reset(); }));
  small_.reset();
}

void Preview::read_anew() {
  let_go();
  small_of_ = frames_.list();
  through_ = optics_.source();
  undone_ = optics_.undone();
  measured_film_ = films_.wish_of(0).size;
  render::SmallFrames::Limits limits;
  limits.film = measured_film_;
  small_ = std::make_shared<render::SmallFrames>(small_of_, through_, limits,
                                                 [this, waiting = waiting_, of = small_of_] {
                                                   if (waiting->exchange(true)) return;
                                                   QMetaObject::invokeMethod(
                                                       this,
                                                       [this, waiting, of] {
                                                         waiting->store(false);
                                                         if (of == small_of_) arrived();
                                                       },
                                                       Qt::QueuedConnection);
                                                 });
}

void Preview::arrived() {
  if (!levelling_.evenness() && small_)
    if (level::Luminances light = small_->luminances(); !light.empty())
      levelling_.take_in(std::move(light), small_of_, measured_film_, undone_);
  measure_way();
  emit filled();
}

/// The camera's movement is measured once the frames are there: both at once would keep the film from
/// playing.
void Preview::measure_way() {
  if (!now_ || now_->order.steady == motion::Mode::None || !small_ || !small_->filled().resting) return;
  way_.want(now_->order.size.width);
}

void Preview::follow() {
  if (!looking_) return;
  trouble_.clear();
  if (!frames_.gathered() || frames_.list()->empty()) {
    let_go();
    now_.reset();
    emit changed();
    return;
  }
  if (small_of_ != frames_.list() || through_ != optics_.source() ||
      (!levelling_.evenness() && !(measured_film_ == films_.wish_of(0).size)))
    read_anew();
  const auto next = std::make_shared<PreviewOf>();
  try {
    next->order = films_.order_of(films_.at());
    next->frames = small_of_;
    next->frame = films_.frame_size();
    next->steadied = render::known_steadied(next->order, next->frames->size(), next->frame);
    // What cannot be is told here, and not by a thread that draws.
    next->plan = std::make_unique<const render::FilmPlan>(next->order, next->frames->size(), next->frame,
                                                          next->steadied);
    now_ = next;
    measure_way();
  } catch (const Error& e) {
    trouble_ = QString::fromUtf8(e.what());
    now_.reset();
  }
  emit changed();
}

QString Preview::words() const {
  if (!small_ || !now_) return {};
  const render::SmallFrames::Filled f = small_->filled();
  QStringList words;
  if (f.glanced < f.wanted && f.whole < f.wanted && f.glanced < f.whole + 1 && !f.resting)
    words << of_total(say_q("a first look"), f.glanced, f.wanted);
  if (f.whole < f.wanted)
    words << (f.resting
                  ? say_q("{} of {} frames fit into memory", format_count(static_cast<long long>(f.whole)),
                          format_count(static_cast<long long>(f.wanted)))
                  : say_q("full quality: {} of {} frames", format_count(static_cast<long long>(f.whole)),
                          format_count(static_cast<long long>(f.wanted))));
  if (now_->order.corrections.empty()) words << say_q("not levelled yet");
  if (now_->order.steady != motion::Mode::None && !way_.path() && !way_.measuring())
    words << say_q("not steadied yet");
  if (way_.measuring())
    words << of_total(say_q("measuring the camera's movement"), way_.job().done_count(), way_.job().total());
  return words.join("; ");
}

}  // namespace askcount::app

#include "moc_preview.cpp"
