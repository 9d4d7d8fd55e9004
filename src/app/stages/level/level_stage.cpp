#include "app/stages/level/level_stage.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/look/look.h"
#include "app/widgets/slot_wiring.h"
#include "base/units.h"

namespace askcount::app {

LevelStage::LevelStage(Desk& desk, QWidget* parent) : Stage(desk, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(26, 16, 26, 8);
  rows->setSpacing(8);
  auto* top = new QHBoxLayout;
  top->setSpacing(18);
  split_ = new SplitView(this);
  frame_facts_ = new QLabel(this);
  frame_facts_->setFont(words(10));
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
  numbers_->setFont(words(10));
  numbers_->setTextFormat(Qt::RichText);
  numbers_->setObjectName("flicker");
  heading->addWidget(numbers_);
  rows->addLayout(heading);
  chart_ = new BrightnessChart(desk, this);
  rows->addWidget(chart_, 4);
  refresh_when_seen(desk, this, [this] { refresh(); });
  connect(&desk, &Desk::scrubbed, this, &LevelStage::show_frame);
  connect(&pictures_, &FramePictures::ready, this, &LevelStage::show_frame);
  refresh();
}

void LevelStage::entered() {
  if (desk_.gathered() && !desk_.evenness()) desk_.level();
  show_frame();
}

void LevelStage::refresh() {
  const Colours& c = colours();
  if (!desk_.evenness()) {
    pictures_.forget();
    numbers_->setText(desk_.gathered() ? "not measured yet" : "gather the frames first");
    frame_facts_->clear();
    return;
  }
  numbers_->setText(QString("flicker <b>%1</b> stops before, <span "
                            "style='background:%2;color:%3;font-weight:700'>&nbsp;%4 after&nbsp;</span>")
                        .arg(QString::fromStdString(format_number(desk_.evenness()->flicker_before, 3)),
                             c.answer.name(), c.answer_ink.name(),
                             QString::fromStdString(format_number(desk_.evenness()->flicker_after, 3))));
  show_frame();
}

void LevelStage::show_frame() {
  if (!isVisible() || !desk_.gathered() || !desk_.evenness()) return;
  const auto n = static_cast<size_t>(desk_.at());
  if (n >= desk_.evenness()->frames.size()) return;
  const auto& file = desk_.gathered()->frames[n].file;
  const level::Evenness& e = *desk_.evenness();
  split_->set(pictures_.picture(file, 620), pictures_.picture(file, 620, e.gains[n]));
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
  row("Frame", QString::fromStdString(format_count(desk_.at() + 1)));
  row("Corrected by", "<b>" + stops(e.frames[n].correction()) + "</b>");
  const picture::ShotInfo& i = desk_.gathered()->frames[n].info;
  if (i.shutter_s) row("Shutter", QString::fromStdString(format_shutter(*i.shutter_s)));
  if (i.f_number) row("Aperture", "f/" + QString::fromStdString(format_number(*i.f_number, 1)));
  if (i.iso) row("ISO", QString::fromStdString(format_number(*i.iso, 0)));
  for (const level::Click& click : e.clicks)
    if (click.frame == n) row("Click here", stops(click.recorded));
  frame_facts_->setText("<table>" + rows + "</table>");
}

Findings LevelStage::findings() const {
  if (!desk_.evenness()) return {};
  return level::judge(*desk_.evenness());
}

QString LevelStage::foot() const {
  if (!desk_.evenness()) return {};
  return "Measured in the part of the picture that the film shows";
}

}  // namespace askcount::app
