#include "match_file.hpp"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <cerrno>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <set>
#include <sstream>

#include "arvek/game/input_error.hpp"
#include "values.hpp"

namespace arvek::tool {

namespace {

using Json = nlohmann::ordered_json;

constexpr const char* winner_names[] = {"a", "none", "b"};

std::string head_of(const MatchIdentity& identity) {
    Json set = Json::object();
    for (const Setting& setting : identity.subject.settings) set[setting.name] = setting.value;
    const Json match{{"game", identity.subject.game},
                     {"set", set},
                     {"position", identity.subject.position},
                     {"a", identity.a},
                     {"b", identity.b},
                     {"digest_a", identity.digest_a},
                     {"digest_b", identity.digest_b},
                     {"seed", identity.seed},
                     {"opening_plies", identity.opening_plies},
                     {"openings", identity.openings}};
    return Json{{"match", match}}.dump();
}

std::string line_of(const GameRecord& game) {
    const GameResult& counted = game.counted;
    return Json{{"number", counted.number},
                {"first", counted.a_first ? "a" : "b"},
                {"winner", winner_names[static_cast<std::size_t>(counted.winner)]},
                {"finished", counted.finished},
                {"plies", counted.plies},
                {"course", counted.course},
                {"moves_a", counted.moves_a},
                {"moves_b", counted.moves_b},
                {"seconds_a", counted.seconds_a},
                {"seconds_b", counted.seconds_b},
                {"chosen_a", counted.chosen_a},
                {"chosen_b", counted.chosen_b},
                {"result", game.result},
                {"end", game.end_drawing},
                {"moves", game.moves}}
        .dump();
}

GameRecord game_of(const Json& json, const std::string& a, const std::string& b) {
    GameRecord game;
    GameResult& counted = game.counted;
    counted.number = json.at("number").get<int>();
    counted.a_first = json.at("first").get<std::string>() == "a";
    const auto winner = json.at("winner").get<std::string>();
    if (winner != "a" && winner != "b" && winner != "none") throw std::runtime_error("the winner is not known");
    counted.winner = winner == "a" ? MatchWinner::A : winner == "b" ? MatchWinner::B : MatchWinner::Nobody;
    counted.finished = json.at("finished").get<bool>();
    counted.plies = json.at("plies").get<std::uint64_t>();
    counted.course = json.at("course").get<std::uint64_t>();
    counted.moves_a = json.at("moves_a").get<std::uint64_t>();
    counted.moves_b = json.at("moves_b").get<std::uint64_t>();
    counted.seconds_a = json.at("seconds_a").get<double>();
    counted.seconds_b = json.at("seconds_b").get<double>();
    counted.chosen_a = json.at("chosen_a").get<std::map<std::string, std::uint64_t>>();
    counted.chosen_b = json.at("chosen_b").get<std::map<std::string, std::uint64_t>>();
    game.result = json.at("result").get<std::string>();
    game.end_drawing = json.at("end").get<std::string>();
    game.moves = json.at("moves").get<std::vector<std::string>>();
    game.first = counted.a_first ? a : b;
    game.second = counted.a_first ? b : a;
    return game;
}

[[noreturn]] void throw_no_match(const std::string& path, std::size_t line, const std::string& problem) {
    throw InputError(path + ", line " + std::to_string(line), problem, "a file that --record has written");
}

/// What differs, in words, between the match of the file and the one that is asked for.
std::string difference(const Json& found, const Json& asked) {
    for (const auto& [key, value] : asked.items())
        if (!found.contains(key) || found.at(key) != value)
            return key.starts_with("digest_") ? "the profile file of " + key.substr(7) + " has changed"
                                              : "its " + key + " is another";
    return "it is described otherwise";
}

}  // namespace

MatchFile::MatchFile(const std::string& path, const MatchIdentity& identity, bool resume)
    : path_(path), a_(identity.a), b_(identity.b) {
    std::error_code error;
    const bool there = std::filesystem::exists(path, error);
    if (there && !std::filesystem::is_regular_file(path, error))
        throw InputError(path, "it is no file", "the name of a file for the games");
    if (there && !resume && std::filesystem::file_size(path, error) > 0)
        throw InputError(path, "there is such a file already", "--resume to go on with it, or another name");
    const std::string head = head_of(identity);
    file_ = ::open(path.c_str(), O_WRONLY | O_APPEND | O_CREAT | O_CLOEXEC, 0644);
    if (file_ < 0)
        throw InputError(path, "the file can not be written", "a file in a folder that is there and may be written to");
    try {
        if (::flock(file_, LOCK_EX | LOCK_NB) != 0)
            throw InputError(path, "another match is writing the file", "one match at a time");
        read(head);
    } catch (...) {
        ::close(file_);
        throw;
    }
}

MatchFile::~MatchFile() { ::close(file_); }

void MatchFile::read(const std::string& expected_head) {
    std::ifstream in(path_, std::ios::binary);
    std::string line;
    std::size_t number = 0;
    std::uint64_t whole = 0;  // bytes in finished lines
    std::set<int> known;
    while (std::getline(in, line)) {
        ++number;
        if (in.eof()) {  // no end of line: it was being written
            if (number == 1 && !expected_head.starts_with(line))
                throw_no_match(path_, 1, "the file does not begin with a match");
            break;
        }
        const Json json = Json::parse(line, nullptr, false);
        if (json.is_discarded() || !json.is_object()) throw_no_match(path_, number, "the line is no JSON object");
        if (number == 1) {
            if (!json.contains("match")) throw_no_match(path_, 1, "the file does not begin with a match");
            if (line != expected_head)
                throw InputError(path_,
                                 "the file holds another match: " +
                                     difference(json.at("match"), Json::parse(expected_head).at("match")),
                                 "the same command as before, or another name");
        } else {
            try {
                GameRecord game = game_of(json, a_, b_);
                if (!known.insert(game.counted.number).second)
                    throw_no_match(path_, number, "game " + std::to_string(game.counted.number) + " is there twice");
                games_.push_back(std::move(game));
            } catch (const InputError&) {
                throw;
            } catch (const std::exception&) {
                throw_no_match(path_, number, "the line is no game of a match");
            }
        }
        whole += line.size() + 1;
    }
    if (::ftruncate(file_, static_cast<off_t>(whole)) != 0)
        throw InputError(path_, "the file can not be written", "a file that may be written to");
    if (whole == 0) write_line(expected_head);
}

void MatchFile::write_line(const std::string& line) {
    const std::string text = line + "\n";
    std::size_t written = 0;
    while (written < text.size()) {
        const ssize_t part = ::write(file_, text.data() + written, text.size() - written);
        if (part < 0 && errno == EINTR) continue;
        if (part <= 0) throw InputError(path_, "the file can not be written to", "room on the disk");
        written += static_cast<std::size_t>(part);
    }
}

void MatchFile::add(const GameRecord& game) { write_line(line_of(game)); }

}  // namespace arvek::tool
