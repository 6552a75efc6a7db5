#include <algorithm>
#include <cstdint>
#include <map>
#include <set>
#include <string>
#include <string_view>
#include <thread>
#include <unordered_set>
#include <utility>
#include <vector>

#include "answers.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/game/text.hpp"
#include "arvek/lab/check.hpp"
#include "chance_checker.hpp"
#include "check_time.hpp"
#include "checking.hpp"
#include "exploring.hpp"
#include "findings.hpp"
#include "interrupting.hpp"
#include "noted_game.hpp"
#include "position_laws.hpp"
#include "text_laws.hpp"
#include "value_checker.hpp"

namespace arvek {

namespace detail {

namespace {

class RuleChecker {
   public:
    RuleChecker(const GameKit& kit, const CheckOptions& options, CallNote& note, CheckWatcher* watcher)
        : kit_(kit),
          options_(options),
          note_(note),
          plain_(kit.game),
          game_(noted_game(kit.game, note)),
          findings_(game_, note),
          texts_(game_, findings_),
          watcher_(watcher),
          time_(options) {
        kit_.game = game_;
    }

    CheckReport check() {
        bool ready = false;
        findings_.guarded({}, "exception", [&] {
            laws_.emplace(game_, options_.seed, findings_, watcher_);
            ready = true;
        });
        if (ready) findings_.guarded({}, "exception", [&] { look_everywhere(); });
        stage("shortening", 0.95);
        try {
            findings_.shorten([&] { return enough(1.5); });
        } catch (...) {
            // A fault that is not the same twice; what was found first is shown as it is.
        }
        report_.faults = findings_.faults();
        if (laws_) {
            report_.positions = laws_->positions();
            if (laws_->moves_after_end())
                report_.remarks.push_back(
                    "generate_moves gives moves in finished positions; nobody here asks, other callers might");
        }
        remark_on_winners();
        report_.remarks.push_back(abilities_text());
        report_.seconds = time_.seconds();
        // Without a game nothing was looked at that could be called sound.
        report_.complete = !options_.stop.stop_requested() && report_.games > 0;
        return std::move(report_);
    }

    /// Only the end of one line of play.
    CheckReport check_line(const std::vector<std::string>& moves) {
        AnyPosition position = game_.initial_position();
        Path path;
        for (const std::string& text : moves) {
            path.push_back(move_from_text(game_, position, text));
            if (path.size() < moves.size()) game_.play(position, path.back());
        }
        findings_.guarded(path, "exception", [&] {
            laws_.emplace(game_, options_.seed, findings_, watcher_);
            for (const char* stage : {"games", "draws", "values"})
                if (searches_are_safe()) examine_alone(path, stage);
        });
        report_.faults = findings_.faults();
        report_.positions = 1;
        report_.seconds = time_.seconds();
        return std::move(report_);
    }

    /// Only the end of one path, as it is looked at in one stage.
    void examine_alone(const Path& path, const std::string& stage) {
        if (stage == "draws") {
            ChanceChecker(game_, options_, findings_, watcher_).examine(path);
        } else if (stage == "values") {
            findings_.guarded(
                path, "exception", [&] { ValueChecker(kit_, options_, findings_, watcher_).examine(path); },
                looking_ahead_from);
        } else {
            examine_end(path, nullptr);
            ask_at_end(path);
        }
    }

   private:
    // ---- time ----

    bool enough(double share) const { return time_.enough(share); }

    void stage(const char* name, double share) {
        if (watcher_ != nullptr) watcher_->stage(name);
        time_.tell(name, share, report_.games, laws_ ? laws_->positions() : 0, findings_.size());
    }

    // ---- what is looked at ----

    void look_everywhere() {
        Findings::Looking looking(findings_, [this](const Path& path, const Path* other) { examine_end(path, other); });
        laws_->examine_game();
        look_at_short_sequences();
        play_games();
        look_at_every_position();
        // After everything else that has happened, the first games must still go as they went.
        for (const Game& game : first_games_) replay(game.path, game.history);
        ask_again();
        if (searches_are_safe()) compare_values_and_chances();
    }

    /// Whether no fault was found that may break a search, so that what searches say is of use.
    bool searches_are_safe() const {
        return findings_.all_of({"position text", "malformed text", "move text", "drawing", "board", "names",
                                 "quantities", "suggestions", "salience", "level change", "move count", "patterns",
                                 "acts", "scale"});
    }

    /// The laws at the end of a path; of two paths, also whether both ends are told apart as they should be.
    void examine_end(const Path& path, const Path* other) {
        PositionLaws fresh(game_, options_.seed, findings_, watcher_);
        if (other != nullptr) look_at_end(fresh, *other);
        look_at_end(fresh, path);
    }

    void look_at_end(PositionLaws& laws, const Path& path) {
        std::vector<AnyPosition> history{game_.initial_position()};
        Path so_far;
        note_path(path);
        findings_.guarded(so_far, "exception", [&] {
            for (const AnyMove& move : path) {
                so_far.push_back(move);
                history.push_back(history.back());
                game_.play(history.back(), move);
            }
            if (path.empty()) laws.examine_game();
            laws.examine(history.back(), path);
            laws.examine_take_back(path, history);
            Random random(derived_seed(options_.seed, path.size()));
            texts_.examine(history.back(), path, random, 60);
        });
    }

    void note_path(const Path& path) {
        if (watcher_ != nullptr) watcher_->path(path);
    }

    void look_at_short_sequences() {
        std::vector<Path> paths{{}};
        for (std::size_t i = 0; i < paths.size() && !enough(0.15); ++i) {
            const Path path = paths[i];
            note_path(path);
            stage("short sequences", 0.15 * static_cast<double>(i) / options_.short_positions);
            findings_.guarded(path, "exception", [&] {
                const AnyPosition position = position_after(game_, path);
                const MoveList<AnyMove> moves = laws_->examine(position, path);
                if (sample_.size() < most_sampled / 2 || i % 16 == 0) sample(position, path);
                for (const AnyMove& move : moves) {
                    if (paths.size() >= static_cast<std::size_t>(options_.short_positions)) break;
                    paths.push_back(path);
                    paths.back().push_back(move);
                }
            });
        }
    }

    void play_games() {
        Exploring exploring(game_, options_.seed);
        const int most = options_.games ? *options_.games : 1'000'000'000;
        int last_new = 0;
        for (int number = 0; number < most && !enough(0.62); ++number) {
            if (endless_games_ >= most_endless_games) break;
            // A small game in which nothing new is met any more has been seen.
            if (!options_.games && number > 2'000 && number > 4 * last_new) break;
            if (play_game(exploring, number)) last_new = number;
        }
    }

    /// Each position once, those near the start first, for as long as there is time.
    void look_at_every_position() {
        if (!offers(game_, Ability::Text)) return;
        struct Met {
            AnyPosition position;
            std::size_t before;
            AnyMove move;
        };
        const std::size_t most =
            options_.games ? static_cast<std::size_t>(std::min(options_.short_positions, 50 * *options_.games))
                           : 200'000;
        std::vector<Met> met{{game_.initial_position(), 0, {}}};
        std::unordered_set<std::uint64_t> known{hash_of_text(game_.position_text(met[0].position))};
        for (std::size_t i = 0; i < met.size() && !enough(0.68); ++i) {
            Path path;
            for (std::size_t at = i; at != 0; at = met[at].before) path.push_back(met[at].move);
            std::reverse(path.begin(), path.end());
            stage("every position", games_share());
            findings_.guarded(path, "exception", [&] {
                const AnyPosition position = met[i].position;
                for (const AnyMove& move : laws_->examine(position, path)) {
                    AnyPosition after = position;
                    game_.play(after, move);
                    if (met.size() < most && known.insert(hash_of_text(game_.position_text(after))).second)
                        met.push_back({std::move(after), i, move});
                }
            });
        }
    }

    /// Whether anything new was met.
    bool play_game(Exploring& exploring, int number) {
        Random random(derived_seed(options_.seed, static_cast<std::uint64_t>(number)));
        Game game;
        bool ended = false, any_new = false;
        findings_.guarded(game.path, "exception", [&] {
            game.history.push_back(game_.initial_position());
            for (const AnyMove& move : exploring.begin(number)) {
                if (game_.outcome(game.history.back())) break;
                play(game, move);
            }
        });
        if (game.history.size() != game.path.size() + 1) return false;
        const int longest = options_.longest_game;
        for (int ply = static_cast<int>(game.path.size()); !ended && ply < longest; ++ply) {
            bool stuck = true;
            note_path(game.path);
            stage("games", games_share());
            findings_.guarded(game.path, "exception", [&] {
                const AnyPosition& position = game.history.back();
                const MoveList<AnyMove> moves = laws_->examine(position, game.path);
                if (random.below(6) == 0) texts_.examine(position, game.path, random, 10);
                if (random.below(8) == 0) sample(position, game.path);
                ended = game_.outcome(position).has_value() ||
                        (moves.empty() && !(chance_is_next(game_, position) && !lists_events(game_)));
                if (ended) return;
                AnyMove move;
                if (chance_is_next(game_, position))
                    move = drawn(position, moves, random);
                else
                    move = moves[exploring.choose(position, moves, random)];
                const AnyPosition before = position;
                play(game, move);
                any_new = exploring.meet(before, game.history.back(), game.path) || any_new;
                if (offers(game_, Ability::Repetition)) ended = is_draw_by_repetition(game_, game.history);
                stuck = false;
            });
            if (stuck && !ended) return any_new;
            if (enough(0.7)) return any_new;
        }
        ++report_.games;
        endless_games_ += ended ? 0 : 1;
        if (!ended) {
            Findings::Looking looking(findings_, nullptr);  // no single position shows it
            findings_.fault("endless play", "outcome",
                            "a random game was not over after " + std::to_string(longest) + " plies", {});
        }
        replay(game.path, game.history);
        findings_.guarded(game.path, "exception", [&] {
            laws_->examine_take_back(game.path, game.history);
            note_winner(game);
        });
        if (first_games_.size() < 3 && game.path.size() < 1'000) first_games_.push_back(std::move(game));
        return any_new;
    }

    double games_share() const { return options_.games ? 0.15 + 0.5 * report_.games / *options_.games : 0.15; }

    /// An event: by its probability, or now and then any, so that rare ones are met.
    AnyMove drawn(const AnyPosition& position, const MoveList<AnyMove>& events, Random& random) const {
        if (!events.empty() && random.below(3) == 0)
            return events[static_cast<std::size_t>(random.below(events.size()))];
        return drawn_event(game_, position, random);
    }

    struct Game {
        Path path;
        std::vector<AnyPosition> history;
    };

    void play(Game& game, const AnyMove& move) {
        AnyPosition after = game.history.back();
        game.path.push_back(move);
        game_.play(after, move);
        game.history.push_back(std::move(after));
    }

    /// Who wins is the rules' word alone, and no law; but the evaluation has a say in it, too.
    void note_winner(const Game& game) {
        if (game.path.empty() || players_of(game_) != 2 || !offers(game_, Ability::Evaluation)) return;
        const AnyPosition& before = game.history[game.history.size() - 2];
        const auto outcome = game_.outcome(game.history.back());
        if (!outcome || chance_is_next(game_, before)) return;
        const Player last = game_.player_to_move(before);
        const Payoff payoff = outcome->payoff(last);
        const int thought = game_.evaluate(before, last).number();
        if (payoff != 0 && thought != 0)
            ++((payoff > 0) == (thought > 0) ? winners_[payoff].as_thought : winners_[payoff].otherwise);
    }
    void remark_on_winners() {
        for (const auto& [payoff, ends] : winners_) {
            const int all = ends.as_thought + ends.otherwise;
            if (all < 20 || 10 * ends.otherwise < 9 * all) continue;
            report_.remarks.push_back("in " + std::to_string(ends.otherwise) + " of " + std::to_string(all) +
                                      " games whose last move brings the one who makes it " + std::to_string(payoff) +
                                      ", the evaluation just before said the contrary: does the right player win?");
        }
    }

    /// The same moves again, after everything else that has happened, must lead to the same positions.
    void replay(const Path& path, const std::vector<AnyPosition>& history) {
        Path so_far;
        findings_.guarded(so_far, "exception", [&] {
            AnyPosition position = game_.initial_position();
            for (std::size_t ply = 0; ply <= path.size() && ply < history.size(); ++ply) {
                if (!(position == history[ply])) {
                    findings_.fault("left-over state", "play", "the same moves led to another position the second time",
                                    so_far);
                    return;
                }
                if (ply == path.size()) return;
                so_far.push_back(path[ply]);
                game_.play(position, path[ply]);
            }
        });
    }

    // ---- asking again ----

    struct Sampled {
        Path path;
        AnyPosition position;
        Answers answers;
    };

    void sample(const AnyPosition& position, const Path& path) {
        if (sample_.size() >= most_sampled) return;
        sample_.push_back({path, position, answers_of(game_, position, moves_asked)});
    }

    void say_that_they_differ(const Disagreement& found, const char* when, const Path& path) {
        findings_.fault("left-over state", found.function,
                        std::string(when) + " it answers " + said_by(found) + " about the same position", path);
    }

    /// What was answered once: later and in reverse order, of a copy elsewhere, of another object of the game, of an
    /// equal position, and in several threads at once.
    void ask_again() {
        if (sample_.empty()) return;
        const AnyGame another = noted_game(plain_.another(), note_);
        for (std::size_t i = sample_.size(); i-- > 0 && !enough(0.7);) {
            const Sampled& one = sample_[i];
            note_path(one.path);
            stage("asking again", 0.65);
            Findings::Looking looking(findings_, [this](const Path& path, const Path*) { ask_at_end(path); });
            findings_.guarded(one.path, "exception", [&] {
                const AnyPosition copy = one.position;
                if (const auto found = disagreement(one.answers, answers_of(game_, copy, moves_asked)))
                    say_that_they_differ(*found, "asked once more, later and in another order,", one.path);
                else if (const auto by_other = disagreement(one.answers, answers_of(another, copy, moves_asked)))
                    say_that_they_differ(*by_other, "asked of a copy of the game", one.path);
                ask_of_the_position_read(one, copy);
            });
        }
        ask_of_equals();
        ask_in_threads();
    }

    void ask_at_end(const Path& path) {
        const AnyPosition position = position_after(game_, path);
        const Answers first = answers_of(game_, position, moves_asked);
        const auto elsewhere = std::make_unique<AnyPosition>(position);
        if (const auto found = disagreement(first, answers_of(game_, *elsewhere, moves_asked)))
            say_that_they_differ(*found, "asked once more", path);
        const AnyGame another = plain_.another();
        if (const auto found = disagreement(first, answers_of(another, position, moves_asked)))
            say_that_they_differ(*found, "asked of a copy of the game", path);
        ask_of_the_position_read({path, position, first}, position);
    }

    /// A position that the text is read to, and that is equal, must answer alike.
    void ask_of_the_position_read(const Sampled& one, const AnyPosition& position) {
        if (!offers(game_, Ability::Text)) return;
        AnyPosition read;
        try {
            read = game_.read_position(game_.position_text(position));
        } catch (const InputError&) {
            return;
        }
        if (!(read == position)) return;
        if (const auto found = disagreement(one.answers, answers_of(game_, read, moves_asked)))
            findings_.fault(
                "equality", found->function,
                "of the position and of the equal one that its text is read to it answers " + said_by(*found),
                one.path);
    }

    /// Equal positions that were reached by different moves must answer alike in everything.
    void ask_of_equals() {
        Findings::Looking looking(findings_, [this](const Path& path, const Path* other) {
            if (other == nullptr) return;
            const AnyPosition one = position_after(game_, path), two = position_after(game_, *other);
            if (one == two)
                compare_equals({path, one, answers_of(game_, one, moves_asked)},
                               {*other, two, answers_of(game_, two, moves_asked)});
        });
        for (std::size_t i = 0; i < sample_.size() && !enough(0.75); ++i)
            for (std::size_t j = 0; j < i; ++j)
                if (sample_[i].position == sample_[j].position && sample_[i].path != sample_[j].path)
                    compare_equals(sample_[i], sample_[j]);
    }

    void compare_equals(const Sampled& one, const Sampled& other) {
        const auto found = disagreement(one.answers, other.answers);
        if (!found) return;
        findings_.fault_of_two(
            "equality", found->function,
            "of two positions that are equal it answers " + said_by(*found) + ": does operator== leave something out?",
            one.path, other.path);
    }

    struct FoundInThreads {
        std::size_t place;
        Disagreement differs;
    };

    /// What is answered now, compared with what was answered before: nothing where it is the same. May be asked by
    /// several threads at once.
    std::optional<FoundInThreads> ask_once_more(const Answers& before, std::size_t place, std::string_view only) const {
        note_.calls.fetch_add(1, std::memory_order_relaxed);  // who watches sees that it goes on
        if (auto differs = disagreement(before, answers_of(plain_, sample_[place].position, moves_asked, only)))
            return FoundInThreads{place, std::move(*differs)};
        return std::nullopt;
    }

    void ask_in_threads() {
        if (findings_.knows("left-over state")) return;
        stage("asking in threads", 0.75);
        if (watcher_ != nullptr) watcher_->path({});
        std::optional<FoundInThreads> found;
        // Takes longer than all else here, so what is wrong without threads is to be put right first.
        if (findings_.none()) found = ask_where_one_is_stopped();
        if (!found) found = ask_at_once();
        if (!found) return;
        Findings::Looking looking(findings_, nullptr);
        findings_.fault("threads", found->differs.function,
                        "asked by several threads at once it answers " + said_by(found->differs) +
                            " about the same position: does it keep something outside of the position?",
                        sample_[found->place].path);
    }

    /// Function by function: one thread asks, is stopped wherever it is, another asks about another position, and the first
    /// goes on.
    std::optional<FoundInThreads> ask_where_one_is_stopped() {
        constexpr int times = 60;
        const std::size_t count = std::min<std::size_t>(sample_.size(), 40);
        const auto by_name = [](const char* one, const char* other) { return std::string_view(one) < other; };
        std::set<const char*, decltype(by_name)> functions;
        for (const Sampled& one : sample_)
            for (const Answer& answer : one.answers.all) functions.insert(answer.function);
        for (const char* const function : functions) {
            note_.function.store(function);
            std::vector<Answers> before;
            for (std::size_t place = 0; place < count; ++place)
                before.push_back(answers_of(plain_, sample_[place].position, moves_asked, function));
            std::optional<FoundInThreads> by_stopped, by_other;
            std::size_t next = 0, next_of_other = count / 2;
            const bool comes_to_something = stop_in_the_middle(
                times,
                [&] {
                    const std::size_t place = next++ % count;
                    by_stopped = ask_once_more(before[place], place, function);
                    return !by_stopped;
                },
                [&] {
                    const std::size_t place = (next_of_other += 7) % count;
                    by_other = ask_once_more(before[place], place, function);
                    return !by_other && !enough(0.8);
                });
            if (by_stopped) return by_stopped;
            if (by_other || !comes_to_something || enough(0.8)) return by_other;
        }
        return std::nullopt;
    }

    std::optional<FoundInThreads> ask_at_once() {
        constexpr std::size_t threads = 4, rounds = 12;
        const std::size_t count = std::min<std::size_t>(sample_.size(), 120);
        std::vector<std::optional<FoundInThreads>> found(threads);
        std::vector<std::thread> at_work;
        for (std::size_t thread = 0; thread < threads; ++thread)
            at_work.emplace_back([&, thread] {
                for (std::size_t round = 0; round < rounds && !found[thread]; ++round)
                    for (std::size_t i = 0; i < count && !found[thread] && !enough(0.85); ++i) {
                        const std::size_t place = (i * (2 * thread + 1) + thread * 31 + round) % count;
                        found[thread] = ask_once_more(sample_[place].answers, place, {});
                    }
            });
        for (std::thread& each : at_work) each.join();
        for (auto& each : found)
            if (each) return std::move(each);
        return std::nullopt;
    }

    // ---- values ----

    void compare_values_and_chances() {
        const auto late = [this](double share) { return enough(share); };
        stage("draws", 0.8);
        chances_.emplace(game_, options_, findings_, watcher_);
        chances_->check(late);
        stage("values", 0.85);
        values_.emplace(kit_, options_, findings_, watcher_);
        if (const std::string remark = values_->check(late); !remark.empty()) report_.remarks.push_back(remark);
    }

    /// What is found of the game beyond the five functions; whoever misses one has misspelt or misdeclared it.
    std::string abilities_text() const {
        std::string all;
        for (const AbilityInfo& info : ability_table())
            if (offers(kit_.game, info.ability)) all += (all.empty() ? "" : ", ") + std::string(info.name);
        return "abilities found: " + (all.empty() ? "none" : all);
    }

    static constexpr const char* looking_ahead_from = "when a search looked ahead from there, ";
    static constexpr std::size_t most_sampled = 600, moves_asked = 16;
    static constexpr int most_endless_games = 3;

    GameKit kit_;
    const CheckOptions& options_;
    CallNote& note_;
    AnyGame plain_;  ///< whose calls are not noted
    AnyGame game_;
    Findings findings_;
    TextLaws texts_;
    CheckWatcher* watcher_;
    CheckTime time_;
    std::optional<PositionLaws> laws_;
    CheckReport report_;
    std::vector<Game> first_games_;
    std::vector<Sampled> sample_;
    int endless_games_ = 0;
    struct Ends {
        int as_thought = 0, otherwise = 0;  ///< whether the evaluation was for the winner
    };
    std::map<Payoff, Ends> winners_;  ///< by what the last move brought the one who made it
    // Kept, since a way is shortened by asking them again.
    std::optional<ChanceChecker> chances_;
    std::optional<ValueChecker> values_;
};

}  // namespace

CheckReport check_noted(const GameKit& kit, const CheckOptions& options, CallNote& note, CheckWatcher* watcher) {
    return RuleChecker(kit, options, note, watcher).check();
}

void examine_path(const GameKit& kit, const CheckOptions& options, const Path& path, const std::string& stage,
                  CallNote& note, CheckWatcher* watcher) {
    RuleChecker(kit, options, note, watcher).examine_alone(path, stage);
}

}  // namespace detail

CheckReport check_kit_line(const GameKit& kit, const std::vector<std::string>& moves, const CheckOptions& options) {
    require_in_range(options);
    detail::CallNote note;
    return detail::RuleChecker(kit, options, note, nullptr).check_line(moves);
}

CheckReport check_kit(const GameKit& kit, const CheckOptions& options) {
    require_in_range(options);
    detail::CallNote note;
    return detail::check_noted(kit, options, note, nullptr);
}

}  // namespace arvek
