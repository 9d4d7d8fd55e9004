// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/level/lens_panel.h"

#include <fmt/format.h>
#include <algorithm>
#include <QFileDialog>
#include <QMenu>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/language.h"
#include "base/number.h"
#include "base/units.h"
#include "optics/find.h"
#include "optics/judge.h"

namespace askcount::app {
namespace {

using optics::By;

QStringList how_words() {
  return {say_q("stays as it is"), say_q("is corrected by its profile"), say_q("is corrected by hand")};
}

QString stops(double v) {
  return QString::fromStdString(format_number(v, 1)) + (v == 1 ? say_q(" stop") : say_q(" stops"));
}

double stepped(double value, double step, int n, double least, double most) {
  return std::clamp(std::round((value + step * n) / step) * step, least, most) + 0.0;
}

/// A number that may be below 0.
double signed_number(const std::string& text, double most, const std::string& name) {
  const size_t first = text.find_first_not_of(' ');
  const bool below =
      first != std::string::npos && (text[first] == '-' || text.compare(first, 3, "\u2212") == 0);
  const double v =
      parse_number(below ? text.substr(first + (text[first] == '-' ? 1 : 3)) : text, 0, most, name);
  return below ? -v : v;
}

}  // namespace

LensPanel::LensPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 2, 0, 0);
  rows->setSpacing(5);
  make_sentence();
  rows->addWidget(sentence_);
  const auto label = [&](const char* name) {
    auto* l = new QLabel(this);
    l->setFont(word_font(10));
    l->setWordWrap(true);
    l->setObjectName(name);
    return l;
  };
  record_ = label("lens_record");
  rows->addWidget(record_);
  auto* line = new QHBoxLayout;
  find_ = new PressButton(say_q("Look for dust and hot pixels"), false, this);
  find_->setObjectName("find_spots");
  forget_ = new PressButton(say_q("Forget them"), false, this);
  dark_menu_ = new PressButton(say_q("Dark frame…"), false, this);
  dark_menu_->setToolTip(say_q(
      "Shot with the cap on, at the shutter and ISO of the take: what the sensor lights up by itself is "
      "taken off raw frames"));
  line->addWidget(find_);
  line->addWidget(forget_);
  line->addWidget(dark_menu_);
  line->addStretch(1);
  rows->addLayout(line);
  found_ = label("found");
  rows->addWidget(found_);
  rows->addStretch(1);
  connect(find_, &QPushButton::clicked, this, [this] { session_.optics.find(); });
  connect(forget_, &QPushButton::clicked, this,
          [this] { session_.document.edit([](take::Take& t) { optics::forget(t.optics); }); });
  connect(dark_menu_, &QPushButton::clicked, this, &LensPanel::show_dark_menu);
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.frames, &Frames::changed)
      .on(session.optics, &Optics::changed)
      .on(session.job, &Job::started)
      .on(session.job, &Job::ended);
}

void LensPanel::make_sentence() {
  sentence_ = new Sentence(this, 11);
  sentence_->add(say_q("What the lens did"));
  how_ = sentence_->add_slot(say_q("how the lens is corrected"));
  sentence_->add(say_q("; its name is"));
  lens_ = sentence_->add_slot(say_q("name of the lens's profile"));
  sentence_->add(".");
  sentence_->add_break();
  sentence_->add(say_q("Corrected by hand: a corner lay"));
  distortion_ = sentence_->add_slot(say_q("how much too far out a corner lies; below 0 for a barrel"));
  sentence_->add(say_q("too far out and was"));
  dark_corners_ = sentence_->add_slot(say_q("how much darker a corner is"));
  sentence_->add(say_q("darker than the middle."));
  sentence_->add_break();
  sentence_->add(say_q("The picture is turned by"));
  turn_ = sentence_->add_slot(say_q("degrees clockwise, until the horizon is level"));
  sentence_->add(say_q("clockwise; in the end corners are"));
  eye_ = sentence_->add_slot(say_q("how much vignetting is added"));
  sentence_->add(say_q("darker."));
  wire_choice(session_, how_, how_words(), [](take::Take& t, int i) { t.optics.by = static_cast<By>(i); });
  wire(session_, sentence_, lens_, [](take::Take& t, const std::string& text) {
    if (text.empty() || meant(text, "as the frames say")) {
      t.optics.lens.clear();
      return;
    }
    using Alike = optics::LensRecords::Alike;
    const auto& records = optics::LensRecords::installed();
    const auto like = records.like(text, Alike::Strictly, 1);
    if (like.empty()) {
      const auto near = records.like(text, Alike::Loosely, 1);
      throw bad_input(say("There is no profile for a lens \"{}\".", text),
                      near.empty() ? "" : say("The nearest is \"{}\".", near.front()));
    }
    t.optics.lens = like.front();
    t.optics.by = By::Record;
  });
  using optics::kMostDark_stops;
  using optics::kMostDistortion_pct;
  using optics::kMostTurn_deg;
  wire(
      session_, sentence_, distortion_,
      [](take::Take& t, const std::string& text) {
        t.optics.distortion_pct = signed_number(text, kMostDistortion_pct, say("The distortion"));
        t.optics.by = By::Hand;
      },
      [](take::Take& t, int n) {
        t.optics.distortion_pct =
            stepped(t.optics.distortion_pct, 0.1, n, -kMostDistortion_pct, kMostDistortion_pct);
        t.optics.by = By::Hand;
      });
  wire(
      session_, sentence_, dark_corners_,
      [](take::Take& t, const std::string& text) {
        t.optics.dark_stops = parse_number(text, 0, kMostDark_stops, say("The corners"));
        t.optics.by = By::Hand;
      },
      [](take::Take& t, int n) {
        t.optics.dark_stops = stepped(t.optics.dark_stops, 0.1, n, 0, kMostDark_stops);
        t.optics.by = By::Hand;
      });
  wire(
      session_, sentence_, turn_,
      [](take::Take& t, const std::string& text) {
        t.optics.turn_deg = signed_number(text, kMostTurn_deg, say("The turn"));
      },
      [](take::Take& t, int n) {
        t.optics.turn_deg = stepped(t.optics.turn_deg, 0.1, n, -kMostTurn_deg, kMostTurn_deg);
      });
  wire(
      session_, sentence_, eye_,
      [](take::Take& t, const std::string& text) {
        t.optics.vignetting_stops = parse_number(text, 0, kMostDark_stops, say("The corners"));
      },
      [](take::Take& t, int n) {
        t.optics.vignetting_stops = stepped(t.optics.vignetting_stops, 0.1, n, 0, kMostDark_stops);
      });
}

QString LensPanel::lens_words() const {
  const optics::Wish& w = session_.document.take().optics;
  const auto& known = session_.optics.known();
  if (!session_.frames.gathered()) return say_q("The frames say which lens it was once they are gathered.");
  if (known)
    return QString::fromStdString(known->name + ": " + optics::words_of(*known) +
                                  say(", at this focal length."));
  const media::ShotInfo shot = optics::shot_of(session_.frames.list());
  const std::string& name = w.lens.empty() ? shot.lens : w.lens;
  if (name.empty())
    return say_q("The frames do not record their lens: name it, or enter its two values by hand.");
  return QString::fromStdString(name) +
         say_q(" has no profile: name one like it, or enter its two values by hand.");
}

void LensPanel::refresh() {
  const optics::Wish& w = session_.document.take().optics;
  how_->set(how_words()[static_cast<int>(w.by)], SlotField::Kind::Plain);
  lens_->set(w.lens.empty() ? say_q("as the frames say") : QString::fromStdString(w.lens),
             SlotField::Kind::Plain);
  distortion_->set(QString::fromStdString(format_number(w.distortion_pct, 1)) + " %", SlotField::Kind::Plain);
  dark_corners_->set(stops(w.dark_stops), SlotField::Kind::Plain);
  turn_->set(QString::fromStdString(format_number(w.turn_deg, 1)) + "°", SlotField::Kind::Plain);
  eye_->set(stops(w.vignetting_stops), SlotField::Kind::Plain);
  sentence_->reflow();
  record_->setText(lens_words());
  find_->setEnabled(session_.frames.gathered() && !session_.job.running());
  forget_->setVisible(w.looked || !w.spots.empty());
  QString found = say_q("Dust and hot pixels: not looked for yet.");
  if (w.looked || !w.spots.empty())
    found = counted_q(w.spots.size(), "{} spot of dust", "{} spots of dust") + ", " +
            counted_q(w.hot.size(), "{} hot pixel", "{} hot pixels") + ".";
  if (!w.dark_frame.empty()) found += say_q(" %1 is taken off raw frames.").arg(w.dark_frame.c_str());
  found_->setText(found);
}

void LensPanel::show_dark_menu() {
  const auto choose = [this](const QString& chosen) {
    if (chosen.isEmpty()) return;
    const std::filesystem::path folder = session_.document.file().parent_path();
    const std::filesystem::path file = chosen.toStdString();
    session_.document.edit([&](take::Take& t) {
      t.optics.dark_frame = (folder.empty() ? file : file.lexically_proximate(folder)).string();
    });
  };
  QMenu menu(this);
  menu.setFont(word_font(10.5));
  menu.addAction(say_q("A raw file shot with the cap on…"), this,
                 [this, choose] { choose(QFileDialog::getOpenFileName(this, say_q("A dark frame"))); });
  menu.addAction(say_q("A folder of some…"), this,
                 [this, choose] { choose(QFileDialog::getExistingDirectory(this, say_q("Dark frames"))); });
  menu.addAction(say_q("None"), this,
                 [this] { session_.document.edit([](take::Take& t) { t.optics.dark_frame.clear(); }); })
      ->setEnabled(!session_.document.take().optics.dark_frame.empty());
  menu.exec(dark_menu_->mapToGlobal(QPoint(0, dark_menu_->height())));
}

}  // namespace askcount::app

#include "moc_lens_panel.cpp"
