// SPDX-License-Identifier: GPL-3.0-or-later
// ask-count: the window.

#include <fmt/format.h>

#include <QApplication>
#include <QCommandLineParser>
#include <QTimer>

#include "app/session/contrast.h"
#include "app/session/languages.h"
#include "app/shell/walk.h"
#include "app/shell/window.h"
#include "app/style/style.h"
#include "base/process.h"
#include "link/end_when_told.h"

int main(int argc, char** argv) {
  using namespace askcount::app;
  askcount::prepare_process();
  QApplication app(argc, argv);
  QApplication::setApplicationName("Ask Count");
  QApplication::setApplicationVersion(ASKCOUNT_VERSION);
  QApplication::setStyle("Fusion");
  load_fonts();
  QApplication::setFont(word_font(10));
  QCommandLineParser parser;
  parser.setApplicationDescription("Plan, shoot, level and cut a time-lapse take.");
  parser.addHelpOption();
  parser.addVersionOption();
  parser.addPositionalArgument("take", "A take (.askcount), or a card or a folder of frames");
  const QCommandLineOption walk("walk",
                                "Walk through the stages without a person, write a picture of each and the "
                                "clip into <folder>, and end.",
                                "folder");
  parser.addOption(walk);
  const QCommandLineOption language(
      "language", "The language of the window, like \"de\"; else the one chosen in its menu.", "code");
  parser.addOption(language);
  parser.process(app);
  speak_language(parser.isSet(language) ? parser.value(language) : chosen_language());
  set_high_contrast(wants_contrast());
  askcount::link::end_when_told(app);  // what is not saved yet is, before it goes
  Window window;
  if (!parser.positionalArguments().isEmpty()) {
    const std::string what = parser.positionalArguments().front().toStdString();
    if (!window.open_any(what) && parser.isSet(walk)) {
      askcount::complain(fmt::format("ask-count: {} cannot be opened.\n", what));
      return 2;
    }
  }
  if (parser.positionalArguments().isEmpty()) window.take_up_last();
  window.show();
  if (parser.isSet(walk))
    QTimer::singleShot(0, &window, [&] { walk_through(window, parser.value(walk).toStdString()); });
  return QApplication::exec();
}
