#include "game_log.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "../game/json_reader.hpp"
#include "arvek/arena/files.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/session/plain_text.hpp"

namespace arvek::tool {

namespace {

using Json = nlohmann::ordered_json;

constexpr int format_version = 1;
constexpr std::size_t ranked_kept = 1'000;
constexpr std::size_t most_log_bytes = std::size_t{1} << 30;

std::string line_of(const Json& json) { return json.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n"; }

/// Why the move was chosen, in a few words.
std::string short_why(const DecisionReport& report) {
    for (const RuleReport& rule : report.rules)
        if (rule.fired && rule.rule == report.chosen_by) return rule.why;
    const MoveReport& played = report.ranked[static_cast<std::size_t>(report.rank) - 1];
    if (!played.reasons.empty()) return played.reasons.front();
    if (report.has_visits) return fmt::format("{:+.3f} by {} playouts", played.mean, played.visits);
    if (report.has_scores) return score_text(played.score, played.kind, report.scores_per_point);
    return "";
}

std::string settings_of(const GameLogFile& log) {
    std::string text;
    for (const Setting& setting : log.settings)
        if (!setting.value.empty()) text += " --set " + setting.name + "=" + setting.value;
    return text;
}

RuleKind kind_named(const std::string& name) {
    for (const RuleKind kind :
         {RuleKind::Rule, RuleKind::Change, RuleKind::Fallback, RuleKind::TieBreak, RuleKind::Care})
        if (name == name_of(kind)) return kind;
    return RuleKind::Book;
}

}  // namespace

std::string log_head(const Subject& subject, const std::vector<std::string>& player_names) {
    Json set = Json::object();
    for (const Setting& setting : subject.settings) set[setting.name] = setting.value;
    return line_of({{"log",
                     {{"format", format_version},
                      {"game", subject.game},
                      {"set", set},
                      {"position", subject.position},
                      {"players", player_names}}}});
}

std::string log_line(int game, const LoggedDecision& decision, const std::vector<std::string>& player_names) {
    const DecisionReport& report = decision.report;
    Json rules = Json::array(), ranked = Json::array();
    for (const RuleReport& rule : report.rules)
        rules.push_back({{"rule", rule.rule}, {"kind", name_of(rule.kind)}, {"fired", rule.fired}, {"why", rule.why}});
    for (std::size_t i = 0; i < report.ranked.size(); ++i) {
        // The first few, and the one that was played.
        if (i >= ranked_kept && i + 1 != static_cast<std::size_t>(report.rank)) continue;
        const MoveReport& entry = report.ranked[i];
        ranked.push_back({{"move", entry.move},
                          {"value", value_text(report, entry)},
                          {"line", entry.line},
                          {"reasons", entry.reasons}});
    }
    return line_of({{"game", game},
                    {"ply", decision.ply},
                    {"player", player_names[static_cast<std::size_t>(decision.seat)]},
                    {"opponent", report.title},
                    {"level", report.level},
                    {"position", report.position},
                    {"drawing", report.drawing},
                    {"move", report.move},
                    {"chosen_by", report.chosen_by},
                    {"why", short_why(report)},
                    {"rank", report.rank},
                    {"of", report.ranked.size()},
                    {"overlooked", report.overlooked},
                    {"state", report.state},
                    {"rules", rules},
                    {"ranked", ranked}});
}

std::string log_end(const GameRecord& record) {
    return line_of({{"game", record.counted.number}, {"result", record.result}, {"moves", record.moves}});
}

std::shared_ptr<OpeningMemory> read_openings(const std::string& path) {
    auto memory = std::make_shared<OpeningMemory>();
    std::error_code problem;
    if (!std::filesystem::exists(path, problem)) return memory;
    const Json json = read_json<Json>(read_text_file(path), path, "a file that --remember has written");
    const bool is_one =
        json.is_object() && json.size() == 1 && json.contains("openings") && json["openings"].is_object();
    if (!is_one) throw InputError(path, "the file does not remember openings", "a file that --remember has written");
    for (const auto& [key, times] : json["openings"].items()) {
        if (!times.is_number_unsigned())
            throw InputError(path, "the openings in it are no numbers", "a file that --remember has written");
        memory->played[key] = times.get<std::uint64_t>();
    }
    return memory;
}

void write_openings(const std::string& path, const OpeningMemory& memory) {
    write_file(path, Json{{"openings", memory.played}}.dump(2, ' ', false, Json::error_handler_t::replace) + "\n");
}

GameLogFile read_log(const std::string& path) {
    const std::string content = read_text_file(path, most_log_bytes);
    GameLogFile log;
    std::string_view left = content;
    std::size_t number = 0;
    const auto fail = [&](const std::string& problem) {
        throw InputError(path + ", line " + std::to_string(number), problem, "a file that --log has written");
    };
    const auto game_of = [&](const Json& json) -> LoggedGame& {
        const int game = json.at("game").get<int>();
        for (LoggedGame& each : log.games)
            if (each.number == game) return each;
        log.games.emplace_back().number = game;
        return log.games.back();
    };
    while (!left.empty()) {
        ++number;
        const auto end = left.find('\n');
        if (end == std::string_view::npos) break;  // a line that was being written
        const Json json = read_json<Json>(left.substr(0, end), path + ", line " + std::to_string(number),
                                          "a file that --log has written");
        left.remove_prefix(end + 1);
        if (!json.is_object()) fail("the line is no JSON object");
        try {
            if (number == 1) {
                const Json& head = json.at("log");
                if (head.at("format").get<int>() != format_version) fail("it was written by another version");
                log.game = head.at("game").get<std::string>();
                for (const auto& [name, value] : head.at("set").items())
                    log.settings.push_back({plain_line(name), plain_line(value.get<std::string>())});
                log.position = head.at("position").get<std::string>();
                log.players = head.at("players").get<std::vector<std::string>>();
                continue;
            }
            LoggedGame& game = game_of(json);
            if (json.contains("result")) {
                game.result = plain_line(json.at("result").get<std::string>());
                for (const auto& move : json.at("moves")) game.moves.push_back(plain_line(move.get<std::string>()));
                continue;
            }
            LogEntry entry;
            const auto text = [&](const char* key) { return plain_line(json.at(key).get<std::string>()); };
            entry.ply = json.at("ply").get<std::size_t>();
            entry.player = text("player");
            entry.opponent = text("opponent");
            entry.level = json.at("level").get<int>();
            entry.position = text("position");
            entry.drawing = plain_lines(json.at("drawing").get<std::string>());
            entry.move = text("move");
            entry.chosen_by = text("chosen_by");
            entry.why = text("why");
            entry.state = text("state");
            entry.rank = json.at("rank").get<int>();
            entry.ranked = json.at("of").get<std::size_t>();
            for (const auto& move : json.at("overlooked"))
                entry.overlooked.push_back(plain_line(move.get<std::string>()));
            for (const auto& rule : json.at("rules")) {
                entry.rules.push_back(
                    {plain_line(rule.at("rule").get<std::string>()),
                     answer_of(kind_named(rule.at("kind").get<std::string>()), rule.at("fired").get<bool>()),
                     plain_line(rule.at("why").get<std::string>())});
            }
            for (const auto& move : json.at("ranked")) {
                std::vector<std::string> line, reasons;
                for (const auto& each : move.at("line")) line.push_back(plain_line(each.get<std::string>()));
                for (const auto& each : move.at("reasons")) reasons.push_back(plain_line(each.get<std::string>()));
                entry.moves.push_back({plain_line(move.at("move").get<std::string>()),
                                       plain_line(move.at("value").get<std::string>()),
                                       line.size() > 1 ? fmt::format("{}", fmt::join(line, " ")) : std::string(),
                                       fmt::format("{}", fmt::join(reasons, "; "))});
            }
            game.entries.push_back(std::move(entry));
        } catch (const Json::exception&) {
            fail("the line is no decision of a log");
        }
    }
    if (number == 0 || log.game.empty()) {
        number = 1;
        fail("the file does not begin with a log");
    }
    return log;
}

std::string log_as_text(const GameLogFile& log, const LoggedGame& game, const Paint& paint) {
    std::string text = paint.strong(log.game) + paint.faint("  " + settings_text(log.settings)) +
                       fmt::format("  game {}\n", game.number);
    TextTable table({"ply", "player", "opponent", "move", "chosen by", "rank", "why"}, "rllllrl");
    for (const LogEntry& entry : game.entries)
        table.add({std::to_string(entry.ply), entry.player, entry.opponent, entry.move,
                   entry.chosen_by.empty() ? "-" : entry.chosen_by, fmt::format("{}/{}", entry.rank, entry.ranked),
                   entry.why.size() > 70 ? cut_text(entry.why, 67) + "..." : entry.why});
    text += table.text();
    text += game.result.empty() ? "  The log ends here.\n" : "  " + game.result + ".\n";
    return text;
}

std::string entry_as_text(const GameLogFile& log, const LoggedGame& game, const LogEntry& entry, const Paint& paint) {
    std::string text =
        paint.strong(log.game) + paint.faint("  " + settings_text(log.settings)) +
        fmt::format("  game {}, ply {}\n", game.number, entry.ply) + paint.board(entry.drawing, log.players) +
        fmt::format("{} to move. {} plays {}.\n", entry.player, entry.opponent, paint.strong(entry.move));
    if (!entry.rules.empty()) {
        TextTable rules({"rule", "answer", "why"});
        for (const auto& rule : entry.rules) rules.add(rule);
        text += rules.text() + "\n";
    }
    // Of the columns those in which anything stands.
    const std::vector<std::string> heads{"move", "value", "line", "why"};
    std::vector<std::size_t> columns;
    for (std::size_t column = 0; column < heads.size(); ++column)
        if (column == 0 || std::any_of(entry.moves.begin(), entry.moves.end(),
                                       [&](const auto& move) { return !move[column].empty(); }))
            columns.push_back(column);
    const auto chosen = [&](const std::vector<std::string>& row) {
        std::vector<std::string> some;
        for (const std::size_t column : columns) some.push_back(row[column]);
        return some;
    };
    TextTable moves(chosen(heads), columns.size() > 1 && columns[1] == 1 ? "lr" : "");
    for (const auto& move : entry.moves) moves.add(chosen(move));
    text += moves.text();
    if (entry.ranked > entry.moves.size()) text += fmt::format("  and {} more\n", entry.ranked - entry.moves.size());
    if (!entry.overlooked.empty())
        text += fmt::format("  At level {} it overlooked {} of {} legal moves: {}.\n", entry.level,
                            entry.overlooked.size(), entry.ranked, fmt::join(entry.overlooked, " "));
    if (entry.rank > 1)
        text +=
            fmt::format("  At level {} it played the move ranked {} of {}.\n", entry.level, entry.rank, entry.ranked);
    if (!entry.state.empty()) text += fmt::format("  It remembers: {}.\n", entry.state);
    if (entry.ply <= game.moves.size()) {
        const std::vector<std::string> before(game.moves.begin(),
                                              game.moves.begin() + static_cast<std::ptrdiff_t>(entry.ply));
        text += "  To decide here:\n    decide " + log.game + settings_of(log) + " --position \"" + log.position +
                "\"" + (before.empty() ? "" : fmt::format(" --moves \"{}\"", fmt::join(before, " "))) + "\n";
    }
    return text;
}

namespace {

/// Who decided after so many plies; empty where the log does not say.
std::string opponent_at(const LoggedGame& game, std::size_t ply) {
    for (const LogEntry& entry : game.entries)
        if (entry.ply == ply) return entry.opponent;
    return "";
}

std::string player_in(const GameLogFile& log, Player player) {
    return index_of(player) < log.players.size() ? log.players[index_of(player)] : "";
}

}  // namespace

std::string turning_points_as_text(const GameLogFile& log, const LoggedGame& game,
                                   const std::vector<JudgedMove>& turning_points, std::uint64_t nodes) {
    std::string text =
        fmt::format("  Where chances were lost, as a search of {} positions a decision sees it afterwards:\n", nodes);
    if (turning_points.empty()) return text + "  nowhere; every move was as good as any.\n";
    TextTable table({"ply", "player", "opponent", "played", "better", "chance", "after it", "lost"}, "rllllrrr");
    for (const JudgedMove& each : turning_points)
        table.add({std::to_string(each.ply), player_in(log, each.player), opponent_at(game, each.ply), each.played,
                   each.better, fmt::format("{:.0f} %", 100 * each.chance),
                   fmt::format("{:.0f} %", 100 * each.chance_played), fmt::format("{:.0f} %", 100 * each.lost())});
    return text + table.text();
}

namespace {

Json json_of(const LogEntry& entry) {
    Json rules = Json::array();
    for (const auto& rule : entry.rules) rules.push_back({{"rule", rule[0]}, {"answer", rule[1]}, {"why", rule[2]}});
    return {{"ply", entry.ply},           {"player", entry.player},
            {"opponent", entry.opponent}, {"position", entry.position},
            {"move", entry.move},         {"chosen_by", entry.chosen_by},
            {"why", entry.why},           {"rank", entry.rank},
            {"state", entry.state},       {"rules", rules}};
}

}  // namespace

std::string entry_as_json(const GameLogFile& log, const LoggedGame& game, const LogEntry& entry) {
    Json set = Json::object();
    for (const Setting& setting : log.settings) set[setting.name] = setting.value;
    Json json{{"game", log.game}, {"set", set}, {"number", game.number}};
    json.update(json_of(entry));
    json["level"] = entry.level;
    json["of"] = entry.ranked;
    json["overlooked"] = entry.overlooked;
    json["ranked"] = Json::array();
    for (const auto& move : entry.moves)
        json["ranked"].push_back({{"move", move[0]}, {"value", move[1]}, {"line", move[2]}, {"why", move[3]}});
    return json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

std::string log_as_json(const GameLogFile& log, const LoggedGame& game, const std::vector<JudgedMove>& turning_points) {
    Json set = Json::object();
    for (const Setting& setting : log.settings) set[setting.name] = setting.value;
    Json entries = Json::array();
    for (const LogEntry& entry : game.entries) entries.push_back(json_of(entry));
    Json json{{"game", log.game},      {"set", set},          {"number", game.number},
              {"result", game.result}, {"moves", game.moves}, {"decisions", entries}};
    if (!turning_points.empty()) {
        json["turning_points"] = Json::array();
        for (const JudgedMove& each : turning_points)
            json["turning_points"].push_back({{"ply", each.ply},
                                              {"player", player_in(log, each.player)},
                                              {"opponent", opponent_at(game, each.ply)},
                                              {"played", each.played},
                                              {"better", each.better},
                                              {"chance", each.chance},
                                              {"chance_played", each.chance_played},
                                              {"lost", each.lost()}});
    }
    return json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace arvek::tool
