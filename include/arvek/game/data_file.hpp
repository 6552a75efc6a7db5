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
    int line = 1;
    int column = 1;
    int file = 0;  ///< which of several, where one takes in others; 0: the one itself

    friend bool operator==(const DataPlace&, const DataPlace&) = default;
};

/// A value of a file.
struct DataNode {
    enum class Kind : std::uint8_t { Table, List, String, Integer, Number, Boolean, Other };
    struct Entry;

    Kind kind = Kind::Other;
    DataPlace place{};
    std::vector<Entry> entries;   ///< of a table, in the order of the file
    std::vector<DataNode> items;  ///< of a list
    std::string text{};
    std::int64_t integer = 0;
    double number = 0.0;  ///< of an integer too
    bool truth = false;

    /// The value of a key; nullptr where it is not there, or this is no table.
    const DataNode* find(std::string_view key) const;
};

struct DataNode::Entry {
    std::string key;
    DataPlace place;  ///< of the key
    DataNode value;
};

class DataFile {
   public:
    /// Throws InputError for what is no TOML, is larger than `most_bytes` or nested beyond reason.
    DataFile(std::string_view text, std::string_view source, std::size_t most_bytes = 200'000);

    const DataNode& root() const { return root_; }
    const std::string& source() const { return sources_.front(); }
    /// Of itself and of every file that it took in, by DataPlace::file.
    const std::vector<std::string>& sources() const { return sources_; }
    /// Takes in another file: `merge(own, theirs)` joins theirs to the root of this one. Complaints go on naming the file
    /// that a value came from.
    void take_in(const DataFile& other, const std::function<void(DataNode& own, DataNode theirs)>& merge);
    /// Changes what was read.
    void change(const std::function<void(DataNode& root)>& changing) { changing(root_); }
    /// "keeper.toml, line 3, column 8".
    std::string at(const DataPlace& place) const;

    [[noreturn]] void fail(const DataPlace& place, const std::string& problem, const std::string& expected) const;
    [[noreturn]] void fail(const DataNode& node, const std::string& problem, const std::string& expected) const {
        fail(node.place, problem, expected);
    }
    /// What is said where a name is none of those known: with the nearest.
    [[noreturn]] void fail_unknown(const DataPlace& place, const std::string& what, const std::string& name,
                                   const std::vector<std::string>& known) const;

    /// Each of these throws InputError where the file says otherwise.
    void allow_only(const DataNode& table, const std::vector<std::string>& known) const;
    const DataNode& required(const DataNode& table, const std::string& key, const std::string& example) const;
    void require_table(const DataNode& node, const std::string& what, const std::string& example) const;
    const std::string& text(const DataNode& node, const std::string& what) const;
    bool boolean(const DataNode& node, const std::string& what) const;
    std::int64_t integer(const DataNode& node, const std::string& what, std::int64_t least, std::int64_t most) const;
    double number(const DataNode& node, const std::string& what, double least, double most) const;
    /// The place of the node's text among the names.
    std::size_t choice(const DataNode& node, const std::string& what, const std::vector<std::string>& names) const;
    /// The tables of [[key]]; none where the key is not there.
    std::vector<const DataNode*> tables(const DataNode& table, const std::string& key, std::size_t most) const;

    /// The value of a key, or `otherwise` where it is not there.
    std::int64_t integer_or(const DataNode& table, const std::string& key, std::int64_t otherwise, std::int64_t least,
                            std::int64_t most) const;
    double number_or(const DataNode& table, const std::string& key, double otherwise, double least, double most) const;
    bool boolean_or(const DataNode& table, const std::string& key, bool otherwise) const;
    std::string text_or(const DataNode& table, const std::string& key, const std::string& otherwise) const;

   private:
    std::vector<std::string> sources_;
    DataNode root_;
};

}  // namespace arvek
