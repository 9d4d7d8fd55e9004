// SPDX-License-Identifier: GPL-3.0-or-later
// What every file that uses JSON would compile for itself is compiled once, in json.cpp.
#pragma once

#include <nlohmann/json.hpp>
#include <string>

#include "base/json.h"

namespace askcount {
using JsonText =
    nlohmann::detail::iterator_input_adapter<__gnu_cxx::__normal_iterator<const char*, std::string>>;
}

extern template class nlohmann::basic_json<nlohmann::ordered_map>;
extern template class nlohmann::detail::serializer<askcount::Json>;
extern template class nlohmann::detail::parser<askcount::Json, askcount::JsonText>;
extern template class nlohmann::detail::lexer<askcount::Json, askcount::JsonText>;
