// SPDX-License-Identifier: GPL-3.0-or-later
// The take's frames, gathered from its cards.
#pragma once

#include <cstdint>
#include <filesystem>
#include <optional>
#include <QObject>
#include <vector>

#include "app/session/document.h"
#include "app/session/job.h"
#include "ingest/gather.h"

namespace askcount::app {

/// What was gathered, as long as it is of the open take's cards. What is decided about frames in the take is
/// done at once, without reading the cards again.
class Frames : public QObject {
  Q_OBJECT
 public:
  Frames(Document& document, Job& job, QObject* parent = nullptr);

  /// Nothing where the cards have not been read, or others are the take's by now.
  const std::optional<ingest::Gathered>& gathered() const { return gathered_; }
  /// The frames themselves; empty, never null, where nothing was gathered.
  media::Frames list() const;
  /// Reads the take's cards; changed() tells when it is through. Nothing happens while other work goes on.
  void gather();
  /// Lets what was gathered go: the card is about to be another.
  void forget();
  /// The take's cards, as they are from here.
  std::vector<std::filesystem::path> cards() const;

 signals:
  void changed();

 private:
  /// What gathered frames are made from.
  struct Key {
    std::uint64_t generation = 0;
    std::vector<std::filesystem::path> cards;
    double clock_s = 0;
    long long film_step = 0;
    bool operator==(const Key&) const = default;
  };
  Key now() const {
    const take::GatherWish& w = document_.take().gather;
    return {document_.generation(), cards(), w.clock_s, w.film_step};
  }
  /// What of the plan the takes are told by.
  struct Planned {
    std::optional<double> interval_s;
    std::optional<long long> frames;
    long long days = 1;
    std::optional<media::CameraTime> start;
    bool operator==(const Planned&) const = default;
  };
  Planned planned() const;
  void decide();
  void let_go();
  void after_edit();
  /// Now, or as soon as the work that goes on has ended.
  void gather_when_free();

  Document& document_;
  Job& job_;
  std::optional<ingest::Found> found_;
  std::optional<ingest::Gathered> gathered_;
  take::GatherWish decided_;
  Planned planned_;       // likewise
  Key made_from_;         // the cards read last, even where what was gathered was let go of
  bool waiting_ = false;  // for other work to end
};

}  // namespace askcount::app
