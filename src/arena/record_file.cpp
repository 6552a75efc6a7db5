#include "record_file.hpp"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <string_view>

#include "../game/json_reader.hpp"
#include "arvek/arena/files.hpp"
#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

using Json = RecordFile::Json;

constexpr const char* written_by_record = "a file that --record has written";
constexpr std::size_t most_record_bytes = std::size_t{2} << 30;

std::string line_text(const Json& json) { return json.dump(-1, ' ', false, Json::error_handler_t::replace); }

[[noreturn]] void fail_at(const std::string& path, std::size_t line, const std::string& problem) {
    throw InputError(path + ", line " + std::to_string(line), problem, written_by_record);
}

/// What differs, in words, between what the file is of and what is asked for.
std::string difference(const Json& found, const Json& asked) {
    if (!found.is_object()) return "it is described otherwise";
    if (found.value("format", Json(1)) != asked.at("format")) return "it was written by another version";
    for (const auto& [key, value] : asked.items()) {
        if (found.contains(key) && found.at(key) == value) continue;
        if (key != "digests" || !found.contains(key) || !found.at(key).is_object()) return "its " + key + " is another";
        for (const auto& [what, digest] : value.items())
            if (!found.at(key).contains(what) || found.at(key).at(what) != digest)
                return "the file of " + what + " has changed";
    }
    return "it is described otherwise";
}

}  // namespace

RecordFile::RecordFile(const std::string& path, const std::string& what, const Json& head, const std::string& line,
                       bool resume, const TakeOver& take_over)
    : path_(path) {
    file_ = ::open(path.c_str(), O_RDWR | O_APPEND | O_CREAT | O_CLOEXEC | O_NONBLOCK | O_NOCTTY, 0644);
    struct stat kind {};
    if (file_ < 0 || ::fstat(file_, &kind) != 0 || !S_ISREG(kind.st_mode)) {
        if (file_ >= 0) ::close(file_);
        throw InputError(path, "the file cannot be written", "a file in a folder that is there and may be written to");
    }
    try {
        if (kind.st_size > 0 && !resume)
            throw InputError(path, "there is such a file already", "--resume to go on with it, or another name");
        if (::flock(file_, LOCK_EX | LOCK_NB) != 0)
            throw InputError(path, "another " + what + " is writing the file", "one " + what + " at a time");
        read(what, head, line, take_over);
    } catch (...) {
        ::close(file_);
        throw;
    }
}

RecordFile::~RecordFile() { ::close(file_); }

void RecordFile::read(const std::string& what, const Json& head, const std::string& line_of,
                      const TakeOver& take_over) {
    const std::string content = read_text_file(path_, most_record_bytes);
    const Json first{{what, head}};
    const std::string begins_otherwise = "the file does not begin with a " + what;
    std::string_view left = content;
    std::size_t number = 0;
    constexpr std::string_view byte_order_mark = "\xef\xbb\xbf";
    if (left.starts_with(byte_order_mark)) {
        left.remove_prefix(byte_order_mark.size());
        whole_ += byte_order_mark.size();
    }
    while (!left.empty()) {
        ++number;
        const auto end = left.find('\n');
        std::string_view line = left.substr(0, end);
        if (end == std::string_view::npos) {  // no end of line: it was being written
            if (number == 1 && !line_text(first).starts_with(line)) fail_at(path_, 1, begins_otherwise);
            break;
        }
        left.remove_prefix(end + 1);
        const std::size_t bytes = line.size() + 1;
        if (line.ends_with('\r')) line.remove_suffix(1);  // saved by an editor that ends lines so
        const Json json = read_json<Json>(line, path_ + ", line " + std::to_string(number), written_by_record);
        if (!json.is_object()) fail_at(path_, number, "the line is no JSON object");
        if (number == 1) {
            if (!json.contains(what)) fail_at(path_, 1, begins_otherwise);
            if (const Json expected = Json::parse(line_text(first)); json != expected)
                throw InputError(path_,
                                 "the file holds another " + what + ": " + difference(json.at(what), expected.at(what)),
                                 "the same command as before, or another name");
        } else {
            std::string problem;
            try {
                problem = take_over(json);
            } catch (const std::exception&) {
                problem = "the line is no " + line_of;
            }
            if (!problem.empty()) fail_at(path_, number, problem);
        }
        whole_ += bytes;
    }
    if (::ftruncate(file_, static_cast<off_t>(whole_)) != 0)
        throw InputError(path_, "the file cannot be written", "a file that may be written to");
    // With a head that was cut off, or none, the file begins anew.
    if (whole_ <= byte_order_mark.size()) write_line(line_text(first));
}

void RecordFile::write_line(const std::string& line) {
    const std::string text = line + "\n";
    std::size_t written = 0;
    while (written < text.size()) {
        const ssize_t part = ::write(file_, text.data() + written, text.size() - written);
        if (part < 0 && errno == EINTR) continue;
        if (part <= 0) {
            (void)!::ftruncate(file_, static_cast<off_t>(whole_));
            throw InputError(path_, "the file cannot be written to", "room on the disk");
        }
        written += static_cast<std::size_t>(part);
    }
    whole_ += text.size();
}

void RecordFile::write(const Json& line) { write_line(line_text(line)); }

}  // namespace arvek
