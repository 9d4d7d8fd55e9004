#include "app/session/frames.h"

#include <memory>

namespace askcount::app {

Frames::Frames(Document& document, Job& job, QObject* parent)
    : QObject(parent), document_(document), job_(job) {
  connect(&document, &Document::changed, this, [this] {
    if (gathered_ && made_from_ != now()) forget();
  });
}

source::Frames Frames::list() const {
  static const source::Frames none = source::frames_of({});
  return gathered_ ? gathered_->frames : none;
}

void Frames::gather() {
  const Key key = now();
  if (key.card.empty()) return;
  const auto found = std::make_shared<gather::Gathered>();
  job_.start({"Reading the card",
              [found, card = key.card](const Work& work) { *found = gather::gather(card, work); },
              [this, found, key] {
                gathered_ = std::move(*found);
                made_from_ = key;
                emit changed();
              },
              [this, key] { return key == now(); }});
}

void Frames::forget() {
  if (!gathered_) return;
  gathered_.reset();
  emit changed();
}

}  // namespace askcount::app
