// SPDX-License-Identifier: GPL-3.0-or-later
// The journal's lines, written beside the window.
#include "app/session/journal_writer.h"

#include <QSignalSpy>
#include <QTest>

#include "base/files.h"
#include "events.h"
#include "journal/journal.h"
#include "support.h"

namespace askcount::app {
namespace {

TEST(JournalWriter, WritesEveryLineInTheirOrder) {
  const test::Folder folder;
  JournalWriter writer;
  writer.open(folder / "a.journal");
  for (int i = 0; i < 300; ++i) writer.append({{"what", "note"}, {"frame", i}});
  writer.wait();
  const auto lines = journal::read_journal(folder / "a.journal");
  ASSERT_EQ(lines.size(), 300u);
  for (int i = 0; i < 300; ++i) EXPECT_EQ(lines[static_cast<size_t>(i)]["frame"], i);
  EXPECT_TRUE(lines.front().contains("at")) << "each says when it was";
}

TEST(JournalWriter, SaysWhatItCannotWriteAndGoesOnOnceItCan) {
  const test::Folder folder;
  const test::fs::path file = folder / "card/a.journal";
  test::write(folder / "card", std::string("a file where a folder ought to be"));
  JournalWriter writer;
  QSignalSpy trouble(&writer, &JournalWriter::trouble);
  writer.open(file);
  writer.append({{"what", "note"}, {"words", "lost"}});
  writer.append({{"what", "note"}, {"words", "lost too"}});
  writer.wait();
  run_events();
  ASSERT_EQ(trouble.count(), 2);
  EXPECT_TRUE(trouble[0][0].toString().contains("a.journal")) << trouble[0][0].toString().toStdString();
  EXPECT_EQ(read_file(folder / "card"), "a file where a folder ought to be");
  // Whoever makes room gets the lines from there on.
  test::fs::remove(folder / "card");
  test::fs::create_directory(folder / "card");
  writer.append({{"what", "note"}, {"words", "kept"}});
  writer.wait();
  const auto lines = journal::read_journal(file);
  ASSERT_EQ(lines.size(), 1u);
  EXPECT_EQ(lines[0]["words"], "kept");
  EXPECT_EQ(trouble.count(), 2);
}

TEST(JournalWriter, LinesGoToTheJournalThatWasOpenWhenTheyWereSaid) {
  const test::Folder folder;
  {
    JournalWriter writer;
    writer.open(folder / "a.journal");
    for (int i = 0; i < 20; ++i) writer.append({{"what", "note"}, {"frame", i}});
    writer.open(folder / "b.journal");
    writer.append({{"what", "note"}, {"frame", 99}});
    // It goes with lines still waiting: they are written first.
  }
  EXPECT_EQ(journal::read_journal(folder / "a.journal").size(), 20u);
  EXPECT_EQ(journal::read_journal(folder / "b.journal").size(), 1u);
}

}  // namespace
}  // namespace askcount::app
