#include "source/frame.h"

#include "source/kind.h"

namespace askcount::source {

Frame frame_of(const std::filesystem::path& file) {
  Exposure exposure;
  (kind_of(file) == Kind::Raw ? exposure.raw : exposure.compressed) = file;
  try {
    exposure.info = read_shot_info(file);
  } catch (const std::exception& e) {
    exposure.trouble = e.what();
  }
  return Frame(std::move(exposure));
}

}  // namespace askcount::source
