// SPDX-License-Identifier: GPL-3.0-or-later
#include "paper/sheet.h"

#include <cairo-pdf.h>
#include <fmt/format.h>
#include <pango/pangocairo.h>

#include <algorithm>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "image/cairo_png.h"
#include "image/fonts.h"

namespace askcount::paper {
namespace {

constexpr double kWide = 595, kHigh = 842, kSide = 48, kTop = 52;
constexpr double kLine = 1.38;  // of the type's size
constexpr double kRoom = kWide - 2 * kSide;
constexpr double kPoint_dpi = 72;

struct Unref {
  void operator()(void* object) const { g_object_unref(object); }
};
using Layout = std::unique_ptr<PangoLayout, Unref>;

}  // namespace

struct Sheet::Page {
  std::string bytes;  // the PDF so far
  cairo_surface_t* surface = nullptr;
  cairo_t* cairo = nullptr;
  double y = kTop;  // base line of the last line, from the top
  bool finished = false;

  Page() {
    surface = cairo_pdf_surface_create_for_stream(
        [](void* closure, const unsigned char* data, unsigned int length) {
          static_cast<std::string*>(closure)->append(reinterpret_cast<const char*>(data), length);
          return CAIRO_STATUS_SUCCESS;
        },
        &bytes, kWide, kHigh);
    cairo = cairo_create(surface);
    if (cairo_status(cairo) != CAIRO_STATUS_SUCCESS)
      throw failed(say("The sheet cannot be made: {}.", cairo_status_to_string(cairo_status(cairo))));
  }
  ~Page() {
    cairo_destroy(cairo);
    cairo_surface_destroy(surface);
  }
  Page(const Page&) = delete;

  Layout layout(const std::string& text, double points, bool bold, double room) const {
    Layout layout(pango_cairo_create_layout(cairo));
    pango_cairo_context_set_resolution(pango_layout_get_context(layout.get()), kPoint_dpi);
    pango_layout_context_changed(layout.get());
    PangoFontDescription* font = pango_font_description_from_string(bold ? "Manrope Bold" : "Manrope Medium");
    pango_font_description_set_absolute_size(font, points * PANGO_SCALE);
    pango_layout_set_font_description(layout.get(), font);
    pango_font_description_free(font);
    pango_layout_set_text(layout.get(), text.c_str(), static_cast<int>(text.size()));
    pango_layout_set_wrap(layout.get(), PANGO_WRAP_WORD_CHAR);
    if (room > 0) pango_layout_set_width(layout.get(), static_cast<int>(room * PANGO_SCALE));
    return layout;
  }
  double wide(const std::string& text, double points, bool bold) const {
    int width = 0;
    pango_layout_get_size(layout(text, points, bold, 0).get(), &width, nullptr);
    return static_cast<double>(width) / PANGO_SCALE;
  }
  void next() {
    cairo_show_page(cairo);
    y = kTop;
  }
  /// Goes down a line, onto the next page where this one is full: nothing is left out.
  void down(double by) {
    if (y + by > kHigh - kSide) next();
    y += by;
  }
  /// Whatever stands together: onto the next page where it does not fit any more.
  void keep(double high) {
    if (y + high > kHigh - kSide && high < kHigh - kSide - kTop) next();
  }
  int lines(const std::string& words, double points, bool bold, double room) const {
    return pango_layout_get_line_count(layout(words, points, bold, room).get());
  }
  /// Draws text broken into lines that start at x; before each line but the first `next` goes down.
  template <typename Next>
  void text(double x, const std::string& words, double points, bool bold, double room, Next next) {
    const Layout set = layout(words, points, bold, room);
    const int lines = pango_layout_get_line_count(set.get());
    for (int i = 0; i < lines; ++i) {
      if (i > 0) next();
      cairo_move_to(cairo, x, y);
      pango_cairo_show_layout_line(cairo, pango_layout_get_line_readonly(set.get(), i));
    }
  }
};

Sheet::Sheet(const std::string& title) {
  image::know_fonts();
  page_ = std::make_unique<Page>();
  Page& p = *page_;
  cairo_pdf_surface_set_metadata(p.surface, CAIRO_PDF_METADATA_TITLE, title.c_str());
  cairo_pdf_surface_set_metadata(p.surface, CAIRO_PDF_METADATA_CREATOR, "Ask Count");
  double points = 21;
  while (points > 11 && p.wide(title, points, true) > kRoom) points -= 1;
  p.text(kSide, title, points, true, kRoom, [&] { p.down(points * kLine); });
  p.down(12);
}

Sheet::~Sheet() = default;

void Sheet::heading(const std::string& words) {
  Page& p = *page_;
  p.keep(30 + 2 * 13.5 * kLine);  // with a line of what it heads
  p.down(30);
  p.text(kSide, words, 13.5, true, kRoom, [&] { p.down(13.5 * kLine); });
}

void Sheet::words(const std::string& text, double points) {
  Page& p = *page_;
  const auto next = [&] { p.down(points * kLine); };
  next();
  p.text(kSide, text, points, false, kRoom, next);
}

void Sheet::row(const std::vector<std::pair<double, std::string>>& cells, double points, bool bold) {
  Page& p = *page_;
  const auto place = [&](size_t i) {
    return std::pair{kSide + cells[i].first * kRoom,
                     i + 1 < cells.size() ? kSide + cells[i + 1].first * kRoom - 6 : kWide - kSide};
  };
  int most = 1;
  for (size_t i = 0; i < cells.size(); ++i) {
    const auto [x, end] = place(i);
    most = std::max(most, p.lines(cells[i].second, points, bold, end - x));
  }
  p.keep((most + 0.12) * points * kLine);
  p.down(points * kLine * 1.12);
  const double top = p.y;
  double lowest = top;
  for (size_t i = 0; i < cells.size(); ++i) {
    const auto [x, end] = place(i);
    p.y = top;
    p.text(x, cells[i].second, points, bold, end - x, [&] { p.down(points * kLine); });
    lowest = std::max(lowest, p.y);
  }
  p.y = lowest;
}

void Sheet::tick(const std::string& text, double points) {
  constexpr double kBox = 22;
  Page& p = *page_;
  p.keep(points * (1.6 + 1.3 * (p.lines(text, points, false, kRoom - kBox) - 1)));
  p.down(points * 1.6);
  cairo_set_line_width(p.cairo, 1.1);
  cairo_rectangle(p.cairo, kSide + 1, p.y + 1.5 - points * 0.85, points * 0.85, points * 0.85);
  cairo_stroke(p.cairo);
  p.text(kSide + kBox, text, points, false, kRoom - kBox, [&] { p.down(points * 1.3); });
}

void Sheet::rule() {
  Page& p = *page_;
  p.down(8);
  cairo_set_line_width(p.cairo, 0.8);
  cairo_move_to(p.cairo, kSide, p.y);
  cairo_line_to(p.cairo, kWide - kSide, p.y);
  cairo_stroke(p.cairo);
}

void Sheet::space(double points) {
  page_->down(points);
}
void Sheet::next_page() {
  page_->next();
}
double Sheet::left() const {
  return kHigh - kSide - page_->y;
}

void Sheet::save(const std::filesystem::path& file, const Guard& guard) {
  Page& p = *page_;
  if (!p.finished) {
    cairo_show_page(p.cairo);
    cairo_surface_finish(p.surface);
    p.finished = true;
  }
  if (const cairo_status_t status = cairo_surface_status(p.surface); status != CAIRO_STATUS_SUCCESS)
    throw failed(say("{} cannot be made: {}.", file.string(), cairo_status_to_string(status)));
  write_file_atomically({file, FileKind::Sheet, guard}, p.bytes);
}

}  // namespace askcount::paper
