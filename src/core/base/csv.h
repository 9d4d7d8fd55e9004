// SPDX-License-Identifier: GPL-3.0-or-later
// Tables as text: cells between commas, one row a line (RFC 4180).
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace askcount {

/// A row that was read.
struct CsvRow {
  size_t line = 1;   ///< of the text, from 1: where the row begins
  std::string text;  ///< as it stands there, without its end
  std::vector<std::string> cells;
};

/// The rows of a text. Cells within quotes may hold separators, ends of lines and doubled quotes; a byte
/// order mark and empty lines are passed over, lines may end in \r\n. `separators` are the characters that
/// part cells. Never fails: a quote that does not end goes to the end of the text.
std::vector<CsvRow> read_csv(std::string_view text, std::string_view separators = ",");

/// A row to be written, with `end` behind it; cells that hold commas, quotes or ends of lines are quoted.
std::string csv_row(const std::vector<std::string>& cells, std::string_view end = "\n");

}  // namespace askcount
