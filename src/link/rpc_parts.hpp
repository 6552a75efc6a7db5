#pragma once
// What the methods of JSON-RPC share: errors with codes, and params that are read by name.

#include <algorithm>
#include <cstdint>
#include <nlohmann/json.hpp>
#include <optional>
#include <stdexcept>
#include <string>
#include <vector>

#include "arvek/game/input_error.hpp"
#include "arvek/session/plain_text.hpp"

namespace arvek::link::detail {

using Json = nlohmann::ordered_json;

/// The codes of the standard, and those of ours in the range that it leaves free.
enum RpcCode {
    ParseError = -32700,
    InvalidRequest = -32600,
    MethodNotFound = -32601,
    InvalidParams = -32602,
    InternalError = -32603,
    CannotBeDone = -32000,   ///< what is asked is no move, no position, no opponent of the game, and so on
    RulesBroken = -32001,    ///< the game breaks its own contract
    ProgramFailed = -32002,  ///< a program that should have answered did not
    TooMany = -32003         ///< sessions, or requests that wait
};

class RpcError : public std::runtime_error {
   public:
    RpcError(RpcCode code, const std::string& message) : std::runtime_error(message), code_(code) {}
    RpcCode code() const { return code_; }

   private:
    RpcCode code_;
};

inline std::string kind_text(const Json& value) {
    return value.is_null()           ? "null"
           : value.is_number_float() ? "a number"
                                     : "a value of type " + std::string(value.type_name());
}

/// The params of a request, by name; what is not asked for by the end is too much.
class Params {
   public:
    Params(const std::string& method, const Json& given) : method_(method), given_(given) {
        if (!given.is_object())
            throw RpcError(InvalidParams,
                           method + ": params must be an object, names with values, not " + kind_text(given));
    }

    bool has(const std::string& name) { return find(name) != nullptr; }

    std::string text(const std::string& name) {
        const Json& value = required(name, "a string");
        if (!value.is_string()) fail(name, value, "a string");
        return value.get<std::string>();
    }
    std::optional<std::string> text_if(const std::string& name) {
        return find(name) == nullptr ? std::nullopt : std::optional(text(name));
    }
    std::int64_t integer(const std::string& name, std::int64_t least, std::int64_t most) {
        const std::string range = "an integer from " + std::to_string(least) + " to " + std::to_string(most);
        const Json& value = required(name, range);
        if (!value.is_number_integer()) fail(name, value, range);
        if (value.is_number_unsigned() && value.get<std::uint64_t>() > static_cast<std::uint64_t>(INT64_MAX))
            fail_range(name, range);
        const auto number = value.get<std::int64_t>();
        if (number < least || number > most) fail_range(name, range);
        return number;
    }
    std::optional<std::int64_t> integer_if(const std::string& name, std::int64_t least, std::int64_t most) {
        return find(name) == nullptr ? std::nullopt : std::optional(integer(name, least, most));
    }
    std::optional<double> number_if(const std::string& name, double least, double most) {
        const Json* value = find(name);
        if (value == nullptr) return std::nullopt;
        const std::string range = "a number from " + number_text(least) + " to " + number_text(most);
        if (!value->is_number()) fail(name, *value, range);
        const auto number = value->get<double>();
        if (!(number >= least && number <= most)) fail_range(name, range);
        return number;
    }
    bool boolean_or(const std::string& name, bool otherwise) {
        const Json* value = find(name);
        if (value == nullptr) return otherwise;
        if (!value->is_boolean()) fail(name, *value, "true or false");
        return value->get<bool>();
    }
    std::vector<std::string> texts(const std::string& name) {
        std::vector<std::string> all;
        const Json* value = find(name);
        if (value == nullptr) return all;
        if (!value->is_array()) fail(name, *value, "a list of strings");
        for (const Json& each : *value) {
            if (!each.is_string()) fail(name, each, "a list of strings");
            all.push_back(each.get<std::string>());
        }
        return all;
    }
    const Json* object_if(const std::string& name) {
        const Json* value = find(name);
        if (value != nullptr && !value->is_object()) fail(name, *value, "an object");
        return value;
    }
    const Json& any(const std::string& name) { return required(name, "a value"); }

    /// Throws RpcError for a param that was not asked for.
    void finish() const {
        for (const auto& [name, value] : given_.items()) {
            if (std::find(asked_.begin(), asked_.end(), name) != asked_.end()) continue;
            const std::string nearest = nearest_of(name, asked_);
            throw RpcError(InvalidParams,
                           method_ + ": there is no param " + in_quotes(name) + " (expected " +
                               (asked_.empty() ? "none"
                                               : (nearest.empty() ? "" : nearest + ", perhaps; there are ") +
                                                     any_of_text(asked_)) +
                               ")");
        }
    }

    [[noreturn]] void fail_range(const std::string& name, const std::string& range) const {
        throw RpcError(InvalidParams, method_ + ": " + name + " is out of range (expected " + range + ")");
    }

   private:
    const Json* find(const std::string& name) {
        if (std::find(asked_.begin(), asked_.end(), name) == asked_.end()) asked_.push_back(name);
        const auto found = given_.find(name);
        return found == given_.end() ? nullptr : &*found;
    }
    const Json& required(const std::string& name, const std::string& expected) {
        const Json* value = find(name);
        if (value == nullptr)
            throw RpcError(InvalidParams,
                           method_ + ": the param '" + name + "' is missing (expected " + expected + ")");
        return *value;
    }
    [[noreturn]] void fail(const std::string& name, const Json& value, const std::string& expected) const {
        throw RpcError(InvalidParams,
                       method_ + ": " + name + " is " + kind_text(value) + " (expected " + expected + ")");
    }

    std::string method_;
    const Json& given_;
    std::vector<std::string> asked_;
};

}  // namespace arvek::link::detail
