// The take's frames, gathered from its card.
#pragma once

#include <cstdint>
#include <filesystem>
#include <optional>
#include <QObject>

#include "app/session/document.h"
#include "app/session/job.h"
#include "gather/gather.h"

namespace askcount::app {

/// What was gathered, as long as it is of the open take's card.
class Frames : public QObject {
  Q_OBJECT
 public:
  Frames(Document& document, Job& job, QObject* parent = nullptr);

  /// Nothing where the card has not been read, or another is the take's by now.
  const std::optional<gather::Gathered>& gathered() const { return gathered_; }
  /// The frames themselves; empty, never null, where nothing was gathered.
  source::Frames list() const;
  /// Reads the take's card; changed() tells when it is through. Nothing happens while other work goes on.
  void gather();
  /// Lets what was gathered go: the card is about to be another.
  void forget();

 signals:
  void changed();

 private:
  /// What gathered frames are made from.
  struct Key {
    std::uint64_t generation = 0;
    std::filesystem::path card;
    bool operator==(const Key&) const = default;
  };
  Key now() const { return {document_.generation(), document_.card()}; }

  Document& document_;
  Job& job_;
  std::optional<gather::Gathered> gathered_;
  Key made_from_;
};

}  // namespace askcount::app
