// SPDX-License-Identifier: GPL-3.0-or-later
// JSON documents and what every reader of them needs: errors that name the file and the key.
#pragma once

#include <filesystem>
#include <nlohmann/json_fwd.hpp>
#include <string>
#include <string_view>

namespace askcount {

/// Only its name: a file that makes or reads one includes <nlohmann/json.hpp> itself, so that the many that
/// do not need not compile it.
using Json = nlohmann::ordered_json;

/// Objects and lists within each other that a text may have: more is no document, and would cost the stack.
inline constexpr int kDeepestJson = 64;

/// Parses a text that `name` is said to be (a file, a line of a socket). Throws BadInput naming it where it
/// stops being JSON, nests deeper than kDeepestJson, or holds a number no computer has (1e999).
Json parse_json(std::string_view text, const std::string& name);

/// Parses a file; throws as parse_json() and read_file().
Json read_json(const std::filesystem::path& file);

/// A number rounded to this many decimals, as a JSON number, so that output carries no digits that mean
/// nothing.
double rounded(double value, int decimals);

}  // namespace askcount
