// SPDX-License-Identifier: GPL-3.0-or-later
// askcount pack: a take and all that belongs to it as one folder or archive.
#include "book/pack.h"

#include <fmt/format.h>

#include <memory>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "book/book.h"
#include "filing.h"
#include "progress_line.h"
#include "stop.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct PackOptions {
  std::string take, output;
};

Answer pack_verb(const PackOptions& asked) {
  book::Order order{asked.take, asked.output, {}};
  std::error_code ec;
  if (std::filesystem::exists(book_file(), ec)) order.entry = book::Book(book_file()).of_file(asked.take);
  ProgressLine line("Packing");
  const book::Packed packed =
      book::pack(order, {[&](std::size_t done, std::size_t total) { line.show(done, total); }, stop_token()});
  Answer answer{{{"packed", asked.output},
                 {"take", packed.take.string()},
                 {"files", packed.files},
                 {"bytes", packed.bytes},
                 {"missing", packed.missing}},
                fmt::format("{}: {}, {} MB.\n", asked.output,
                            counted(static_cast<long long>(packed.files), "{} file", "{} files"),
                            format_number(static_cast<double>(packed.bytes) / 1e6, 1))};
  for (const std::string& file : packed.missing)
    answer.words += fmt::format("{} is not in it: it is gone, a link, or on no card of the take.\n", file);
  answer.exit = packed.missing.empty() ? 0 : 1;
  return answer;
}

}  // namespace

void add_pack(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "pack", "Pack a take and all its files into one folder or archive");
  const auto asked = std::make_shared<PackOptions>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  verb.add_option("-o,--output", asked->output, "A new folder, or an archive (.tar, .zip)").required();
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return pack_verb(*asked); };
  });
}

}  // namespace askcount::cli
