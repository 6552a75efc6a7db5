// An opponent at a level: a chooser asked for all that it sees, and then what the level takes from it.

#include "levelled.hpp"

#include <algorithm>
#include <optional>
#include <string>
#include <utility>

#include "arvek/game/random.hpp"
#include "arvek/rules/rule_list.hpp"

namespace arvek::detail {

namespace {

/// What `player` gets if the move ends the game; nothing where it does not.
std::optional<Payoff> payoff_at_once(const AnyGame& game, AnyPosition position, const AnyMove& move, Player player) {
    game.play(position, move);
    if (const auto outcome = game.outcome(position)) return outcome->payoff(player);
    return std::nullopt;
}

bool wins_in_one(const AnyGame& game, const AnyPosition& position, const AnyMove& move, Player player) {
    return payoff_at_once(game, position, move, player).value_or(0) > 0;
}

/// Whether the move loses at once, or lets a rival who is next win at once.
bool loses_in_one(const AnyGame& game, AnyPosition position, const AnyMove& move, Player player) {
    game.play(position, move);
    if (const auto outcome = game.outcome(position)) return outcome->payoff(player) < 0;
    if (chance_is_next(game, position)) return false;
    if (game.player_to_move(position) == player) return false;
    const auto replies = legal_moves(game, position);
    return std::any_of(replies.begin(), replies.end(), [&](const auto& reply) {
        const auto payoff = payoff_at_once(game, position, reply, player);
        return payoff && *payoff < 0;
    });
}

/// Whether a share `overlooks` of moves, to which this one belongs, is out of sight after `ply` plies of the game. Each
/// move stays as it is for a while; not all change at once.
bool is_overlooked(std::uint64_t seed, std::uint64_t key, std::size_t ply, double overlooks) {
    constexpr std::size_t plies_alike = 8;
    const std::uint64_t own = derived_seed(seed, key);
    const std::uint64_t period = (ply + own % plies_alike) / plies_alike;
    return Random(derived_seed(own, period)).chance(overlooks);
}

class LevelledOpponent final : public Opponent<AnyGame> {
   public:
    LevelledOpponent(const AnyGame& game, bool looks_ahead, const LevelSettings& level,
                     std::unique_ptr<Chooser<AnyGame>> chooser)
        : game_(game), looks_ahead_(looks_ahead), level_(level), chooser_(std::move(chooser)) {}

    Decision<AnyMove> decide(const AnyView& seen, std::uint64_t seed, std::span<const AnyView> earlier_seen,
                             StopToken stop) override {
        const AnyPosition position = stand_in(game_, seen);
        const std::size_t moves = moves_to_choose_from(game_, position).size();  // says so where nothing is to decide
        const std::span<const AnyPosition> earlier = stand_ins(earlier_seen);
        Limits limits = level_.limits;
        limits.stop = stop;
        if (level_.playouts_by_moves && limits.playouts) {
            // A playout with dice in it tells less.
            const std::size_t luck = has_chance(game_) && !has_views(game_) ? 4 : 1;
            limits.playouts = *limits.playouts * luck * std::max<std::size_t>(moves, 10) / 10;
        }
        SearchRequest<AnyMove> request;
        request.seed = derived_seed(derived_seed(seed, 2), earlier.size());
        request.game_seed = seed;
        request.margins = level_.margins;
        request.tree = watched_;
        if (looks_ahead_ && level_.weakens()) request.ranking = Ranking::All;
        Random cares(derived_seed(request.seed, 4));
        sees_wins_ = cares.chance(level_.sees_wins);
        sees_losses_ = cares.chance(level_.sees_losses);
        const Choice<AnyGame> now{position, earlier, limits, request, has_views(game_) ? &seen : nullptr};
        Decision<AnyMove> decision = chooser_->choose(now);
        if (decision.ranked.size() > 1) {
            if (level_.weakens()) overlook(decision, position, seed, earlier.size());
            if (!decision.has_scores && !decision.has_worths) {
                if (!decision.overlooked.empty()) ask_again(decision, now, request);
            } else if (level_.weakens()) {
                pick(decision, derived_seed(request.seed, 1));
            }
            if (decision.has_scores && level_.weakens()) keep_from_going_round(decision, now);
            if (can_be_won_at_once()) keep_from_the_worst(decision, position);
        }
        chooser_->remember(now, decision);
        return decision;
    }

   private:
    /// Where all is in sight and somebody else could win instead. For one player the end is no win.
    bool can_be_won_at_once() const { return !has_views(game_) && players_of(game_) > 1; }

    std::span<const AnyPosition> stand_ins(std::span<const AnyView> seen) {
        std::size_t alike = 0;
        while (alike < seen_.size() && alike < seen.size() && seen_[alike] == seen[alike]) ++alike;
        seen_.resize(alike);
        stand_ins_.resize(alike);
        for (; alike < seen.size(); ++alike) {
            seen_.push_back(seen[alike]);
            stand_ins_.push_back(stand_in(game_, seen[alike]));
        }
        return stand_ins_;
    }

    static bool sees(const Decision<AnyMove>& decision, const AnyMove& move) {
        return std::find(decision.overlooked.begin(), decision.overlooked.end(), move) == decision.overlooked.end();
    }

    static void play(Decision<AnyMove>& decision, const AnyMove& move) {
        decision.move = move;
        const auto at = std::find_if(decision.ranked.begin(), decision.ranked.end(),
                                     [&](const auto& entry) { return entry.move == move; });
        decision.rank = static_cast<int>(at - decision.ranked.begin()) + 1;
    }

    void overlook(Decision<AnyMove>& decision, const AnyPosition& position, std::uint64_t seed, std::size_t ply) const {
        if (level_.overlooks <= 0) return;
        const Player player = game_.player_to_move(position);
        const std::uint64_t own = derived_seed(derived_seed(seed, 1), index_of(player));
        std::size_t kept = decision.ranked.size();  // the one move that is seen where none is
        std::uint64_t least = 0;
        for (std::size_t i = 0; i < decision.ranked.size(); ++i) {
            const AnyMove& move = decision.ranked[i].move;
            const std::uint64_t key = game_.move_key(position, move, i);
            const std::uint64_t lot = derived_seed(key ^ own, ply);
            if (kept == decision.ranked.size() || lot < least) {
                kept = i;
                least = lot;
            }
            if (!is_overlooked(own, key, ply, level_.overlooks)) continue;
            if (sees_wins_ && can_be_won_at_once() && wins_in_one(game_, position, move, player)) continue;
            decision.overlooked.push_back(move);
        }
        if (decision.overlooked.size() == decision.ranked.size())
            decision.overlooked.erase(decision.overlooked.begin() + static_cast<std::ptrdiff_t>(kept));
    }

    /// The chooser once more, with only the moves that are seen; the ranking stays what it says of all.
    void ask_again(Decision<AnyMove>& decision, const Choice<AnyGame>& now, SearchRequest<AnyMove> request) {
        std::vector<AnyMove> seen;
        for (const auto& entry : decision.ranked)
            if (sees(decision, entry.move)) seen.push_back(entry.move);
        request.only = seen;
        request.tree = nullptr;
        Decision<AnyMove> again = chooser_->choose({now.position, now.earlier, now.limits, request, now.view});
        decision.rules = std::move(again.rules);
        decision.state = std::move(again.state);
        decision.state_before = std::move(again.state_before);
        decision.chosen_by = std::move(again.chosen_by);
        decision.stats.nodes += again.stats.nodes;
        play(decision, again.move);
    }

    /// A move that is seen, by worth and noise.
    void pick(Decision<AnyMove>& decision, std::uint64_t seed) const {
        std::vector<double> worths;
        if (decision.has_scores) {
            std::vector<Score> scores;
            for (const auto& entry : decision.ranked) scores.push_back(entry.score);
            worths = worths_of(scores);
            // By playouts a move that was tried twice and was lucky is not better than one that was tried a thousand times.
            for (std::size_t i = 1; decision.has_visits && i < worths.size(); ++i)
                worths[i] = std::min(worths[i], worths[i - 1]);
        } else {
            for (const auto& entry : decision.ranked) worths.push_back(entry.worth);
        }
        for (const std::size_t i : noisy_order(worths, level_, seed))
            if (sees(decision, decision.ranked[i].move)) {
                const bool other = decision.move != decision.ranked[i].move;
                play(decision, decision.ranked[i].move);
                if (other && !decision.chosen_by.empty()) decision.chosen_by = decision.ranked[i].reason;
                return;
            }
    }

    /// Where positions repeat: what was overlooked, or noise, must not have it go back and forth without end. A move
    /// that only repeats a position of the game gives way to the best that does not, unless that is surely lost.
    void keep_from_going_round(Decision<AnyMove>& decision, const Choice<AnyGame>& now) const {
        if (draw_at_occurrence_of(game_) == 0) return;
        const auto repeats = [&](const AnyMove& move) {
            AnyPosition after = now.position;
            game_.play(after, move);
            return after == now.position ||
                   std::find(now.earlier.begin(), now.earlier.end(), after) != now.earlier.end();
        };
        if (!repeats(decision.move)) return;
        for (const bool seen : {true, false})
            for (const auto& entry : decision.ranked)
                if (sees(decision, entry.move) == seen && !entry.score.is_proven_loss() && !repeats(entry.move)) {
                    insist(decision, AnyMove(entry.move), "the move chosen first would only repeat a position");
                    return;
                }
    }

    /// What no level from a certain one on does, of the move that is played: pass by a win in one, or let the rival
    /// have one. A search from which the level took nothing away knows better.
    void keep_from_the_worst(Decision<AnyMove>& decision, const AnyPosition& position) const {
        const Player player = game_.player_to_move(position);
        const bool searched = decision.has_scores && !level_.weakens();
        if (sees_wins_ && !wins_in_one(game_, position, decision.move, player)) {
            const AnyMove* best = nullptr;
            Payoff most = 0;
            for (const auto& entry : decision.ranked) {
                const Payoff payoff = payoff_at_once(game_, position, entry.move, player).value_or(0);
                if (payoff <= most) continue;
                most = payoff;
                best = &entry.move;
            }
            const auto& played = decision.ranked[static_cast<std::size_t>(decision.rank - 1)];
            const bool larger_is_proven = searched && level_.margins && played.kind == ScoreKind::Exact &&
                                          played.score.is_proven_win() && played.score.payoff() > most;
            if (best != nullptr && !larger_is_proven) {
                insist(decision, AnyMove(*best), "it wins at once");
                return;
            }
        }
        if (sees_losses_ && !(searched && decision.stats.depth >= 2) &&
            loses_in_one(game_, position, decision.move, player)) {
            // The next that does not: the best that is seen, or else the best that is not.
            for (const bool seen : {true, false})
                for (const auto& entry : decision.ranked)
                    if (sees(decision, entry.move) == seen && !loses_in_one(game_, position, entry.move, player)) {
                        insist(decision, AnyMove(entry.move), "the move chosen first would lose at once");
                        return;
                    }
        }
    }

    static void insist(Decision<AnyMove>& decision, const AnyMove& move, const char* why) {
        if (move == decision.move) return;
        std::erase(decision.overlooked, move);
        play(decision, move);
        decision.chosen_by = "a level's care";
        decision.state = decision.state_before;
        decision.rules.push_back({decision.chosen_by, true, why, RuleKind::Care});
    }

    AnyGame game_;
    bool looks_ahead_;
    LevelSettings level_;
    std::unique_ptr<Chooser<AnyGame>> chooser_;
    bool sees_wins_ = true, sees_losses_ = true;  ///< in the decision that is being taken
    std::vector<AnyView> seen_;                   ///< of the game so far, and what stands for it
    std::vector<AnyPosition> stand_ins_;
};

/// Plays from its book where that has the position, and else asks another opponent.
class BookOpponent final : public Opponent<AnyGame> {
   public:
    BookOpponent(const AnyGame& game, std::vector<BookLine> book, std::unique_ptr<Opponent<AnyGame>> other)
        : book_(std::move(book)), other_(std::move(other)) {
        for (const BookLine& line : book_)
            seen_.push_back(game.view(line.position, game.player_to_move(line.position)));
    }

    Decision<AnyMove> decide(const AnyView& seen, std::uint64_t seed, std::span<const AnyView> earlier,
                             StopToken stop) override {
        const auto known = std::find(seen_.begin(), seen_.end(), seen);
        if (known == seen_.end()) {
            other_->watch(watched_);
            return other_->decide(seen, seed, earlier, stop);
        }
        const auto line = book_.begin() + (known - seen_.begin());
        Decision<AnyMove> decision;
        std::vector<double> weights;
        double sum = 0;
        for (const auto& [move, weight] : line->replies) {
            weights.push_back(weight);
            sum += weight;
            auto& entry = decision.ranked.emplace_back();
            entry.move = move;
            entry.line = {move};
            entry.reasons = {"in the book, weight " + number_text(weight)};
        }
        const double drawn = Random(derived_seed(derived_seed(seed, 3), earlier.size())).unit() * sum;
        std::swap(decision.ranked.front(), decision.ranked[weighted_draw(weights, drawn)]);
        decision.move = decision.ranked.front().move;
        decision.chosen_by = "opening book";
        decision.rules.push_back({decision.chosen_by, true, "the position is in it; drawn by weight", RuleKind::Book});
        decision.stats.stopped_by = StoppedBy::Rule;
        return decision;
    }

   private:
    std::vector<BookLine> book_;
    std::vector<AnyView> seen_;  ///< of each of its positions
    std::unique_ptr<Opponent<AnyGame>> other_;
};

}  // namespace

std::unique_ptr<Opponent<AnyGame>> levelled_opponent(const AnyGame& game, bool looks_ahead, const LevelSettings& level,
                                                     std::unique_ptr<Chooser<AnyGame>> chooser) {
    return std::make_unique<LevelledOpponent>(game, looks_ahead, level, std::move(chooser));
}

std::unique_ptr<Opponent<AnyGame>> book_opponent(const AnyGame& game, std::vector<BookLine> book,
                                                 std::unique_ptr<Opponent<AnyGame>> other) {
    return std::make_unique<BookOpponent>(game, std::move(book), std::move(other));
}

}  // namespace arvek::detail
