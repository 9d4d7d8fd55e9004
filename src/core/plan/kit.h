// The kit: the person's bodies, lenses, cards, batteries and filters, as far as a plan needs them.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/json.h"
#include "base/units.h"

namespace askcount::plan {

/// A camera body.
struct Body {
  std::string name;
  double sensor_width_mm = 36, sensor_height_mm = 24;
  int pixels_across = 6000, pixels_down = 4000;
  double raw_mb = 28, compressed_mb = 9;  ///< size of one exposure's file
  double buffer_mb = 600;
  double write_mb_s = 80;                 ///< to a card that keeps up
  Seconds writing_s = 0.6;                ///< busy after an exposure until the next may start
  double lowest_iso = 100, highest_iso = 12800;
  long long shutter_life = 150000;        ///< releases; 0 for an electronic shutter, which does not wear
  long long shutter_count = 0;
  int next_file_number = 1;
  double movie_fps = 25;                  ///< of the camera's own time-lapse movie
  double video_mbit_s = 100;              ///< of real-time video
  double pixel_um() const { return pixels_across > 0 ? sensor_width_mm * 1000 / pixels_across : 0; }
  bool operator==(const Body&) const = default;
};

struct Lens {
  std::string name;
  double focal_mm = 24;
  double widest_f = 2.8, smallest_f = 22;
  bool operator==(const Lens&) const = default;
};

struct Card {
  std::string name;
  double capacity_gb = 64;
  double write_mb_s = 90;
  bool operator==(const Card&) const = default;
};

/// One battery as rated by who made it, at 20 °C.
struct Battery {
  std::string name;
  double rated_shots = 500;
  double powered_hours = 4;
  bool operator==(const Battery&) const = default;
};

/// A filter that takes light: grey, or a polariser.
struct Filter {
  std::string name;
  double stops = 6;
  bool polariser = false;
  bool operator==(const Filter&) const = default;
};

/// What is owned, and of each kind what is used: the first of a list is in use.
struct Kit {
  std::vector<Body> bodies;
  std::vector<Lens> lenses;
  std::vector<Card> cards;
  std::vector<Battery> batteries;  ///< every one that comes along; the first is in the camera
  std::vector<Filter> filters;
  bool operator==(const Kit&) const = default;
};

/// The made-up kit of the demo.
const Kit& demo_kit();

/// A kit as JSON and back; docs/kit-format.md says how. kit_from_json throws BadInput naming the key, `name` the file:
/// every number must be in its range and every list used must have an entry.
Json to_json(const Kit& kit);
Kit kit_from_json(const Json& json, const std::string& name);
Kit load_kit(const std::filesystem::path& file);

}  // namespace askcount::plan
