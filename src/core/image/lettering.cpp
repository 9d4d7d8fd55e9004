// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/lettering.h"

#include <cairo.h>
#include <pango/pangocairo.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <memory>
#include <mutex>

#include "base/error.h"
#include "image/cairo_png.h"
#include "image/fonts.h"

namespace askcount::image {
namespace {

constexpr double kRim = 0.16;  // of the letters' size

struct Gone {
  void operator()(cairo_surface_t* s) const { cairo_surface_destroy(s); }
  void operator()(cairo_t* c) const { cairo_destroy(c); }
  void operator()(PangoLayout* l) const { g_object_unref(l); }
};

std::vector<std::uint8_t> drawn(int width, int height, const std::function<void(cairo_t*)>& draw) {
  const std::unique_ptr<cairo_surface_t, Gone> surface(
      cairo_image_surface_create(CAIRO_FORMAT_A8, width, height));
  const std::unique_ptr<cairo_t, Gone> cairo(cairo_create(surface.get()));
  if (cairo_status(cairo.get()) != CAIRO_STATUS_SUCCESS) throw failed("There is no memory to set words in.");
  draw(cairo.get());
  cairo_surface_flush(surface.get());
  std::vector<std::uint8_t> out(static_cast<size_t>(width) * static_cast<size_t>(height));
  const unsigned char* rows = cairo_image_surface_get_data(surface.get());
  const int stride = cairo_image_surface_get_stride(surface.get());
  for (int y = 0; y < height; ++y)
    std::copy_n(rows + static_cast<std::ptrdiff_t>(y) * stride, width,
                out.begin() + static_cast<std::ptrdiff_t>(y) * width);
  return out;
}

void rim_of(cairo_t* c, double pixels) {
  cairo_set_line_width(c, 2 * kRim * pixels);
  cairo_set_line_join(c, CAIRO_LINE_JOIN_ROUND);
  cairo_set_source_rgba(c, 1, 1, 1, 0.75);
  cairo_stroke(c);
}

}  // namespace

Lettering lettered(const std::string& line, double pixels, double most) {
  static std::mutex one_at_a_time;  // Pango's fonts are shared
  const std::lock_guard lock(one_at_a_time);
  know_fonts();
  int wide = 0, high = 0;
  const auto layout_on = [&](cairo_t* c) {
    std::unique_ptr<PangoLayout, Gone> layout(pango_cairo_create_layout(c));
    PangoFontDescription* font = pango_font_description_from_string("B612, Manrope");
    pango_font_description_set_absolute_size(font, pixels * PANGO_SCALE);
    pango_layout_set_font_description(layout.get(), font);
    pango_font_description_free(font);
    pango_layout_set_single_paragraph_mode(layout.get(), TRUE);
    pango_layout_set_text(layout.get(), line.c_str(), static_cast<int>(line.size()));
    pango_layout_get_pixel_size(layout.get(), &wide, &high);
    return layout;
  };
  drawn(1, 1, [&](cairo_t* c) { layout_on(c); });
  if (wide > most && wide > 0) {
    pixels *= most / wide;
    drawn(1, 1, [&](cairo_t* c) { layout_on(c); });
  }
  const int edge = static_cast<int>(std::ceil(kRim * pixels)) + 1;
  Lettering out;
  out.width = wide + 2 * edge;
  out.height = high + 2 * edge;
  const auto path = [&](cairo_t* c) {
    const auto layout = layout_on(c);
    cairo_move_to(c, edge, edge);
    pango_cairo_layout_path(c, layout.get());
  };
  out.rim = drawn(out.width, out.height, [&](cairo_t* c) {
    path(c);
    rim_of(c, pixels);
  });
  out.letters = drawn(out.width, out.height, [&](cairo_t* c) {
    path(c);
    cairo_set_source_rgba(c, 1, 1, 1, 1);
    cairo_fill(c);
  });
  return out;
}

Lettering bar(int length, double pixels) {
  const int edge = static_cast<int>(std::ceil(kRim * pixels)) + 1;
  const double thick = std::max(2.0, pixels / 8), tall = pixels / 2;
  Lettering out;
  out.width = length + 2 * edge;
  out.height = static_cast<int>(std::ceil(tall)) + 2 * edge;
  const auto path = [&](cairo_t* c) {
    cairo_rectangle(c, edge, edge + tall / 2 - thick / 2, length, thick);
    cairo_rectangle(c, edge, edge, thick, tall);
    cairo_rectangle(c, edge + length - thick, edge, thick, tall);
  };
  out.rim = drawn(out.width, out.height, [&](cairo_t* c) {
    path(c);
    rim_of(c, pixels / 2);
  });
  out.letters = drawn(out.width, out.height, [&](cairo_t* c) {
    path(c);
    cairo_set_source_rgba(c, 1, 1, 1, 1);
    cairo_fill(c);
  });
  return out;
}

}  // namespace askcount::image
