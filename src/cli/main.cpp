// SPDX-License-Identifier: GPL-3.0-or-later
// askcount: every stage of a take without a window.
//
// Exit 0 when done, 2 for input that cannot be used, 1 when something broke while working, and 128 and the
// signal's number (130, 143) when it was stopped. The answer is on
// standard output, progress and messages are on standard error.

#include <fmt/format.h>

#include <cerrno>
#include <cstdio>
#include <cstring>

#include "base/error.h"
#include "base/process.h"
#include "base/units.h"
#include "stop.h"
#include "verbs.h"

namespace askcount::cli {

Verb add_verb(Command& app, Chosen& chosen, const std::string& name, const std::string& what) {
  const Verb verb = app.add_verb(name, what);
  verb.add_flag("--json", chosen.as_json, "Print one JSON object");
  return verb;
}

Verb add_verb(const Verb& above, Chosen& chosen, const std::string& name, const std::string& what) {
  const Verb verb = above.add_verb(name, what);
  verb.add_flag("--json", chosen.as_json, "Print one JSON object");
  return verb;
}

Option add_size(const Verb& verb, const std::string& name, std::function<void(const image::Size&)> hear,
                const std::string& what) {
  constexpr int kMost = 100000;
  const auto both = [hear](const std::vector<std::string>& n) { hear({std::stoi(n[0]), std::stoi(n[1])}); };
  return verb.add_heard(name, both, what).split('x', 2).between(1, kMost).called("WIDTHxHEIGHT");
}

Option add_size(const Verb& verb, const std::string& name, image::Size& size, const std::string& what) {
  return add_size(
      verb, name, [&size](const image::Size& said) { size = said; }, what);
}

Option add_cover(const Verb& verb, std::optional<sky::Cover>& cover) {
  Words<std::optional<sky::Cover>> words;
  for (const sky::Cover c : {sky::Cover::Clear, sky::Cover::Thin, sky::Cover::Clouded, sky::Cover::Dark})
    words.emplace_back(sky::cover_word(c), c);
  return verb.add_choice("--sky", cover, words, "Cloud cover");
}

void add_force(const Verb& verb, bool& force) {
  verb.add_flag("--force", force, "Write over a file of another kind, or not made by Ask Count");
}

std::string words_of(const Findings& findings) {
  std::string words;
  for (const Finding& f : findings)
    words += fmt::format("{:8} {}: {}\n", severity_word(f.severity), f.title, f.text);
  return words;
}

/// Throws Failed where not all of it could be written: a full disk is no answer.
void print(const std::string& text) {
  if (std::fwrite(text.data(), 1, text.size(), stdout) != text.size() || std::fflush(stdout) != 0)
    throw failed(fmt::format("The answer cannot be written: {}.", std::strerror(errno)),
                 "Is there room where it goes?");
}

}  // namespace askcount::cli

int main(int argc, char** argv) {
  using namespace askcount;
  prepare_process();
  cli::Command app("askcount",
                   "Ask Count plans, shoots (with its stand-in), gathers, levels and cuts time-lapse takes.",
                   ASKCOUNT_VERSION);
  cli::Chosen chosen;
  cli::add_count(app, chosen);
  cli::add_forecast(app, chosen);
  cli::add_set(app, chosen);
  cli::add_findings(app, chosen);
  cli::add_fix(app, chosen);
  cli::add_kit(app, chosen);
  cli::add_motion(app, chosen);
  cli::add_sky(app, chosen);
  cli::add_frame(app, chosen);
  cli::add_trial(app, chosen);
  cli::add_ramp(app, chosen);
  cli::add_along(app, chosen);
  cli::add_try(app, chosen);
  cli::add_timer(app, chosen);
  cli::add_shoot(app, chosen);
  cli::add_copy(app, chosen);
  cli::add_gather(app, chosen);
  cli::add_level(app, chosen);
  cli::add_look(app, chosen);
  cli::add_develop(app, chosen);
  cli::add_lens(app, chosen);
  cli::add_cut(app, chosen);
  cli::add_book(app, chosen);
  cli::add_pack(app, chosen);
  cli::add_thumbnail(app, chosen);
  cli::add_make(app, chosen);
  cli::add_demo(app, chosen);
  if (const std::optional<int> code = app.parse(argc, argv)) return *code;
  try {
    if (chosen.stoppable) cli::listen_for_stop();
    const cli::Answer answer = chosen.run();
    cli::print(chosen.as_json ? answer.json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n"
                              : answer.words);
    return answer.exit;
  } catch (const Error& e) {
    complain(e.about() ? fmt::format("askcount: --{} {}\n", about_word(*e.about()), e.rest())
                       : fmt::format("askcount: {}\n", e.what()));
    if (e.kind() == Error::Kind::Cancelled && cli::stop_signal() != 0) return 128 + cli::stop_signal();
    return e.kind() == Error::Kind::BadInput ? 2 : 1;
  } catch (const std::exception& e) {
    complain(fmt::format("askcount: {}\n", e.what()));
    return 1;
  }
}
