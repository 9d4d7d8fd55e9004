// SPDX-License-Identifier: GPL-3.0-or-later
// The window in other languages: every text there, numbers and dates in and out, and a language that is
// added.
#include "app/session/languages.h"

#include <QAbstractButton>
#include <QAction>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QProcess>
#include <QRegularExpression>
#include <QTest>
#include <QTranslator>

#include "app/session/keeping.h"
#include "app/shell/window.h"
#include "app/style/text.h"
#include "events.h"
#include "support.h"
#include "typing.h"

namespace askcount::app {
namespace {

using plan::Slot;

/// A text of the catalogue: as the source has it, and its plural where it is counted.
struct Text {
  QString one, many;
};

/// The texts of translations/ask-count.pot.
std::vector<Text> catalogue() {
  QFile file(ASKCOUNT_TRANSLATIONS "/ask-count.pot");
  EXPECT_TRUE(file.open(QIODevice::ReadOnly));
  std::vector<Text> texts;
  QString* into = nullptr;
  static const QRegularExpression quoted("\"(.*)\"$");
  for (const QString& line : QString::fromUtf8(file.readAll()).split('\n')) {
    if (line.startsWith("msgid ")) {
      texts.push_back({});
      into = &texts.back().one;
    } else if (line.startsWith("msgid_plural ")) {
      into = &texts.back().many;
    } else if (line.startsWith("msgstr") || line.isEmpty()) {
      into = nullptr;
    }
    if (into) *into += quoted.match(line).captured(1).replace("\\\"", "\"").replace("\\n", "\n");
  }
  std::erase_if(texts, [](const Text& t) { return t.one.isEmpty(); });  // the heading
  return texts;
}

/// The places of a text, in order of their names: {} and %1.
QStringList places(QString text) {
  static const QRegularExpression place("\\{\\d?\\}|%\\d+");
  QStringList list;
  for (auto it = place.globalMatch(text); it.hasNext();)
    list << it.next().captured().replace(QRegularExpression("\\d(?=\\})"), "");
  list.sort();
  return list;
}

class InLanguage : public ::testing::TestWithParam<const char*> {
 protected:
  void SetUp() override { ASSERT_EQ(speak_language(GetParam()), QString(GetParam())); }
  void TearDown() override { speak_language("en"); }
};

TEST_P(InLanguage, EveryTextOfTheSourceIsThere) {
  QTranslator words;
  ASSERT_TRUE(words.load(QString(":/translations/%1.qm").arg(GetParam())));
  const auto texts = catalogue();
  ASSERT_GT(texts.size(), 2500u);
  for (const Text& t : texts)
    for (const int n : t.many.isEmpty() ? std::vector{-1} : std::vector{1, 5}) {
      const QString translated = words.translate("", t.one.toUtf8(), nullptr, n);
      ASSERT_FALSE(translated.isEmpty()) << t.one.toStdString();
      EXPECT_EQ(places(translated), places(t.one)) << t.one.toStdString();
      EXPECT_EQ(translated.back().isSpace(), t.one.back().isSpace()) << t.one.toStdString();
    }
}

/// Whatever a label, a button, a menu's entry or a screen reader says is none of the English texts.
TEST_P(InLanguage, NothingInTheWindowIsLeftInEnglish) {
  std::set<QString> english;
  for (const Text& t : catalogue())
    if (!t.one.contains('{') && !t.one.contains('%') && !t.one.contains('|') &&
        say_q(t.one.toUtf8()) != t.one)
      english.insert(t.one.trimmed());
  test::Folder folder;
  take::Take take = test::small_take(30);
  take.wish(Slot::ScreenCrossing, 4);
  save_take(take, folder / "a.askcount");
  Window window;
  ASSERT_TRUE(window.open(folder / "a.askcount"));
  window.resize(1280, 800);
  window.show();
  int seen = 0;
  const auto look = [&](const QString& text, const QObject* of) {
    ++seen;
    EXPECT_FALSE(english.contains(text.trimmed()))
        << text.toStdString() << " of " << of->metaObject()->className() << " "
        << of->objectName().toStdString();
  };
  for (int stage = 0; stage < window.stage_count(); ++stage) {
    window.go_to(stage);
    run_events();
    for (const QWidget* w : window.findChildren<QWidget*>()) {
      look(w->accessibleName(), w);
      look(w->toolTip(), w);
      if (const auto* label = qobject_cast<const QLabel*>(w)) look(label->text(), w);
      if (const auto* button = qobject_cast<const QAbstractButton*>(w)) look(button->text(), w);
      if (const auto* slot = qobject_cast<const SlotField*>(w)) look(slot->text(), w);
      if (const auto* line = qobject_cast<const QLineEdit*>(w)) look(line->placeholderText(), w);
    }
  }
  for (const QAction* a : window.findChildren<QAction*>()) look(a->text(), a);
  EXPECT_GT(seen, 400);
}

TEST_P(InLanguage, ButtonsAreWideEnoughForTheirWords) {
  test::Folder folder;
  save_take(test::small_take(30), folder / "a.askcount");
  Window window;
  ASSERT_TRUE(window.open(folder / "a.askcount"));
  window.resize(1280, 800);
  window.show();
  for (int stage = 0; stage < window.stage_count(); ++stage) {
    window.go_to(stage);
    run_events();
    for (const QAbstractButton* b : window.findChildren<QAbstractButton*>())
      if (b->isVisible() && !b->text().isEmpty()) {
        EXPECT_GE(b->width(), b->fontMetrics().horizontalAdvance(b->text()))
            << b->text().toStdString() << " on stage " << stage + 1;
      }
    for (const QWidget* w : window.stage(stage).findChildren<QWidget*>())
      if (w->isVisible() && w->parentWidget() && qobject_cast<const SlotField*>(w)) {
        EXPECT_LE(w->geometry().right(), w->parentWidget()->width()) << w->objectName().toStdString();
      }
  }
}

INSTANTIATE_TEST_SUITE_P(Languages, InLanguage, ::testing::Values("de", "fr"));

TEST(Languages, TheCatalogueIsWhatTheSourceSays) {
  QProcess refresh;
  refresh.start(ASKCOUNT_TRANSLATIONS "/refresh.sh", {"--check"});
  ASSERT_TRUE(refresh.waitForFinished(120000));
  EXPECT_EQ(refresh.exitCode(), 0) << refresh.readAllStandardError().toStdString();
}

class German : public ::testing::Test {
 protected:
  void SetUp() override {
    speak_language("de");
    take::Take take = test::small_take(30);
    take.wish(Slot::ScreenCrossing, 4);
    save_take(take, folder_ / "a.askcount");
    window_ = std::make_unique<Window>();
    ASSERT_TRUE(window_->open(folder_ / "a.askcount"));
    window_->show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(window_.get()));
  }
  void TearDown() override {
    window_.reset();
    speak_language("en");
  }
  const take::Take& take() { return window_->session().document.take(); }
  SlotField* slot(const QString& name) { return window_->findChild<SlotField*>(name); }
  test::Folder folder_;
  std::unique_ptr<Window> window_;
};

TEST_F(German, NumbersLengthsAndDatesGoInAndOut) {
  SlotField* interval = slot("das Intervall");
  type_into(interval, "2,5 Sekunden");
  EXPECT_DOUBLE_EQ(take().sums().interval_s, 2.5);
  EXPECT_EQ(interval->text(), "2,5 s");
  SlotField* frames = slot("die Anzahl der Bilder");
  type_into(frames, "1.200 Bilder");
  EXPECT_EQ(take().sums().frames, 1200);
  EXPECT_EQ(frames->text(), "1.200 Bilder");
  type_into(slot("die Spur"), "ein halber Schritt");
  EXPECT_DOUBLE_EQ(take().sums().trail, 0.5);
  SlotField* first = window_->stage(0).findChild<SlotField*>("erste Auslösung");
  type_into(first, "24.12.2026, 17:05");
  EXPECT_EQ(format_iso(take().start, "UTC").substr(0, 16), "2026-12-24T17:05");
  EXPECT_EQ(first->text(), "24.12.2026, 17:05");
  type_into(first, "2026-12-25 08:00");
  EXPECT_EQ(first->text(), "25.12.2026, 08:00") << "the exact way is understood in every language";
  type_into(first, "31.2.2026");
  EXPECT_EQ(first->text(), "25.12.2026, 08:00") << "no such day: it stays as it was";
}

/// What is saved is the same take for the command, which speaks English.
TEST_F(German, TheTakeOnTheDiskHasNoLanguage) {
  type_into(slot("das Intervall"), "2,5 Sekunden");
  window_->session().document.save();
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return take::load_take(folder_ / "a.askcount").sums().interval_s == 2.5; }, 5000));
  const std::string text = read_file(folder_ / "a.askcount");
  for (const char* word : {"Bilder", "Schritt", "2,5", "Belichtung"})
    EXPECT_EQ(text.find(word), std::string::npos) << word;
}

TEST(Languages, AreAddedWithoutCode) {
  const test::fs::path folder = data_folder() / "translations";
  test::fs::create_directories(folder);
  ASSERT_FALSE(languages().contains("nl"));
  ASSERT_TRUE(QFile::copy(":/translations/de.qm", to_q((folder / "nl.qm").string())));
  EXPECT_TRUE(languages().contains("nl"));
  EXPECT_EQ(languages().front(), "en");
  EXPECT_EQ(speak_language("nl"), "nl");
  EXPECT_EQ(say_q("Rig"), "Aufbau");
  speak_language("en");
  EXPECT_EQ(say_q("Rig"), "Rig");
  test::fs::remove_all(folder);
}

TEST(Languages, AChoiceIsKeptAndADamagedOneIsNone) {
  EXPECT_EQ(chosen_language(), "");
  choose_language("fr");
  EXPECT_EQ(chosen_language(), "fr");
  choose_language("");
  EXPECT_EQ(chosen_language(), "");
  test::write(data_folder() / "settings.json", "{\"language\": [1");
  EXPECT_EQ(chosen_language(), "");
  test::write(data_folder() / "settings.json", "{\"language\": 7}");
  EXPECT_EQ(chosen_language(), "");
  test::fs::remove(data_folder() / "settings.json");
  EXPECT_EQ(speak_language("kl"), "kl") << "nobody translated it: English words";
  EXPECT_EQ(say_q("Rig"), "Rig");
  speak_language("en");
}

}  // namespace
}  // namespace askcount::app
