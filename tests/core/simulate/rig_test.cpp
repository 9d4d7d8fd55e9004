// SPDX-License-Identifier: GPL-3.0-or-later
// The rig: limits, faults, automatic modes, raw files.
#include <libraw/libraw.h>

#include <cmath>

#include "base/json.h"
#include "image/luminance.h"
#include "image/tone.h"
#include "ingest/gather.h"
#include "media/metadata.h"
#include "simulate/alum_jar.h"
#include "simulate/gannet_head.h"
#include "simulate/rig_json.h"
#include "simulate/scene.h"
#include "support.h"

namespace askcount::simulate {
namespace {

RigSetting small_rig(const test::Folder& folder, long long count = 20) {
  RigSetting s = forecast::rig_of(test::small_take(count, {120, 80}), folder / "card", false);
  s.test_shots = 0;
  s.markers = false;
  return s;
}

struct Heard {
  std::vector<RigEvent> all;
  RigOutcome outcome;
  int of(const std::string& what) const {
    return static_cast<int>(
        std::count_if(all.begin(), all.end(), [&](const RigEvent& e) { return e.what == what; }));
  }
};

Heard run(const RigSetting& setting) {
  Heard h;
  Rig rig(setting);
  h.outcome = rig.run([&](const RigEvent& e) { h.all.push_back(e); }, {});
  return h;
}

TEST(Rig, MissesWhatDoesNotFit) {
  const test::Folder folder;
  RigSetting s = small_rig(folder);
  s.body.writing_s = s.time_s;  // with the shutter it is longer than the interval
  const Heard h = run(s);
  EXPECT_EQ(h.outcome.frames, 10);
  EXPECT_EQ(h.outcome.missed, 10);
  EXPECT_EQ(h.of("busy"), 10);
  EXPECT_EQ(read_json(h.outcome.truth)["missed"].size(), 10u);
}

TEST(Rig, FillsItsBufferAndItsCard) {
  const test::Folder a, b;
  RigSetting slow = small_rig(a, 30);
  slow.time_s = 6;
  slow.body.buffer_mb = 40;
  slow.body.write_mb_s = 1;  // 9 MB every 6 s: 6 of them are written
  const Heard buffer = run(slow);
  EXPECT_GT(buffer.of("buffer"), 3);
  EXPECT_GT(buffer.outcome.frames, 15);
  RigSetting full = small_rig(b);
  full.card_gb = 0.05;
  const Heard card = run(full);
  EXPECT_EQ(card.outcome.frames, 5);  // 5 × 9 MB
  EXPECT_TRUE(card.outcome.stopped);
  EXPECT_EQ(card.outcome.frames + card.outcome.missed, 20);
}

TEST(Rig, EndsItsBatterySoonerInTheCold) {
  const test::Folder a, b;
  RigSetting s = small_rig(a, 60);
  s.external_power = false;
  s.battery = {"", 40, 1000};
  s.temperature_c = 20;
  RigSetting cold = s;
  cold.temperature_c = -10;
  cold.card = b / "card";
  const Heard warm = run(s), frozen = run(cold);
  EXPECT_EQ(warm.outcome.frames, 40);
  EXPECT_NEAR(static_cast<double>(frozen.outcome.frames), 40 * 0.55, 1.01);
  EXPECT_EQ(warm.of("battery") > 0, true);
}

TEST(Rig, DoesWhatItsFaultsSay) {
  const test::Folder folder;
  RigSetting s = small_rig(folder, 30);
  s.camera.noise = 0;
  s.camera.aperture_spread_stops = 0;
  for (const char* f : {"skip@5", "double@10", "hand@15", "bump@20=0.1", "clock@25=100"})
    s.faults.push_back(parse_fault(f));
  const Heard h = run(s);
  EXPECT_EQ(h.outcome.frames, 29);
  EXPECT_EQ(h.outcome.missed, 1);
  for (const char* what : {"skip", "double", "hand", "bump", "clock"}) EXPECT_GE(h.of(what), 1) << what;
  const Json truth = read_json(h.outcome.truth);
  EXPECT_EQ(truth["shots"].size(), 30u);  // 29 and the second of the double one
  // The pictures say the same: gathered, one frame is missing and one is double; after the bump everything
  // stands 12 pixels further.
  RigSetting still = small_rig(folder, 30);
  const ingest::Gathered g = ingest::gather(s.card);
  ASSERT_EQ(g.missing.size() + 0u, 2u);  // the skipped one, and the clock's jump
  EXPECT_TRUE(std::any_of(g.dropped.begin(), g.dropped.end(),
                          [](const ingest::Dropped& d) { return d.why == ingest::Dropped::Why::Double; }));
  for (const char* wrong : {"", "bump", "bump@0", "melt@3", "bump@x", "dew@3=", "clock=soon"})
    EXPECT_EQ(test::error_of([&] { parse_fault(wrong); }).kind(), Error::Kind::BadInput) << wrong;
  EXPECT_EQ(chance_faults(0.1, 1000, 7), chance_faults(0.1, 1000, 7));
  EXPECT_NEAR(static_cast<double>(chance_faults(0.1, 1000, 7).size()), 100, 35);
}

TEST(Rig, KeepsRawFilesThatOthersRead) {
  const test::Folder folder;
  RigSetting s = small_rig(folder, 2);
  s.raw = true;
  s.size = {240, 160};
  const Heard h = run(s);
  ASSERT_EQ(h.all[0].files.size(), 2u);
  LibRaw raw;
  ASSERT_EQ(raw.open_file((s.card / h.all[0].files[0]).c_str()), LIBRAW_SUCCESS);
  EXPECT_EQ(raw.imgdata.sizes.raw_width, 240);
  EXPECT_STREQ(raw.imgdata.idata.model, "Stand-in 24");
  EXPECT_NEAR(raw.imgdata.other.shutter, *media::read_shot_info(s.card / h.all[0].files[1]).shutter_s, 1e-3);
  ASSERT_EQ(raw.unpack(), LIBRAW_SUCCESS);
  // As bright as the JPEG says: mean linear light of the greens.
  double sum = 0;
  int n = 0;
  for (int y = 0; y < 160; y += 2)
    for (int x = 1; x < 240; x += 2, ++n)
      sum += std::clamp((raw.imgdata.rawdata.raw_image[y * 240 + x] - 512.0) / (16383 - 512), 0.0, 1.0);
  const image::Coded8 jpeg = media::decode_jpeg(media::read_bytes(s.card / h.all[0].files[1]), 8, "jpeg");
  EXPECT_NEAR(std::log2(sum / n), image::measure_luminance(jpeg, {0, 0, 240, 160}).stops(), 0.25);
  const ingest::Gathered g = ingest::gather(s.card);
  EXPECT_EQ(g.frames->size(), 2u);  // each exposure once
}

TEST(Rig, SendsItsSettingThereAndBack) {
  const test::Folder folder;
  RigSetting s = small_rig(folder);
  s.faults = {parse_fault("bump@20"), parse_fault("skip@5")};
  const Json json = to_json(s);
  EXPECT_EQ(to_json(rig_from_json(json, RigSetting{})), json);
  Json wrong = json;
  wrong["timer"]["count"] = -4;
  EXPECT_NE(std::string(test::error_of([&] { rig_from_json(wrong, s); }).what()).find("timer.count"),
            std::string::npos);
}

TEST(Scenes, MoveAsTheyShould) {
  // A star trail grows with the shutter; the crystals grow with the hours; both are the same for the same
  // moment.
  const Instant night = parse_wall_time("2026-07-16 00:30", "Atlantic/Canary");
  const GannetHead head({.size = {480, 320}});
  const auto brightest = [](const image::Linear32& p) {
    return *std::max_element(p.rgb.begin(), p.rgb.begin() + static_cast<long>(p.rgb.size() / 2));
  };
  const auto points = head.seen(night, 1), trails = head.seen(night, 240);
  EXPECT_EQ(points.rgb, head.seen(night, 1).rgb);
  EXPECT_GT(brightest(points), 2.5F * brightest(trails)) << "the same light is spread along the trail";
  EXPECT_GT(image::luminance(points.rgb[0], points.rgb[1], points.rgb[2]), 0);
  const Instant monday = parse_wall_time("2026-10-05 00:00", "UTC");
  EXPECT_NEAR(AlumJar::crystal_mm(later(monday, 20 * 3600)) - AlumJar::crystal_mm(later(monday, 10 * 3600)),
              10 * kAlumGrowth_mm_per_hour, 1e-6);
  const AlumJar jar({.size = {240, 160}});
  EXPECT_NE(jar.seen(later(monday, 3600), 1).rgb, jar.seen(later(monday, 36000), 1).rgb);
  EXPECT_EQ(scene_named("alum"), "The alum jar");
  EXPECT_EQ(test::error_of([] { scene_named("the moon base"); }).kind(), Error::Kind::BadInput);
}

}  // namespace
}  // namespace askcount::simulate
