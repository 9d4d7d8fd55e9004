#include "app/stages/level/level_stage.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "base/units.h"

namespace askcount::app {

LevelStage::LevelStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(26, 16, 26, 8);
  rows->setSpacing(8);
  auto* top = new QHBoxLayout;
  top->setSpacing(18);
  split_ = new SplitView(this);
  frame_facts_ = new QLabel(this);
  frame_facts_->setFont(word_font(10));
  frame_facts_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  frame_facts_->setMinimumWidth(210);
  frame_facts_->setTextFormat(Qt::RichText);
  top->addWidget(split_, 3);
  top->addWidget(frame_facts_, 1);
  rows->addLayout(top, 5);
  auto* heading = new QHBoxLayout;
  heading->addWidget(make_heading("Brightness of every frame", this));
  heading->addStretch();
  numbers_ = new QLabel(this);
  numbers_->setFont(word_font(10));
  numbers_->setTextFormat(Qt::RichText);
  numbers_->setObjectName("flicker");
  heading->addWidget(numbers_);
  rows->addLayout(heading);
  chart_ = new BrightnessChart(session, this);
  rows->addWidget(chart_, 4);
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.levelling, &Levelling::changed)
      .on(session.frames, &Frames::changed);
  connect(&session.playhead, &Playhead::moved, this, &LevelStage::show_frame);
  connect(&pictures_, &FramePictures::ready, this, &LevelStage::show_frame);
  refresh();
}

void LevelStage::entered() {
  if (session_.frames.gathered() && !session_.levelling.evenness()) session_.levelling.start();
  show_frame();
}

void LevelStage::refresh() {
  const Colours& c = colours();
  if (!session_.levelling.evenness()) {
    pictures_.forget();
    numbers_->setText(session_.frames.gathered() ? "not measured yet" : "gather the frames first");
    frame_facts_->clear();
    return;
  }
  numbers_->setText(
      QString("flicker <b>%1</b> stops before, <span "
              "style='background:%2;color:%3;font-weight:700'>&nbsp;%4 after&nbsp;</span>")
          .arg(QString::fromStdString(format_number(session_.levelling.evenness()->flicker_before, 3)),
               c.answer.name(), c.answer_ink.name(),
               QString::fromStdString(format_number(session_.levelling.evenness()->flicker_after, 3))));
  show_frame();
}

void LevelStage::show_frame() {
  if (!isVisible() || !session_.frames.gathered() || !session_.levelling.evenness()) return;
  const auto n = static_cast<size_t>(session_.playhead.at());
  if (n >= session_.levelling.evenness()->frames.size()) return;
  const source::Frame& frame = (*session_.frames.list())[n];
  const level::Evenness& e = *session_.levelling.evenness();
  split_->set(pictures_.picture(frame, 620), pictures_.picture(frame, 620, {e.corrections[n]}));
  const Colours& c = colours();
  QString rows;
  const auto row = [&](const QString& name, const QString& value) {
    rows +=
        QString(
            "<tr><td style='color:%1;padding:3px 14px 3px 0'>%2</td><td style='padding:3px 0'>%3</td></tr>")
            .arg(c.muted.name(), name, value);
  };
  const auto stops = [](double s) {
    return QString(s > 0.0005 ? "+" : "") + QString::fromStdString(format_number(s, 2)) + " stops";
  };
  row("Frame", QString::fromStdString(format_count(session_.playhead.at() + 1)));
  row("Corrected by", "<b>" + stops(e.frames[n].correction()) + "</b>");
  const source::ShotInfo& i = frame.info();
  if (i.shutter_s) row("Shutter", QString::fromStdString(format_shutter(*i.shutter_s)));
  if (i.f_number) row("Aperture", "f/" + QString::fromStdString(format_number(*i.f_number, 1)));
  if (i.iso) row("ISO", QString::fromStdString(format_number(*i.iso, 0)));
  for (const level::Click& click : e.clicks)
    if (click.frame == n) row("Click here", stops(click.recorded));
  frame_facts_->setText("<table>" + rows + "</table>");
}

Findings LevelStage::findings() const {
  if (!session_.levelling.evenness()) return {};
  return level::judge(*session_.levelling.evenness());
}

QString LevelStage::foot() const {
  if (!session_.levelling.evenness()) return {};
  return "Measured in the part of the picture that the film shows";
}

std::optional<EmptyNote> LevelStage::empty() const {
  if (!session_.document.card().empty() || session_.frames.gathered()) return {};
  return no_frames(
      "Their brightness is measured once they are gathered.",
      {EmptyNote::Way::ToGather, "Look at the frames", "On Gather: read the card or the folder first."});
}

}  // namespace askcount::app
