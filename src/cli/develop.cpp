// SPDX-License-Identifier: GPL-3.0-or-later
// askcount develop: levelled frames as a numbered sequence.
#include "render/develop.h"

#include <fmt/format.h>

#include <memory>

#include "base/language.h"
#include "base/units.h"
#include "films/film.h"
#include "gathering.h"
#include "look/anchors.h"
#include "progress_line.h"
#include "stop.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct DevelopOptions : GatheringAsked {
  std::string folder, look;
  render::Format format = render::Format::Jpeg;
  image::Size size;
  int quality = 95;
  bool as_shot = false;
};

Answer develop_verb(const DevelopOptions& asked) {
  const Gathering gathering = gathering_of(asked);
  const take::Take take = gathering.take.value_or(take::Take{});
  render::Order order;
  order.folder = asked.folder;
  order.format = asked.format;
  order.size = asked.size;
  order.quality = asked.quality;
  order.levelled = !asked.as_shot;
  order.smoothing = films::smoothing_of(take);
  std::vector<look::Anchor> anchors;
  if (!asked.look.empty()) anchors = look::load_looks(asked.look);
  const ingest::Gathered g = gather_shown(gathering.ask);
  if (!asked.as_shot) {
    order.looks = films::looks_of(take, gathering.folder, g.frames);
    if (!asked.look.empty()) order.looks.anchors = anchors;
  }
  const auto source = films::source_of(asked.as_shot ? take::Take{} : take, gathering.folder, g.frames);
  ProgressLine line("Developing");
  const render::Outcome o = render::develop(
      g.frames, *source, order, {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
  Answer answer;
  answer.json = {{"folder", asked.folder},
                 {"format", render::ending_of(asked.format)},
                 {"written", o.written},
                 {"there_already", o.there_already},
                 {"unreadable", o.unreadable}};
  answer.words =
      fmt::format("{} developed into {}.\n",
                  counted(static_cast<long long>(o.written), "{} frame", "{} frames"), asked.folder);
  if (o.there_already > 0)
    answer.words += fmt::format(
        "{} already there.\n", counted(static_cast<long long>(o.there_already), "{} picture", "{} pictures"));
  for (const std::string& trouble : o.unreadable) answer.words += "Left out: " + trouble + "\n";
  return answer;
}

}  // namespace

void add_develop(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "develop", "Levelled frames as a numbered sequence, for an editor");
  const auto asked = std::make_shared<DevelopOptions>();
  verb.add_option("folder", asked->folders, "The cards or folders, or a video").required();
  add_every(verb, asked->every);
  add_brackets(verb, asked->brackets);
  verb.add_option("-o,--output", asked->folder, "The folder to write into").required();
  using render::Format;
  verb.add_choice(
      "--format", asked->format,
      {{"jpeg", Format::Jpeg}, {"tiff16", Format::Tiff16}, {"png16", Format::Png16}, {"exr", Format::Exr}},
      "jpeg, tiff16, png16 or exr (linear light)");
  verb.add_option("--take", asked->take,
                  "The take: its looks, its levelling and what you decided about its frames");
  verb.add_option("--look", asked->look, "A file of looks, instead of the take's own");
  add_size(verb, "--size", asked->size, "Another size; cropped from the middle to its shape");
  verb.add_option("--quality", asked->quality, "JPEG quality, 1 to 100").between(1, 100);
  verb.add_flag("--as-shot", asked->as_shot, "Leave frames as shot: no levelling, no look");
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return develop_verb(*asked); };
  });
}

}  // namespace askcount::cli
