#pragma once
// Whether what a game draws at random is as likely as it says: events against their list, random moves and playouts
// against play over the legal moves, samples of views against worlds in which the same was seen.
//
// Every comparison is of two counts, and a fault is only named where they are more than six standard deviations apart:
// less than one sound game in a million is accused.

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <map>
#include <string>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/game/chance.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/text.hpp"
#include "arvek/lab/check_report.hpp"
#include "checking.hpp"
#include "findings.hpp"

namespace arvek::detail {

class ChanceChecker {
   public:
    /// `watcher` may be null.
    ChanceChecker(const AnyGame& game, const CheckOptions& options, Findings& findings, CheckWatcher* watcher)
        : game_(game), options_(options), findings_(findings), watcher_(watcher), players_(players_of(game)) {}

    /// What is drawn at the end of one path.
    void examine(const Path& path) {
        if (watcher_ != nullptr) watcher_->path(path);
        const AnyPosition position = position_after(game_, path);
        Random random(derived_seed(options_.seed, 4'000'003));
        if (game_.outcome(position)) return;
        compare_draws(position, path, random);
        play_on_from_views(position, path, random);
    }

    /// Until `late(share)` says that the time up to that share of it is gone.
    template <class Late>
    void check(const Late& late) {
        Findings::Looking looking(findings_, [this](const Path& path, const Path*) { examine(path); });
        constexpr int games = 12;
        for (int number = 0; number < std::min(games, options_.games.value_or(games)) && !late(0.85); ++number) {
            Random random(derived_seed(options_.seed, 4'000'003 + static_cast<std::uint64_t>(number)));
            AnyPosition position = game_.initial_position();
            Path path;
            if (has_views(game_) && number < 6) {
                Findings::Looking not_again(findings_, nullptr);
                follow_worlds(random);
            }
            for (int ply = 0; ply < 60 && !game_.outcome(position) && !late(0.85); ++ply) {
                if (random.below(4) == 0 || ply < 2) compare_draws(position, path, random);
                play_on_from_views(position, path, random);
                path.push_back(next_at_random(position, random));
                game_.play(position, path.back());
            }
        }
        Findings::Looking not_again(findings_, nullptr);
        if (has_views(game_) && !late(0.85)) compare_deals();
    }

   private:
    static constexpr double too_far = 6.0;  // standard deviations

    AnyMove next_at_random(const AnyPosition& position, Random& random) const {
        if (chance_is_next(game_, position)) return drawn_event(game_, position, random);
        MoveList<AnyMove> moves;
        game_.generate_moves(position, moves);
        return moves[static_cast<std::size_t>(random.below(moves.size()))];
    }

    /// Whether `seen` in `draws` is too far from the probability.
    static bool is_off(double seen, double draws, double probability) {
        const double expected = draws * probability;
        const double deviation = std::sqrt(std::max(expected * (1 - probability), 1.0));
        return std::abs(seen - expected) > too_far * deviation + 1;
    }
    /// Whether two shares are too far apart to be of the same.
    static bool differ(double seen_a, double draws_a, double seen_b, double draws_b) {
        const double share = (seen_a + seen_b) / (draws_a + draws_b);
        const double deviation = std::sqrt(std::max(share * (1 - share), 1e-4) * (1 / draws_a + 1 / draws_b));
        return std::abs(seen_a / draws_a - seen_b / draws_b) > too_far * deviation;
    }

    void compare_draws(const AnyPosition& position, const Path& path, Random& random) {
        if (watcher_ != nullptr) watcher_->path(path);
        if (chance_is_next(game_, position)) {
            if (offers(game_, Ability::DrawnEvents) && lists_events(game_)) compare_events(position, path, random);
        } else {
            if (offers(game_, Ability::RandomMove)) compare_random_moves(position, path, random);
            if (offers(game_, Ability::PlayOut)) compare_playouts(position, path, random);
        }
    }

    /// What may lie behind a view must be a position of the game: play goes on from it to an end.
    void play_on_from_views(const AnyPosition& position, const Path& path, Random& random) {
        if (!has_views(game_) || chance_is_next(game_, position)) return;
        constexpr int draws = 4, longest = 400;
        for (int i = 0; i < draws * players_; ++i) {
            const Player player = static_cast<Player>(i % players_);
            AnyPosition drawn = game_.sample(game_.view(position, player), random);
            const std::string before =
                "a position drawn from a view of " + game_.player_name(player) + " cannot be played to an end: ";
            try {
                for (int ply = 0; ply < longest && !game_.outcome(drawn); ++ply) {
                    if (!chance_is_next(game_, drawn)) {
                        MoveList<AnyMove> moves;
                        game_.generate_moves(drawn, moves);
                        if (moves.empty()) {
                            findings_.fault("samples", "sample",
                                            before + "after " + std::to_string(ply) + (ply == 1 ? " move" : " moves") +
                                                " " + game_.player_name(game_.player_to_move(drawn)) + " has none left",
                                            path);
                            return;
                        }
                    }
                    game_.play(drawn, next_at_random(drawn, random));
                }
            } catch (const std::exception& thrown) {
                findings_.fault("samples", "sample", before + thrown.what(), path);
                return;
            }
        }
    }

    void compare_events(const AnyPosition& position, const Path& path, Random& random) {
        constexpr int draws = 20'000;
        MoveList<Event<AnyMove>> events;
        game_.generate_events(position, events);
        std::vector<int> seen(events.size(), 0);
        for (int i = 0; i < draws; ++i) {
            const AnyMove event = game_.draw_event(position, random);
            std::size_t place = 0;
            while (place < events.size() && !(events[place].move == event)) ++place;
            if (place == events.size()) {
                findings_.fault("drawn events", "draw_event",
                                "draw_event() gives " + move_name_of(game_, position, event) +
                                    ", which generate_events() does not list",
                                path);
                return;
            }
            ++seen[place];
        }
        for (std::size_t i = 0; i < events.size(); ++i)
            if (is_off(seen[i], draws, events[i].probability))
                findings_.fault("drawn events", "draw_event",
                                "draw_event() gave " + move_name_of(game_, position, events[i].move) + " " +
                                    std::to_string(seen[i]) + " times in " + std::to_string(draws) +
                                    ", and its probability is " + std::to_string(events[i].probability),
                                path);
    }

    void compare_random_moves(const AnyPosition& position, const Path& path, Random& random) {
        MoveList<AnyMove> moves;
        game_.generate_moves(position, moves);
        const int draws = 200 * static_cast<int>(std::min<std::size_t>(moves.size(), 50));
        std::vector<int> seen(moves.size(), 0);
        for (int i = 0; i < draws; ++i) {
            const AnyMove move = game_.random_move(position, random);
            std::size_t place = 0;
            while (place < moves.size() && !(moves[place] == move)) ++place;
            if (place == moves.size()) {
                findings_.fault("random moves", "random_move",
                                "random_move() gives " + move_name_of(game_, position, move) + ", which is not legal",
                                path);
                return;
            }
            ++seen[place];
        }
        for (std::size_t i = 0; i < moves.size(); ++i)
            if (is_off(seen[i], draws, 1.0 / static_cast<double>(moves.size())))
                findings_.fault("random moves", "random_move",
                                "random_move() gave " + move_name_of(game_, position, moves[i]) + " " +
                                    std::to_string(seen[i]) + " times in " + std::to_string(draws) +
                                    ", and there are " + std::to_string(moves.size()) + " moves, each as likely",
                                path);
    }

    /// Against random play over the legal moves: how often each player's payoff is what.
    void compare_playouts(const AnyPosition& position, const Path& path, Random& random) {
        constexpr int games = 300, longest = 2'000;
        std::map<std::vector<Payoff>, std::pair<int, int>> seen;
        const auto payoffs = [&](const Outcome& outcome) {
            std::vector<Payoff> all;
            for (int i = 0; i < players_; ++i) all.push_back(outcome.payoff(static_cast<Player>(i)));
            return all;
        };
        for (int i = 0; i < 3; ++i) {
            Random one(static_cast<std::uint64_t>(i)), other(static_cast<std::uint64_t>(i));
            AnyPosition at = position, twin = position;
            if (game_.play_out(at, one) != game_.play_out(twin, other))
                findings_.fault("left-over state", "play_out",
                                "it ends otherwise the second time with the same random numbers", path);
        }
        for (int i = 0; i < games; ++i) {
            AnyPosition at = position;
            ++seen[payoffs(game_.play_out(at, random))].first;
            at = position;
            for (int ply = 0; ply < longest && !game_.outcome(at); ++ply) game_.play(at, next_at_random(at, random));
            if (const auto outcome = game_.outcome(at)) ++seen[payoffs(*outcome)].second;
        }
        for (const auto& [payoff, counts] : seen) {
            if (!differ(counts.first, games, counts.second, games)) continue;
            findings_.fault("playouts", "play_out",
                            "play_out() paid the first player " + std::to_string(payoff.front()) + " in " +
                                std::to_string(counts.first) + " of " + std::to_string(games) +
                                " games, and play over the legal "
                                "moves did in " +
                                std::to_string(counts.second),
                            path);
            return;
        }
    }

    // ---- what is hidden ----

    /// The parts of a position's text, each with its place: what there is to count in a position whose type is gone.
    std::vector<std::string> parts_of(const AnyPosition& position) const {
        std::vector<std::string> parts;
        int field = 0;
        std::string part;
        const auto close = [&] {
            if (!part.empty()) parts.push_back(std::to_string(field) + " " + part);
            part.clear();
        };
        for (const char letter : game_.position_text(position)) {
            if (letter == ' ' || letter == ',' || letter == ':' || letter == '/') {
                close();
                if (letter != ',') ++field;
            } else {
                part += letter;
            }
        }
        close();
        return parts;
    }

    using Counts = std::map<std::string, std::pair<int, int>>;

    void compare_counts(const Counts& counts, double draws_a, double draws_b, const char* law, Player player,
                        const std::string& compared, const Path& path) {
        for (const auto& [part, seen] : counts) {
            if (!differ(seen.first, draws_a, seen.second, draws_b)) continue;
            const std::string shown = part.substr(part.find(' ') + 1);
            findings_.fault(law, "sample",
                            "positions drawn from a view of " + game_.player_name(player) + " have " + shown +
                                " there in " + std::to_string(100 * seen.second / static_cast<int>(draws_b)) + " %, " +
                                compared + " in " + std::to_string(100 * seen.first / static_cast<int>(draws_a)) + " %",
                            path);
            return;
        }
    }

    /// What is drawn from what is seen once chance has come to rest must be as likely as what chance brings.
    void compare_deals() {
        if (!offers(game_, Ability::Text)) return;
        constexpr int deals = 3'000;
        for (int i = 0; i < players_; ++i) {
            const Player player = static_cast<Player>(i);
            Random random(derived_seed(options_.seed, 5'000'011 + static_cast<std::uint64_t>(i)));
            Counts counts;
            std::map<std::string, AnyView> by_text;
            for (int deal = 0; deal < deals; ++deal) {
                AnyPosition position = game_.initial_position();
                settle_chance(game_, position, random);
                if (game_.outcome(position)) return;
                const AnyView view = game_.view(position, player);
                if (offers(game_, Ability::ViewText)) {
                    const auto [known, is_new] = by_text.emplace(game_.view_text(view), view);
                    if (!is_new && !(known->second == view)) {
                        findings_.fault("views", "view",
                                        "two views of " + game_.player_name(player) + " both read '" + known->first +
                                            "' and differ: does one hold what is not seen?",
                                        {});
                        return;
                    }
                }
                for (const std::string& part : parts_of(position)) ++counts[part].first;
                for (const std::string& part : parts_of(game_.sample(view, random))) ++counts[part].second;
            }
            compare_counts(counts, deals, deals, "samples", player, "what chance deals has it", {});
        }
    }

    /// Many worlds in which a player saw the same, followed move by move: those in which a move that was seen cannot be
    /// made fall away. What is drawn from the view later must be like those that are left.
    void follow_worlds(Random& random) {
        if (!offers(game_, Ability::Text)) return;
        constexpr std::size_t worlds = 1'500, enough = 250;
        AnyPosition position = game_.initial_position();
        Path path;
        while (!game_.outcome(position) && chance_is_next(game_, position)) {
            path.push_back(drawn_event(game_, position, random));
            game_.play(position, path.back());
        }
        if (game_.outcome(position)) return;
        const Player player = static_cast<Player>(random.below(static_cast<std::uint64_t>(players_)));
        std::vector<AnyPosition> left;
        for (std::size_t i = 0; i < worlds; ++i) left.push_back(game_.sample(game_.view(position, player), random));
        for (int ply = 0; ply < 40 && !game_.outcome(position) && !chance_is_next(game_, position); ++ply) {
            const AnyMove move = next_at_random(position, random);
            game_.play(position, move);
            path.push_back(move);
            const AnyView view = game_.view(position, player);
            std::vector<AnyPosition> next;
            for (AnyPosition& world : left) {
                if (game_.outcome(world) || chance_is_next(game_, world)) continue;
                MoveList<AnyMove> moves;
                game_.generate_moves(world, moves);
                if (!moves.contains(move)) continue;
                game_.play(world, move);
                if (game_.view(world, player) == view) next.push_back(std::move(world));
            }
            left = std::move(next);
            if (left.size() < enough || game_.outcome(position)) return;
            Counts counts;
            for (const AnyPosition& world : left)
                for (const std::string& part : parts_of(world)) ++counts[part].first;
            const int draws = static_cast<int>(left.size());
            for (int i = 0; i < draws; ++i)
                for (const std::string& part : parts_of(game_.sample(view, random))) ++counts[part].second;
            compare_counts(counts, draws, draws, "samples", player,
                           "worlds in which all that was seen could be played have it", path);
        }
    }

    const AnyGame& game_;
    const CheckOptions& options_;
    Findings& findings_;
    CheckWatcher* watcher_;
    int players_;
};

}  // namespace arvek::detail
