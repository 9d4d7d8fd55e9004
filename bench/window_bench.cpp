// What an edit costs the window, worked out and painted, at 1280 × 800 without a graphics card:
//   QT_QPA_PLATFORM=offscreen window_bench TAKE [PICTURES]
// Prints for every stage the middle and the worst of thirty edits, and of thirty frames scrubbed. With a
// folder, a picture of each stage is left in it.
#include <fmt/format.h>

#include <algorithm>
#include <QApplication>
#include <QElapsedTimer>

#include "app/shell/window.h"
#include "app/style/style.h"

namespace {

using namespace askcount;

void settle(int ms) {
  QElapsedTimer clock;
  clock.start();
  while (clock.elapsed() < ms) QApplication::processEvents(QEventLoop::AllEvents, 5);
}

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
  QApplication::setApplicationName("ask-count-bench");
  QApplication::setStyle("Fusion");
  app::load_fonts();
  QApplication::setFont(app::word_font(10));
  app::Window window;
  if (!window.open(argv[1])) return 1;
  window.resize(1280, 800);
  window.show();
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
  return 0;
}
