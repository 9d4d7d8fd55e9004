// SPDX-License-Identifier: GPL-3.0-or-later
// What is installed and what the Debian package holds: it works where it lies, and its checks pass.
#include "askcount.h"
#include "media/jpeg.h"

namespace askcount {
namespace {

/// Installed once, away from where it was built.
class Installed : public testing::Test {
 protected:
  static void SetUpTestSuite() {
    folder_ = new test::Folder;
    const test::Said said =
        test::run(fmt::format("cmake --install '{}' --prefix '{}'", ASKCOUNT_BUILD, prefix()));
    ASSERT_EQ(said.exit, 0) << said.out << said.err;
  }
  static void TearDownTestSuite() { delete folder_; }
  static std::string prefix() { return (*folder_ / "usr").string(); }
  static std::string share(const std::string& name) { return prefix() + "/share/" + name; }

  static inline test::Folder* folder_ = nullptr;
};

TEST_F(Installed, RunsWithItsOwnFonts) {
  const test::fs::path take = *folder_ / "a.askcount";
  take::save_take(test::small_take(20), take);
  const std::string pdf = (*folder_ / "plan.pdf").string();
  const test::Said said =
      test::run(fmt::format("'{}/bin/askcount' along '{}' --plan '{}'", prefix(), take.string(), pdf));
  ASSERT_EQ(said.exit, 0) << said.err;
  EXPECT_NE(test::run("pdffonts '" + pdf + "'").out.find("Manrope"), std::string::npos);
  // It finds its stand-in beside itself.
  EXPECT_EQ(
      test::run(fmt::format("PATH=/usr/bin:/bin '{}/bin/askcount' shoot '{}' --card '{}' --frame-size 96x64",
                            prefix(), take.string(), (*folder_ / "card").string()))
          .exit,
      0);
}

TEST_F(Installed, HasWhatADesktopAsksFor) {
  EXPECT_EQ(test::run("desktop-file-validate '" + share("applications/ask-count.desktop") + "'").exit, 0);
  const test::Said metainfo = test::run("appstreamcli validate --no-net '" +
                                        share("metainfo/org.askcount.AskCount.metainfo.xml") + "'");
  EXPECT_EQ(metainfo.exit, 0) << metainfo.out;
  for (const char* file : {"icons/hicolor/scalable/apps/ask-count.svg", "thumbnailers/ask-count.thumbnailer",
                           "bash-completion/completions/askcount", "doc/ask-count/copyright"})
    EXPECT_TRUE(test::fs::exists(share(file))) << file;
}

TEST_F(Installed, ATakeIsKnownByItsNameAndByItsContent) {
  ASSERT_EQ(test::run("update-mime-database '" + share("mime") + "'").exit, 0);
  std::ifstream globs(share("mime/globs2"));
  const std::string all{std::istreambuf_iterator<char>(globs), {}};
  EXPECT_NE(all.find("application/x-askcount:*.askcount"), std::string::npos);
}

TEST_F(Installed, EveryProgramHasAManualPageThatNamesEveryVerb) {
  const std::string help = askcount("--help").out;
  const std::string page = test::run("zcat '" + share("man/man1/askcount.1.gz") + "' | tr -d '\\\\'").out;
  std::istringstream lines(help.substr(help.find("Subcommands:")));
  std::string line;
  int verbs = 0;
  std::getline(lines, line);
  while (std::getline(lines, line)) {
    std::istringstream words(line);
    std::string verb;
    if (!(words >> verb) || line.rfind("  ", 0) != 0 || line[2] == ' ') continue;
    EXPECT_NE(page.find(verb), std::string::npos) << verb;
    ++verbs;
  }
  EXPECT_GT(verbs, 20);
  for (const char* name : {"ask-count", "askcount-standin"})
    EXPECT_NE(
        test::run("zcat '" + share(std::string("man/man1/") + name + ".1.gz") + "'").out.find("SYNOPSIS"),
        std::string::npos)
        << name;
}

TEST_F(Installed, TheShellCompletesVerbsAndOptions) {
  const auto complete = [](const std::string& words, int at) {
    return test::run(
               fmt::format(
                   "PATH='{}/bin':$PATH bash -c \"source '{}'; COMP_WORDS=({}); COMP_CWORD={}; _askcount; "
                   "printf '%s\\n' \\\"\\${{COMPREPLY[@]}}\\\"\"",
                   prefix(), share("bash-completion/completions/askcount"), words, at))
        .out;
  };
  EXPECT_NE(complete("askcount ga", 1).find("gather"), std::string::npos);
  EXPECT_NE(complete("askcount cut --stea", 2).find("--steady"), std::string::npos);
  EXPECT_NE(complete("askcount book no", 2).find("note"), std::string::npos);
  EXPECT_NE(complete("askcount book note --ver", 3).find("--verdict"), std::string::npos);
}

TEST_F(Installed, ThePackageHoldsItAllAndItsCheckPasses) {
  const test::Said made =
      test::run(fmt::format("cd '{}' && cpack -G DEB -B '{}' --config '{}/CPackConfig.cmake'",
                            folder_->path().string(), (*folder_ / "deb").string(), ASKCOUNT_BUILD));
  ASSERT_EQ(made.exit, 0) << made.out << made.err;
  const std::string deb = test::run("ls '" + (*folder_ / "deb").string() + "'/*.deb | tr -d '\\n'").out;
  ASSERT_NE(deb.find("ask-count_"), std::string::npos) << deb;
  const std::string files = test::run("dpkg-deb --contents '" + deb + "'").out;
  for (const char* file :
       {"./usr/bin/ask-count", "./usr/bin/askcount", "./usr/bin/askcount-standin",
        "./usr/share/applications/ask-count.desktop", "./usr/share/mime/packages/ask-count.xml",
        "./usr/share/man/man1/askcount.1.gz", "./usr/share/ask-count/fonts/Manrope-Regular.ttf",
        "./usr/share/ask-count/fonts/B612-Regular.otf"})
    EXPECT_NE(files.find(file), std::string::npos) << file;
  const std::string depends = test::run("dpkg-deb --field '" + deb + "' Depends").out;
  for (const char* needed : {"libqt6widgets6", "libexiv2", "libraw", "libsqlite3", "tzdata"})
    EXPECT_NE(depends.find(needed), std::string::npos) << needed;
  const test::Said checked = test::run("lintian --allow-root --fail-on error '" + deb + "'");
  EXPECT_EQ(checked.exit, 0) << checked.out;
}

TEST_F(Installed, ThumbnailsOfATake) {
  const test::fs::path file = *folder_ / "boats.askcount";
  take::Take take = test::small_take(9, {300, 200});
  take.card = "boats card";
  take::save_take(take, file);
  const std::string png = (*folder_ / "boats.png").string();
  EXPECT_EQ(askcount("thumbnail '" + file.string() + "' -o '" + png + "'").exit, 2) << "nothing to show yet";
  simulate::shoot(forecast::shoot_order(take, *folder_ / "boats card"));
  const Json small = answer("thumbnail '" + file.string() + "' -o '" + png + "' --size 128");
  EXPECT_LE(small["width"], 128);
  EXPECT_GT(small["width"], 100);
  EXPECT_NE(test::run("file '" + png + "'").out.find("PNG image"), std::string::npos);
  // A file manager holds the file open that it wants filled: what it reads through that must be the picture.
  const test::fs::path waiting = *folder_ / "waiting.png";
  test::write(waiting, std::string());
  std::ifstream held(waiting, std::ios::binary);
  answer("thumbnail '" + file.string() + "' -o '" + waiting.string() + "' --size 128");
  EXPECT_EQ(std::string(std::istreambuf_iterator<char>(held), {}).substr(1, 3), "PNG");
  // A poster that lies beside it is preferred: a square one tells itself apart.
  image::Coded8 square(image::Size{400, 400});
  std::fill(square.rgb.begin(), square.rgb.end(), std::uint8_t{90});
  test::write(*folder_ / "boats poster.jpg", media::encode_jpeg(square, 90));
  const Json poster = answer("thumbnail '" + file.string() + "' -o '" + png + "' --size 128");
  EXPECT_EQ(poster["width"], poster["height"]);
  EXPECT_EQ(askcount("thumbnail '" + png + "' -o '" + png + ".png'").exit, 2);
}

}  // namespace
}  // namespace askcount
