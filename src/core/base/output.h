// SPDX-License-Identifier: GPL-3.0-or-later
// What may be written where: the one rule that keeps people's files.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace askcount {

/// The kinds of files that Ask Count writes.
enum class FileKind {
  Take,
  Kit,
  Table,     ///< CSV
  Calendar,  ///< iCalendar
  Sheet,     ///< PDF
  Picture,   ///< PNG
  Film,
  Record,       ///< JSON the program keeps for itself in its own folder: recent takes, places, settings
  Report,       ///< JSON that lies beside what it tells of: a film, a stand-in's card, a packed take
  Frame,        ///< a picture of the stand-in camera, or a copied file: never over anything
  Manifest,     ///< the list of copied files with their checksums
  Look,         ///< looks and their anchors
  ColourTable,  ///< .cube
  Page          ///< HTML
};

/// What else is known about a file that is to be written.
struct Guard {
  std::vector<std::filesystem::path> inputs;  ///< files it is made from: they are never written over
  bool force = false;  ///< the person said that a file of another kind, or not made by Ask Count, may go
};

/// A file that is to be written.
struct Output {
  Output(std::filesystem::path where, FileKind what, Guard said = {})
      : file(std::move(where)), kind(what), guard(std::move(said)) {}
  std::filesystem::path file;
  FileKind kind;
  Guard guard;
};

/// Whether a file holds a photograph, by its first bytes (JPEG, TIFF and the raw files built like it, HEIF
/// and its kin) or, where those say nothing, by the ending of its name. False where it cannot be read.
bool is_photograph(const std::filesystem::path& file);

/// Which kind a file is that Ask Count has written: by its content, never by its name. A film is known by its
/// container only (media::made_by_us tells whose it is). Nothing for what Ask Count has not written, for what
/// cannot be read and for what is empty.
std::optional<FileKind> written_kind(const std::filesystem::path& file);

/// Throws BadInput, naming the file and what to do, where it must not be written: it is a folder, a device or
/// a pipe, a link that leads to nothing, read-only, a photograph, one of its own inputs, or a file that Ask
/// Count did not write as this kind (that last one may go with `force`; an empty file may always). Everything
/// that writes asks this: TemporaryFile does.
void check_output(const Output& output);

}  // namespace askcount
