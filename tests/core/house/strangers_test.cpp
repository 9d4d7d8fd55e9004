// SPDX-License-Identifier: GPL-3.0-or-later
// Takes, kits and folders from strangers: they cannot make the program write where the person did not say.
#include "base/files.h"
#include "base/json.h"
#include "book/pack.h"
#include "book/paths.h"
#include "inspect/look.h"
#include "inspect/store.h"
#include "journal/journal.h"
#include "support.h"

namespace askcount {
namespace {

/// A folder as it might be unpacked from somewhere, and beside it what is the person's own.
class Strangers : public ::testing::Test {
 protected:
  void SetUp() override {
    test::fs::create_directories(folder_ / "unpacked");
    test::fs::create_directories(folder_ / "own");
    test::write(folder_ / "own/kit.json", own_);
  }
  void TearDown() override {
    EXPECT_EQ(read_file(folder_ / "own/kit.json"), own_);
    std::vector<std::string> names;
    for (const auto& e : test::fs::directory_iterator(folder_ / "own"))
      names.push_back(e.path().filename().string());
    EXPECT_EQ(names, std::vector<std::string>{"kit.json"}) << "something was written there";
  }
  Error refused(const std::function<void()>& what) {
    const Error e = test::error_of(what);
    EXPECT_EQ(e.kind(), Error::Kind::BadInput) << e.what();
    return e;
  }

  const std::string own_ = "{\"bodies\": []}\n";
  test::Folder folder_;
};

TEST_F(Strangers, AFilmsNameIsAFilesBesideTheTake) {
  const Json good = take::to_json(test::small_take(20));
  const auto with = [&](const char* key, const std::string& value) {
    take::FilmWish more;
    more.name = "second";
    take::Take take = test::small_take(20);
    take.more_films = {more};
    Json json = take::to_json(take);
    json["more_films"][0][key] = value;
    return json;
  };
  EXPECT_EQ(take::take_from_json(with("name", "for the jetty wall, 2:1"), "t").more_films.size(), 1u);
  for (const std::string& name : std::vector<std::string>{"../own/kit", "/tmp/x", "a/b", ".hidden", "..",
                                                          std::string("a\nb"), std::string(121, 'x')}) {
    const Error e = refused([&] { take::take_from_json(with("name", name), "t"); });
    EXPECT_NE(std::string(e.what()).find("film"), std::string::npos) << e.what();
  }
  for (const char* ending : {"json", "", "mp4/../../own/x", "sh", "."})
    refused([&] { take::take_from_json(with("ending", ending), "t"); });
  for (const char* ending : {"mp4", "mov", "mkv", "webm", "webp", "gif", "MP4"})
    EXPECT_EQ(take::take_from_json(with("ending", ending), "t").more_films[0].ending, ending);
}

/// Files beside a take are found by its name: one that came along as a link might lead anywhere.
TEST_F(Strangers, LinksThatCameAlongAreNotWrittenThrough) {
  const auto link = [&](const char* to, const char* name) {
    test::fs::create_symlink(folder_ / to, folder_ / "unpacked" / name);
    return folder_ / "unpacked" / name;
  };
  journal::Journal journal;
  refused([&] { journal.open(link("own/kit.json", "a.journal")); });
  refused([&] { journal.open(link("own/new.json", "b.journal")); });
  EXPECT_NO_THROW(journal.append({{"what", "note"}})) << "none is open";
  const media::Frames none = std::make_shared<std::vector<media::Frame>>();
  refused([&] { inspect::keep_look(link("own/new.db", "a.frames"), none, {}); });
  refused([&] { take::save_take(test::small_take(20), link("own/new.askcount", "c.askcount")); });
  refused([&] { take::save_take(test::small_take(20), link("own/kit.json", "d.askcount")); });
  refused([&] { write_file_atomically({link("own/new.mp4", "e.mp4"), FileKind::Film}, "x"); });
  refused([&] {
    write_file_atomically({link("own/other.mp4", "f.mp4"), FileKind::Film, {{}, true}}, "x");
  });  // not even when all else may be written over
}

TEST_F(Strangers, WhatWasPackedWithATakeSpeaksOfItsOwnFilesOnly) {
  book::Entry entry;
  entry.name = "From elsewhere";
  for (const char* file : {"films/dusk.mp4", "/etc/passwd", "../own/kit.json", "films/../../own/kit.json"}) {
    book::FilmMade film;
    film.file = file;
    film.seconds = 10, film.fps = 25, film.width = 96, film.height = 64;
    entry.films.push_back(film);
  }
  test::write(folder_ / "unpacked/dusk.book", book::to_json(entry).dump());
  const auto read = book::packed_with(folder_ / "unpacked/dusk.askcount");
  ASSERT_TRUE(read);
  ASSERT_EQ(read->films.size(), 1u);
  EXPECT_EQ(read->films[0].file, (folder_ / "unpacked/films/dusk.mp4").string());
}

/// Packing writes into what was named, whatever the take calls its files.
TEST_F(Strangers, PackingStaysWithinItsFolder) {
  take::Take take = test::small_take(20);
  take.card = "../own";
  take.film.sound = "../own/kit.json";
  take.look.cube = "../../../../../../etc/hostname";
  take::save_take(take, folder_ / "unpacked/dusk.askcount");
  book::Order order;
  order.take = folder_ / "unpacked/dusk.askcount";
  order.to = folder_ / "packed";
  const book::Packed packed = book::pack(order);
  EXPECT_GE(packed.files, 3u);
  for (const auto& e : test::fs::recursive_directory_iterator(folder_.path()))
    EXPECT_TRUE(test::fs::is_directory(e) || e.path().string().find("/packed/") != std::string::npos ||
                e.path().string().find("/unpacked/") != std::string::npos ||
                e.path() == folder_ / "own/kit.json")
        << e.path();
  const take::Take moved = take::load_take(folder_ / "packed/dusk.askcount");
  for (const std::string& name : {moved.card, moved.film.sound, moved.look.cube}) {
    EXPECT_FALSE(name.empty());
    EXPECT_FALSE(name.starts_with("/") || name.starts_with("..")) << name;
  }
}

}  // namespace
}  // namespace askcount
