// The desk: one place for changes, saving and long work.
#include "app/shell/desk.h"

#include <QSignalSpy>
#include <QTest>

#include "app/shell/window.h"
#include "support.h"

namespace askcount::app {
namespace {

using plan::Slot;

TEST(Desk, UndoesEveryEditAndNoMore) {
  Desk desk;
  const take::Take first = desk.take();
  QSignalSpy changed(&desk, &Desk::changed);
  for (int i = 1; i <= 5; ++i) desk.edit([i](take::Take& t) { t.wish(Slot::Clip, 10 + i); });
  desk.edit([](take::Take&) {});  // no step
  EXPECT_EQ(changed.count(), 5);
  const take::Take last = desk.take();
  for (int i = 0; i < 5; ++i) desk.undo();
  EXPECT_EQ(desk.take(), first);
  EXPECT_FALSE(desk.can_undo());
  desk.undo();
  EXPECT_EQ(desk.take(), first);
  for (int i = 0; i < 5; ++i) desk.redo();
  EXPECT_EQ(desk.take(), last);
  desk.undo();
  desk.edit([](take::Take& t) { t.name = "Another"; });
  EXPECT_FALSE(desk.can_redo());  // a new edit closes the way forward
}

TEST(Desk, SaysWhenItCannotSave) {
  const test::Folder folder;
  Desk desk;
  desk.save(folder / "a.askcount");
  QSignalSpy trouble(&desk, &Desk::trouble);
  test::fs::create_directory(folder / "a.askcount.part");  // nothing can be written beside it
  desk.edit([](take::Take& t) { t.wish(Slot::Clip, 33); });
  ASSERT_TRUE(QTest::qWaitFor([&] { return trouble.count() > 0; }, 5000));
  EXPECT_NE(trouble[0][0].toString().indexOf("a.askcount"), -1);
  EXPECT_TRUE(desk.saved_words().startsWith("Not saved"));
  EXPECT_NEAR(desk.take().sums().clip_s, 33, 1e-9);  // and nothing is lost
  test::fs::remove(folder / "a.askcount.part");
  desk.save();
  EXPECT_NEAR(take::load_take(folder / "a.askcount").sums().clip_s, 33, 1e-9);
}

TEST(Desk, FindsItsCardAndFilmBesideTheTake) {
  const test::Folder folder;
  take::Take take = test::small_take(8, {48, 32});
  take.card = "card";
  save_take(take, folder / "b.askcount");
  Desk desk;
  desk.open(folder / "b.askcount");
  EXPECT_EQ(desk.card(), folder / "card");
  EXPECT_EQ(desk.film_file(), folder / "b.mp4");
  desk.gather();  // there is no card yet: said, and nothing else happens
  QSignalSpy trouble(&desk, &Desk::trouble);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !desk.job().running(); }, 5000));
  EXPECT_EQ(trouble.count(), 1);
  EXPECT_FALSE(desk.gathered());
}

TEST(Desk, StopsAShootAndKeepsWhatWasShot) {
  const test::Folder folder;
  save_take(test::small_take(4000, {300, 200}), folder / "c.askcount");
  Desk desk;
  desk.open(folder / "c.askcount");
  desk.shoot();
  ASSERT_TRUE(QTest::qWaitFor([&] { return desk.landed() && desk.landed()->done > 20; }, 20000));
  desk.run().stop();
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return !desk.run().active() && !desk.job().running() && desk.gathered(); }, 20000));
  EXPECT_GT(desk.gathered()->frames.size(), 10u);
  EXPECT_LT(desk.gathered()->frames.size(), 4000u);
}

/// Whatever the take: nothing said, long words, a billion frames, a single one.
TEST(Window, StandsOddTakes) {
  const test::Folder folder;
  Window window;
  window.show();
  ASSERT_TRUE(QTest::qWaitForWindowExposed(&window));
  take::Take empty;
  empty.wishes.clear();
  take::Take wordy = test::small_take(300);
  wordy.name = std::string(300, 'w');
  wordy.subject = "the very slow procession of extraordinarily many fishing boats between the moles";
  wordy.place.name = "A place whose name is longer than any ruler has room for";
  take::Take huge = test::small_take(1000000000, {240, 160}, 3600 * 99);
  take::Take still = test::small_take(1);
  int n = 0;
  for (const take::Take& take : {empty, wordy, huge, still}) {
    const auto file = folder / ("odd" + std::to_string(n++) + ".askcount");
    save_take(take, file);
    ASSERT_TRUE(window.open(file));
    for (int i = 0; i < window.stage_count(); ++i) {
      window.go_to(i);
      EXPECT_FALSE(window.grab().isNull());
      QTest::keyClick(&window, Qt::Key_End);
      QTest::keyClick(&window, Qt::Key_Space);
    }
  }
}

}  // namespace
}  // namespace askcount::app
