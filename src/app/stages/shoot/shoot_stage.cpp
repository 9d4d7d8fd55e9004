#include "app/stages/shoot/shoot_stage.h"

#include <fmt/format.h>

#include <algorithm>
#include <QApplication>
#include <QHBoxLayout>
#include <QPainter>
#include <QRegularExpression>
#include <QVBoxLayout>

#include "app/look/look.h"
#include "app/stages/shoot/histogram.h"
#include "app/stages/shoot/shoot_head.h"
#include "app/widgets/slot_wiring.h"
#include "base/error.h"
#include "base/units.h"
#include "standin/scene.h"

namespace askcount::app {
namespace {

constexpr double kSpeeds[] = {0, 1, 5, 20, 60};
const QStringList kSpeedWords = {"as fast as it can", "in real time", "5 times faster", "20 times faster",
                                 "60 times faster"};
constexpr double kSoon_s = 20;  // real seconds before a change at which it is called out

Instant now() {
  return std::chrono::floor<std::chrono::milliseconds>(std::chrono::system_clock::now());
}

/// The card of what to do next.
class NextCard : public QWidget {
 public:
  using QWidget::QWidget;

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.fillRect(rect(), colours().card);
  }
};

}  // namespace

ShootStage::ShootStage(Desk& desk, QWidget* parent) : Stage(desk, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(28, 12, 28, 10);
  rows->setSpacing(6);
  auto* pages = new QStackedWidget(this);
  tabs_ = new WordTabs("shoot pages", this);
  tabs_->add("Beside the tripod", make_page(), pages);
  rehearse_ = new RehearsePane(desk, pages);
  tabs_->add("Rehearse the dusk", rehearse_, pages);
  rows->addWidget(tabs_);
  rows->addWidget(pages, 1);
  refresh_when_seen(desk, this, [this] { refresh(); });
  connect(&desk, &Desk::shot_landed, this, &ShootStage::show_newest);
  connect(&desk, &Desk::scrubbed, this, &ShootStage::show_newest);
  connect(&desk.run(), &ShootRun::fault, this, [this](const QString&) { alarm(); });
  connect(&pictures_, &FramePictures::ready, this, &ShootStage::show_newest);
  tick_.setInterval(100);
  connect(&tick_, &QTimer::timeout, this, [this] {
    head_->update();
    refresh();
  });
  refresh();
}

QWidget* ShootStage::make_page() {
  auto* page = new QWidget(this);
  auto* rows = new QVBoxLayout(page);
  rows->setContentsMargins(0, 6, 0, 0);
  rows->setSpacing(7);
  head_ = new ShootHead(desk_, page);
  rows->addWidget(head_);
  // Do this next.
  auto* card = new NextCard(page);
  auto* across = new QHBoxLayout(card);
  across->setContentsMargins(18, 8, 18, 9);
  auto* text = new QVBoxLayout;
  text->setSpacing(1);
  next_ = new QLabel(card);
  next_->setObjectName("next change");
  next_->setFont(words(16, QFont::Bold));
  why_ = new QLabel(card);
  why_->setFont(words(9.5));
  why_->setForegroundRole(QPalette::PlaceholderText);
  text->addWidget(next_);
  text->addWidget(why_);
  across->addLayout(text, 1);
  done_ = new PressButton("Done (D)", true, card);
  skip_ = new PressButton("Skip (K)", false, card);
  across->addWidget(done_);
  across->addWidget(skip_);
  rows->addWidget(card);
  // What is shot with.
  sentence_ = new Sentence(page, 11);
  sentence_->add("The stand-in shoots");
  scene_ = sentence_->add_slot("scene");
  sentence_->add(",");
  speed_ = sentence_->add_slot("speed");
  sentence_->add(";");
  limits_ = sentence_->add_slot("what lasts");
  sentence_->add("and");
  faults_ = sentence_->add_slot("faults");
  sentence_->add(". A real camera is at frame");
  at_ = sentence_->add_slot("frame of a real camera");
  sentence_->add(".");
  rows->addWidget(sentence_);
  auto* buttons = new QHBoxLayout;
  buttons->setSpacing(8);
  const auto button = [&](PressButton*& b, const char* name, bool main, auto press) {
    b = new PressButton(name, main, page);
    connect(b, &QPushButton::clicked, this, press);
    buttons->addWidget(b);
  };
  button(start_, "Shoot with the stand-in", true, [this] { desk_.shoot(wish_); });
  button(accompany_, "Beside a real camera", false, [this] { desk_.accompany(desk_.take().delay_s); });
  button(pause_, "Pause (P)", false,
         [this] { desk_.run().state().paused ? desk_.run().resume() : desk_.run().pause(); });
  button(stop_, "Stop", true, [this] { desk_.run().stop(); });
  button(battery_, "Fresh battery in", false, [this] { desk_.run().swap("battery"); });
  button(card_, "Fresh card in", false, [this] { desk_.run().swap("card"); });
  buttons->addStretch();
  rows->addLayout(buttons);
  auto* below = new QHBoxLayout;
  below->setSpacing(20);
  auto* left = new QVBoxLayout;
  left->setSpacing(4);
  left->addWidget(make_heading("Changes and notes so far", page));
  log_ = new QLabel(page);
  log_->setObjectName("shoot log");
  log_->setFont(words(9.5));
  log_->setWordWrap(true);
  log_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  log_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Ignored);
  left->addWidget(log_, 1);
  note_ = new QLineEdit(page);
  note_->setObjectName("note");
  note_->setPlaceholderText("Note at this frame (N)");
  note_->setFont(words(10));
  left->addWidget(note_);
  below->addLayout(left, 5);
  auto* right = new QVBoxLayout;
  right->setSpacing(4);
  heading_ = make_heading({}, page);
  right->addWidget(heading_);
  picture_ = new PictureView(page);
  auto* histogram = new Histogram(page);
  histogram->setObjectName("histogram");
  right->addWidget(picture_, 1);
  right->addWidget(histogram);
  below->addLayout(right, 4);
  rows->addLayout(below, 1);

  QStringList scenes;
  for (const std::string& s : standin::scene_names()) scenes << to_q(s);
  wire_choice(desk_, scene_, scenes, [scenes](take::Take& t, int i) { t.scene = scenes[i].toStdString(); });
  const auto choice = [this](SlotField* slot, const QStringList& list, std::function<void(int)> set) {
    slot->set_choices(list);
    connect(slot, &SlotField::committed, this, [this, list, set](const QString& word) {
      if (list.indexOf(word) >= 0) set(static_cast<int>(list.indexOf(word))), refresh();
    });
    connect(slot, &SlotField::nudged, this, [this, list, set, slot](int n) {
      const auto count = list.size();
      set(static_cast<int>(((list.indexOf(slot->text()) - n) % count + count) % count));
      refresh();
    });
  };
  choice(speed_, kSpeedWords, [this](int i) { wish_.scale = kSpeeds[i]; });
  choice(limits_, {"everything lasts", "the kit's battery and card end"},
         [this](int i) { wish_.limits = i == 1; });
  connect(faults_, &SlotField::committed, this, [this](const QString& text) {
    try {
      std::vector<standin::Fault> list;
      if (!text.startsWith("nothing"))
        for (const QString& part : text.split(QRegularExpression("[, ]+"), Qt::SkipEmptyParts))
          list.push_back(standin::parse_fault(part.toStdString()));
      wish_.faults = list;
      faults_text_ = list.empty() ? QString() : text;
      sentence_->complain({});
    } catch (const Error& e) {
      sentence_->complain(QString::fromUtf8(e.what()).replace("--fault", "The fault"));
    }
    refresh();
  });
  connect(at_, &SlotField::committed, this, [this](const QString& text) {
    bool good = false;
    const long long frame = QString(text).remove(',').toLongLong(&good);
    const bool fits = good && frame >= 1 && frame <= desk_.run().state().count;
    if (fits) desk_.run().put_at(frame - 1);
    sentence_->complain(fits ? QString() : "Write the number of the frame that is being shot now.");
  });
  connect(at_, &SlotField::nudged, this,
          [this](int n) { desk_.run().put_at(std::max(0LL, desk_.run().state().frame_at(now()) + n)); });
  connect(done_, &QPushButton::clicked, this, [this] { change(false); });
  connect(skip_, &QPushButton::clicked, this, [this] { change(true); });
  connect(note_, &QLineEdit::returnPressed, this, [this] {
    desk_.run().note(std::max(0LL, desk_.run().state().frame_at(now())), note_->text());
    note_->clear();
    setFocus();
  });
  return page;
}

std::optional<std::filesystem::path> ShootStage::newest() const {
  if (desk_.run().active()) return desk_.landed() ? std::optional(desk_.landed()->file) : std::nullopt;
  if (desk_.gathered() && !desk_.gathered()->frames.empty())
    return desk_.gathered()->frames[static_cast<size_t>(desk_.at())].file;
  return {};
}

void ShootStage::show_newest() {
  if (!isVisible()) return;
  const auto file = newest();
  const QImage image = file && file->extension() != ".DNG" ? pictures_.picture(*file, 480) : QImage();
  picture_->set(image, file ? ""
                       : desk_.run().active() && !desk_.run().state().standin
                           ? "A real camera keeps its pictures to itself."
                           : "Nothing has been shot yet.");
  if (!image.isNull() || !file) findChild<Histogram*>("histogram")->set(image);
  head_->update();
}

void ShootStage::change(bool skipped) {
  const ramp::Ramp* ramp = desk_.ramp();
  const take::ShootState& state = desk_.run().state();
  if (!ramp || !state.active) return;
  const long long frame = state.frame_at(now());
  const auto due = take::due_clicks(*ramp, state, frame, take::rule_of(desk_.take()));
  if (due.empty()) return;
  const ramp::RampStep& step = ramp->steps[static_cast<size_t>(due.front().click)];
  desk_.run().change_done(due.front().click, frame + 1, step.click.frame, skipped);
  if (!skipped) desk_.run().turn(step.click.dial, step.click.brighter);
}

void ShootStage::alarm() {
  head_->flash(true);
  QTimer::singleShot(700, head_, [this] { head_->flash(false); });
  if (heard_) QApplication::beep();
}

void ShootStage::refresh() {
  using Kind = SlotField::Kind;
  const take::ShootState& state = desk_.run().state();
  const bool active = state.active, by_clock = active && (!state.standin || state.scale > 0);
  if (by_clock && isVisible() && !tick_.isActive()) tick_.start();
  if (!by_clock && tick_.isActive()) tick_.stop();
  const take::Take& t = desk_.take();
  scene_->set(to_q(t.scene), Kind::Plain);
  QString speed = kSpeedWords[0];
  for (size_t i = 0; i < std::size(kSpeeds); ++i)
    if (kSpeeds[i] == wish_.scale) speed = kSpeedWords[static_cast<qsizetype>(i)];
  speed_->set(speed, Kind::Plain);
  limits_->set(wish_.limits ? "the kit's battery and card end" : "everything lasts", Kind::Plain);
  faults_->set(faults_text_.isEmpty() ? "nothing goes wrong" : faults_text_, Kind::Plain);
  at_->set(active && !state.standin ? to_q(format_count(std::max(0LL, state.frame_at(now())) + 1)) : "–",
           active && !state.standin ? Kind::Answer : Kind::Plain);
  at_->setEnabled(active && !state.standin);
  sentence_->reflow();
  start_->setVisible(!active);
  start_->setEnabled(desk_.sums() && !desk_.job().running());
  start_->setText(desk_.gathered() ? "Shoot it again with the stand-in" : "Shoot with the stand-in");
  start_->updateGeometry();
  accompany_->setVisible(!active);
  accompany_->setEnabled(desk_.sums().has_value());
  pause_->setVisible(active);
  pause_->setText(state.paused ? "Go on (P)" : "Pause (P)");
  stop_->setVisible(active);
  battery_->setVisible(active && state.standin && wish_.limits);
  card_->setVisible(active && state.standin && wish_.limits);
  heading_->setText(active ? "Newest frame" : desk_.gathered() ? "The frame looked at" : "The camera");
  // What to do next.
  const ramp::Ramp* ramp = t.light.school == ramp::School::Hand ? desk_.ramp() : nullptr;
  const long long frame = active ? state.frame_at(now()) : desk_.at();
  QString next = "Nothing to turn", why = "The light stays within the band.";
  bool can = false;
  if (ramp && !ramp->steps.empty()) {
    take::ShootState none;
    const auto due =
        take::due_clicks(*ramp, active ? state : none, active ? frame : desk_.at(), take::rule_of(t));
    if (due.empty()) {
      next = "No change is left", why = "The rest of the take keeps these dials.";
    } else {
      const take::Due& d = due.front();
      const ramp::RampStep& s = ramp->steps[static_cast<size_t>(d.click)];
      QString dial = to_q(ramp::dial_word(s.click.dial));
      dial[0] = dial[0].toUpper();
      next = QString("%1 one click %2, %3 to %4")
                 .arg(dial,
                      s.click.dial == ramp::Dial::Aperture  ? (s.click.brighter ? "wider" : "smaller")
                      : s.click.dial == ramp::Dial::Shutter ? (s.click.brighter ? "slower" : "faster")
                                                            : (s.click.brighter ? "higher" : "lower"),
                      to_q(ramp::dial_words(s.click.dial, s.before)),
                      to_q(ramp::dial_words(s.click.dial, s.after)));
      const double in_s =
          (static_cast<double>(d.frame) - static_cast<double>(std::max(0LL, frame))) * t.program().interval_s;
      why = QString("After frame %1%2%3.")
                .arg(to_q(format_count(d.frame)),
                     d.late > 0 ? QString(", %1 late").arg(to_q(counted(d.late, "frame"))) : QString(),
                     by_clock && in_s > 0 ? ", in " + to_q(format_length(std::round(in_s))) : QString());
      can = active && by_clock;
      if (can && d.click != alarmed_ &&
          in_s / std::max(1.0, state.scale) < kSoon_s / std::max(1.0, state.scale) && d.frame - frame <= 1) {
        alarmed_ = d.click;
        alarm();
      }
      if (active && state.standin && state.scale <= 0) why += " The stand-in's own hand follows the light.";
    }
  } else if (t.light.school != ramp::School::Hand) {
    next = t.light.school == ramp::School::Fixed ? "Keep your hands off" : "Watch the shutter";
    why = t.light.school == ramp::School::Fixed ? "The exposure is fixed for the whole take."
                                                : "Aperture priority: it must not outgrow the interval.";
  }
  if (next_->text() != next) next_->setText(next);
  if (why_->text() != why) why_->setText(why);
  done_->setEnabled(can);
  skip_->setEnabled(can);
  // The log, the newest first.
  struct Line {
    long long frame;
    QString text;
  };
  std::vector<Line> lines;
  for (const take::ShootState::Change& c : state.changes) {
    if (!ramp || c.click >= static_cast<long long>(ramp->steps.size())) continue;
    const long long late = c.frame - c.planned;
    lines.push_back(
        {c.frame, QString("%1   frame %2   %3   %4")
                      .arg(to_q(format_clock(c.at, t.place.zone, true)), to_q(format_count(c.frame)),
                           to_q(ramp::step_words(ramp->steps[static_cast<size_t>(c.click)])),
                           c.skipped   ? "skipped"
                           : late == 0 ? QString("on time")
                           : late > 0  ? to_q(counted(late, "frame")) + " late"
                                       : to_q(counted(-late, "frame")) + " early")});
  }
  for (const take::ShootState::Note& n : state.notes)
    lines.push_back(
        {n.frame, QString("%1frame %2   %3")
                      .arg(n.fault.empty() ? "" : "✕ ", to_q(format_count(n.frame + 1)), to_q(n.words))});
  std::stable_sort(lines.begin(), lines.end(),
                   [](const Line& a, const Line& b) { return a.frame > b.frame; });
  QStringList text;
  for (size_t i = 0; i < lines.size() && i < 7; ++i) text << lines[i].text;
  const QString log = text.isEmpty() ? "Nothing yet." : text.join('\n');
  if (log_->text() != log) log_->setText(log);
  note_->setEnabled(active);
  show_newest();
}

bool ShootStage::key(QKeyEvent* event) {
  if (tabs_->chosen() == 1) return rehearse_->key(event);
  switch (event->key()) {
    case Qt::Key_D:
      change(false);
      return true;
    case Qt::Key_K:
      change(true);
      return true;
    case Qt::Key_N:
      note_->setFocus();
      return true;
    case Qt::Key_P:
      desk_.run().state().paused ? desk_.run().resume() : desk_.run().pause();
      return true;
    case Qt::Key_A:
      heard_ = !heard_;
      emit desk_.changed();
      return true;
    default:
      return false;
  }
}

Findings ShootStage::findings() const {
  Findings list;
  const take::ShootState& state = desk_.run().state();
  const take::Take& t = desk_.take();
  for (Finding f : take::cautions(t)) {
    if (f.code == "dark_edges")
      f.title = "Gear stays in sight",
      f.text = "Stay with the tripod, and away from edges in the dark. Let nobody trip over the legs.";
    list.push_back(std::move(f));
  }
  if (list.empty())
    list.push_back({"stay",
                    Severity::Warning,
                    "Stay with the tripod",
                    "Let nobody trip over the legs, and know what the tide and the weather do.",
                    "",
                    {}});
  if (state.active && desk_.run().last_event()) {
    const Json& e = *desk_.run().last_event();
    const double battery = e.value("battery", 1.0), card = e.value("card", 0.0),
                 buffer = e.value("buffer", 0.0);
    const long long frame = std::max(1LL, state.shots);
    if (battery < 0.9999) {
      const auto to = static_cast<long long>(static_cast<double>(frame) / std::max(1e-6, 1 - battery));
      list.push_back({"battery_live",
                      to < state.count ? (battery < 0.15 ? Severity::Stop : Severity::Warning) : Severity::Ok,
                      fmt::format("Battery {}", format_number(battery * 100, 0) + " %"),
                      fmt::format("Lasts to frame {} at this rate.", format_count(to)),
                      "",
                      {}});
    }
    if (card > 0.001) {
      const auto room = static_cast<long long>(static_cast<double>(frame) * (1 - card) / card);
      list.push_back({"card_live",
                      room < state.count - frame ? Severity::Warning : Severity::Ok,
                      fmt::format("Card {} full", format_number(card * 100, 0) + " %"),
                      fmt::format("Room for {} more.", format_count(room)),
                      "",
                      {}});
    }
    if (buffer > 0.5)
      list.push_back({"buffer_live",
                      buffer > 0.85 ? Severity::Stop : Severity::Warning,
                      fmt::format("Buffer {} full", format_number(buffer * 100, 0) + " %"),
                      "The card does not keep up: lengthen the interval or keep smaller files.",
                      "",
                      {}});
  }
  if (state.missed > 0 && desk_.run().active())
    list.push_back({"missed_live",
                    Severity::Stop,
                    counted(state.missed, "shot") + " missed",
                    "The camera was busy, its buffer full, or it had no power.",
                    "",
                    {}});
  for (auto it = state.notes.rbegin(); it != state.notes.rend() && state.active; ++it)
    if (!it->fault.empty()) {
      list.push_back({"fault_" + it->fault,
                      Severity::Stop,
                      fmt::format("At frame {}: {}", format_count(it->frame + 1), it->fault),
                      it->words,
                      "",
                      {}});
      if (list.size() > 8) break;
    }
  if (desk_.sums()) {
    if (desk_.run().active() && desk_.run().read_back())
      list.push_back({"read_back",
                      Severity::Ok,
                      "The timer stands as told",
                      "The program was read back and compared.",
                      "",
                      {}});
    const auto dew = sky::dew_after_s(t.light.weather, t.temperature_c, desk_.sums()->field_s);
    if (dew && !t.light.weather.heater)
      list.push_back({"dew_live",
                      Severity::Warning,
                      "Dew from " + format_clock(later(t.start, *dew), t.place.zone),
                      "Switch the lens heater on before that.",
                      "",
                      {}});
    list.push_back(plan::judge_cycle(t.cycle(desk_.sums()->shutter_s), desk_.sums()->interval_s));
  }
  sort_by_severity(list);
  return list;
}

QString ShootStage::foot() const {
  const QString alarms = heard_ ? "Alarms are seen and heard (A)" : "Alarms are seen, not heard (A)";
  if (!desk_.run().active()) return "Nothing is running.  " + alarms + ".";
  const take::ShootState& s = desk_.run().state();
  const QString what =
      !s.standin ? "Beside a real camera, by the clock"
      : s.scale > 0
          ? QString("Simulated camera, %1 times faster than real").arg(to_q(format_number(s.scale, 0)))
          : "Simulated camera, as fast as it can";
  return what + ".  " + alarms + ".  Everything is in " + to_q(desk_.journal_file().filename().string()) +
         ".";
}

}  // namespace askcount::app
