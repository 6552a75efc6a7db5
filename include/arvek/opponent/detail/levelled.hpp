#pragma once
// An opponent at a level: a chooser asked for all that it sees, and then what the level takes from it.

#include <algorithm>
#include <memory>
#include <optional>
#include <span>
#include <string_view>
#include <type_traits>
#include <utility>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/text.hpp"
#include "arvek/opponent/base.hpp"
#include "arvek/opponent/level.hpp"
#include "arvek/search/request.hpp"

namespace arvek::detail {

/// What `player` gets if the move ends the game; nothing where it does not.
template <Game G>
std::optional<Payoff> payoff_at_once(const G& game, typename G::Position position, const typename G::Move& move,
                                     Player player) {
    game.play(position, move);
    if (const auto outcome = game.outcome(position)) return outcome->payoff(player);
    return std::nullopt;
}

/// Whether the move loses at once, or lets a rival who is next win at once.
template <Game G>
bool loses_in_one(const G& game, typename G::Position position, const typename G::Move& move, Player player) {
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

/// A number that is the same for the same move in every position, as far as the game lets one tell.
template <Game G>
std::uint64_t move_key(const G& game, const typename G::Position& position, const typename G::Move& move,
                       std::size_t place) {
    using Move = typename G::Move;
    std::string_view bytes;
    std::string text;
    if constexpr (TextGame<G>) {
        text = game.move_text(position, move);
        bytes = text;
    } else if constexpr (std::is_trivially_copyable_v<Move> && std::has_unique_object_representations_v<Move>) {
        bytes = {reinterpret_cast<const char*>(&move), sizeof(Move)};
    } else {
        return mix_bits(place);
    }
    return hash_of_text(bytes);
}

/// Whether a share `overlooks` of moves, to which this one belongs, is out of sight after `ply` plies of the game. Each
/// move stays as it is for a while; not all change at once.
inline bool is_overlooked(std::uint64_t seed, std::uint64_t key, std::size_t ply, double overlooks) {
    constexpr std::size_t plies_alike = 8;
    const std::uint64_t own = derived_seed(seed, key);
    const std::uint64_t period = (ply + own % plies_alike) / plies_alike;
    return Random(derived_seed(own, period)).chance(overlooks);
}

/// What an opponent chooses by, before its level takes anything from it.
template <Game G>
class Chooser {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    virtual ~Chooser() = default;

    virtual Decision<Move> choose(const Position& position, const Limits& limits, const SearchRequest<Move>& request,
                                  std::span<const Position> earlier) = 0;
    /// Is told what came of it.
    virtual void remember(const Position&, std::span<const Position>, const Decision<Move>&) {}
};

template <Game G>
class LevelledOpponent final : public Opponent<G> {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    LevelledOpponent(const G& game, ChooserKind kind, const LevelSettings& level, std::unique_ptr<Chooser<G>> chooser)
        : game_(game), kind_(kind), level_(level), chooser_(std::move(chooser)) {}

    Decision<Move> decide(const Position& position, std::uint64_t seed, std::span<const Position> earlier) override {
        SearchRequest<Move> request;
        request.seed = derived_seed(derived_seed(seed, 2), earlier.size());
        request.margins = level_.margins;
        request.tree = this->watched_;
        if (kind_ == ChooserKind::Search && level_.weakens()) request.ranking = Ranking::All;
        Decision<Move> decision = chooser_->choose(position, level_.limits, request, earlier);
        if (decision.ranked.size() > 1) {
            if (level_.weakens()) overlook(decision, position, seed, earlier.size());
            const bool overlooked = !decision.overlooked.empty();
            if (kind_ == ChooserKind::Rules) {
                if (overlooked) ask_again(decision, position, request, earlier);
            } else if (level_.weakens()) {
                pick(decision, position, derived_seed(request.seed, 1));
            }
            keep_from_the_worst(decision, position);
        }
        chooser_->remember(position, earlier, decision);
        return decision;
    }

   private:
    bool sees(const Decision<Move>& decision, const Move& move) const {
        return std::find(decision.overlooked.begin(), decision.overlooked.end(), move) == decision.overlooked.end();
    }

    void play(Decision<Move>& decision, const Move& move) const {
        decision.move = move;
        const auto at = std::find_if(decision.ranked.begin(), decision.ranked.end(),
                                     [&](const auto& entry) { return entry.move == move; });
        decision.rank = static_cast<int>(at - decision.ranked.begin()) + 1;
    }

    void overlook(Decision<Move>& decision, const Position& position, std::uint64_t seed, std::size_t ply) const {
        if (level_.overlooks <= 0) return;
        const Player player = game_.player_to_move(position);
        const std::uint64_t own = derived_seed(derived_seed(seed, 1), index_of(player));
        std::size_t kept = decision.ranked.size();  // the one move that is seen where none is
        std::uint64_t least = 0;
        for (std::size_t i = 0; i < decision.ranked.size(); ++i) {
            const Move& move = decision.ranked[i].move;
            const std::uint64_t key = move_key(game_, position, move, i);
            const std::uint64_t lot = derived_seed(key ^ own, ply);
            if (kept == decision.ranked.size() || lot < least) {
                kept = i;
                least = lot;
            }
            if (!is_overlooked(own, key, ply, level_.overlooks)) continue;
            if (level_.sees_wins && payoff_at_once(game_, position, move, player).value_or(0) > 0) continue;
            decision.overlooked.push_back(move);
        }
        if (decision.overlooked.size() == decision.ranked.size())
            decision.overlooked.erase(decision.overlooked.begin() + static_cast<std::ptrdiff_t>(kept));
    }

    /// The rules once more, with only the moves that are seen; the ranking stays what they say of all.
    void ask_again(Decision<Move>& decision, const Position& position, SearchRequest<Move>& request,
                   std::span<const Position> earlier) {
        std::vector<Move> seen;
        for (const auto& entry : decision.ranked)
            if (sees(decision, entry.move)) seen.push_back(entry.move);
        request.only = seen;
        Decision<Move> again = chooser_->choose(position, level_.limits, request, earlier);
        decision.rules = std::move(again.rules);
        decision.chosen_by = std::move(again.chosen_by);
        decision.stats.nodes += again.stats.nodes;
        play(decision, again.move);
    }

    /// A move that is seen, by worth and noise.
    void pick(Decision<Move>& decision, const Position&, std::uint64_t seed) const {
        std::vector<double> worths;
        if (decision.has_scores) {
            std::vector<Score> scores;
            for (const auto& entry : decision.ranked) scores.push_back(entry.score);
            worths = worths_of(scores);
            if (level_.sees_wins && scores.front().is_proven_win() && scores.front().plies() <= 1) return;
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

    /// What no level from a certain one on does: pass by a win in one, or let the rival have one.
    void keep_from_the_worst(Decision<Move>& decision, const Position& position) const {
        const Player player = game_.player_to_move(position);
        const bool looked = decision.has_scores && decision.stats.depth >= 1;
        if (level_.sees_wins && !looked) {
            const Move* best = nullptr;
            Payoff most = 0;
            for (const auto& entry : decision.ranked) {
                const Payoff payoff = payoff_at_once(game_, position, entry.move, player).value_or(0);
                if (payoff > most || (payoff > 0 && payoff == most && entry.move == decision.move)) {
                    most = payoff;
                    best = &entry.move;
                }
            }
            if (best != nullptr) {
                insist(decision, *best, "it wins at once");
                return;
            }
        }
        if (level_.sees_losses && !(looked && decision.stats.depth >= 2 && decision.rank == 1) &&
            loses_in_one(game_, position, decision.move, player)) {
            // The next that does not: the best that is seen, or else the best that is not.
            for (const bool seen : {true, false})
                for (const auto& entry : decision.ranked)
                    if (sees(decision, entry.move) == seen && !loses_in_one(game_, position, entry.move, player)) {
                        insist(decision, entry.move, "the move chosen first would lose at once");
                        return;
                    }
        }
    }

    void insist(Decision<Move>& decision, const Move move, const char* why) const {
        if (move == decision.move) return;
        std::erase(decision.overlooked, move);
        play(decision, move);
        decision.chosen_by = "a level's care";
        decision.rules.push_back({decision.chosen_by, true, why});
    }

    G game_;
    ChooserKind kind_;
    LevelSettings level_;
    std::unique_ptr<Chooser<G>> chooser_;
};

template <Game G>
std::unique_ptr<Opponent<G>> levelled(const G& game, ChooserKind kind, const LevelSettings& level,
                                      std::unique_ptr<Chooser<G>> chooser) {
    return std::make_unique<LevelledOpponent<G>>(game, kind, level, std::move(chooser));
}

}  // namespace arvek::detail
