// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/session.h"

#include <nlohmann/json.hpp>

#include "advice/checklist.h"
#include "app/session/keeping.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/files.h"
#include "base/json.h"
#include "base/language.h"
#include "base/units.h"
#include "book/again.h"
#include "book/pack.h"
#include "films/film.h"
#include "forecast/shoot.h"

namespace askcount::app {
namespace fs = std::filesystem;
namespace {

/// A take, and the text of its file as it was read. Throws as take::load_take.
std::pair<take::Take, std::string> read_take(const fs::path& file) {
  std::string content = read_file(file);
  take::Take take = take::take_from_json(parse_json(content, file.string()), file.string());
  return {std::move(take), std::move(content)};
}

}  // namespace

Session::Session(QObject* parent) : QObject(parent), book(book::Book::file_in(data_folder())) {
  for (const book::Score& score : earlier_scores()) book.keep(score);
  connect(&book, &BookKeeper::trouble, this, &Session::trouble);
  connect(&book, &BookKeeper::told, this, &Session::told);
  connect(&document, &Document::trouble, this, &Session::trouble);
  connect(&films, &Films::trouble, this, &Session::trouble);
  connect(&films, &Films::told, this, &Session::told);
  connect(&way, &CameraWay::trouble, this, &Session::trouble);
  connect(&levelling, &Levelling::trouble, this, &Session::trouble);
  connect(&optics, &Optics::trouble, this, &Session::trouble);
  connect(&run, &Run::trouble, this, &Session::trouble);
  connect(&tests, &TestPictures::trouble, this, &Session::trouble);
  connect(&outlook, &OutlookPicture::trouble, this, &Session::trouble);
  connect(&job, &Job::ended, this, [this](const QString& words, bool cancelled) {
    if (!words.isEmpty() && !cancelled) emit trouble(words);
  });
  // Whatever changes what the work at hand is made from ends it.
  connect(&document, &Document::replaced, &job, &Job::disown);
  connect(&job, &Job::was_dropped, this, &Session::trouble);
  connect(&document, &Document::changed, &job, &Job::review);
  connect(&frames, &Frames::changed, &job, &Job::review);
  connect(&document, &Document::changed, this, &Session::load_pictures);
  connect(&frames, &Frames::changed, this, &Session::size_film);
  connect(&document, &Document::replaced, this, [this] { sizes_film_ = false; });
  connect(&run, &Run::ended, this, [this] {
    count_on();
    if (run.state().standin) frames.gather();
  });
}

Session::~Session() {
  blockSignals(true);  // the window is half gone
  for (QObject* part : std::initializer_list<QObject*>{&job, &document, &frames, &playhead, &levelling,
                                                       &films, &tests, &outlook, &run, &book})
    part->blockSignals(true);
}

void Session::put_down(take::Take take, const Document::Origin& origin) {
  run.leave();  // it goes on by itself; its journal brings it back
  document.put_down(std::move(take), origin);
  if (document.look_only())
    emit trouble(
        say_q("This take is open in another window, so here you can only look at it. Ctrl+Shift+S saves it "
              "under another name."));
}

void Session::open(const fs::path& file) {
  document.wait_until_saved();  // it may be this very file
  auto [take, content] = read_take(file);
  put_down(std::move(take), {file, content, {}});
  remember_take(file);
  if (!document.look_only()) run.take_up(document.journal_file(), document.card());
}

void Session::begin() {
  take::Take fresh;
  // The person's own kit goes on from take to take; the demo's does not.
  if (!(document.take().kit == plan::demo_kit())) {
    fresh.kit = document.take().kit;
    fresh.timer = document.take().timer;
  }
  learn_from_others(fresh);
  put_aside_and_down(std::move(fresh));
}

void Session::learn_from_others(take::Take& fresh) const {
  for (const auto& [code, takes] : book.shelf().mistakes)
    if (takes > 1 && advice::against(code, takes)) fresh.again[code] = takes;
}

void Session::begin_again(const fs::path& old, Instant at, bool exactly) {
  const take::Take before = read_take(old).first;
  take::Take fresh = book::begun_again(before, day_of(at, before.place.zone));
  if (exactly) take::start_at(fresh, at);
  learn_from_others(fresh);
  put_aside_and_down(std::move(fresh));
}

void Session::begin_demo() {
  put_aside_and_down(take::demo_take());
}

void Session::begin_with(const fs::path& card) {
  begin();
  document.edit([&](take::Take& t) {
    const fs::path folder = fs::absolute(card).lexically_normal();
    t.card = folder.string();
    // What is not set yet, so that the next press can be the film's.
    t.name = (folder.has_filename() ? folder : folder.parent_path()).filename().string();
    t.wish(plan::Slot::Fps, 25);
  });
  sizes_film_ = true;
  frames.gather();
}

void Session::size_film() {
  if (!sizes_film_ || !frames.gathered()) return;
  sizes_film_ = false;
  const image::Size size = films::usual_size_for(films.frame_size());
  document.edit([&](take::Take& t) {
    if (t.film.size == take::FilmWish{}.size) t.film.size = size;
  });
}

void Session::put_aside_and_down(take::Take take) {
  document.wait_until_saved();
  if (document.file().empty() && document.is_kept()) put_away(document.kept_file());
  put_down(std::move(take), {});
}

bool Session::recover() {
  for (const fs::path& file : unsaved_files()) {
    if (!lock_of(file)) continue;  // of another window
    try {
      auto [take, content] = read_take(file);
      put_down(std::move(take), {{}, content, file});
      return true;
    } catch (const Error& e) {
      const fs::path aside = put_aside(file);
      emit trouble(QString::fromUtf8(e.what()) +
                   (aside.empty() ? QString()
                                  : say_q(" It is kept as ") + QString::fromStdString(aside.string()) + "."));
    }
  }
  return false;
}

void Session::pack(const fs::path& to) {
  if (document.file().empty()) return;
  document.wait_until_saved();
  const auto packed = std::make_shared<book::Packed>();
  const auto order = std::make_shared<book::Order>(book::Order{document.file(), to, {}});
  job.start(
      {say_q("Packing"),
       [order, packed, file = book::Book::file_in(data_folder())](const Work& work) {
         order->entry = book::Book(file).of_file(order->take);
         *packed = book::pack(*order, work);
       },
       [this, packed, to] {
         QString words = say_q("Packed: %1, %2")
                             .arg(QString::fromStdString(to.string()),
                                  QString::fromStdString(
                                      counted(static_cast<long long>(packed->files), "{} file", "{} files")));
         if (!packed->missing.empty())
           words += say_q(". Not there: %1").arg(QString::fromStdString(packed->missing.front()));
         emit told(words);
       },
       [] { return true; }, say_q(" files"),
       say_q("The packing was stopped, for another take was opened. Pack it again when you are back.")});
}

void Session::lay_under(const fs::path& file) {
  const auto photograph = std::make_shared<const skyline::Photograph>(
      skyline::read_photograph(file, OutlookPicture::kLongest_px));
  const take::Outlook laid = forecast::outlook_for(document.take(), *photograph, file.string());
  outlook.forget();  // chosen anew
  outlook.load(document.beside(laid.picture), photograph);
  document.edit([&](take::Take& t) { t.light.outlook = laid; });
}

void Session::choose_tests(const fs::path& first, const fs::path& second) {
  tests.forget();  // chosen anew: read anew
  document.edit([&](take::Take& t) { t.test_pictures = {first.string(), second.string()}; });
  load_pictures();
}

void Session::load_pictures() {
  const std::vector<std::string>& two = document.take().test_pictures;
  if (two.size() == 2)
    tests.load(document.beside(two[0]), document.beside(two[1]));
  else
    tests.forget();
  const std::string& picture = document.take().light.outlook.picture;
  if (picture.empty())
    outlook.forget();
  else
    outlook.load(document.beside(picture));
}

void Session::count_on() {
  const journal::ShootState& state = run.state();
  const take::Take& t = document.take();
  // The stand-in wears its own shutter, and a person's camera the person's.
  const bool same = t.knows_kit() && state.standin == (t.body().name == simulate::kBodyName);
  const long long shots = state.standin ? state.shots : state.frame_at(now()) + 1;
  if (!same || shots <= 0) return;
  document.edit([shots](take::Take& next) { take::count_on(next, shots); });
}

RunPlan Session::run_plan() const {
  const timer::Program program = document.program();
  const forecast::ExposurePlan& exposure = *document.exposure();
  std::vector<journal::ShootState::Run> runs;
  const plan::Schedule& schedule = document.schedule();
  if (schedule.pauses())
    for (const plan::Schedule::Part& day : schedule.parts())
      runs.push_back({day.first, day.from_s - schedule.parts().front().from_s});
  return {document.next_journal(), program.interval_s,
          program.count,           std::move(runs),
          document.take().ticks,   exposure.dials_known ? std::optional(exposure.first) : std::nullopt};
}

void Session::shoot(const ShootWish& wish) {
  if (job.running() || run.active() || !document.sums()) return;
  if (document.look_only())
    return emit trouble(say_q("This take is open in another window: shoot it there."));
  if (document.take().card.empty()) document.edit([](take::Take& t) { t.card = "card"; });
  try {
    simulate::RigSetting rig = forecast::rig_of(document.take(), fs::absolute(document.card()), wish.limits);
    rig.scale = wish.scale;
    rig.faults = wish.faults;
    if (wish.scale > 0) rig.clicks.clear();  // the person's own hand turns the dials
    const RunPlan plan = run_plan();
    frames.forget();
    run.start_standin(rig, plan);
  } catch (const Error& e) {
    emit trouble(QString::fromUtf8(e.what()));
  }
}

void Session::accompany() {
  if (run.active() || !document.sums()) return;
  if (document.look_only()) return emit trouble(say_q("This take is open in another window: go on there."));
  try {
    run.start_companion(forecast::first_shot_at(document.take(), now()), run_plan());
  } catch (const Error& e) {
    emit trouble(QString::fromUtf8(e.what()));
  }
}

}  // namespace askcount::app

#include "moc_session.cpp"
