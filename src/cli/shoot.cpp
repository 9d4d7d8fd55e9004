#include <fmt/format.h>
#include <unistd.h>

#include <QCoreApplication>

#include <memory>

#include "base/error.h"
#include "base/units.h"
#include "film_answer.h"
#include "gather/gather.h"
#include "link/standin_link.h"
#include "orders/film.h"
#include "orders/shoot.h"
#include "progress_line.h"
#include "standin/rig_json.h"
#include "standin/scene.h"

namespace askcount::cli {
namespace {

namespace fs = std::filesystem;

standin::ShootOutcome shoot_shown(const standin::ShootOrder& order) {
  ProgressLine line("Shooting");
  return standin::shoot(order, [&](const standin::ShotLanded& s) {
    line.show(static_cast<size_t>(s.done), static_cast<size_t>(s.total));
  });
}

struct Asked {
  std::string take, card, output;
  image::Size size;  ///< of the frames; {} for what the take has
};

/// What `shoot` can be told besides.
struct ShootAsked {
  std::string take, card, scene, speed, brackets, timer, socket;
  image::Size size;
  std::vector<std::string> faults;
  double chance = 0;
  long long seed = -1;
  bool raw = false, limits = false, auto_wb = false, auto_focus = false, stabiliser = false;
};

take::Take asked_take(const Asked& asked) {
  take::Take take = take::load_take(asked.take);
  if (asked.size.width > 0) take.stand_in.frame_size = asked.size;
  return take;
}

standin::RigSetting asked_rig(const ShootAsked& asked) {
  take::Take take = asked_take({asked.take, asked.card, "", asked.size});
  if (!asked.scene.empty()) {
    take.stand_in.scene = standin::scene_named(asked.scene);
    take.place = standin::scene_place(take.stand_in.scene);
  }
  if (!asked.timer.empty()) take.timer = plan::timer_named(take.kit, asked.timer).name;
  if (!asked.brackets.empty()) plan::parse_brackets(asked.brackets, take.shot);
  if (asked.seed >= 0) take.stand_in.camera.seed = static_cast<std::uint64_t>(asked.seed);
  standin::RigSetting rig = orders::rig_of(take, fs::absolute(asked.card), asked.limits);
  rig.raw = asked.raw;
  for (const std::string& f : asked.faults) rig.faults.push_back(standin::parse_fault(f));
  rig.chance = asked.chance;
  rig.scale = asked.speed.empty() ? 0 : parse_positive(asked.speed, "--speed");
  rig.auto_white_balance = asked.auto_wb;
  rig.auto_focus = asked.auto_focus;
  rig.stabiliser = asked.stabiliser;
  return rig;
}

Answer shoot_verb(const ShootAsked& asked) {
  const standin::RigSetting rig = asked_rig(asked);
  standin::check_empty_card(rig.card);
  int argc = 1;
  char name[] = "askcount";
  char* argv[] = {name, nullptr};
  QCoreApplication app(argc, argv);
  link::StandinLink line;
  Json faults = Json::array(), outcome;
  ProgressLine progress("Shooting");
  bool done = false;
  std::string broken;
  QObject::connect(&line, &link::StandinLink::event, [&](const Json& e) {
    const std::string kind = e.value("event", "");
    if (kind == "shot") progress.show(e["done"].get<size_t>(), e["total"].get<size_t>());
    if (kind == "fault")
      faults.push_back(
          {{"frame", e["index"].get<long long>() + 1}, {"what", e["what"]}, {"text", e["words"]}});
    if (kind == "done") outcome = e["outcome"], done = true;
  });
  QObject::connect(&line, &link::StandinLink::lost, [&](const QString& why) { broken = why.toStdString(); });
  if (asked.socket.empty())
    line.launch();
  else
    line.connect_to(QString::fromStdString(asked.socket));
  line.wait_connected();
  const Json sent = standin::to_json(rig);
  line.call({{"cmd", "set"}, {"rig", sent}});
  // Read back and compared: what was told is what stands there.
  if (const Json back = line.call({{"cmd", "read"}})["rig"]; back["timer"] != sent["timer"])
    throw failed("The stand-in's timer does not stand on what it was told.");
  line.call({{"cmd", "start"}});
  while (!done && line.is_connected()) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents, 100);
  if (!done) throw failed("The stand-in went away: " + broken, "What it shot is on the card.");
  if (outcome.contains("error"))
    throw Error(outcome.value("bad_input", false) ? Error::Kind::BadInput : Error::Kind::Failed,
                outcome["error"].get<std::string>());
  Answer answer;
  answer.json = outcome;
  answer.json["faults"] = faults;
  answer.words = fmt::format("{} on {}, {} missed.\n", counted(outcome["frames"].get<long long>(), "frame"),
                             asked.card, outcome["missed"].get<long long>());
  for (const Json& f : faults)
    answer.words += fmt::format("Frame {}: {}\n", f["frame"].get<long long>(), f["text"].get<std::string>());
  return answer;
}

/// A folder of its own beside the film, gone with everything in it when the work is done.
class PassingCard {
 public:
  explicit PassingCard(const fs::path& film) {
    const fs::path parent = film.parent_path().empty() ? fs::path(".") : film.parent_path();
    std::string name = (parent / ".askcount-card-XXXXXX").string();
    if (!mkdtemp(name.data()))
      throw bad_input(fmt::format("Nothing can be written to the folder {}.", parent.string()),
                      "Name another.");
    home_ = name;
  }
  ~PassingCard() {
    std::error_code ec;
    fs::remove_all(home_, ec);
  }
  PassingCard(const PassingCard&) = delete;
  fs::path card() const { return home_ / "card"; }

 private:
  fs::path home_;
};

Answer make_verb(const Asked& asked) {
  const take::Take take = asked_take(asked);
  take.sums();
  film::check_film(asked.output, take.film.size);
  std::unique_ptr<PassingCard> passing;
  fs::path card = asked.card;
  if (asked.card.empty()) {
    passing = std::make_unique<PassingCard>(asked.output);
    card = passing->card();
  }
  shoot_shown(orders::shoot_order(take, card));
  const gather::Gathered gathered = gather::gather(card);
  return film_answer(render_shown(gathered.frames, orders::film_order(take, asked.output)), asked.output);
}

}  // namespace

void add_shoot(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "shoot", "Have the stand-in camera shoot a take's plan");
  const auto asked = std::make_shared<ShootAsked>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  verb.add_option("--card", asked->card, "Folder that stands for the card").required();
  add_size(verb, "--frame-size", asked->size, "Size of the frames, for example 6000x4000");
  verb.add_option("--scene", asked->scene, "Tern Quay, Gannet Head or the alum jar");
  verb.add_option("--fault", asked->faults,
                  "What goes wrong: bump@120, dew@200, clock@1=3600 (may be given several times)");
  verb.add_option("--chance", asked->chance, "Of a skipped shot, a double one or a hand at every frame")
      .between(0.0, 1.0);
  verb.add_option("--seed", asked->seed, "For what happens by chance").between(0LL, 1000000000000000LL);
  verb.add_option("--speed", asked->speed, "Field seconds in a real second; without it as fast as it can");
  verb.add_flag("--raw", asked->raw, "Keep a raw file (DNG) of each exposure too");
  verb.add_option("--brackets", asked->brackets, "Exposures a shot and stops between them: 3x2");
  verb.add_option("--timer", asked->timer, "Name of the timer that presses");
  verb.add_flag("--limits", asked->limits, "The kit's battery, card and buffer end, and the cold counts");
  verb.add_flag("--auto-white-balance", asked->auto_wb, "Leave it on: colours drift");
  verb.add_flag("--auto-focus", asked->auto_focus, "Leave it on: it hunts");
  verb.add_flag("--stabiliser", asked->stabiliser, "Leave it on: the frame wanders");
  verb.add_option("--socket", asked->socket, "Of an askcount-standin that runs already");
  verb.callback([&chosen, asked] { chosen.run = [asked] { return shoot_verb(*asked); }; });
}

void add_make(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "make", "The whole line: shoot, gather, level and cut a take");
  const auto asked = std::make_shared<Asked>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  verb.add_option("-o,--output", asked->output, "The film to write (.mp4, .mov, .mkv)").required();
  verb.add_option("--card", asked->card, "Keep the shot frames in this folder");
  add_size(verb, "--frame-size", asked->size, "Size of the frames, for example 6000x4000");
  verb.callback([&chosen, asked] { chosen.run = [asked] { return make_verb(*asked); }; });
}

void add_demo(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "demo", "Write the demo take and have the stand-in shoot it");
  const auto folder = std::make_shared<std::string>();
  verb.add_option("folder", *folder, "Where to; shot frames that are there already are kept").required();
  verb.callback([&chosen, folder] {
    chosen.run = [folder] {
      const fs::path home = *folder, card = home / "card", file = home / "boats-on-the-flood-tide.askcount";
      fs::create_directories(home);
      take::Take take = take::demo_take();
      take.card = "card";
      // Two frames a minute apart serve as the test pictures of how fast the clouds move.
      take.test_pictures = {"card/DCIM/100QUAY/QUAY0230.JPG", "card/DCIM/100QUAY/QUAY0233.JPG"};
      std::error_code ec;
      // Shot whole only if the record of it is there: it is written last.
      if (!fs::exists(card.string() + ".truth.json", ec)) {
        fs::remove_all(card / "DCIM", ec);
        shoot_shown(orders::shoot_order(take, card));
      }
      if (!fs::exists(file, ec)) take::save_take(take, file);
      return Answer{
          {{"take", file.string()}, {"card", card.string()}},
          fmt::format("The demo take is {}, its frames are in {}.\n", file.string(), card.string())};
    };
  });
}

}  // namespace askcount::cli
