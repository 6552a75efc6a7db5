#pragma once
// A file of lines of JSON, each in the file as soon as it is written, that an interrupted run goes on from.

#include <cstdint>
#include <functional>
#include <nlohmann/json.hpp>
#include <string>

namespace arvek {

class RecordFile {
   public:
    using Json = nlohmann::ordered_json;
    /// Takes a line of an earlier run over. Returns what cannot be about it, empty where nothing is; what it throws stands
    /// for a line that is none of these.
    using TakeOver = std::function<std::string(const Json& line)>;

    /// Begins a file, or with `resume` reads the one that is there; where there is none, that begins one as well. Its
    /// first line is {what: head}; `line` is what the others are, "game of a match". Throws InputError for a file that is
    /// there without `resume`, that begins otherwise, for lines that cannot be (with their number), and where it cannot
    /// be written. A last line that was not finished is taken off; nothing else of the file is changed.
    RecordFile(const std::string& path, const std::string& what, const Json& head, const std::string& line, bool resume,
               const TakeOver& take_over);
    ~RecordFile();
    RecordFile(const RecordFile&) = delete;
    RecordFile& operator=(const RecordFile&) = delete;

    /// Appends a line; it is in the file when this returns. Throws InputError when it cannot be written; what was
    /// written of it is taken off again.
    void write(const Json& line);

   private:
    void read(const std::string& what, const Json& head, const std::string& line, const TakeOver& take_over);
    void write_line(const std::string& line);

    std::string path_;
    int file_ = -1;
    std::uint64_t whole_ = 0;  ///< bytes in finished lines
};

/// The integer of a field: none that a float, a negative number or a number beyond 64 bits would become. Throws where it
/// is none.
template <class Integer>
Integer integer_at(const RecordFile::Json& json, const char* key) {
    const auto& value = json.at(key);
    if (!value.is_number_integer()) throw std::invalid_argument(key);
    if constexpr (std::is_unsigned_v<Integer>) {
        if (!value.is_number_unsigned()) throw std::invalid_argument(key);
        return value.template get<Integer>();
    } else {
        const auto wide = value.template get<std::int64_t>();
        if (wide < INT32_MIN || wide > INT32_MAX) throw std::invalid_argument(key);
        return static_cast<Integer>(wide);
    }
}

}  // namespace arvek
