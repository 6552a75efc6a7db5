#include "support/json.hpp"

nlohmann::json testing_support::parsed(std::string_view text) { return nlohmann::json::parse(text); }
