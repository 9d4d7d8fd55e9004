// SPDX-License-Identifier: GPL-3.0-or-later
// What crosses the frame: where things of the sky stand in a camera's picture, standing still or on a moving
// head.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "sky/ephemeris.h"

namespace askcount::sky {

/// Where the camera points: bearing from north over east, tilt above the horizon, roll clockwise as seen from
/// behind. Degrees.
struct Aim {
  double bearing_deg = 180;
  double tilt_deg = 0;
  double roll_deg = 0;
  bool operator==(const Aim&) const = default;
};

/// The lens and what is behind it. A film of another shape uses the middle of the sensor's full width (or
/// height).
struct Optics {
  double focal_mm = 24;
  double sensor_width_mm = 36, sensor_height_mm = 24;
  double film_shape = 0;  ///< width ÷ height of the film; 0 for the whole sensor
  bool operator==(const Optics&) const = default;
  double across_deg() const;  ///< angle of view across the whole sensor
  double down_deg() const;
  /// Share of the sensor's width and height that the film shows.
  double film_across() const;
  double film_down() const;
};

/// A place in the frame: −0.5 to 0.5 from left to right and from the bottom to the top of the whole sensor.
struct FramePoint {
  double x = 0, y = 0;
};

/// The camera's own directions in the world: east, north, up.
struct Axes {
  std::array<double, 3> right{}, up{}, forward{};
  explicit Axes(const Aim& aim);
};

/// Where a direction falls, by the straight-line (rectilinear) projection of usual lenses; nothing where it
/// is behind the camera.
std::optional<FramePoint> project(const Direction& direction, const Aim& aim, const Optics& optics);

/// The direction of a place in the frame.
Direction direction_of(const FramePoint& point, const Aim& aim, const Optics& optics);

/// Whether it is within the film's part of the frame, or, where `whole` is set, anywhere on the sensor.
bool inside(const FramePoint& point, const Optics& optics, bool whole = false);

/// A head that turns during the take.
struct Move {
  Aim from, to;
  bool eased = false;  ///< slow at both ends (3s² − 2s³), otherwise even
  bool operator==(const Move&) const = default;
};

/// The aim at a share (0 to 1) of the field time; the bearing turns the shorter way round.
Aim aim_at(const Move& move, double share);

/// The altitude of a horizon the person has raised, at a bearing: a line between the points around it, level
/// without any. Points are (bearing, altitude) in degrees.
struct HorizonPoint {
  double bearing_deg = 0, altitude_deg = 0;
  bool operator==(const HorizonPoint&) const = default;
};
double horizon_at(const std::vector<HorizonPoint>& horizon, double bearing_deg);

/// One stay of a body in the frame.
struct Passage {
  Instant from, to;
  bool at_start = false, at_end = false;  ///< it was there already, or still is
};

struct TimeSpan {
  Instant from, to;
};

/// What a camera sees, and what stands before it.
struct Framing {
  Move move;
  Optics optics;
  std::vector<HorizonPoint> horizon;
};

/// When a body is in the frame and above the horizon within a span of time, to a second.
std::vector<Passage> passages_of(const Ephemeris& sky, Body body, const Place& place, const Framing& framing,
                                 const TimeSpan& span);

/// The move of the head that keeps a body in the film throughout: at the same place of the frame at both
/// ends, the place chosen so that it stays near the middle and leaves land below where it can. Nothing where
/// no such move keeps it (or it is below the horizon). Roll is level.
std::optional<Move> move_that_keeps(const Ephemeris& sky, Body body, const Place& place, const Optics& optics,
                                    const TimeSpan& span, bool eased);

}  // namespace askcount::sky
