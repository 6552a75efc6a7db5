#pragma once
// Opponents of a game, whatever they choose by.
//
//     auto opponent = arvek::make_opponent(game, arvek::read_opponent("standard@4"));
//     game.play(position, opponent->decide(position, seed).move);
//
// The same position, seed and earlier positions give the same decision (a time limit aside). One object serves one
// thread at a time.

#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/game/earlier_positions.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/opponent/opponent.hpp"
#include "arvek/opponent/person.hpp"
#include "arvek/opponent/registry.hpp"
#include "arvek/opponent/spec.hpp"

namespace arvek {

/// What opening books played in earlier games: how often each reply was given, by "POSITION MOVE".
struct OpeningMemory {
    std::map<std::string, std::uint64_t> played{};  ///< how often, by what it is
};

/// What an opponent may use besides the game.
struct OpponentMeans {
    Clock clock{};  ///< for limits of time and the seconds that a decision reports
    /// Where it is given, an opening book plays what it played least often in the games before, and notes it.
    std::shared_ptr<OpeningMemory> openings{};
    std::optional<PersonStrength> person{};  ///< whom a level that follows one begins with
};

/// The opponent that `spec` describes, of a game whose type is gone. Throws InputError for an unknown name, a level or
/// a limit out of range, limits for a chooser that does not look ahead, options that are wrong, what the game lacks,
/// and names in a profile that the game does not have.
std::unique_ptr<Opponent<AnyGame>> make_opponent(const AnyGame& game, const OpponentSpec& spec,
                                                 const OpponentMeans& means, const ChooserSet& choosers);

/// By how many units of its scores, where it scores by an evaluation, the odds to win double.
double units_of_scores(const AnyGame& game, const OpponentSpec& spec);

/// Everything that is wrong with a profile in a game, a complaint with its place each: names that the game does not have,
/// what the chooser has no use for, and that the game cannot have it.
void find_profile_problems(const AnyGame& game, const Profile& profile, const ChooserSet& choosers,
                           std::vector<std::string>& problems);

/// MiB that the tables or trees of such an opponent may take: its option `memory`; 0 where it has none, or where there is
/// no such opponent.
std::size_t memory_of(const AnyGame& game, const OpponentSpec& spec, const ChooserSet& choosers);

namespace detail {

/// An opponent of AnyGame, seen as one of the game's own type.
template <Game G>
class TypedOpponent final : public Opponent<G> {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    explicit TypedOpponent(std::unique_ptr<Opponent<AnyGame>> opponent) : opponent_(std::move(opponent)) {}

    Decision<Move> decide(const Seen<G>& seen, std::uint64_t seed, std::span<const Seen<G>> earlier,
                          StopToken stop) override {
        const auto known = earlier_.of(
            earlier, [](const AnyView& a, const Seen<G>& b) { return a.get<Seen<G>>() == b; },
            [](const Seen<G>& each) { return AnyView(each); });
        const auto move_of = &own_move<Move>;
        opponent_->explain(this->explains_);
        std::vector<AnyMove> only;
        for (const Move& move : this->only_) only.emplace_back(move);
        opponent_->choose_among(std::move(only), this->ranking_);
        const auto told = [&](const Decision<AnyMove>& so_far) {
            (*this->progress_)(converted_decision<Move>(Decision<AnyMove>(so_far), move_of));
        };
        const Progress<AnyMove> progress(told);
        opponent_->tell(this->progress_ != nullptr ? &progress : nullptr);
        struct EndTelling {
            ~EndTelling() { opponent.tell(nullptr); }
            Opponent<AnyGame>& opponent;
        } const end{*opponent_};
        if (this->watched_ == nullptr)
            return converted_decision<Move>(opponent_->decide(AnyView(seen), seed, known, stop), move_of);
        SearchedTree<AnyMove> tree(this->watched_->plies(), this->watched_->most_nodes());
        opponent_->watch(&tree);
        auto decision = converted_decision<Move>(opponent_->decide(AnyView(seen), seed, known, stop), move_of);
        opponent_->watch(nullptr);
        this->watched_->take_over(tree, move_of);
        return decision;
    }

   private:
    std::unique_ptr<Opponent<AnyGame>> opponent_;
    EarlierPositions<AnyView> earlier_;
};

}  // namespace detail

/// The same for a game of a type of its own, with choosers of the caller's.
template <Game G>
std::unique_ptr<Opponent<G>> make_opponent(const G& game, const OpponentSpec& spec, const OpponentMeans& means,
                                           const Choosers<G>& choosers) {
    return std::make_unique<detail::TypedOpponent<G>>(make_opponent(AnyGame(game), spec, means, choosers.erased()));
}

/// The same with the built-in choosers.
template <class G>
std::unique_ptr<Opponent<G>> make_opponent(const G& game, const OpponentSpec& spec, const OpponentMeans& means = {}) {
    if constexpr (game_is_complete<G>())
        return make_opponent(game, spec, means, Choosers<G>::built_in());
    else
        return nullptr;
}

}  // namespace arvek
