#include "app/stages/cut/cut_stage.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

#include "app/look/look.h"
#include "app/widgets/slot_wiring.h"
#include "base/error.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr int kBestQuality = 0, kWorstQuality = 40;

struct Shape {
  const char* words;
  picture::Size size;
};
constexpr Shape kShapes[] = {{"1920 × 1080", {1920, 1080}}, {"1280 × 720", {1280, 720}},
                             {"3840 × 2160", {3840, 2160}}, {"1080 × 1920", {1080, 1920}},
                             {"1080 × 1080", {1080, 1080}}, {"1620 × 1080", {1620, 1080}}};

QString size_words(picture::Size s) {
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

CutStage::CutStage(Desk& desk, QWidget* parent) : Stage(desk, parent) {
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
  fps_->setEnabled(false);
  rows->addWidget(sentence_);
  auto* buttons = new QHBoxLayout;
  make_ = new PressButton("Make the clip", true, this);
  make_->setObjectName("make");
  cancel_ = new PressButton("Cancel", true, this);
  cancel_->setObjectName("cancel");
  play_ = new PressButton("Play", true, this);
  pace_ = new QLabel(this);
  pace_->setFont(words(10));
  pace_->setObjectName("pace");
  buttons->addWidget(make_);
  buttons->addWidget(cancel_);
  buttons->addWidget(play_);
  buttons->addSpacing(10);
  buttons->addWidget(pace_, 1);
  rows->addLayout(buttons);
  bar_ = new Bar(desk.job(), this);
  rows->addWidget(bar_);
  player_ = new FilmPlayer(this);
  rows->addWidget(player_, 1);
  connect(size_, &SlotField::committed, this, [this](const QString& text) {
    for (const Shape& s : kShapes)
      if (text == QString::fromUtf8(s.words)) desk_.edit([&](take::Take& t) { t.film.size = s.size; });
  });
  connect(size_, &SlotField::nudged, this, [this, shapes](int steps) {
    const qsizetype n = shapes.size(), at = ((shapes.indexOf(size_->text()) - steps) % n + n) % n;
    desk_.edit([&](take::Take& t) { t.film.size = kShapes[at].size; });
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
    desk_.edit([q](take::Take& t) { t.film.quality = q; });
  });
  connect(quality_, &SlotField::nudged, this, [this](int steps) {
    desk_.edit([steps](take::Take& t) {
      t.film.quality = std::clamp(t.film.quality + steps, kBestQuality, kWorstQuality);
    });
  });
  connect(make_, &QPushButton::clicked, this, &CutStage::make);
  connect(cancel_, &QPushButton::clicked, this, [this] { desk_.job().cancel(); });
  connect(play_, &QPushButton::clicked, this, [this] { player_->toggle(); });
  connect(player_, &FilmPlayer::moved, this, [this] {
    play_->setText(player_->playing() ? "Pause" : "Play");
    play_->update();
    if (player_->playing()) desk_.set_at(player_->frame());
    show_pace();
  });
  connect(&desk, &Desk::scrubbed, this, [this] {
    if (isVisible() && !player_->playing()) player_->seek(desk_.at());
  });
  refresh_when_seen(desk, this, [this] { refresh(); });
  connect(&desk.job(), &Job::started, this, &CutStage::refresh);
  connect(&desk.job(), &Job::progressed, this, &CutStage::show_pace);
  refresh();
}

void CutStage::entered() {
  refresh();
}

void CutStage::make() {
  player_->close("The clip is being made.");
  shown_film_.reset();
  desk_.cut();
}

void CutStage::show_pace() {
  bar_->update();
  const Job& job = desk_.job();
  QString text;
  if (job.running())
    text = QString("%1: %2 of %3%4")
               .arg(job.doing())
               .arg(job.done_count())
               .arg(job.total())
               .arg(job.pace().isEmpty() ? "" : ", " + job.pace());
  else if (player_->opened())
    text = QString("frame %1 of %2").arg(player_->frame() + 1).arg(desk_.film() ? desk_.film()->frames : 0);
  pace_->setText(text);
}

void CutStage::refresh() {
  const bool running = desk_.job().running();
  const bool making = running && desk_.job().doing() == "Making the clip";
  const take::Take& t = desk_.take();
  using Kind = SlotField::Kind;
  frames_->set(QString::fromStdString(counted(desk_.frame_count(), "frame")), Kind::Answer);
  fps_->set(desk_.sums() ? QString::fromStdString(frame_rate_words(desk_.sums()->fps)) : QString("?"),
            Kind::Answer);
  size_->set(size_words(t.film.size), Kind::Film);
  quality_->set(QString::number(t.film.quality), Kind::Film);
  sentence_->reflow();
  make_->setVisible(!making);
  make_->setEnabled(!running && desk_.gathered().has_value() && desk_.sums().has_value());
  cancel_->setVisible(making);
  bar_->setVisible(making);
  play_->setVisible(!making && player_->opened());
  if (desk_.film() && !making && !shown_film_) {
    shown_film_ = desk_.film();
    player_->open(desk_.film_file());
    play_->setVisible(player_->opened());
  }
  if (!desk_.film() && !making) {
    shown_film_.reset();
    player_->close(desk_.gathered() ? "The clip plays here once it is made."
                                    : "Shoot or gather the frames first.");
  }
  show_pace();
}

Findings CutStage::findings() const {
  Findings list;
  if (desk_.film()) {
    const cut::FilmFacts& f = *desk_.film();
    list.push_back({"film_checked",
                    Severity::Ok,
                    "Checked after writing",
                    counted(f.frames, "frame") + " in " + format_length(f.duration_s) + " at " +
                        frame_rate_words(f.fps) + ", " + std::to_string(f.size.width) + " × " +
                        std::to_string(f.size.height) + ", H.264.",
                    "",
                    {}});
    if (!(f.size == desk_.take().film.size) || (desk_.sums() && !(f.fps == desk_.sums()->fps)))
      list.push_back({"film_outdated",
                      Severity::Warning,
                      "Made with other settings",
                      "Make the clip again to have it as the sentence says.",
                      "",
                      {}});
  }
  if (desk_.gathered() && !desk_.gathered()->frames.empty()) {
    const picture::Size from = desk_.gathered()->frames.front().info.size;
    const picture::Rect part = picture::crop_to_shape(from, desk_.take().film.size);
    const double kept = 100.0 * part.width * part.height / (static_cast<double>(from.width) * from.height);
    list.push_back({"crop",
                    Severity::Ok,
                    "Cropped, not squashed",
                    "The film shows the middle " + format_number(kept, 0) + " % of the frame.",
                    "",
                    {}});
    if (part.width < desk_.take().film.size.width)
      list.push_back({"enlarged",
                      Severity::Warning,
                      "The film is larger than the frame",
                      "The frame has " + std::to_string(part.width) + " pixels across for " +
                          std::to_string(desk_.take().film.size.width) + ". It will look soft.",
                      "",
                      {}});
  }
  list.push_back({"fps_of_plan",
                  Severity::Ok,
                  "The plan's frame rate",
                  "The film runs at the rate the frames were counted for.",
                  "",
                  {}});
  sort_by_severity(list);
  return list;
}

QString CutStage::foot() const {
  return QString::fromStdString(desk_.film_file().string());
}

}  // namespace askcount::app
