#pragma once
// Behind GameHandle and Table: the one place where the tool knows the types of a game.

#include <algorithm>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/arena/match.hpp"
#include "arvek/lab/check.hpp"
#include "arvek/lab/count.hpp"
#include "arvek/opponent/opponent.hpp"
#include "arvek/search/solver.hpp"
#include "arvek/tool/game_handle.hpp"

namespace arvek::tool::detail {

/// An Ending from an outcome, with the players' names.
Ending ending_of(const Outcome& outcome, const std::vector<std::string>& player_names);

template <TextGame G>
std::vector<std::string> player_names(const G& game) {
    return {player_name_of(game, Player::First), player_name_of(game, Player::Second)};
}

/// The texts of moves that are played one after the other from `position`.
template <TextGame G, class Moves>
std::vector<std::string> line_texts(const G& game, typename G::Position position, const Moves& line) {
    std::vector<std::string> texts;
    for (const auto& move : line) {
        texts.push_back(game.move_text(position, move));
        game.play(position, move);
    }
    return texts;
}

template <TextGame G>
class TypedTable final : public Table {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    TypedTable(const G& game, const Position& start) : game_(game), positions_{start} {}

    std::string position() const override { return game_.position_text(now()); }
    std::string drawing() const override { return drawing_of(game_, now()); }
    Player player_to_move() const override { return game_.player_to_move(now()); }

    std::optional<Ending> ending() const override {
        const auto outcome = outcome_with_history(game_, positions_);
        if (!outcome) return std::nullopt;
        return ending_of(*outcome, player_names(game_));
    }

    std::vector<std::string> legal_moves() const override {
        std::vector<std::string> texts;
        if (ending()) return texts;
        for (const Move& move : arvek::legal_moves(game_, now())) texts.push_back(game_.move_text(now(), move));
        return texts;
    }

    std::vector<std::string> moves_played() const override { return line_texts(game_, positions_.front(), moves_); }

    void play(std::string_view text) override {
        if (ending()) throw InputError("move", "the game is over, so nobody may move");
        const Move move = move_from_text(game_, now(), text);
        Position after = now();
        game_.play(after, move);
        positions_.push_back(std::move(after));
        moves_.push_back(move);
    }

    std::optional<std::string> let_chance_act(Random& random) override {
        if constexpr (ChanceGame<G>) {
            if (ending() || !game_.chance_is_next(now())) return std::nullopt;
            Position after = now();
            const Move event = drawn_event(game_, after, random);
            const std::string text = game_.move_text(after, event);
            game_.play(after, event);
            positions_.push_back(std::move(after));
            moves_.push_back(event);
            return text;
        } else {
            (void)random;
            return std::nullopt;
        }
    }

    bool chance_is_next() const override { return !ending() && arvek::chance_is_next(game_, now()); }

    bool take_back() override {
        if (moves_.empty()) return false;
        positions_.pop_back();
        moves_.pop_back();
        return true;
    }

    DecisionReport decide(const OpponentSpec& spec, std::uint64_t seed, const OpponentMeans& means) const override {
        return report_of(opponent(spec, means)->decide(now(), seed, earlier()), spec);
    }

    void check_opponent(const OpponentSpec& spec) const override {
        (void)make_opponent(game_, spec, {[] { return 0.0; }, {}});
    }

    DecisionReport decide(const OpponentSpec& spec, std::uint64_t seed, const OpponentMeans& means, int plies,
                          std::size_t nodes, TreePicture& picture) const override {
        SearchedTree<Move> tree(plies);
        const auto opponent = this->opponent(spec, means);
        opponent->watch(&tree);
        const Decision<Move> decision = opponent->decide(now(), seed, earlier());
        opponent->watch(nullptr);
        picture = tree_picture(game_, now(), tree, decision, nodes);
        return report_of(decision, spec);
    }

    std::vector<SequenceCount> count(int depth, bool with_table) const override {
        if (!with_table) return count_sequences(game_, now(), depth);
        if constexpr (HashedGame<G>)
            return count_sequences_with_table(game_, now(), depth);
        else
            throw InputError("--table", "the game has no hash, by which positions are recognised", "no --table");
    }

    SolutionReport solve(const SolveOptions& options) const override {
        if constexpr (ChanceGame<G>) {
            (void)options;
            throw InputError("solve", "this is a game of chance, and only games without chance are solved",
                             "another game");
        } else if constexpr (HashedGame<G>) {
            const Solution<Move> solution = Solver<G>(game_, options).solve(now());
            SolutionReport report;
            report.complete = solution.complete;
            report.least = solution.least;
            report.most = solution.most;
            report.plies = solution.plies;
            for (const auto& solved : solution.moves)
                report.moves.push_back({game_.move_text(now(), solved.move), solved.value, solved.kind, solved.plies});
            report.method = solution.method;
            report.stopped_by = solution.stopped_by;
            report.counters = solution.counters;
            report.seconds = solution.seconds;
            report.drawing = drawing();
            report.to_move = player_name_of(game_, player_to_move());
            return report;
        } else {
            (void)options;
            throw InputError("solve", "the game has no hash, by which positions are recognised",
                             "std::uint64_t hash(const Position&) const");
        }
    }

    MatchResult match(const OpponentSpec& a, const OpponentSpec& b, const MatchOptions& options,
                      const std::vector<std::vector<std::string>>& openings,
                      const std::function<void(const GameRecord&)>& seen) const override {
        const OpponentMeans means{options.clock, options.stop};
        MatchStart<G> start{now(), {}};
        for (const auto& texts : openings) start.openings.push_back(moves_of(texts));
        const auto make = [&](const OpponentSpec& spec) { return [&] { return make_opponent(game_, spec, means); }; };
        return play_match_in_threads(game_, make(a), make(b), options, start, [&](const PlayedGame<G>& played) {
            if (!seen) return;
            GameRecord record;
            const bool a_first = played.player_a == Player::First;
            record.first = opponent_text(a_first ? a : b);
            record.second = opponent_text(a_first ? b : a);
            record.moves = line_texts(game_, now(), played.moves);
            record.end_drawing = drawing_of(game_, played.end);
            record.result = played.outcome ? ending_of(*played.outcome, player_names(game_)).text() : "cut off";
            record.counted = played.result;
            seen(record);
        });
    }

   private:
    /// An opponent of a profile is kept between decisions, as it may remember what it did.
    std::shared_ptr<Opponent<G>> opponent(const OpponentSpec& spec, const OpponentMeans& means) const {
        if (!spec.profile) return make_opponent(game_, spec, means);
        if (!kept_ || spec.profile != kept_spec_.profile || spec.level != kept_spec_.level) {
            kept_ = make_opponent(game_, spec, means);
            kept_spec_ = spec;
        }
        return kept_;
    }

    const Position& now() const { return positions_.back(); }
    std::span<const Position> earlier() const { return {positions_.data(), positions_.size() - 1}; }

    /// The moves of an opening. Events of chance are drawn, not named, so none may come in between.
    std::vector<Move> moves_of(const std::vector<std::string>& texts) const {
        std::vector<Move> moves;
        Position position = now();
        for (const std::string& text : texts) {
            if (game_.outcome(position) || arvek::chance_is_next(game_, position))
                throw InputError(
                    "openings",
                    "'" + text + "' comes where " + (game_.outcome(position) ? "the game is over" : "chance is next"),
                    "moves while a player is to move");
            moves.push_back(move_from_text(game_, position, text));
            game_.play(position, moves.back());
        }
        if (game_.outcome(position))
            throw InputError("openings", "the game is over after an opening", "an opening after which it goes on");
        return moves;
    }

    DecisionReport report_of(const Decision<Move>& decision, const OpponentSpec& spec) const {
        DecisionReport report;
        report.opponent = spec.name;
        report.title = opponent_title(spec);
        report.level = spec.level;
        report.position = position();
        report.drawing = drawing();
        report.to_move = player_name_of(game_, player_to_move());
        report.move = game_.move_text(now(), decision.move);
        for (const auto& entry : decision.ranked)
            report.ranked.push_back({game_.move_text(now(), entry.move), entry.score, entry.kind,
                                     line_texts(game_, now(), entry.line), entry.reasons, entry.worth});
        report.rank = decision.rank;
        report.has_worths = decision.has_worths;
        report.chosen_by = decision.chosen_by;
        report.stats = decision.stats;
        report.has_scores = decision.has_scores;
        report.rules = decision.rules;
        for (const Move& move : decision.overlooked) report.overlooked.push_back(game_.move_text(now(), move));
        return report;
    }

    G game_;
    std::vector<Position> positions_;
    std::vector<Move> moves_;
    mutable std::shared_ptr<Opponent<G>> kept_;
    mutable OpponentSpec kept_spec_;
};

template <TextGame G>
class TypedHandle final : public GameHandle {
   public:
    TypedHandle(G game, std::vector<Setting> settings) : game_(std::move(game)), settings_(std::move(settings)) {}

    std::vector<Setting> settings() const override { return settings_; }
    std::string player_name(Player player) const override { return player_name_of(game_, player); }
    bool has_chance() const override { return ChanceGame<G>; }
    std::unique_ptr<Table> initial_table() const override {
        return std::make_unique<TypedTable<G>>(game_, game_.initial_position());
    }
    CheckReport check(const CheckOptions& options) const override { return check_rules(game_, options); }
    std::unique_ptr<Table> table_at(std::string_view position) const override {
        return std::make_unique<TypedTable<G>>(game_, game_.read_position(position));
    }

   private:
    G game_;
    std::vector<Setting> settings_;
};

}  // namespace arvek::tool::detail
