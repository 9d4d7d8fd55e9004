#include "gather/gather.h"

#include <fmt/format.h>

#include <memory>

#include "base/units.h"
#include "progress_line.h"
#include "stop.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

Answer gather_verb(const std::string& folder) {
  ProgressLine line("Reading");
  const gather::Gathered g =
      gather::gather(folder, {[&](size_t done, size_t total) { line.show(done, total); }, stop_token()});
  const std::vector<source::Frame>& frames = *g.frames;
  Json missing = Json::array(), dropped = Json::array();
  long long lost = 0;
  for (const gather::Missing& m : g.missing) {
    missing.push_back({{"after_frame", m.after + 1},
                       {"after_file", frames[m.after].file().filename().string()},
                       {"frames", m.frames},
                       {"seconds", rounded(m.seconds, 3)}});
    lost += m.frames;
  }
  for (const gather::Dropped& d : g.dropped)
    dropped.push_back({{"file", d.file().string()},
                       {"why", gather::why_word(d.why)},
                       {"when", d.before ? "before" : "after"},
                       {"text", d.text}});
  const Findings findings = gather::judge(g);
  Answer answer;
  const auto name = [&](const source::Frame& f) {
    return f.file().lexically_relative(folder).generic_string();
  };
  answer.json = {{"frames", frames.size()},
                 {"first", frames.empty() ? Json(nullptr) : Json(name(frames.front()))},
                 {"last", frames.empty() ? Json(nullptr) : Json(name(frames.back()))},
                 {"interval_s", g.interval_s ? Json(rounded(*g.interval_s, 3)) : Json(nullptr)},
                 {"missing_frames", lost},
                 {"missing", missing},
                 {"dropped", dropped},
                 {"ignored", g.ignored},
                 {"unread_folders", g.unread_folders},
                 {"findings", to_json(findings)}};
  answer.words = fmt::format(
      "{}, from {} to {}{}.\n", counted(static_cast<long long>(frames.size()), "frame"), name(frames.front()),
      name(frames.back()), g.interval_s ? ", one every " + format_length(*g.interval_s) : "");
  for (const gather::Dropped& d : g.dropped)
    answer.words += fmt::format("left out {}: {}\n", d.file().filename().string(), d.text);
  answer.words += words_of(findings);
  return answer;
}

}  // namespace

void add_gather(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "gather", "Find the take's frames on a card or in a folder");
  const auto folder = std::make_shared<std::string>();
  verb.add_option("folder", *folder, "The card or folder").required();
  verb.callback([&chosen, folder] {
    chosen.stoppable = true;
    chosen.run = [folder] { return gather_verb(*folder); };
  });
}

}  // namespace askcount::cli
