// SPDX-License-Identifier: GPL-3.0-or-later
// A take packed: everything that belongs to it, opened elsewhere with paths that fit.
#include "book/pack.h"

#include "base/files.h"
#include "book/archive.h"
#include "book/book.h"
#include "book/learn.h"
#include "ingest/digest.h"
#include "support.h"
#include "take/take.h"

namespace askcount::book {
namespace {

struct PackTest : testing::Test {
  test::Folder folder_;
  take::Take take_ = test::small_take(12, {96, 64});
  test::fs::path file_ = folder_ / "home" / "boats.askcount";

  void SetUp() override {
    test::fs::create_directories(folder_ / "home" / "tables");
    test::fs::create_directories(folder_ / "elsewhere");
    take_.card = "card";
    simulate::shoot(forecast::shoot_order(take_, folder_ / "home" / "card"));
    test::write(folder_ / "home" / "tables" / "warm.cube", std::string("TITLE \"warm\"\n"));
    test::write(folder_ / "elsewhere" / "sea.flac", std::string("sound"));
    test::write(folder_ / "home" / "boats.journal", std::string("{\"what\": \"start\"}\n"));
    test::write(folder_ / "home" / "boats.2026-10-09-175000.journal", std::string("{\"what\": \"start\"}\n"));
    test::write(folder_ / "home" / "boatshed.journal", std::string("{}\n"));
    take_.look.cube = "tables/warm.cube";
    take_.film.sound = (folder_ / "elsewhere" / "sea.flac").string();
    take::FilmWish second = take_.film;
    second.name = "tall";
    take_.more_films = {second};
    take_.test_pictures = {"gone1.jpg", "gone2.jpg"};
    take::save_take(take_, file_);
  }
  /// Every file below a folder with its digest.
  static std::map<std::string, std::string> all(const test::fs::path& where) {
    std::map<std::string, std::string> list;
    for (const auto& e : test::fs::recursive_directory_iterator(where))
      if (e.is_regular_file())
        list[e.path().lexically_relative(where).generic_string()] = ingest::digest_on_disk(e.path());
    return list;
  }
};

TEST_F(PackTest, AFolderOpensWhereverItIsPut) {
  const auto before = all(folder_.path());
  const Packed packed = pack({file_, folder_ / "packed", {}});
  EXPECT_EQ(packed.missing, (std::vector<std::string>{"gone1.jpg", "gone2.jpg"}));
  auto after = all(folder_.path());
  std::erase_if(after, [](const auto& f) { return f.first.starts_with("packed/"); });
  EXPECT_EQ(after, before) << "nothing of the take's own has changed";
  // Moved, and the first home gone.
  test::fs::create_directories(folder_ / "far");
  test::fs::rename(folder_ / "packed", folder_ / "far" / "boats");
  test::fs::remove_all(folder_ / "home");
  test::fs::remove_all(folder_ / "elsewhere");
  const test::fs::path there = folder_ / "far" / "boats";
  const take::Take take = take::load_take(there / "boats.askcount");
  EXPECT_EQ(take.wishes, take_.wishes);
  const ingest::Gathered found = ingest::gather(there / take.card);
  EXPECT_EQ(found.frames->size(), 12u);
  EXPECT_EQ(read_file(there / take.look.cube), "TITLE \"warm\"\n");
  EXPECT_EQ(read_file(there / take.film.sound), "sound");
  EXPECT_EQ(take.more_films.at(0).sound, take.film.sound) << "once, for both films";
  EXPECT_TRUE(test::fs::exists(there / "boats.journal"));
  EXPECT_TRUE(test::fs::exists(there / "boats.2026-10-09-175000.journal"));
  EXPECT_FALSE(test::fs::exists(there / "boatshed.journal")) << "another's";
}

TEST_F(PackTest, FramesAreTheSameByteForByte) {
  pack({file_, folder_ / "packed", {}});
  auto card = all(folder_ / "home" / "card");
  card.erase(".askcount-stand-in");  // the stand-in's own record
  auto copied = all(folder_ / "packed" / "card");
  copied.erase("copied.sha256");
  EXPECT_FALSE(card.empty());
  EXPECT_EQ(copied, card);
}

TEST_F(PackTest, WhatWasSaidAndTheFilmsGoWithIt) {
  book::Book here(folder_ / "here" / "book.db");
  book::Entry e = book::entry_of(take_, file_);
  test::write(folder_ / "home" / "clip.mp4", std::string("film"));
  test::write(folder_ / "home" / "clip poster.jpg", std::string("poster"));
  e.films = {{(folder_ / "home" / "clip.mp4").string(), 1, 25, 192, 108, "h264", 4, e.start}};
  const long long id = here.file(e);
  here.say(id, {book::Verdict::Well, "Kept", "Earlier", true});
  pack({file_, folder_ / "packed", here.entry(id)});
  EXPECT_EQ(read_file(folder_ / "packed" / "films" / "clip poster.jpg"), "poster");
  book::Book there(folder_ / "there" / "book.db");
  const test::fs::path moved = folder_ / "packed" / "boats.askcount";
  const long long there_id = there.file(book::entry_of(take::load_take(moved), moved));
  const book::Entry entry = there.entry(there_id).value();
  EXPECT_EQ(entry.words.note, "Kept");
  ASSERT_EQ(entry.films.size(), 1u);
  EXPECT_TRUE(test::fs::equivalent(entry.films[0].file, folder_ / "packed" / "films" / "clip.mp4"));
  // What is said there stays said, whatever lies beside the take.
  there.say(there_id, {book::Verdict::Badly, "", "", true});
  there.file(book::entry_of(take::load_take(moved), moved));
  EXPECT_EQ(there.entry(there_id)->words.note, "");
  EXPECT_EQ(there.entry(there_id)->words.verdict, book::Verdict::Badly);
}

TEST_F(PackTest, ArchivesAreReadByOtherPrograms) {
  for (const char* name : {"boats.tar", "boats.zip"}) {
    const Packed packed = pack({file_, folder_ / name, {}});
    EXPECT_EQ(packed.take, test::fs::path("boats") / "boats.askcount");
    const std::string out = (folder_ / (std::string(name) + " out")).string();
    const std::string file = (folder_ / name).string();
    const std::string script = name == std::string("boats.tar")
                                   ? fmt::format("mkdir '{0}' && tar -xf '{1}' -C '{0}'", out, file)
                                   : fmt::format("unzip -q '{1}' -d '{0}'", out, file);
    ASSERT_EQ(test::run(script).exit, 0) << name;
    const take::Take take = take::load_take(test::fs::path(out) / packed.take);
    EXPECT_EQ(ingest::gather(test::fs::path(out) / "boats" / take.card).frames->size(), 12u);
    EXPECT_EQ(test::error_of([&] {
                pack({file_, file, {}});
              }).kind(),
              Error::Kind::BadInput)
        << "never over anything";
  }
  for (const std::string& name : folder_.names())
    EXPECT_EQ(name.find(".askcount-pack"), std::string::npos) << name;
}

TEST_F(PackTest, WhereSomethingLiesNothingIsPut) {
  test::fs::create_directories(folder_ / "full");
  test::write(folder_ / "full" / "theirs", std::string("x"));
  EXPECT_EQ(test::error_of([&] { pack({file_, folder_ / "full", {}}); }).kind(), Error::Kind::BadInput);
  EXPECT_EQ(all(folder_ / "full").size(), 1u);
  test::write(folder_ / "not.askcount", std::string("no take"));
  EXPECT_EQ(test::error_of([&] {
              pack({folder_ / "not.askcount", folder_ / "p", {}});
            }).kind(),
            Error::Kind::BadInput);
  EXPECT_FALSE(test::fs::exists(folder_ / "p"));
}

TEST_F(PackTest, StoppedItLeavesNoArchive) {
  std::stop_source stop;
  const Work work{[&](std::size_t done, std::size_t) {
                    if (done > 0) stop.request_stop();
                  },
                  stop.get_token()};
  EXPECT_EQ(test::error_of([&] {
              pack({file_, folder_ / "a.tar", {}}, work);
            }).kind(),
            Error::Kind::Cancelled);
  EXPECT_FALSE(test::fs::exists(folder_ / "a.tar"));
  for (const std::string& name : folder_.names())
    EXPECT_EQ(name.find(".askcount-pack"), std::string::npos) << name;
}

}  // namespace
}  // namespace askcount::book
