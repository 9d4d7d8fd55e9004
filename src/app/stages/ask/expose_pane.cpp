// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/expose_pane.h"

#include <algorithm>
#include <cmath>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/language.h"
#include "base/number.h"
#include "base/units.h"
#include "forecast/light.h"
#include "plan/close_up.h"

namespace askcount::app {
namespace {

QString metres(double m) {
  if (std::isinf(m)) return say_q("infinity");
  return m < 1 ? to_q(format_number(m * 100, 0)) + say_q(" cm")
               : to_q(format_number(m, m < 10    ? 2
                                       : m < 100 ? 1
                                                 : 0)) +
                     " m";
}

}  // namespace

ExposePane::ExposePane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 8, 0, 0);
  make_sentence();
  rows->addWidget(sentence_);
  rows->addStretch();
  wire_slots();
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void ExposePane::make_sentence() {
  sentence_ = new Sentence(this, 12);
  const auto answer = [this](const QString& name) {
    SlotField* slot = sentence_->add_slot(name);
    slot->setEnabled(false);
    return slot;
  };
  sentence_->add(say_q("With the"));
  lens_ = sentence_->add_slot(say_q("lens"));
  sentence_->add(say_q(", frame and focus by a test exposure of"));
  test_ = answer(say_q("test exposure"));
  sentence_->add(say_q(": just as bright."));
  sentence_->add_break();
  sentence_->add(say_q("Focused at"));
  distance_ = sentence_->add_slot(say_q("focus distance"));
  sentence_->add(say_q("it is sharp"));
  depth_ = answer(say_q("depth of field"));
  sentence_->add(say_q("; the hyperfocal distance is"));
  hyperfocal_ = answer(say_q("hyperfocal distance"));
  sentence_->add(say_q(". Where nothing can be worked out, focus a third into the scene."));
  sentence_->add_break();
  sentence_->add(say_q("Stars at a declination of"));
  declination_ = sentence_->add_slot(say_q("declination"));
  sentence_->add(say_q("drift"));
  drift_ = answer(say_q("star drift"));
  sentence_->add(say_q("in one exposure. For points: 500 rule"));
  rule500_ = answer(say_q("500 rule"));
  sentence_->add(say_q(", 600 rule"));
  rule600_ = answer(say_q("600 rule"));
  sentence_->add(say_q(", aperture and pitch"));
  rule_pitch_ = answer(say_q("aperture and pitch rule"));
  sentence_->add(".");
  sentence_->add_break();
  sentence_->add(say_q("As a close-up at"));
  magnification_ = sentence_->add_slot(say_q("magnification"));
  sentence_->add(say_q("life size"));
  close_ = answer(say_q("close-up depth"));
  sentence_->add(say_q("are sharp; growing"));
  grows_ = sentence_->add_slot(say_q("growth"));
  sentence_->add(say_q("an hour, refocus"));
  refocus_ = answer(say_q("refocus"));
  sentence_->add(".");
}

void ExposePane::wire_slots() {
  using take::Take;
  wire(
      session_, sentence_, distance_,
      [](Take& t, const std::string& s) {
        t.focus.distance_m = parse_number(s, 0.01, 100000, say("the distance")) *
                             (s.find("cm") != std::string::npos ? 0.01 : 1);
      },
      [](Take& t, int n) {
        t.focus.distance_m = std::clamp(t.focus.distance_m * std::pow(1.1, n), 0.05, 10000.0);
      });
  wire(
      session_, sentence_, declination_,
      [](Take& t, const std::string& s) {
        t.focus.declination_deg = parse_number(s, -90, 90, say("the declination"));
      },
      [](Take& t, int n) {
        t.focus.declination_deg = std::clamp(std::round(t.focus.declination_deg + n), -90.0, 90.0);
      });
  wire(
      session_, sentence_, magnification_,
      [](Take& t, const std::string& s) {
        t.focus.magnification = meant(s, "none") ? 0 : parse_number(s, 0, 10, say("the magnification"));
      },
      [](Take& t, int n) { t.focus.magnification = std::clamp(t.focus.magnification + 0.1 * n, 0.0, 10.0); });
  wire(
      session_, sentence_, grows_,
      [](Take& t, const std::string& s) {
        t.focus.grows_mm_per_hour = parse_number(s, 0, 1000, say("the growth"));
      },
      [](Take& t, int n) {
        t.focus.grows_mm_per_hour = std::clamp(t.focus.grows_mm_per_hour + 0.5 * n, 0.0, 1000.0);
      });
  connect(lens_, &SlotField::committed, this, [this](const QString& name) {
    session_.document.edit([&](Take& t) { take::use_lens(t, name.toStdString()); });
  });
  connect(lens_, &SlotField::nudged, this,
          [this](int n) { session_.document.edit([n](Take& t) { take::next_lens(t, n); }); });
}

void ExposePane::refresh() {
  using Kind = SlotField::Kind;
  const take::Take& t = session_.document.take();
  QStringList lenses;
  for (const plan::Lens& l : t.kit.lenses) lenses << to_q(l.name);
  lens_->set_choices(lenses);
  lens_->set(to_q(t.lens().name.empty() ? "24 mm" : t.lens().name), Kind::Plain);
  distance_->set(metres(t.focus.distance_m), Kind::Plain);
  declination_->set(to_q(format_number(t.focus.declination_deg, 0)) + "°", Kind::Plain);
  const bool close = t.focus.magnification > 0;
  magnification_->set(close ? to_q(format_number(t.focus.magnification, 2)) + " ×" : "0 ×", Kind::Plain);
  grows_->set(to_q(format_number(t.focus.grows_mm_per_hour, 1)) + " mm", Kind::Plain);
  for (SlotField* slot :
       {test_, drift_, rule500_, rule600_, rule_pitch_, depth_, hyperfocal_, close_, refocus_})
    slot->set(QString("–"), Kind::Plain);
  if (session_.document.sums()) {
    const plan::Sums& s = *session_.document.sums();
    const std::optional<plan::ExposureMatch> match =
        t.metered ? std::optional(plan::match_exposure(*t.metered, session_.document.exposure()->longest_s,
                                                       t.kit_in_use()))
                  : std::nullopt;
    const double f = session_.document.exposure()->first.f_number;
    if (match)
      test_->set(to_q(plan::metered_words(plan::test_exposure(match->setting, t.kit_in_use()))),
                 Kind::Answer);
    const double drift =
        plan::star_drift_px(s.shutter_s, t.lens().focal_mm, t.body().pixel_um(), t.focus.declination_deg);
    drift_->set(to_q(format_number(drift, drift < 10 ? 1 : 0)) + " px", Kind::Answer);
    const plan::StarRules methods = plan::star_rules(t.body(), t.lens(), f);
    rule500_->set(to_q(format_length(methods.by_500, 1)), Kind::Answer);
    rule600_->set(to_q(format_length(methods.by_600, 1)), Kind::Answer);
    rule_pitch_->set(to_q(format_length(methods.by_pixel, 1)), Kind::Answer);
    const plan::Depth d = plan::depth_of_field(t.body(), t.lens().focal_mm, f, t.focus.distance_m);
    depth_->set(say_q("from ") + metres(d.near_m) + say_q(" to ") + metres(d.far_m), Kind::Answer);
    depth_->setToolTip(
        say_q("At f/%1, with a blur of two pixels. Source: thin lens.").arg(to_q(format_number(f, 1))));
    hyperfocal_->set(metres(d.hyperfocal_m), Kind::Answer);
    if (close) {
      const plan::CloseUp c = plan::close_up(t.body(), t.focus.magnification, f);
      close_->set(to_q(format_number(c.depth_mm, c.depth_mm < 1 ? 2 : 1)) + " mm", Kind::Answer);
      const auto every = plan::refocus_every(c, t.focus.grows_mm_per_hour, s);
      refocus_->set(!every        ? say_q("never")
                    : *every == 1 ? say_q("every frame")
                                  : say_q("every {} frames", format_count(*every)),
                    Kind::Answer);
    } else {
      close_->set("–", Kind::Plain);
      refocus_->set(say_q("never"), Kind::Answer);
    }
  }
  sentence_->reflow();
}

}  // namespace askcount::app
