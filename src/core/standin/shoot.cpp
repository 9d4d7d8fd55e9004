#include "standin/shoot.h"

#include <fmt/format.h>
#include <tbb/parallel_pipeline.h>

#include <cmath>
#include <fstream>
#include <memory>
#include <set>

#include "base/error.h"
#include "base/files.h"
#include "base/json.h"
#include "picture/tone.h"
#include "standin/tern_quay.h"

namespace askcount::standin {
namespace fs = std::filesystem;
namespace {

constexpr picture::Size kMeterSize = {96, 64};
constexpr int kFolderLimit = 9999;
constexpr long long kMostShots = 100000;

/// One file the camera is going to write.
struct Shot {
  enum class What { Test, Marker, Frame } what = What::Frame;
  long long index = -1;
  Instant start;
  ramp::Exposure exposure;
  double error_stops = 0;
};

double open_s(const ShootOrder& order, double shutter_s) {
  return order.program.timer.holds ? order.program.hold_s : shutter_s;
}

/// Log2 of the luminance a meter sees that is pointed, as photographers do, at the foreground below the bright sky.
double metered(const TernQuay& scene, Instant at) {
  const picture::LinearPicture p = scene.seen(at, 0.01);
  const size_t below = p.rgb.size() * 6 / 10 / 3 * 3;
  double sum = 0;
  for (size_t i = below; i < p.rgb.size(); i += 3)
    sum += static_cast<double>(picture::luminance(p.rgb[i], p.rgb[i + 1], p.rgb[i + 2]));
  return std::log2(std::max(1e-6, sum / (static_cast<double>(p.rgb.size() - below) / 3)));
}

/// The shots in order of time; presses that came while the camera was busy are counted in `missed`.
std::vector<Shot> shots_of(const ShootOrder& order, std::vector<long long>& missed) {
  std::vector<Shot> shots;
  const std::vector<ramp::Exposure> exposures = exposures_for(order);
  if (exposures.empty()) return shots;
  for (int i = 0; i < order.test_shots; ++i) {
    Shot test{Shot::What::Test, -1, later(order.start, -210.0 + 37.0 * i + 11.0 * (i % 2)), exposures[0], 0};
    test.exposure.shutter_s *= std::exp2(i - 1);  // one stop either side while looking for the exposure
    shots.push_back(test);
  }
  if (order.markers) shots.push_back({Shot::What::Marker, -1, later(order.start, -24.3), exposures[0], 0});
  const std::vector<Seconds> presses = timer::press_times(order.program);
  double busy_until = -1;
  for (size_t n = 0; n < presses.size(); ++n) {
    const double at = presses[n] - presses[0];
    if (at < busy_until - 1e-9) {
      missed.push_back(static_cast<long long>(n));
      continue;
    }
    const double open = open_s(order, exposures[n].shutter_s);
    busy_until = at + open + order.writing_s;
    shots.push_back({Shot::What::Frame, static_cast<long long>(n), later(order.start, at), exposures[n],
                     aperture_error(order.camera, n)});
  }
  if (order.markers)
    shots.push_back({Shot::What::Marker, -1, later(shots.back().start, order.program.interval_s * 1.6 + 3.1),
                     exposures.back(), 0});
  return shots;
}

picture::CameraTime camera_clock(Instant at, const std::string& zone) {
  return at + std::chrono::seconds(wall_time(at, zone).offset_s);
}

Json truth_of(const Shot& shot, const std::string& file) {
  static constexpr const char* names[] = {"test", "marker", "frame"};
  return {{"file", file},
          {"what", names[static_cast<int>(shot.what)]},
          {"index", shot.index},
          {"start_ms", shot.start.time_since_epoch().count()},
          {"aperture_error_stops", shot.error_stops},
          {"shutter_s", shot.exposure.shutter_s},
          {"f_number", shot.exposure.f_number},
          {"iso", shot.exposure.iso}};
}

void check_empty(const fs::path& card) {
  std::error_code ec;
  if (fs::exists(card, ec) && !fs::is_directory(card, ec))
    throw bad_input(fmt::format("{} is a file; the card must be a folder.", card.string()));
  if (fs::exists(card / "DCIM", ec))
    throw bad_input(fmt::format("The card {} already has pictures on it.", card.string()),
                    "Name an empty folder; nothing was written.");
}

fs::path truth_file(const fs::path& card) {
  fs::path beside = card.lexically_normal();
  if (beside.filename().empty()) beside = beside.parent_path();
  return beside.string() + ".truth.json";
}

}  // namespace

std::vector<ramp::Exposure> exposures_for(const ShootOrder& order) {
  const TernQuay small(kMeterSize);
  ramp::RampRule rule = order.rule;
  rule.longest_shutter_s = order.shutter_s;
  std::vector<double> light;
  const std::vector<Seconds> presses = timer::press_times(order.program);
  light.reserve(presses.size());
  for (const Seconds at : presses) light.push_back(metered(small, later(order.start, at - presses[0])));
  return ramp::follow_light(light, rule);
}

void empty_card(const fs::path& card) {
  std::error_code ec;
  const fs::path truth = truth_file(card);
  if (!fs::exists(truth, ec)) return;
  const Json record = read_json(truth);
  std::set<fs::path> folders;
  for (const Json& shot : record.at("shots")) {
    const fs::path file = card / shot.at("file").get<std::string>();
    fs::remove(file, ec);
    folders.insert(file.parent_path());
  }
  for (const fs::path& folder : folders) fs::remove(folder, ec);  // only if nothing else is in it
  fs::remove(card / "DCIM", ec);
  fs::remove(truth, ec);
}

ShootOutcome shoot(const ShootOrder& order, const std::function<void(const ShotLanded&)>& landed,
                   std::stop_token stop) {
  check_empty(order.card);
  if (order.program.count > kMostShots)
    throw bad_input(fmt::format("The stand-in shoots no more than {} shots, not {}.", kMostShots, order.program.count), "Ask for a shorter clip.");
  const TernQuay scene(order.size);
  std::vector<long long> missed;
  const std::vector<Shot> shots = shots_of(order, missed);
  std::error_code ec;
  fs::create_directories(order.card, ec);
  if (ec) throw failed(fmt::format("The card {} cannot be made: {}.", order.card.string(), ec.message()));

  struct Written {
    size_t at = 0;
    picture::Bytes bytes;
  };
  ShootOutcome outcome;
  outcome.missed = static_cast<long long>(missed.size());
  Json record = Json::array();
  size_t next = 0;
  tbb::parallel_pipeline(
      4,
      tbb::make_filter<void, size_t>(tbb::filter_mode::serial_in_order,
                                     [&](tbb::flow_control& flow) {
                                       if (next >= shots.size() || stop.stop_requested()) flow.stop();
                                       return next++;
                                     }) &
          tbb::make_filter<size_t, std::shared_ptr<Written>>(
              tbb::filter_mode::parallel,
              [&](size_t at) {
                const Shot& shot = shots[at];
                const picture::Picture8 picture =
                    shot.what == Shot::What::Marker
                        ? marker_picture(order.size)
                        : develop(scene.seen(shot.start, open_s(order, shot.exposure.shutter_s)), shot.exposure,
                                  shot.error_stops, order.camera, at);
                return std::make_shared<Written>(
                    Written{at, camera_file(picture, shot.exposure, camera_clock(shot.start, order.zone), order.camera)});
              }) &
          tbb::make_filter<std::shared_ptr<Written>, void>(
              tbb::filter_mode::serial_in_order, [&](const std::shared_ptr<Written>& written) {
                const Shot& shot = shots[written->at];
                const int number = order.first_number - 1 + static_cast<int>(written->at);
                const fs::path file = fs::path("DCIM") / fmt::format("{}QUAY", 100 + number / kFolderLimit) /
                                      fmt::format("QUAY{:04}.JPG", number % kFolderLimit + 1);
                fs::create_directories((order.card / file).parent_path());
                write_file_atomically(order.card / file, {reinterpret_cast<const char*>(written->bytes.data()),
                                                          written->bytes.size()},
                                      Flush::No);
                record.push_back(truth_of(shot, file.generic_string()));
                if (shot.what == Shot::What::Frame) ++outcome.frames;
                outcome.folder = (order.card / file).parent_path();
                if (landed)
                  landed({order.card / file, shot.index, static_cast<long long>(written->at) + 1,
                          static_cast<long long>(shots.size()), shot.exposure, shot.start});
              }));
  outcome.truth = truth_file(order.card);
  write_file_atomically(outcome.truth, Json{{"scene", "Tern Quay"},
                                            {"aperture_spread_stops", order.camera.aperture_spread_stops},
                                            {"missed", missed},
                                            {"shots", record}}
                                           .dump(1));
  if (stop.stop_requested())
    throw cancelled(fmt::format("Stopped after {} of {} shots; they stay on the card.", record.size(), shots.size()));
  return outcome;
}

}  // namespace askcount::standin
