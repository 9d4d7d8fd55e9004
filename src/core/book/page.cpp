// SPDX-License-Identifier: GPL-3.0-or-later
// The book as a page for a browser, and as a sheet of paper.
#include <openssl/evp.h>

#include <algorithm>

#include "base/language.h"
#include "base/units.h"
#include "book/clocks.h"
#include "book/tables.h"
#include "paper/sheet.h"

namespace askcount::book {
namespace {

std::string escaped(const std::string& text) {
  std::string out;
  for (const char c : text) switch (c) {
      case '&':
        out += "&amp;";
        break;
      case '<':
        out += "&lt;";
        break;
      case '>':
        out += "&gt;";
        break;
      case '"':
        out += "&quot;";
        break;
      default:
        out += c;
    }
  return out;
}

std::string base64(const std::string& bytes) {
  std::string out(4 * ((bytes.size() + 2) / 3) + 1, '\0');
  const int n =
      EVP_EncodeBlock(reinterpret_cast<unsigned char*>(out.data()),
                      reinterpret_cast<const unsigned char*>(bytes.data()), static_cast<int>(bytes.size()));
  out.resize(static_cast<size_t>(n));
  return out;
}

/// The two clocks as a drawing, 250 × 52.
std::string drawing(const Row& row) {
  constexpr double kWide = 250;
  const Clocks c = clocks_of(row);
  const auto x = [](double share) { return plain_number(share * kWide, 1); };
  std::string stops;
  for (size_t n = 0; n < c.tints.size(); ++n)
    stops += fmt::format("<stop offset=\"{}%\" stop-color=\"#{:02x}{:02x}{:02x}\"/>",
                         n * 100 / (c.tints.size() - 1), c.tints[n][0], c.tints[n][1], c.tints[n][2]);
  std::string svg = fmt::format(
      "<svg width=\"250\" height=\"52\" role=\"img\" aria-label=\"{} shot, {} of "
      "film\"><defs><linearGradient "
      "id=\"t{}\">{}</linearGradient></defs><rect y=\"4\" width=\"250\" height=\"6\" fill=\"#e3e8ea\"/>",
      format_length(std::max(1.0, row.field_s), 0), format_length(std::max(0.1, row.film_s), 1), row.id,
      stops);
  for (int n = 0; n <= 6; ++n)
    svg += fmt::format(
        "<line x1=\"{}\" y1=\"13\" x2=\"{}\" y2=\"34\" stroke=\"#8a2d6b\" stroke-opacity=\".35\"/>",
        x(c.field_from + (c.field_to - c.field_from) * n / 6),
        x(c.film_from + (c.film_to - c.film_from) * n / 6));
  svg += fmt::format("<rect x=\"{}\" y=\"2\" width=\"{}\" height=\"10\" fill=\"{}\" stroke=\"#00727c\"/>",
                     x(c.field_from), x(std::max(0.004, c.field_to - c.field_from)),
                     stops.empty() ? "#9fb4b8" : fmt::format("url(#t{})", row.id));
  svg += fmt::format("<rect x=\"{}\" y=\"34\" width=\"{}\" height=\"8\" fill=\"#8a2d6b\"/></svg>",
                     x(c.film_from), x(std::max(0.004, c.film_to - c.film_from)));
  return svg;
}

std::string list_of(const std::string& title, const Findings& findings) {
  if (findings.empty()) return {};
  std::string html = fmt::format("<h2>{}</h2><ul>", escaped(title));
  for (const Finding& f : findings)
    html += fmt::format("<li><b>{}</b> {}</li>", escaped(f.title), escaped(f.text));
  return html + "</ul>";
}

std::string sum_words(const Listing& l) {
  return fmt::format("{}, with {} and {} of film.",
                     counted(static_cast<long long>(l.rows.size()), "{} take", "{} takes"),
                     counted(l.frames, "{} frame", "{} frames"), format_length(std::max(0.0, l.film_s), 0));
}

std::string said_words(const Words& w) {
  std::string words = w.note;
  if (!w.change.empty()) words += (words.empty() ? "Next time: " : " Next time: ") + w.change;
  return words;
}

std::string title_of(const Query& q) {
  std::string title = "The book";
  if (!q.subject.empty()) title += " of " + q.subject;
  if (!q.place.empty()) title += " at " + q.place;
  return title;
}

}  // namespace

Printed printed_of(Book& book, const Query& query, Listing listing) {
  const InEnglish all_of_it;
  // Held against no kit: nothing on paper can be pressed.
  const plan::Kit none;
  Findings mistakes = judge_mistakes(book.mistakes(), {});
  for (Finding& f : mistakes) f.fix.reset();
  return {title_of(query), std::move(listing), judge(kit_facts(book.measures(), none), none, 0), mistakes,
          judge_practice(book.scores())};
}

std::string page_of(const Printed& printed, const std::vector<std::string>& pictures) {
  const InEnglish all_of_it;
  std::string html = fmt::format(
      "<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><meta name=\"generator\" content=\"Ask "
      "Count\"><title>{0}</title><style>body{{font:15px/1.45 sans-serif;color:#14262b;background:#eef2f3;"
      "max-width:1000px;margin:2em auto;padding:0 1em}}article{{display:flex;gap:16px;background:#fff;"
      "padding:12px;margin:8px 0;break-inside:avoid}}img{{width:108px;height:72px;object-fit:cover}}"
      "h3{{margin:0}}p{{margin:.2em "
      "0}}.w{{flex:1}}.m{{color:#5d7076}}</style></head><body><h1>{0}</h1><p>{1}</p>",
      escaped(printed.title), escaped(sum_words(printed.listing)));
  for (size_t n = 0; n < printed.listing.rows.size(); ++n) {
    const Row& r = printed.listing.rows[n];
    html += "<article>";
    if (n < pictures.size() && !pictures[n].empty())
      html += fmt::format("<img alt=\"\" src=\"data:image/jpeg;base64,{}\">", base64(pictures[n]));
    html += fmt::format(
        "<div class=\"w\"><h3>{}</h3><p class=\"m\">{}</p><p>{}</p></div><div>{}</div><div><p>{}</p>",
        escaped(r.name), escaped(where_and_when(r)), escaped(said_words(r.words)), drawing(r),
        escaped(frames_words(r)));
    if (const std::string flicker = flicker_words(r); !flicker.empty())
      html += fmt::format("<p>flicker {}</p>", escaped(flicker));
    if (r.words.verdict != Verdict::None)
      html += fmt::format("<p>went {}</p>", verdict_word(r.words.verdict));
    html += "</div></article>";
  }
  html += list_of("What the kit really does", printed.kit) +
          list_of("What went wrong most", printed.mistakes) + list_of("Practice", printed.practice);
  return html + "</body></html>\n";
}

void write_sheet(const Printed& printed, const std::filesystem::path& file, const Guard& guard) {
  const InEnglish all_of_it;
  constexpr double kRow = 66;  // points that a take needs at most, usually
  paper::Sheet sheet(printed.title);
  sheet.words(sum_words(printed.listing));
  sheet.space(8);
  for (const Row& r : printed.listing.rows) {
    if (sheet.left() < kRow) sheet.next_page();
    sheet.rule();
    std::string outcome = frames_words(r);
    if (r.words.verdict != Verdict::None)
      outcome += std::string(outcome.empty() ? "" : ", ") + "went " + verdict_word(r.words.verdict);
    sheet.row({{0, r.name}, {0.66, outcome}}, 11, true);
    std::string film = r.film_s > 0 ? format_length(r.film_s, 1) + " of film" : "";
    if (const std::string flicker = flicker_words(r); !flicker.empty())
      film += (film.empty() ? "" : ", ") + ("flicker " + flicker);
    sheet.row({{0, where_and_when(r)}, {0.66, film}}, 10);
    if (const std::string said = said_words(r.words); !said.empty()) sheet.words(said, 10);
    sheet.space(4);
  }
  const auto findings = [&](const char* title, const Findings& list) {
    if (list.empty()) return;
    if (sheet.left() < kRow * 1.5) sheet.next_page();
    sheet.heading(title);
    for (const Finding& f : list) {
      if (sheet.left() < kRow / 1.5) sheet.next_page();
      sheet.words(f.title + ". " + f.text, 10);
    }
  };
  findings("What the kit really does", printed.kit);
  findings("What went wrong most", printed.mistakes);
  findings("Practice", printed.practice);
  sheet.save(file, guard);
}

}  // namespace askcount::book
