// SPDX-License-Identifier: GPL-3.0-or-later
// Tables as text: RFC 4180 and what programs really write.
#include "base/csv.h"

#include <gtest/gtest.h>

#include "dice.h"

namespace askcount {
namespace {

using Cells = std::vector<std::string>;

TEST(Csv, ReadsWhatProgramsWrite) {
  const auto rows = read_csv(
      "\xEF\xBB\xBFname,note\r\n"
      "\r\n"
      "\"Quay, west\",\"He said \"\"now\"\"\"\r\n"
      "\"two\nlines\",\n"
      "last,one");
  ASSERT_EQ(rows.size(), 4u);
  EXPECT_EQ(rows[0].cells, (Cells{"name", "note"}));
  EXPECT_EQ(rows[1].cells, (Cells{"Quay, west", "He said \"now\""}));
  EXPECT_EQ(rows[1].text, "\"Quay, west\",\"He said \"\"now\"\"\"");
  EXPECT_EQ(rows[2].cells, (Cells{"two\nlines", ""}));
  EXPECT_EQ(rows[3].cells, (Cells{"last", "one"}));
  // An empty line counts, and so do those within a cell.
  EXPECT_EQ(rows[1].line, 3u);
  EXPECT_EQ(rows[2].line, 4u);
  EXPECT_EQ(rows[3].line, 6u);
}

TEST(Csv, PartsCellsWhereItIsTold) {
  EXPECT_EQ(read_csv("18:14;12,3", ";")[0].cells, (Cells{"18:14", "12,3"}));
  EXPECT_EQ(read_csv("18:14;12", ",;")[0].cells, (Cells{"18:14", "12"}));
  EXPECT_EQ(read_csv("a;b")[0].cells, (Cells{"a;b"}));
  EXPECT_TRUE(read_csv("").empty());
  EXPECT_TRUE(read_csv("\n\r\n\n").empty());
  EXPECT_EQ(read_csv(",")[0].cells, (Cells{"", ""}));
  EXPECT_EQ(read_csv("\"never ends,\nat all")[0].cells, (Cells{"never ends,\nat all"}));
}

TEST(Csv, ReadsBackWhateverWasWritten) {
  test::Dice dice(20);
  for (int n = 0; n < 500; ++n) {
    std::vector<Cells> table(1 + static_cast<size_t>(dice.between(0, 4)));
    std::string text;
    for (Cells& row : table) {
      row.resize(1 + static_cast<size_t>(dice.between(0, 4)));
      for (std::string& cell : row)
        for (int k = static_cast<int>(dice.between(0, 6)); k > 0; --k)
          cell += dice.one_of<std::string>({"a", ",", "\"", "\n", "\r\n", " ", ";", "é"});
      if (row.size() == 1 && row[0].empty()) row[0] = "x";  // an empty line is passed over
      text += csv_row(row, dice.chance(0.5) ? "\n" : "\r\n");
    }
    const auto rows = read_csv(text);
    ASSERT_EQ(rows.size(), table.size()) << text;
    for (size_t k = 0; k < table.size(); ++k) EXPECT_EQ(rows[k].cells, table[k]) << text;
  }
}

}  // namespace
}  // namespace askcount
