// SPDX-License-Identifier: GPL-3.0-or-later
// The session: what belongs to one take never shows in another, whenever it arrives.
#include "app/session/session.h"

#include <QSignalSpy>
#include <QTest>

#include "app/shell/window.h"
#include "app/stages/cut/film_player.h"
#include "events.h"
#include "support.h"

namespace askcount::app {
namespace {

using plan::Slot;

/// Two takes with cards of their own, of unlike lengths, and a session.
class SessionTest : public ::testing::Test {
 protected:
  static void SetUpTestSuite() {
    shot_ = new test::Folder;
    for (const auto& [name, frames] : {std::pair{"a", 24}, std::pair{"b", 16}}) {
      take::Take take = test::small_take(frames, {240, 160});
      take.name = name;
      take.card = std::string("card-") + name;
      simulate::shoot(forecast::shoot_order(take, *shot_ / take.card));
      save_take(take, *shot_ / (std::string(name) + ".askcount"));
    }
  }
  static void TearDownTestSuite() { delete shot_; }

  void SetUp() override {
    test::fs::copy(shot_->path(), folder_.path(), test::fs::copy_options::recursive);
    session_.open(a());
  }
  test::fs::path a() const { return folder_ / "a.askcount"; }
  test::fs::path b() const { return folder_ / "b.askcount"; }
  bool wait_for_films(Session& session) {
    return QTest::qWaitFor([&] { return !session.films.queue.working(); }, 60000);
  }

  bool wait_for_work(Session& session) {
    return QTest::qWaitFor([&] { return !session.job.running(); }, 60000);
  }
  void gather() {
    session_.frames.gather();
    ASSERT_TRUE(wait_for_work(session_));
    ASSERT_EQ(session_.frames.list()->size(), 24u);
  }

  static test::Folder* shot_;
  test::Folder folder_;
  Session session_;
};

test::Folder* SessionTest::shot_ = nullptr;

TEST_F(SessionTest, AGatherBegunOnOneTakeNeverLandsInAnother) {
  QSignalSpy gathered(&session_.frames, &Frames::changed);
  session_.frames.gather();
  ASSERT_TRUE(session_.job.running());
  session_.open(b());
  EXPECT_FALSE(session_.job.running()) << "the other take's work is let go of at once";
  session_.job.settle();
  EXPECT_EQ(gathered.count(), 0);
  EXPECT_FALSE(session_.frames.gathered());
  session_.frames.gather();
  ASSERT_TRUE(wait_for_work(session_));
  EXPECT_EQ(session_.frames.list()->size(), 16u);
  session_.open(a());
  EXPECT_FALSE(session_.frames.gathered()) << "frames of b are not shown under a";
}

TEST_F(SessionTest, UndoingTheCardLetsItsFramesGo) {
  gather();
  session_.document.edit([](take::Take& t) { t.card = "card-b"; });
  EXPECT_FALSE(session_.frames.gathered());
  session_.frames.gather();
  ASSERT_TRUE(session_.job.running());
  session_.document.undo();  // in the middle of the gather
  EXPECT_FALSE(session_.frames.gathered());
  ASSERT_TRUE(wait_for_work(session_));
  EXPECT_EQ(session_.frames.list()->size(), 24u) << "the first card is read again";
  // Another edit leaves work alone.
  session_.frames.gather();
  session_.document.edit([](take::Take& t) { t.name = "renamed meanwhile"; });
  ASSERT_TRUE(wait_for_work(session_));
  EXPECT_EQ(session_.frames.list()->size(), 24u);
}

TEST_F(SessionTest, ALevellingFitsTheShapeItWasMeasuredIn) {
  gather();
  session_.levelling.start();
  ASSERT_TRUE(wait_for_work(session_));
  ASSERT_TRUE(session_.levelling.evenness());
  EXPECT_EQ(session_.levelling.evenness()->corrections.size(), 24u);
  session_.document.edit([](take::Take& t) { t.film.size = {108, 192}; });
  EXPECT_FALSE(session_.levelling.evenness()) << "measured in another crop";
  session_.levelling.start();
  session_.document.edit([](take::Take& t) { t.film.size = {192, 108}; });  // while it is measured
  EXPECT_FALSE(session_.job.running());
  session_.job.settle();
  EXPECT_FALSE(session_.levelling.evenness());
}

TEST_F(SessionTest, AFilmIsOfItsTake) {
  gather();
  session_.films.make();
  EXPECT_TRUE(session_.films.making());
  ASSERT_TRUE(wait_for_films(session_));
  ASSERT_TRUE(session_.films.film());
  EXPECT_EQ(session_.films.film()->frames, 24);
  EXPECT_EQ(session_.document.film_file(), folder_ / "a.mp4");
  session_.open(b());
  EXPECT_FALSE(session_.films.film()) << "the film of a is not b's";
  session_.open(a());  // it is found again, and what is in it counted, beside the window
  EXPECT_TRUE(QTest::qWaitFor([&] { return session_.films.film().has_value(); }, 10000));
  EXPECT_EQ(session_.films.film()->frames, 24);
}

TEST_F(SessionTest, AFilmIsMadeAsItWasOrderedWhateverIsOpenMeanwhile) {
  gather();
  session_.films.make();
  ASSERT_TRUE(session_.films.making());
  session_.document.edit([](take::Take& t) { t.film.size = {96, 54}; });
  session_.open(b());
  EXPECT_FALSE(session_.films.making()) << "not of this take";
  ASSERT_TRUE(wait_for_films(session_));
  EXPECT_FALSE(session_.films.film()) << "the film of a is not b's";
  EXPECT_EQ(media::read_film(folder_ / "a.mp4").size, (image::Size{192, 108})) << "as it was ordered";
  for (const std::string& name : folder_.names()) EXPECT_EQ(name.find(".part"), std::string::npos) << name;
}

TEST_F(SessionTest, TheQueueWaitsIsPutInOrderAndCancelled) {
  gather();
  FilmQueue& queue = session_.films.queue;
  session_.document.edit([](take::Take& t) { t.film.size = {960, 540}; });
  session_.films.make();
  queue.set_paused(true);
  EXPECT_TRUE(queue.paused());
  for (const char* name : {"first", "second", "third"}) {
    session_.document.edit([&](take::Take& t) {
      t.name = name;
      t.film.size = {192, 108};
      t.film.ending = "mkv";
    });
    session_.films.make();
  }
  ASSERT_EQ(queue.entries().size(), 4u);
  ASSERT_TRUE(QTest::qWaitFor([&] { return queue.held(); }, 30000)) << "it is paused";
  EXPECT_EQ(queue.entries().size(), 4u);
  queue.earlier(queue.entries()[3].id);
  queue.earlier(queue.entries()[1].id);
  EXPECT_EQ(queue.entries()[2].title, "third");
  EXPECT_EQ(queue.entries()[1].title, "first") << "the one at work stays first";
  queue.cancel(queue.entries()[3].id);
  EXPECT_EQ(queue.entries().size(), 3u);
  queue.cancel(queue.entries()[0].id);
  ASSERT_TRUE(QTest::qWaitFor([&] { return queue.entries().size() == 2; }, 20000)) << "paused as it is";
  EXPECT_FALSE(test::fs::exists(folder_ / "a.mp4"));
  queue.set_paused(false);
  ASSERT_TRUE(wait_for_films(session_));
  EXPECT_TRUE(test::fs::exists(folder_ / "a.mkv"));
  EXPECT_FALSE(queue.paused());
}

TEST_F(SessionTest, SeveralFilmsOfATakeAreMadeFromOneReading) {
  gather();
  Films& films = session_.films;
  films.add();
  EXPECT_EQ(films.at(), 1);
  films.edit([](take::FilmWish& film) {
    film.size = {108, 192};
    film.choice.last = 10;
    film.poster_s = 0.2;
    film.report = true;
  });
  films.rename("tall");
  QSignalSpy trouble(&films, &Films::trouble);
  films.rename("a/b");
  films.rename("a");
  EXPECT_EQ(trouble.count(), 2);
  EXPECT_EQ(films.wish().name, "tall");
  EXPECT_EQ(films.timeline()->frames(), 10u);
  films.choose(0);
  EXPECT_EQ(films.timeline()->frames(), 24u);
  films.make();
  EXPECT_EQ(films.queue.entries().size(), 1u) << "both in one";
  ASSERT_TRUE(wait_for_films(session_));
  EXPECT_EQ(films.film()->size, (image::Size{192, 108}));
  films.choose(1);
  ASSERT_TRUE(films.film());
  EXPECT_EQ(films.film()->frames, 10);
  EXPECT_EQ(films.file(), folder_ / "tall.mp4");
  EXPECT_TRUE(test::fs::exists(folder_ / "tall poster.jpg"));
  EXPECT_TRUE(test::fs::exists(folder_ / "tall.mp4.json"));
  films.remove();
  EXPECT_EQ(films.count(), 1);
  EXPECT_EQ(films.at(), 0);
  session_.document.undo();
  EXPECT_EQ(films.count(), 2);
}

TEST_F(SessionTest, KeepsWhatWasOpenWhereAnotherCannotBeRead) {
  gather();
  test::write(folder_ / "broken.askcount", std::string("{\"askcount\": 2, \"wishes\": 7}"));
  EXPECT_THROW(session_.open(folder_ / "broken.askcount"), Error);
  EXPECT_EQ(session_.document.file(), a());
  EXPECT_EQ(session_.frames.list()->size(), 24u) << "nothing was let go of";
  // A journal that cannot be read is said, and the take is open.
  test::fs::create_directory(folder_ / "b.journal");
  session_.open(b());
  EXPECT_EQ(session_.document.file(), b());
}

TEST_F(SessionTest, AShootGoesOnWhenAnotherTakeIsOpened) {
  session_.accompany();
  ASSERT_TRUE(session_.run.active());
  session_.run.note(3, "cloud from the west");
  session_.open(b());
  EXPECT_FALSE(session_.run.active()) << "b is not being shot";
  session_.open(a());
  EXPECT_TRUE(session_.run.active());
  ASSERT_EQ(session_.run.state().notes.size(), 1u);
  EXPECT_EQ(session_.run.state().notes[0].words, "cloud from the west");
  session_.run.stop();
}

TEST_F(SessionTest, ReadsAFailedPairOfTestPicturesOnce) {
  QSignalSpy trouble(&session_, &Session::trouble);
  session_.choose_tests(folder_ / "absent-1.jpg", folder_ / "absent-2.jpg");
  ASSERT_TRUE(QTest::qWaitFor([&] { return trouble.count() > 0; }, 5000));
  for (int i = 0; i < 3; ++i) {
    session_.document.edit([i](take::Take& t) { t.wish(Slot::Clip, 20 + i); });
    run_events();
  }
  EXPECT_EQ(trouble.count(), 1) << "not again at every edit";
  session_.choose_tests(folder_ / "absent-1.jpg", folder_ / "absent-2.jpg");
  EXPECT_TRUE(QTest::qWaitFor([&] { return trouble.count() == 2; }, 5000)) << "but when it is chosen anew";
}

TEST_F(SessionTest, FindsItsCardAndFilmBesideTheTake) {
  EXPECT_EQ(session_.document.card(), folder_ / "card-a");
  EXPECT_EQ(session_.document.film_file(), folder_ / "a.mp4");
  EXPECT_EQ(session_.document.journal_file(), folder_ / "a.journal");
  session_.document.edit([](take::Take& t) { t.card = "nowhere"; });
  QSignalSpy trouble(&session_, &Session::trouble);
  session_.frames.gather();  // there is no card yet: said, and nothing else happens
  ASSERT_TRUE(wait_for_work(session_));
  EXPECT_EQ(trouble.count(), 1);
  EXPECT_FALSE(session_.frames.gathered());
}

TEST_F(SessionTest, StopsAShootAndKeepsWhatWasShot) {
  const test::Folder folder;
  save_take(test::small_take(4000, {300, 200}), folder / "c.askcount");
  session_.open(folder / "c.askcount");
  session_.shoot();
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return session_.run.landed() && session_.run.landed()->done > 20; }, 20000));
  session_.run.stop();
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return !session_.run.active() && !session_.job.running() && session_.frames.gathered(); },
      20000));
  EXPECT_GT(session_.frames.list()->size(), 10u);
  EXPECT_LT(session_.frames.list()->size(), 4000u);
}

TEST_F(SessionTest, ThePlayheadStaysWithinTheFramesThereAre) {
  EXPECT_EQ(session_.playhead.count(), 24);
  QSignalSpy moved(&session_.playhead, &Playhead::moved);
  session_.playhead.set(1000);
  EXPECT_EQ(session_.playhead.at(), 23);
  session_.playhead.set(23);
  EXPECT_EQ(moved.count(), 1);
  session_.document.edit([](take::Take& t) { t.wish(Slot::Frames, 10); });
  EXPECT_EQ(session_.playhead.at(), 9);
  gather();
  EXPECT_EQ(session_.playhead.count(), 24) << "of what was gathered";
  session_.open(b());
  EXPECT_EQ(session_.playhead.at(), 0);
}

/// A film that cannot be opened says so, and the player lives on for the next.
TEST_F(SessionTest, ThePlayerSaysWhatItCannotPlay) {
  gather();
  session_.films.make();
  ASSERT_TRUE(wait_for_films(session_));
  FilmPlayer player(nullptr);
  player.show();
  test::write(folder_ / "no.mp4", std::string("no film"));
  player.open(folder_ / "no.mp4");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !player.opened(); }, 5000));
  player.open(folder_ / "a.mp4");
  QSignalSpy moved(&player, &FilmPlayer::moved);
  player.seek(17);
  EXPECT_TRUE(QTest::qWaitFor([&] { return player.frame() == 17; }, 5000));
  player.seek(3);
  player.seek(20);  // before the one before it came
  EXPECT_TRUE(QTest::qWaitFor([&] { return player.frame() == 20; }, 5000));
}

/// Whatever the take: nothing said, long words, a billion frames, a single one.
TEST(Window, StandsOddTakes) {
  const test::Folder folder;
  Window window;
  window.show();
  ASSERT_TRUE(QTest::qWaitForWindowExposed(&window));
  take::Take empty;
  empty.wishes.clear();
  take::Take wordy = test::small_take(300);
  wordy.name = std::string(300, 'w');
  wordy.subject = "the very slow procession of extraordinarily many fishing boats between the moles";
  wordy.place.name = "A place whose name is longer than any ruler has room for";
  take::Take huge = test::small_take(1000000000, {240, 160}, 3600 * 99);
  take::Take still = test::small_take(1);
  int n = 0;
  for (const take::Take& take : {empty, wordy, huge, still}) {
    const auto file = folder / ("odd" + std::to_string(n++) + ".askcount");
    save_take(take, file);
    ASSERT_TRUE(window.open(file));
    for (int i = 0; i < window.stage_count(); ++i) {
      window.go_to(i);
      EXPECT_FALSE(window.grab().isNull());
      QTest::keyClick(&window, Qt::Key_End);
      QTest::keyClick(&window, Qt::Key_Space);
    }
  }
}

}  // namespace
}  // namespace askcount::app
