#pragma once
// Parts that the JSON of several reports shares.

#include <nlohmann/json.hpp>
#include <string>

#include "arvek/session/report.hpp"

namespace arvek::detail {

using ReportJson = nlohmann::ordered_json;

/// The text of a document, which ends with a new line.
std::string document(const ReportJson& json);
/// The game, its parameters and the position.
ReportJson json_of(const Subject& subject);

}  // namespace arvek::detail
