#include "app/stages/gather/gather_stage.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "advice/gather_advice.h"
#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "base/units.h"

namespace askcount::app {

GatherStage::GatherStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(26, 18, 26, 12);
  rows->setSpacing(8);
  auto* top = new QHBoxLayout;
  answer_ = new QLabel(this);
  answer_->setFont(word_font(17));
  answer_->setTextFormat(Qt::RichText);
  answer_->setWordWrap(true);
  answer_->setObjectName("gathered");
  again_ = new PressButton("Read the card again", false, this);
  other_ = new PressButton("Another card or folder", false, this);
  top->addWidget(answer_, 1);
  top->addWidget(again_);
  top->addWidget(other_);
  rows->addLayout(top);
  auto* middle = new QHBoxLayout;
  middle->setSpacing(18);
  picture_ = new PictureView(this);
  picture_->setMinimumHeight(150);
  facts_ = new QLabel(this);
  facts_->setFont(word_font(10));
  facts_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  facts_->setMinimumWidth(270);
  facts_->setTextFormat(Qt::RichText);
  middle->addWidget(picture_, 3);
  middle->addWidget(facts_, 2);
  rows->addLayout(middle, 3);
  rows->addWidget(make_heading("The take from first to last, and what was left out", this));
  strip_ = new FilmStrip(session, pictures_, this);
  rows->addWidget(strip_, 4);
  connect(again_, &QPushButton::clicked, this, [this] {
    pictures_.forget();
    session_.frames.gather();
  });
  connect(other_, &QPushButton::clicked, this, &GatherStage::choose_card);
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.frames, &Frames::changed)
      .on(session.job, &Job::started)
      .on(session.job, &Job::ended);
  connect(&session.playhead, &Playhead::moved, this, &GatherStage::show_frame);
  connect(&pictures_, &FramePictures::ready, this, &GatherStage::show_frame);
  refresh();
}

void GatherStage::entered() {
  if (!session_.frames.gathered() && !session_.document.card().empty()) session_.frames.gather();
  show_frame();
}

void GatherStage::choose_card() {
  const QString folder = QFileDialog::getExistingDirectory(this, "The card or folder with the frames");
  if (folder.isEmpty()) return;
  session_.document.edit([&](take::Take& t) { t.card = folder.toStdString(); });
  pictures_.forget();
  session_.frames.gather();
}

void GatherStage::refresh() {
  const Colours& c = colours();
  again_->setEnabled(!session_.document.card().empty() && !session_.job.running());
  other_->setEnabled(!session_.job.running());
  if (!session_.frames.gathered()) {
    answer_->setText(session_.document.card().empty() ? "No frames yet. Shoot the take, or name a card."
                                                      : "The card has not been read yet.");
    facts_->clear();
    picture_->set({}, "The frames appear here.");
    return;
  }
  const gather::Gathered& g = *session_.frames.gathered();
  const auto mark = [&](const std::string& s) {
    return QString("<span style='background:%1;color:%2;font-weight:700'>&nbsp;%3&nbsp;</span>")
        .arg(c.answer.name(), c.answer_ink.name(), QString::fromStdString(s).toHtmlEscaped());
  };
  QString text = mark(counted(static_cast<long long>(g.frames->size()), "frame"));
  if (g.interval_s) text += ", one every " + mark(format_length(*g.interval_s));
  long long lost = 0;
  for (const gather::Missing& m : g.missing) lost += m.frames;
  text += lost > 0 ? ", " + mark(format_count(lost) + " missing") : QString(", none missing");
  answer_->setText(text + ".");
  show_frame();
}

void GatherStage::show_frame() {
  if (!isVisible() || !session_.frames.gathered() || session_.frames.list()->empty()) return;
  const source::Frame& f = (*session_.frames.list())[static_cast<size_t>(session_.playhead.at())];
  picture_->set(pictures_.picture(f, 640));
  const Colours& c = colours();
  QString rows;
  const auto row = [&](const QString& name, const QString& value) {
    rows +=
        QString(
            "<tr><td style='color:%1;padding:2px 16px 2px 0'>%2</td><td style='padding:2px 0'>%3</td></tr>")
            .arg(c.muted.name(), name, value.toHtmlEscaped());
  };
  row("Frame", QString("%1 of %2")
                   .arg(QString::fromStdString(format_count(session_.playhead.at() + 1)),
                        QString::fromStdString(format_count(session_.playhead.count()))));
  row("File", QString::fromStdString(f.file().filename().string()));
  if (!f.readable()) row("Trouble", QString::fromStdString(f.trouble()));
  const source::ShotInfo& i = f.info();
  if (i.captured)
    row("Shot at", QString::fromStdString(format_clock(*i.captured, "UTC", true)) + " by its clock");
  if (i.shutter_s) row("Shutter", QString::fromStdString(format_shutter(*i.shutter_s)));
  if (i.f_number) row("Aperture", "f/" + QString::fromStdString(format_number(*i.f_number, 1)));
  if (i.iso) row("ISO", QString::fromStdString(format_number(*i.iso, 0)));
  if (!i.body.empty()) row("Camera", QString::fromStdString(i.body));
  row("Size", QString("%1 × %2").arg(i.size.width).arg(i.size.height));
  facts_->setText("<table>" + rows + "</table>");
}

Findings GatherStage::findings() const {
  if (!session_.frames.gathered()) return {};
  return advice::gather_advice(session_.document.take(), *session_.frames.gathered());
}

QString GatherStage::foot() const {
  return QString::fromStdString(session_.document.card().string());
}

std::optional<EmptyNote> GatherStage::empty() const {
  if (!session_.document.card().empty() || session_.frames.gathered()) return {};
  return no_frames(
      "", {EmptyNote::Way::ToShoot, "Shoot the take", "With the stand-in, or beside a real camera."});
}

}  // namespace askcount::app
