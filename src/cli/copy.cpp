// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/copy.h"

#include <fmt/format.h>

#include <chrono>
#include <memory>

#include "base/language.h"
#include "base/process.h"
#include "base/units.h"
#include "progress_line.h"
#include "stop.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct CopyOptions {
  std::vector<std::string> cards;
  std::string to, also, name;
};

Answer copy_verb(const CopyOptions& asked) {
  ingest::CopyOrder order;
  for (const std::string& card : asked.cards) order.cards.emplace_back(card);
  order.to = asked.to;
  order.also = asked.also;
  order.name = asked.name;
  ingest::CopyOutcome o;
  {
    RateLine line("Copying");
    o = ingest::copy(
        order,
        [&](const ingest::CopyProgress& p) { line.show(p.files_done, p.files, p.bytes_done, p.bytes); },
        stop_token());
  }
  size_t there = 0;
  Json renamed = Json::array();
  for (const ingest::Copied& c : o.files) {
    there += c.there_already ? 1 : 0;
    if (c.renamed) renamed.push_back({{"file", c.from.string()}, {"as", c.name.generic_string()}});
  }
  const double rate = o.seconds > 0 ? static_cast<double>(o.bytes) / 1e6 / o.seconds : 0;
  Json manifests = Json::array();
  for (const auto& m : o.manifests) manifests.push_back(m.string());
  Answer answer;
  answer.json = {{"files", o.files.size()},
                 {"copied", o.files.size() - there},
                 {"there_already", there},
                 {"renamed", renamed},
                 {"bytes", o.bytes},
                 {"seconds", rounded(o.seconds, 2)},
                 {"mb_per_s", rounded(rate, 1)},
                 {"to", asked.to},
                 {"also", asked.also.empty() ? Json(nullptr) : Json(asked.also)},
                 {"manifests", manifests},
                 {"unread", o.unread},
                 {"checked_twice", o.checked_twice},
                 {"may_be_emptied", o.checked_twice}};
  answer.words = fmt::format("{} in {}{}, {} MB in {}, {} MB a second.\n",
                             counted(static_cast<long long>(o.files.size()), "{} file", "{} files"), asked.to,
                             asked.also.empty() ? "" : " and " + asked.also, o.bytes / 1000000,
                             format_length(o.seconds, 1), format_number(rate, 0));
  if (there > 0)
    answer.words += fmt::format("{} already there and identical.\n",
                                counted(static_cast<long long>(there), "{} file", "{} files"));
  for (const ingest::Copied& c : o.files)
    if (c.renamed)
      answer.words +=
          fmt::format("{} is {}: another file has its name.\n", c.from.string(), c.name.generic_string());
  for (const std::string& u : o.unread) answer.words += fmt::format("Not copied: {}\n", u);
  answer.exit = o.checked_twice ? 0 : 1;
  answer.words += o.checked_twice ? "Every file was checked twice. The card may be emptied.\n"
                                  : "Not everything was checked. Do not empty the card.\n";
  return answer;
}

}  // namespace

void add_copy(Command& app, Chosen& chosen) {
  const Verb verb =
      add_verb(app, chosen, "copy", "Copy cards with every file checked, so that they may be emptied");
  const auto asked = std::make_shared<CopyOptions>();
  verb.add_option("card", asked->cards, "The cards or folders").required();
  verb.add_option("--to", asked->to, "The folder to copy to").required();
  verb.add_option("--also", asked->also, "A second one, better on another disk");
  verb.add_option("--name", asked->name, "Numbered names in the order of capture, like boats-0001");
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return copy_verb(*asked); };
  });
}

}  // namespace askcount::cli
