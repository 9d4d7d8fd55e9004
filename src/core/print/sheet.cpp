#include "print/sheet.h"

#include <fmt/format.h>
#include <hpdf.h>

#include <algorithm>
#include <sstream>

#include "base/error.h"
#include "base/files.h"

namespace askcount::print {
namespace {

constexpr float kWide = 595, kHigh = 842, kSide = 48, kTop = 52;
constexpr float kLine = 1.38F;  // of the type's size

void on_error(HPDF_STATUS code, HPDF_STATUS detail, void*) {
  throw failed(fmt::format("The sheet cannot be made (PDF error {:#x}, {}).", code, detail));
}

}  // namespace

struct Sheet::Page {
  HPDF_Doc doc = nullptr;
  HPDF_Page page = nullptr;
  HPDF_Font plain = nullptr, bold = nullptr;
  float y = kHigh - kTop;
  bool full = false;

  ~Page() {
    if (doc) HPDF_Free(doc);
  }
  void text(float x, const std::string& words, float points, HPDF_Font font) {
    HPDF_Page_BeginText(page);
    HPDF_Page_SetFontAndSize(page, font, points);
    HPDF_Page_TextOut(page, x, y, words.c_str());
    HPDF_Page_EndText(page);
  }
  float wide(const std::string& words, float points, HPDF_Font font) {
    HPDF_Page_SetFontAndSize(page, font, points);
    return HPDF_Page_TextWidth(page, words.c_str());
  }
  /// Goes down a line; false where the page is full.
  bool down(float by) {
    if (y - by < kSide) full = true;
    if (!full) y -= by;
    return !full;
  }
  std::vector<std::string> lines(const std::string& text, float points, float room) {
    std::vector<std::string> list(1);
    std::istringstream in(text);
    for (std::string word; in >> word;) {
      const std::string longer = list.back().empty() ? word : list.back() + " " + word;
      if (!list.back().empty() && wide(longer, points, plain) > room)
        list.push_back(word);
      else
        list.back() = longer;
    }
    return list;
  }
};

Sheet::Sheet(const std::string& title) : page_(std::make_unique<Page>()) {
  Page& p = *page_;
  p.doc = HPDF_New(on_error, nullptr);
  if (!p.doc) throw failed("The sheet cannot be made: no memory.");
  HPDF_SetCompressionMode(p.doc, HPDF_COMP_ALL);
  HPDF_UseUTFEncodings(p.doc);
  HPDF_SetCurrentEncoder(p.doc, "UTF-8");
  const auto font = [&](const char* file) {
    const std::string path = std::string(ASKCOUNT_FONTS) + "/" + file;
    return HPDF_GetFont(p.doc, HPDF_LoadTTFontFromFile(p.doc, path.c_str(), HPDF_TRUE), "UTF-8");
  };
  p.plain = font("Manrope-Medium.ttf");
  p.bold = font("Manrope-Bold.ttf");
  p.page = HPDF_AddPage(p.doc);
  HPDF_Page_SetSize(p.page, HPDF_PAGE_SIZE_A4, HPDF_PAGE_PORTRAIT);
  HPDF_SetInfoAttr(p.doc, HPDF_INFO_TITLE, title.c_str());
  HPDF_SetInfoAttr(p.doc, HPDF_INFO_CREATOR, "Ask Count");
  float points = 21;
  while (points > 11 && p.wide(title, points, p.bold) > kWide - 2 * kSide) points -= 1;
  p.text(kSide, title, points, p.bold);
  p.down(12);
}

Sheet::~Sheet() = default;

void Sheet::heading(const std::string& words) {
  if (page_->down(30)) page_->text(kSide, words, 13.5F, page_->bold);
}

void Sheet::words(const std::string& text, double points) {
  const auto size = static_cast<float>(points);
  for (const std::string& line : page_->lines(text, size, kWide - 2 * kSide))
    if (page_->down(size * kLine)) page_->text(kSide, line, size, page_->plain);
}

void Sheet::row(const std::vector<std::pair<double, std::string>>& cells, double points, bool bold) {
  const auto size = static_cast<float>(points);
  if (!page_->down(size * kLine * 1.12F)) return;
  const float top = page_->y, wide = kWide - 2 * kSide;
  float lowest = top;
  for (size_t i = 0; i < cells.size(); ++i) {
    const float x = kSide + static_cast<float>(cells[i].first) * wide;
    const float end =
        i + 1 < cells.size() ? kSide + static_cast<float>(cells[i + 1].first) * wide - 6 : kWide - kSide;
    page_->y = top;
    bool first = true;
    for (const std::string& line : page_->lines(cells[i].second, size, end - x)) {
      if (!first && !page_->down(size * kLine)) break;
      page_->text(x, line, size, bold ? page_->bold : page_->plain);
      first = false;
    }
    lowest = std::min(lowest, page_->y);
  }
  page_->y = lowest;
}

void Sheet::tick(const std::string& text, double points) {
  const auto size = static_cast<float>(points);
  bool first = true;
  for (const std::string& line : page_->lines(text, size, kWide - 2 * kSide - 22)) {
    if (!page_->down(size * (first ? 1.6F : 1.3F))) return;
    if (first) {
      HPDF_Page_SetLineWidth(page_->page, 1.1F);
      HPDF_Page_Rectangle(page_->page, kSide + 1, page_->y - 1.5F, size * 0.85F, size * 0.85F);
      HPDF_Page_Stroke(page_->page);
    }
    page_->text(kSide + 22, line, size, page_->plain);
    first = false;
  }
}

void Sheet::rule() {
  if (!page_->down(8)) return;
  HPDF_Page_SetLineWidth(page_->page, 0.8F);
  HPDF_Page_MoveTo(page_->page, kSide, page_->y);
  HPDF_Page_LineTo(page_->page, kWide - kSide, page_->y);
  HPDF_Page_Stroke(page_->page);
}

void Sheet::space(double points) {
  page_->down(static_cast<float>(points));
}
double Sheet::left() const {
  return static_cast<double>(page_->y - kSide);
}

void Sheet::save(const std::filesystem::path& file) const {
  HPDF_SaveToStream(page_->doc);
  HPDF_ResetStream(page_->doc);
  HPDF_UINT32 size = HPDF_GetStreamSize(page_->doc);
  std::string bytes(size, '\0');
  HPDF_ReadFromStream(page_->doc, reinterpret_cast<HPDF_BYTE*>(bytes.data()), &size);
  bytes.resize(size);
  write_file_atomically(file, bytes);
}

}  // namespace askcount::print
