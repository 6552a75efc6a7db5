// The JSON of what the lab has measured: leagues, tunings, habits, learning, levels, books, weights.

#include <algorithm>
#include <cmath>

#include "arvek/session/json.hpp"
#include "arvek/session/plain_text.hpp"
#include "arvek/session/session.hpp"
#include "json_parts.hpp"

namespace arvek {

namespace {
using Json = detail::ReportJson;
using detail::document;
using detail::json_of;
}  // namespace

std::string league_as_json(const Subject& subject, const LeagueReport& report) {
    const LeagueResult& result = report.result;
    const bool for_one = report.seats == 1;
    Json standings = Json::array(), pairings = Json::array();
    for (const Standing& standing : result.standings) {
        Json row{{"name", report.names[standing.player]},
                 {"rating", standing.rating.rating},
                 {"interval", {standing.rating.low, standing.rating.high}},
                 {"above_next", standing.above_next ? Json(*standing.above_next) : Json()},
                 {"games", standing.games},
                 {"wins", standing.wins},
                 {"draws", standing.draws},
                 {"losses", standing.losses},
                 {"score", standing.score()},
                 {"repetitions", standing.repetitions},
                 {"unfinished", standing.cut_off},
                 {"faults", standing.faults},
                 {"seconds_per_move", standing.seconds_per_move()}};
        if (for_one) {
            row["mean"] = standing.scores.mean;
            row["best"] = standing.scores.best;
            row["worst"] = standing.scores.worst;
        }
        standings.push_back(std::move(row));
    }
    for (const LeaguePairing& pairing : result.pairings) {
        const MatchResult& match = pairing.result;
        const Interval interval = match.interval();
        pairings.push_back({{"a", report.names[pairing.a]},
                            {"b", report.names[pairing.b]},
                            {"games", match.comparisons()},
                            {"wins_a", match.wins_a},
                            {"draws", match.draws},
                            {"wins_b", match.wins_b},
                            {"score_a", match.score_a()},
                            {"interval", {interval.low, interval.high}},
                            {"different_games", match.different_games()}});
    }
    Json json = json_of(subject);
    json.update(Json{{"shape", report.shape == LeagueShape::EveryPair ? "every pair" : "against the first"},
                     {"seed", report.seed},
                     {"games_asked", report.games_asked},
                     {"games", result.games},
                     {"rounds", result.rounds},
                     {"complete", report.complete},
                     {"sure", result.is_sure},
                     {"broken", result.broken},
                     {"standings", std::move(standings)},
                     {"pairings", std::move(pairings)}});
    if (!result.first_fault.empty()) json["first_fault"] = result.first_fault;
    return document(json);
}

std::string tuning_as_json(const Subject& subject, const TuningReport& report) {
    Json numbers = Json::array();
    for (std::size_t i = 0; i < report.numbers.size(); ++i) {
        const TunedNumber& number = report.numbers[i];
        Json course = Json::array();
        for (const auto& now : report.history) course.push_back(now[i]);
        numbers.push_back({{"key", number.name},
                           {"range", {number.low, number.high}},
                           {"start", number.start},
                           {"candidate", report.best[i]},
                           {"course", std::move(course)}});
    }
    const auto played = [](const std::optional<LeagueResult>& stage) -> Json {
        if (!stage) return nullptr;
        const MatchResult& match = stage->pairings[0].result;
        const Interval interval = match.interval();
        return {{"games", stage->games},  {"wins", match.wins_a},     {"draws", match.draws},
                {"losses", match.wins_b}, {"score", match.score_a()}, {"interval", {interval.low, interval.high}},
                {"sure", stage->is_sure}};
    };
    Json json = json_of(subject);
    json.update(Json{{"profile", report.profile},
                     {"method", report.options.method == TuningMethod::Perturbation ? "perturbation" : "surface"},
                     {"seed", report.seed},
                     {"steps", report.steps},
                     {"games", report.games},
                     {"numbers", std::move(numbers)},
                     {"test", played(report.test)},
                     {"accepted", report.accepted},
                     {"confirmation", played(report.confirmation)},
                     {"complete", report.complete},
                     {"written", report.written.empty() ? Json() : Json(report.written)}});
    return document(json);
}

std::string habits_as_json(const Subject& subject, const HabitsReport& report) {
    Json opponents = Json::array();
    for (const auto& of : report.opponents) {
        const Habits& habits = of.habits;
        Json common = Json::array(), first = Json::array(), reasons = Json::array();
        for (const CountedOpening& opening : habits.common)
            common.push_back({{"moves", opening.moves}, {"games", opening.games}});
        for (const auto& [move, times] : habits.first_moves) first.push_back({{"move", move}, {"games", times}});
        for (const HabitShare& share : habits.reasons)
            reasons.push_back({{"reason", share.reason},
                               {"moves", share.moves},
                               {"share", share.share},
                               {"interval", {share.low, share.high}}});
        opponents.push_back({{"opponent", of.name},
                             {"title", of.title},
                             {"games", habits.games},
                             {"moves", habits.moves},
                             {"different_games", habits.different_games},
                             {"openings", habits.openings},
                             {"effective_openings", habits.effective_openings},
                             {"common_openings", std::move(common)},
                             {"first_moves", std::move(first)},
                             {"positions_again", habits.positions_again},
                             {"same_reply", habits.same_reply},
                             {"repetitions", habits.repetitions},
                             {"score", report.partner.empty() ? Json() : Json(of.score)},
                             {"repeats_openings", habits.repeats_openings()},
                             {"repeats_games", habits.repeats_games()},
                             {"reasons", std::move(reasons)}});
    }
    Json differences = Json::array();
    for (const HabitDifference& each : report.differences)
        differences.push_back({{"reason", each.reason},
                               {"a", each.a},
                               {"b", each.b},
                               {"interval", {each.low, each.high}},
                               {"sure", each.is_sure()}});
    Json json = json_of(subject);
    json.update(Json{{"opponents", std::move(opponents)},
                     {"partner", report.partner.empty() ? Json() : Json(report.partner)},
                     {"opening_plies", report.opening_plies},
                     {"seed", report.seed},
                     {"differences", std::move(differences)},
                     {"complete", report.complete}});
    return document(json);
}

std::string learning_as_json(const Subject& subject, const LearningReport& report) {
    Json points = Json::array();
    for (const auto& point : report.points) {
        const MatchResult& match = point.result.pairings[0].result;
        const Interval interval = match.interval();
        points.push_back({{"games", point.games},
                          {"test_games", match.games},
                          {"wins", match.wins_a},
                          {"draws", match.draws},
                          {"losses", match.wins_b},
                          {"score", match.score_a()},
                          {"interval", {interval.low, interval.high}},
                          {"error", point.error}});
    }
    Json json = json_of(subject);
    json.update(Json{{"player", report.player},
                     {"against", report.against},
                     {"seed", report.seed},
                     {"games", report.games},
                     {"positions", report.positions},
                     {"patterns", report.patterns},
                     {"weights", report.weights},
                     {"hidden", report.options.hidden},
                     {"second", report.options.second},
                     {"prior", report.options.prior},
                     {"points", std::move(points)},
                     {"seconds", report.seconds},
                     {"complete", report.complete},
                     {"written", report.written.empty() ? Json() : Json(report.written)},
                     {"model", report.model.empty() ? Json() : Json(report.model)}});
    return document(json);
}

std::string level_fit_as_json(const Subject& subject, const LevelFitReport& report) {
    Json measured = Json::array(), levels = Json::array();
    for (const auto& each : report.measured)
        measured.push_back({{"place", &each == &report.measured[0] ? Json() : Json(each.strength.place)},
                            {"rating", each.strength.rating.rating},
                            {"interval", {each.strength.rating.low, each.strength.rating.high}},
                            {"games", each.games},
                            {"seconds_per_move", each.seconds_per_move}});
    for (int level = lowest_level; report.complete && level <= highest_level; ++level) {
        const auto at = static_cast<std::size_t>(level - lowest_level);
        levels.push_back({{"level", level},
                          {"place", report.levels.places[at]},
                          {"rating", report.levels.ratings[at]},
                          {"against_two_below", level > 2 ? Json(report.levels.expected(level, level - 2)) : Json()}});
    }
    Json json = json_of(subject);
    json.update(Json{{"opponent", report.opponent},
                     {"seed", report.seed},
                     {"measured", std::move(measured)},
                     {"levels", std::move(levels)},
                     {"full_strength", report.levels.full_strength},
                     {"farthest", report.farthest},
                     {"hardly_apart", report.levels.hardly_apart},
                     {"seconds", report.seconds},
                     {"complete", report.complete},
                     {"written", report.written.empty() ? Json() : Json(report.written)}});
    return document(json);
}

std::string book_as_json(const Subject& subject, const BookReport& report) {
    Json positions = Json::array();
    for (const BookReport::At& at : report.positions) {
        Json replies = Json::array();
        for (const BookReport::Reply& reply : at.replies)
            replies.push_back({{"move", reply.move}, {"lost", reply.lost}, {"weight", reply.weight}});
        positions.push_back({{"moves", at.is_given ? Json() : Json(at.moves)},
                             {"position", at.position},
                             {"replies", std::move(replies)}});
    }
    Json json = json_of(subject);
    json.update(Json{{"judge", report.judge},
                     {"seed", report.seed},
                     {"positions", std::move(positions)},
                     {"openings", report.openings},
                     {"searched", report.searched},
                     {"folded", report.folded},
                     {"worst", report.judged ? Json(report.worst) : Json()},
                     {"known", report.known},
                     {"blunders", report.blunders},
                     {"complete", report.complete},
                     {"written", report.written.empty() ? Json() : Json(report.written)}});
    return document(json);
}

std::string weights_as_json(const Subject& subject, const WeightReport& report) {
    const auto weight_as_json = [](const FittedWeight& fitted) -> Json {
        return {{"weight", fitted.weight}, {"interval", {fitted.low, fitted.high}}};
    };
    Json weights = Json::array();
    for (std::size_t i = 0; i < report.features.size(); ++i) {
        Json row{{"feature", report.features[i]}};
        row.update(weight_as_json(report.fit.weights[i]));
        weights.push_back(std::move(row));
    }
    Json json = json_of(subject);
    json.update(Json{{"games", report.fit.games},
                     {"positions", report.fit.samples},
                     {"units_per_doubling", fitted_units_per_doubling},
                     {"weights", std::move(weights)},
                     {"to_move", weight_as_json(report.fit.to_move)},
                     {"bits", report.fit.bits},
                     {"ridge", report.ridge},
                     {"written", report.written.empty() ? Json() : Json(report.written)}});
    return document(json);
}

}  // namespace arvek
