// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include <QCoreApplication>
#include <QTimer>

#include <memory>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "filing.h"
#include "film_answer.h"
#include "films/film.h"
#include "forecast/shoot.h"
#include "ingest/gather.h"
#include "link/standin_link.h"
#include "progress_line.h"
#include "simulate/card.h"
#include "simulate/rig_json.h"
#include "simulate/scene.h"
#include "stop.h"

namespace askcount::cli {
namespace {

namespace fs = std::filesystem;

simulate::ShootOutcome shoot_shown(const simulate::RigSetting& rig) {
  ProgressLine line("Shooting");
  return simulate::shoot(
      rig,
      [&](const simulate::ShotLanded& s) {
        line.show(static_cast<size_t>(s.done), static_cast<size_t>(s.total));
      },
      stop_token());
}

struct ShootOptions {
  std::string take, card, output;
  bool force = false;
  image::Size size;  ///< of the frames; {} for what the take has
};

/// What `shoot` can be told besides.
struct ShootAsked {
  std::string take, card, scene, speed, brackets, timer, socket;
  image::Size size;
  std::vector<std::string> faults, flaws;
  double chance = 0;
  long long seed = -1;
  bool empty_first = false, raw = false, limits = true, auto_wb = false, auto_focus = false,
       stabiliser = false;
};

take::Take asked_take(const ShootOptions& asked) {
  take::Take take = take::load_take(asked.take);
  if (asked.size.width > 0) take.stand_in.frame_size = asked.size;
  return take;
}

simulate::RigSetting asked_rig(const ShootAsked& asked) {
  take::Take take = asked_take({asked.take, asked.card, "", false, asked.size});
  if (!asked.scene.empty()) take.stand_in.scene = simulate::scene_named(asked.scene);
  if (!asked.timer.empty() || !take.timer.empty())
    take.timer = plan::timer_named(take.kit, asked.timer.empty() ? take.timer : asked.timer).name;
  if (!asked.brackets.empty()) plan::parse_brackets(asked.brackets, take.shot);
  if (asked.seed >= 0) take.stand_in.camera.seed = static_cast<std::uint64_t>(asked.seed);
  simulate::RigSetting rig = forecast::rig_of(take, fs::absolute(asked.card), asked.limits);
  rig.raw = asked.raw;
  for (const std::string& f : asked.faults) rig.faults.push_back(simulate::parse_fault(f));
  for (const std::string& f : asked.flaws) simulate::add_flaw(rig.camera.flaws, f);
  rig.chance = asked.chance;
  rig.scale = asked.speed.empty() ? 0 : parse_positive(asked.speed, "--speed");
  rig.auto_white_balance = asked.auto_wb;
  rig.auto_focus = asked.auto_focus;
  rig.stabiliser = asked.stabiliser;
  return rig;
}

/// What came over the line while the stand-in shot.
struct Heard {
  Json faults = Json::array(), outcome;
  bool done = false;
  std::string broken;  ///< why the line was cut
};

/// Has the stand-in at the other end shoot, and waits until it is done. Stopped from here it stops the run
/// there.
void have_it_shot(link::StandinLink& line, const simulate::RigSetting& rig, bool empty_first, Heard& heard) {
  const Json hello = line.call({{"cmd", "hello"}});
  if (hello.value("program", "") != "askcount-standin" || hello.value("protocol", 0) != 1)
    throw failed(
        fmt::format("What answers on \"{}\" is not a stand-in of this version.", line.name().toStdString()),
        "Start askcount-standin, or leave --socket out.");
  const Json sent = simulate::to_json(rig);
  line.call({{"cmd", "set"}, {"rig", sent}});
  // Read back and compared: what was told is what stands there.
  if (const Json back = line.call({{"cmd", "read"}}); back.at("rig").at("timer") != sent.at("timer"))
    throw failed("The stand-in's timer is not set to what it was told.");
  if (empty_first) line.call({{"cmd", "empty"}}, 600000);
  line.call({{"cmd", "start"}});
  bool stopping = false;
  while (!heard.done && line.is_connected()) {
    if (stop_token().stop_requested() && !stopping) {
      stopping = true;
      line.ask({{"cmd", "stop"}});
    }
    QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents, 100);
  }
}

Answer shoot_verb(const ShootAsked& asked) {
  const simulate::RigSetting rig = asked_rig(asked);
  if (!asked.empty_first) simulate::check_empty_card(rig.card);
  int argc = 1;
  char name[] = "askcount";
  char* argv[] = {name, nullptr};
  QCoreApplication app(argc, argv);
  link::StandinLink line;
  ProgressLine progress("Shooting");
  Heard heard;
  QTimer tick;  // so that the loop turns and sees a stop, whatever the line says
  tick.start(100);
  QObject::connect(&line, &link::StandinLink::event, [&](const Json& e) {
    const std::string kind = e.value("event", "");
    if (kind == "shot") progress.show(e.value("done", size_t{0}), e.value("total", size_t{0}));
    if (kind == "fault")
      heard.faults.push_back({{"frame", e.value("index", 0LL) + 1},
                              {"what", e.value("what", "")},
                              {"text", e.value("words", "")}});
    if (kind == "done") heard.outcome = e.at("outcome"), heard.done = true;
  });
  QObject::connect(&line, &link::StandinLink::lost,
                   [&](const QString& why) { heard.broken = why.toStdString(); });
  if (asked.socket.empty())
    line.launch(link::StandinLink::Alone::Stops);
  else
    line.connect_to(QString::fromStdString(asked.socket));
  line.wait_connected();
  have_it_shot(line, rig, asked.empty_first, heard);
  if (asked.socket.empty()) line.ask({{"cmd", "quit"}});
  if (!heard.done) throw failed("The stand-in went away. " + heard.broken, "What it shot is on the card.");
  const Json& outcome = heard.outcome;
  if (outcome.contains("error"))
    throw Error(outcome.value("bad_input", false) ? Error::Kind::BadInput : Error::Kind::Failed,
                outcome.value("error", ""));
  const long long frames = outcome.value("frames", 0LL);
  if (stop_token().stop_requested())
    throw cancelled(fmt::format("Stopped. {} are on {}; add --empty-first to shoot there again.",
                                counted(frames, "{} frame", "{} frames"), asked.card));
  Answer answer;
  answer.json = outcome;
  answer.json["faults"] = heard.faults;
  file_take(take::load_take(asked.take), asked.take);
  answer.words = fmt::format("{} on {}, {} missed.\n", counted(frames, "{} frame", "{} frames"), asked.card,
                             outcome.value("missed", 0LL));
  for (const Json& f : heard.faults)
    answer.words += fmt::format("Frame {}: {}\n", f["frame"].get<long long>(), f["text"].get<std::string>());
  return answer;
}

Answer make_verb(const ShootOptions& asked) {
  const take::Take take = asked_take(asked);
  take.sums();
  render::FilmOrder order =
      films::film_order(take, asked.output, std::filesystem::path(asked.take).parent_path());
  order.guard = {{asked.take}, asked.force};
  media::check_coding(order.output, order.size, order.coding);
  media::check_film_output({order.output, FileKind::Film, order.guard});
  std::unique_ptr<TemporaryFolder> passing;
  fs::path card = asked.card;
  if (asked.card.empty()) {
    passing = std::make_unique<TemporaryFolder>(asked.output);
    card = passing->path() / "card";
  }
  try {
    shoot_shown(forecast::rig_of(take, card));
    const ingest::Gathered gathered = ingest::gather(card, {{}, stop_token()});
    const auto source =
        films::source_of(take, std::filesystem::path(asked.take).parent_path(), gathered.frames);
    return film_answer(render_shown(gathered.frames, order, *source), asked.output);
  } catch (const Error& e) {
    if (e.kind() != Error::Kind::Cancelled) throw;
    throw cancelled(passing ? "Stopped; no film was made, and its frames are gone."
                            : fmt::format("Stopped; no film was made. What was shot is on {}.", asked.card));
  }
}

}  // namespace

void add_shoot(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "shoot", "Have the stand-in camera shoot a take's plan");
  const auto asked = std::make_shared<ShootAsked>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  verb.add_option("--card", asked->card, "Folder that stands for the card").required();
  add_size(verb, "--frame-size", asked->size, "Size of the frames, for example 6000x4000");
  verb.add_option("--scene", asked->scene, "Tern Quay, Gannet Head, the alum jar or the Ropewalk");
  verb.add_option("--fault", asked->faults,
                  "What goes wrong: bump@120, dew@200, clock@1=3600 (may be given several times)");
  verb.add_option("--flaw", asked->flaws,
                  "What lens and sensor do to every frame: dust=5, hot=40, bent=-3, corners=1");
  verb.add_option("--chance", asked->chance,
                  "Chance of a skipped shot, a double one or a hand at every frame")
      .between(0.0, 1.0);
  verb.add_option("--seed", asked->seed, "Seed for what happens by chance").between(0LL, 1000000000000000LL);
  verb.add_option("--speed", asked->speed, "Field seconds per real second; by default as fast as possible");
  verb.add_flag("--raw", asked->raw, "Keep a raw file (DNG) of each exposure too");
  verb.add_option("--brackets", asked->brackets, "Exposures per shot and stops between them: 3x2");
  verb.add_option("--timer", asked->timer, "Name of the timer that presses");
  verb.add_flag(
      "--limits,!--no-limits", asked->limits,
      "Battery, card, buffer and timer run out as forecast, and cold counts; without, everything lasts");
  verb.add_flag("--auto-white-balance", asked->auto_wb, "Leave it on: colours drift");
  verb.add_flag("--auto-focus", asked->auto_focus, "Leave it on: it hunts");
  verb.add_flag("--stabiliser", asked->stabiliser, "Leave it on: the frame wanders");
  verb.add_flag("--empty-first", asked->empty_first,
                "Remove what the stand-in shot onto the card before; nothing else is touched");
  verb.add_option("--socket", asked->socket, "Socket of an askcount-standin that is already running");
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return shoot_verb(*asked); };
  });
}

void add_make(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "make", "The whole line: shoot, gather, level and cut a take");
  const auto asked = std::make_shared<ShootOptions>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  verb.add_option("-o,--output", asked->output, "The film to write (.mp4, .mov, .mkv)").required();
  verb.add_option("--card", asked->card, "Keep the shot frames in this folder");
  add_size(verb, "--frame-size", asked->size, "Size of the frames, for example 6000x4000");
  add_force(verb, asked->force);
  verb.callback([&chosen, asked] {
    chosen.stoppable = true;
    chosen.run = [asked] { return make_verb(*asked); };
  });
}

void add_demo(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "demo", "Write the demo take and have the stand-in shoot it");
  const auto folder = std::make_shared<std::string>();
  verb.add_option("folder", *folder, "Where to; frames already shot there are kept").required();
  verb.callback([&chosen, folder] {
    chosen.stoppable = true;
    chosen.run = [folder] {
      const fs::path home = *folder, card = home / "card", file = home / "boats-on-the-flood-tide.askcount";
      fs::create_directories(home);
      take::Take take = take::demo_take();
      take.card = "card";
      // Two frames a minute apart serve as the test pictures of how fast the clouds move.
      take.test_pictures = {"card/DCIM/100QUAY/QUAY0230.JPG", "card/DCIM/100QUAY/QUAY0233.JPG"};
      std::error_code ec;
      // Shot whole only if its record says so: it is written last. One that was interrupted is known by the
      // mark the stand-in writes first.
      if (!simulate::is_whole(card)) {
        if (simulate::is_standin_card(card))
          if (const simulate::Emptied left = simulate::empty_card(card); !left.kept.empty())
            throw bad_input(
                fmt::format("{} is on the demo's card but not the stand-in's.", left.kept.front().string()),
                "Move it away, or name another folder; it was not changed.");
        shoot_shown(forecast::rig_of(take, card));
      }
      if (!fs::exists(file, ec)) take::save_take(take, file);
      return Answer{
          {{"take", file.string()}, {"card", card.string()}},
          fmt::format("The demo take is {}, its frames are in {}.\n", file.string(), card.string())};
    };
  });
}

}  // namespace askcount::cli
