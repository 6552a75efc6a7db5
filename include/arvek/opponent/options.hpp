#pragma once
// Options by name: what a chooser can be told, and what it is told.
//
//     arvek::OpponentSpec spec = arvek::read_opponent("standard@6");
//     spec.options.set("threads", 2);
//     spec.options.set("killers", false);

#include <concepts>
#include <cstdint>
#include <map>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace arvek {

/// A boolean, an integer, a number or a string.
using OptionValue = std::variant<bool, std::int64_t, double, std::string>;

/// An option that a chooser has.
struct OptionInfo {
    std::string name{};                  ///< lower-case letters, digits and underscores
    OptionValue default_value{};         ///< and the type of its values
    double least = 0.0;                  ///< of an integer or a number
    double most = 0.0;                   ///< of the same
    std::string about{};                 ///< what it does, in a few words
    std::vector<std::string> choices{};  ///< of a string: every value that it can have; empty: any

    std::string range_text() const;  ///< "true or false", "1 to 256", "auto or playouts", "any string"
};

/// "true", "16", "0.5" or the string itself.
std::string option_text(const OptionValue& value);

/// Options that are given, by name.
class Options {
   public:
    /// @{
    /// Gives an option, or gives it anew.
    Options& set(std::string name, bool value) { return put(std::move(name), value); }
    template <std::integral Integer>
    requires(!std::same_as<Integer, bool>) Options& set(std::string name, Integer value) {
        return put(std::move(name), static_cast<std::int64_t>(value));
    }
    Options& set(std::string name, double value) { return put(std::move(name), value); }
    Options& set(std::string name, std::string value) { return put(std::move(name), std::move(value)); }
    Options& set(std::string name, const char* value) { return put(std::move(name), std::string(value)); }
    Options& put(std::string name, OptionValue value) {
        values_.insert_or_assign(std::move(name), std::move(value));
        return *this;
    }
    /// @}

    bool has(const std::string& name) const { return values_.contains(name); }  ///< whether it is given
    bool empty() const { return values_.empty(); }                              ///< whether none is
    const std::map<std::string, OptionValue>& all() const { return values_; }   ///< by name

    // Each throws InputError where there is no such option, or one of another type.
    /// @{
    /// The value of an option. Throws InputError where it was not given, or is of another type.
    bool boolean(const std::string& name) const;
    std::int64_t integer(const std::string& name) const;
    double number(const std::string& name) const;
    const std::string& string(const std::string& name) const;
    /// @}

    friend bool operator==(const Options&, const Options&) = default;

   private:
    std::map<std::string, OptionValue> values_;
};

/// The value that a text stands for. Throws InputError, which names `where`, when it is none or out of range.
OptionValue read_option(const OptionInfo& info, std::string_view text, std::string_view where);

/// What is wrong with a value for an option, as a sentence; empty where nothing is. An integer does for a number.
std::string what_is_wrong(const OptionInfo& info, const OptionValue& value);

/// Every option of `known` with the value that `given` has for it, or else its default. Throws InputError for an option
/// that `owner` does not have, and for a value of another type or out of range.
Options complete_options(const std::vector<OptionInfo>& known, const Options& given, std::string_view owner);

}  // namespace arvek
