#include "writing.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <map>

#include "arvek/game/utf8.hpp"
#include "arvek/session/plain_text.hpp"
#include "writing_parts.hpp"

namespace arvek::tool {

std::string joined(const std::vector<std::string>& texts, std::string_view between) {
    return fmt::format("{}", fmt::join(texts, between));
}

std::string heading(const Subject& subject, const Paint& paint) {
    std::string text = paint.strong(subject.game);
    if (const std::string settings = settings_text(subject.settings); !settings.empty())
        text += paint.faint("  " + settings);
    return text + "\n";
}

std::string percent(double share) { return fmt::format("{:.1f} %", 100 * share); }

std::string draws_text(const MatchResult& result) {
    std::vector<std::string> parts;
    const auto add = [&](int count, const char* how) {
        if (count > 0) parts.push_back(fmt::format("{} {}", count, how));
    };
    add(result.draws - result.repetitions - result.unfinished, "by rule");
    add(result.repetitions, "by repetition");
    add(result.unfinished, "cut off for their length");
    return joined(parts, ", ");
}

std::optional<double> score_between(const LeagueResult& result, std::size_t player, std::size_t rival) {
    for (const LeaguePairing& pairing : result.pairings) {
        if (pairing.result.comparisons() == 0) continue;
        if (pairing.a == player && pairing.b == rival) return pairing.result.score_a();
        if (pairing.b == player && pairing.a == rival) return 1 - pairing.result.score_a();
    }
    return std::nullopt;
}

std::string line_text(const std::vector<std::string>& line) {
    constexpr std::size_t longest = 12;
    if (line.size() <= longest) return joined(line, " ");
    return joined({line.begin(), line.begin() + longest}, " ") + fmt::format(" and {} more", line.size() - longest);
}

namespace {

/// Of the 256 colours of terminals, ones that can be read on black and on white.
constexpr std::array<const char*, max_players> player_codes{"\x1b[1;38;5;30m", "\x1b[1;38;5;130m", "\x1b[1;38;5;133m",
                                                            "\x1b[1;38;5;67m"};

std::string counters_text(const DecisionStats& stats) {
    if (stats.playouts > 0)
        return fmt::format("{} playouts, {} nodes; depth of the tree {}; {}; stopped by {}", grouped(stats.playouts),
                           grouped(stats.nodes), stats.depth, duration_text(stats.seconds), name_of(stats.stopped_by));
    return fmt::format("{} nodes, {} leaves, {} cutoffs; depth {}; {}; stopped by {}", grouped(stats.nodes),
                       grouped(stats.leaves), grouped(stats.cutoffs), stats.depth, duration_text(stats.seconds),
                       name_of(stats.stopped_by));
}

/// What the moves of both were chosen by, as shares of their own moves; nothing where nothing is known. Rules of profiles
/// stand in their order, also those that never chose.
std::string chosen_text(const MatchReport& report) {
    const MatchResult& result = report.result;
    std::vector<std::string> order;
    const auto add = [&](const std::string& reason) {
        if (std::find(order.begin(), order.end(), reason) == order.end()) order.push_back(reason);
    };
    for (const auto* rules : {&report.rules_a, &report.rules_b})
        for (const std::string& rule : *rules) add(rule);
    std::vector<std::pair<std::uint64_t, std::string>> others;
    for (const auto* chosen : {&result.chosen_a, &result.chosen_b})
        for (const auto& [reason, count] : *chosen) others.emplace_back(count, reason);
    std::stable_sort(others.begin(), others.end(), [](const auto& x, const auto& y) { return x.first > y.first; });
    for (const auto& [count, reason] : others) add(reason);
    if (order.empty()) return "";
    const auto has = [](const std::vector<std::string>& rules, const std::string& reason) {
        return std::find(rules.begin(), rules.end(), reason) != rules.end();
    };
    const auto share = [&](const std::map<std::string, std::uint64_t>& chosen, std::uint64_t moves,
                           const std::vector<std::string>& rules, const std::string& reason) -> std::string {
        const auto at = chosen.find(reason);
        if (at == chosen.end() || at->second == 0) return has(rules, reason) ? "never" : "-";
        return percent(static_cast<double>(at->second) / static_cast<double>(std::max<std::uint64_t>(moves, 1)));
    };
    if (result.players != 2) {
        TextTable table({"moves chosen by", "of " + report.a_title, "of " + report.b_title}, "lrr");
        for (const std::string& reason : order)
            table.add({reason, share(result.chosen_a, result.moves_a, report.rules_a, reason),
                       share(result.chosen_b, result.moves_b, report.rules_b, reason)});
        return table.text();
    }
    TextTable table({"moves chosen by", report.a_title + ": first", "second", report.b_title + ": first", "second"},
                    "lrrrr");
    for (const std::string& reason : order) {
        std::vector<std::string> row{reason};
        for (const bool of_a : {true, false})
            for (const std::size_t seat : {0u, 1u})
                row.push_back(share((of_a ? result.chosen_a_by_seat : result.chosen_b_by_seat)[seat],
                                    (of_a ? result.moves_a_by_seat : result.moves_b_by_seat)[seat],
                                    of_a ? report.rules_a : report.rules_b, reason));
        table.add(std::move(row));
    }
    return table.text();
}

std::size_t shown_of(std::size_t all, std::size_t shown) { return shown == 0 ? all : std::min(all, shown); }

}  // namespace

std::string Paint::wrapped(const char* code, std::string_view text) const {
    return colour_ ? code + std::string(text) + "\x1b[0m" : std::string(text);
}
std::string Paint::strong(std::string_view text) const { return wrapped("\x1b[1m", text); }
std::string Paint::faint(std::string_view text) const { return wrapped("\x1b[2m", text); }
std::string Paint::of_player(std::string_view text, Player player) const {
    return wrapped(player_codes[index_of(player)], text);
}

namespace {

bool is_in_word(char letter) { return std::isalnum(static_cast<unsigned char>(letter)) != 0; }

/// Whether letters that are no player's stand alone both as capitals and small, as they do where that tells the sides apart.
bool case_tells_sides(const std::string& drawing, const std::vector<std::string>& player_names) {
    std::array<bool, 256> alone{};
    for (std::size_t i = 0; i < drawing.size(); ++i)
        if ((i == 0 || !is_in_word(drawing[i - 1])) && (i + 1 == drawing.size() || !is_in_word(drawing[i + 1])))
            alone[static_cast<unsigned char>(drawing[i])] = true;
    for (char capital = 'A'; capital <= 'Z'; ++capital) {
        const bool is_player = std::any_of(player_names.begin(), player_names.end(),
                                           [&](const std::string& name) { return name.starts_with(capital); });
        if (!is_player && alone[static_cast<unsigned char>(capital)] &&
            alone[static_cast<unsigned char>(capital - 'A' + 'a')])
            return true;
    }
    return false;
}

}  // namespace

std::string Paint::board(const std::string& drawing, const std::vector<std::string>& player_names) const {
    if (!colour_ || case_tells_sides(drawing, player_names)) return drawing;
    // A player's letter alone, after a number, or before a piece's capital letter and perhaps a digit: "T", "2T", "TW", "AR1".
    const auto without_number = [](std::string_view word) {
        const auto letter = word.find_first_not_of("0123456789");
        return letter == std::string_view::npos || letter > 2 ? word : word.substr(letter);
    };
    const auto is_piece = [&](std::string_view word) {
        word = without_number(word);
        return word.size() <= 3 && (word.size() < 2 || std::isupper(static_cast<unsigned char>(word[1])) != 0) &&
               (word.size() < 3 || std::isdigit(static_cast<unsigned char>(word[2])) != 0);
    };
    std::string text;
    for (std::size_t i = 0; i < drawing.size();) {
        std::size_t end = i;
        while (end < drawing.size() && is_in_word(drawing[end])) ++end;
        if (end == i) {
            text += drawing[i++];
            continue;
        }
        const std::string_view word(drawing.data() + i, end - i);
        const auto player = std::find_if(player_names.begin(), player_names.end(), [&](const std::string& name) {
            return !name.empty() && name[0] == without_number(word)[0];
        });
        text += player != player_names.end() && is_piece(word)
                    ? of_player(word, static_cast<Player>(player - player_names.begin()))
                    : std::string(word);
        i = end;
    }
    return text;
}

std::string duration_text(double seconds) {
    if (seconds < 0.001) return fmt::format("{:.0f} us", seconds * 1e6);
    if (seconds < 1.0) return fmt::format("{:.1f} ms", seconds * 1e3);
    return fmt::format("{:.2f} s", seconds);
}

std::string settings_text(const std::vector<Setting>& settings) {
    std::vector<std::string> parts;
    for (const Setting& setting : settings)
        if (!setting.value.empty()) parts.push_back(setting.name + " " + plain_line(setting.value));
    return joined(parts, ", ");
}

TextTable::TextTable(std::vector<std::string> heads, std::string to_the_right)
    : to_the_right_(std::move(to_the_right)) {
    rows_.push_back(std::move(heads));
}

std::string TextTable::text(std::string_view indent) const {
    std::vector<std::size_t> widths(rows_.front().size());
    for (const auto& row : rows_)
        for (std::size_t column = 0; column < row.size(); ++column)
            widths[column] = std::max(widths[column], width_of(row[column]));
    std::string text;
    for (const auto& row : rows_) {
        std::string line(indent);
        for (std::size_t column = 0; column < row.size(); ++column) {
            const bool right = column < to_the_right_.size() && to_the_right_[column] == 'r';
            const std::string room(widths[column] - width_of(row[column]), ' ');
            line += right ? room + row[column] : row[column] + room;
            line += "  ";
        }
        line.erase(line.find_last_not_of(' ') + 1);
        text += line + "\n";
    }
    return text;
}

std::string games_as_text(const std::vector<std::unique_ptr<GameEntry>>& games) {
    std::string text;
    for (const auto& game : games) {
        text += fmt::format("{}: {}\n", game->name(), game->summary());
        TextTable table({"parameter", "default", "range", "meaning"});
        for (const ParameterInfo& info : game->parameters())
            table.add({info.name, info.default_value, info.range_text(), info.meaning});
        text += game->parameters().empty() ? "  no parameters\n" : table.text();
    }
    return text;
}

/// What a level took away.
static std::string cost_text(const DecisionReport& report) {
    std::string text;
    // Overlooked moves matter where one of them is better than what was played.
    std::vector<std::string> better;
    for (int i = 0; i + 1 < report.rank; ++i) {
        const MoveReport &entry = report.ranked[static_cast<std::size_t>(i)],
                         &played = report.ranked[static_cast<std::size_t>(report.rank) - 1];
        // What was not searched as deep cannot be set against what was; the order says which the search prefers.
        if (entry.kind == played.kind || played.kind != ScoreKind::Shallow)
            if (report.has_scores ? !(entry.score > played.score) : report.has_worths && entry.worth <= played.worth)
                continue;
        if (std::find(report.overlooked.begin(), report.overlooked.end(), entry.move) != report.overlooked.end())
            better.push_back(entry.move);
    }
    // It is said how far that was looked at: a deeper look may find otherwise.
    const std::string seen =
        !report.has_scores  ? ""
        : report.has_visits ? fmt::format(" by {} playouts", report.stats.playouts)
                            : fmt::format(" at {} {}", report.stats.depth, report.stats.depth == 1 ? "ply" : "plies");
    if (!report.overlooked.empty())
        text += fmt::format("  At level {} it overlooked {} of {} legal moves; {}.\n", report.level,
                            report.overlooked.size(), report.ranked.size(),
                            better.empty() ? "none is ranked above the one played" + seen
                                           : "ranked above the one played" + seen + ": " + line_text(better));
    if (report.rank <= 1) return text;
    const MoveReport &best = report.ranked.front(), &played = report.ranked[static_cast<std::size_t>(report.rank) - 1];
    if (report.has_scores && best.score == played.score && best.kind == played.kind)
        return text;  // level with the best
    text += fmt::format("  At level {} it played the move ranked {} of {}", report.level, report.rank,
                        report.ranked.size());
    if (report.has_scores)
        text += fmt::format(", {} instead of {}", score_text(played.score, played.kind, report.scores_per_point),
                            score_text(best.score, best.kind, report.scores_per_point));
    if (report.has_scores && !best.score.is_proven() && !played.score.is_proven() && played.kind != ScoreKind::Shallow)
        text += report.scores_per_point > 0
                    ? fmt::format(": {:.4f} given away",
                                  (best.score.number() - played.score.number()) / report.scores_per_point)
                    : fmt::format(": {} given away", best.score.number() - played.score.number());
    if (report.has_worths)
        text += fmt::format(", {:.2f} instead of {:.2f}: {:.2f} given away", played.worth, best.worth,
                            best.worth - played.worth);
    if (report.has_scores && !report.has_visits)
        text +=
            fmt::format(" (as far as it saw, {} {})", report.stats.depth, report.stats.depth == 1 ? "ply" : "plies");
    return text + ".\n";
}

/// What a longer search says of the move that a level played.
static std::string deeper_text(const DecisionReport& report) {
    if (!report.deeper) return "";
    const DeeperLook& look = *report.deeper;
    const auto score = [&](Score of) { return score_text(of, ScoreKind::Estimate, report.scores_per_point); };
    const std::string much =
        fmt::format("  A longer search ({} positions, {} {}) ", grouped(std::to_string(look.nodes)), look.depth,
                    look.depth == 1 ? "ply" : "plies");
    if (look.best == report.move) return much + "finds nothing better than the move played.\n";
    return much + fmt::format("prefers {}{}: {} against {}.\n", look.best,
                              look.was_overlooked ? ", which was overlooked" : "", score(look.best_score),
                              score(look.played_score));
}

const char* answer_of(RuleKind kind, bool fired) {
    switch (kind) {
        case RuleKind::Rule: return fired ? "FIRED" : "passed over";
        case RuleKind::Change: return fired ? "changes" : "no change";
        case RuleKind::Fallback: return "fallback";
        case RuleKind::TieBreak: return "drawn";
        case RuleKind::Care: return "CARE";
        case RuleKind::Book: return "BOOK";
    }
    return "";
}

std::string explanation_text(const DecisionReport& report, std::size_t shown, const Paint& paint) {
    std::string text;
    if (!report.rules.empty()) {
        TextTable rules({"rule", "answer", "why"});
        for (const RuleReport& rule : report.rules) rules.add({rule.rule, answer_of(rule.kind, rule.fired), rule.why});
        text += rules.text() + "\n";
    }
    const std::size_t count = shown_of(report.ranked.size(), shown);
    if (report.has_visits) {
        TextTable table({"", "move", "playouts", "expected payoff", "by sampling alone", "line"}, "rlrrrl");
        for (std::size_t i = 0; i < count; ++i) {
            const MoveReport& entry = report.ranked[i];
            const bool known = entry.kind == ScoreKind::Exact;
            table.add({std::to_string(i + 1), entry.move, grouped(entry.visits),
                       known ? (entry.score.is_proven() ? score_text(entry.score, entry.kind) : "a draw")
                             : fmt::format("{:+.3f}", entry.mean),
                       known || entry.visits == 0 ? "" : fmt::format("{:+.3f} to {:+.3f}", entry.low, entry.high),
                       line_text(entry.line)});
        }
        text += table.text();
    } else if (report.has_probabilities) {
        TextTable table({"", "move", "probability", "expected payoff"}, "rlrr");
        for (std::size_t i = 0; i < count; ++i) {
            const MoveReport& entry = report.ranked[i];
            table.add({std::to_string(i + 1), entry.move, fmt::format("{:.4f}", entry.probability),
                       fmt::format("{:+.4f}", entry.score.number() / report.scores_per_point)});
        }
        text += table.text() + "  drawn by the probabilities\n";
    } else if (report.has_scores) {
        TextTable table({"", "move", report.scores_per_point > 0 ? "expected payoff" : "score", "line"}, "rlr");
        for (std::size_t i = 0; i < count; ++i) {
            const MoveReport& entry = report.ranked[i];
            table.add({std::to_string(i + 1), entry.move, score_text(entry.score, entry.kind, report.scores_per_point),
                       line_text(entry.line)});
        }
        text += table.text();
    } else if (report.has_worths) {
        TextTable table({"", "move", "worth", "why"}, "rlr");
        for (std::size_t i = 0; i < count; ++i) {
            const MoveReport& entry = report.ranked[i];
            table.add({std::to_string(i + 1), entry.move, fmt::format("{:.2f}", entry.worth),
                       entry.reasons.empty() ? "-" : entry.reasons.front()});
            for (std::size_t more = 1; more < entry.reasons.size(); ++more)
                table.add({"", "", "", entry.reasons[more]});
        }
        text += table.text();
    } else if (!report.rules.empty()) {
        TextTable table({"", "move", "what the rules say"}, "r");
        for (std::size_t i = 0; i < count; ++i) {
            const MoveReport& entry = report.ranked[i];
            table.add({std::to_string(i + 1), entry.move, entry.reasons.empty() ? "-" : joined(entry.reasons, "; ")});
        }
        text += table.text();
    } else {
        text += fmt::format("  drawn at random from {} legal moves\n", report.ranked.size());
    }
    if (count < report.ranked.size() && (report.has_scores || report.has_worths || !report.rules.empty()))
        text += fmt::format("  and {} more\n", report.ranked.size() - count);
    if (!report.state.empty()) text += fmt::format("  It remembers: {}.\n", report.state);
    text += cost_text(report) + deeper_text(report);
    if (report.has_scores && !report.has_probabilities) text += paint.faint("  " + counters_text(report.stats)) + "\n";
    const DecisionStats& stats = report.stats;
    if (stats.tries_without_hint > 0 && stats.tries_without_hint < stats.tries_with_hint)
        text += fmt::format(
            "  The game's ordering hint did not help: with it {:.2f} moves were tried until one cut off, without it "
            "{:.2f}, so it was left out.\n",
            stats.tries_with_hint, stats.tries_without_hint);
    return text;
}

std::string standing_text(const DecisionReport& report, const AnyGame& game) {
    const MoveReport& best = report.ranked.front();
    if (best.score.is_proven())
        return (best.score.is_proven_win() ? "a " : "a ") + score_text(best.score, ScoreKind::Exact);
    if (best.kind == ScoreKind::Exact && report.stats.stopped_by == StoppedBy::End && best.score.number() == 0)
        return "a draw";
    const bool for_two = players_of(game) == 2 && most_payoff_of(game) <= 1;
    if (report.scores_per_point > 0) {
        const double mean = best.score.number() / report.scores_per_point;
        if (!for_two) return fmt::format("about {:+.2f} points", mean);
        return fmt::format("about {:.0f} % to win", 50 * (1 + std::clamp(mean, -1.0, 1.0)));
    }
    const double number = best.score.number();
    if (offers(game, Ability::Scale) && for_two)
        return fmt::format("about {:.0f} % to win", 100 / (1 + std::exp2(-number / game.units_per_doubling())));
    const std::string by = fmt::format(" ({:+})", best.score.number());
    return number == 0 ? "about even" : number > 0 ? "ahead" + by : "behind" + by;
}

std::string value_text(const DecisionReport& report, const MoveReport& entry) {
    if (report.has_visits) return fmt::format("{:+.3f}", entry.mean);
    if (report.has_scores) return score_text(entry.score, entry.kind, report.scores_per_point);
    if (report.has_worths) return fmt::format("{:.2f}", entry.worth);
    return "";
}

std::string side_by_side_as_text(const Subject& subject, const std::vector<DecisionReport>& reports, const Paint& paint,
                                 const std::vector<std::string>& player_names) {
    std::string text = heading(subject, paint) + paint.board(reports.front().drawing, player_names) +
                       reports.front().to_move + " to move.\n";
    TextTable table({"opponent", "level", "move", "chosen by", "rank", "value", "why"}, "lrllrr");
    constexpr std::size_t longest_why = 60;
    for (const DecisionReport& report : reports) {
        const MoveReport& played = report.ranked[static_cast<std::size_t>(report.rank) - 1];
        std::string why = played.reasons.empty() ? line_text(played.line) : played.reasons.front();
        for (const RuleReport& rule : report.rules)
            if (rule.fired && rule.rule == report.chosen_by) why = rule.why;
        table.add({report.title, report.has_levels ? std::to_string(report.level) : "-", report.move,
                   report.chosen_by.empty() ? "-" : report.chosen_by,
                   fmt::format("{}/{}", report.rank, report.ranked.size()), value_text(report, played),
                   width_of(why) > longest_why ? cut_text(why, longest_why - 3) + "..." : why});
    }
    return text + table.text();
}

std::string decision_as_text(const Subject& subject, const DecisionReport& report, std::size_t shown,
                             const Paint& paint, const std::vector<std::string>& player_names) {
    return heading(subject, paint) + paint.board(report.drawing, player_names) +
           fmt::format("{} to move. {} plays {}.\n", report.to_move, report.title, paint.strong(report.move)) +
           explanation_text(report, shown, paint);
}

std::string comparison_as_text(const Subject& subject, const std::vector<ComparisonRow>& rows, const Paint& paint,
                               const std::vector<std::string>& player_names) {
    std::string text = heading(subject, paint) + paint.board(rows.front().report.drawing, player_names) +
                       rows.front().report.to_move + " to move.\n";
    std::vector<std::string> heads{"algorithm", "depth", "move", "score", "nodes", "leaves", "cutoffs", "time"};
    const bool several = std::any_of(rows.begin(), rows.end(), [&](const ComparisonRow& row) {
        return row.report.opponent != rows.front().report.opponent;
    });
    if (several) heads.push_back("share of nodes");
    TextTable table(std::move(heads), "lrlrrrrrr");
    for (const ComparisonRow& row : rows) {
        const DecisionStats& stats = row.report.stats;
        // The share is of the first algorithm's nodes at the same depth.
        const auto base = std::find_if(
            rows.begin(), rows.end(), [&](const ComparisonRow& other) { return other.depth_asked == row.depth_asked; });
        const double share = static_cast<double>(stats.nodes) /
                             static_cast<double>(std::max<std::uint64_t>(base->report.stats.nodes, 1));
        std::vector<std::string> line{
            row.report.opponent,
            std::to_string(stats.depth),
            row.report.move,
            score_text(row.report.ranked.front().score, ScoreKind::Exact, row.report.scores_per_point),
            grouped(stats.nodes),
            grouped(stats.leaves),
            grouped(stats.cutoffs),
            duration_text(stats.seconds)};
        if (several) line.push_back(&*base == &row ? "" : fmt::format("{:.2f} %", 100 * share));
        table.add(std::move(line));
    }
    return text + table.text();
}

std::string worth_text(Payoff least, Payoff most) {
    const auto exactly = [](Payoff payoff) -> std::string {
        if (payoff == 0) return "a draw";
        const Payoff size = payoff < 0 ? -payoff : payoff;
        return (payoff > 0 ? "a win" : "a loss") + (size > 1 ? " by " + std::to_string(size) : std::string());
    };
    if (least == most) return exactly(least);
    if (least <= -largest_payoff && most >= largest_payoff) return "not known yet";
    if (most >= largest_payoff) return exactly(least) + " or better";
    if (least <= -largest_payoff) return exactly(most) + " or worse";
    return "between " + exactly(least) + " and " + exactly(most);
}

std::string outlook_as_text(const Subject& subject, const OutlookReport& report, const Paint& paint,
                            const std::vector<std::string>& player_names) {
    std::string text = heading(subject, paint) + paint.board(report.drawing, player_names);
    text += "Chance is next.";
    if (report.value)
        text += fmt::format(" {} expects {} for {}.", report.title, paint.strong(fmt::format("{:+.4f}", *report.value)),
                            report.of);
    else
        text += fmt::format(" What {} expects, for whoever is next:", report.title);
    text += "\n";
    TextTable table({"event", "probability", "expected payoff", "next", "best answer"}, "lrrll");
    for (const OutlookReport::Event& event : report.events)
        table.add({event.event, fmt::format("{:.4f}", event.probability),
                   fmt::format("{}{:+.4f}", event.certain ? "" : "about ", event.value),
                   event.next.empty() ? "the end" : event.next, event.best.empty() ? "-" : event.best});
    return text + table.text() + paint.faint("  " + counters_text(report.stats)) + "\n";
}

std::string odds_as_text(const Subject& subject, const OddsReport& report, const Paint& paint) {
    const OddsFound& found = report.found;
    std::string text = heading(subject, paint);
    text += fmt::format("{} {} of {} against itself, {} positions.\n", grouped(static_cast<std::uint64_t>(found.games)),
                        found.games == 1 ? "game" : "games", report.title, grouped(found.positions));
    if (found.units_per_doubling)
        text += "The odds of winning double every " +
                paint.strong(fmt::format("{:.4g} units", *found.units_per_doubling)) + " of the evaluation (" +
                (found.low ? fmt::format("95 %: {:.4g} to {}", *found.low,
                                         found.high ? fmt::format("{:.4g}", *found.high) : "no end")
                           : std::string("too few games to say how surely")) +
                ").\n";
    else if (found.always_won)
        text += "Whoever led won, so the odds cannot be told from these games: play more, or weaker ones.\n";
    else
        text += "Larger estimates did not win more often: the evaluation says nothing about who wins.\n";
    if (report.declared) text += fmt::format("The game says {:.4g}, by units_per_doubling().\n", *report.declared);
    if (found.turn)
        text +=
            fmt::format("Being to move is worth about {:+.2g} units, beside what the evaluation says.\n", *found.turn);
    TextTable table({"estimate, for the player to move", "positions", "won", "by the fit"}, "lrrr");
    for (const OddsRow& row : found.rows)
        table.add({row.least == row.most ? fmt::format("{:.0f}", row.least)
                                         : fmt::format("{:.0f} to {:.0f}", row.least, row.most),
                   grouped(row.positions), percent(row.won), found.units_per_doubling ? percent(row.fitted) : "-"});
    text += table.text();
    if (!report.complete) text += "  interrupted\n";
    return text;
}

namespace {

/// A strategy: a row for each view.
std::string strategy_text(const SolutionReport& report) {
    constexpr std::size_t most_rows = 60;
    TextTable table({"side", "what it sees", "plays", "expects"}, "lll");
    std::size_t forced = 0, more = 0;
    for (const MixedReport& row : report.strategy) {
        if (row.moves.size() == 1) {
            ++forced;
            continue;
        }
        if (table.rows() == most_rows) {
            ++more;
            continue;
        }
        std::vector<std::string> shares, values;
        for (const ExpectedMoveReport& each : row.moves) {
            if (each.probability >= 0.0005)
                shares.push_back(fmt::format("{} {:.1f} %", each.move, 100 * each.probability));
            if (report.exploitability) values.push_back(fmt::format("{} {:+.3f}", each.move, each.value));
        }
        table.add({row.player, row.view, joined(shares, ", "), values.empty() ? "not measured" : joined(values, ", ")});
    }
    std::string text = table.text();
    if (more > 0) text += fmt::format("  and {} more; --format json has all\n", more);
    if (forced > 0) text += fmt::format("  and {} where there is one move\n", forced);
    return text;
}

/// Of a game of chance, or with views.
std::string expected_as_text(const Subject& subject, const SolutionReport& report, const Paint& paint,
                             const std::vector<std::string>& player_names) {
    std::string text = heading(subject, paint) + paint.board(report.drawing, player_names);
    text += report.to_move.empty() ? "Chance is next. " : report.to_move + " to move. ";
    const bool drawn = report.mixes && !report.exploitability;  // a mean over games
    text += paint.strong(drawn ? fmt::format("Not solved: {:+.4f} for {}, within {:.2g} at 95 %, when both play so",
                                             report.value, report.of, report.error)
                               : fmt::format("{}: {:+.10f} for {}, at most {:.2g} off",
                                             report.complete ? "Solved" : "Not solved", report.value, report.of,
                                             report.error)) +
            ".\n";
    if (report.exploitability)
        text += fmt::format(
            "Exploitability {:.2g}: what the best answer to either side gains in points a game, in the mean of both.\n",
            *report.exploitability);
    else if (report.mixes)
        text += "How far this is from an equilibrium is not known: the whole tree is too large for the memory.\n";
    if (!report.expected.empty()) {
        const bool events = report.to_move.empty();
        TextTable table({events ? "event" : "move", events ? "probability" : "", "expected payoff"}, "lrr");
        for (const ExpectedMoveReport& each : report.expected)
            table.add({each.move, events ? fmt::format("{:.4f}", each.probability) : "",
                       fmt::format("{:+.10f}", each.value)});
        text += table.text();
    }
    if (report.mixes) text += strategy_text(report);
    return text +
           paint.faint(fmt::format("  {}: {} positions; {}; {}", report.method, grouped(report.counters.nodes),
                                   duration_text(report.seconds),
                                   report.complete ? "solved" : "stopped by " + report.stopped_by)) +
           "\n";
}

}  // namespace

std::string solution_as_text(const Subject& subject, const SolutionReport& report, const Paint& paint,
                             const std::vector<std::string>& player_names) {
    if (report.expects) return expected_as_text(subject, report, paint, player_names);
    std::string text = heading(subject, paint) + paint.board(report.drawing, player_names);
    const std::string plies = report.plies ? " in " + std::to_string(*report.plies) : "";
    text +=
        report.to_move + " to move. " +
        paint.strong((report.complete ? "Solved: " : "Not solved: ") + worth_text(report.least, report.most) + plies) +
        ".\n";
    const bool knows_plies = std::any_of(report.moves.begin(), report.moves.end(),
                                         [](const auto& solved) { return solved.plies.has_value(); });
    TextTable table({"move", "worth", knows_plies ? "plies" : ""}, "llr");
    // Of a game that was not solved, the moves of which something more is known than of the whole.
    for (const SolvedMoveReport& solved : report.moves)
        if (report.complete || solved.value < report.most)
            table.add({solved.move,
                       solved.kind == ScoreKind::Exact ? worth_text(solved.value, solved.value)
                                                       : worth_text(-largest_payoff, solved.value),
                       solved.plies ? std::to_string(*solved.plies) : ""});
    text += table.text();
    return text +
           paint.faint(fmt::format("  {}: {} positions, {} table hits; {}; {}", report.method,
                                   grouped(report.counters.nodes), grouped(report.counters.table_hits),
                                   duration_text(report.seconds),
                                   report.complete ? "solved" : "stopped by " + report.stopped_by)) +
           "\n";
}

std::string check_as_text(const Subject& subject, const CheckReport& report, const Paint& paint) {
    return heading(subject, paint) + report.text();
}

std::string facts_as_text(const Subject& subject, const FactsReport& report, const Paint& paint) {
    return heading(subject, paint) + report.text();
}

std::string count_as_text(const Subject& subject, const CountReport& report) {
    std::string text = heading(subject, Paint(false)) + "from " + subject.position + "\n";
    TextTable table({"depth", "sequences", "finished"}, "rrr");
    LargeCount finished;
    for (const SequenceCount& count : report.counts) {
        table.add({std::to_string(count.depth), grouped(count.sequences.text()),
                   count.knows_finished ? grouped(count.finished.text()) : "-"});
        finished += count.finished;
    }
    const bool all = report.counts.back().knows_finished;
    text += table.text() +
            fmt::format("  {} finished {}\n", grouped(finished.text()), all ? "in all" : "before the last ply");
    if (report.by_first_move.empty()) return text;
    TextTable split({"first move", "sequences of " + std::to_string(report.counts.size())}, "lr");
    for (const auto& [move, sequences] : report.by_first_move) split.add({move, grouped(sequences.text())});
    return text + split.text();
}

namespace {

/// Of a game with three or four seats.
std::string seats_text(const MatchReport& report) {
    const MatchResult& result = report.result;
    const Interval interval = result.payoff_interval();
    return fmt::format("A, {}, has one seat and B, {}, has {}.\n", report.a_title, report.b_title,
                       result.players == 3 ? "both others" : "the three others") +
           fmt::format("A was paid {:+.3f} a game in the mean, 95 % interval {:+.3f} to {:+.3f}.\n",
                       result.mean_payoff_a(), interval.low, interval.high);
}

/// How often payoffs lie in each of some equal parts of the range that both share.
std::string histogram_text(const MatchReport& report) {
    constexpr int parts = 12, widest = 30;
    const MatchResult& result = report.result;
    const ScoreSummary a = result.summary(true), b = result.summary(false);
    const Payoff least = std::min(a.worst, b.worst), most = std::max(a.best, b.best);
    const double width = std::max(1.0, (most - least + 1) / static_cast<double>(parts));
    std::array<std::array<int, parts>, 2> counts{};
    int tallest = 1;
    for (const bool of_a : {true, false})
        for (const Payoff payoff : of_a ? result.payoffs_a : result.payoffs_b) {
            const auto part =
                static_cast<std::size_t>(std::clamp(static_cast<int>((payoff - least) / width), 0, parts - 1));
            tallest = std::max(tallest, ++counts[of_a ? 0 : 1][part]);
        }
    TextTable table({"payoff", report.a_title, report.b_title}, "rll");
    for (int part = 0; part < parts; ++part) {
        const auto at = static_cast<std::size_t>(part);
        const auto from = least + static_cast<Payoff>(std::ceil(part * width));
        if (from > most) break;
        const auto bar = [&](int count) {
            const int length = (count * widest + tallest - 1) / tallest;
            return count == 0 ? std::string()
                              : std::string(static_cast<std::size_t>(length), '#') + " " + std::to_string(count);
        };
        table.add({fmt::format("from {}", from), bar(counts[0][at]), bar(counts[1][at])});
    }
    return table.text();
}

/// Of a game for one.
std::string scores_text(const MatchReport& report) {
    const MatchResult& result = report.result;
    TextTable table({"opponent", "games", "mean", "worst", "best", "more on the same deal", "time per move"},
                    "lrrrrrr");
    for (const bool of_a : {true, false}) {
        const ScoreSummary summary = result.summary(of_a);
        table.add({of_a ? report.a_title : report.b_title, std::to_string(summary.games),
                   fmt::format("{:.1f}", summary.mean), std::to_string(summary.worst), std::to_string(summary.best),
                   std::to_string(of_a ? result.wins_a : result.wins_b),
                   duration_text(of_a ? result.seconds_per_move_a() : result.seconds_per_move_b())});
    }
    const Interval interval = result.difference_interval();
    std::string text = table.text();
    if (result.comparisons() > 1)
        text += fmt::format("  On the same deal {} got {:.1f} {} in the mean, 95 % interval {:+.1f} to {:+.1f}.\n",
                            report.a_title, std::abs(result.mean_difference()),
                            result.mean_difference() < 0 ? "less" : "more", interval.low, interval.high);
    if (result.unfinished > 0) text += fmt::format("  {} games were cut off for their length.\n", result.unfinished);
    if (!result.first_fault.empty()) text += "  The first fault, " + plain_line(result.first_fault) + ".\n";
    return text + histogram_text(report) + chosen_text(report);
}

}  // namespace

std::string match_as_text(const Subject& subject, const MatchReport& report, const Paint& paint,
                          const std::vector<std::string>& player_names) {
    std::string text = heading(subject, paint);
    for (const GameRecord& record : report.records) {
        std::vector<std::string> seats;
        for (std::size_t seat = 0; seat < record.seats.size() && seat < player_names.size(); ++seat)
            seats.push_back(fmt::format("{} ({})", player_names[seat], record.seats[seat]));
        text += joined(seats, seats.size() == 2 ? " against " : ", ") + "\n";
        text += "  " + joined(record.moves, " ") + "\n" + paint.board(record.end_drawing, player_names) + "  " +
                record.result + ".\n\n";
    }
    const MatchResult& result = report.result;
    if (result.players == 1) return text + scores_text(report);
    if (result.players > 2) text += seats_text(report);
    TextTable table({"opponent", result.players > 2 ? "had the most" : "wins", "draws", "losses", "score",
                     "95 % interval", "time per move"},
                    "lrrrrrr");
    const Interval interval = result.interval();
    table.add({report.a_title, std::to_string(result.wins_a), std::to_string(result.draws),
               std::to_string(result.wins_b), percent(result.score_a()),
               fmt::format("{:.1f} to {:.1f} %", 100 * interval.low, 100 * interval.high),
               duration_text(result.seconds_per_move_a())});
    table.add({report.b_title, std::to_string(result.wins_b), std::to_string(result.draws),
               std::to_string(result.wins_a), percent(1 - result.score_a()),
               fmt::format("{:.1f} to {:.1f} %", 100 * (1 - interval.high), 100 * (1 - interval.low)),
               duration_text(result.seconds_per_move_b())});
    text += table.text();
    text += fmt::format("  {}{} {}, ", result.games,
                        result.games < report.games_asked ? " of " + std::to_string(report.games_asked) : "",
                        report.games_asked == 1 ? "game" : "games");
    text += result.players > 2 ? "A in each seat by turns; the score is against each rival by itself, half for as much"
                               : fmt::format("moving first by turns; the first mover won {}", result.wins_of_first);
    if (result.players == 2 && result.games_by_seat[0] > 0 && result.games_by_seat[1] > 0)
        text += fmt::format("; {} as first {}, as second {}", report.a_title,
                            percent(result.points_a_by_seat[0] / result.games_by_seat[0]),
                            percent(result.points_a_by_seat[1] / result.games_by_seat[1]));
    const bool margins = result.players == 2 && result.games > 1 &&
                         std::any_of(result.payoffs_a.begin(), result.payoffs_a.end(),
                                     [](Payoff payoff) { return payoff > 1 || payoff < -1; });
    if (result.draws > 0) text += "; drawn: " + draws_text(result);
    if (result.games < report.games_asked && result.broken > 0)
        text += fmt::format("; in {} the rules of the game broke, and they do not count", result.broken);
    if (report.taken_over > 0) text += fmt::format("; {} had been played before", report.taken_over);
    text += ".\n";
    if (margins) {
        const Interval paid = result.payoff_interval();
        text += fmt::format("  {} was paid {:+.3f} a game in the mean, 95 % interval {:+.3f} to {:+.3f}.\n",
                            report.a_title, result.mean_payoff_a(), paid.low, paid.high);
    }
    for (const bool of_a : {true, false})
        if (const int faults = of_a ? result.faults_a : result.faults_b; faults > 0)
            text += fmt::format("  {} lost {} of its games by a fault of its own.\n",
                                of_a ? report.a_title : report.b_title, faults);
    if (!result.first_fault.empty()) text += "  The first fault, " + plain_line(result.first_fault) + ".\n";
    if (result.games > 1 && 2 * result.different_games() <= result.games)
        text += fmt::format(
            "  Only {} of the games differ. Unless luck is at work the others say nothing new, and the interval is too "
            "narrow:\n"
            "  --opening-plies N lets games begin in different ways.\n",
            result.different_games());
    if (result.verdict != 0)
        text += fmt::format("  Sure enough to stop: {} is better. The interval holds however often one looks.\n",
                            result.verdict > 0 ? report.a_title : report.b_title);
    else if (report.until_sure)
        text +=
            "  No difference to be seen: the games do not tell who is better. The interval holds however often one "
            "looks.\n";
    return text + chosen_text(report);
}

std::string chooser_text(const Profile& profile) {
    const auto count = [](std::size_t number, const char* one, const char* many) {
        return fmt::format("{} {}", number, number == 1 ? one : many);
    };
    const std::string& name = profile.chooser.name;
    if (name == "ruled")
        return count(profile.rules.size(), "rule", "rules") +
               (profile.fallback.empty() ? ", NO fallback: where no rule applies, it cannot choose"
                                         : ", " + count(profile.fallback.size(), "fallback", "fallbacks"));
    if (name == "suggestions")
        return "suggestions, " + count(profile.temperament.axes.size(), "axis", "axes") + " of temperament";
    if (name == "features") return count(profile.features.size(), "feature", "features");
    if (name == "random") return "random moves";
    return "chooses by " + name;
}

std::string profiles_as_text(const std::vector<CheckedProfile>& profiles, const Paint& paint) {
    std::string text;
    std::size_t errors = 0, warnings = 0;
    for (const CheckedProfile& checked : profiles) {
        const Profile& profile = checked.profile;
        text += paint.strong(plain_line(profile.source));
        if (!profile.name.empty())
            text += fmt::format(": {}, for {}; {}; level {}", plain_line(profile.name), plain_line(profile.game.name),
                                chooser_text(profile), profile.level);
        if (!profile.book.empty()) text += fmt::format("; {} in the opening book", profile.book.size());
        text += "\n";
        for (const ProfileFinding& finding : checked.report.findings) {
            ++(finding.is_error ? errors : warnings);
            text += fmt::format("  {} ", finding.is_error ? "ERROR  " : "warning");
            if (finding.line > 0) text += fmt::format("line {}, column {}", finding.line, finding.column);
            if (finding.file != profile.source) text += (finding.line > 0 ? " of " : "") + plain_line(finding.file);
            if (finding.line > 0 || finding.file != profile.source) text += ": ";
            text += finding.problem + "\n";
            if (!finding.advice.empty()) text += "          " + paint.faint(finding.advice) + "\n";
        }
        const ProfileUse& use = checked.report.use;
        if (use.games == 0) continue;
        std::vector<std::string> heads{"rule", "asked", "fired"};
        std::string right = "lrr";
        for (std::size_t seat = 0; seat < use.decisions.size() && use.decisions.size() > 1; ++seat) {
            heads.push_back(fmt::format("in seat {}", seat + 1));
            right += 'r';
        }
        TextTable table(heads, right);
        for (const RuleUse& rule : use.rules) {
            std::uint64_t asked = 0, fired = 0;
            for (const std::uint64_t each : rule.asked) asked += each;
            for (const std::uint64_t each : rule.fired) fired += each;
            std::vector<std::string> row{plain_line(rule.rule), grouped(asked), grouped(fired)};
            for (std::size_t seat = 0; seat < rule.fired.size() && rule.fired.size() > 1; ++seat)
                row.push_back(use.decisions[seat] == 0 ? "-"
                                                       : percent(static_cast<double>(rule.fired[seat]) /
                                                                 static_cast<double>(use.decisions[seat])));
            table.add(std::move(row));
        }
        std::uint64_t decisions = 0;
        for (const std::uint64_t each : use.decisions) decisions += each;
        text += table.text() + fmt::format("  in {} games, {} decisions\n", use.games, grouped(decisions));
    }
    if (errors + warnings == 0)
        return text + (profiles.size() == 1 ? "It is right.\n" : fmt::format("All {} are right.\n", profiles.size()));
    return text + fmt::format("{} {}, {} {}.\n", errors, errors == 1 ? "error" : "errors", warnings,
                              warnings == 1 ? "warning" : "warnings");
}

std::string vocabulary_as_text(const Subject& subject, const VocabularyReport& report, const Paint& paint) {
    std::string text = heading(subject, paint);
    const auto limit = [](double number) { return fmt::format("{}", number); };
    if (!report.numbers.empty()) {
        TextTable table({"quantity", "of the", "unit", "range",
                         report.is_a_turn ? "now, " + report.to_move + " to move" : "now", "meaning"},
                        "lll");
        for (const auto& number : report.numbers) {
            const bool low = std::isfinite(number.least), high = std::isfinite(number.most);
            const std::string range = low && high ? limit(number.least) + " to " + limit(number.most)
                                      : low       ? limit(number.least) + " or more"
                                      : high      ? limit(number.most) + " or less"
                                                  : "any";
            std::string now = report.is_a_turn ? fmt::format("{:.4g}", number.least_now) : "-";
            if (report.is_a_turn && number.most_now != number.least_now)
                now += fmt::format(" to {:.4g}", number.most_now);
            table.add({number.name, number.of, number.unit, range, now, number.meaning});
        }
        text += table.text();
    }
    text += "  turn: which of its own decisions a player takes, from 1; in every game\n\n";
    const auto add = [&](const char* what, const std::vector<VocabularyReport::Name>& names) {
        if (names.empty()) return;
        std::vector<std::string> texts;
        for (const auto& name : names)
            texts.push_back(name.moves > 0 ? fmt::format("{} ({})", name.name, name.moves) : name.name);
        text += fmt::format("  {:10}{}\n", what, joined(texts, ", "));
    };
    add("actors", report.actors);
    add("actions", report.actions);
    add("kinds", report.kinds);
    add("targets", report.targets);
    if (!report.actors.empty() && report.is_a_turn)
        text += paint.faint("  in brackets: how many legal moves fit now") + "\n";
    if (!report.actors.empty()) text += "\n";
    if (!report.suggestions.empty()) {
        TextTable table({"suggestion", "meaning", "now"});
        for (const auto& suggestion : report.suggestions) {
            std::string now = suggestion.now.empty() ? "-" : suggestion.now.front();
            if (suggestion.now.size() > 1) now += fmt::format("; and {} more", suggestion.now.size() - 1);
            table.add({suggestion.reason, suggestion.meaning, now});
        }
        text += table.text() + "\n";
    }
    text += "  ready rules: " + joined(report.ready_rules, ", ") + "\n";
    return text;
}

std::string sweep_as_text(const Subject& subject, const SweepReport& report, const Paint& paint) {
    std::string text = heading(subject, paint) +
                       fmt::format("{} against {}, {} games a value\n", report.a_title, report.b_title, report.games);
    TextTable table({plain_line(report.key), "wins", "draws", "losses", "score", "95 % interval"}, "rrrrrr");
    for (const SweepRow& row : report.rows) {
        const Interval interval = row.result.interval();
        table.add({fmt::format("{}", row.value), std::to_string(row.result.wins_a), std::to_string(row.result.draws),
                   std::to_string(row.result.wins_b), percent(row.result.score_a()),
                   fmt::format("{:.1f} to {:.1f} %", 100 * interval.low, 100 * interval.high)});
    }
    text += table.text();
    if (!report.complete) text += "  Interrupted: the rest was not played.\n";
    return text;
}

std::string cut_text(const std::string& text, std::size_t letters) {
    std::size_t bytes = 0;
    for (std::size_t letter = 0; letter < letters && bytes < text.size(); ++letter)
        bytes += std::max<std::size_t>(1, utf8_letter_size(std::string_view(text).substr(bytes)));
    return text.substr(0, bytes);
}

std::string ladder_as_text(const Subject& subject, const LadderReport& report, const Paint& paint) {
    std::string text = heading(subject, paint);
    TextTable table({"level", "rating", "95 % interval", "against the next below", "against two below",
                     "against random", "time per move"},
                    "rrrrrrr");
    const auto score = [](const std::optional<MatchResult>& result) -> std::string {
        if (!result) return "";
        const Interval interval = result->interval();
        return fmt::format("{:.1f} % ({:.1f} to {:.1f})", 100 * result->score_a(), 100 * interval.low,
                           100 * interval.high);
    };
    for (auto row = report.rows.rbegin(); row != report.rows.rend(); ++row)
        table.add({std::to_string(row->level), row->rating ? fmt::format("{:.0f}", row->rating->rating) : "",
                   row->rating ? fmt::format("{:.0f} to {:.0f}", row->rating->low, row->rating->high) : "",
                   score(row->against_next_below), score(row->against_two_below), score(row->against_random),
                   row->against_random ? duration_text(row->against_random->seconds_per_move_a()) : ""});
    return text + fmt::format("The levels of {}, {} games of each two.\n", paint.strong(report.title), report.games) +
           table.text() + (report.complete ? "" : "  Interrupted: the rows hold what was finished.\n") +
           "  Ratings count from random moves at 0; 400 more stand for ten times the chance to win.\n";
}

}  // namespace arvek::tool
