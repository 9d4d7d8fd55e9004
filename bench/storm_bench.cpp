// SPDX-License-Identifier: GPL-3.0-or-later
// A minute of edits, one every 50 ms, while a film is made beside the window and another plays in it:
//   QT_QPA_PLATFORM=offscreen storm_bench TAKE [SECONDS]
// Prints how many edits were asked for, how many the take took and what its file says then, the longest time
// the window did not come round, and how often that was more than 50 ms.
#include <fmt/format.h>

#include <algorithm>
#include <QTimer>

#include "bench_window.h"

using namespace askcount;

int main(int argc, char** argv) {
  QApplication app(argc, argv);
  if (argc < 2) {
    fmt::print(stderr, "usage: storm_bench TAKE [SECONDS]\n");
    return 2;
  }
  dress();
  app::Window window;
  if (!show_take(window, argv[1])) return 1;
  app::Session& session = window.session();
  while (session.job.running() || session.tests.busy() || session.looking.running()) settle(50);
  window.go_to(6);
  settle(1000);
  while (session.job.running()) settle(50);
  window.stage(6).play();
  const int seconds = argc > 2 ? std::atoi(argv[2]) : 60;
  int asked = 0, taken = 0, films = 0;
  QObject::connect(&session.document, &app::Document::changed, [&] { ++taken; });
  long long rounds = 0, late = 0;  // none is kept: millions of them are a list that takes time to grow
  double longest = 0;
  QElapsedTimer since;
  QTimer edits, round;
  QObject::connect(&edits, &QTimer::timeout, [&] {
    ++asked;
    session.document.edit([&](take::Take& t) { t.name = fmt::format("Edit {}", asked); });
    if (!session.films.making()) session.films.make(), ++films;
  });
  QObject::connect(&round, &QTimer::timeout, [&] {
    if (since.isValid()) {
      const double ms = static_cast<double>(since.nsecsElapsed()) / 1e6;
      ++rounds;
      late += ms > 50 ? 1 : 0;
      longest = std::max(longest, ms);
    }
    since.start();
  });
  round.start(0);
  edits.start(50);
  QTimer::singleShot(seconds * 1000, &app, [&] { app.quit(); });
  app.exec();
  edits.stop();
  round.stop();
  session.document.save();
  session.document.wait_until_saved();
  const std::string last = take::load_take(argv[1]).name;
  fmt::print(
      "{} edits asked for, {} taken, the file says \"{}\"; {} films made; longest round {:.1f} ms, {} of {} "
      "above 50 ms\n",
      asked, taken, last, films, longest, late, rounds);
  return 0;
}
