// SPDX-License-Identifier: GPL-3.0-or-later
// A folder as one file.
#pragma once

#include <filesystem>

#include "base/progress.h"

namespace askcount::book {

/// Whether a name asks for an archive: .tar or .zip.
bool is_archive(const std::filesystem::path& file);

/// Writes a folder with everything below it as an archive, under the folder's own name: .tar (POSIX pax) or
/// .zip, neither compressed, for pictures are. It appears whole or not at all, and never over anything.
/// Throws as TemporaryFile, Failed and Cancelled.
void write_archive(const std::filesystem::path& folder, const std::filesystem::path& file,
                   const Work& work = {});

}  // namespace askcount::book
