#pragma once
// DataFile: a file of data in TOML, whose every complaint names the file, the line and the column.
//
//     const arvek::DataFile file(text, "crew.toml");
//     file.allow_only(file.root(), {"name", "hand"});
//     std::string name = file.text(file.required(file.root(), "name", "\"The Eel Street Hands\""), "name");
//
// What complains throws InputError. Outside lines of comment only plain ASCII is read.

#include <cstdint>
#include <functional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "arvek/game/input_error.hpp"

namespace arvek {

/// A place in a text, counted from 1.
struct DataPlace {
    int line = 1;    ///< from 1
    int column = 1;  ///< from 1, in letters
    int file = 0;    ///< which of several, where one takes in others; 0: the one itself

    friend bool operator==(const DataPlace&, const DataPlace&) = default;
};

/// A value of a file.
struct DataNode {
    /// What a value is.
    enum class Kind : std::uint8_t { Table, List, String, Integer, Number, Boolean, Other };
    struct Entry;

    Kind kind = Kind::Other;      ///< what it is
    DataPlace place{};            ///< where it stands
    std::vector<Entry> entries;   ///< of a table, in the order of the file
    std::vector<DataNode> items;  ///< of a list
    std::string text{};           ///< of a string
    std::int64_t integer = 0;     ///< of an integer
    double number = 0.0;          ///< of an integer too
    bool truth = false;           ///< of a boolean

    /// The value of a key; nullptr where it is not there, or this is no table.
    const DataNode* find(std::string_view key) const;
};

/// A key of a table and its value.
struct DataNode::Entry {
    std::string key;  ///< without quotes
    DataPlace place;  ///< of the key
    DataNode value;   ///< what it stands for
};

/// A file in TOML.
class DataFile {
   public:
    /// Throws InputError for what is no TOML, is larger than `most_bytes` or nested beyond reason.
    DataFile(std::string_view text, std::string_view source, std::size_t most_bytes = 200'000);

    const DataNode& root() const { return root_; }                  ///< the whole, a table
    const std::string& source() const { return sources_.front(); }  ///< what complaints call the file
    /// Of itself and of every file that it took in, by DataPlace::file.
    const std::vector<std::string>& sources() const { return sources_; }
    /// Takes in another file: `merge(own, theirs)` joins theirs to the root of this one. Complaints go on naming the file
    /// that a value came from.
    void take_in(const DataFile& other, const std::function<void(DataNode& own, DataNode theirs)>& merge);
    /// Changes what was read.
    void change(const std::function<void(DataNode& root)>& changing) { changing(root_); }
    /// "keeper.toml, line 3, column 8".
    std::string at(const DataPlace& place) const;

    /// Throws InputError with the place, the problem and what would be right.
    [[noreturn]] void fail(const DataPlace& place, const std::string& problem, const std::string& expected) const;
    /// The same at the place of a value.
    [[noreturn]] void fail(const DataNode& node, const std::string& problem, const std::string& expected) const {
        fail(node.place, problem, expected);
    }
    /// What is said where a name is none of those known: with the nearest.
    [[noreturn]] void fail_unknown(const DataPlace& place, const std::string& what, const std::string& name,
                                   const std::vector<std::string>& known) const;

    /// Each of these throws InputError where the file says otherwise.
    void allow_only(const DataNode& table, const std::vector<std::string>& known) const;
    /// The value of a key that must be there; `example`: how it could be written.
    const DataNode& required(const DataNode& table, const std::string& key, const std::string& example) const;
    /// That the node is a table.
    void require_table(const DataNode& node, const std::string& what, const std::string& example) const;
    /// The node's text.
    const std::string& text(const DataNode& node, const std::string& what) const;
    /// The node's truth.
    bool boolean(const DataNode& node, const std::string& what) const;
    /// The node's integer, from `least` to `most`.
    std::int64_t integer(const DataNode& node, const std::string& what, std::int64_t least, std::int64_t most) const;
    /// The node's number, from `least` to `most`.
    double number(const DataNode& node, const std::string& what, double least, double most) const;
    /// The place of the node's text among the names.
    std::size_t choice(const DataNode& node, const std::string& what, const std::vector<std::string>& names) const;
    /// The tables of [[key]]; none where the key is not there.
    std::vector<const DataNode*> tables(const DataNode& table, const std::string& key, std::size_t most) const;

    /// The value of a key, or `otherwise` where it is not there.
    std::int64_t integer_or(const DataNode& table, const std::string& key, std::int64_t otherwise, std::int64_t least,
                            std::int64_t most) const;
    /// The same for a number.
    double number_or(const DataNode& table, const std::string& key, double otherwise, double least, double most) const;
    /// The same for true or false.
    bool boolean_or(const DataNode& table, const std::string& key, bool otherwise) const;
    /// The same for a text.
    std::string text_or(const DataNode& table, const std::string& key, const std::string& otherwise) const;

   private:
    std::vector<std::string> sources_;
    DataNode root_;
};

}  // namespace arvek
