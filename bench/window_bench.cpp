// SPDX-License-Identifier: GPL-3.0-or-later
// What an edit costs the window, worked out and painted, at 1280 × 800 without a graphics card:
//   QT_QPA_PLATFORM=offscreen window_bench TAKE [PICTURES]
// Prints for every stage the middle and the worst of thirty edits, and of thirty frames scrubbed. With a
// folder, a picture of each stage is left in it.
#include <fmt/format.h>

#include <algorithm>

#include "app/stages/ask/whole_film.h"
#include "app/widgets/word_tabs.h"
#include "bench_window.h"

namespace {

using namespace askcount;

/// Milliseconds until everything that follows from `change` stands on the screen.
double cost(const std::function<void()>& change) {
  settle(25);
  QElapsedTimer clock;
  clock.start();
  change();
  QApplication::sendPostedEvents();
  QApplication::processEvents(QEventLoop::ExcludeUserInputEvents);
  return static_cast<double>(clock.nsecsElapsed()) / 1e6;
}

std::string middle_and_worst(std::vector<double> ms) {
  std::sort(ms.begin(), ms.end());
  return fmt::format("{:5.1f} ms, at worst {:5.1f}", ms[ms.size() / 2], ms.back());
}

}  // namespace

int main(int argc, char** argv) {
  QApplication app(argc, argv);
  if (argc < 2) {
    fmt::print(stderr, "usage: window_bench TAKE [PICTURES]\n");
    return 2;
  }
  dress();
  app::Window window;
  if (!show_take(window, argv[1])) return 1;
  const auto working = [&] { return window.session().job.running() || window.session().tests.busy(); };
  while (working()) settle(20);
  for (int i = 0; i < window.stage_count(); ++i) {
    window.go_to(i);
    settle(300);
    while (working()) settle(20);
    settle(300);
    std::vector<double> edits, scrubs;
    for (int k = 0; k < 30; ++k) {
      edits.push_back(cost([&] {
        window.session().document.edit([k](take::Take& t) { t.wish(plan::Slot::Clip, 10 + 0.04 * (k % 2)); });
      }));
      scrubs.push_back(cost([&] { window.session().playhead.set(20 + k); }));
    }
    fmt::print("{:7} edit {}   scrub {}\n", window.stage_name(i).toStdString(), middle_and_worst(edits),
               middle_and_worst(scrubs));
    if (argc > 2) window.grab().save(QString("%1/%2.png").arg(argv[2], window.stage_name(i).toLower()));
  }
  // The film before the shoot: until it can play, and how many frames a second then really appear.
  window.go_to(0);
  for (auto* tabs : window.findChildren<app::WordTabs*>())
    if (tabs->isVisible()) tabs->choose(1);
  auto* film = window.findChild<app::WholeFilm*>();
  QElapsedTimer clock;
  clock.start();
  while (film->now().ready_from(0) < 10) settle(1);
  const auto ready_ms = clock.elapsed();
  film->toggle();
  clock.restart();
  settle(8000);
  const double seconds = static_cast<double>(clock.elapsed()) / 1000;
  fmt::print("film    ready in {} ms, {:.2f} of {:.2f} frames a second shown over {:.0f} s\n", ready_ms,
             static_cast<double>(film->shown()) / seconds, film->now().about()->fps.value(), seconds);
  return 0;
}
