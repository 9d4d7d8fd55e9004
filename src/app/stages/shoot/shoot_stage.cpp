#include "app/stages/shoot/shoot_stage.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

#include "app/look/look.h"
#include "base/dials.h"
#include "base/units.h"
#include "picture/metadata.h"

namespace askcount::app {
namespace {

constexpr int kHeadHeight = 178;

QString exposure_words(const ramp::Exposure& e) {
  return QString("%1, f/%2, ISO %3")
      .arg(QString::fromStdString(format_shutter(marked_shutter(e.shutter_s))),
           QString::fromStdString(format_number(marked_f_number(e.f_number), 1)),
           QString::fromStdString(format_number(marked_iso(e.iso), 0)));
}

}  // namespace

ShootStage::ShootStage(Desk& desk, QWidget* parent) : Stage(desk, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(30, 18, 30, 14);
  rows->setSpacing(8);
  rows->addSpacing(kHeadHeight);
  auto* buttons = new QHBoxLayout;
  start_ = new PressButton("Shoot with the stand-in", true, this);
  stop_ = new PressButton("Stop", true, this);
  buttons->addWidget(start_);
  buttons->addWidget(stop_);
  buttons->addStretch();
  rows->addLayout(buttons);
  rows->addSpacing(4);
  heading_ = make_heading({}, this);
  rows->addWidget(heading_);
  picture_ = new PictureView(this);
  rows->addWidget(picture_, 1);
  connect(start_, &QPushButton::clicked, &desk, &Desk::shoot);
  connect(stop_, &QPushButton::clicked, this, [this] { desk_.job().cancel(); });
  connect(&desk, &Desk::changed, this, &ShootStage::refresh);
  connect(&desk, &Desk::shot_landed, this, &ShootStage::show_newest);
  connect(&desk, &Desk::scrubbed, this, &ShootStage::show_newest);
  connect(&desk.job(), &Job::started, this, &ShootStage::refresh);
  connect(&desk.job(), &Job::progressed, this, qOverload<>(&QWidget::update));
  connect(&pictures_, &FramePictures::ready, this, &ShootStage::show_newest);
  refresh();
}

std::optional<std::filesystem::path> ShootStage::newest() const {
  if (desk_.job().running() && desk_.landed()) return desk_.landed()->file;
  if (desk_.gathered() && !desk_.gathered()->frames.empty())
    return desk_.gathered()->frames[static_cast<size_t>(desk_.at())].file;
  return {};
}

void ShootStage::show_newest() {
  if (!isVisible()) return;
  const auto file = newest();
  picture_->set(file ? pictures_.picture(*file, 700) : QImage(),
                file ? "" : "Nothing has been shot yet. The stand-in camera shoots the plan at Tern Quay, faster than real.");
  update();
}

void ShootStage::refresh() {
  const bool shooting = desk_.job().running() && desk_.job().doing() == "Shooting";
  start_->setVisible(!shooting);
  start_->setEnabled(desk_.sums() && !desk_.job().running());
  start_->setText(desk_.gathered() ? "Shoot it again with the stand-in" : "Shoot with the stand-in");
  start_->updateGeometry();
  stop_->setVisible(shooting);
  heading_->setText(shooting ? "Newest frame" : desk_.gathered() ? "The frame looked at" : "The camera");
  if (shooting && !desk_.landed()) pictures_.forget();
  show_newest();
}

void ShootStage::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  const int left = 30, right = width() - 30;
  if (!desk_.sums()) return;
  const plan::Sums& s = *desk_.sums();
  const take::Take& t = desk_.take();
  const bool running = desk_.job().running() && desk_.landed();
  const long long index = running ? std::max(0LL, desk_.landed()->index) : desk_.at();
  const Instant now = running ? desk_.landed()->start : later(t.start, static_cast<double>(index) * s.interval_s);
  p.setPen(c.muted);
  p.setFont(words(9.5, QFont::DemiBold));
  p.drawText(left, 32, "Frame");
  p.setPen(c.ink);
  p.setFont(figures(50, true));
  const QString number = QString::fromStdString(format_count(index + 1));
  p.drawText(left - 3, 100, number);
  const int after = left + p.fontMetrics().horizontalAdvance(number) + 28;
  p.setFont(words(16));
  p.setPen(c.muted);
  p.drawText(after, 70, "of " + QString::fromStdString(format_count(running ? s.frames : desk_.frame_count())));
  p.drawText(after, 98, "ends " + QString::fromStdString(format_clock(later(t.start, s.field_s), t.place.zone, true)));
  // The clock at the quay, and what the camera stands at.
  p.setFont(words(9.5, QFont::DemiBold));
  const QString at_place = "Clock at " + QString::fromStdString(t.place.name);
  p.drawText(QRect(left, 18, right - left, 20), Qt::AlignRight | Qt::AlignTop, at_place);
  p.setPen(c.ink);
  p.setFont(figures(32));
  p.drawText(QRect(left, 40, right - left, 60), Qt::AlignRight | Qt::AlignVCenter,
             QString::fromStdString(format_clock(now, t.place.zone, true)));
  // Field time gone.
  const QRectF bar(left, 122, right - left, 15);
  p.fillRect(bar, c.card);
  const double share = std::clamp((static_cast<double>(index) * s.interval_s) / std::max(1.0, s.field_s), 0.0, 1.0);
  p.fillRect(QRectF(bar.left(), bar.top(), bar.width() * share, bar.height()), c.field);
  p.setPen(c.line);
  p.drawRect(bar);
  p.setFont(words(9.5));
  p.setPen(c.muted);
  QString line;
  if (running) line = exposure_words(desk_.landed()->exposure) + (desk_.job().pace().isEmpty() ? "" : ",  " + desk_.job().pace());
  else if (desk_.gathered() && index < desk_.frame_count()) {
    const picture::ShotInfo& info = desk_.gathered()->frames[static_cast<size_t>(index)].info;
    if (info.shutter_s && info.f_number && info.iso) line = exposure_words({*info.shutter_s, *info.f_number, *info.iso});
  }
  p.drawText(QRectF(left, 144, right - left, 22), Qt::AlignLeft | Qt::AlignVCenter, line);
  p.drawText(QRectF(left, 144, right - left, 22), Qt::AlignRight | Qt::AlignVCenter,
             "one frame every " + QString::fromStdString(format_length(desk_.take().program().interval_s)));
}

Findings ShootStage::findings() const {
  Findings list;
  list.push_back({"stay", Severity::Warning, "Stay with the tripod",
                  "Keep away from the quay's edge in the dark, dress for hours of standing, and let nobody trip over the legs.",
                  "", {}});
  if (desk_.sums())
    list.push_back(plan::judge_cycle(desk_.take().cycle(desk_.sums()->shutter_s), desk_.sums()->interval_s));
  return list;
}

QString ShootStage::foot() const {
  return desk_.job().running() && desk_.job().doing() == "Shooting" ? "Simulated camera and timer, faster than real"
                                                                     : "Simulated camera and timer";
}

}  // namespace askcount::app
