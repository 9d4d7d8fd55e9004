// SPDX-License-Identifier: GPL-3.0-or-later
// The document: one place for changes, undo and saving.
#include "app/session/document.h"

#include <QSignalSpy>
#include <QTest>

#include "app/session/keeping.h"
#include "events.h"
#include "support.h"

namespace askcount::app {
namespace {

using plan::Slot;

TEST(Document, UndoesEveryEditAndNoMore) {
  Document document;
  const take::Take first = document.take();
  QSignalSpy changed(&document, &Document::changed);
  for (int i = 1; i <= 5; ++i) document.edit([i](take::Take& t) { t.wish(Slot::Clip, 10 + i); });
  document.edit([](take::Take&) {});  // no step
  EXPECT_EQ(changed.count(), 5);
  const take::Take last = document.take();
  for (int i = 0; i < 5; ++i) document.undo();
  EXPECT_EQ(document.take(), first);
  EXPECT_FALSE(document.can_undo());
  document.undo();
  EXPECT_EQ(document.take(), first);
  for (int i = 0; i < 5; ++i) document.redo();
  EXPECT_EQ(document.take(), last);
  document.undo();
  document.edit([](take::Take& t) { t.name = "Another"; });
  EXPECT_FALSE(document.can_redo());  // a new edit closes the way forward
}

TEST(Document, ADragIsOneStep) {
  Document document;
  document.put_down(take::demo_take(), {});
  const take::Take first = document.take();
  for (int i = 1; i <= 9; ++i) document.edit([i](take::Take& t) { t.wish(Slot::Interval, 10 + i); }, "ruler");
  document.end_drag();
  document.edit([](take::Take& t) { t.wish(Slot::Interval, 40); }, "ruler");
  document.undo();
  EXPECT_DOUBLE_EQ(document.sums()->interval_s, 19);
  document.undo();
  EXPECT_EQ(document.take(), first);
}

TEST(Document, SaysWhenItCannotSave) {
  const test::Folder folder;
  Document document;
  document.put_down(take::demo_take(), {});
  document.save(folder / "a.askcount");
  document.wait_until_saved();
  EXPECT_EQ(document.file(), folder / "a.askcount");
  QSignalSpy trouble(&document, &Document::trouble);
  test::fs::permissions(folder / "a.askcount", test::fs::perms::owner_read);  // somebody locked it
  document.edit([](take::Take& t) { t.wish(Slot::Clip, 33); });
  ASSERT_TRUE(QTest::qWaitFor([&] { return trouble.count() > 0; }, 5000));
  EXPECT_NE(trouble[0][0].toString().indexOf("a.askcount"), -1);
  EXPECT_TRUE(document.saved_words().startsWith("Not saved"));
  EXPECT_NEAR(document.take().sums().clip_s, 33, 1e-9);  // and nothing is lost
  test::fs::permissions(folder / "a.askcount", test::fs::perms::owner_all);
  document.save();
  document.wait_until_saved();
  EXPECT_NEAR(take::load_take(folder / "a.askcount").sums().clip_s, 33, 1e-9);
}

TEST(Document, ANewNameHoldsOnlyOnceItIsWritten) {
  const test::Folder folder;
  Document document;
  document.save(folder / "a.askcount");
  document.wait_until_saved();
  document.save(folder / "absent/b.askcount");
  document.wait_until_saved();
  EXPECT_EQ(document.file(), folder / "a.askcount");
  EXPECT_EQ(document.saved_words(), "Not saved");
}

TEST(Document, WritesTheTakeThatIsPutAway) {
  const test::Folder folder;
  take::Take other = test::small_take(7);
  {
    Document document;
    document.put_down(test::small_take(5), {folder / "five.askcount", {}, {}});
    document.edit([](take::Take& t) { t.name = "changed and put away"; });
    const auto generation = document.generation();
    document.put_down(other, {folder / "seven.askcount", {}, {}});
    EXPECT_GT(document.generation(), generation);
    document.wait_until_saved();
    EXPECT_EQ(take::load_take(folder / "five.askcount").name, "changed and put away");
    EXPECT_EQ(document.saved_words(), "")
        << "what is told of a take that is put away is not told of this one";
    document.edit([](take::Take& t) { t.name = "changed and closed"; });
  }
  EXPECT_EQ(take::load_take(folder / "seven.askcount").name, "changed and closed");
}

TEST(Saver, WritesTheNewestOfWhatWaits) {
  const test::Folder folder;
  Saver saver;
  int told = 0;
  for (int i = 0; i < 40; ++i) {
    take::Take take = test::small_take(5);
    take.name = std::to_string(i);
    saver.save(take, folder / "a.askcount", {}, false, [&](const Saved& s) { told += s.trouble.isEmpty(); });
  }
  saver.wait();
  EXPECT_EQ(take::load_take(folder / "a.askcount").name, "39");
  run_events();
  EXPECT_GE(told, 1);
  EXPECT_LE(told, 40);
}

}  // namespace
}  // namespace askcount::app
