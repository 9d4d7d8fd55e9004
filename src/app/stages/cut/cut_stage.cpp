#include "app/stages/cut/cut_stage.h"

#include <cmath>
#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

#include "advice/film_advice.h"
#include "app/stages/cut/film_words.h"
#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "base/error.h"
#include "base/units.h"
#include "orders/film.h"
#include "plan/nudge.h"

namespace askcount::app {
namespace {

constexpr int kBestQuality = 0, kWorstQuality = 40;

struct Shape {
  const char* words;
  image::Size size;
};
constexpr Shape kShapes[] = {{"1920 × 1080", {1920, 1080}}, {"1280 × 720", {1280, 720}},
                             {"3840 × 2160", {3840, 2160}}, {"1080 × 1920", {1080, 1920}},
                             {"1080 × 1080", {1080, 1080}}, {"1620 × 1080", {1620, 1080}}};

QString size_words(image::Size s) {
  return QString("%1 × %2").arg(s.width).arg(s.height);
}

}  // namespace

/// How far the render is.
class CutStage::Bar : public QWidget {
 public:
  Bar(Job& job, QWidget* parent) : QWidget(parent), job_(job) { setFixedHeight(10); }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.fillRect(rect(), colours().card);
    if (job_.total() > 0)
      p.fillRect(
          QRectF(0, 0, width() * static_cast<double>(job_.done_count()) / static_cast<double>(job_.total()),
                 height()),
          colours().film_fill);
  }

 private:
  Job& job_;
};

CutStage::CutStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(26, 20, 26, 12);
  rows->setSpacing(8);
  make_sentence(rows);
  auto* buttons = new QHBoxLayout;
  make_ = new PressButton("Make the clip", true, this);
  make_->setObjectName("make");
  cancel_ = new PressButton("Cancel", true, this);
  cancel_->setObjectName("cancel");
  play_ = new PressButton("Play", true, this);
  pace_ = new QLabel(this);
  pace_->setFont(word_font(10));
  pace_->setObjectName("pace");
  buttons->addWidget(make_);
  buttons->addWidget(cancel_);
  buttons->addWidget(play_);
  buttons->addSpacing(10);
  buttons->addWidget(pace_, 1);
  rows->addLayout(buttons);
  bar_ = new Bar(session.job, this);
  rows->addWidget(bar_);
  player_ = new FilmPlayer(this);
  rows->addWidget(player_, 1);
  connect(make_, &QPushButton::clicked, this, &CutStage::make);
  connect(cancel_, &QPushButton::clicked, this, [this] { session_.job.cancel(); });
  connect(play_, &QPushButton::clicked, this, [this] { player_->toggle(); });
  connect(player_, &FilmPlayer::moved, this, [this] {
    play_->setText(player_->playing() ? "Pause" : "Play");
    play_->update();
    if (player_->playing()) session_.playhead.set(session_.films.take_frame(player_->frame()));
    show_pace();
  });
  connect(&session.playhead, &Playhead::moved, this, [this] {
    if (isVisible() && !player_->playing() &&
        session_.films.take_frame(player_->frame()) != session_.playhead.at())
      player_->seek(session_.films.film_frame(session_.playhead.at()));
  });
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.frames, &Frames::changed)
      .on(session.films, &Films::changed)
      .on(session.job, &Job::started)
      .on(session.job, &Job::ended);
  connect(&session.job, &Job::started, this, &CutStage::refresh);
  connect(&session.job, &Job::progressed, this, &CutStage::show_pace);
  refresh();
}

/// The film in a sentence; every slot is a value of the take.
void CutStage::make_sentence(QVBoxLayout* rows) {
  sentence_ = new Sentence(this);
  sentence_->add("Make");
  length_ = sentence_->add_slot("length of the film");
  length_->setEnabled(false);
  sentence_->add("of frames");
  first_ = sentence_->add_slot("first frame");
  sentence_->add("to");
  last_ = sentence_->add_slot("last frame");
  sentence_->add("at");
  fps_ = sentence_->add_slot("the frame rate of the plan");
  sentence_->add(",");
  every_ = sentence_->add_slot("every so manieth frame");
  sentence_->add(",");
  way_ = sentence_->add_slot("which way it goes");
  sentence_->add(",");
  pace_slot_ = sentence_->add_slot("how fast it goes");
  sentence_->add(", frames between");
  between_ = sentence_->add_slot("what is between frames");
  sentence_->add(",");
  steady_ = sentence_->add_slot("what becomes of the camera's movement");
  sentence_->add(", trails");
  trail_ = sentence_->add_slot("length of the trails");
  sentence_->add("; in");
  size_ = sentence_->add_slot("size of the film");
  sentence_->add("for");
  purpose_ = sentence_->add_slot("what it is for");
  sentence_->add(", quality");
  quality_ = sentence_->add_slot("quality, lower is better");
  sentence_->add(".");
  wire(
      session_, sentence_, fps_,
      [](take::Take& t, const std::string& text) {
        t.wish(plan::Slot::Fps, plan::parse_slot(plan::Slot::Fps, text));
      },
      [](take::Take& t, int n) {
        if (const auto rate = orders::film_rate(t))
          t.wish(plan::Slot::Fps, plan::nudged(plan::Slot::Fps, rate->value(), n));
      });
  const auto count = [this] { return std::max(1LL, session_.playhead.count()); };
  wire(
      session_, sentence_, first_,
      [count](take::Take& t, const std::string& text) {
        const long long last = t.film.choice.last > 0 ? t.film.choice.last : count();
        t.film.choice.first = std::llround(number_in(text, 1, static_cast<double>(last), "first frame"));
      },
      [count](take::Take& t, int n) {
        const long long last = t.film.choice.last > 0 ? t.film.choice.last : count();
        t.film.choice.first = std::clamp<long long>(t.film.choice.first + n, 1, last);
      });
  const auto set_last = [count](take::Take& t, long long last) {
    last = std::clamp<long long>(last, t.film.choice.first, count());
    t.film.choice.last = last == count() ? 0 : last;  // the last there is, however many come
  };
  wire(
      session_, sentence_, last_,
      [count, set_last](take::Take& t, const std::string& text) {
        set_last(t, std::llround(number_in(text, static_cast<double>(t.film.choice.first),
                                           static_cast<double>(count()), "last frame")));
      },
      [count, set_last](take::Take& t, int n) {
        set_last(t, (t.film.choice.last > 0 ? t.film.choice.last : count()) + n);
      });
  wire(
      session_, sentence_, every_,
      [count](take::Take& t, const std::string& text) {
        t.film.choice.every = text == "every frame"
                                  ? 1
                                  : std::llround(number_in(text, 1, static_cast<double>(count()), "every"));
      },
      [count](take::Take& t, int n) {
        t.film.choice.every = std::clamp<long long>(t.film.choice.every + n, 1, count());
      });
  const auto set_pace = [](take::Take& t, double times) {
    t.film.choice.speed.clear();
    if (times != 1) t.film.choice.speed = {{0, times}};
  };
  wire(
      session_, sentence_, pace_slot_,
      [set_pace](take::Take& t, const std::string& text) {
        if (text == "along a curve") return;
        set_pace(t, text == "as shot" ? 1 : number_in(text, cut::kSlowest, cut::kFastest, "speed"));
      },
      [set_pace](take::Take& t, int n) {
        const double now = t.film.choice.speed.empty() ? 1 : t.film.choice.speed.front().times;
        set_pace(t, std::clamp(now * std::exp2(n), cut::kSlowest, cut::kFastest));
      });
  wire_choice(session_, between_, between_words(),
              [](take::Take& t, int n) { t.film.choice.between = static_cast<cut::Between>(n); });
  wire_choice(session_, way_, way_words(),
              [](take::Take& t, int n) { t.film.choice.way = static_cast<cut::Way>(n); });
  wire_choice(session_, steady_, steady_words(),
              [](take::Take& t, int n) { t.film.steady = static_cast<steady::Mode>(n); });
  wire_choice(session_, trail_, trail_words(), [](take::Take& t, int n) { set_trail(t.film, n); });
  wire_choice(session_, purpose_, purpose_words(), [](take::Take& t, int n) { set_purpose(t.film, n); });
  QStringList shapes;
  for (const Shape& s : kShapes) shapes << QString::fromUtf8(s.words);
  wire_choice(session_, size_, shapes, [](take::Take& t, int n) { t.film.size = kShapes[n].size; });
  wire(
      session_, sentence_, quality_,
      [](take::Take& t, const std::string& text) {
        t.film.coding.quality = static_cast<int>(
            std::lround(number_in(text, kBestQuality, kWorstQuality, "quality (lower is better)")));
      },
      [](take::Take& t, int n) {
        t.film.coding.quality = std::clamp(t.film.coding.quality + n, kBestQuality, kWorstQuality);
      });
  rows->addWidget(sentence_);
}

void CutStage::show_sentence() {
  const take::Take& t = session_.document.take();
  const take::FilmWish& film = t.film;
  using Kind = SlotField::Kind;
  const auto timeline = session_.films.timeline();
  const auto rate = orders::rate_of(t, film);
  length_->set(timeline && rate ? QString::fromStdString(
                                      format_length(static_cast<double>(timeline->frames()) / rate->value()))
                                : QString("a film"),
               Kind::Answer);
  const long long count = session_.playhead.count();
  first_->set(QString::number(film.choice.first), Kind::Film);
  last_->set(QString::number(film.choice.last > 0 ? film.choice.last : std::max(1LL, count)), Kind::Film);
  // The plan's, and where nobody has planned it is asked for here.
  const bool planned = session_.document.sums().has_value();
  fps_->set(rate ? QString::fromStdString(frame_rate_words(*rate)) : QString("frames a second"),
            planned ? Kind::Answer
            : rate  ? Kind::Film
                    : Kind::Open,
            rate ? QString() : QString(" "));
  fps_->setEnabled(!planned);
  every_->set(every_words(film.choice.every), Kind::Plain, QString::number(film.choice.every));
  way_->set(way_words()[static_cast<int>(film.choice.way)], Kind::Plain);
  pace_slot_->set(pace_words(film), Kind::Plain);
  between_->set(between_words()[static_cast<int>(film.choice.between)], Kind::Plain);
  steady_->set(steady_words()[static_cast<int>(film.steady)], Kind::Plain);
  trail_->set(trail_word(film), Kind::Plain);
  size_->set(size_words(film.size), Kind::Film);
  purpose_->set(purpose_word(film), Kind::Film);
  quality_->set(QString::number(film.coding.quality), Kind::Film);
  sentence_->reflow();
}

void CutStage::entered() {
  refresh();
}

void CutStage::make() {
  player_->close("The clip is being made.");
  shown_film_ = 0;
  session_.films.make();
}

void CutStage::show_pace() {
  bar_->update();
  const Job& job = session_.job;
  QString text;
  if (job.running())
    text = QString("%1: %2 of %3%4")
               .arg(job.doing())
               .arg(job.done_count())
               .arg(job.total())
               .arg(job.pace().isEmpty() ? "" : ", " + job.pace());
  else if (player_->opened())
    text = QString("frame %1 of %2")
               .arg(player_->frame() + 1)
               .arg(session_.films.film() ? session_.films.film()->frames : 0);
  pace_->setText(text);
}

void CutStage::refresh() {
  const bool running = session_.job.running();
  const bool making = session_.films.making();
  show_sentence();
  const auto rate = orders::rate_of(session_.document.take(), session_.document.take().film);
  make_->setVisible(!making);
  make_->setEnabled(!running && session_.frames.gathered().has_value() && rate.has_value());
  cancel_->setVisible(making);
  bar_->setVisible(making);
  play_->setVisible(!making && player_->opened());
  if (session_.films.film() && !making && shown_film_ != session_.films.number()) {
    shown_film_ = session_.films.number();
    player_->open(session_.films.file());
    play_->setVisible(player_->opened());
  }
  if (!session_.films.film() && !making) {
    shown_film_ = 0;
    player_->close(session_.frames.gathered() ? "The clip plays here once it is made."
                                              : "Shoot or gather the frames first.");
  }
  show_pace();
}

Findings CutStage::findings() const {
  image::Size frame;
  if (const source::Frames frames = session_.frames.list(); !frames->empty())
    frame = image::upright(frames->front().info().size, frames->front().info().orientation);
  const take::Take& take = session_.document.take();
  Findings list = advice::film_advice(take, session_.films.film(), session_.films.stood_in(), frame,
                                      session_.films.timeline() ? session_.films.timeline()->frames() : 0);
  if (session_.films.outcome())
    for (Finding& f : advice::outcome_advice(*session_.films.outcome(), take.film.size, frame))
      list.push_back(std::move(f));
  sort_by_severity(list);
  return list;
}

QString CutStage::foot() const {
  return QString::fromStdString(session_.films.file().string());
}

std::optional<EmptyNote> CutStage::empty() const {
  if (!session_.document.card().empty() || session_.frames.gathered()) return {};
  return no_frames(
      "The film is made of them once they are gathered.",
      {EmptyNote::Way::ToGather, "Look at the frames", "On Gather: read the card or the folder first."});
}

}  // namespace askcount::app
