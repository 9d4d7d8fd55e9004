// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/walk.h"

#include <fmt/format.h>

#include <cstdio>
#include <QApplication>
#include <QBuffer>
#include <QElapsedTimer>
#include <QPixmap>
#include <QThread>

#include "app/shell/keys_page.h"
#include "app/stages/ask/whole_film.h"
#include "app/widgets/word_tabs.h"
#include "base/files.h"
#include "base/process.h"
#include "media/encoder.h"

namespace askcount::app {
namespace fs = std::filesystem;
namespace {

constexpr int kLongestWork_ms = 20 * 60 * 1000;
constexpr int kSettle_ms = 700;  // pictures being read, layouts settling

void settle(int ms) {
  QElapsedTimer clock;
  clock.start();
  while (clock.elapsed() < ms) {
    QApplication::processEvents(QEventLoop::AllEvents, 20);
    QThread::msleep(2);
  }
}

/// Waits for the work at hand; false where it takes too long.
bool wait(const Job& job) {
  QElapsedTimer clock, shown;
  clock.start();
  shown.start();
  while (job.running() && clock.elapsed() < kLongestWork_ms) {
    settle(20);
    if (shown.elapsed() > 5000) {
      complain(fmt::format("{} {} of {}\n", job.doing().toStdString(), job.done_count(), job.total()));
      shown.restart();
    }
  }
  return !job.running();
}

void write_picture(QImage image, const fs::path& file) {
  image.setText("Software", "Ask Count");
  QByteArray bytes;
  QBuffer buffer(&bytes);
  image.save(&buffer, "PNG");
  write_file_atomically({file, FileKind::Picture}, {bytes.constData(), static_cast<size_t>(bytes.size())});
}

void leave_picture(Window& window, const fs::path& picture) {
  write_picture(window.grab().toImage(), picture);
  fmt::print("{}\n", picture.string());
}

/// The film before the shoot, some way into it.
void show_whole_film(Window& window, int ask, const fs::path& picture) {
  constexpr int kLongest_ms = 10000, kPlayed_ms = 4000, kPage = 1;
  auto* tabs = window.stage(ask).findChild<WordTabs*>("ask pages");
  auto* film = window.findChild<WholeFilm*>();
  if (!tabs || !film) return;
  tabs->choose(kPage);
  QElapsedTimer clock;
  clock.start();
  while (film->now().ready_from(0) == 0 && clock.elapsed() < kLongest_ms) settle(20);
  film->toggle();
  settle(kPlayed_ms);
  film->toggle();
  leave_picture(window, picture);
  tabs->choose(0);
}

/// The page of keys, as it is on Ask with the interval in focus.
void show_keys(Window& window, const fs::path& picture) {
  if (auto* interval =
          window.findChild<QWidget*>(QString::fromStdString(plan::slot_name(plan::Slot::Interval))))
    interval->setFocus();
  QApplication::setActiveWindow(&window);  // where no desktop does
  settle(50);
  const auto page = window.keys_page();
  page->show();
  settle(kSettle_ms);
  write_picture(page->grab().toImage(), picture);
  fmt::print("{}\n", picture.string());
}

/// What Level shows of lens and sensor.
void show_lens(Window& window, int level, const fs::path& picture) {
  auto* tabs = window.stage(level).findChild<WordTabs*>("level pages");
  if (!tabs) return;
  tabs->choose(1);
  settle(kSettle_ms);
  leave_picture(window, picture);
  tabs->choose(0);
}

/// A stage on a larger screen.
void show_large(Window& window, const fs::path& picture) {
  const QSize before = window.size();
  window.resize(1920, 1080);
  settle(2 * kSettle_ms);
  leave_picture(window, picture);
  window.resize(before);
  settle(kSettle_ms);
}

}  // namespace

void walk_through(Window& window, const fs::path& out) {
  fs::create_directories(out);
  window.resize(1280, 800);  // whatever the screen leaves room for
  bool well = wait(window.session().job);
  for (int looks = 0; looks < 600 && window.session().tests.busy(); ++looks)
    settle(50);  // the two test pictures are being measured
  window.session().playhead.set(window.session().playhead.count() * 2 / 3);
  for (int i = 0; i < window.stage_count() && well; ++i) {
    window.go_to(i);
    const QString name = window.stage_name(i);
    settle(kSettle_ms);
    well = wait(window.session().job);
    for (int looks = 0; looks < 2000 && window.session().looking.running(); ++looks)
      settle(50);  // every frame is being looked at
    if (name == "Cut") {
      window.session().films.make();
      well = wait(window.session().films.queue.job()) && window.session().films.film().has_value();
      settle(kSettle_ms);
      window.stage(i).play();
      settle(1500);
      window.stage(i).play();
      // Left as it stands before a film is made, at the frame every stage shows.
      if (auto* pages = window.stage(i).findChild<WordTabs*>("cut pages")) pages->choose(0);
      window.session().playhead.set(window.session().playhead.count() * 2 / 3);
    }
    settle(kSettle_ms);
    leave_picture(window, out / fmt::format("{}-{}.png", i + 1, name.toLower().toStdString()));
    if (name == "Ask") show_whole_film(window, i, out / fmt::format("{}-ask-film.png", i + 1));
    if (name == "Ask") show_keys(window, out / fmt::format("{}-keys.png", i + 1));
    if (name == "Level" || name == "Cut")
      show_large(window, out / fmt::format("{}-{}-large.png", i + 1, name.toLower().toStdString()));
    if (name == "Level") show_lens(window, i, out / fmt::format("{}-level-lens.png", i + 1));
  }
  if (well) {
    const fs::path clip = out / "clip.mp4";
    media::check_film_output({clip, FileKind::Film});
    TemporaryFile copy({clip, FileKind::Film});
    fs::copy_file(window.session().films.file(), copy.path(), fs::copy_options::overwrite_existing);
    copy.put_in_place();
    fmt::print("{}\n", clip.string());
  }
  QApplication::exit(well ? 0 : 1);
}

}  // namespace askcount::app
