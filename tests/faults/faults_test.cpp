// SPDX-License-Identifier: GPL-3.0-or-later
// Everything that writes, with every fault of the disk: what was there before stays, what is made is whole or
// is not there, what was said to be kept is kept, and the originals are never touched.
#include <sys/wait.h>
#include <unistd.h>
#include <nlohmann/json.hpp>

#include <cstdio>
#include <regex>

#include "base/files.h"
#include "book/book.h"
#include "book/learn.h"
#include "book/pack.h"
#include "book/paths.h"
#include "cards.h"
#include "films/finish.h"
#include "forecast/light.h"
#include "forecast/trial.h"
#include "ingest/copy.h"
#include "inspect/look.h"
#include "inspect/store.h"
#include "journal/journal.h"
#include "look/anchors.h"
#include "look/cube.h"
#include "paper/calendar.h"
#include "paper/cards.h"
#include "render/check.h"
#include "render/develop.h"
#include "simulate/reel.h"
#include "simulate/shoot.h"
#include "take/take.h"
#include "trial.h"

namespace askcount::faults {
namespace {

/// A card of six small frames, as some camera writes it.
void write_small_card(const fs::path& folder, int frames = 6) {
  test::Card card;
  card.size = {96, 64};
  card.frames = frames;
  test::write_card(card, folder);
}

/// Whether a name is that one.
auto only(const std::string& wanted) {
  return [wanted](const std::string& name) { return name == wanted; };
}

std::string content(const After& after, const std::string& name) {
  const auto it = after.files.find(name);
  return it == after.files.end() ? std::string() : it->second;
}

/// A file is as it was, or as it is to be: the latter where the work ended well, the former where it was
/// refused.
void expect_old_or_new(const After& after, const std::string& name,
                       const std::function<bool(const std::string&)>& is_new) {
  const auto had = after.before.find(name);
  const std::string old = had == after.before.end() ? std::string() : had->second;
  const std::string now = content(after, name);
  const bool as_it_was = after.files.contains(name) == (had != after.before.end()) && now == old;
  if (after.ended == Ended::Well) {
    EXPECT_TRUE(is_new(now)) << name << " is not what the work says it made";
  } else if (after.ended == Ended::Refused) {
    EXPECT_TRUE(as_it_was) << name << " was touched by work that was refused";
  } else {
    EXPECT_TRUE(as_it_was || is_new(now)) << name << " is neither what it was nor what it was to be";
  }
}

/// Sheets and calendars say in their data when they were made; no more than that may differ.
std::string dateless(std::string text) {
  static const std::regex made("/CreationDate \\([^)]*\\)|DTSTAMP:[0-9TZ]*");
  return std::regex_replace(text, made, "");
}

/// A document of ours, written over an older one.
Trial document(const std::string& name, const std::function<void(const fs::path& file, bool newer)>& write) {
  Trial trial;
  trial.prepare = [=](const fs::path& folder) {
    write(folder / name, false);
    test::write(folder / "photograph.jpg", std::string("\xff\xd8\xff an original"));
  };
  trial.work = [=](const fs::path& folder) { write(folder / name, true); };
  trial.makes = only(name);
  trial.check = [=](const After& after) {
    if (after.whole.empty()) return;  // the first time is the one without a fault
    EXPECT_NE(after.whole.at(name), after.before.at(name)) << "the trial changes nothing";
    expect_old_or_new(
        after, name, [&](const std::string& now) { return dateless(now) == dateless(after.whole.at(name)); });
  };
  return trial;
}

take::Take take_called(const char* name) {
  take::Take take = test::small_take(40);
  take.name = name;
  return take;
}

TEST(Faults, OfATake) {
  try_with_faults("take", document("dusk.askcount", [](const fs::path& file, bool newer) {
                    take::save_take(take_called(newer ? "Newer" : "Older"), file);
                  }));
}

TEST(Faults, OfATakeBehindALink) {
  Trial trial;
  trial.prepare = [](const fs::path& folder) {
    fs::create_directory(folder / "elsewhere");
    take::save_take(take_called("Older"), folder / "elsewhere/dusk.askcount");
  };
  trial.work = [](const fs::path& folder) {
    std::error_code ec;
    fs::create_symlink("elsewhere/dusk.askcount", folder / "linked.askcount", ec);
    take::save_take(take_called("Newer"), folder / "linked.askcount");
  };
  trial.makes = [](const std::string& name) {
    return name == "elsewhere/dusk.askcount" || name == "linked.askcount";
  };
  trial.keeps_what_is_whole = true;  // the link
  trial.check = [](const After& after) {
    const take::Take now = take::load_take(after.folder / "elsewhere/dusk.askcount");
    EXPECT_TRUE(now.name == "Newer" || (after.ended != Ended::Well && now.name == "Older")) << now.name;
  };
  try_with_faults("take behind a link", trial);
}

TEST(Faults, OfAKit) {
  try_with_faults("kit", document("kit.json", [](const fs::path& file, bool newer) {
                    Json kit = plan::to_json(take::demo_take().kit);
                    kit["bodies"][0]["shutter_count"] = newer ? 5000 : 4000;
                    write_file_atomically({file, FileKind::Kit}, kit.dump(2));
                  }));
}

TEST(Faults, OfLooksAndTables) {
  try_with_faults("looks", document("dusk.look", [](const fs::path& file, bool newer) {
                    look::Anchor anchor;
                    anchor.look.light = newer ? 0.5 : 0.25;
                    look::save_looks({anchor}, file);
                  }));
  try_with_faults("cube", document("warm.cube", [](const fs::path& file, bool newer) {
                    look::Cube cube{newer ? "newer" : "older", 2, std::vector<float>(24, 0.5F)};
                    look::save_cube(cube, file);
                  }));
}

TEST(Faults, OfSheetsAndTheCalendar) {
  try_with_faults("plan sheet", document("plan.pdf", [](const fs::path& file, bool newer) {
                    paper::write_plan_sheet(take_called(newer ? "Newer" : "Older"), file);
                  }));
  try_with_faults("cue card", document("cues.pdf", [](const fs::path& file, bool newer) {
                    const take::Take take = take_called(newer ? "Newer" : "Older");
                    paper::write_cue_card(take, forecast::ramp_of(take), file);
                  }));
  try_with_faults("calendar", document("dusk.ics", [](const fs::path& file, bool newer) {
                    paper::write_calendar(take_called(newer ? "Newer" : "Older"), file);
                  }));
}

TEST(Faults, OfAFileThatIsWaitedFor) {
  Trial trial;
  trial.prepare = [](const fs::path& folder) { test::write(folder / "thumb.png", std::string()); };
  trial.work = [](const fs::path& folder) {
    fill_waiting_file({folder / "thumb.png", FileKind::Picture, {{}, true}}, std::string(5000, 'p'));
  };
  trial.makes = only("thumb.png");
  trial.check = [](const After& after) {
    if (after.ended == Ended::Well) {
      EXPECT_EQ(content(after, "thumb.png").size(), 5000u);
    }
    if (after.ended == Ended::Refused) {
      EXPECT_EQ(content(after, "thumb.png"), "");
    }
  };
  trial.again = false;
  trial.durable = false;  // a file manager's small picture: made again where it is gone
  try_with_faults("waited for", trial);
}

Json line(int n) {
  return {{"what", "shot"}, {"number", n}, {"note", std::string(200, 'x')}};
}

TEST(Faults, OfAJournal) {
  Trial trial;
  trial.prepare = [](const fs::path& folder) {
    journal::Journal older;
    older.open(folder / "dusk.journal");
    for (int n = 0; n < 3; ++n) older.append(line(n));
  };
  trial.work = [](const fs::path& folder) {
    journal::Journal now;
    now.open(folder / "dusk.journal");
    const auto had = static_cast<int>(journal::read_journal(folder / "dusk.journal").size());
    for (int n = had; n < had + 8; ++n) {
      now.append(line(n));
      acknowledge();
    }
  };
  trial.makes = only("dusk.journal");
  trial.check = [](const After& after) {
    const auto lines = journal::read_journal(after.folder / "dusk.journal");
    EXPECT_GE(lines.size(), 3u + static_cast<size_t>(after.acknowledged));
    for (size_t n = 0; n < lines.size(); ++n) {
      EXPECT_EQ(lines[n].value("number", -1), static_cast<int>(n)) << "a line is lost or doubled";
    }
    const std::string text = content(after, "dusk.journal");
    EXPECT_TRUE(text.starts_with(after.before.at("dusk.journal"))) << "what was written is never changed";
    if (after.ended != Ended::Died) {
      EXPECT_TRUE(text.ends_with("\n")) << "half a line is left";
    }
  };
  try_with_faults("journal", trial);
}

/// A shoot goes on when the disk does: the lines after a fault stand by themselves.
TEST(Faults, OfAJournalThatGoesOn) {
  Trial trial;
  trial.prepare = [](const fs::path& folder) {
    journal::Journal older;
    older.open(folder / "dusk.journal");
    older.append(line(0));
  };
  trial.work = [](const fs::path& folder) {
    journal::Journal now;
    now.open(folder / "dusk.journal");
    for (int n = 1; n < 6; ++n) try {
        now.append(line(n));
        acknowledge();
      } catch (const Error&) {
        // It was said; the next frame comes.
      }
  };
  trial.makes = only("dusk.journal");
  trial.check = [](const After& after) {
    const auto lines = journal::read_journal(after.folder / "dusk.journal");
    EXPECT_GE(static_cast<int>(lines.size()), 1 + after.acknowledged) << "a line that was kept is lost";
  };
  trial.again = false;
  try_with_faults("journal that goes on", trial);
}

book::Entry entry(int n) {
  book::Entry e;
  e.how = book::How::Hand;
  e.name = fmt::format("Take {}", n);
  e.start = Instant(std::chrono::hours(24 * n + 24));
  e.words.note = std::string(500, 'n');
  return e;
}

TEST(Faults, OfTheBook) {
  Trial trial;
  trial.prepare = [](const fs::path& folder) {
    book::Book book(folder / "book.db");
    for (int n = 0; n < 4; ++n) book.file(entry(n));
  };
  trial.work = [](const fs::path& folder) {
    book::Book book(folder / "book.db");
    const auto had = static_cast<int>(book.list().rows.size());
    for (int n = had; n < had + 3; ++n) {
      const long long id = book.file(entry(n));
      acknowledge();
      book.say(id, {book::Verdict::Well, "Said", "", true});
    }
  };
  trial.makes = [](const std::string& name) { return name == "book.db" || name == "book.takes"; };
  trial.keeps_what_is_whole = true;
  trial.check = [](const After& after) {
    EXPECT_FALSE(after.files.contains("book.db.damaged")) << "a fault of the disk is no damage of the book";
    const fs::path copy = after.folder.string() + " looked at";
    fs::remove_all(copy);
    fs::copy(after.folder, copy, fs::copy_options::recursive);
    book::Book book(copy / "book.db");
    book.check();
    EXPECT_EQ(book.told(), "") << "it is whole";
    EXPECT_GE(static_cast<int>(book.list().rows.size()), 4 + after.acknowledged);
    for (const book::Row& r : book.list().rows)
      EXPECT_EQ(book.entry(r.id)->words.note.size() > 100, r.words.verdict == book::Verdict::None);
    // And made anew from the list beside it, it has as many.
    EXPECT_GE(static_cast<int>(book::listed(copy / "book.db").size()), 4 + after.acknowledged);
  };
  trial.at_most = 12;
  try_with_faults("book", trial);
}

TEST(Faults, OfWhatWasMeasuredOfFrames) {
  const auto measure = [](const fs::path& folder) {
    const ingest::Gathered found = ingest::gather(folder / "card");
    inspect::keep_look(folder / "dusk.frames", found.frames,
                       inspect::look_at(found.frames, media::any_source()));
  };
  Trial trial;
  trial.prepare = [measure](const fs::path& folder) {
    write_small_card(folder / "card");
    measure(folder);
  };
  trial.work = measure;
  trial.makes = only("dusk.frames");
  trial.check = [](const After& after) {
    if (after.ended == Ended::Well) {
      const ingest::Gathered found = ingest::gather(after.folder / "card");
      EXPECT_TRUE(inspect::kept_look(after.folder / "dusk.frames", found.frames).has_value());
    }
  };
  trial.at_most = 8;
  try_with_faults("measures", trial);
}

TEST(Faults, OfACopy) {
  Trial trial;
  trial.prepare = [](const fs::path& folder) {
    write_small_card(folder / "card");
    fs::create_directories(folder / "to");
    test::write(folder / "to/notes.txt", std::string("theirs"));
  };
  trial.work = [](const fs::path& folder) {
    ingest::CopyOrder order;
    order.cards = {folder / "card"};
    order.to = folder / "to";
    order.also = folder / "also";
    const ingest::CopyOutcome outcome = ingest::copy(order);
    if (!outcome.checked_twice) throw failed(fmt::format("{} was not checked.", order.to.string()));
  };
  trial.makes = [](const std::string& name) {
    return (name.starts_with("to/") || name.starts_with("also/")) && name != "to/notes.txt";
  };
  trial.keeps_what_is_whole = true;
  trial.check = [](const After& after) {
    for (const char* to : {"to/", "also/"}) {
      for (const auto& [name, bytes] : after.before) {
        if (!name.starts_with("card/")) continue;
        const std::string copied = to + name.substr(5);
        const auto now = after.files.find(copied);
        if (now == after.files.end()) {
          EXPECT_NE(after.ended, Ended::Well) << copied << " is missing";
        } else {
          EXPECT_TRUE(now->second == bytes) << copied << " is half of it";
        }
      }
      if (after.ended == Ended::Well) {
        EXPECT_TRUE(after.files.contains(to + std::string(ingest::kManifest)));
      }
    }
  };
  try_with_faults("copy", trial);
}

/// Copies a card through a reader that gets one bit of every so manyth read wrong, in a process of its own.
enum class Through { Checked, Refused, Lie };
Through copied_through(const fs::path& folder, int every) {
  std::fflush(nullptr);
  const pid_t child = ::fork();
  if (child == 0) {
    ingest::CopyOrder order;
    order.cards = {folder / "card"};
    order.to = folder / "to";
    order.also = folder / "also";
    watch(folder / "card");
    make_disk({.flips_every = every});
    bool checked = false;
    try {
      checked = ingest::copy(order).checked_twice;
    } catch (const Error&) {
    }
    watch({});
    bool same = checked;
    for (const char* to : {"to", "also"})
      for (const auto& [name, bytes] : files_below(folder / "card"))
        same = same && files_below(folder / to)[name] == bytes;
    ::_exit(static_cast<int>(!checked ? Through::Refused : same ? Through::Checked : Through::Lie));
  }
  int status = 0;
  ::waitpid(child, &status, 0);
  return static_cast<Through>(WEXITSTATUS(status));
}

/// What is called checked is what was on the card.
TEST(Faults, OfACopyThroughABadReader) {
  int refused = 0;
  for (int every = 2; every <= 40; ++every) {  // one that is always wrong in the same way cannot be found out
    const test::Folder home;
    write_small_card(home / "card");
    const Through how = copied_through(home.path(), every);
    EXPECT_NE(how, Through::Lie) << "every " << every;
    refused += how == Through::Refused;
  }
  EXPECT_GT(refused, 5) << "the reader errs";
}

/// A disk that knows neither links nor a rename that never replaces, as exFAT by FUSE.
TEST(Faults, OfACopyToADiskWithoutLinks) {
  Trial trial;
  trial.prepare = [](const fs::path& folder) {
    write_small_card(folder / "card", 3);
    fs::create_directories(folder / "to");
  };
  trial.work = [](const fs::path& folder) {
    ingest::CopyOrder order;
    order.cards = {folder / "card"};
    order.to = folder / "to";
    const ingest::CopyOutcome outcome = ingest::copy(order);
    if (!outcome.checked_twice) throw failed(fmt::format("{} was not checked.", order.to.string()));
  };
  trial.makes = [](const std::string& name) { return name.starts_with("to/"); };
  trial.keeps_what_is_whole = true;
  trial.at_most = 10;
  trial.disk.knows_links = false;
  trial.again = false;  // killed between taking the name and filling it: the copy after that lies beside it
  trial.check = [](const After& after) {
    for (const auto& [name, bytes] : after.before)
      if (const auto now = after.files.find("to/" + name.substr(5)); now != after.files.end()) {
        EXPECT_TRUE(now->second == bytes || (after.ended != Ended::Well && now->second.empty())) << name;
      } else {
        EXPECT_NE(after.ended, Ended::Well) << name;
      }
  };
  try_with_faults("copy without links", trial);
}

/// What a film of the small card is ordered as.
render::FilmOrder film_order(const fs::path& folder, const std::string& name) {
  render::FilmOrder order;
  order.output = folder / name;
  order.size = {96, 64};
  order.coding = {30, "ultrafast", 8};
  return order;
}

TEST(Faults, OfAFilmAndWhatLiesBesideIt) {
  Trial trial;
  trial.prepare = [](const fs::path& folder) {
    write_small_card(folder / "card", 8);
    test::Card older;
    older.size = {96, 64};
    older.frames = 3;
    test::write_card(older, folder / "older");
    render::render(ingest::gather(folder / "older").frames, media::any_source(),
                   film_order(folder, "dusk.mp4"));
  };
  trial.work = [](const fs::path& folder) {
    const ingest::Gathered found = ingest::gather(folder / "card");
    const render::FilmOrder order = film_order(folder, "dusk.mp4");
    const render::FilmOutcome outcome = render::render(found.frames, media::any_source(), order);
    films::BesideFilm beside;
    beside.poster = folder / "dusk poster.png";
    beside.report = true;
    for (const Finding& f : films::finish_film(order, found.frames->size(), outcome, beside).findings)
      if (f.code == "poster_failed") throw failed(f.text);
  };
  trial.makes = [](const std::string& name) { return name.starts_with("dusk"); };
  trial.keeps_what_is_whole = true;  // the film, where the poster could not be written
  trial.check = [](const After& after) {
    const render::FilmCheck film = render::check_film(after.folder / "dusk.mp4");
    // A frame that the fault made unreadable is left out; what there is decodes.
    EXPECT_TRUE((film.decoded >= 7 && film.decoded <= 8) || (after.ended != Ended::Well && film.decoded == 3))
        << film.decoded;
    const std::string poster = content(after, "dusk poster.png");
    if (after.ended == Ended::Well || !poster.empty()) {
      EXPECT_TRUE(poster.starts_with("\x89PNG") && poster.find("IEND") != std::string::npos);
    }
    if (const std::string report = content(after, "dusk.mp4.json"); !report.empty()) {
      EXPECT_TRUE(Json::accept(report));
    }
  };
  trial.at_most = 12;
  trial.again = false;  // a poster is never written over: the second is called otherwise
  try_with_faults("film", trial);
}

TEST(Faults, OfAFilmBeforeTheShoot) {
  const auto film_of = [](const fs::path& folder, int frames) {
    simulate::TrialPlan plan = forecast::trial_of(test::small_take(frames, {96, 64}));
    plan.size = {96, 64};
    simulate::write_reel(simulate::TrialFilm(plan), nullptr, folder / "trial.mp4", {}, {});
  };
  Trial trial;
  trial.prepare = [&](const fs::path& folder) { film_of(folder, 5); };
  trial.work = [&](const fs::path& folder) { film_of(folder, 8); };
  trial.makes = only("trial.mp4");
  trial.check = [](const After& after) {
    const long long decoded = render::check_film(after.folder / "trial.mp4").decoded;
    EXPECT_TRUE(decoded == 8 || (after.ended != Ended::Well && decoded == 5)) << decoded;
  };
  trial.at_most = 6;
  try_with_faults("film before the shoot", trial);
}

TEST(Faults, OfASequenceForAnEditor) {
  for (const render::Format format : {render::Format::Tiff16, render::Format::Jpeg}) {
    Trial trial;
    trial.prepare = [](const fs::path& folder) { write_small_card(folder / "card", 4); };
    trial.work = [format](const fs::path& folder) {
      const ingest::Gathered found = ingest::gather(folder / "card");
      render::Order order;
      order.folder = folder / "pictures";
      order.format = format;
      order.size = {48, 32};
      render::develop(found.frames, media::any_source(), order);
    };
    trial.makes = [](const std::string& name) { return name.starts_with("pictures/"); };
    trial.keeps_what_is_whole = true;
    trial.check = [format](const After& after) {
      int whole = 0;
      for (const auto& [name, bytes] : after.files)
        if (name.starts_with("pictures/") && !name.starts_with("pictures/.")) {
          ++whole;
          EXPECT_NO_THROW(media::any_source().read(media::frame_of(after.folder / name), {{24, 16}, {}}))
              << name;
          EXPECT_NE(render::mark_of(after.folder / name, format), "") << name << " is not whole";
        }
      if (after.ended == Ended::Well) {
        EXPECT_GE(whole, 3);
      }
    };
    trial.at_most = 8;
    trial.again_after_reads =
        false;  // without the frame that could not be read the others are levelled otherwise
    try_with_faults(fmt::format("sequence of {}", render::ending_of(format)), trial);
  }
}

TEST(Faults, OfAPackedTake) {
  for (const char* to : {"packed.tar", "packed.zip", "packed"}) {
    const bool archive = std::string(to) != "packed";
    Trial trial;
    trial.prepare = [](const fs::path& folder) {
      write_small_card(folder / "card", 3);
      take::Take take = take_called("Packed");
      take.card = "card";
      take::save_take(take, folder / "dusk.askcount");
      journal::Journal journal;
      journal.open(folder / "dusk.journal");
      journal.append(line(0));
    };
    trial.work = [to, archive](const fs::path& folder) {
      book::Order order;
      order.take = folder / "dusk.askcount";
      order.to = folder / to;
      const bool in_place = archive && fs::exists(order.to);  // the fault came when it was there already
      try {
        book::pack(order);
      } catch (const Error&) {
        if (!in_place) throw;
      }
    };
    trial.makes = [to](const std::string& name) {
      return name == to || name.starts_with(to + std::string("/"));
    };
    trial.keeps_what_is_whole = !archive;
    trial.check = [to, archive](const After& after) {
      if (archive) {
        const bool there = after.files.contains(to);
        EXPECT_TRUE(there || after.ended != Ended::Well);
        if (there) {
          const std::string list = std::string(to).ends_with(".tar") ? "tar -tf '" : "unzip -tq '";
          EXPECT_EQ(test::run(list + (after.folder / to).string() + "'").exit, 0)
              << "it is there but not whole";
        }
        return;
      }
      for (const auto& [name, bytes] : after.before)
        if (const auto now = after.files.find(std::string(to) + "/" + name);
            name.starts_with("card/") && now != after.files.end()) {
          EXPECT_TRUE(now->second == bytes) << name;
        }
      if (after.files.contains("packed/dusk.askcount")) {  // it comes last
        EXPECT_EQ(take::load_take(after.folder / "packed/dusk.askcount").name, "Packed");
        EXPECT_TRUE(after.files.contains("packed/dusk.journal"));
      }
    };
    trial.at_most = 6;
    trial.again = archive;  // a folder that is begun is not written into
    try_with_faults(fmt::format("pack to {}", to), trial);
  }
}

TEST(Faults, OfTheStandInsCard) {
  Trial trial;
  trial.prepare = [](const fs::path& folder) { write_small_card(folder / "other card", 2); };
  trial.work = [](const fs::path& folder) {
    simulate::ShootOrder order = forecast::shoot_order(test::small_take(3, {60, 40}), folder / "card");
    simulate::shoot(order);
  };
  trial.makes = [](const std::string& name) {
    return name.starts_with("card/") || name.starts_with("card.");
  };
  trial.keeps_what_is_whole = true;
  trial.check = [](const After& after) {
    for (const auto& [name, bytes] : after.files)
      if (name.starts_with("card/") && name.ends_with(".JPG") && name.find("/.") == std::string::npos) {
        EXPECT_TRUE(bytes.starts_with("\xff\xd8") && bytes.ends_with("\xff\xd9"))
            << name << " is half a frame";
      }
  };
  trial.at_most = 8;
  trial.again = false;    // its card is not empty then, and it says so
  trial.durable = false;  // what a stand-in shot is shot again
  try_with_faults("stand-in", trial);
}

/// How many there were, by kind: what the promises say of it is held to here. The last of this program's
/// tests.
TEST(FaultsTold, AThousandAndOfEveryKind) {
  int all = 0;
  std::map<std::pair<Call, Way>, int> kinds;
  for (const auto& [name, faults] : tally())
    for (const auto& [kind, n] : faults) kinds[kind] += n, all += n;
  for (const auto& [kind, n] : kinds) fmt::print("{:7} {:8} {:5}\n", word(kind.first), word(kind.second), n);
  for (const auto& [name, faults] : tally()) {
    int n = 0;
    for (const auto& [kind, times] : faults) n += times;
    fmt::print("{:24} {:5}\n", name, n);
  }
  fmt::print("{} faults\n", all);
  EXPECT_GE(all, 1000);
  for (const Call call : kCalls)
    for (const Way way : kWays)
      if (can_fail(call, way)) {
        EXPECT_GT((kinds[{call, way}]), 0) << word(call) << ", " << word(way);
      }
}

}  // namespace
}  // namespace askcount::faults
