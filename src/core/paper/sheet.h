// SPDX-License-Identifier: GPL-3.0-or-later
// A sheet of paper to take along: words and boxes on A4 pages, written as PDF.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "base/output.h"

namespace askcount::paper {

/// Pages of 595 × 842 points, filled from the top; what does not fit any more goes onto the next. Large,
/// plain type on white that a dim red lamp can light: words are black, nothing depends on colour. The type
/// that ships with Ask Count is embedded; what it has no letters for (any script) is set in whatever the
/// system has.
class Sheet {
 public:
  /// `title` stands at the top and in the document's properties. Throws Failed where there is no memory.
  explicit Sheet(const std::string& title);
  ~Sheet();
  Sheet(const Sheet&) = delete;
  Sheet& operator=(const Sheet&) = delete;

  void heading(const std::string& words);
  /// Words, broken into lines where they are too long. Points is their size.
  void words(const std::string& text, double points = 11);
  /// A row of cells, each starting at a share (0 to 1) of the width; those of `bold` in bold.
  void row(const std::vector<std::pair<double, std::string>>& cells, double points = 11, bool bold = false);
  /// A box to tick, then words.
  void tick(const std::string& text, double points = 11);
  void rule();
  void space(double points);
  /// Points left above the lower margin of this page.
  double left() const;
  /// Goes on at the top of another page.
  void next_page();

  /// Writes it whole or not at all. Nothing can be added afterwards. Throws Failed naming the file.
  void save(const std::filesystem::path& file, const Guard& guard = {});

 private:
  struct Page;
  std::unique_ptr<Page> page_;
};

}  // namespace askcount::paper
