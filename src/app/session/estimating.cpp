// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/estimating.h"

#include <cmath>
#include <numeric>

#include "app/style/text.h"
#include "base/error.h"
#include "base/units.h"
#include "films/film.h"

namespace askcount::app {
namespace {

constexpr int kSettle_ms = 1500;

}  // namespace

QString bytes_words(double bytes) {
  const bool large = bytes >= 1e6;
  const double figure = bytes / (large ? 1e6 : 1e3);
  return QString::fromStdString(format_number(figure, figure < 10 ? 1 : 0)) + (large ? " MB" : " kB");
}

Estimating::Estimating(Document& document, Frames& frames, Films& films, QObject* parent)
    : QObject(parent), document_(document), frames_(frames), films_(films) {
  settle_.setSingleShot(true);
  settle_.setInterval(kSettle_ms);
  connect(&settle_, &QTimer::timeout, this, &Estimating::start);
  connect(&document, &Document::changed, this, &Estimating::follow);
  connect(&frames, &Frames::changed, this, &Estimating::follow);
  connect(&films, &Films::changed, this, &Estimating::follow);
  connect(&job_, &Job::ended, this, &Estimating::changed);
}

Estimating::Key Estimating::key() const {
  Key k;
  for (int n = 0; n < films_.count(); ++n) k.wishes.push_back(films_.wish_of(n));
  k.frames = frames_.list();
  return k;
}

void Estimating::want(bool on) {
  if (on == wanted_) return;
  wanted_ = on;
  follow();
}

void Estimating::follow() {
  const bool known = now_ && of_ == key();
  if (now_ && !known) {
    now_.reset();
    emit changed();
  }
  if (wanted_ && !known && !films_.queue.working()) {
    if (job_.running() && of_ == key()) return;
    job_.disown();
    settle_.start();
    return;
  }
  settle_.stop();
  if (job_.running()) job_.disown();
}

void Estimating::start() {
  if (!frames_.gathered() || frames_.list()->empty()) return;
  std::vector<render::FilmOrder> orders;
  try {
    for (int n = 0; n < films_.count(); ++n) orders.push_back(films_.order_of(n));
  } catch (const Error&) {
    return;  // told where the film is made or looked at
  }
  of_ = key();
  const auto found = std::make_shared<render::Estimate>();
  job_.start({say_q("Estimating"),
              [found, orders, take = document_.take(), folder = document_.file().parent_path(),
               frames = of_.frames](const Work& work) {
                const auto source = films::source_of(take, folder, frames);
                *found = render::estimate(frames, *source, orders, work);
              },
              [this, found] { now_ = *found; },
              {}});
  emit changed();
}

QString Estimating::words() const {
  if (!now_) return job_.running() ? say_q("estimating size and time") : QString();
  const double bytes = std::accumulate(now_->bytes.begin(), now_->bytes.end(), 0.0);
  const double s = std::max(1.0, now_->seconds);
  // Two digits: it is told from samples.
  const double round_to = std::pow(10, std::max(0.0, std::floor(std::log10(s)) - 1));
  const double rounded = std::round(s / round_to) * round_to;
  return say_q("about %1 and %2").arg(QString::fromStdString(format_length(rounded, 0)), bytes_words(bytes));
}

}  // namespace askcount::app

#include "moc_estimating.cpp"
