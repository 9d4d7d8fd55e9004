// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/csv.h"

namespace askcount {
namespace {

/// Goes through a text once, row by row.
class Reading {
 public:
  Reading(std::string_view text, std::string_view separators) : text_(text), separators_(separators) {}

  std::vector<CsvRow> rows() {
    while (at_ < text_.size()) {
      CsvRow row{line_, {}, {}};
      const size_t from = at_;
      do row.cells.push_back(cell());
      while (at_ < text_.size() && separators_.find(text_[at_]) != std::string_view::npos && ++at_);
      row.text = text_.substr(from, at_ - from);
      if (row.text.ends_with('\r')) row.text.pop_back();
      ++at_, ++line_;  // the end of the line
      if (!row.text.empty()) rows_.push_back(std::move(row));
    }
    return std::move(rows_);
  }

 private:
  /// The cell that begins here; stops at what follows it: a separator, or the end of the line.
  std::string cell() {
    std::string cell;
    bool inside = false;
    for (; at_ < text_.size(); ++at_) {
      const char c = text_[at_];
      const bool quote = c == '"';
      if (inside && quote && text_.substr(at_ + 1).starts_with('"')) {
        cell += text_[++at_];
      } else if (quote && (inside || cell.empty())) {
        inside = !inside;
      } else if (!inside && (c == '\n' || separators_.find(c) != std::string_view::npos)) {
        break;
      } else if (inside || c != '\r') {
        line_ += c == '\n' ? 1 : 0;
        cell += c;
      }
    }
    return cell;
  }

  std::string_view text_, separators_;
  size_t at_ = 0, line_ = 1;
  std::vector<CsvRow> rows_;
};

}  // namespace

std::vector<CsvRow> read_csv(std::string_view text, std::string_view separators) {
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  return Reading(text, separators).rows();
}

std::string csv_row(const std::vector<std::string>& cells, std::string_view end) {
  std::string row;
  for (const std::string& cell : cells) {
    if (&cell != &cells.front()) row += ',';
    if (cell.find_first_of(",\"\r\n") == std::string::npos) {
      row += cell;
      continue;
    }
    row += '"';
    for (const char c : cell) row += c == '"' ? std::string("\"\"") : std::string(1, c);
    row += '"';
  }
  return row.append(end);
}

}  // namespace askcount
