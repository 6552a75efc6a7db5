#include <algorithm>
#include <ostream>
#include <random>
#include <sstream>

#include "arvek/arena/steady_clock.hpp"
#include "arvek/opponent/pace.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/picture/score_text.hpp"
#include "line_reader.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

namespace {

constexpr std::size_t moves_explained = 6;
constexpr std::size_t longest_line = 200;

const char* const help_text =
    "  a move    plays it, such as one that 'moves' lists\n"
    "  moves     lists the legal moves\n"
    "  hint      what the standard opponent at full strength would play for you\n"
    "  why       why the opponent played its last move\n"
    "  back      takes your last move back, and the answer to it\n"
    "  restart   begins again\n"
    "  level N   sets the opponent's level, 1 to 10\n"
    "  opponent NAME[@LEVEL]   another opponent\n"
    "  side      changes sides with the opponent\n"
    "  board     shows the position\n"
    "  quit      leaves\n";

/// A person's game against an opponent.
class Session {
   public:
    Session(OpenedGame game, OpponentSpec opponent, Player person, Pace pace, std::uint64_t seed, Console console,
            std::ostream& out)
        : game_(std::move(game)),
          opponent_(std::move(opponent)),
          person_(person),
          pace_(pace),
          seed_(seed),
          pace_random_(derived_seed(seed, 0)),
          console_(console),
          out_(out),
          paint_(console.colour),
          names_(game_.player_names()),
          subject_(game_.subject()) {
        if (opponent_.profile && opponent_.profile->follow) {
            const FollowText& bounds = *opponent_.profile->follow;
            follow_.emplace(std::clamp(opponent_.level, bounds.least, bounds.most), bounds.least, bounds.most,
                            bounds.after);
            opponent_.level = follow_->level();
        }
    }

    void run() {
        const auto reader = make_line_reader(console_, out_);
        const std::string settings = settings_text(game_.handle->settings());
        out_ << paint_.strong(game_.entry->name()) << paint_.faint(settings.empty() ? "" : "  " + settings) << "\n"
             << "You are " << side_text(person_) << "; " << side_text(rival_of(person_)) << " is "
             << opponent_title(opponent_) << ". 'help' lists the commands.\n\n";
        let_chance_act();
        show_board();
        while (!InterruptGuard::interrupted()) {
            let_chance_act();
            if (opponents_turn()) {
                answer();
                continue;
            }
            const auto line = reader->next(prompt());
            if (!line) {
                out_ << "The game is left as it is.\n";
                return;
            }
            if (!obey(*line)) return;
        }
        out_ << "\nThe game is left as it is.\n";
    }

    PlayReport report() const {
        return {lower_case(names_[index_of(person_)]), opponent_text(opponent_), seed_,
                game_.table->moves_played(),           game_.table->position(),  game_.table->ending()};
    }
    const Subject& subject() const { return subject_; }

   private:
    bool over() const { return game_.table->ending().has_value(); }
    bool opponents_turn() const {
        return !over() && !game_.table->chance_is_next() && game_.table->player_to_move() != person_;
    }

    std::string side_text(Player player) const { return paint_.of_player(names_[index_of(player)], player); }
    std::string prompt() const { return (over() ? "over" : lower_case(names_[index_of(person_)])) + "> "; }

    void show_board() {
        out_ << paint_.board(game_.table->drawing(), names_);
        if (const auto ending = game_.table->ending()) {
            count_result(*ending);
            out_ << paint_.strong("The game is over: " + ending->text() + ".") << " 'restart', 'back' or 'quit'.\n";
        }
    }

    /// Once a game, whatever is taken back.
    void count_result(const Ending& ending) {
        if (!follow_ || counted_) return;
        counted_ = true;
        if (!ending.winner)
            follow_->drawn();
        else if (*ending.winner == names_[index_of(person_)])
            follow_->player_won();
        else
            follow_->player_lost();
    }

    void answer() {
        out_ << std::flush;  // the person sees the position while the opponent thinks
        const double started = steady_seconds();
        const std::string name = side_text(game_.table->player_to_move());
        DecisionReport decision = game_.table->decide(opponent_, seed_, {steady_seconds, InterruptGuard::stop_token()});
        wait_seconds(seconds_to_wait(pace_, steady_seconds() - started, pace_random_));
        if (InterruptGuard::interrupted()) return;
        game_.table->play(decision.move);
        out_ << name << " plays " << paint_.strong(decision.move) << ".\n\n";
        last_answer_ = std::move(decision);
        let_chance_act();
        show_board();
    }

    /// Depends on the game's seed and on how far the game is, not on what was asked or taken back.
    std::uint64_t decision_seed() const { return derived_seed(seed_, 1 + game_.table->moves_played().size()); }

    void let_chance_act() {
        for (;;) {
            Random chance(derived_seed(decision_seed(), 1));
            const auto event = game_.table->let_chance_act(chance);
            if (!event) return;
            out_ << "  chance: " << paint_.strong(*event) << "\n";
        }
    }

    /// False when the person leaves.
    bool obey(const std::string& line) {
        std::istringstream words(line);
        std::string command, argument, rest;
        words >> command >> argument >> rest;
        try {
            if (command.empty()) return true;
            if (command == "quit") return false;
            if (line.size() > longest_line)
                throw InputError("", "a line of " + std::to_string(line.size()) + " characters is too long",
                                 "a move, or a command that 'help' lists");
            if (!rest.empty())
                throw InputError("", "too many words: " + in_quotes(line), "a move, or a command that 'help' lists");
            if (command == "level" || command == "opponent") {
                change_opponent(command, argument);
            } else if (!argument.empty()) {
                throw InputError("", in_quotes(command) + " takes nothing after it",
                                 "a move, or a command that 'help' lists");
            } else if (!obey_word(command)) {
                play(command);
            }
        } catch (const InputError& error) {
            out_ << "  " << printable(error.what()) << "\n";
        }
        return true;
    }

    bool obey_word(const std::string& command) {
        if (command == "help") {
            out_ << help_text;
        } else if (command == "board") {
            show_board();
        } else if (command == "moves") {
            show_moves();
        } else if (command == "hint") {
            hint();
        } else if (command == "why") {
            why();
        } else if (command == "back") {
            back();
        } else if (command == "restart") {
            while (game_.table->take_back()) {
            }
            last_answer_.reset();
            counted_ = false;
            out_ << "The game begins again";
            if (follow_ && follow_->level() != opponent_.level) {
                opponent_.level = follow_->level();
                out_ << ", against " << opponent_title(opponent_);
            }
            out_ << ".\n\n";
            let_chance_act();
            show_board();
        } else if (command == "side") {
            person_ = rival_of(person_);
            out_ << "You are " << side_text(person_) << " now.\n";
        } else {
            return false;
        }
        return true;
    }

    void play(const std::string& move) {
        if (over()) throw InputError("", "the game is over, so nobody may move", "restart, back or quit");
        try {
            game_.table->play(move);
        } catch (const InputError& error) {
            throw InputError("", std::string(error.what()) + "; 'moves' lists the legal moves, 'help' the commands");
        }
        let_chance_act();
        // The position is shown once the opponent has answered; now only if nobody does.
        if (!opponents_turn()) {
            out_ << "\n";
            show_board();
        }
    }

    void show_moves() {
        const auto legal = game_.table->legal_moves();
        if (legal.empty()) out_ << "  The game is over, so there are none.\n";
        constexpr std::size_t in_a_line = 12;
        for (std::size_t i = 0; i < legal.size(); ++i)
            out_ << (i % in_a_line == 0 ? "  " : " ") << legal[i]
                 << (i % in_a_line + 1 == in_a_line || i + 1 == legal.size() ? "\n" : "");
    }

    void hint() {
        if (over()) throw InputError("", "the game is over, so there is nothing to decide", "restart, back or quit");
        const auto report = game_.table->decide(read_opponent(standard_opponent(game_)), decision_seed(),
                                                {steady_seconds, InterruptGuard::stop_token()});
        out_ << "  " << paint_.strong(report.move);
        if (!report.has_scores) {
            const auto rule = std::find_if(report.rules.begin(), report.rules.end(),
                                           [&](const RuleReport& asked) { return asked.rule == report.chosen_by; });
            out_ << (rule != report.rules.end() ? " by the rule " + in_quotes(rule->rule) + ": " + rule->why : "")
                 << "\n";
            return;
        }
        out_ << ", expecting";
        for (const std::string& move : report.ranked.front().line) out_ << " " << move;
        out_ << ": " << score_text(report.ranked.front().score, report.ranked.front().kind) << "\n";
    }

    void why() {
        if (!last_answer_) throw InputError("", "the opponent has not moved yet", "'why' after its first move");
        out_ << last_answer_->to_move << " played " << paint_.strong(last_answer_->move) << " at "
             << last_answer_->position << "\n"
             << explanation_text(*last_answer_, moves_explained, paint_);
    }

    void back() {
        if (!game_.table->take_back()) throw InputError("", "no move has been played", "a move first");
        while ((game_.table->chance_is_next() || opponents_turn()) && game_.table->take_back()) {
        }
        last_answer_.reset();
        out_ << "Taken back.\n\n";
        show_board();
    }

    void change_opponent(const std::string& command, const std::string& argument) {
        OpponentSpec changed = opponent_;
        if (command == "level") {
            changed.level = static_cast<int>(whole_number("level", argument, lowest_level, highest_level));
            check_level(changed.name, changed.level);
        } else {
            changed = opponent_named(argument, subject_.game);
        }
        opponent_ = changed;
        follow_.reset();
        out_ << side_text(rival_of(person_)) << " is " << opponent_title(opponent_) << " now.\n";
    }

    OpenedGame game_;
    OpponentSpec opponent_;
    Player person_;
    Pace pace_;
    std::uint64_t seed_;
    Random pace_random_;
    Console console_;
    std::ostream& out_;
    Paint paint_;
    std::vector<std::string> names_;
    Subject subject_;
    std::optional<DecisionReport> last_answer_;
    std::optional<FollowingLevel> follow_;
    bool counted_ = false;  ///< whether the end of this game was told to it
};

Player side_of(const Arguments& arguments, const std::vector<std::string>& names) {
    if (!arguments.as) return Player::First;
    std::vector<std::string> known;
    for (std::size_t i = 0; i < names.size(); ++i) {
        known.push_back(lower_case(names[i]));
        if (known.back() == lower_case(*arguments.as)) return static_cast<Player>(i);
    }
    throw InputError("--as", "there is no side " + in_quotes(*arguments.as), any_of_text(known));
}

}  // namespace

int run_play(const Tool& tool, const Arguments& arguments, const Console& console) {
    OpenedGame game = open_game(tool, arguments);
    const OpponentSpec opponent = opponent_of(arguments, standard_opponent(game) + "@4");
    const Player person = side_of(arguments, game.player_names());
    Pace pace = console.line_editing ? unhurried_pace : Pace{};
    if (opponent.profile && console.line_editing && opponent.profile->pace.least_seconds > 0)
        pace = opponent.profile->pace;
    if (arguments.pace) pace.least_seconds = seconds_value("--pace", *arguments.pace, true);
    std::random_device device;
    const std::uint64_t fresh = (std::uint64_t{device()} << 20 ^ device()) & 0x7fff'ffff;
    const std::uint64_t seed = seed_of(arguments, fresh);
    require_going_on(game);

    const InterruptGuard guard(console.reads_standard_input);
    const bool json = arguments.format == "json";
    Session session(std::move(game), opponent, person, pace, seed, console, json ? console.err : console.out);
    session.run();
    if (json) console.out << play_as_json(session.subject(), session.report());
    return 0;
}

}  // namespace arvek::tool
