#include <fmt/format.h>
#include <unistd.h>

#include <memory>

#include "base/error.h"
#include "base/units.h"
#include "film_answer.h"
#include "progress_line.h"
#include "take/make.h"

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
  std::string take, card, output, size;
};

take::Take asked_take(const Asked& asked) {
  take::Take take = take::load_take(asked.take);
  if (!asked.size.empty()) take.frame_size = parse_size(asked.size, "--frame-size");
  return take;
}

Answer shoot_verb(const Asked& asked) {
  const take::Take take = asked_take(asked);
  const standin::ShootOutcome o = shoot_shown(take::shoot_order(take, asked.card));
  Answer answer;
  answer.json = {{"frames", o.frames}, {"missed", o.missed}, {"folder", o.folder.string()}, {"truth", o.truth.string()}};
  answer.words = fmt::format("{} on {}, {} missed.\n", counted(o.frames, "frame"), asked.card, o.missed);
  return answer;
}

/// A folder of its own beside the film, gone with everything in it when the work is done.
class PassingCard {
 public:
  explicit PassingCard(const fs::path& film) {
    const fs::path parent = film.parent_path().empty() ? fs::path(".") : film.parent_path();
    std::string name = (parent / ".askcount-card-XXXXXX").string();
    if (!mkdtemp(name.data()))
      throw bad_input(fmt::format("Nothing can be written to the folder {}.", parent.string()), "Name another.");
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
  cut::check_film(asked.output, take.film.size);
  std::unique_ptr<PassingCard> passing;
  fs::path card = asked.card;
  if (asked.card.empty()) {
    passing = std::make_unique<PassingCard>(asked.output);
    card = passing->card();
  }
  shoot_shown(take::shoot_order(take, card));
  const gather::Gathered gathered = gather::gather(card);
  return film_answer(render_shown(take::cut_order(take, gathered.frames, asked.output)), asked.output);
}

}  // namespace

void add_shoot(CLI::App& app, Chosen& chosen) {
  CLI::App* verb = add_verb(app, chosen, "shoot", "Have the stand-in camera shoot a take's plan");
  const auto asked = std::make_shared<Asked>();
  verb->add_option("take", asked->take, "The take (.askcount)")->required();
  verb->add_option("--card", asked->card, "Folder that stands for the card")->required();
  verb->add_option("--frame-size", asked->size, "Size of the frames, for example 6000x4000");
  verb->callback([&chosen, asked] { chosen.run = [asked] { return shoot_verb(*asked); }; });
}

void add_make(CLI::App& app, Chosen& chosen) {
  CLI::App* verb = add_verb(app, chosen, "make", "The whole line: shoot, gather, level and cut a take");
  const auto asked = std::make_shared<Asked>();
  verb->add_option("take", asked->take, "The take (.askcount)")->required();
  verb->add_option("-o,--output", asked->output, "The film to write (.mp4, .mov, .mkv)")->required();
  verb->add_option("--card", asked->card, "Keep the shot frames in this folder");
  verb->add_option("--frame-size", asked->size, "Size of the frames, for example 6000x4000");
  verb->callback([&chosen, asked] { chosen.run = [asked] { return make_verb(*asked); }; });
}

void add_demo(CLI::App& app, Chosen& chosen) {
  CLI::App* verb = add_verb(app, chosen, "demo", "Write the demo take and have the stand-in shoot it");
  const auto folder = std::make_shared<std::string>();
  verb->add_option("folder", *folder, "Where to; shot frames that are there already are kept")->required();
  verb->callback([&chosen, folder] {
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
        shoot_shown(take::shoot_order(take, card));
      }
      if (!fs::exists(file, ec)) take::save_take(take, file);
      return Answer{{{"take", file.string()}, {"card", card.string()}},
                    fmt::format("The demo take is {}, its frames are in {}.\n", file.string(), card.string())};
    };
  });
}

}  // namespace askcount::cli
