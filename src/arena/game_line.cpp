#include "game_line.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <optional>
#include <stdexcept>

namespace arvek {

namespace {

using Json = RecordFile::Json;

constexpr int format_version = 4;
constexpr int most_games = 1'000'000;
constexpr const char* winner_names[] = {"a", "none", "b"};

std::map<std::string, std::uint64_t> reasons_at(const Json& json, const char* key) {
    std::map<std::string, std::uint64_t> reasons;
    for (const auto& [reason, times] : json.at(key).items()) {
        if (!times.is_number_unsigned()) throw std::invalid_argument(key);
        reasons[reason] = times.get<std::uint64_t>();
    }
    return reasons;
}

}  // namespace

Json line_of_game(const GameRecord& game) {
    const GameResult& counted = game.counted;
    Json line{{"number", counted.number},
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
              {"moves", game.moves}};
    if (!game.chances.empty()) {
        line["chances"] = game.chances;
        line["strayed"] = game.strayed;
    }
    return line;
}

std::string what_cannot_be(const GameRecord& game, int players) {
    const GameResult& counted = game.counted;
    if (counted.number < 0 || counted.number >= most_games) return "a number of a game is from 0 to 999999";
    const int together = std::max(2, players);
    if (counted.a_first != (counted.number % together == 0))
        return "A moves first in every " +
               std::string(together == 2   ? "even"
                           : together == 3 ? "third"
                                           : "fourth") +
               " game, and in no other";
    if (counted.seat_a != (players == 1 ? 0 : counted.number % together)) return "A has another seat in that game";
    if (std::abs(static_cast<double>(counted.payoff_a)) > largest_payoff) return "there is no such payoff";
    if (!(counted.points_a >= 0 && counted.points_a <= 1)) return "points are from 0 to 1";
    if (players == 2 && counted.ended_by != EndedBy::BrokenRules &&
        counted.points_a != (counted.winner == MatchWinner::A   ? 1.0
                             : counted.winner == MatchWinner::B ? 0.0
                                                                : 0.5))
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
    if (!game.chances.empty() && game.chances.size() != game.moves.size()) return "not every ply has a chance";
    for (const double chance : game.chances)
        if (!(chance >= -1 && chance <= 1)) return "a chance is from 0 to 1, or -1";
    for (const std::size_t ply : game.strayed)
        if (ply >= game.chances.size()) return "something else was played at a ply that is not there";
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

GameRecord game_of_line(const Json& json, const std::string& a, const std::string& b, int players) {
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
    if (json.contains("chances")) {
        game.chances = json.at("chances").get<std::vector<double>>();
        game.strayed = json.at("strayed").get<std::vector<std::size_t>>();
    }
    game.first = counted.a_first ? a : b;
    game.second = counted.a_first ? b : a;
    for (int seat = 0; seat < players; ++seat)
        game.seats.push_back((players == 1 ? counted.a_first : seat == counted.seat_a) ? a : b);
    return game;
}

Json head_of_record(const GameIdentity& identity) {
    Json set = Json::object();
    for (const auto& [name, value] : identity.settings) set[name] = value;
    Json digests = Json::object();
    for (const auto& [what, digest] : identity.digests) digests[what] = digest;
    return {{"format", format_version},
            {"game", identity.game},
            {"players", identity.players},
            {"set", set},
            {"position", identity.position},
            {"seed", identity.seed},
            {"opening_plies", identity.opening_plies},
            {"openings", identity.openings},
            {"limits", identity.limits},
            {"digests", digests}};
}

}  // namespace arvek
