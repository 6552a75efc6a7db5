// What a session does with many games: matches, leagues, judging, books, samples, self-play.

#include <algorithm>
#include <map>
#include <memory>
#include <utility>

#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/session/plain_text.hpp"
#include "arvek/session/session.hpp"
#include "session_texts.hpp"

namespace arvek {

using detail::ending_of;
using detail::line_texts;

std::vector<AnyMove> Session::moves_of(const std::vector<std::string>& texts) const {
    const AnyGame& game = game_.kit.game;
    std::vector<AnyMove> moves;
    AnyPosition at = position();
    for (const std::string& text : texts) {
        if (game.outcome(at) || arvek::chance_is_next(game, at))
            throw InputError(
                "", in_quotes(text) + " comes where " + (game.outcome(at) ? "the game is over" : "chance is next"),
                "moves while a player is to move");
        moves.push_back(move_from_text(game, at, text));
        game.play(at, moves.back());
    }
    if (game.outcome(at))
        throw InputError("", "the game is over after the opening", "an opening after which it goes on");
    return moves;
}

MatchStart<AnyGame> Session::start_with(const std::vector<std::vector<std::string>>& openings) const {
    MatchStart<AnyGame> start{position(), {}};
    for (const auto& texts : openings) {
        try {
            start.openings.push_back(moves_of(texts));
        } catch (const InputError& error) {
            throw OpeningError(start.openings.size(), error.what());
        }
    }
    return start;
}

void Session::check_match(const OpponentSpec& a, const OpponentSpec& b, const MatchOptions& options,
                          const std::vector<std::vector<std::string>>& openings) const {
    check_match_options(options);
    if (options.until_sure && players() > 2)
        throw InputError("--until-sure", "with more than two seats no game is a duel, which the test counts on",
                         "--games N");
    if (ending()) throw InputError("position", "the game is over, so there is nothing to play");
    for (const OpponentSpec* spec : {&a, &b}) check_opponent(*spec);
    (void)start_with(openings);
}

GameRecord Session::record_of(const PlayedGame<AnyGame>& played, const OpponentSpec& a, const OpponentSpec& b) const {
    const AnyGame& game = game_.kit.game;
    const auto names = player_names();
    GameRecord record;
    const bool a_first = played.result.a_first;
    for (std::size_t seat = 0; seat < names.size(); ++seat)
        record.seats.push_back(
            plain_line(opponent_text((names.size() == 1 ? a_first : seat == index_of(played.player_a)) ? a : b)));
    record.first = plain_line(opponent_text(a_first ? a : b));
    record.second = plain_line(opponent_text(a_first ? b : a));
    const GameResult& result = played.result;
    if (result.ended_by == EndedBy::BrokenRules) {
        record.result = "the rules of the game broke: " + plain_line(result.fault);
    } else {
        record.moves = line_texts(game, position(), played.moves);
        record.end_drawing = plain_lines(drawing_of(game, played.end));
        if (result.is_lost_by_fault())
            record.result =
                std::string(result.winner == MatchWinner::A ? "A" : "B") + " wins: " + plain_line(result.fault);
        else
            record.result = played.outcome ? ending_of(*played.outcome, names).text() : "cut off";
        if (result.ended_by == EndedBy::Repetition) record.result += " by repetition";
    }
    record.counted = result;
    record.counted.fault = plain_line(result.fault);
    return record;
}

MatchResult Session::match(const OpponentSpec& a, const OpponentSpec& b, const MatchOptions& options,
                           const std::vector<std::vector<std::string>>& openings,
                           const std::function<void(const GameRecord&)>& seen,
                           const std::function<void(const GameLog&)>& log) const {
    const AnyGame& game = game_.kit.game;
    const OpponentMeans means{options.clock, {}};
    MatchOptions own = options;
    own.keeps_decisions = log != nullptr;
    const MatchStart<AnyGame> start = start_with(openings);
    const auto make = [&](const OpponentSpec& spec) {
        return [&]() -> std::shared_ptr<Opponent<AnyGame>> {
            return make_opponent(game, spec, means, game_.kit.choosers);
        };
    };
    return play_any_match(game, make(a), make(b), own, start, [&](const PlayedGame<AnyGame>& played) {
        if (!seen && !log) return;
        GameRecord record = record_of(played, a, b);
        if (seen) seen(record);
        if (!log) return;
        GameLog whole{std::move(record), {}};
        AnyPosition at = position();
        std::size_t ply = 0;
        for (const auto& [before, decision] : played.decisions) {
            for (; ply < before; ++ply) game.play(at, played.moves[ply]);
            const Player player = game.player_to_move(at);
            const bool of_a = players() == 1 ? played.result.a_first : player == played.player_a;
            whole.decisions.push_back(
                {before, static_cast<int>(index_of(player)), report_at(at, decision, of_a ? a : b)});
        }
        log(whole);
    });
}

namespace {

/// What positions of a game are worth to the player to move, 0 to 1: exactly where it can be solved soon, or as a search sees
/// it.
class GameJudge {
   public:
    GameJudge(const OpenGame& entry, const OpponentSpec& by, const OpponentMeans& means, StopToken stop)
        : game_(entry.kit.game),
          exact_(entry.kit.solver),
          by_(by),
          clock_(means.clock),
          stop_(stop),
          units_(units_of_scores(game_, by)),
          judge_(make_opponent(game_, by, means, entry.kit.choosers)) {
        solves_ = exact_ && clock_ && !has_chance(game_) && !has_views(game_);
    }

    /// The chance of the player to move, and the move that brings it. `before`: the positions of the game so far.
    std::pair<double, AnyMove> at(const AnyPosition& position, std::span<const AnyPosition> before) {
        if (const auto solved = solved_at(position)) return *solved;
        const Player mover = game_.player_to_move(position);
        std::vector<AnyView> earlier;
        for (const AnyPosition& each : before) earlier.push_back(seen_by(game_, each, mover));
        const Decision<AnyMove> decision = judge_->decide(seen_by(game_, position, mover), 0, earlier, stop_);
        if (!decision.has_scores)
            throw InputError("judge", in_quotes(by_.name) + " gives no scores", "an opponent that looks ahead");
        const auto& best = decision.ranked.front();
        return {chance_of_score(best.score, decision.scores_per_point, units_, most_payoff_of(game_)), best.move};
    }

   private:
    std::optional<std::pair<double, AnyMove>> solved_at(const AnyPosition& position) {
        if (!solves_) return std::nullopt;
        SolveOptions options;
        options.memory_mebibytes = 64;
        options.clock = clock_;
        options.seconds = 0.25;
        options.stop = stop_;
        const Solution<AnyMove> solution = exact_(game_, position, options);
        // Farther from the end it takes longer still.
        solves_ = solution.complete;
        if (!solution.complete) return std::nullopt;
        const Payoff value = solution.least;
        return std::pair{value > 0 ? 1.0 : value < 0 ? 0.0 : 0.5, solution.moves.front().move};
    }

    const AnyGame& game_;
    const AnySolver& exact_;
    const OpponentSpec& by_;
    Clock clock_;
    StopToken stop_;
    double units_;
    std::unique_ptr<Opponent<AnyGame>> judge_;
    bool solves_ = false;
};

}  // namespace

std::vector<JudgedMove> Session::judge(const std::vector<std::string>& moves, const OpponentSpec& by,
                                       const OpponentMeans& means, StopToken stop,
                                       const std::function<void()>& seen) const {
    const AnyGame& game = game_.kit.game;
    if (players() != 2)
        throw InputError("judge", "the game is not for two", "a game of two, where one's chance is the other's risk");
    std::vector<AnyPosition> stages{position()};
    std::vector<AnyMove> played;
    for (const std::string& text : moves) {
        played.push_back(move_from_text(game, stages.back(), text));
        AnyPosition next = stages.back();
        game.play(next, played.back());
        stages.push_back(std::move(next));
    }
    GameJudge judge(game_, by, means, stop);
    // Chances of the first player, from the end of the game backwards: what a move is worth is what came of it.
    const auto of_first = [](double chance, Player mover) { return mover == Player::First ? chance : 1.0 - chance; };
    constexpr double unknown = -1;  // where luck comes between
    const auto chance_at = [&](const AnyPosition& at, std::span<const AnyPosition> before) -> double {
        if (const auto outcome = game.outcome(at)) {
            const Payoff payoff = outcome->payoff(Player::First);
            return payoff > 0 ? 1.0 : payoff < 0 ? 0.0 : 0.5;
        }
        if (arvek::chance_is_next(game, at)) return unknown;
        return of_first(judge.at(at, before).first, game.player_to_move(at));
    };
    const std::span<const AnyPosition> all(stages);
    double after = is_draw_by_repetition(game, stages) ? 0.5 : chance_at(stages.back(), all.first(moves.size()));
    std::vector<JudgedMove> judged;
    for (std::size_t i = moves.size(); i-- > 0 && !stop.stop_requested();) {
        const AnyPosition& at = stages[i];
        if (arvek::chance_is_next(game, at)) {
            after = unknown;  // what luck brought is no merit of the one who moved before
            continue;
        }
        const Player mover = game.player_to_move(at);
        const auto [chance, best] = judge.at(at, all.first(i));
        if (after == unknown) after = of_first(chance, mover);
        JudgedMove move;
        move.ply = plies() + i;
        move.player = mover;
        move.played = move.better = moves[i];
        move.chance_played = move.chance = of_first(after, mover);
        if (!(best == played[i])) {
            // The other move is looked at as deep as the one that was played: from where it leads to.
            AnyPosition other = at;
            game.play(other, best);
            const double there = chance_at(other, all.first(i + 1));
            const double instead = there == unknown ? chance : of_first(there, mover);
            if (instead > move.chance_played) {
                move.chance = instead;
                move.better = move_name_of(game, at, best);
            }
        }
        after = of_first(move.chance, mover);
        judged.push_back(std::move(move));
        if (seen) seen();
    }
    std::reverse(judged.begin(), judged.end());
    return judged;
}

Book Session::book(const OpponentSpec& by, const OpponentMeans& means, const BookOptions& options,
                   const std::function<void(std::size_t)>& seen) const {
    const AnyGame& game = game_.kit.game;
    if (!by.nodes && !by.seconds)
        throw InputError("book", "the judge would look without end", "a limit of nodes or time");
    std::map<double, std::unique_ptr<Opponent<AnyGame>>> judges;  // by the share of the limit
    const BookJudge judge = [&](const AnyPosition& at, const std::vector<AnyMove>& only, double share) {
        auto& one = judges[share];
        if (!one) {
            OpponentSpec spec = by;
            if (spec.nodes)
                *spec.nodes =
                    std::max<std::uint64_t>(1, static_cast<std::uint64_t>(share * static_cast<double>(*spec.nodes)));
            if (spec.seconds) *spec.seconds *= share;
            one = make_opponent(game, spec, means, game_.kit.choosers);
        }
        one->choose_among(only, Ranking::All);
        return one->decide(seen_by(game, at, game.player_to_move(at)), options.seed, {}, options.stop);
    };
    BookOptions own = options;
    own.units_per_doubling = units_of_scores(game, by);
    return build_book(game, position(), judge, own, seen);
}

Book Session::solved_book(const SolveOptions& solving, const BookOptions& options,
                          const std::function<void(std::size_t)>& seen) const {
    const AnyGame& game = game_.kit.game;
    if (!game_.kit.solver) throw InputError("book", "the game cannot be solved", "a judge that looks ahead");
    const BookJudge judge = [&](const AnyPosition& at, const std::vector<AnyMove>& only, double) {
        const Solution<AnyMove> solution = game_.kit.solver(game, at, solving);
        if (!solution.complete)
            throw InputError("book", "a position was not solved: " + game.position_text(at),
                             "more time or memory, or a judge that looks ahead");
        Decision<AnyMove> decision;
        for (const auto& solved : solution.moves) {
            if (std::find(only.begin(), only.end(), solved.move) == only.end()) continue;
            auto& entry = decision.ranked.emplace_back();
            entry.move = solved.move;
            entry.score =
                solved.value == 0 ? Score::estimate(0) : Score::proven(solved.value, solved.plies.value_or(1));
        }
        decision.move = decision.ranked.front().move;
        decision.has_scores = true;
        return decision;
    };
    return build_book(game, position(), judge, options, seen);
}

Book Session::unjudged_book(const BookOptions& options, const std::function<void(std::size_t)>& seen) const {
    return build_book(game_.kit.game, position(), {}, options, seen);
}

namespace {

/// Each position of games and the move that was played there; where chance acts, none.
template <class Seen>
void visit_games(const AnyGame& game, const AnyPosition& from, std::span<const GameRecord> games, Seen seen) {
    for (std::size_t number = 0; number < games.size(); ++number) {
        const GameResult& result = games[number].counted;
        if (result.ended_by == EndedBy::BrokenRules || result.is_lost_by_fault()) continue;
        AnyPosition at = from;
        for (const std::string& text : games[number].moves) {
            AnyMove move;
            try {
                move = move_from_text(game, at, text);
            } catch (const InputError& error) {
                throw InputError("game " + std::to_string(number), error.what());
            }
            if (!arvek::chance_is_next(game, at) && !seen(number, at, move)) return;
            game.play(at, move);
        }
    }
}

/// What the first player got in a game for two, 0 to 1.
double points_of_first(const GameResult& result) {
    return result.seat_a == 0 ? result.points_a : 1.0 - result.points_a;
}

}  // namespace

PlayedReplies Session::played_in(std::span<const GameRecord> games) const {
    const AnyGame& game = game_.kit.game;
    PlayedReplies played(game);
    visit_games(game, position(), games, [&](std::size_t number, const AnyPosition& at, const AnyMove& move) {
        const double first = points_of_first(games[number].counted);
        played.add(at, move, game.player_to_move(at) == Player::First ? first : 1.0 - first);
        return true;
    });
    return played;
}

std::vector<BookRoot> Session::blunders(std::span<const GameRecord> games, const OpponentSpec& player,
                                        const OpponentSpec& by, const OpponentMeans& means, double most_lost,
                                        std::size_t most_positions, StopToken stop,
                                        const std::function<void(std::size_t)>& seen) const {
    constexpr std::uint64_t seeds = 8;  // an opponent that leaves something to chance is asked so often
    const AnyGame& game = game_.kit.game;
    if (players() != 2) throw InputError("book", "the game is not for two", "a game of two");
    const double units = units_of_scores(game, by);
    const Payoff most = most_payoff_of(game);
    const std::string title = opponent_title(player);
    const auto one = make_opponent(game, player, means, game_.kit.choosers);
    const auto judge = make_opponent(game, by, means, game_.kit.choosers);
    judge->choose_among({}, Ranking::All);
    std::map<std::string, bool> blundered;  // the positions looked at, and whether a blunder was found there
    std::vector<BookRoot> blunders;
    std::size_t looked_at = 0, in_game = games.size();
    std::vector<AnyView> earlier;
    visit_games(game, position(), games, [&](std::size_t number, const AnyPosition& at, const AnyMove& recorded) {
        if (stop.stop_requested() || looked_at >= most_positions) return false;
        if (std::exchange(in_game, number) != number) earlier.clear();
        const Player mover = game.player_to_move(at);
        const AnyView view = seen_by(game, at, mover);
        const GameRecord& record = games[number];
        const bool was_own = (index_of(mover) == 0 ? record.first : record.second) == title;
        const auto [place, is_new] = blundered.try_emplace(game.position_text(at), false);
        bool& is_blundered = place->second;
        if (is_new || was_own) {
            std::vector<AnyMove> played;
            const auto add = [&](const AnyMove& move) {
                if (std::find(played.begin(), played.end(), move) == played.end()) played.push_back(move);
            };
            if (was_own) add(recorded);
            for (std::uint64_t seed = 0; is_new && seed < seeds; ++seed)
                add(one->decide(view, derived_seed(seed, looked_at), earlier, stop).move);
            const Decision<AnyMove> judged = judge->decide(view, 0, earlier, stop);
            if (!judged.has_scores)
                throw InputError("judge", in_quotes(by.name) + " gives no scores", "an opponent that looks ahead");
            const auto chance = [&](const RankedMove<AnyMove>& entry) {
                return chance_of_score(entry.score, judged.scores_per_point, units, most);
            };
            for (const auto& entry : judged.ranked) {
                const bool is_played = std::find(played.begin(), played.end(), entry.move) != played.end();
                if (is_blundered || !is_played) continue;
                if (chance(judged.ranked.front()) - chance(entry) <= most_lost) continue;
                is_blundered = true;
                blunders.push_back({{}, at});
            }
            seen(++looked_at);
        }
        earlier.push_back(view);
        return true;
    });
    return blunders;
}

std::vector<WeightSample> Session::samples(std::span<const GameRecord> games,
                                           std::vector<std::string>& features) const {
    const AnyGame& game = game_.kit.game;
    if (players() != 2)
        throw InputError("weights", "the game is not for two", "a game of two, which one wins or the other");
    std::vector<std::string> known;
    for (const auto& quantity : game.quantities())
        if (quantity.of == QuantityOf::Position) known.push_back(quantity.name);
    if (known.empty())
        throw InputError("weights", "the game has no quantities of positions", "quantities() that are of the position");
    if (features.empty()) features = known;
    std::vector<int> places;
    for (const std::string& feature : features) {
        int place = 0, found = -1;
        for (const auto& quantity : game.quantities()) {
            if (quantity.of == QuantityOf::Position && quantity.name == feature) found = place;
            ++place;
        }
        if (found < 0)
            throw InputError("weights", "there is no quantity of positions " + in_quotes(feature), any_of_text(known));
        places.push_back(found);
    }
    std::vector<WeightSample> samples;
    visit_games(game, position(), games, [&](std::size_t number, const AnyPosition& at, const AnyMove& move) {
        const double first = points_of_first(games[number].counted);
        WeightSample& sample = samples.emplace_back();
        sample.game = number;
        sample.result = game.player_to_move(at) == Player::First ? first : 1.0 - first;
        for (const int place : places)
            sample.values.push_back(game.quantities()[static_cast<std::size_t>(place)].value(game, at, move));
        return true;
    });
    return samples;
}

void Session::check_league(std::span<const OpponentSpec> specs, const LeagueOptions& league, const MatchOptions& games,
                           const std::vector<std::vector<std::string>>& openings) const {
    LeagueOptions own = league;
    own.players = static_cast<int>(specs.size());
    own.seats = players();
    (void)League(own);
    check_match(specs[0], specs[1], games, openings);
    for (const OpponentSpec& spec : specs.subspan(2)) check_opponent(spec);
}

LeagueResult Session::league(std::span<const OpponentSpec> specs, const LeagueOptions& league,
                             const MatchOptions& games, const std::vector<std::vector<std::string>>& openings,
                             GamePool& pool, std::span<const std::pair<GameTask, GameRecord>> played,
                             const std::function<void(const GameTask&, const GameRecord&)>& seen) const {
    check_league(specs, league, games, openings);
    LeagueOptions own = league;
    own.players = static_cast<int>(specs.size());
    own.seats = players();
    own.stop = games.stop;
    /// Tells the caller of each game as well.
    struct Told final : GameSchedule {
        explicit Told(const LeagueOptions& options, const std::function<void(const GameTask&, const GameRecord&)>& call)
            : league(options), tell(call) {}
        std::optional<GameTask> next() override { return league.next(); }
        void add(const GameTask& task, const GameRecord& game) override {
            if (tell) tell(task, game);
            league.add(task, game);
        }
        League league;
        const std::function<void(const GameTask&, const GameRecord&)>& tell;
    } schedule(own, seen);
    for (const auto& [task, game] : played) schedule.league.add(task, game);
    const AnyGame& game = game_.kit.game;
    const MatchStart<AnyGame> start = start_with(openings);
    const OpponentMeans means{games.clock, {}};
    std::vector<std::vector<std::shared_ptr<Opponent<AnyGame>>>> made(
        pool.workers(), std::vector<std::shared_ptr<Opponent<AnyGame>>>(specs.size()));
    pool.play(schedule, [&](std::size_t worker, const GameTask& task) -> std::optional<GameRecord> {
        const auto [a, b] = schedule.league.players_of(task.pairing);
        for (const std::size_t player : {a, b})
            if (!made[worker][player])
                made[worker][player] = make_opponent(game, specs[player], means, game_.kit.choosers);
        const auto one = play_game_of_match(game, *made[worker][a], *made[worker][b], games, start, task.number);
        if (!one) return std::nullopt;
        return record_of(*one, specs[a], specs[b]);
    });
    return schedule.league.result();
}

namespace {

/// Games by numbers, for whoever takes them as they end.
class NumberedGames final : public GameSchedule {
   public:
    NumberedGames(int from, int count, const std::function<bool(int)>& is_known,
                  const std::function<void(const GameRecord&)>& tell)
        : at_(from), end_(from + count), known_(is_known), seen_(tell) {}

    std::optional<GameTask> next() override {
        for (; at_ < end_; ++at_)
            if (!known_ || !known_(at_)) return GameTask{0, at_++};
        return std::nullopt;
    }
    void add(const GameTask&, const GameRecord& record) override { seen_(record); }

   private:
    int at_, end_;
    const std::function<bool(int)>& known_;
    const std::function<void(const GameRecord&)>& seen_;
};

}  // namespace

void Session::play_for_habits(const OpponentSpec& a, const OpponentSpec& b, const MatchOptions& games, GamePool& pool,
                              const std::function<void(const GameRecord&)>& seen) const {
    const AnyGame& game = game_.kit.game;
    check_match(a, b, games, {});
    MatchOptions own = games;
    own.threads = 1;
    const std::function<bool(int)> none;
    NumberedGames schedule(0, games.games, none, seen);
    const MatchStart<AnyGame> start = start_with({});
    const OpponentMeans means{games.clock, {}};
    const bool alike = a == b;
    std::vector<std::array<std::unique_ptr<Opponent<AnyGame>>, 2>> made(pool.workers());
    pool.play(schedule, [&](std::size_t worker, const GameTask& task) -> std::optional<GameRecord> {
        for (std::size_t i = 0; i < 2; ++i)
            if (!made[worker][i]) made[worker][i] = make_opponent(game, i == 0 ? a : b, means, game_.kit.choosers);
        // The second game of a pair is the first again where both are the same.
        const int number = alike ? std::max(2, players()) * task.number : task.number;
        const auto played = play_game_of_match(game, *made[worker][0], *made[worker][1], own, start, number);
        if (!played) return std::nullopt;
        return record_of(*played, a, b);
    });
}

void Session::self_play(const OpponentSpec& spec, const SelfPlayOptions& options, const MatchOptions& games,
                        GamePool& pool, const std::function<bool(int number)>& known,
                        const std::function<void(const GameRecord&)>& seen) const {
    const AnyGame& game = game_.kit.game;
    if (!(options.stray >= 0 && options.stray <= 1))
        throw InputError("stray", number_text(options.stray) + " is out of range", "0 to 1");
    MatchOptions own = games;
    own.keeps_decisions = true;
    own.threads = 1;
    check_match_options(own);
    NumberedGames schedule(options.from, options.games, known, seen);
    const MatchStart<AnyGame> start = start_with({});
    const double units = units_of_scores(game, spec);
    const Payoff most = most_payoff_of(game);
    const OpponentMeans means{games.clock, {}};
    std::vector<std::array<std::unique_ptr<Opponent<AnyGame>>, 2>> made(pool.workers());
    pool.play(schedule, [&](std::size_t worker, const GameTask& task) -> std::optional<GameRecord> {
        for (auto& one : made[worker])
            if (!one) one = straying(make_opponent(game, spec, means, game_.kit.choosers), options.stray);
        MatchOptions of_game = own;
        Random random(derived_seed(own.seed, static_cast<std::uint64_t>(task.number)));
        of_game.opening_plies = static_cast<int>(random.below(static_cast<std::uint64_t>(options.opening_plies) + 1));
        // The second of a pair would be the first again.
        const int number = 2 * task.number;
        const auto played = play_game_of_match(game, *made[worker][0], *made[worker][1], of_game, start, number);
        if (!played) return std::nullopt;
        GameRecord record = record_of(*played, spec, spec);
        record.end_drawing.clear();
        record.chances.assign(record.moves.size(), -1.0);
        for (const auto& [ply, decision] : played->decisions) {
            if (ply >= record.moves.size()) continue;  // of a game that a fault ended
            if (!decision.has_scores)
                throw InputError("opponent", in_quotes(spec.name) + " gives no scores", "an opponent that looks ahead");
            const auto& best = decision.ranked.front();
            record.chances[ply] = chance_of_score(best.score, decision.scores_per_point, units, most);
            if (!(decision.move == best.move)) record.strayed.push_back(ply);
        }
        return record;
    });
}

OddsReport Session::odds(const OpponentSpec& spec, const MatchOptions& options,
                         const std::function<void()>& seen) const {
    const AnyGame& game = game_.kit.game;
    if (players_of(game) != 2)
        throw InputError("odds", "the game is not for two", "a game of two, where one's chance to win says all");
    if (!offers(game, Ability::Evaluation))
        throw InputError("odds", "the game has no evaluation, so there is no lead to weigh",
                         ability_info(Ability::Evaluation).functions);
    const MatchStart<AnyGame> start = start_with({});
    const OpponentMeans means{options.clock, {}};
    const auto make = [&]() -> std::shared_ptr<Opponent<AnyGame>> {
        return make_opponent(game, spec, means, game_.kit.choosers);
    };
    // The two games of a pair begin alike and meet the same luck, so they count as one. In order, whatever the threads.
    std::map<int, std::vector<OddsFit::Seen>> games;
    (void)play_any_match(game, make, make, options, start, [&](const PlayedGame<AnyGame>& played) {
        seen();
        if (!played.outcome) return;  // cut off, or ended by a fault
        std::vector<OddsFit::Seen> positions;
        AnyPosition at = position();
        for (const AnyMove& move : played.moves) {
            if (!arvek::chance_is_next(game, at)) {
                const Player mover = game.player_to_move(at);
                const Payoff payoff = played.outcome->payoff(mover);
                positions.push_back({static_cast<double>(game.evaluate(at, mover).number()), payoff > 0   ? 1.0
                                                                                             : payoff < 0 ? 0.0
                                                                                                          : 0.5});
            }
            game.play(at, move);
        }
        games[played.number] = std::move(positions);
    });
    OddsFit fit;
    for (auto game_played = games.begin(); game_played != games.end();) {
        const int pair = game_played->first / 2;
        std::vector<OddsFit::Seen> positions;
        for (; game_played != games.end() && game_played->first / 2 == pair; ++game_played)
            positions.insert(positions.end(), game_played->second.begin(), game_played->second.end());
        fit.add(positions);
    }
    OddsReport report;
    report.found = fit.report();
    report.found.games = static_cast<int>(games.size());
    if (offers(game, Ability::Scale)) report.declared = game.units_per_doubling();
    return report;
}

}  // namespace arvek
