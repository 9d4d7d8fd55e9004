// JSON documents and what every reader of them needs: errors that name the file and the key.
#pragma once

#include <filesystem>
#include <nlohmann/json_fwd.hpp>

#include "base/finding.h"

namespace askcount {

/// Only its name: a file that makes or reads one includes <nlohmann/json.hpp> itself, so that the many that
/// do not need not compile it.
using Json = nlohmann::ordered_json;

/// Parses a file. Throws BadInput naming the file and where in it the text stops being JSON.
Json read_json(const std::filesystem::path& file);

/// The findings as the list every verb prints.
Json to_json(const Findings& findings);

/// A number rounded to so many decimals, as a JSON number, so that output carries no digits that mean
/// nothing.
double rounded(double value, int decimals);

}  // namespace askcount
