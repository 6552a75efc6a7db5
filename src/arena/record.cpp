#include "arvek/arena/record.hpp"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cmath>
#include <cstdlib>
#include <nlohmann/json.hpp>
#include <optional>
#include <set>

#include "arvek/arena/files.hpp"
#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

using Json = nlohmann::ordered_json;

constexpr int format_version = 3;
constexpr int most_games = 1'000'000;
constexpr std::size_t most_record_bytes = std::size_t{2} << 30;
constexpr const char* winner_names[] = {"a", "none", "b"};

std::string line_text(const Json& json) { return json.dump(-1, ' ', false, Json::error_handler_t::replace); }

std::string head_of(const MatchIdentity& identity) {
    Json set = Json::object();
    for (const auto& [name, value] : identity.settings) set[name] = value;
    Json digests = Json::object();
    for (const auto& [what, digest] : identity.digests) digests[what] = digest;
    const Json match{{"format", format_version},
                     {"game", identity.game},
                     {"players", identity.players},
                     {"set", set},
                     {"position", identity.position},
                     {"a", identity.a},
                     {"b", identity.b},
                     {"seed", identity.seed},
                     {"opening_plies", identity.opening_plies},
                     {"openings", identity.openings},
                     {"limits", identity.limits},
                     {"digests", digests}};
    return line_text(Json{{"match", match}});
}

std::string line_of(const GameRecord& game) {
    const GameResult& counted = game.counted;
    return line_text(Json{{"number", counted.number},
                          {"a_first", counted.a_first},
                          {"seat_a", counted.seat_a},
                          {"payoff_a", counted.payoff_a},
                          {"points_a", counted.points_a},
                          {"winner", winner_names[static_cast<std::size_t>(counted.winner)]},
                          {"ended_by", name_of(counted.ended_by)},
                          {"fault", counted.fault},
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
                          {"moves", game.moves}});
}

/// What cannot be about a game, as a sentence; empty where nothing is.
std::string what_cannot_be(const GameRecord& game, int players) {
    const GameResult& counted = game.counted;
    if (counted.number < 0 || counted.number >= most_games) return "a number of a game is from 0 to 999999";
    const int together = std::max(2, players);
    if (counted.a_first != (counted.number % together == 0))
        return "A moves first in every " + std::string(together == 2 ? "even" : together == 3 ? "third" : "fourth") +
               " game, and in no other";
    if (counted.seat_a != (players == 1 ? 0 : counted.number % together)) return "A has another seat in that game";
    if (std::abs(static_cast<double>(counted.payoff_a)) > largest_payoff) return "there is no such payoff";
    if (!(counted.points_a >= 0 && counted.points_a <= 1)) return "points are from 0 to 1";
    if (players == 2 && counted.ended_by != EndedBy::BrokenRules &&
        counted.points_a != (counted.winner == MatchWinner::A ? 1.0 : counted.winner == MatchWinner::B ? 0.0 : 0.5))
        return "the points do not go with the winner";
    const bool decided = counted.winner != MatchWinner::Nobody;
    if (decided && (counted.ended_by == EndedBy::Repetition || counted.ended_by == EndedBy::CutOff ||
                    counted.ended_by == EndedBy::BrokenRules))
        return std::string("a game that ended by ") + name_of(counted.ended_by) + " has no winner";
    if (!decided && counted.is_lost_by_fault()) return "a game lost by a fault has a winner";
    if (counted.ended_by != EndedBy::BrokenRules && counted.plies != game.moves.size())
        return "it says " + std::to_string(counted.plies) + " plies and has " + std::to_string(game.moves.size()) +
               " moves";
    if (counted.moves_a > counted.plies + 1 || counted.moves_b > counted.plies + 1 ||
        counted.moves_a + counted.moves_b > counted.plies + 1)
        return "there are more decisions than plies";
    for (const double seconds : {counted.seconds_a, counted.seconds_b})
        if (!(seconds >= 0 && std::isfinite(seconds) && seconds < 1e9)) return "a time is not a number of seconds";
    for (const auto& [chosen, moves] :
         {std::pair{&counted.chosen_a, counted.moves_a}, {&counted.chosen_b, counted.moves_b}}) {
        std::uint64_t sum = 0;
        for (const auto& [reason, times] : *chosen) {
            if (times > moves) return "a reason chose more moves than there were";
            sum += times;
        }
        if (sum > moves) return "reasons chose more moves than there were";
    }
    return "";
}

/// The integer of a field: none that a float, a negative number or a number beyond 64 bits would become.
template <class Integer>
Integer integer_at(const Json& json, const char* key) {
    const Json& value = json.at(key);
    if (!value.is_number_integer()) throw std::invalid_argument(key);
    if constexpr (std::is_unsigned_v<Integer>) {
        if (!value.is_number_unsigned()) throw std::invalid_argument(key);
        return value.get<Integer>();
    } else {
        const auto wide = value.get<std::int64_t>();
        if (wide < INT32_MIN || wide > INT32_MAX) throw std::invalid_argument(key);
        return static_cast<Integer>(wide);
    }
}

std::map<std::string, std::uint64_t> reasons_at(const Json& json, const char* key) {
    std::map<std::string, std::uint64_t> reasons;
    for (const auto& [reason, times] : json.at(key).items()) {
        if (!times.is_number_unsigned()) throw std::invalid_argument(key);
        reasons[reason] = times.get<std::uint64_t>();
    }
    return reasons;
}

GameRecord game_of(const Json& json, const std::string& a, const std::string& b, int players) {
    GameRecord game;
    GameResult& counted = game.counted;
    counted.number = integer_at<int>(json, "number");
    counted.a_first = json.at("a_first").get<bool>();
    counted.seat_a = integer_at<int>(json, "seat_a");
    counted.payoff_a = integer_at<Payoff>(json, "payoff_a");
    counted.points_a = json.at("points_a").get<double>();
    const auto winner = json.at("winner").get<std::string>();
    if (winner != "a" && winner != "b" && winner != "none") throw std::invalid_argument("winner");
    counted.winner = winner == "a" ? MatchWinner::A : winner == "b" ? MatchWinner::B : MatchWinner::Nobody;
    const auto ended_by = ended_by_named(json.at("ended_by").get<std::string>());
    if (!ended_by) throw std::invalid_argument("ended_by");
    counted.ended_by = *ended_by;
    counted.fault = json.at("fault").get<std::string>();
    counted.plies = integer_at<std::uint64_t>(json, "plies");
    counted.course = integer_at<std::uint64_t>(json, "course");
    counted.moves_a = integer_at<std::uint64_t>(json, "moves_a");
    counted.moves_b = integer_at<std::uint64_t>(json, "moves_b");
    counted.seconds_a = json.at("seconds_a").get<double>();
    counted.seconds_b = json.at("seconds_b").get<double>();
    counted.chosen_a = reasons_at(json, "chosen_a");
    counted.chosen_b = reasons_at(json, "chosen_b");
    game.result = json.at("result").get<std::string>();
    game.end_drawing = json.at("end").get<std::string>();
    game.moves = json.at("moves").get<std::vector<std::string>>();
    game.first = counted.a_first ? a : b;
    game.second = counted.a_first ? b : a;
    for (int seat = 0; seat < players; ++seat)
        game.seats.push_back((players == 1 ? counted.a_first : seat == counted.seat_a) ? a : b);
    return game;
}

[[noreturn]] void fail_at(const std::string& path, std::size_t line, const std::string& problem) {
    throw InputError(path + ", line " + std::to_string(line), problem, "a file that --record has written");
}

/// What differs, in words, between the match of the file and the one that is asked for.
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

MatchRecord::MatchRecord(const std::string& path, const MatchIdentity& identity, bool resume)
    : path_(path), a_(identity.a), b_(identity.b), players_(identity.players) {
    const std::string head = head_of(identity);
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
            throw InputError(path, "another match is writing the file", "one match at a time");
        read(head);
    } catch (...) {
        ::close(file_);
        throw;
    }
}

MatchRecord::~MatchRecord() { ::close(file_); }

void MatchRecord::read(const std::string& expected_head) {
    const std::string content = read_text_file(path_, most_record_bytes);
    std::string_view left = content;
    std::size_t number = 0;
    std::set<int> known;
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
            if (number == 1 && !expected_head.starts_with(line))
                fail_at(path_, 1, "the file does not begin with a match");
            break;
        }
        left.remove_prefix(end + 1);
        const std::size_t bytes = line.size() + 1;
        if (line.ends_with('\r')) line.remove_suffix(1);  // saved by an editor that ends lines so
        const Json json = Json::parse(line, nullptr, false);
        if (json.is_discarded() || !json.is_object()) fail_at(path_, number, "the line is no JSON object");
        if (number == 1) {
            if (!json.contains("match")) fail_at(path_, 1, "the file does not begin with a match");
            const Json expected = Json::parse(expected_head);
            if (json != expected)
                throw InputError(path_,
                                 "the file holds another match: " + difference(json.at("match"), expected.at("match")),
                                 "the same command as before, or another name");
        } else {
            std::optional<GameRecord> game;
            try {
                game = game_of(json, a_, b_, players_);
            } catch (const std::exception&) {
                fail_at(path_, number, "the line is no game of a match");
            }
            if (const std::string problem = what_cannot_be(*game, players_); !problem.empty()) fail_at(path_, number, problem);
            if (!known.insert(game->counted.number).second)
                fail_at(path_, number, "game " + std::to_string(game->counted.number) + " is there twice");
            games_.push_back(std::move(*game));
        }
        whole_ += bytes;
    }
    if (::ftruncate(file_, static_cast<off_t>(whole_)) != 0)
        throw InputError(path_, "the file cannot be written", "a file that may be written to");
    if (number == 0 || games_.empty()) {
        // With a head that was cut off, or none, the file begins anew.
        if (whole_ <= 3) write_line(expected_head);
    }
}

void MatchRecord::write_line(const std::string& line) {
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

void MatchRecord::add(const GameRecord& game) { write_line(line_of(game)); }

}  // namespace arvek
