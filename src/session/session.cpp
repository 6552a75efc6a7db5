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
#include "session_texts.hpp"

namespace arvek {

namespace {

std::vector<std::string> plain(const std::vector<std::string>& texts) {
    std::vector<std::string> all;
    for (const std::string& text : texts) all.push_back(plain_line(text));
    return all;
}

}  // namespace

namespace detail {

std::vector<std::string> line_texts(const AnyGame& game, AnyPosition position, const std::vector<AnyMove>& line) {
    std::vector<std::string> texts;
    texts.reserve(line.size());
    for (const AnyMove& move : line) {
        texts.push_back(plain_line(game.move_text(position, move)));
        game.play(position, move);
    }
    return texts;
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

}  // namespace detail

using detail::ending_of;
using detail::line_texts;

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
    std::unique_ptr<Opponent<AnyGame>> opponent{};  ///< null where its memory was given back
    std::optional<FollowingLevel> follow{};
    std::size_t memory = 0;  ///< MiB that the opponent may take

    /// Makes the opponent of that specification, which it has from then on. Throws as make_opponent() does, and then nothing has changed.
    void fill(const GameKit& kit, OpponentSpec with) {
        opponent = make_opponent(kit.game, with, means, kit.choosers);
        memory = memory_of(kit.game, with, kit.choosers);
        spec = std::move(with);
    }
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
        seat->fill(game_.kit, std::move(changed));
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
    auto seat = std::make_unique<Seat>(Seat{spec, means});
    if (!spec.level && spec.profile && spec.profile->follow) {
        const FollowText& bounds = *spec.profile->follow;
        if (means.person)
            seat->follow.emplace(means.person->level, means.person->spread, bounds.least, bounds.most, bounds.after);
        else
            seat->follow.emplace(std::clamp(level_of(spec), bounds.least, bounds.most), bounds.least, bounds.most,
                                 bounds.after);
        seat->spec.level = seat->follow->level();
    }
    seat->fill(game_.kit, seat->spec);
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
    if (!seat.opponent) seat.fill(game_.kit, seat.spec);
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
    if (!answer_ || answered_at_ != plies()) throw InputError("seat", "nobody was asked here");
    const AnyMove move = *std::exchange(answer_, std::nullopt);
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

std::size_t Session::memory_mebibytes() const {
    std::size_t all = asked_ ? asked_->memory : 0;
    for (const auto& seat : seats_) all += seat ? seat->memory : 0;
    return all;
}

void Session::release_memory() {
    // What takes none, such as rules, keeps what it remembers.
    if (asked_ && asked_->memory > 0) asked_.reset();
    for (const auto& seat : seats_) {
        if (!seat || seat->memory == 0) continue;
        seat->opponent.reset();
        seat->memory = 0;
    }
}

Opponent<AnyGame>& Session::kept_opponent(const OpponentSpec& spec, const OpponentMeans& means) {
    if (!asked_ || !(asked_->spec == spec)) {
        auto seat = std::make_unique<Seat>(Seat{spec, means});
        seat->fill(game_.kit, spec);
        asked_ = std::move(seat);
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

std::optional<DeeperLook> Session::look_deeper(const DecisionReport& report, const OpponentSpec& spec, double seconds,
                                               const OpponentMeans& means, StopToken stop) const {
    if (report.level == highest_level || !report.has_levels || !report.has_scores || report.has_visits) return {};
    if (has_views(game_.kit.game) || (report.rank == 1 && report.overlooked.empty())) return {};
    constexpr std::uint64_t times = 4, least = 20'000;
    OpponentSpec longer = spec;
    longer.level = highest_level;
    longer.depth.reset();
    longer.playouts.reset();
    longer.nodes = std::max(times * report.stats.nodes, least);
    longer.seconds = seconds;
    Session at(game_, report.position);
    const auto best = at.decide(longer, 0, means, {.stop = stop});
    if (!best.has_scores || best.has_visits || best.stats.depth < 1) return {};
    const auto text_of = [&](const AnyMove& move) { return plain_line(game_.kit.game.move_text(at.position(), move)); };
    const std::string liked = text_of(best.move);
    // Once more, only these two and to the same depth, so that either has a score of its own.
    OpponentSpec as_deep = longer;
    as_deep.nodes.reset();
    as_deep.depth = best.stats.depth;
    std::vector<std::string> two{report.move};
    if (liked != report.move) two.push_back(liked);
    const auto both = at.decide(as_deep, 0, means, {.stop = stop, .only = std::move(two), .ranking = Ranking::All});
    if (both.stats.depth < best.stats.depth && both.stats.stopped_by == StoppedBy::Time) return {};
    const auto score_of = [&](const std::string& move) -> std::optional<Score> {
        for (const auto& entry : both.ranked)
            if (text_of(entry.move) == move && (entry.kind == ScoreKind::Exact || entry.kind == ScoreKind::Estimate))
                return entry.score;
        return {};
    };
    const auto score = score_of(liked), played = score_of(report.move);
    if (!score || !played) return {};
    const bool is_better = *score > *played;
    DeeperLook look;
    look.best = is_better ? liked : report.move;
    look.best_score = is_better ? *score : *played;
    look.played_score = *played;
    look.depth = best.stats.depth;
    look.nodes = best.stats.nodes + both.stats.nodes;
    look.was_overlooked =
        std::find(report.overlooked.begin(), report.overlooked.end(), look.best) != report.overlooked.end();
    return look;
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
    const ChooserInfo* info = game_.kit.choosers.find(game, spec.chooser_name());
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
    return count_sequences_as(game_.kit.game, position(), depth, options);
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
        if (goes_on) entry.next = chance_again;
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

}  // namespace arvek
