#include "app/stages/gather/gather_stage.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/look/look.h"
#include "app/widgets/slot_wiring.h"
#include "base/units.h"

namespace askcount::app {

GatherStage::GatherStage(Desk& desk, QWidget* parent) : Stage(desk, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(26, 18, 26, 12);
  rows->setSpacing(8);
  auto* top = new QHBoxLayout;
  answer_ = new QLabel(this);
  answer_->setFont(words(17));
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
  facts_->setFont(words(10));
  facts_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  facts_->setMinimumWidth(270);
  facts_->setTextFormat(Qt::RichText);
  middle->addWidget(picture_, 3);
  middle->addWidget(facts_, 2);
  rows->addLayout(middle, 3);
  rows->addWidget(make_heading("The take from first to last, and what was left out", this));
  strip_ = new FilmStrip(desk, pictures_, this);
  rows->addWidget(strip_, 4);
  connect(again_, &QPushButton::clicked, this, [this] {
    pictures_.forget();
    desk_.gather();
  });
  connect(other_, &QPushButton::clicked, this, &GatherStage::choose_card);
  refresh_when_seen(desk, this, [this] { refresh(); });
  connect(&desk, &Desk::scrubbed, this, &GatherStage::show_frame);
  connect(&pictures_, &FramePictures::ready, this, &GatherStage::show_frame);
  refresh();
}

void GatherStage::entered() {
  if (!desk_.gathered() && !desk_.card().empty()) desk_.gather();
  show_frame();
}

void GatherStage::choose_card() {
  const QString folder = QFileDialog::getExistingDirectory(this, "The card or folder with the frames");
  if (folder.isEmpty()) return;
  desk_.edit([&](take::Take& t) { t.card = folder.toStdString(); });
  pictures_.forget();
  desk_.gather();
}

void GatherStage::refresh() {
  const Colours& c = colours();
  again_->setEnabled(!desk_.card().empty() && !desk_.job().running());
  other_->setEnabled(!desk_.job().running());
  if (!desk_.gathered()) {
    answer_->setText(desk_.card().empty() ? "No frames yet. Shoot the take, or name a card."
                                          : "The card has not been read yet.");
    facts_->clear();
    picture_->set({}, "The frames appear here.");
    return;
  }
  const gather::Gathered& g = *desk_.gathered();
  const auto mark = [&](const std::string& s) {
    return QString("<span style='background:%1;color:%2;font-weight:700'>&nbsp;%3&nbsp;</span>")
        .arg(c.answer.name(), c.answer_ink.name(), QString::fromStdString(s).toHtmlEscaped());
  };
  QString text = mark(counted(static_cast<long long>(g.frames.size()), "frame"));
  if (g.interval_s) text += ", one every " + mark(format_length(*g.interval_s));
  long long lost = 0;
  for (const gather::Missing& m : g.missing) lost += m.frames;
  text += lost > 0 ? ", " + mark(format_count(lost) + " missing") : QString(", none missing");
  answer_->setText(text + ".");
  show_frame();
}

void GatherStage::show_frame() {
  if (!isVisible() || !desk_.gathered() || desk_.gathered()->frames.empty()) return;
  const gather::Frame& f = desk_.gathered()->frames[static_cast<size_t>(desk_.at())];
  picture_->set(pictures_.picture(f.file, 640));
  const Colours& c = colours();
  QString rows;
  const auto row = [&](const QString& name, const QString& value) {
    rows +=
        QString(
            "<tr><td style='color:%1;padding:2px 16px 2px 0'>%2</td><td style='padding:2px 0'>%3</td></tr>")
            .arg(c.muted.name(), name, value.toHtmlEscaped());
  };
  row("Frame", QString("%1 of %2")
                   .arg(QString::fromStdString(format_count(desk_.at() + 1)),
                        QString::fromStdString(format_count(desk_.frame_count()))));
  row("File", QString::fromStdString(f.file.filename().string()));
  if (!f.readable()) row("Trouble", QString::fromStdString(f.trouble));
  const picture::ShotInfo& i = f.info;
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
  if (!desk_.gathered()) return {};
  Findings list = gather::judge(*desk_.gathered());
  if (desk_.sums()) {
    const auto found = static_cast<long long>(desk_.gathered()->frames.size());
    if (found != desk_.sums()->frames)
      list.push_back(
          {"not_as_planned",
           Severity::Warning,
           "Not as many as planned",
           "Planned " + counted(desk_.sums()->frames, "frame") + ", found " + format_count(found) + ".",
           "",
           {}});
    else
      list.push_back({"as_planned", Severity::Ok, "As planned", "Every frame of the plan is here.", "", {}});
  }
  return list;
}

QString GatherStage::foot() const {
  return QString::fromStdString(desk_.card().string());
}

}  // namespace askcount::app
