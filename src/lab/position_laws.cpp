#include "position_laws.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <limits>
#include <numeric>

#include "answers.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/text.hpp"

namespace arvek::detail {

namespace {

bool has_twice(const MoveList<AnyMove>& moves) {
    for (std::size_t i = 0; i < moves.size(); ++i)
        for (std::size_t j = i + 1; j < moves.size(); ++j)
            if (moves[i] == moves[j]) return true;
    return false;
}

/// As a message shows a number: enough places to tell two numbers apart.
std::string exact(double number) { return number_text(number); }

}  // namespace

PositionLaws::PositionLaws(const AnyGame& game, std::uint64_t seed, Findings& findings, CheckWatcher* watcher)
    : game_(game), seed_(seed), findings_(findings), watcher_(watcher), players_(players_of(game)) {
    if (offers(game_, Ability::Acting)) names_ = game_.act_names();
    if (offers(game_, Ability::Patterns)) patterns_ = game_.patterns();
}

std::string PositionLaws::name(const AnyPosition& position, const AnyMove& move) const {
    return move_name_of(game_, position, move);
}

void PositionLaws::examine_level_change(int level) {
    const LevelChange change = game_.level_change(level);
    const std::string of = "of level " + std::to_string(level) + " ";
    const auto complain = [&](const std::string& what) { fault("level change", "level_change", of + what, {}); };
    if (!(change == game_.level_change(level))) complain("it says another the second time");
    if (change.depth && *change.depth < 1) complain("the depth is " + std::to_string(*change.depth) + ", below 1");
    if (change.nodes && *change.nodes < 1) complain("there are no nodes at all");
    constexpr double endless = std::numeric_limits<double>::infinity();
    const auto within = [&](const char* name, const std::optional<double>& value, double most) {
        if (value && !(*value >= 0 && *value <= most && std::isfinite(*value)))
            complain(std::string(name) + " is " + exact(*value) +
                     (most < endless ? ", not from 0 to 1" : ", not 0 or more"));
    };
    within("overlooks", change.overlooks, 1);
    within("sees_wins", change.sees_wins, 1);
    within("sees_losses", change.sees_losses, 1);
    within("deeper", change.deeper, 1);
    within("noise", change.noise, endless);
    within("most_lost", change.most_lost, endless);
    within("variety", change.variety, endless);
}

void PositionLaws::examine_game() {
    if (!(game_.initial_position() == game_.initial_position()))
        fault("left-over state", "initial_position", "it gives another position the second time", {});
    if (offers(game_, Ability::MostPayoff)) {
        const Payoff most = game_.most_payoff();
        if (most < 1 || most > largest_payoff)
            fault("payoffs", "most_payoff",
                  "it is " + std::to_string(most) + ", not from 1 to " + std::to_string(largest_payoff), {});
    }
    if (offers(game_, Ability::Scale)) {
        const double units = game_.units_per_doubling();
        if (!(units > 0) || !std::isfinite(units))
            fault("scale", "units_per_doubling", "it is " + exact(units) + ", not more than 0", {});
    }
    if (offers(game_, Ability::LevelChange))
        for (int level = 1; level <= 10; ++level) examine_level_change(level);
    if (offers(game_, Ability::Repetition))
        if (const int occurrence = game_.draw_at_occurrence(); occurrence == 1)
            fault("repetition", "draw_at_occurrence", "it is 1, so that every game is a draw before it begins", {});
    for (int i = 0; i < players_; ++i) {
        const std::string one = game_.player_name(static_cast<Player>(i));
        if (one.empty()) fault("names", "player_name", "player " + std::to_string(i + 1) + " has an empty name", {});
        for (int j = 0; j < i; ++j)
            if (one == game_.player_name(static_cast<Player>(j)))
                fault("names", "player_name", "two players are both called '" + one + "'", {});
    }
    const auto unique = [&](const auto& all, const char* function, const auto& name_of) {
        for (std::size_t i = 0; i < all.size(); ++i) {
            const std::string one = name_of(all[i]);
            if (one.empty()) fault("names", function, "one has an empty name", {});
            for (std::size_t j = 0; j < i; ++j)
                if (one == name_of(all[j])) fault("names", function, "two are both called '" + one + "'", {});
        }
    };
    unique(patterns_, "patterns", [](const auto& each) { return each.name; });
    for (const Pattern& pattern : patterns_)
        if (pattern.ways < 1 || pattern.ways > most_ways)
            fault("patterns", "patterns",
                  "'" + pattern.name + "' can look " + std::to_string(pattern.ways) + " ways, not 1 to " +
                      std::to_string(most_ways),
                  {});
    for (const Pattern& pattern : patterns_)
        if (!pattern.rival_ways.empty() && (pattern.rival_ways.size() != static_cast<std::size_t>(pattern.ways) ||
                                            pattern.rival_place >= static_cast<int>(patterns_.size())))
            fault("patterns", "patterns", "'" + pattern.name + "' does not say of each way how the rival sees it", {});
    if (patterns_.size() > most_patterns)
        fault("patterns", "patterns",
              "there are " + std::to_string(patterns_.size()) + ", more than " + std::to_string(most_patterns), {});
    if (!(patterns_ == (offers(game_, Ability::Patterns) ? game_.patterns() : std::vector<Pattern>())))
        fault("patterns", "patterns", "it gives others the second time", {});
    unique(game_.quantities(), "quantities", [](const auto& each) { return std::string(each.name); });
    unique(game_.suggesters(), "suggesters", [](const auto& each) { return std::string(each.reason); });
    for (const auto* all : {&names_.actors, &names_.actions, &names_.kinds, &names_.targets})
        unique(*all, "act_names", [](const std::string& each) { return each; });
    if (names_.kinds.size() > 64)
        fault("acts", "act_names", "it gives " + std::to_string(names_.kinds.size()) + " kinds, more than 64", {});
}

std::vector<std::size_t> PositionLaws::places_to_look_at(std::size_t moves) {
    constexpr std::size_t most = 1'000, of_more = 200;
    std::vector<std::size_t> places(std::min(moves, moves > most ? of_more : most));
    std::iota(places.begin(), places.end(), std::size_t{0});
    if (places.size() == moves) return places;
    Random random(derived_seed(seed_, positions_));
    for (std::size_t i = 1; i + 1 < places.size(); ++i) places[i] = static_cast<std::size_t>(random.below(moves));
    places.back() = moves - 1;
    std::sort(places.begin(), places.end());
    places.erase(std::unique(places.begin(), places.end()), places.end());
    return places;
}

MoveList<AnyMove> PositionLaws::examine(const AnyPosition& position, const Path& path) {
    note(path);
    const AnyPosition before = position;
    MoveList<AnyMove> moves;
    if (!examine_alone(position, path)) return moves;
    if (chance_is_next(game_, position)) {
        examine_events(position, path);
        generate_what_is_next(game_, position, moves);
        examine_texts(position, moves, path);
        examine_board(position, moves, path);
        for (const AnyMove& event : moves) examine_move(position, event, path);
        return moves;
    }
    const Player player = game_.player_to_move(position);
    game_.generate_moves(position, moves);
    if (moves.empty()) return moves;
    MoveList<AnyMove> again;
    game_.generate_moves(position, again);
    if (!(moves == again)) fault("left-over state", "generate_moves", "it gives other moves the second time", path);
    const std::vector<std::size_t> looked_at = places_to_look_at(moves.size());
    MoveList<AnyMove> some;
    for (const std::size_t i : looked_at) {
        some.push_back(moves[i]);
        // Where all are looked at, each two once.
        for (std::size_t j = looked_at.size() == moves.size() ? i + 1 : 0; j < moves.size(); ++j)
            if (j != i && moves[i] == moves[j])
                fault("duplicate move", "generate_moves", "it gives " + name(position, moves[i]) + " twice", path);
    }
    examine_texts(position, moves, path);
    examine_board(position, moves, path);
    examine_visits(position, moves, path);
    examine_views(position, moves, player, path);
    bool stands_still = true;
    for (const AnyMove& move : some)
        if (examine_move(position, move, path)) stands_still = false;
    note(path);
    if (stands_still)
        fault("progress", "play", "no move changes the position; does it take the position by value, or change a copy?",
              path);
    examine_parts(position, moves, path);
    examine_null_move(position, moves, player, path);
    examine_relatives(position, some, path);
    note(path);
    examine_bounds(position, moves, player, path);
    examine_advice(position, moves, path);
    // A position that shares something with its copies may even compare equal, but it no longer moves as it did.
    MoveList<AnyMove> afterwards;
    const bool same = position == before && !game_.outcome(position);
    if (same) game_.generate_moves(position, afterwards);
    if (!same || !(afterwards == moves))
        fault("copying", "play", "looking at a position, or playing from a copy of it, changed it", path);
    return moves;
}

bool PositionLaws::examine_alone(const AnyPosition& position, const Path& path) {
    ++positions_;
    examine_hash(position, path);
    examine_equals(position, path);
    examine_repetition_key(position, path);
    examine_patterns(position, path);
    const auto outcome = game_.outcome(position);
    if (outcome != game_.outcome(position))
        fault("left-over state", "outcome", "it answers differently the second time", path);
    if (offers(game_, Ability::Text)) {
        const std::string text = game_.position_text(position);
        findings_.guarded(path, "position text", [&] {
            if (!(game_.read_position(text) == position))
                fault("position text", "read_position", "'" + text + "' is read back as another position", path);
        });
        if (text.find('\n') != std::string::npos)
            fault("position text", "position_text", "the text has more than one line", path);
    }
    if (offers(game_, Ability::Drawing))
        for (const char letter : game_.drawing(position))
            if (static_cast<unsigned char>(letter) < 0x20 && letter != '\n') {
                fault("drawing", "drawing", "it holds a control character", path);
                break;
            }
    if (outcome) {
        examine_outcome(position, *outcome, path);
        examine_board(position, {}, path);
        return false;
    }
    if (chance_is_next(game_, position)) return true;
    const Player player = game_.player_to_move(position);
    if (static_cast<int>(index_of(player)) >= players_) {
        fault("player", "player_to_move",
              "it names a player that is not there: the game has " + std::to_string(players_), path);
        return false;
    }
    MoveList<AnyMove> moves;
    game_.generate_moves(position, moves);
    if (moves.empty()) {
        fault("no move", "outcome",
              "it says that play goes on, but generate_moves() gives no move: is a stalemate forgotten?", path);
        return false;
    }
    examine_evaluation(position, path);
    return true;
}

void PositionLaws::examine_patterns(const AnyPosition& position, const Path& path) {
    if (patterns_.empty()) return;
    std::vector<std::vector<std::uint16_t>> sights;
    bool sound = true;
    for (int i = 0; i < players_; ++i) {
        const auto player = static_cast<Player>(i);
        constexpr std::uint16_t not_written = 0xa5a5, nor_then = 0x5a5a;
        std::vector<std::uint16_t> ways(patterns_.size(), not_written), again(patterns_.size(), nor_then);
        game_.read_patterns(position, player, ways);
        game_.read_patterns(position, player, again);
        for (std::size_t at = 0; at < ways.size(); ++at) {
            const std::string of = "as player " + std::to_string(i + 1) + " sees it, '" + patterns_[at].name + "' ";
            std::string what;
            if (ways[at] == not_written && again[at] == nor_then)
                what = "is not set";
            else if (ways[at] != again[at])
                what = "looks another way the second time";
            else if (ways[at] >= patterns_[at].ways)
                what = "looks way " + std::to_string(ways[at]) + ", and there are 0 to " +
                       std::to_string(patterns_[at].ways - 1);
            if (what.empty()) continue;
            sound = false;
            fault("patterns", "read_patterns", of + what, path);
        }
        sights.push_back(std::move(ways));
    }
    if (!sound || players_ != 2) return;
    for (std::size_t at = 0; at < patterns_.size(); ++at) {
        const Pattern& pattern = patterns_[at];
        if (pattern.rival_ways.size() != static_cast<std::size_t>(pattern.ways)) continue;  // said of the game
        const std::size_t place = pattern.rival_place < 0 ? at : static_cast<std::size_t>(pattern.rival_place);
        if (place >= patterns_.size()) continue;
        for (std::size_t i = 0; i < 2; ++i)
            if (const std::uint16_t seen = sights[1 - i][place], said = pattern.rival_ways[sights[i][at]]; seen != said)
                fault("patterns", "patterns",
                      "where player " + std::to_string(i + 1) + " sees '" + pattern.name + "' look way " +
                          std::to_string(sights[i][at]) + ", the rival sees '" + patterns_[place].name + "' look way " +
                          std::to_string(seen) + ", and rival_ways says " + std::to_string(said),
                      path);
    }
}

void PositionLaws::examine_outcome(const AnyPosition& position, const Outcome& outcome, const Path& path) {
    for (std::size_t i = static_cast<std::size_t>(players_); i < max_players; ++i)
        if (const Payoff payoff = outcome.payoff(static_cast<Player>(i)); payoff != 0)
            fault("payoffs", "outcome", "a player that is not there is paid " + std::to_string(payoff), path);
    const Payoff first = outcome.payoff(Player::First), second = outcome.payoff(Player::Second);
    const Payoff most = most_payoff_of(game_);
    for (int i = 0; i < players_; ++i)
        if (const Payoff payoff = outcome.payoff(static_cast<Player>(i)); std::abs(payoff) > most)
            fault("payoffs", offers(game_, Ability::MostPayoff) ? "most_payoff" : "outcome",
                  "a payoff of " + std::to_string(payoff) + " is beyond the most, " + std::to_string(most), path);
    if (players_ == 2 && std::int64_t{first} + second != 0)
        fault("payoffs", "outcome",
              "the payoffs " + std::to_string(first) + " and " + std::to_string(second) + " do not sum to zero", path);
    if (moves_after_end_) return;
    findings_.guarded(path, "exception", [&] {
        MoveList<AnyMove> late;
        game_.generate_moves(position, late);
        moves_after_end_ = !late.empty();
    });
}

void PositionLaws::examine_hash(const AnyPosition& position, const Path& path) {
    if (!offers(game_, Ability::Hash)) return;
    const std::uint64_t hash = game_.hash(position);
    if (hash != game_.hash(AnyPosition(position))) fault("hash", "hash", "a copy of a position has another hash", path);
    constexpr std::size_t remembered = 1 << 16;
    if (seen_.empty()) seen_.resize(remembered);
    // Two different positions with one hash: remembered by a number of the hash, so that it costs little.
    Seen& entry = seen_[mix_bits(hash) % remembered];
    if (entry.known && entry.hash == hash && are_told_apart(entry.position, position))
        findings_.fault_of_two("hash", "hash", "two different positions have one hash; does the player to move count?",
                               path, entry.path);
    if (entry.known && entry.hash == hash && entry.position == position && !(entry.path == path))
        if (const std::string what = difference_of_equals(position, entry.position); !what.empty())
            findings_.fault_of_two("equality", "operator==", "two positions are equal, but " + what, path, entry.path);
    const bool is_new = !entry.known || entry.hash != hash || entry.path.size() > path.size();
    if (is_new) entry = {true, hash, position, path};
    // Equal positions reached another way must have the same hash.
    if (!offers(game_, Ability::Text)) return;
    constexpr std::size_t by_text = 1 << 14;
    if (seen_by_text_.empty()) seen_by_text_.resize(by_text);
    Seen& other = seen_by_text_[hash_of_text(game_.position_text(position)) % by_text];
    if (other.known && other.position == position && other.hash != hash)
        findings_.fault_of_two("hash", "hash", "two equal positions have different hashes", path, other.path);
    if (!other.known || !(other.position == position)) other = {true, hash, position, path};
}

void PositionLaws::examine_equals(const AnyPosition& position, const Path& path) {
    // What hash and text tell apart, and equality does not, meets by neither: by whose turn it is and how that stands.
    constexpr std::size_t kinds = 1 << 10, kept = 8;
    if (game_.outcome(position)) return;
    const bool chance = chance_is_next(game_, position);
    std::uint64_t kind = chance ? 99 : static_cast<std::uint64_t>(game_.player_to_move(position));
    if (!chance && offers(game_, Ability::Evaluation))
        kind = kind * 1'000'003 + static_cast<std::uint64_t>(game_.evaluate(position, Player::First).number());
    if (seen_by_kind_.empty()) seen_by_kind_.resize(kinds * kept);
    const std::size_t first = mix_bits(kind) % kinds * kept;
    const std::uint64_t hash = offers(game_, Ability::Hash) ? game_.hash(position) : 0;
    for (std::size_t i = first; i < first + kept; ++i) {
        const Seen& other = seen_by_kind_[i];
        if (!other.known || !(other.position == position) || other.path == path) continue;
        if (other.hash != hash)
            findings_.fault_of_two("hash", "hash", "two equal positions have different hashes", path, other.path);
        else if (const std::string what = difference_of_equals(position, other.position); !what.empty())
            findings_.fault_of_two("equality", "operator==", "two positions are equal, but " + what, path, other.path);
    }
    seen_by_kind_[first + positions_ % kept] = {true, hash, position, path};
}

void PositionLaws::examine_repetition_key(const AnyPosition& position, const Path& path) {
    if (!offers(game_, Ability::RepetitionKey)) return;
    const std::uint64_t key = game_.repetition_key(position);
    if (key != game_.repetition_key(AnyPosition(position)))
        fault("repetition", "repetition_key", "a copy of a position has another key", path);
    if (game_.outcome(position)) return;
    // Positions that are the same to the rule must at least have the same player to move and the same moves.
    constexpr std::size_t remembered = 1 << 14;
    if (seen_by_key_.empty()) seen_by_key_.resize(remembered);
    Seen& entry = seen_by_key_[mix_bits(key) % remembered];
    if (entry.known && entry.hash == key && !(entry.position == position)) {
        if (!difference_of_what_is_next(position, entry.position).empty())
            findings_.fault_of_two("repetition", "repetition_key",
                                   "two positions have one key, but not the same player to move and the same moves",
                                   path, entry.path);
    }
    if (!entry.known || entry.hash != key || entry.path.size() > path.size()) entry = {true, key, position, path};
}

void PositionLaws::examine_texts(const AnyPosition& position, const MoveList<AnyMove>& next, const Path& path) {
    if (!offers(game_, Ability::Text)) return;
    std::vector<std::string> texts;
    for (const AnyMove& move : next) texts.push_back(game_.move_text(position, move));
    std::vector<std::string> sorted = texts;
    std::sort(sorted.begin(), sorted.end());
    for (std::size_t i = 0; i < sorted.size(); ++i) {
        if (sorted[i].empty() || sorted[i].find_first_of(" \n\t") != std::string::npos)
            fault("move text", "move_text", "'" + sorted[i] + "' is empty or has a space in it", path);
        if (i > 0 && sorted[i] == sorted[i - 1] && !has_twice(next))
            fault("move text", "move_text", "two different moves are both written '" + sorted[i] + "'", path);
    }
    if (offers(game_, Ability::ReadMove))
        for (std::size_t i = 0; i < next.size(); ++i)
            findings_.guarded(path, "move text", [&] {
                if (!(game_.read_move(position, texts[i]) == next[i]))
                    fault("move text", "read_move", "'" + texts[i] + "' is read back as another move", path);
            });
    if (offers(game_, Ability::Coordinates)) {
        std::vector<std::string> names;
        for (const AnyMove& move : next) names.push_back(game_.coordinates(position, move));
        for (std::size_t i = 0; i < names.size(); ++i) {
            if (names[i].empty() || names[i].find_first_of(" \n\t") != std::string::npos)
                fault("move text", "coordinates", "'" + names[i] + "' is empty or has a space in it", path);
            findings_.guarded(path, "move text", [&] {
                if (!(move_from_text(game_, position, names[i]) == next[i]))
                    fault("move text", "coordinates", "'" + names[i] + "' is read back as another move", path);
            });
        }
    }
    compare_with_its_text(position, "play", "after the moves", path);
}

void PositionLaws::compare_with_its_text(const AnyPosition& position, const char* function, const std::string& where,
                                         const Path& path) {
    if (!offers(game_, Ability::Text)) return;
    AnyPosition read;
    try {
        read = game_.read_position(game_.position_text(position));
    } catch (const InputError&) {
        return;  // said where every position is looked at
    }
    if (!(read == position)) return;
    if (offers(game_, Ability::Hash) && game_.hash(read) != game_.hash(position))
        fault("hash", "hash",
              where +
                  " the hash is another than that of the equal position that its text is read to: is a part of "
                  "the hash that " +
                  std::string(function) + "() keeps up to date forgotten?",
              path);
    if (offers(game_, Ability::RepetitionKey) && game_.repetition_key(read) != game_.repetition_key(position))
        fault("repetition", "repetition_key",
              where + " the key is another than that of the equal position that its text is read to", path);
    if (offers(game_, Ability::Evaluation) && !game_.outcome(position) && !chance_is_next(game_, position)) {
        const Player player = game_.player_to_move(position);
        const Score one = game_.evaluate(position, player), other = game_.evaluate(read, player);
        if (one != other)
            fault("equality", "evaluate",
                  where + " it gives " + std::to_string(one.number()) +
                      ", and of the equal position that the text is "
                      "read to " +
                      std::to_string(other.number()),
                  path);
    }
}

void PositionLaws::examine_evaluation(const AnyPosition& position, const Path& path) {
    if (!offers(game_, Ability::Evaluation)) return;
    const Score first = game_.evaluate(position, Player::First),
                second = players_ > 1 ? game_.evaluate(position, Player::Second) : -first;
    if (first.is_proven() || second.is_proven())
        fault("evaluation", "evaluate", "it claims a proven win or loss where play goes on", path);
    else if (players_ == 2 && first != -second)
        fault("evaluation", "evaluate",
              "it gives " + std::to_string(first.number()) + " for the first player and " +
                  std::to_string(second.number()) + " for the second, not the opposite",
              path);
    else if (first != game_.evaluate(position, Player::First))
        fault("left-over state", "evaluate", "it answers differently the second time", path);
}

void PositionLaws::examine_events(const AnyPosition& position, const Path& path) {
    if (!lists_events(game_)) return;
    MoveList<Event<AnyMove>> events, again;
    game_.generate_events(position, events);
    game_.generate_events(position, again);
    if (!(events == again)) fault("left-over state", "generate_events", "it gives other events the second time", path);
    if (events.empty()) fault("probabilities", "generate_events", "chance is next, but there is no event", path);
    double sum = 0;
    for (std::size_t i = 0; i < events.size(); ++i) {
        const double probability = events[i].probability;
        sum += probability;
        if (!(probability > 0 && probability <= 1))
            fault("probabilities", "generate_events",
                  name(position, events[i].move) + " has the probability " + exact(probability) +
                      ", not more than 0 and at most 1",
                  path);
        for (std::size_t j = i + 1; j < events.size(); ++j)
            if (events[i].move == events[j].move)
                fault("probabilities", "generate_events", "it gives " + name(position, events[i].move) + " twice",
                      path);
    }
    constexpr double rounding = 1e-9;
    if (!events.empty() && !(sum >= 1 - rounding && sum <= 1 + rounding))
        fault("probabilities", "generate_events", "the probabilities sum to " + exact(sum) + ", not to 1", path);
}

void PositionLaws::examine_visits(const AnyPosition& position, const MoveList<AnyMove>& moves, const Path& path) {
    if (!offers(game_, Ability::Visiting)) return;
    for (const std::size_t wanted : {moves.size() + 1, (moves.size() + 1) / 2, std::size_t{1}}) {
        MoveList<AnyMove> visited;
        game_.visit_moves(position, [&](const AnyMove& move) {
            visited.push_back(move);
            return visited.size() < wanted;
        });
        const std::size_t expected = std::min(wanted, moves.size());
        if (visited.size() == expected && std::equal(visited.begin(), visited.end(), moves.begin())) continue;
        const std::string counted = "told to stop after " + std::to_string(wanted) + " it gives " +
                                    std::to_string(visited.size()) + " moves where generate_moves() gives " +
                                    std::to_string(moves.size());
        fault("visited moves", "visit_moves",
              visited.size() != expected ? counted : "it gives other moves than generate_moves(), or another order",
              path);
    }
}

bool PositionLaws::reads_back(const AnyPosition& position, const Path& path) {
    std::string why = "its text is read as another position";
    try {
        if (game_.read_position(game_.position_text(position)) == position) return true;
    } catch (const InputError& error) {
        why = std::string("its text is refused, ") + error.what();
    }
    fault("position text", "read_position", why, path);
    return false;
}

void PositionLaws::examine_drawn(const AnyPosition& drawn, Player player, Random& random, const Path& path) {
    constexpr int most_plies = 60;
    drawn_from_ = " (in a position that sample() draws from what " + game_.player_name(player) + " sees)";
    struct Forget {
        std::string& text;
        ~Forget() { text.clear(); }
    } const forget{drawn_from_};
    findings_.guarded(path, "samples", [&] {
        AnyPosition at = drawn;
        for (int ply = 0; ply < most_plies && examine_alone(at, path); ++ply) {
            MoveList<AnyMove> next;
            generate_what_is_next(game_, at, next);
            if (ply == 0 && offers(game_, Ability::Text) && !reads_back(at, path)) return;
            for (std::size_t i = 0; i < next.size(); ++i)
                for (std::size_t j = i + 1; j < next.size() && next.size() < 200; ++j)
                    if (next[i] == next[j]) {
                        fault("samples", "sample", "what is next there has " + name(at, next[i]) + " twice", path);
                        return;
                    }
            if (next.empty()) {
                if (!chance_is_next(game_, at))
                    fault("samples", "sample", "play goes on there, and there is no move", path);
                return;
            }
            game_.play(at, chance_is_next(game_, at) ? drawn_event(game_, at, random)
                                                     : next[static_cast<std::size_t>(random.below(next.size()))]);
        }
    });
}

void PositionLaws::examine_views(const AnyPosition& position, const MoveList<AnyMove>& moves, Player to_move,
                                 const Path& path) {
    if (!has_views(game_)) return;
    Random random(derived_seed(seed_, path.size()));
    for (int i = 0; i < players_; ++i) {
        const Player player = static_cast<Player>(i);
        const AnyView view = game_.view(position, player);
        if (!(view == game_.view(position, player)))
            fault("left-over state", "view", "it gives another view the second time", path);
        for (int draw = 0; draw < 2; ++draw) {
            const AnyPosition drawn = game_.sample(view, random);
            if (!(game_.view(drawn, player) == view)) {
                fault("samples", "sample",
                      "a position drawn from a view of " + game_.player_name(player) + " does not give the view again",
                      path);
                continue;
            }
            if (draw == 0 && drawn_from_.empty()) examine_drawn(drawn, player, random, path);
            if (game_.outcome(drawn).has_value() || chance_is_next(game_, drawn) ||
                game_.player_to_move(drawn) != to_move) {
                fault("views", "view",
                      "who is next, or whether play is over, does not follow from what " + game_.player_name(player) +
                          " sees",
                      path);
                continue;
            }
            if (player != to_move) continue;
            MoveList<AnyMove> others;
            game_.generate_moves(drawn, others);
            bool same = others.size() == moves.size();
            for (const AnyMove& move : moves) same = same && others.contains(move);
            if (!same)
                fault("views", "view",
                      "the legal moves of " + game_.player_name(player) +
                          " do not follow from what it sees: a position drawn from its view has others",
                      path);
            if (!same || !offers(game_, Ability::Text)) continue;
            for (const AnyMove& move : moves)
                if (game_.move_text(position, move) != game_.move_text(drawn, move))
                    fault("views", "move_text",
                          "the text of a move of " + game_.player_name(player) + " depends on what it does not see",
                          path);
        }
    }
}

bool PositionLaws::examine_move(const AnyPosition& position, const AnyMove& move, const Path& path) {
    Path with_move = path;
    with_move.push_back(move);
    note(with_move);
    bool changes = true;
    findings_.guarded(with_move, "exception", [&] {
        AnyPosition after = position;
        game_.play(after, move);
        changes = !(after == position);
        AnyPosition twin = position;
        game_.play(twin, move);
        if (!(after == twin))
            fault("left-over state", "play", "the same move leads to another position the second time", with_move);
        examine_alone(after, with_move);
        if (!offers(game_, Ability::TakeBack)) return;
        AnyPosition changed = position;
        const auto undo = game_.play_reversibly(changed, move);
        if (!(changed == after))
            fault("take-back", "play_reversibly", "it and play() lead to different positions", with_move);
        else if (offers(game_, Ability::Hash) && game_.hash(changed) != game_.hash(after))
            fault("take-back", "play_reversibly", "it and play() lead to equal positions with different hashes",
                  with_move);
        game_.take_back(changed, move, undo);
        if (!(changed == position)) fault("take-back", "take_back", "it does not restore the position", with_move);
        if (offers(game_, Ability::Hash) && game_.hash(changed) != game_.hash(position))
            fault("take-back", "take_back", "it does not restore the hash", with_move);
        // What is restored must also move as before.
        MoveList<AnyMove> moves, restored;
        generate_what_is_next(game_, position, moves);
        generate_what_is_next(game_, changed, restored);
        if (!(moves == restored))
            fault("take-back", "take_back", "the position that it restores has other moves", with_move);
        if (offers(game_, Ability::Evaluation) && !chance_is_next(game_, position))
            if (game_.evaluate(position, Player::First) != game_.evaluate(changed, Player::First))
                fault("take-back", "take_back", "the position that it restores is evaluated differently", with_move);
    });
    return changes;
}

void PositionLaws::examine_take_back(const Path& path, const std::vector<AnyPosition>& history) {
    if (!offers(game_, Ability::TakeBack) || path.empty()) return;
    // Along a whole line, and back again.
    AnyPosition position = history.front();
    std::vector<std::shared_ptr<void>> undos;
    Path so_far;
    for (const AnyMove& move : path) {
        so_far.push_back(move);
        undos.push_back(game_.play_reversibly(position, move));
        if (position == history[so_far.size()]) continue;
        fault("take-back", "play_reversibly", "some of them in a row lead to another position than play()", so_far);
        return;
    }
    for (std::size_t ply = path.size(); ply-- > 0;) {
        game_.take_back(position, path[ply], undos[ply]);
        const bool same = position == history[ply] &&
                          (!offers(game_, Ability::Hash) || game_.hash(position) == game_.hash(history[ply]));
        if (same) continue;
        fault("take-back", "take_back",
              "moves played in a row and taken back do not lead back: " + std::to_string(path.size() - ply) +
                  " taken back",
              path);
        return;
    }
}

void PositionLaws::examine_parts(const AnyPosition& position, const MoveList<AnyMove>& legal, const Path& path) {
    const auto hold = [&](const char* law, const char* function, const char* called, const MoveList<AnyMove>& part) {
        for (const AnyMove& move : part)
            if (!legal.contains(move))
                fault(law, function, name(position, move) + " is " + called + " but not legal", path);
        if (has_twice(part)) fault(law, function, "it gives a move twice", path);
    };
    MoveList<AnyMove> part, again;
    if (offers(game_, Ability::ForcingMoves)) {
        game_.generate_forcing_moves(position, part);
        game_.generate_forcing_moves(position, again);
        if (!(part == again))
            fault("left-over state", "generate_forcing_moves", "it gives other moves the second time", path);
        hold("forcing moves", "generate_forcing_moves", "forcing", part);
    }
    if (offers(game_, Ability::QuietMoves)) {
        MoveList<AnyMove> quiet;
        again.clear();
        game_.generate_quiet_moves(position, quiet);
        game_.generate_quiet_moves(position, again);
        if (!(quiet == again))
            fault("left-over state", "generate_quiet_moves", "it gives other moves the second time", path);
        hold("quiet moves", "generate_quiet_moves", "quiet", quiet);
        for (const AnyMove& move : legal)
            if (part.contains(move) == quiet.contains(move))
                fault("quiet moves", "generate_quiet_moves",
                      name(position, move) +
                          (quiet.contains(move) ? " is forcing as well" : " is neither forcing nor quiet"),
                      path);
    }
    if (offers(game_, Ability::MoveCount))
        if (const int count = game_.count_moves(position); count != static_cast<int>(legal.size()))
            fault(
                "move count", "count_moves",
                "it says " + std::to_string(count) + ", and there are " + std::to_string(legal.size()) + " legal moves",
                path);
    if (offers(game_, Ability::SufficientMoves)) {
        part.clear();
        again.clear();
        game_.generate_sufficient_moves(position, part);
        game_.generate_sufficient_moves(position, again);
        if (!(part == again))
            fault("left-over state", "generate_sufficient_moves", "it gives other moves the second time", path);
        if (part.empty())
            fault("sufficient moves", "generate_sufficient_moves", "it gives none, and yet the game goes on", path);
        hold("sufficient moves", "generate_sufficient_moves", "sufficient", part);
    }
}

bool PositionLaws::are_told_apart(const AnyPosition& a, const AnyPosition& b) const {
    return !(a == b) && !(offers(game_, Ability::RepetitionKey) && is_same_for_repetition(game_, a, b));
}

std::string PositionLaws::difference_of_what_is_next(const AnyPosition& a, const AnyPosition& b) const {
    const bool chance = chance_is_next(game_, a);
    if (chance != chance_is_next(game_, b)) return "chance is next in one alone";
    if (!chance && game_.player_to_move(a) != game_.player_to_move(b)) return "another player is next";
    MoveList<AnyMove> of_a, of_b;
    generate_what_is_next(game_, a, of_a);
    generate_what_is_next(game_, b, of_b);
    const bool same = of_a.size() == of_b.size() &&
                      std::all_of(of_a.begin(), of_a.end(), [&](const AnyMove& move) { return of_b.contains(move); });
    return same ? "" : "they have other legal moves";
}

std::string PositionLaws::difference_of_equals(const AnyPosition& a, const AnyPosition& b) const {
    const auto outcome = game_.outcome(a);
    if (outcome != game_.outcome(b)) return "the game is over in one alone, or its outcome is another";
    if (outcome) return "";
    if (std::string next = difference_of_what_is_next(a, b); !next.empty()) return next;
    if (offers(game_, Ability::Evaluation) && !chance_is_next(game_, a) &&
        game_.evaluate(a, Player::First) != game_.evaluate(b, Player::First))
        return "they are evaluated differently";
    return "";
}

void PositionLaws::examine_relatives(const AnyPosition& position, const MoveList<AnyMove>& moves, const Path& path) {
    const bool has_hash = offers(game_, Ability::Hash);
    const auto collide = [&](const AnyPosition& a, const AnyPosition& b) {
        return has_hash && game_.hash(a) == game_.hash(b) && are_told_apart(a, b);
    };
    Path way = path;
    const auto play_on = [&](const AnyPosition& from, const AnyMove& move, AnyPosition& to, std::size_t plies) {
        way.resize(path.size() + plies);
        way.push_back(move);
        note(way);
        to = from;
        game_.play(to, move);
        return !game_.outcome(to) && !chance_is_next(game_, to);
    };
    const auto legal = [&](const AnyPosition& at) {
        MoveList<AnyMove> all;
        game_.generate_moves(at, all);
        return all;
    };
    constexpr std::size_t most_repeated = 12;
    for (std::size_t i = 0; has_hash && i < std::min(moves.size(), most_repeated); ++i) {
        AnyPosition once, twice;
        const bool goes_on = play_on(position, moves[i], once, 0);
        if (collide(position, once))
            fault("hash", "hash", "the position after the move has the hash of the one before it", way);
        if (!goes_on || !legal(once).contains(moves[i])) continue;
        play_on(once, moves[i], twice, 1);
        if (collide(position, twice) || collide(once, twice))
            fault("hash", "hash", "after the same move twice the hash is one of before, and the position is not", way);
    }
    // To and fro, by both: where that leads to an equal position, it must play on as the first one does.
    constexpr std::uint64_t one_in = 64;
    constexpr std::size_t most_moves = 48;
    if (moves.empty() || moves.size() > most_moves || positions_ % one_in != 0) return;
    Random random(derived_seed(seed_, positions_));
    for (int attempt = 0; attempt < 2; ++attempt) {
        AnyPosition one, two, three, four;
        const AnyMove& there = moves[static_cast<std::size_t>(random.below(moves.size()))];
        if (!play_on(position, there, one, 0)) continue;
        const auto replies = legal(one);
        if (replies.empty()) continue;
        const AnyMove& reply = replies[static_cast<std::size_t>(random.below(replies.size()))];
        if (!play_on(one, reply, two, 1)) continue;
        const auto backs = legal(two);
        if (backs.size() > most_moves) continue;
        for (const AnyMove& back : backs) {
            if (!play_on(two, back, three, 2)) continue;
            const auto last = legal(three);
            for (const AnyMove& end : last) {
                if (last.size() > most_moves) break;
                if (!play_on(three, end, four, 3) || !(four == position)) continue;
                if (const std::string what = difference_of_equals(four, position); !what.empty())
                    fault("equality",
                          "operator==", "four moves on it is equal to the position before them, but " + what, way);
            }
        }
    }
}

void PositionLaws::examine_null_move(const AnyPosition& position, const MoveList<AnyMove>& legal, Player player,
                                     const Path& path) {
    if (!offers(game_, Ability::NullMove)) return;
    const bool sound = game_.nothing_is_sound(position);
    if (sound != game_.nothing_is_sound(position))
        fault("left-over state", "nothing_is_sound", "it answers differently the second time", path);
    if (!sound) return;
    const auto nothing = [&](AnyPosition now, const char* where) {
        game_.play_nothing(now);
        if (game_.outcome(now)) return now;
        if (!chance_is_next(game_, now)) {
            MoveList<AnyMove> moves;
            game_.generate_moves(now, moves);
            if (moves.empty())
                fault("null move", "play_nothing", "where it is said to be sound, nobody can move after it", path);
        }
        compare_with_its_text(now, "play_nothing", where, path);
        return now;
    };
    const AnyPosition once = nothing(position, "after no move");
    AnyPosition twin = position;
    game_.play_nothing(twin);
    if (!(twin == once)) fault("left-over state", "play_nothing", "it leads to another position the second time", path);
    if (once == position) {
        fault("null move", "play_nothing", "it leaves the position as it is: the other player should be next", path);
        return;
    }
    if (offers(game_, Ability::Hash) && game_.hash(once) == game_.hash(position))
        fault("null move", "play_nothing",
              "after no move the position is another and its hash is not: does the player to move count in it?", path);
    if (game_.outcome(once) || chance_is_next(game_, once)) return;
    if (players_ == 2 && game_.player_to_move(once) == player)
        fault("null move", "play_nothing", game_.player_name(player) + " is next once more, as if nothing had happened",
              path);
    if (offers(game_, Ability::Evaluation)) examine_evaluation(once, path);
    // One more ply from there, which a forgotten part of a hash may only show then.
    MoveList<AnyMove> moves;
    game_.generate_moves(once, moves);
    for (std::size_t i = 0; i < std::min<std::size_t>(moves.size(), 3); ++i) {
        AnyPosition after = once;
        game_.play(after, moves[i * (moves.size() - 1) / 2 % moves.size()]);
        compare_with_its_text(after, "play_nothing", "after no move and one more", path);
    }
    examine_replies_to_nothing(once, moves, position, legal, path);
    // There and back.
    if (!game_.nothing_is_sound(once) || players_ != 2) return;
    const AnyPosition twice = nothing(once, "after no move of either");
    if (twice == position && offers(game_, Ability::Hash) && game_.hash(twice) != game_.hash(position))
        fault("null move", "play_nothing", "after no move of either the position is back and the hash is not", path);
    if (!game_.outcome(twice) && !chance_is_next(game_, twice) && game_.player_to_move(twice) != player)
        fault("null move", "play_nothing", "after no move of either another player than before is next", path);
}

/// What the rival can do after no move it could mostly do after some move, too; and each leads to a position like any other.
void PositionLaws::examine_replies_to_nothing(const AnyPosition& once, const MoveList<AnyMove>& replies,
                                              const AnyPosition& position, const MoveList<AnyMove>& legal,
                                              const Path& path) {
    constexpr std::size_t enough = 8, most = 48;
    if (replies.size() > most || legal.size() > most) return;
    // Where no text is read back, the game does not write what nobody can play to; where only one is not, it is that reply.
    std::string refused;
    std::size_t read = 0;
    for (std::size_t i = 0; offers(game_, Ability::Text) && i < replies.size(); ++i) {
        AnyPosition after = once;
        game_.play(after, replies[i]);
        try {
            if (game_.read_position(game_.position_text(after)) == after) ++read;
        } catch (const InputError&) {
            refused = name(once, replies[i]);
        }
    }
    if (read > 0 && !refused.empty())
        fault("null move", "nothing_is_sound",
              "after no move and " + refused + " the text of the position is refused: a king in check, perhaps?", path);
    if (legal.size() < enough || players_ != 2) return;
    std::vector<char> known(replies.size(), 0);
    for (const AnyMove& move : legal) {
        AnyPosition after = position;
        game_.play(after, move);
        if (game_.outcome(after) || chance_is_next(game_, after)) return;
        MoveList<AnyMove> usual;
        game_.generate_moves(after, usual);
        for (std::size_t i = 0; i < replies.size(); ++i)
            if (usual.contains(replies[i])) known[i] = 1;
    }
    for (std::size_t i = 0; i < replies.size(); ++i)
        if (known[i] == 0)
            fault("null move", "play_nothing",
                  "after no move there is " + name(once, replies[i]) + ", which no move of the " +
                      std::to_string(legal.size()) +
                      " legal ones allows: is something left over, such as a square for taking in passing?",
                  path);
}

/// Bounds are at odds with themselves, with those for the rival, or with those after the moves.
void PositionLaws::examine_bounds(const AnyPosition& position, const MoveList<AnyMove>& moves, Player player,
                                  const Path& path) {
    if (!offers(game_, Ability::PayoffBounds) || players_ > 2) return;
    const PayoffBounds own = game_.payoff_bounds(position, player);
    const auto said = [](const PayoffBounds& bounds) {
        return std::to_string(bounds.least) + " to " + std::to_string(bounds.most);
    };
    if (own.least > own.most) {
        fault("payoff bounds", "payoff_bounds", "the least is more than the most: " + said(own), path);
        return;
    }
    if (players_ == 2) {
        const PayoffBounds rival = game_.payoff_bounds(position, rival_of(player));
        if (rival.least > rival.most || -rival.least < own.least || -rival.most > own.most)
            fault("payoff bounds", "payoff_bounds",
                  said(own) + " for one player and " + said(rival) + " for the other cannot both be", path);
    }
    Payoff least = -largest_payoff, most = -largest_payoff;
    for (const AnyMove& move : moves) {
        AnyPosition after = position;
        game_.play(after, move);
        PayoffBounds next;
        if (const auto outcome = game_.outcome(after))
            next = {outcome->payoff(player), outcome->payoff(player)};
        else if (!chance_is_next(game_, after))
            next = game_.payoff_bounds(after, player);
        least = std::max(least, next.least);
        most = std::max(most, next.most);
    }
    if (most < own.least || least > own.most)
        fault("payoff bounds", "payoff_bounds",
              "it gives " + said(own) + ", but of the positions after the moves the best is between " +
                  std::to_string(least) + " and " + std::to_string(most),
              path);
}

void PositionLaws::examine_advice(const AnyPosition& position, const MoveList<AnyMove>& moves, const Path& path) {
    constexpr int largest_hint = 1'000'000'000;
    for (const AnyMove& move : moves) {
        if (offers(game_, Ability::OrderHint)) {
            const int hint = game_.order_hint(position, move);
            if (hint < -largest_hint || hint > largest_hint)
                fault("ordering", "order_hint",
                      "of " + name(position, move) + " it is " + std::to_string(hint) +
                          ", beyond 1000000000: does a sum overflow?",
                      path);
            if (hint != game_.order_hint(AnyPosition(position), move))
                fault("left-over state", "order_hint", "it answers differently the second time", path);
        }
        if (offers(game_, Ability::Preference) &&
            game_.preference(position, move) != game_.preference(AnyPosition(position), move))
            fault("left-over state", "preference", "it answers differently the second time", path);
        if (offers(game_, Ability::Salience)) {
            const double salience = game_.salience(position, move);
            if (!(salience >= 0 && salience <= 1))
                fault("salience", "salience",
                      "of " + name(position, move) + " it is " + exact(salience) + ", not from 0 to 1", path);
        }
        if (offers(game_, Ability::Acting)) examine_acts(position, move, path);
    }
    examine_quantities(position, moves, path);
    for (const auto& suggester : game_.suggesters()) {
        Proposals<AnyMove> proposals;
        suggester.suggest(game_, position, proposals);
        for (const auto& each : proposals.all()) {
            const std::string reason = "'" + std::string(suggester.reason) + "' ";
            if (!moves.contains(each.move))
                fault("suggestions", "suggesters", reason + "proposes a move that is not legal", path);
            else if (!(each.urgency > 0) || !std::isfinite(each.urgency))
                fault("suggestions", "suggesters",
                      reason + "gives " + name(position, each.move) + " the urgency " + exact(each.urgency) +
                          ", not more than 0",
                      path);
        }
    }
}

void PositionLaws::examine_acts(const AnyPosition& position, const AnyMove& move, const Path& path) {
    const Act act = game_.act(position, move);
    const auto hold = [&](bool right, const char* what) {
        if (!right)
            fault(
                "acts", "act",
                "the " + std::string(what) + " of " + name(position, move) + " is none of those that act_names() gives",
                path);
    };
    hold(act.actor < names_.actors.size(), "actor");
    hold(act.action < names_.actions.size(), "action");
    hold(names_.kinds.size() >= 64 || act.kinds >> names_.kinds.size() == 0, "kinds");
    hold(act.target == Act::no_target || act.target < names_.targets.size() ||
             (names_.targets.empty() && act.target < names_.actors.size()),
         "target");
}

void PositionLaws::examine_quantities(const AnyPosition& position, const MoveList<AnyMove>& moves, const Path& path) {
    for (const auto& quantity : game_.quantities()) {
        const auto [least, most] = range_of(quantity);
        std::optional<double> first;
        for (const AnyMove& move : moves) {
            const double value = quantity.value(game_, position, move);
            const std::string which = "'" + std::string(quantity.name) + "' ";
            if (std::isnan(value) || value < least || value > most)
                fault("quantities", "quantities",
                      which + "is " + exact(value) + " for " + name(position, move) + ", not from " + exact(least) +
                          " to " + exact(most),
                      path);
            if (quantity.of == QuantityOf::Position) {
                if (first && *first != value)
                    fault("quantities", "quantities",
                          which + "is one of the position, and yet it is " + exact(*first) + " with one move and " +
                              exact(value) + " with another",
                          path);
                first = value;
            }
        }
    }
}

}  // namespace arvek::detail
