#pragma once
// Reads the conditions of a profile, and what stands in them: names, filters of acts, numbers.

#include <cstddef>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "arvek/opponent/profile.hpp"
#include "profile_files.hpp"

namespace arvek {

/// Most parts of a list of names or conditions.
inline constexpr std::size_t most_parts = 100;
inline constexpr double largest_number = 1e9;

class ConditionReader {
   protected:
    explicit ConditionReader(DataFile file) : file_(std::move(file)) {}
    ~ConditionReader() = default;

    std::string line(const DataNode& node, const std::string& what) const;
    PlacedName placed(const DataNode& node, const std::string& what) const { return {line(node, what), node.place}; }
    std::optional<PlacedName> placed_or_none(const DataNode& table, const std::string& key) const;
    /// Names, given as one or as a list.
    std::vector<PlacedName> names(const DataNode& table, const std::string& key) const;
    /// The keys of a filter of acts.
    static const std::vector<std::string>& filter_keys();
    ActFilterText act_filter(const DataNode& table) const;

    ConditionText condition(const DataNode& node, int depth = 1) const;
    /// That of `when`; one that always holds where there is none.
    ConditionText condition_or_none(const DataNode& table) const;

    /// Puts in place of every name its condition. `before`: of those a condition may use the ones above it alone, so
    /// that none goes round.
    void resolve(ConditionText& condition, const Profile& profile, std::size_t before) const;

    /// Thrown where a condition is used with which something is wrong, as has been said already.
    struct AlreadySaid {};

    DataFile file_;
    std::vector<std::string> wrong_conditions_;  ///< by name

   private:
    MeasureText operand(const DataNode& node, const std::string& key) const;
    std::optional<MeasureText> measure(const DataNode& node) const;
    void fill_in(ConditionText& condition, const Profile& profile, std::size_t before) const;
};

}  // namespace arvek
