#include "arvek/session/json.hpp"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "arvek/session/plain_text.hpp"
#include "arvek/session/session.hpp"
#include "json_parts.hpp"

namespace arvek {

namespace {

detail::ReportJson value_of(const std::string& value, ParameterKind kind) {
    if (kind == ParameterKind::String) return value;
    if (kind == ParameterKind::Boolean) return value == "true";
    return std::stoi(value);
}

}  // namespace

namespace detail {

std::string document(const ReportJson& json) {
    // Texts of games may hold anything; what is no UTF-8 is replaced rather than refused.
    return json.dump(2, ' ', false, ReportJson::error_handler_t::replace) + "\n";
}

ReportJson json_of(const Subject& subject) {
    ReportJson set = ReportJson::object();
    for (const Setting& setting : subject.settings) set[setting.name] = value_of(setting.value, setting.kind);
    return {{"game", subject.game}, {"set", set}, {"position", subject.position}};
}

}  // namespace detail

namespace {

using Json = detail::ReportJson;
using detail::document;
using detail::json_of;

Json json_of(const DecisionStats& stats) {
    return {{"nodes", stats.nodes},
            {"leaves", stats.leaves},
            {"cutoffs", stats.cutoffs},
            {"table_hits", stats.table_hits},
            {"depth", stats.depth},
            {"seconds", stats.seconds},
            {"stopped_by", name_of(stats.stopped_by)}};
}

/// A number, or, where 64 bits do not do, a string of its digits.
Json json_of(const LargeCount& count) {
    if (count.fits_64_bits()) return count.in_64_bits();
    return count.text();
}

/// "score", or where scores are expected payoffs "value"; `per_point`: as in a Decision.
void put_score(Json& json, Score score, double per_point) {
    if (per_point > 0)
        json["value"] = score.is_proven() ? score.payoff() : score.number() / per_point;
    else
        json["score"] = score.number();
}

Json proven_json(Score score) {
    return {{"outcome", score.is_proven_win() ? "win" : "loss"}, {"payoff", score.payoff()}, {"plies", score.plies()}};
}

/// `per_point`: as in a Decision.
Json json_of(const MoveReport& entry, bool has_scores, bool has_worths = false, double per_point = 0.0,
             bool has_visits = false, bool has_probabilities = false) {
    Json json{{"move", entry.move},
              {"score", nullptr},
              {"kind", name_of(entry.kind)},
              {"line", entry.line},
              {"reasons", entry.reasons}};
    if (has_worths) json["worth"] = entry.worth;
    if (has_probabilities) json["probability"] = entry.probability;
    if (has_visits) {
        json["visits"] = entry.visits;
        json["mean"] = entry.mean;
        json["sampling"] = {entry.low, entry.high};
    }
    if (has_scores) {
        put_score(json, entry.score, per_point);
        if (entry.score.is_proven() && entry.kind == ScoreKind::Exact) json["proven"] = proven_json(entry.score);
    }
    return json;
}

Json json_of(const DecisionReport& report) {
    Json ranked = Json::array();
    for (const MoveReport& entry : report.ranked)
        ranked.push_back(json_of(entry, report.has_scores, report.has_worths, report.scores_per_point,
                                 report.has_visits, report.has_probabilities));
    Json rules = Json::array();
    for (const RuleReport& rule : report.rules)
        rules.push_back({{"rule", rule.rule}, {"kind", name_of(rule.kind)}, {"fired", rule.fired}, {"why", rule.why}});
    Json json{{"opponent", report.opponent}};
    if (report.has_levels) json["level"] = report.level;
    json["to_move"] = lower_case(report.to_move);
    json["move"] = report.move;
    json["ranked"] = ranked;
    json["rules"] = rules;
    json["overlooked"] = report.overlooked;
    json["rank"] = report.rank;
    if (report.has_scores && report.rank > 1) {
        const Score best = report.ranked.front().score,
                    played = report.ranked[static_cast<std::size_t>(report.rank) - 1].score;
        const bool is_shallow = report.ranked[static_cast<std::size_t>(report.rank) - 1].kind == ScoreKind::Shallow;
        json["score_given_away"] = best.is_proven() || played.is_proven() || is_shallow ? Json(nullptr)
                                   : report.scores_per_point > 0
                                       ? Json((best.number() - played.number()) / report.scores_per_point)
                                       : Json(best.number() - played.number());
    }
    if (report.deeper) {
        const DeeperLook& look = *report.deeper;
        Json best{{"move", look.best}}, played{{"move", report.move}};
        put_score(best, look.best_score, report.scores_per_point);
        put_score(played, look.played_score, report.scores_per_point);
        json["deeper"] = {{"depth", look.depth},
                          {"nodes", look.nodes},
                          {"best", std::move(best)},
                          {"played", std::move(played)},
                          {"overlooked", look.was_overlooked}};
    }
    if (!report.chosen_by.empty()) json["chosen_by"] = report.chosen_by;
    if (!report.state.empty()) json["state"] = report.state;
    if (!report.searched_by.empty()) json["searched_by"] = report.searched_by;
    json["stats"] = json_of(report.stats);
    if (report.has_visits || report.stats.playouts > 0) json["stats"]["playouts"] = report.stats.playouts;
    if (report.stats.tries_with_hint > 0 && report.stats.tries_without_hint > 0)
        json["hint"] = {{"tries_with", report.stats.tries_with_hint},
                        {"tries_without", report.stats.tries_without_hint}};
    return json;
}

Json option_json(const OptionValue& value) {
    return std::visit([](const auto& each) { return Json(each); }, value);
}

}  // namespace

std::string session_as_json(const Session& session) {
    Json json = json_of(session.subject());
    const auto names = session.player_names();
    const auto ending = session.ending();
    json["moves"] = session.moves_played();
    json["chance_is_next"] = session.chance_is_next();
    json["to_move"] = nullptr;
    if (!ending && !session.chance_is_next()) json["to_move"] = lower_case(names[index_of(session.player_to_move())]);
    json["has_views"] = has_views(session.game().kit.game);
    json["legal_moves"] = session.legal_moves();
    Json seats = Json::object();
    for (std::size_t i = 0; i < names.size(); ++i) {
        const OpponentSpec* spec = session.seated(static_cast<Player>(i));
        seats[lower_case(names[i])] = spec == nullptr ? Json(nullptr) : Json(opponent_text(*spec));
    }
    json["seats"] = std::move(seats);
    json["result"] = nullptr;
    if (ending) {
        json["result"] = ending->text();
        Json payoffs = Json::object();
        for (const auto& [player, payoff] : ending->payoffs) payoffs[lower_case(player)] = payoff;
        json["payoffs"] = std::move(payoffs);
    }
    return document(json);
}

std::string board_as_json(const Board& board) {
    constexpr const char* grounds[] = {"plain", "darker", "blocked", "special", "none"};
    Json cells = Json::array(), moves = Json::array();
    for (const BoardCell& cell : board.cells)
        cells.push_back({{"name", cell.name},
                         {"x", cell.x},
                         {"y", cell.y},
                         {"width", cell.width},
                         {"height", cell.height},
                         {"round", cell.round},
                         {"ground", grounds[static_cast<std::size_t>(cell.ground)]},
                         {"text", cell.text},
                         {"player", cell.player},
                         {"spoken", cell.spoken.empty() ? cell.text : cell.spoken}});
    for (const BoardMove& move : board.moves) moves.push_back({{"move", move.move}, {"cells", move.cells}});
    return document(
        Json{{"cells", std::move(cells)}, {"paths", board.paths}, {"notes", board.notes}, {"moves", std::move(moves)}});
}

std::string games_as_json(const std::vector<std::unique_ptr<GameEntry>>& games) {
    Json list = Json::array();
    for (const auto& game : games) {
        Json parameters = Json::array();
        for (const ParameterInfo& info : game->parameters()) {
            Json parameter{{"name", info.name}};
            if (info.kind == ParameterKind::Integer) {
                parameter["kind"] = "integer";
                parameter["least"] = info.least;
                parameter["most"] = info.most;
            } else {
                parameter["kind"] = info.kind == ParameterKind::String ? "string" : "boolean";
                if (!info.choices.empty()) parameter["choices"] = info.choices;
            }
            parameter["default"] = value_of(info.default_value, info.kind);
            parameter["meaning"] = info.meaning;
            parameters.push_back(std::move(parameter));
        }
        Json choosers = Json::array();
        for (const ChooserInfo& info : game->choosers()) {
            Json options = Json::array();
            for (const OptionInfo& option : info.options)
                options.push_back({{"name", option.name},
                                   {"default", option_json(option.default_value)},
                                   {"range", option.range_text()},
                                   {"about", option.about}});
            choosers.push_back({{"name", info.name},
                                {"about", info.about},
                                {"looks_ahead", info.looks_ahead},
                                {"has_levels", info.has_levels},
                                {"options", std::move(options)}});
        }
        list.push_back({{"game", game->name()},
                        {"summary", game->summary()},
                        {"parameters", std::move(parameters)},
                        {"opponents", std::move(choosers)}});
    }
    return document(Json{{"games", list}});
}

std::string decision_as_json(const Subject& subject, const DecisionReport& report) {
    Json json = json_of(subject);
    json.update(json_of(report));
    return document(json);
}

std::string tree_as_json(const Subject& subject, const TreeReport& report) {
    Json json = json_of(subject);
    json["to_move"] = lower_case(report.to_move);
    json["move"] = report.move;
    json["depth"] = report.depth;
    json["plies"] = report.plies;
    json["scores_for"] = report.each_for_itself ? "mover" : "decider";
    std::vector<Json> written(report.nodes.size());
    // From the last to the first, so that each one has all its children when it goes into its parent.
    for (std::size_t i = report.nodes.size(); i-- > 0;) {
        const ReportedNode& node = report.nodes[i];
        Json entry;
        if (node.parent >= 0) {
            entry["move"] = node.move;
            entry["player"] = lower_case(node.player);
        }
        entry["to_move"] = node.to_move.empty() ? Json(nullptr) : Json(lower_case(node.to_move));
        put_score(entry, node.score, report.scores_per_point);
        if (node.score.is_proven()) entry["proven"] = proven_json(node.score);
        entry["kind"] = name_of(node.kind);
        entry["fate"] = name_of(node.fate);
        entry["on_line"] = node.on_line;
        entry["positions"] = node.positions;
        entry["searches"] = node.searches;
        entry["spared_count"] = node.spared.size();
        Json spared = Json::array();
        for (const std::string& move : node.spared)
            if (!move.empty()) spared.push_back(move);
        entry["spared"] = std::move(spared);
        entry["more"] = node.more;
        entry["more_positions"] = node.more_positions;
        // Children were collected from the last to the first.
        Json children = written[i].is_null() ? Json::array() : std::move(written[i]);
        std::reverse(children.begin(), children.end());
        entry["children"] = std::move(children);
        if (node.parent < 0)
            written[i] = std::move(entry);
        else
            written[static_cast<std::size_t>(node.parent)].push_back(std::move(entry));
    }
    json["tree"] = written.empty() ? Json(nullptr) : std::move(written.front());
    return document(json);
}

std::string comparison_as_json(const Subject& subject, const std::vector<ComparisonRow>& rows) {
    Json json = json_of(subject);
    json["to_move"] = lower_case(rows.front().report.to_move);
    Json runs = Json::array();
    for (const ComparisonRow& row : rows) {
        Json run = json_of(row.report);
        run.erase("to_move");
        if (row.depth_asked >= 0) run["depth_asked"] = row.depth_asked;
        runs.push_back(std::move(run));
    }
    json["runs"] = std::move(runs);
    return document(json);
}

namespace {

Json json_of(const ExpectedMoveReport& each) {
    Json json{{"move", each.move}};
    if (each.probability > 0) json["probability"] = each.probability;
    json["value"] = each.value;
    return json;
}

/// Of a game of chance, or with views.
std::string expected_as_json(const Subject& subject, const SolutionReport& report) {
    Json json = json_of(subject);
    json["to_move"] = report.to_move.empty() ? Json(nullptr) : Json(lower_case(report.to_move));
    json["complete"] = report.complete;
    json["value"] = report.value;
    json["value_of"] = lower_case(report.of);
    json["error"] = report.error;
    if (report.mixes) json["exploitability"] = report.exploitability ? Json(*report.exploitability) : Json(nullptr);
    Json moves = Json::array(), best = Json::array();
    for (const ExpectedMoveReport& each : report.expected) {
        moves.push_back(json_of(each));
        if (!report.to_move.empty() && each.value >= report.expected.front().value - 2 * report.error)
            best.push_back(each.move);
    }
    if (!report.expected.empty()) {
        json["best"] = std::move(best);
        json[report.to_move.empty() ? "events" : "moves"] = std::move(moves);
    }
    if (report.mixes) {
        Json strategy = Json::array();
        for (const MixedReport& row : report.strategy) {
            Json shares = Json::array();
            for (const ExpectedMoveReport& each : row.moves)
                shares.push_back({{"move", each.move},
                                  {"probability", each.probability},
                                  {"value", report.exploitability ? Json(each.value) : Json(nullptr)}});
            strategy.push_back({{"player", lower_case(row.player)}, {"view", row.view}, {"moves", std::move(shares)}});
        }
        json["strategy"] = std::move(strategy);
    }
    json["method"] = report.method;
    json["stats"] = {{"nodes", report.counters.nodes}, {"seconds", report.seconds}, {"stopped_by", report.stopped_by}};
    return document(json);
}

}  // namespace

std::string outlook_as_json(const Subject& subject, const OutlookReport& report) {
    Json json = json_of(subject);
    json["opponent"] = report.opponent;
    json["chance_is_next"] = true;
    json["value"] = report.value ? Json(*report.value) : Json(nullptr);
    json["value_of"] = report.value ? Json(lower_case(report.of)) : Json(nullptr);
    Json events = Json::array();
    for (const OutlookReport::Event& event : report.events)
        events.push_back({{"event", event.event},
                          {"probability", event.probability},
                          {"value", event.value},
                          {"kind", event.certain ? "exact" : "estimate"},
                          {"to_move", event.next.empty() ? Json(nullptr) : Json(lower_case(event.next))},
                          {"best", event.best.empty() ? Json(nullptr) : Json(event.best)}});
    json["events"] = std::move(events);
    json["stats"] = json_of(report.stats);
    if (report.stats.playouts > 0) json["stats"]["playouts"] = report.stats.playouts;
    return document(json);
}

std::string solution_as_json(const Subject& subject, const SolutionReport& report) {
    if (report.expects) return expected_as_json(subject, report);
    Json json = json_of(subject);
    json["to_move"] = lower_case(report.to_move);
    json["complete"] = report.complete;
    json["value"] = nullptr;
    json["outcome"] = nullptr;
    Json best = Json::array(), moves = Json::array();
    if (report.complete) {
        json["value"] = report.least;
        json["outcome"] = report.least > 0 ? "win" : report.least < 0 ? "loss" : "draw";
    }
    for (const SolvedMoveReport& solved : report.moves) {
        if (report.complete && solved.kind == ScoreKind::Exact && solved.value == report.least)
            best.push_back(solved.move);
        Json entry{{"move", solved.move}, {"value", solved.value}, {"kind", name_of(solved.kind)}, {"plies", nullptr}};
        if (solved.plies) entry["plies"] = *solved.plies;
        moves.push_back(std::move(entry));
    }
    json["best"] = std::move(best);
    json["plies"] = report.plies ? Json(*report.plies) : Json(nullptr);
    json["least"] = report.least;
    json["most"] = report.most;
    json["moves"] = std::move(moves);
    json["method"] = report.method;
    json["stats"] = {{"nodes", report.counters.nodes},
                     {"table_hits", report.counters.table_hits},
                     {"seconds", report.seconds},
                     {"stopped_by", report.stopped_by}};
    return document(json);
}

std::string odds_as_json(const Subject& subject, const OddsReport& report) {
    const auto number_or_null = [](const std::optional<double>& number) {
        return number ? Json(*number) : Json(nullptr);
    };
    Json json = json_of(subject);
    json["opponent"] = report.opponent;
    json["seed"] = report.seed;
    json["complete"] = report.complete;
    json["games"] = report.found.games;
    json["positions"] = report.found.positions;
    json["units_per_doubling"] = number_or_null(report.found.units_per_doubling);
    json["interval"] = {number_or_null(report.found.low), number_or_null(report.found.high)};
    json["declared"] = number_or_null(report.declared);
    json["turn"] = number_or_null(report.found.turn);
    Json rows = Json::array();
    for (const OddsRow& row : report.found.rows)
        rows.push_back({{"least", row.least},
                        {"most", row.most},
                        {"positions", row.positions},
                        {"won", row.won},
                        {"fitted", row.fitted}});
    json["rows"] = std::move(rows);
    return document(json);
}

std::string check_as_json(const Subject& subject, const CheckReport& report) {
    Json json = json_of(subject);
    json["sound"] = report.sound();
    json["games"] = report.games;
    json["positions"] = report.positions;
    json["seconds"] = report.seconds;
    json["complete"] = report.complete;
    Json faults = Json::array();
    for (const Fault& fault : report.faults) {
        Json one = {{"law", fault.law},     {"function", fault.function}, {"what", fault.what},
                    {"moves", fault.moves}, {"position", fault.position}, {"repeats", fault.repeats}};
        if (fault.of_two) one["other"] = {{"moves", fault.other_moves}, {"position", fault.other_position}};
        faults.push_back(std::move(one));
    }
    json["faults"] = std::move(faults);
    json["remarks"] = report.remarks;
    return document(json);
}

std::string facts_as_json(const Subject& subject, const FactsReport& report) {
    Json json = json_of(subject);
    json["sound"] = report.sound();
    json["facts"] = report.facts;
    Json faults = Json::array();
    for (const FactFault& fault : report.faults)
        faults.push_back({{"at", fault.at}, {"about", fault.about}, {"what", fault.what}});
    json["faults"] = std::move(faults);
    return document(json);
}

std::string count_as_json(const Subject& subject, const CountReport& report) {
    Json json = json_of(subject);
    Json rows = Json::array();
    LargeCount finished;
    for (const SequenceCount& count : report.counts) {
        rows.push_back({{"depth", count.depth},
                        {"sequences", json_of(count.sequences)},
                        {"finished", count.knows_finished ? json_of(count.finished) : Json()}});
        finished += count.finished;
    }
    json["counts"] = std::move(rows);
    json["total_finished"] = json_of(finished);
    if (!report.by_first_move.empty()) {
        Json split = Json::array();
        for (const auto& [move, sequences] : report.by_first_move)
            split.push_back({{"move", move}, {"sequences", json_of(sequences)}});
        json["by_first_move"] = std::move(split);
    }
    return document(json);
}

std::string match_as_json(const Subject& subject, const MatchReport& report) {
    const MatchResult& result = report.result;
    const bool several = result.players > 2;
    const Interval interval = several ? result.payoff_interval() : result.interval();
    Json json = json_of(subject);
    json.update(Json{{"a", report.a},
                     {"b", report.b},
                     {"seed", report.seed},
                     {"games", result.games},
                     {"wins_a", result.wins_a},
                     {"draws", result.draws},
                     {"wins_b", result.wins_b},
                     {"repetitions", result.repetitions},
                     {"unfinished", result.unfinished},
                     {"faults_a", result.faults_a},
                     {"faults_b", result.faults_b},
                     {"broken", result.broken},
                     {"wins_of_first", result.wins_of_first},
                     {"score_a", several ? result.mean_payoff_a() : result.score_a()},
                     {"interval", {interval.low, interval.high}},
                     {"seconds_per_move_a", result.seconds_per_move_a()},
                     {"seconds_per_move_b", result.seconds_per_move_b()},
                     {"games_asked", report.games_asked},
                     {"different_games", result.different_games()},
                     {"chosen_a", result.chosen_a},
                     {"chosen_b", result.chosen_b}});
    if (result.players == 2) {
        const auto seat = [&](std::size_t place) -> Json {
            const int games = result.games_by_seat[place];
            return {{"games", games},
                    {"score", games > 0 ? Json(result.points_a_by_seat[place] / games) : Json(nullptr)},
                    {"chosen_a", result.chosen_a_by_seat[place]},
                    {"chosen_b", result.chosen_b_by_seat[1 - place]}};
        };
        json["a_as_first"] = seat(0);
        json["a_as_second"] = seat(1);
    }
    if (result.players == 2 && result.games > 1) {
        const Interval paid = result.payoff_interval();
        json["mean_payoff_a"] = result.mean_payoff_a();
        json["payoff_interval"] = {paid.low, paid.high};
    }
    if (several) {
        const Interval share = result.interval();
        json["share_a"] = result.score_a();
        json["share_interval"] = {share.low, share.high};
    }
    if (result.players == 1) {
        const Interval difference = result.difference_interval();
        for (const bool of_a : {true, false}) {
            const ScoreSummary summary = result.summary(of_a);
            const std::string side = of_a ? "_a" : "_b";
            json["mean" + side] = summary.mean;
            json["best" + side] = summary.best;
            json["worst" + side] = summary.worst;
            json["payoffs" + side] = of_a ? result.payoffs_a : result.payoffs_b;
        }
        json["difference"] = result.mean_difference();
        json["interval"] = {difference.low, difference.high};
    }
    if (!result.first_fault.empty()) json["first_fault"] = result.first_fault;
    if (report.until_sure)
        json["better"] = result.verdict > 0 ? Json("a") : result.verdict < 0 ? Json("b") : Json(nullptr);
    if (!report.records.empty()) {
        Json records = Json::array();
        for (const GameRecord& record : report.records)
            records.push_back({{"first", record.first},
                               {"second", record.second},
                               {"seats", record.seats},
                               {"moves", record.moves},
                               {"result", record.result},
                               {"ended_by", name_of(record.counted.ended_by)}});
        json["records"] = std::move(records);
    }
    return document(json);
}

std::string play_as_json(const Subject& subject, const PlayReport& report) {
    Json json = json_of(subject);
    json.update(Json{{"side", report.side},
                     {"opponent", report.opponent},
                     {"seed", report.seed},
                     {"moves", report.moves},
                     {"end_position", report.end_position},
                     {"result", nullptr},
                     {"payoffs", nullptr}});
    if (report.ending) {
        json["result"] = report.ending->text();
        Json payoffs = Json::object();
        for (const auto& [player, payoff] : report.ending->payoffs) payoffs[lower_case(player)] = payoff;
        json["payoffs"] = std::move(payoffs);
    }
    return document(json);
}

std::string profiles_as_json(const std::vector<CheckedProfile>& profiles) {
    Json all = Json::array();
    for (const CheckedProfile& checked : profiles) {
        const Profile& profile = checked.profile;
        Json findings = Json::array(), rules = Json::array();
        for (const ProfileFinding& finding : checked.report.findings)
            findings.push_back({{"severity", finding.is_error ? "error" : "warning"},
                                {"file", finding.file},
                                {"line", finding.line},
                                {"column", finding.column},
                                {"problem", finding.problem},
                                {"advice", finding.advice}});
        for (const RuleUse& use : checked.report.use.rules)
            rules.push_back({{"rule", use.rule}, {"asked", use.asked}, {"fired", use.fired}});
        Json json{{"file", profile.source},
                  {"name", profile.name},
                  {"about", profile.about},
                  {"game", profile.game.name},
                  {"chooser", profile.chooser.name},
                  {"level", profile.level},
                  {"rules", profile.rules.size()},
                  {"book", profile.book.size()},
                  {"right", checked.report.is_right()},
                  {"findings", findings}};
        if (checked.report.use.games > 0)
            json["use"] = {
                {"games", checked.report.use.games}, {"decisions", checked.report.use.decisions}, {"rules", rules}};
        all.push_back(std::move(json));
    }
    return document(Json{{"profiles", all}});
}

std::string vocabulary_as_json(const Subject& subject, const VocabularyReport& report) {
    Json json = json_of(subject);
    const auto limit = [](double number) { return std::isfinite(number) ? Json(number) : Json(nullptr); };
    Json numbers = Json::array(), suggestions = Json::array(), moves = Json::array();
    for (const auto& number : report.numbers) {
        Json each{{"name", number.name},          {"of", number.of},
                  {"unit", number.unit},          {"meaning", number.meaning},
                  {"least", limit(number.least)}, {"most", limit(number.most)}};
        if (report.is_a_turn) each["now"] = {{"least", number.least_now}, {"most", number.most_now}};
        numbers.push_back(std::move(each));
    }
    const auto names = [](const std::vector<VocabularyReport::Name>& all) {
        Json list = Json::array();
        for (const auto& name : all) list.push_back({{"name", name.name}, {"moves_now", name.moves}});
        return list;
    };
    for (const auto& suggestion : report.suggestions)
        suggestions.push_back(
            {{"reason", suggestion.reason}, {"meaning", suggestion.meaning}, {"now", suggestion.now}});
    for (std::size_t move = 0; move < report.moves.size(); ++move) {
        Json values = Json::object();
        for (std::size_t i = 0; i < report.numbers.size(); ++i)
            values[report.numbers[i].name] = limit(report.values[i][move]);
        moves.push_back({{"move", report.moves[move]}, {"quantities", values}});
    }
    json["quantities"] = std::move(numbers);
    json["actors"] = names(report.actors);
    json["actions"] = names(report.actions);
    json["kinds"] = names(report.kinds);
    json["targets"] = names(report.targets);
    json["suggestions"] = std::move(suggestions);
    json["ready_rules"] = report.ready_rules;
    json["moves"] = std::move(moves);
    return document(json);
}

std::string sweep_as_json(const Subject& subject, const SweepReport& report) {
    Json json = json_of(subject);
    Json rows = Json::array();
    for (const SweepRow& row : report.rows) {
        const Interval interval = row.result.interval();
        rows.push_back({{"value", row.value},
                        {"games", row.result.games},
                        {"wins", row.result.wins_a},
                        {"draws", row.result.draws},
                        {"losses", row.result.wins_b},
                        {"score", row.result.score_a()},
                        {"interval", {interval.low, interval.high}},
                        {"chosen", row.result.chosen_a}});
    }
    json.update(Json{{"a", report.a_title},
                     {"b", report.b_title},
                     {"key", report.key},
                     {"seed", report.seed},
                     {"complete", report.complete},
                     {"rows", rows}});
    return document(json);
}

std::string ladder_as_json(const Subject& subject, const LadderReport& report) {
    const auto match = [](const std::optional<MatchResult>& result) -> Json {
        if (!result) return nullptr;
        const Interval interval = result->interval();
        return {{"wins", result->wins_a},
                {"draws", result->draws},
                {"losses", result->wins_b},
                {"score", result->score_a()},
                {"interval", {interval.low, interval.high}}};
    };
    Json levels = Json::array();
    for (const LevelRow& row : report.rows)
        levels.push_back({{"level", row.level},
                          {"rating", row.rating ? Json(row.rating->rating) : Json(nullptr)},
                          {"interval", row.rating ? Json{row.rating->low, row.rating->high} : Json(nullptr)},
                          {"against_next_below", match(row.against_next_below)},
                          {"against_two_below", match(row.against_two_below)},
                          {"against_random", match(row.against_random)},
                          {"seconds_per_move",
                           row.against_random ? Json(row.against_random->seconds_per_move_a()) : Json(nullptr)}});
    Json json = json_of(subject);
    json.update(Json{{"opponent", report.opponent},
                     {"games", report.games},
                     {"seed", report.seed},
                     {"complete", report.complete},
                     {"levels", levels}});
    return document(json);
}

}  // namespace arvek
