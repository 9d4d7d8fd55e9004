#include "app/session/levelling.h"

#include <memory>

namespace askcount::app {

Levelling::Levelling(Document& document, Frames& frames, Job& job, QObject* parent)
    : QObject(parent), document_(document), frames_(frames), job_(job) {
  connect(&document, &Document::changed, this, &Levelling::drop_if_other);
  connect(&frames, &Frames::changed, this, &Levelling::drop_if_other);
}

void Levelling::drop_if_other() {
  if (!evenness_ || made_from_ == now()) return;
  evenness_.reset();
  emit changed();
}

void Levelling::start() {
  if (!frames_.gathered()) return;
  const Key key = now();
  const auto evenness = std::make_shared<level::Evenness>();
  job_.start({"Measuring brightness",
              [evenness, key](const Work& work) {
                const level::Luminances luminances = level::measure(
                    key.frames, source::any_source(), key.film, level::MeasuredFrom::Frames, work);
                *evenness = level::even_out(key.frames, luminances);
              },
              [this, evenness, key] {
                evenness_ = std::move(*evenness);
                made_from_ = key;
                emit changed();
              },
              [this, key] { return key == now(); }});
}

}  // namespace askcount::app
