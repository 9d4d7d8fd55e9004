// SPDX-License-Identifier: GPL-3.0-or-later
// Takes file themselves: what a verb came to know of one goes into the book.
#pragma once

#include <filesystem>
#include <functional>
#include <memory>
#include <string>

#include "book/book.h"
#include "take/take.h"

namespace askcount::cli {

/// The person's book, or the one that --book names.
std::filesystem::path book_file(const std::string& named = {});

/// Opens a book, checks it, and says on standard error what became of a damaged one. Throws as book::Book.
std::unique_ptr<book::Book> open_book(const std::filesystem::path& file);

/// That so many entries of a book were made anew, as Book::check() counts them.
std::string made_anew_words(int entries);

/// Files a take with what `learn` puts in. A book that cannot be written costs a line on standard error,
/// never the verb's own work. Nothing happens without a take's file.
void file_take(const take::Take& take, const std::filesystem::path& file,
               const std::function<void(book::Entry&)>& learn = {});

}  // namespace askcount::cli
