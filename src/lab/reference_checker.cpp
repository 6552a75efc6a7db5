#include <algorithm>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/repetition.hpp"
#include "arvek/lab/reference.hpp"
#include "check_time.hpp"
#include "exploring.hpp"
#include "findings.hpp"

namespace arvek {

namespace detail {

namespace {

class ReferenceChecker {
   public:
    ReferenceChecker(const AnyGame& game, const Reference& reference, const CheckOptions& options)
        : reference_(reference),
          options_(options),
          game_(noted_game(game, note_)),
          findings_(game_, note_),
          time_(options) {}

    CheckReport check() {
        findings_.guarded({}, "exception", [&] {
            Findings::Looking looking(findings_, [this](const Path& path, const Path*) { compare_end(path); });
            look_at_short_sequences();
            play_games();
        });
        findings_.shorten([&] { return time_.enough(1.5); });
        report_.faults = findings_.faults();
        report_.seconds = time_.seconds();
        report_.complete = !options_.stop.stop_requested();
        return std::move(report_);
    }

   private:
    void fault(const char* function, const std::string& what, const Path& path) {
        findings_.fault("reference", function, what, path);
    }

    void compare_end(const Path& path) {
        AnyPosition position = game_.initial_position();
        std::vector<std::string> names;
        for (const AnyMove& move : path) {
            names.push_back(game_.move_text(position, move));
            game_.play(position, move);
        }
        compare(position, names, path);
    }

    static std::string said(const std::optional<Outcome>& outcome, int players) {
        if (!outcome) return "play goes on";
        std::string text;
        for (int i = 0; i < players; ++i)
            text += (i > 0 ? ", " : "") + std::to_string(outcome->payoff(static_cast<Player>(i)));
        return "play is over with payoffs " + text;
    }

    /// What is next by the game, for the search of play that parts.
    MoveList<AnyMove> compare(const AnyPosition& position, const std::vector<std::string>& names, const Path& path) {
        ++report_.positions;
        const std::string text = game_.position_text(position);
        MoveList<AnyMove> moves;
        const auto outcome = game_.outcome(position);
        const int players = players_of(game_);
        if (reference_.outcome) {
            const auto other = reference_.outcome(text, names);
            if (outcome != other)
                fault("outcome", "by the game " + said(outcome, players) + ", by the reference " + said(other, players),
                      path);
        }
        if (outcome) return moves;
        generate_what_is_next(game_, position, moves);
        if (chance_is_next(game_, position)) return moves;
        if (reference_.player_to_move) {
            const Player own = game_.player_to_move(position), other = reference_.player_to_move(text, names);
            if (own != other)
                fault(
                    "player_to_move",
                    "by the game " + game_.player_name(own) + " is next, by the reference " + game_.player_name(other),
                    path);
        }
        if (reference_.legal_moves) compare_moves(position, moves, reference_.legal_moves(text, names), path);
        if (reference_.after) compare_play(position, moves, text, names, path);
        return moves;
    }

    void compare_moves(const AnyPosition& position, const MoveList<AnyMove>& moves,
                       const std::vector<std::string>& others, const Path& path) {
        std::set<std::string> own;
        for (const AnyMove& move : moves) own.insert(game_.move_text(position, move));
        const std::set<std::string> theirs(others.begin(), others.end());
        if (own == theirs) return;
        const auto only = [](const std::set<std::string>& in, const std::set<std::string>& not_in) {
            constexpr std::size_t enough = 6;
            std::string text;
            std::size_t count = 0;
            for (const std::string& each : in) {
                if (not_in.count(each) > 0) continue;
                if (++count <= enough) text += (count > 1 ? ", " : "") + each;
            }
            return count == 0 ? std::string("none") : count > enough ? text + " and others" : text;
        };
        fault("generate_moves",
              "legal by the game alone: " + only(own, theirs) + "; by the reference alone: " + only(theirs, own), path);
    }

    void compare_play(const AnyPosition& position, const MoveList<AnyMove>& moves, const std::string& text,
                      const std::vector<std::string>& names, const Path& path) {
        for (const AnyMove& move : moves) {
            AnyPosition after = position;
            game_.play(after, move);
            const std::string name = game_.move_text(position, move), own = game_.position_text(after);
            std::string other;
            try {
                other = reference_.after(text, names, name);
            } catch (const InputError&) {
                continue;  // not a move of the reference: said already
            }
            if (own == other) continue;
            Path with_move = path;
            with_move.push_back(move);
            fault("play", "by the game it leads to '" + own + "', by the reference to '" + other + "'", with_move);
        }
    }

    void look_at_short_sequences() {
        struct Way {
            Path path;
            std::vector<std::string> names;
            AnyPosition position;
        };
        std::vector<Way> ways{{{}, {}, game_.initial_position()}};
        const auto most = static_cast<std::size_t>(options_.short_positions);
        for (std::size_t i = 0; i < ways.size() && !time_.enough(0.4); ++i) {
            const Way way = ways[i];
            time_.tell("short sequences", 0.4 * static_cast<double>(i) / static_cast<double>(most), report_.games,
                       report_.positions, findings_.size());
            findings_.guarded(way.path, "exception", [&] {
                for (const AnyMove& move : compare(way.position, way.names, way.path)) {
                    if (ways.size() >= most) break;
                    Way next = way;
                    next.names.push_back(game_.move_text(next.position, move));
                    next.path.push_back(move);
                    game_.play(next.position, move);
                    ways.push_back(std::move(next));
                }
            });
        }
    }

    void play_games() {
        Exploring exploring(game_, options_.seed);
        const int most = options_.games.value_or(1'000'000'000);
        int last_new = 0;
        for (int number = 0; number < most && !time_.enough(0.95); ++number) {
            if (!options_.games && number > 400 && number > 4 * last_new + 200) break;
            Random random(derived_seed(options_.seed, static_cast<std::uint64_t>(number)));
            Path path;
            findings_.guarded(path, "exception", [&] {
                path = exploring.begin(number);
                std::vector<AnyPosition> history{game_.initial_position()};
                std::vector<std::string> names;
                const auto go = [&](const AnyMove& move) {
                    names.push_back(game_.move_text(history.back(), move));
                    history.push_back(history.back());
                    game_.play(history.back(), move);
                };
                for (const AnyMove& move : path) go(move);
                for (int ply = 0; ply < options_.longest_game && !time_.enough(0.97); ++ply) {
                    time_.tell("games", 0.4, report_.games, report_.positions, findings_.size());
                    const MoveList<AnyMove> moves = compare(history.back(), names, path);
                    if (game_.outcome(history.back()) || is_draw_by_repetition(game_, history)) break;
                    if (moves.empty() && !chance_is_next(game_, history.back())) break;
                    const AnyMove move = chance_is_next(game_, history.back())
                                             ? drawn_event(game_, history.back(), random)
                                             : moves[exploring.choose(history.back(), moves, random)];
                    path.push_back(move);
                    go(move);
                    if (exploring.meet(history[history.size() - 2], history.back(), path)) last_new = number;
                }
            });
            ++report_.games;
        }
    }

    CallNote note_;
    const Reference& reference_;
    const CheckOptions& options_;
    AnyGame game_;
    Findings findings_;
    CheckTime time_;
    CheckReport report_;
};

}  // namespace

}  // namespace detail

CheckReport check_game_against(const AnyGame& game, const Reference& reference, const CheckOptions& options) {
    require_in_range(options);
    if (!offers(game, Ability::Text))
        throw InputError("game", "it has no texts, by which a reference is asked", "position_text() and move_text()");
    return detail::ReferenceChecker(game, reference, options).check();
}

}  // namespace arvek
