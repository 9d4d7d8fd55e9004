#include "app/stages/cut/cut_stage.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

#include "advice/film_advice.h"
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
  sentence_ = new Sentence(this);
  sentence_->add("Make a film of");
  frames_ = sentence_->add_slot("frames in the film");
  sentence_->add("at");
  fps_ = sentence_->add_slot("the frame rate of the plan");
  sentence_->add(", in");
  size_ = sentence_->add_slot("size of the film");
  QStringList shapes;
  for (const Shape& s : kShapes) shapes << QString::fromUtf8(s.words);
  size_->set_choices(shapes);
  sentence_->add(", quality");
  quality_ = sentence_->add_slot("quality, lower is better");
  sentence_->add(".");
  frames_->setEnabled(false);
  wire(
      session_, sentence_, fps_,
      [](take::Take& t, const std::string& text) {
        t.wish(plan::Slot::Fps, plan::parse_slot(plan::Slot::Fps, text));
      },
      [](take::Take& t, int n) {
        if (const auto rate = orders::film_rate(t))
          t.wish(plan::Slot::Fps, plan::nudged(plan::Slot::Fps, rate->value(), n));
      });
  rows->addWidget(sentence_);
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
  connect(size_, &SlotField::committed, this, [this](const QString& text) {
    for (const Shape& s : kShapes)
      if (text == QString::fromUtf8(s.words))
        session_.document.edit([&](take::Take& t) { t.film.size = s.size; });
  });
  connect(size_, &SlotField::nudged, this, [this, shapes](int steps) {
    const qsizetype n = shapes.size(), at = ((shapes.indexOf(size_->text()) - steps) % n + n) % n;
    session_.document.edit([&](take::Take& t) { t.film.size = kShapes[at].size; });
  });
  connect(quality_, &SlotField::committed, this, [this](const QString& text) {
    bool ok = false;
    const int q = text.toInt(&ok);
    if (!ok || q < kBestQuality || q > kWorstQuality)
      return sentence_->complain(
          QString("Quality \"%1\" must be a whole number from %2 (best, largest) to %3.")
              .arg(text)
              .arg(kBestQuality)
              .arg(kWorstQuality));
    sentence_->complain({});
    session_.document.edit([q](take::Take& t) { t.film.coding.quality = q; });
  });
  connect(quality_, &SlotField::nudged, this, [this](int steps) {
    session_.document.edit([steps](take::Take& t) {
      t.film.coding.quality = std::clamp(t.film.coding.quality + steps, kBestQuality, kWorstQuality);
    });
  });
  connect(make_, &QPushButton::clicked, this, &CutStage::make);
  connect(cancel_, &QPushButton::clicked, this, [this] { session_.job.cancel(); });
  connect(play_, &QPushButton::clicked, this, [this] { player_->toggle(); });
  connect(player_, &FilmPlayer::moved, this, [this] {
    play_->setText(player_->playing() ? "Pause" : "Play");
    play_->update();
    if (player_->playing()) session_.playhead.set(player_->frame());
    show_pace();
  });
  connect(&session.playhead, &Playhead::moved, this, [this] {
    if (isVisible() && !player_->playing()) player_->seek(session_.playhead.at());
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
  const take::Take& t = session_.document.take();
  using Kind = SlotField::Kind;
  frames_->set(QString::fromStdString(counted(session_.playhead.count(), "frame")), Kind::Answer);
  // The plan's, and where nobody has planned it is asked for here.
  const auto rate = orders::film_rate(t);
  const bool planned = session_.document.sums().has_value();
  fps_->set(rate ? QString::fromStdString(frame_rate_words(*rate)) : QString("frames a second"),
            planned ? Kind::Answer
            : rate  ? Kind::Film
                    : Kind::Open,
            rate ? QString() : QString(" "));
  fps_->setEnabled(!planned);
  size_->set(size_words(t.film.size), Kind::Film);
  quality_->set(QString::number(t.film.coding.quality), Kind::Film);
  sentence_->reflow();
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
  return advice::film_advice(session_.document.take(), session_.films.film(), session_.films.stood_in(),
                             frame);
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
