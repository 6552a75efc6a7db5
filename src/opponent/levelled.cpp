// An opponent at a level: a chooser asked for all that it sees, and then what the level takes from it.

#include "levelled.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <numeric>
#include <optional>
#include <string>
#include <unordered_map>
#include <utility>

#include "arvek/game/places_in_order.hpp"
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

/// What can happen at once, as far as the player can see: in every world that may lie behind a view, whatever the dice
/// show.
class AtOnce {
   public:
    AtOnce(const AnyGame& game, const AnyPosition& position, const AnyView* view, Player player, bool margins)
        : game_(game), player_(player), margins_(margins) {
        worlds_.push_back(position);
        if (view == nullptr) return;
        Random random(2);
        while (worlds_.size() < most_worlds) worlds_.push_back(game.sample(*view, random));
    }

    /// What the move wins at once, for sure; 0 where it does not. For one player alone an end is a win only where the
    /// game pays no more, or where nothing but winning counts.
    Payoff win(const AnyMove& move) const {
        Payoff least = largest_payoff;
        for (const AnyPosition& world : worlds_) {
            least = std::min(least, win_in(world, move));
            if (least <= 0) return 0;
        }
        return least;
    }
    /// With what chance the move loses at once, or lets the one who is next win at once.
    double loss(const AnyMove& move) const {
        double sum = 0;
        for (const AnyPosition& world : worlds_) {
            AnyPosition after = world;
            game_.play(after, move);
            sum += loss_at(after, 2);
        }
        return sum / static_cast<double>(worlds_.size());
    }
    bool loses_surely(const AnyMove& move) const { return loss(move) > 1 - 1e-9; }

   private:
    static constexpr std::size_t most_worlds = 16, most_events = 64;

    Payoff counted(const Outcome& outcome) const {
        const Payoff payoff = outcome.payoff(player_);
        if (players_of(game_) > 1 || !margins_ || payoff >= most_payoff_of(game_)) return std::max(payoff, 0);
        return 0;
    }
    Payoff win_in(const AnyPosition& world, const AnyMove& move) const {
        AnyPosition after = world;
        game_.play(after, move);
        if (const auto outcome = game_.outcome(after)) return counted(*outcome);
        if (!chance_is_next(game_, after) || !lists_events(game_)) return 0;
        Payoff least = largest_payoff;
        MoveList<Event<AnyMove>> events;
        list_events(game_, after, events);
        for (const auto& event : events) {
            AnyPosition end = after;
            game_.play(end, event.move);
            const auto outcome = game_.outcome(end);
            least = std::min(least, outcome ? counted(*outcome) : 0);
            if (least <= 0) return 0;
        }
        return least;
    }
    /// `dice`: through how many events that follow each other it looks.
    double loss_at(const AnyPosition& position, int dice) const {
        if (const auto outcome = game_.outcome(position)) return outcome->payoff(player_) < 0 ? 1 : 0;
        if (chance_is_next(game_, position)) return dice > 0 ? loss_by_luck(position, dice - 1) : 0;
        if (game_.player_to_move(position) == player_) return 0;
        const auto replies = legal_moves(game_, position);
        const bool loses = std::any_of(replies.begin(), replies.end(), [&](const auto& reply) {
            const auto payoff = payoff_at_once(game_, position, reply, player_);
            return payoff && *payoff < 0;
        });
        return loses ? 1 : 0;
    }
    double loss_by_luck(const AnyPosition& position, int dice) const {
        MoveList<Event<AnyMove>> events;
        if (lists_events(game_)) list_events(game_, position, events);
        double sum = 0, total = 0;
        const auto add = [&](const AnyMove& event, double weight) {
            AnyPosition after = position;
            game_.play(after, event);
            sum += weight * loss_at(after, dice);
            total += weight;
        };
        if (!events.empty() && events.size() <= most_events) {
            for (const auto& event : events) add(event.move, event.probability);
        } else {
            Random random(3);
            for (std::size_t i = 0; i < most_events; ++i) add(drawn_event(game_, position, random), 1);
        }
        return total > 0 ? sum / total : 0;
    }

    const AnyGame& game_;
    Player player_;
    bool margins_;
    std::vector<AnyPosition> worlds_;
};

/// Whether a move, which is overlooked with that chance, is out of sight after `ply` plies of the game. It stays as it is
/// for a while, as long as it stands out as far; not all moves change at once.
bool is_overlooked(std::uint64_t seed, std::uint64_t key, std::size_t ply, double chance, double salience) {
    constexpr std::size_t plies_alike = 6;
    const std::uint64_t own = derived_seed(seed, key);
    const std::uint64_t period = (ply + own % plies_alike) / plies_alike;
    const auto matter = static_cast<std::uint64_t>(salience * 4);
    return Random(derived_seed(derived_seed(own, period), matter)).chance(chance);
}

class LevelledOpponent final : public Opponent<AnyGame> {
   public:
    LevelledOpponent(const AnyGame& game, bool looks_ahead, const LevelSettings& level,
                     std::unique_ptr<Chooser<AnyGame>> chooser)
        : game_(game), looks_ahead_(looks_ahead), level_(level), chooser_(std::move(chooser)) {}

    Decision<AnyMove> decide(const AnyView& seen, std::uint64_t seed, std::span<const AnyView> earlier_seen,
                             StopToken stop) override {
        const AnyPosition position = stand_in(game_, seen);
        const double started = level_.limits.clock.seconds_or_0();
        const std::size_t moves = moves_to_choose_from(game_, position).size();  // says so where nothing is to decide
        const std::span<const AnyPosition> earlier = stand_ins(earlier_seen);
        const bool varies = level_.variety > 0 && players_of(game_) > 1 && is_opening(earlier.size());
        // One that sees all moves as they are would look less far if it had to rank them all.
        const bool varies_with_care = varies && looks_ahead_ && !level_.weakens();
        Limits limits = level_.limits;
        limits.stop = stop;
        // Of a limit of time all three get their part, as it must hold for the whole.
        if (varies_with_care && limits.seconds) *limits.seconds /= 1.0 + survey_share + second_look_share;
        if (level_.playouts_by_moves && limits.playouts) {
            // A playout with dice in it tells less.
            const std::size_t luck = has_chance(game_) && !has_views(game_) ? 4 : 1;
            limits.playouts = *limits.playouts * luck * std::clamp<std::size_t>(moves, 10, 300) / 10;
        }
        SearchRequest<AnyMove> request;
        const std::uint64_t of_decision = derived_seed(derived_seed(seed, 2), earlier.size());
        if (limits.depth && level_.deeper > 0 && Random(derived_seed(of_decision, 5)).chance(level_.deeper))
            ++*limits.depth;
        if (limits.depth && is_opening(earlier.size())) *limits.depth += level_.deeper_at_first;
        request.seed = of_decision;
        request.game_seed = seed;
        request.margins = level_.margins;
        request.tree = watched_;
        request.progress = progress_;
        request.only = only_;
        request.ranking = ranking_;
        request.explains = explains_;
        if (looks_ahead_ && level_.weakens()) request.ranking = Ranking::All;
        Random cares(derived_seed(request.seed, 4));
        sees_wins_ = cares.chance(level_.sees_wins);
        sees_losses_ = cares.chance(level_.sees_losses);
        const Choice<AnyGame> now{position, earlier, limits, request, has_views(game_) ? &seen : nullptr};
        Decision<AnyMove> decision = chooser_->choose(now);
        if (decision.ranked.size() > 1) {
            if (level_.weakens()) overlook(decision, now, seed);
            if (!decision.has_scores && !decision.has_worths) {
                if (!decision.overlooked.empty()) ask_again(decision, now, request);
            } else if (level_.weakens()) {
                pick(decision, derived_seed(request.seed, 1));
            }
            if (varies && decision.has_scores && !decision.has_visits && decision.rank == 1) {
                const std::uint64_t seed_of_variety = derived_seed(request.seed, 6);
                if (varies_with_care)
                    vary_with_care(decision, now, request, seed_of_variety);
                else
                    vary(decision, seed_of_variety);
            }
            if (decision.has_scores && level_.weakens()) keep_from_going_round(decision, now);
            keep_from_the_worst(decision, now);
        }
        if (looks_ahead_)
            decision.stats.seconds = std::max(decision.stats.seconds, level_.limits.clock.seconds_or_0() - started);
        chooser_->remember(now, decision);
        return decision;
    }

   private:
    /// What the player who decides can see happen at once.
    AtOnce at_once(const Choice<AnyGame>& now) const {
        return {game_, now.position, now.view, game_.player_to_move(now.position), level_.margins};
    }

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

    /// Whether these are the first plies of a game.
    bool is_opening(std::size_t plies) const { return plies < 4 * static_cast<std::size_t>(players_of(game_)); }

    /// One of the moves that are about as good as the first of `ranking`, drawn by the seed, the better the likelier; of
    /// proven ones, one with the same result. `scale`: by how much less a move may be worth to be drawn e times as rarely.
    static const RankedMove<AnyMove>& drawn_for_a_change(const Decision<AnyMove>& ranking, double scale,
                                                         std::uint64_t seed) {
        const auto& best = ranking.ranked.front();
        constexpr double scales_below_best = 4.0;
        std::vector<double> weights;
        double sum = 0;
        for (const auto& entry : ranking.ranked) {
            const bool comparable = entry.kind == best.kind && entry.score.is_proven() == best.score.is_proven();
            const double lost =
                comparable && !best.score.is_proven() ? best.score.number() - entry.score.number() : 0.0;
            const bool is_alike =
                comparable && sees(ranking, entry.move) &&
                (best.score.is_proven() ? entry.score == best.score : lost <= scales_below_best * scale);
            weights.push_back(!is_alike ? 0.0 : lost > 0 ? std::exp(-lost / scale) : 1.0);
            sum += weights.back();
        }
        return ranking.ranked[weighted_draw(weights, Random(seed).unit() * sum)];
    }

    /// How far the best eighth of the moves, one at least, falls short of the best in the mean, times the variety.
    double scale_of_variety(const Decision<AnyMove>& ranking) const {
        std::vector<double> worths;
        for (const auto& entry : ranking.ranked)
            if (!entry.score.is_proven() && entry.kind == ScoreKind::Exact) worths.push_back(entry.score.number());
        if (worths.size() < 2) return 0.0;
        std::sort(worths.begin(), worths.end(), std::greater<>());
        const std::size_t others = std::max<std::size_t>(1, (worths.size() - 1) / 8);
        const double sum =
            std::accumulate(worths.begin() + 1, worths.begin() + 1 + static_cast<std::ptrdiff_t>(others), 0.0);
        return level_.variety * (worths.front() - sum / static_cast<double>(others));
    }

    static void say_that_it_varies(Decision<AnyMove>& decision) {
        decision.rules.push_back(
            {"variety", true, "about as good as the best, and drawn for a change", RuleKind::TieBreak});
    }

    /// Of a decision that ranks every move.
    void vary(Decision<AnyMove>& decision, std::uint64_t seed) const {
        const AnyMove move = drawn_for_a_change(decision, scale_of_variety(decision), seed).move;
        if (move == decision.move) return;
        play(decision, move);
        if (decision.ranked[static_cast<std::size_t>(decision.rank - 1)].score != decision.ranked.front().score)
            say_that_it_varies(decision);
    }

    /// Of a decision that knows the best move alone: a survey of all moves, less deep, finds another, and a second look
    /// at both decides whether it will do.
    void vary_with_care(Decision<AnyMove>& decision, const Choice<AnyGame>& now, SearchRequest<AnyMove> request,
                        std::uint64_t seed) {
        if (decision.ranked.front().score.is_proven()) return;
        request.tree = nullptr;
        request.progress = nullptr;
        request.ranking = Ranking::All;
        const Limits few = share_of(now.limits, survey_share);
        const Decision<AnyMove> survey = chooser_->choose({now.position, now.earlier, few, request, now.view});
        const double scale = scale_of_variety(survey);
        const AnyMove other = drawn_for_a_change(survey, scale, seed).move;
        if (other == decision.move) return;
        const std::vector<AnyMove> both{decision.move, other};
        request.only = both;
        const Limits part = share_of(now.limits, second_look_share);
        Decision<AnyMove> look = chooser_->choose({now.position, now.earlier, part, request, now.view});
        decision.stats.nodes += survey.stats.nodes + look.stats.nodes;
        decision.stats.seconds += survey.stats.seconds + look.stats.seconds;
        const auto& best = look.ranked.front();
        const auto at_other = std::find_if(look.ranked.begin(), look.ranked.end(),
                                           [&](const auto& entry) { return entry.move == other; });
        if (best.score.is_proven() || at_other->score.is_proven() || at_other->kind != ScoreKind::Exact ||
            best.score.number() - at_other->score.number() >= scale)
            return;
        for (auto& entry : decision.ranked) {
            if (std::find(both.begin(), both.end(), entry.move) != both.end()) continue;
            if (entry.kind != ScoreKind::Exact || !entry.score.is_proven()) entry.kind = ScoreKind::Shallow;
            look.ranked.push_back(std::move(entry));
        }
        decision.ranked = std::move(look.ranked);
        decision.stats.depth = look.stats.depth;
        play(decision, other);
        if (decision.rank > 1) say_that_it_varies(decision);
    }

    /// What a survey and a second look take, as shares of what the decision itself took.
    static constexpr double survey_share = 0.2, second_look_share = 0.8;
    /// What it may take on top to see how far each move stands out.
    static constexpr double salience_share = 0.1;

    static Limits share_of(Limits limits, double share) {
        if (limits.nodes)
            limits.nodes =
                std::max<std::uint64_t>(1, static_cast<std::uint64_t>(share * static_cast<double>(*limits.nodes)));
        if (limits.seconds) *limits.seconds *= share;
        return limits;
    }

    /// How far each of the ranked moves stands out, 0 to 1.
    std::vector<double> saliences(const Decision<AnyMove>& decision, const Choice<AnyGame>& now) const {
        const std::size_t count = decision.ranked.size();
        std::vector<double> found(count, 0.35);
        if (offers(game_, Ability::Salience)) {
            for (std::size_t i = 0; i < count; ++i) {
                const double salience = game_.salience(now.position, decision.ranked[i].move);
                found[i] = salience >= 0 && salience <= 1 ? salience : 0.5;
            }
            return found;
        }
        if (has_views(game_)) return found;
        const Player player = game_.player_to_move(now.position);
        const bool evaluates = offers(game_, Ability::Evaluation);
        const double before = evaluates ? game_.evaluate(now.position, player).number() : 0.0;
        std::vector<double> changes(count);
        double most = 0;
        std::vector<bool> ends(count), loses(count);
        std::size_t losing = 0;
        constexpr std::size_t most_pairs = 4'000;  // of a move and an answer to it
        const bool looks_for_answers = players_of(game_) > 1 && count * count <= most_pairs;
        const AtOnce at_once_here = at_once(now);
        // With a slow evaluation and many moves not all are looked at: what is left stands out as usual.
        const double until = now.limits.seconds ? now.limits.clock.seconds() + salience_share * *now.limits.seconds
                                                : std::numeric_limits<double>::infinity();
        std::size_t looked_at = 0;
        for (; looked_at < count; ++looked_at) {
            if (now.limits.stop.stop_requested() || now.limits.clock.seconds_or_0() > until) break;
            const std::size_t i = looked_at;
            AnyPosition after = now.position;
            game_.play(after, decision.ranked[i].move);
            if (const auto outcome = game_.outcome(after)) {
                ends[i] = outcome->payoff(player) > 0;
                continue;
            }
            if (evaluates && !chance_is_next(game_, after))
                changes[i] = std::abs(game_.evaluate(after, player).number() - before);
            most = std::max(most, changes[i]);
            if (!looks_for_answers) continue;
            loses[i] = at_once_here.loses_surely(decision.ranked[i].move);
            losing += loses[i] ? 1 : 0;
        }
        MoveList<AnyMove> forcing;
        if (offers(game_, Ability::ForcingMoves)) game_.generate_forcing_moves(now.position, forcing);
        const std::vector<AnyMove> before_that = moves_a_turn_ago(now, player);
        PlacesInOrder<AnyMove> known_before(before_that), known_to_force({forcing.begin(), forcing.size()});
        const bool few_answers = losing > 0 && losing < count && 3 * (count - losing) <= count;
        for (std::size_t i = 0; i < looked_at; ++i) {
            const AnyMove& move = decision.ranked[i].move;
            double salience = 0.1 + (most > 0 ? 0.45 * changes[i] / most : 0.2);
            if (known_to_force.has(move)) salience += 0.3;
            if (!before_that.empty() && !known_before.has(move)) salience += 0.15;
            if (few_answers && !loses[i]) salience = std::max(salience, 0.75);
            found[i] = ends[i] ? 1.0 : std::min(salience, 0.95);
        }
        return found;
    }

    /// The legal moves when the player was to move the last time.
    std::vector<AnyMove> moves_a_turn_ago(const Choice<AnyGame>& now, Player player) const {
        for (auto earlier = now.earlier.rbegin(); earlier != now.earlier.rend(); ++earlier) {
            if (chance_is_next(game_, *earlier) || game_.player_to_move(*earlier) != player) continue;
            const auto legal = legal_moves(game_, *earlier);
            return {legal.begin(), legal.end()};
        }
        return {};
    }

    void overlook(Decision<AnyMove>& decision, const Choice<AnyGame>& now, std::uint64_t seed) const {
        if (level_.overlooks <= 0) return;
        const AnyPosition& position = now.position;
        const std::size_t ply = now.earlier.size();
        const Player player = game_.player_to_move(position);
        const std::uint64_t own = derived_seed(derived_seed(seed, 1), index_of(player));
        const std::vector<double> salience = saliences(decision, now);
        const AtOnce at_once_here = at_once(now);
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
            if (!is_overlooked(own, key, ply, level_.overlooks_at(salience[i]), salience[i])) continue;
            if (sees_wins_ && at_once_here.win(move) > 0) continue;
            decision.overlooked.push_back(move);
        }
        if (decision.overlooked.size() == decision.ranked.size())
            decision.overlooked.erase(decision.overlooked.begin() + static_cast<std::ptrdiff_t>(kept));
    }

    /// The chooser once more, with only the moves that are seen; the ranking stays what it says of all.
    void ask_again(Decision<AnyMove>& decision, const Choice<AnyGame>& now, SearchRequest<AnyMove> request) {
        std::vector<AnyMove> seen;
        auto overlooked = decision.overlooked.begin();  // in the order of the ranking
        for (const auto& entry : decision.ranked)
            if (overlooked != decision.overlooked.end() && *overlooked == entry.move)
                ++overlooked;
            else
                seen.push_back(entry.move);
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
            // By playouts a move that was tried twice and was lucky is not better than one that was tried a thousand times,
            // nor is one that a shallower search liked.
            for (std::size_t i = 1; i < worths.size(); ++i)
                if (decision.has_visits || decision.ranked[i].kind == ScoreKind::Shallow)
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
            const auto is_same = [&](const AnyPosition& met) { return is_same_for_repetition(game_, met, after); };
            return is_same(now.position) || std::any_of(now.earlier.begin(), now.earlier.end(), is_same);
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
    /// have one. A search to a depth from which the level took nothing away knows better.
    void keep_from_the_worst(Decision<AnyMove>& decision, const Choice<AnyGame>& now) const {
        if (!sees_wins_ && !sees_losses_) return;
        const AtOnce at_once_here = at_once(now);
        const bool searched = decision.has_scores && !decision.has_visits && !level_.weakens() && now.view == nullptr;
        if (sees_wins_ && at_once_here.win(decision.move) <= 0) {
            const AnyMove* best = nullptr;
            Payoff most = 0;
            for (const auto& entry : decision.ranked) {
                const Payoff payoff = at_once_here.win(entry.move);
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
        if (sees_losses_ && !(searched && decision.stats.depth >= 2) && at_once_here.loses_surely(decision.move)) {
            // The next that does not: the best that is seen, or else the best that is not.
            for (const bool seen : {true, false})
                for (const auto& entry : decision.ranked)
                    if (sees(decision, entry.move) == seen && !at_once_here.loses_surely(entry.move)) {
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
    BookOpponent(const AnyGame& game, std::vector<BookLine> book, std::shared_ptr<OpeningMemory> memory,
                 std::unique_ptr<Opponent<AnyGame>> other)
        : game_(game), book_(std::move(book)), memory_(std::move(memory)), other_(std::move(other)) {
        for (const BookLine& line : book_)
            seen_.push_back(game.view(line.position, game.player_to_move(line.position)));
        if (!has_views(game_) && offers(game_, Ability::Equivalence))
            for (std::size_t i = 0; i < book_.size(); ++i)
                images_.emplace(game_.equivalence_hash(book_[i].position), i);
    }

    Decision<AnyMove> decide(const AnyView& seen, std::uint64_t seed, std::span<const AnyView> earlier,
                             StopToken stop) override {
        const std::optional<BookLine> line = only_.empty() ? line_of(seen) : std::nullopt;
        if (!line) {
            other_->watch(watched_);
            other_->tell(progress_);
            other_->choose_among(only_, ranking_);
            other_->explain(explains_);
            return other_->decide(seen, seed, earlier, stop);
        }
        Decision<AnyMove> decision;
        std::vector<double> weights;
        double sum = 0;
        std::uint64_t least = UINT64_MAX;
        for (const auto& reply : line->replies) least = std::min(least, times_played(*line, reply.first));
        for (const auto& [move, weight] : line->replies) {
            weights.push_back(times_played(*line, move) == least ? weight : 0.0);
            sum += weights.back();
            auto& entry = decision.ranked.emplace_back();
            entry.move = move;
            entry.line = {move};
            entry.reasons = {"in the book, weight " + number_text(weight)};
        }
        const double drawn = Random(derived_seed(derived_seed(seed, 3), earlier.size())).unit() * sum;
        std::swap(decision.ranked.front(), decision.ranked[weighted_draw(weights, drawn)]);
        decision.move = decision.ranked.front().move;
        decision.chosen_by = "opening book";
        decision.rules.push_back({decision.chosen_by, true,
                                  memory_ ? "the position is in it; of what was played least often, drawn by weight"
                                          : "the position is in it; drawn by weight",
                                  RuleKind::Book});
        if (memory_) ++memory_->played[key_of(*line, decision.move)];
        decision.stats.stopped_by = StoppedBy::Rule;
        return decision;
    }

   private:
    /// The line of the position; of a mirror image or the like, with the moves that lead to images of where the book's
    /// replies lead. Nothing where the book has neither.
    std::optional<BookLine> line_of(const AnyView& seen) {
        if (const auto known = std::find(seen_.begin(), seen_.end(), seen); known != seen_.end())
            return book_[static_cast<std::size_t>(known - seen_.begin())];
        if (has_views(game_) || !offers(game_, Ability::Equivalence)) return std::nullopt;
        const AnyPosition position = stand_in(game_, seen);
        const std::uint64_t image = game_.equivalence_hash(position);
        const auto place = images_.find(image);
        if (place == images_.end()) return std::nullopt;
        const BookLine* known = &book_[place->second];
        const auto after = [&](AnyPosition from, const AnyMove& move) {
            game_.play(from, move);
            return game_.equivalence_hash(from);
        };
        BookLine line{position, {}, {}};
        for (const AnyMove& move : legal_moves(game_, position)) {
            const std::uint64_t there = after(position, move);
            for (const auto& [reply, weight] : known->replies)
                if (after(known->position, reply) == there) {
                    line.replies.emplace_back(move, weight);
                    break;
                }
        }
        if (line.replies.empty()) return std::nullopt;
        return line;
    }

    std::string key_of(const BookLine& line, const AnyMove& move) const {
        return game_.position_text(line.position) + " " + game_.move_text(line.position, move);
    }
    std::uint64_t times_played(const BookLine& line, const AnyMove& move) const {
        if (!memory_) return 0;
        const auto known = memory_->played.find(key_of(line, move));
        return known == memory_->played.end() ? 0 : known->second;
    }

    AnyGame game_;
    std::vector<BookLine> book_;
    std::shared_ptr<OpeningMemory> memory_;
    std::vector<AnyView> seen_;                              ///< of each of its positions
    std::unordered_map<std::uint64_t, std::size_t> images_;  ///< the positions by what they share with their images
    std::unique_ptr<Opponent<AnyGame>> other_;
};

}  // namespace

std::unique_ptr<Opponent<AnyGame>> levelled_opponent(const AnyGame& game, bool looks_ahead, const LevelSettings& level,
                                                     std::unique_ptr<Chooser<AnyGame>> chooser) {
    return std::make_unique<LevelledOpponent>(game, looks_ahead, level, std::move(chooser));
}

std::unique_ptr<Opponent<AnyGame>> book_opponent(const AnyGame& game, std::vector<BookLine> book,
                                                 std::shared_ptr<OpeningMemory> memory,
                                                 std::unique_ptr<Opponent<AnyGame>> other) {
    return std::make_unique<BookOpponent>(game, std::move(book), std::move(memory), std::move(other));
}

}  // namespace arvek::detail
