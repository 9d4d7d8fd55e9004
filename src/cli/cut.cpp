#include <fmt/format.h>

#include <memory>

#include "base/error.h"
#include "base/units.h"
#include "film_answer.h"
#include "gather/gather.h"
#include "gathering.h"
#include "orders/film.h"
#include "progress_line.h"
#include "stop.h"
#include "take/take.h"

namespace askcount::cli {

Answer film_answer(const render::FilmOutcome& o, const std::filesystem::path& film) {
  Answer answer;
  answer.json = {{"film", film.string()},
                 {"frames", o.facts.frames},
                 {"duration_s", rounded(o.facts.duration_s, 4)},
                 {"size", fmt::format("{}x{}", o.facts.size.width, o.facts.size.height)},
                 {"codec", o.facts.codec},
                 {"fps", rounded(o.facts.fps.value(), 6)},
                 {"seconds_taken", rounded(o.seconds_taken, 2)},
                 {"unreadable", o.unreadable},
                 {"stood_in", o.unreadable.size()},
                 {"stood_in_share", rounded(o.stood_in_share(), 4)}};
  answer.words =
      fmt::format("{}: {} in {} at {}, {}x{}, made in {}.\n", film.string(), counted(o.facts.frames, "frame"),
                  format_length(o.facts.duration_s), frame_rate_words(o.facts.fps), o.facts.size.width,
                  o.facts.size.height, format_length(o.seconds_taken, 1));
  if (!o.unreadable.empty())
    answer.words += fmt::format("Neighbours stand in for {} ({} % of the film; at most {} % may).\n",
                                counted(static_cast<long long>(o.unreadable.size()), "frame"),
                                format_number(100 * o.stood_in_share(), 1),
                                format_number(100 * render::kMostStandIns, 0));
  for (const std::string& trouble : o.unreadable) answer.words += "A neighbour stands in: " + trouble + "\n";
  return answer;
}

render::FilmOutcome render_shown(const source::Frames& frames, const render::FilmOrder& order,
                                 const source::FrameSource& source) {
  ProgressLine line("Rendering");
  return render::render(frames, source, order,
                        {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
}

namespace {

struct Asked : GatheringAsked {
  std::string output, fps, look, preset = "medium";
  image::Size size{1920, 1080};
  int quality = 18, bits = 8, from = 1, to = 0;
  bool as_shot = false, force = false;
};

/// Frames counted in the take as they count in a film that begins with its frame `first` (from 0).
void count_from(std::vector<size_t>& frames, size_t first) {
  std::erase_if(frames, [first](size_t n) { return n < first; });
  for (size_t& n : frames) n -= first;
}

Answer cut_verb(const Asked& asked) {
  render::FilmOrder order;
  std::vector<look::Anchor> anchors;
  const Gathering gathering = gathering_of(asked);
  const auto planned = gathering.take ? orders::film_rate(*gathering.take) : std::nullopt;
  if (planned) {
    order.fps = *planned;
    if (!asked.fps.empty() && !(parse_frame_rate(asked.fps, "--fps") == order.fps))
      throw bad_input(
          fmt::format("--fps {} differs from the plan's {}.", asked.fps, format_frame_rate(order.fps)),
          "Leave --fps out, or change the take.");
  } else {
    if (asked.fps.empty())
      throw bad_input("The frame rate is missing.", "Add --fps 25, or --take with the plan.");
    order.fps = parse_frame_rate(asked.fps, "--fps");
  }
  order.output = asked.output;
  order.size = asked.size;
  order.coding = {asked.quality, asked.preset, asked.bits};
  order.levelled = !asked.as_shot;
  if (!asked.as_shot) {
    if (gathering.take) order.smoothing = orders::smoothing_of(*gathering.take);
    for (auto* frames : {&order.smoothing.smooth, &order.smoothing.keep})
      count_from(*frames, static_cast<size_t>(asked.from - 1));
    if (!asked.look.empty()) anchors = look::load_looks(asked.look);  // refused before the frames are read
    order.first_frame = asked.from - 1;
  }
  order.guard = {{asked.take}, asked.force};
  film::check_coding(order.output, order.size, order.coding);
  film::check_film_output({order.output, FileKind::Film, order.guard});
  const gather::Gathered gathered = gather_shown(gathering.ask);
  const source::Frames all = gathered.frames;
  const take::Take take = gathering.take && !asked.as_shot ? *gathering.take : take::Take{};
  const auto source = orders::source_of(take, gathering.folder, all);
  if (!asked.as_shot) {
    order.looks = orders::looks_of(take, gathering.folder, all);
    if (!asked.look.empty()) order.looks.anchors = anchors;
  }
  const auto count = static_cast<int>(all->size());
  const int to = asked.to > 0 ? asked.to : count;
  if (asked.from > to || to > count)
    throw bad_input(fmt::format("The take has {}; --from {} --to {} is not in it.",
                                counted(static_cast<long long>(count), "frame"), asked.from, to));
  const source::Frames chosen = source::frames_of({all->begin() + asked.from - 1, all->begin() + to});
  try {
    Answer answer = film_answer(render_shown(chosen, order, *source), order.output);
    // A film of a take that is not whole says so.
    Findings findings = gather::judge(gathered);
    std::erase_if(findings, [](const Finding& f) { return f.severity == Severity::Ok; });
    answer.json["findings"] = to_json(findings);
    answer.words += words_of(findings);
    return answer;
  } catch (const render::TooManyUnreadable& e) {
    // Frames counted from 1: the last that is whole before them, and the first after.
    const int before = asked.from - 1 + static_cast<int>(e.first());
    const int after = asked.from + static_cast<int>(e.last()) + 1;
    std::string options;
    if (after <= to) options = fmt::format("--from {}", after);
    if (before >= asked.from) options += fmt::format("{}--to {}", options.empty() ? "" : " or ", before);
    throw failed(e.what(), options.empty() ? "" : fmt::format("To leave them out add {}.", options));
  }
}

}  // namespace

void add_cut(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "cut", "Level the frames and encode them as film");
  const auto asked = std::make_shared<Asked>();
  verb.add_option("folder", asked->folders, "The cards or folders, or a film of real time").required();
  add_every(verb, asked->every);
  add_brackets(verb, asked->brackets);
  verb.add_option("-o,--output", asked->output, "The film to write (.mp4, .mov, .mkv)").required();
  verb.add_option("--fps", asked->fps, "Frame rate of the film");
  verb.add_option("--take", asked->take,
                  "The take: its plan says the frame rate, what was decided about its frames is done");
  add_size(verb, "--size", asked->size, "Size of the film");
  verb.add_choice("--bits", asked->bits, {{"8", 8}, {"10", 10}}, "8 or 10 for every colour");
  verb.add_option("--quality", asked->quality, "Constant rate factor, 0 to 51; lower is better")
      .between(0, 51);
  verb.add_option("--preset", asked->preset, "The encoder's preset")
      .one_of(
          {"ultrafast", "superfast", "veryfast", "faster", "fast", "medium", "slow", "slower", "veryslow"});
  verb.add_option("--look", asked->look, "A file of looks, instead of the take's own");
  verb.add_flag("--as-shot", asked->as_shot, "Neither level nor develop");
  verb.add_option("--from", asked->from, "The first frame of the film, counted from 1").between(1, 10000000);
  verb.add_option("--to", asked->to, "The last one").between(1, 10000000);
  add_force(verb, asked->force);
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return cut_verb(*asked); };
  });
}

}  // namespace askcount::cli
