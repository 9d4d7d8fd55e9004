// SPDX-License-Identifier: GPL-3.0-or-later
// Videos, encoded for real.
#pragma once

#include "cards.h"
#include "ingest/gather.h"
#include "render/render.h"

namespace askcount::test {

/// The pictures of a card as a film of that rate; the card itself goes again.
inline void write_film(const Card& card, const fs::path& film, FrameRate fps = {}) {
  const Folder folder;
  write_card(card, folder / "card");
  render::FilmOrder order;
  order.output = film;
  order.size = card.size;
  order.fps = fps;
  order.coding = {10, "veryfast", 8};
  order.levelled = false;
  render::render(ingest::gather(folder / "card").frames, media::any_source(), order);
}

}  // namespace askcount::test
