#include "arvek/session/session.hpp"

#include <algorithm>
#include <map>
#include <set>
#include <utility>

#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/search/scale_of.hpp"
#include "arvek/session/plain_text.hpp"

namespace arvek {

namespace {

/// The texts of moves that are played one after the other from `position`.
std::vector<std::string> line_texts(const AnyGame& game, AnyPosition position, const std::vector<AnyMove>& line) {
    std::vector<std::string> texts;
    texts.reserve(line.size());
    for (const AnyMove& move : line) {
        texts.push_back(plain_line(game.move_text(position, move)));
        game.play(position, move);
    }
    return texts;
}

std::vector<std::string> plain(const std::vector<std::string>& texts) {
    std::vector<std::string> all;
    for (const std::string& text : texts) all.push_back(plain_line(text));
    return all;
}

Ending ending_of(const Outcome& outcome, const std::vector<std::string>& player_names) {
    Ending ending;
    Payoff most = 0;
    std::size_t with_most = 0;
    for (std::size_t i = 0; i < player_names.size(); ++i) {
        const Payoff payoff = outcome.payoff(static_cast<Player>(i));
        ending.payoffs.emplace_back(player_names[i], payoff);
        if (i == 0 || payoff > most) {
            most = payoff;
            with_most = 0;
        }
        if (payoff == most) ++with_most;
    }
    if (with_most == 1 && player_names.size() > 1)
        for (const auto& [player, payoff] : ending.payoffs)
            if (payoff == most) ending.winner = player;
    return ending;
}

}  // namespace

std::string Ending::text() const {
    if (payoffs.size() == 1) return payoffs.front().first + " gets " + std::to_string(payoffs.front().second);
    if (payoffs.size() > 2) {
        std::string paid;
        bool all_alike = true;
        for (const auto& [player, payoff] : payoffs) {
            paid += (paid.empty() ? "" : ", ") + player + (payoff > 0 ? " +" : " ") + std::to_string(payoff);
            all_alike = all_alike && payoff == payoffs.front().second;
        }
        if (all_alike) return "a draw";
        return winner ? *winner + " wins (" + paid + ")" : "shared (" + paid + ")";
    }
    if (!winner) return "a draw";
    for (const auto& [player, payoff] : payoffs) {
        if (player != *winner) continue;
        const Payoff size = payoff < 0 ? -payoff : payoff;
        return player + " wins" + (size > 1 ? " by " + std::to_string(size) : "");
    }
    return *winner + " wins";
}

struct Session::Seat {
    OpponentSpec spec;
    OpponentMeans means;
    std::unique_ptr<Opponent<AnyGame>> opponent;
    std::optional<FollowingLevel> follow{};
};

Session::Session(OpenGame game) : game_(std::move(game)), positions_{game_.kit.game.initial_position()} {}
Session::Session(OpenGame game, std::string_view position)
    : game_(std::move(game)), positions_{game_.kit.game.read_position(position)} {}
Session::~Session() = default;
Session::Session(Session&&) noexcept = default;
Session& Session::operator=(Session&&) noexcept = default;

Subject Session::subject() const { return {game_.name, game_.settings, position_text()}; }
int Session::players() const { return players_of(game_.kit.game); }
std::string Session::player_name(Player player) const { return plain_line(game_.kit.game.player_name(player)); }
std::vector<std::string> Session::player_names() const {
    std::vector<std::string> names;
    for (int i = 0; i < players(); ++i) names.push_back(player_name(static_cast<Player>(i)));
    return names;
}

std::string Session::position_text() const { return plain_line(game_.kit.game.position_text(position())); }
std::string Session::drawing_for(Player player) const { return drawing_at(position(), player); }
std::string Session::drawing_at(const AnyPosition& at, Player player) const {
    const AnyGame& game = game_.kit.game;
    if (!has_views(game)) return plain_lines(drawing_of(game, at));
    if (!offers(game, Ability::ViewText)) return "  (the game has no text for what one side sees)\n";
    std::string text = plain_lines(game.view_text(game.view(at, player)));
    if (text.empty() || text.back() != '\n') text += '\n';
    return text;
}
std::string Session::drawing() const { return plain_lines(drawing_of(game_.kit.game, position())); }
Player Session::player_to_move() const { return game_.kit.game.player_to_move(position()); }
bool Session::chance_is_next() const { return !ending() && arvek::chance_is_next(game_.kit.game, position()); }

std::optional<Ending> Session::ending() const {
    const auto outcome = outcome_with_history(game_.kit.game, positions_);
    if (!outcome) return std::nullopt;
    return ending_of(*outcome, player_names());
}

std::vector<std::string> Session::legal_moves() const {
    std::vector<std::string> texts;
    if (ending()) return texts;
    for (const AnyMove& move : arvek::legal_moves(game_.kit.game, position()))
        texts.push_back(plain_line(game_.kit.game.move_text(position(), move)));
    return texts;
}

std::vector<std::string> Session::moves_played() const {
    std::vector<std::string> texts;
    for (std::size_t i = 0; i < moves_.size(); ++i)
        texts.push_back(plain_line(game_.kit.game.move_text(positions_[i], moves_[i])));
    return texts;
}

void Session::play(std::string_view text) {
    if (ending()) throw InputError("move", "the game is over, so nobody may move");
    play_move(move_from_text(game_.kit.game, position(), text));
}

void Session::play_move(const AnyMove& move) {
    AnyPosition after = position();
    game_.kit.game.play(after, move);
    positions_.push_back(std::move(after));
    moves_.push_back(move);
    tell_seats_of_the_end();
}

/// Whether the player could tell the event from every other that might have happened.
bool Session::is_seen(const AnyMove& event, Player viewer) const {
    const AnyGame& game = game_.kit.game;
    if (!has_views(game)) return true;
    AnyPosition after = position();
    game.play(after, event);
    const AnyView seen = game.view(after, viewer);
    MoveList<Event<AnyMove>> events;
    list_events(game, position(), events);
    if (events.empty()) return false;
    return std::all_of(events.begin(), events.end(), [&](const auto& other) {
        if (other.move == event) return true;
        AnyPosition instead = position();
        game.play(instead, other.move);
        return !(game.view(instead, viewer) == seen);
    });
}

std::optional<std::string> Session::let_chance_act(Random& random, std::span<const Player> viewers) {
    if (!chance_is_next()) return std::nullopt;
    const AnyMove event = drawn_event(game_.kit.game, position(), random);
    const bool seen =
        std::all_of(viewers.begin(), viewers.end(), [&](Player viewer) { return is_seen(event, viewer); });
    std::string text = seen ? plain_line(game_.kit.game.move_text(position(), event)) : "";
    play_move(event);
    return text;
}

bool Session::take_back() {
    if (moves_.empty()) return false;
    positions_.pop_back();
    moves_.pop_back();
    seen_so_far_.forget();
    return true;
}

void Session::restart() {
    positions_.resize(1);
    moves_.clear();
    seen_so_far_.forget();
    end_was_told_ = false;
    for (const auto& seat : seats_) {
        if (!seat || !seat->follow || seat->follow->level() == level_of(seat->spec)) continue;
        OpponentSpec changed = seat->spec;
        changed.level = seat->follow->level();
        seat->opponent = make_opponent(game_.kit.game, changed, seat->means, game_.kit.choosers);
        seat->spec = std::move(changed);
    }
}

/// Once a game, whatever is taken back.
void Session::tell_seats_of_the_end() {
    if (end_was_told_) return;
    const auto end = ending();
    if (!end) return;
    end_was_told_ = true;
    const auto names = player_names();
    for (std::size_t i = 0; i < names.size(); ++i) {
        if (!seats_[i] || !seats_[i]->follow) continue;
        FollowingLevel& follow = *seats_[i]->follow;
        if (!end->winner)
            follow.drawn();
        else if (*end->winner == names[i])
            follow.player_lost();
        else
            follow.player_won();
    }
}

void Session::take_seat(Player player, const OpponentSpec& spec, const OpponentMeans& means) {
    auto seat = std::make_unique<Seat>(Seat{spec, means, nullptr, std::nullopt});
    if (!spec.level && spec.profile && spec.profile->follow) {
        const FollowText& bounds = *spec.profile->follow;
        if (means.person)
            seat->follow.emplace(means.person->level, means.person->spread, bounds.least, bounds.most, bounds.after);
        else
            seat->follow.emplace(std::clamp(level_of(spec), bounds.least, bounds.most), bounds.least, bounds.most,
                                 bounds.after);
        seat->spec.level = seat->follow->level();
    }
    seat->opponent = make_opponent(game_.kit.game, seat->spec, means, game_.kit.choosers);
    seats_[index_of(player)] = std::move(seat);
}

void Session::leave_seat(Player player) { seats_[index_of(player)].reset(); }

const OpponentSpec* Session::seated(Player player) const {
    const auto& seat = seats_[index_of(player)];
    return seat ? &seat->spec : nullptr;
}

bool Session::awaits_answer() const {
    return !ending() && !arvek::chance_is_next(game_.kit.game, position()) && seated(player_to_move()) != nullptr;
}

Decision<AnyMove> Session::decide_seated(std::uint64_t seed, StopToken stop, const Progress<AnyMove>* progress) {
    if (!awaits_answer()) throw InputError("seat", "no opponent is to move", "a position where one is");
    Seat& seat = *seats_[index_of(player_to_move())];
    const auto seen = seen_so_far_.of(game_.kit.game, positions_, player_to_move());
    seat.opponent->tell(progress);
    struct EndTelling {
        ~EndTelling() { opponent.tell(nullptr); }
        Opponent<AnyGame>& opponent;
    } const end{*seat.opponent};
    auto decision = seat.opponent->decide(seen.back(), seed, seen.first(seen.size() - 1), stop);
    if (!arvek::legal_moves(game_.kit.game, position()).contains(decision.move))
        throw InputError("opponent", opponent_title(seat.spec) + " chose a move that is not legal", "a legal one");
    return decision;
}

DecisionReport Session::ask_seated(std::uint64_t seed, StopToken stop, const Progress<AnyMove>* progress) {
    const auto decision = decide_seated(seed, stop, progress);
    DecisionReport report = report_of(decision, *seated(player_to_move()));
    answer_ = decision.move;
    answered_at_ = plies();
    return report;
}

void Session::play_what_was_asked() {
    if (!answer_.has_value() || answered_at_ != plies()) throw InputError("seat", "nobody was asked here");
    const AnyMove move = std::exchange(answer_, AnyMove());
    play_move(move);
}

DecisionReport Session::answer(std::uint64_t seed, StopToken stop) {
    const auto decision = decide_seated(seed, stop);
    DecisionReport report = report_of(decision, *seated(player_to_move()));
    play_move(decision.move);
    return report;
}

void Session::check_opponent(const OpponentSpec& spec) const {
    (void)make_opponent(game_.kit.game, spec, {[] { return 0.0; }}, game_.kit.choosers);
}

Opponent<AnyGame>& Session::kept_opponent(const OpponentSpec& spec, const OpponentMeans& means) {
    if (!asked_ || !(asked_->spec == spec)) {
        auto opponent = make_opponent(game_.kit.game, spec, means, game_.kit.choosers);
        asked_ = std::make_unique<Seat>(Seat{spec, means, std::move(opponent), std::nullopt});
    }
    return *asked_->opponent;
}

Decision<AnyMove> Session::decide(const OpponentSpec& spec, std::uint64_t seed, const OpponentMeans& means,
                                  const Question& question) {
    Opponent<AnyGame>& opponent = kept_opponent(spec, means);
    (void)moves_to_choose_from(game_.kit.game, position());  // says so where nothing is to decide
    const auto seen = seen_so_far_.of(game_.kit.game, positions_, player_to_move());
    std::vector<AnyMove> only;
    for (const std::string& move : question.only) only.push_back(move_from_text(game_.kit.game, position(), move));
    opponent.watch(question.tree);
    opponent.tell(question.progress);
    opponent.choose_among(std::move(only), question.ranking);
    struct EndWatching {
        ~EndWatching() {
            opponent.watch(nullptr);
            opponent.tell(nullptr);
            opponent.choose_among({});
        }
        Opponent<AnyGame>& opponent;
    } const end{opponent};
    return opponent.decide(seen.back(), seed, seen.first(seen.size() - 1), question.stop);
}

void Session::ask_about_the_game(const OpponentSpec& spec, std::uint64_t seed, const OpponentMeans& means) {
    Opponent<AnyGame>& opponent = kept_opponent(spec, means);
    const AnyGame& game = game_.kit.game;
    const Player player = player_to_move();
    const auto seen = seen_so_far_.of(game, positions_, player);
    for (std::size_t ply = 0; ply + 1 < positions_.size(); ++ply)
        if (!arvek::chance_is_next(game, positions_[ply]) && game.player_to_move(positions_[ply]) == player)
            (void)opponent.decide(seen[ply], seed, seen.first(ply));
}

DecisionReport Session::report_of(const Decision<AnyMove>& decision, const OpponentSpec& spec) const {
    return report_at(position(), decision, spec);
}

DecisionReport Session::report_at(const AnyPosition& at, const Decision<AnyMove>& decision,
                                  const OpponentSpec& spec) const {
    const AnyGame& game = game_.kit.game;
    const Player player = game.player_to_move(at);
    DecisionReport report;
    report.opponent = plain_line(spec.name);
    report.title = plain_line(opponent_title(spec));
    if (!decision.searched_by.empty() && decision.searched_by != spec.name && !spec.profile)
        report.title += " (" + decision.searched_by + ")";
    report.level = level_of(spec);
    const ChooserInfo* info =
        find_chooser(game_.kit.choosers.infos(), spec.profile ? spec.profile->chooser.name : spec.name);
    report.has_levels = info == nullptr || info->has_levels;
    report.position = plain_line(game.position_text(at));
    report.drawing = drawing_at(at, player);
    report.to_move = player_name(player);
    report.move = plain_line(game.move_text(at, decision.move));
    for (const auto& entry : decision.ranked)
        report.ranked.push_back({plain_line(game.move_text(at, entry.move)), entry.score, entry.kind,
                                 line_texts(game, at, entry.line), plain(entry.reasons), entry.worth, entry.visits,
                                 entry.mean, entry.low, entry.high, entry.probability});
    report.rank = decision.rank;
    report.has_worths = decision.has_worths;
    report.chosen_by = plain_line(decision.chosen_by);
    report.stats = decision.stats;
    report.has_scores = decision.has_scores;
    report.scores_per_point = decision.scores_per_point;
    report.has_visits = decision.has_visits;
    report.has_probabilities = decision.has_probabilities;
    report.searched_by = decision.searched_by;
    for (const RuleReport& rule : decision.rules)
        report.rules.push_back({plain_line(rule.rule), rule.fired, plain_line(rule.why), rule.kind});
    report.state = plain_line(decision.state);
    for (const AnyMove& move : decision.overlooked) report.overlooked.push_back(plain_line(game.move_text(at, move)));
    return report;
}

std::vector<SequenceCount> Session::count(int depth, const CountOptions& options) const {
    return game_.counter(game_.kit.game, position(), depth, options);
}

namespace {

/// Options of another solver with the same limits.
template <class Own>
Own within_limits(const SolveOptions& options) {
    Own own;
    own.memory_mebibytes = options.memory_mebibytes;
    own.seconds = options.seconds;
    own.clock = options.clock;
    own.stop = options.stop;
    return own;
}

}  // namespace

SolutionReport Session::solve_luck(const SolveOptions& options) const {
    const AnyGame& game = game_.kit.game;
    if (!game_.kit.luck_solver || !has_hash(game))
        throw InputError("solve", "the game has no hash, by which positions are recognised",
                         ability_info(Ability::Hash).functions);
    auto own = within_limits<LuckSolveOptions>(options);
    own.margins = options.margins;
    const auto solution = game_.kit.luck_solver(game, position(), own);
    SolutionReport report;
    report.expects = true;
    report.complete = solution.complete;
    report.value = solution.value;
    report.error = solution.error;
    for (const auto& each : solution.moves)
        report.expected.push_back({plain_line(game.move_text(position(), each.move)), each.probability, each.value});
    report.method = "interval iteration, " + std::to_string(solution.sweeps) + " sweeps";
    report.stopped_by = solution.stopped_by;
    report.counters.nodes = solution.positions;
    report.seconds = solution.seconds;
    report.drawing = drawing();
    report.to_move = chance_is_next() ? "" : player_name(player_to_move());
    report.of = chance_is_next() ? player_name(Player::First) : report.to_move;
    return report;
}

SolutionReport Session::solve_views(const SolveOptions& options, bool sampled) const {
    const AnyGame& game = game_.kit.game;
    require_game_for_two(game, "solve");
    if (!game_.kit.equilibrium) throw InputError("solve", "the game cannot be solved", "another game");
    if (!options.margins)
        throw InputError("solve", "strategies are mixed for the payoffs as they are", "no --win-or-loss");
    if (!positions_.empty() && !chance_is_next())
        throw InputError("position", "somebody holds what others do not see, so this is no game of its own",
                         "a position before anything is dealt, such as the initial one");
    auto own = within_limits<EquilibriumOptions>(options);
    own.sampled = sampled;
    if (sampled && options.seconds) own.iterations = INT32_MAX;
    const auto found = game_.kit.equilibrium(game, position(), own);
    SolutionReport report;
    report.expects = true;
    report.complete = found.complete;
    report.value = found.value;
    report.error = found.error;
    report.mixes = true;
    if (found.measured) report.exploitability = found.exploitability;
    report.of = player_name(Player::First);
    for (const auto& row : found.strategy) {
        auto& entry = report.strategy.emplace_back();
        entry.player = player_name(row.player);
        entry.view = offers(game, Ability::ViewText) ? plain_line(game.view_text(row.view)) : "";
        Random random(1);
        const AnyPosition behind = game.sample(row.view, random);
        for (const auto& each : row.moves)
            entry.moves.push_back({plain_line(game.move_text(behind, each.move)), each.probability, each.value});
    }
    std::stable_sort(report.strategy.begin(), report.strategy.end(), [&](const auto& a, const auto& b) {
        return a.player != b.player ? a.player == report.of && b.player != report.of : a.view < b.view;
    });
    report.method =
        "regret minimisation, " + std::to_string(found.iterations) + (sampled ? " drawn games a side" : " iterations");
    report.stopped_by = found.stopped_by;
    report.counters.nodes = found.positions;
    report.seconds = found.seconds;
    report.drawing = drawing();
    return report;
}

/// What the opponent expects where chance has come to rest, for the first player of two, and what it answers.
double Session::expected_at(const AnyPosition& at, Opponent<AnyGame>& opponent, const OpponentSpec& spec,
                            std::uint64_t seed, StopToken stop, OutlookReport::Event* entry,
                            OutlookReport& report) const {
    const AnyGame& game = game_.kit.game;
    if (const auto outcome = game.outcome(at)) {
        if (entry != nullptr) entry->certain = true;
        return outcome->payoff(Player::First);
    }
    const Player mover = game.player_to_move(at);
    const auto decision = opponent.decide(game.view(at, mover), seed, {}, stop);
    if (!decision.has_scores)
        throw InputError("opponent", "'" + spec.name + "' does not say what it expects",
                         "one that looks ahead, such as standard");
    const auto& best = decision.ranked.front();
    double value = 0;
    if (best.score.is_proven())
        value = best.score.payoff();
    else if (decision.scores_per_point > 0)
        value = best.score.number() / decision.scores_per_point;
    if (entry != nullptr) {
        entry->certain = best.score.is_proven();
        entry->next = player_name(mover);
        entry->best = plain_line(game.move_text(at, decision.move));
    }
    DecisionStats& stats = report.stats;
    stats += decision.stats;
    stats.playouts += decision.stats.playouts;
    stats.seconds += decision.stats.seconds;
    stats.depth = std::min(stats.depth, decision.stats.depth + 1);
    stats.stopped_by = decision.stats.stopped_by;
    if (!decision.searched_by.empty() && decision.searched_by != spec.name)
        report.title = plain_line(opponent_title(spec)) + " (" + decision.searched_by + ")";
    return players() == 2 && mover != Player::First ? -value : value;
}

OutlookReport Session::outlook(const OpponentSpec& spec, std::uint64_t seed, const OpponentMeans& means,
                               StopToken stop) const {
    constexpr int draws_for_all = 8;
    const AnyGame& game = game_.kit.game;
    if (!chance_is_next()) throw InputError("position", "chance is not next", "a position where it is");
    if (has_views(game))
        throw InputError("position", "what chance brings is not for all to see, so nothing is to decide",
                         "a position where a player is to move");
    if (!lists_events(game))
        throw InputError("position", "chance is next and its events cannot be listed",
                         ability_info(Ability::Chance).functions);
    MoveList<Event<AnyMove>> events;
    list_events(game, position(), events);
    OpponentSpec each = spec;
    AnyPosition first = position();
    game.play(first, events[0].move);
    const bool draws_on = !game.outcome(first) && arvek::chance_is_next(game, first);
    const std::uint64_t decisions = events.size() * (draws_on ? draws_for_all : 1);
    // At full strength without limits so many nodes in all, as a decision has them.
    constexpr std::uint64_t usual_nodes = 2'000'000;
    if (!each.has_own_limits() && !each.profile && level_of(each) == highest_level) each.nodes = usual_nodes;
    if (each.depth) each.depth = std::max(*each.depth - 1, 0);
    if (each.nodes) each.nodes = std::max<std::uint64_t>(*each.nodes / decisions, 1);
    if (each.playouts) each.playouts = std::max<std::uint64_t>(*each.playouts / decisions, 1);
    if (each.seconds) each.seconds = *each.seconds / static_cast<double>(decisions);
    const auto opponent = make_opponent(game, each, means, game_.kit.choosers);
    OutlookReport report;
    report.opponent = plain_line(spec.name);
    report.title = plain_line(opponent_title(spec));
    report.drawing = drawing();
    report.of = player_name(Player::First);
    report.stats.depth = max_depth;
    double sum = 0;
    for (const auto& event : events) {
        auto& entry = report.events.emplace_back();
        entry.event = plain_line(game.move_text(position(), event.move));
        entry.probability = event.probability;
        AnyPosition after = position();
        game.play(after, event.move);
        // Where more is drawn before anybody moves, some draws stand for all.
        const bool goes_on = !game.outcome(after) && arvek::chance_is_next(game, after);
        const int draws = goes_on ? draws_for_all : 1;
        Random random(derived_seed(seed, static_cast<std::uint64_t>(report.events.size())));
        for (int draw = 0; draw < draws; ++draw) {
            AnyPosition settled = after;
            settle_chance(game, settled, random);
            entry.value +=
                expected_at(settled, *opponent, spec, seed, stop, goes_on ? nullptr : &entry, report) / draws;
        }
        sum += entry.probability * entry.value;
    }
    if (report.stats.depth == max_depth) report.stats.depth = 1;
    if (players() <= 2) report.value = sum;
    return report;
}

SolutionReport Session::solve(const SolveOptions& options, bool sampled) const {
    const AnyGame& game = game_.kit.game;
    if (has_views(game)) return solve_views(options, sampled);
    if (sampled)
        throw InputError("solve", "all is in sight, so there is nothing to draw", "a game with views, or no --sampled");
    if (has_chance(game)) return solve_luck(options);
    require_game_for_two(game, "solve");
    if (!game_.kit.solver || !has_hash(game))
        throw InputError("solve", "the game has no hash, by which positions are recognised",
                         ability_info(Ability::Hash).functions);
    const Solution<AnyMove> solution = game_.kit.solver(game, position(), options);
    SolutionReport report;
    report.complete = solution.complete;
    report.least = solution.least;
    report.most = solution.most;
    report.plies = solution.plies;
    for (const auto& solved : solution.moves)
        report.moves.push_back(
            {plain_line(game.move_text(position(), solved.move)), solved.value, solved.kind, solved.plies});
    report.method = solution.method;
    report.stopped_by = solution.stopped_by;
    report.counters = solution.counters;
    report.seconds = solution.seconds;
    report.drawing = drawing();
    report.to_move = player_name(player_to_move());
    return report;
}

namespace {

CheckReport as_plain(CheckReport report) {
    for (Fault& fault : report.faults) {
        fault.what = plain_line(fault.what);
        fault.moves = plain(fault.moves);
        fault.position = plain_line(fault.position);
        fault.other_moves = plain(fault.other_moves);
        fault.other_position = plain_line(fault.other_position);
    }
    return report;
}

}  // namespace

CheckReport Session::check(const CheckOptions& options, const WatchOptions* watch) const {
    return as_plain(watch != nullptr ? check_kit_watched(game_.kit, options, *watch) : check_kit(game_.kit, options));
}

CheckReport Session::check_line(const std::vector<std::string>& moves, const CheckOptions& options) const {
    return as_plain(check_kit_line(game_.kit, moves, options));
}

FactsReport Session::check_facts(std::string_view text, std::string_view source) const {
    FactsReport report = arvek::check_facts(game_.kit.game, text, source);
    for (FactFault& fault : report.faults) {
        fault.about = plain_line(fault.about);
        fault.what = plain_line(fault.what);
    }
    return report;
}

/// The moves of an opening. Events of chance are drawn, not named, so none may come in between.
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

std::vector<JudgedMove> Session::judge(const std::vector<std::string>& moves, const OpponentSpec& by,
                                       const OpponentMeans& means, StopToken stop,
                                       const std::function<void()>& seen) const {
    const AnyGame& game = game_.kit.game;
    if (players() != 2)
        throw InputError("judge", "the game is not for two", "a game of two, where one's chance is the other's risk");
    const double units = units_of_scores(game, by);
    const Payoff most = most_payoff_of(game);
    Session at(game_, game.position_text(position()));
    std::vector<JudgedMove> judged;
    for (const std::string& text : moves) {
        if (stop.stop_requested()) break;
        if (at.chance_is_next()) {
            at.play(text);
            continue;
        }
        JudgedMove move;
        move.ply = at.plies();
        move.player = at.player_to_move();
        Question question;
        question.stop = stop;
        question.ranking = Ranking::All;
        const Decision<AnyMove> decision = at.decide(by, 0, means, question);
        if (!decision.has_scores)
            throw InputError("judge", in_quotes(by.name) + " gives no scores", "an opponent that looks ahead");
        const auto chance_of = [&](const RankedMove<AnyMove>& entry) {
            return chance_of_score(entry.score, decision.scores_per_point, units, most);
        };
        const AnyMove played = move_from_text(game, at.position(), text);
        const auto entry = std::find_if(decision.ranked.begin(), decision.ranked.end(),
                                        [&](const auto& each) { return each.move == played; });
        move.played = text;
        move.better = move_name_of(game, at.position(), decision.ranked.front().move);
        move.chance = chance_of(decision.ranked.front());
        move.chance_played =
            std::min(move.chance, chance_of(entry == decision.ranked.end() ? decision.ranked.front() : *entry));
        judged.push_back(std::move(move));
        at.play(text);
        if (seen) seen();
    }
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

std::vector<BookRoot> Session::dangers(std::span<const GameRecord> games, const OpponentSpec& player,
                                       const OpponentSpec& by, const OpponentMeans& means, double most_lost,
                                       std::size_t most_positions, StopToken stop,
                                       const std::function<void(std::size_t)>& seen) const {
    const AnyGame& game = game_.kit.game;
    if (players() != 2) throw InputError("book", "the game is not for two", "a game of two");
    const double units = units_of_scores(game, by);
    const Payoff most = most_payoff_of(game);
    const auto one = make_opponent(game, player, means, game_.kit.choosers);
    const auto judge = make_opponent(game, by, means, game_.kit.choosers);
    judge->choose_among({}, Ranking::All);
    std::set<std::string> known;
    std::vector<BookRoot> dangers;
    std::size_t looked_at = 0;
    visit_games(game, position(), games, [&](std::size_t, const AnyPosition& at, const AnyMove&) {
        if (stop.stop_requested() || looked_at >= most_positions) return false;
        if (!known.insert(game.position_text(at)).second) return true;
        const AnyView view = seen_by(game, at, game.player_to_move(at));
        const AnyMove played = one->decide(view, 0, {}, stop).move;
        const Decision<AnyMove> judged = judge->decide(view, 0, {}, stop);
        if (!judged.has_scores)
            throw InputError("judge", in_quotes(by.name) + " gives no scores", "an opponent that looks ahead");
        const auto chance = [&](const RankedMove<AnyMove>& entry) {
            return chance_of_score(entry.score, judged.scores_per_point, units, most);
        };
        for (const auto& entry : judged.ranked)
            if (entry.move == played && chance(judged.ranked.front()) - chance(entry) > most_lost)
                dangers.push_back({{}, at});
        seen(++looked_at);
        return true;
    });
    return dangers;
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
        for (const int place : places) sample.values.push_back(game.model().quantity(place, at, move));
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
