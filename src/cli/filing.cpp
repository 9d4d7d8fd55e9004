// SPDX-License-Identifier: GPL-3.0-or-later
#include "filing.h"

#include <fmt/format.h>

#include "base/error.h"
#include "base/process.h"
#include "base/units.h"
#include "book/learn.h"

namespace askcount::cli {

std::filesystem::path book_file(const std::string& named) {
  return named.empty() ? book::Book::file_in(book::Book::data_folder()) : std::filesystem::path(named);
}

std::unique_ptr<book::Book> open_book(const std::filesystem::path& file) {
  auto book = std::make_unique<book::Book>(file);
  const int anew = book->check();
  if (!book->told().empty()) complain(fmt::format("askcount: {}\n", book->told()));
  if (anew > 0) complain(fmt::format("askcount: {}\n", made_anew_words(anew)));
  return book;
}

std::string made_anew_words(int entries) {
  return fmt::format("{} made no sense; what could be read again was put in their place.",
                     counted(entries, "{} entry", "{} entries"));
}

void file_take(const take::Take& take, const std::filesystem::path& file,
               const std::function<void(book::Entry&)>& learn) {
  if (file.empty()) return;
  try {
    book::Entry entry = book::entry_of(take, file);
    if (learn) learn(entry);
    book::Book book(book_file());
    if (!book.told().empty()) complain(fmt::format("askcount: {}\n", book.told()));
    book.file(entry);
  } catch (const Error& e) {
    complain(fmt::format("askcount: {} is not in the book. {}\n", file.string(), e.what()));
  }
}

}  // namespace askcount::cli
