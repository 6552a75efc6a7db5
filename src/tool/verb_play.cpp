#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <ostream>
#include <random>
#include <sstream>

#include "arvek/arena/files.hpp"
#include "arvek/arena/steady_clock.hpp"
#include "arvek/opponent/pace.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/picture/score_text.hpp"
#include "arvek/session/plain_text.hpp"
#include "game_log.hpp"
#include "line_reader.hpp"
#include "person_file.hpp"
#include "position_file.hpp"
#include "values.hpp"
#include "verbs.hpp"
#include "wrapping.hpp"

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
    "  position  the position as text, as --position takes it\n"
    "  save FILE.toml   writes the position to a file that --position reads\n"
    "  quit      leaves\n";

std::string person_text(const PersonFile& person) {
    const PersonRating rating = person.rating();
    if (person.games().empty()) return "Nothing is known of you yet.";
    return fmt::format("You are rated {:.0f}, 95 % interval {:.0f} to {:.0f}, after {} game{}: about level {:.1f}.",
                       rating.mean, rating.low, rating.high, person.games().size(),
                       person.games().size() == 1 ? "" : "s", person.strength().level);
}

/// A person's game against an opponent, in words.
class PersonsGame {
   public:
    /// `persons`: the seats that people have; the rest are the opponent's.
    PersonsGame(Session session, const OpponentSpec& opponent, std::vector<Player> persons, Pace pace,
                std::uint64_t seed, Console console, std::ostream& out, std::shared_ptr<OpeningMemory> openings,
                PersonFile* person)
        : session_(std::move(session)),
          means_{steady_seconds, std::move(openings),
                 person != nullptr ? std::optional(person->strength()) : std::nullopt},
          person_(person),
          persons_(std::move(persons)),
          pace_(pace),
          seed_(seed),
          pace_random_(derived_seed(seed, 0)),
          console_(console),
          out_(out),
          draws_over_(console.draws_over),
          paint_(console.colour),
          names_(session_.player_names()),
          subject_(session_.subject()) {
        for (const Player seat : opponents()) session_.take_seat(seat, opponent, means_);
        last_shown_to_ = persons_.empty() ? Player::First : persons_.front();
    }

    /// Why the opponent's moves that stand were chosen.
    void write_log(OutputFile& file) const {
        for (const LoggedDecision& decision : log_) file.write(log_line(0, decision, names_));
        GameRecord record;
        record.moves = session_.moves_played();
        const auto ending = session_.ending();
        record.result = ending ? ending->text() : "not finished";
        file.write(log_end(record));
    }

    void run() {
        const auto reader = make_line_reader(console_, out_);
        const std::string settings = settings_text(session_.game().settings);
        title_ = paint_.strong(session_.game().name) + paint_.faint(settings.empty() ? "" : "  " + settings) + "\n";
        if (!draws_over_) {
            out_ << head();
            is_begun_ = true;
        }
        guarded([&] {
            let_chance_act();
            show_board();
        });
        while (!InterruptGuard::interrupted()) {
            bool opponents_turn = false;
            guarded([&] {
                let_chance_act();
                opponents_turn = session_.awaits_answer();
            });
            if (opponents_turn) {
                answer();
                continue;
            }
            if (!pass_the_screen(*reader)) return;
            const auto line = reader->next(prompt());
            if (!line) {
                out_ << "The game is left as it is.\n";
                return;
            }
            bool stays = true;
            said_.clear();
            guarded([&] { stays = obey(*line); });
            if (!stays) return;
        }
        out_ << "\nThe game is left as it is.\n";
    }

    PlayReport report() const {
        const OpponentSpec* seated = someone();
        std::string sides;
        for (const Player person : persons_) sides += (sides.empty() ? "" : ",") + lower_case(names_[index_of(person)]);
        return {sides,
                seated != nullptr ? opponent_text(*seated) : "",
                seed_,
                session_.moves_played(),
                session_.position_text(),
                session_.ending()};
    }
    const Subject& subject() const { return subject_; }

   private:
    bool is_person(Player player) const {
        return std::find(persons_.begin(), persons_.end(), player) != persons_.end();
    }
    /// The seats that are the opponent's.
    std::vector<Player> opponents() const {
        std::vector<Player> seats;
        for (std::size_t i = 0; i < names_.size(); ++i)
            if (!is_person(static_cast<Player>(i))) seats.push_back(static_cast<Player>(i));
        return seats;
    }
    /// The opponent that sits on the first of them; null where none does.
    const OpponentSpec* someone() const {
        for (const Player seat : opponents())
            if (const OpponentSpec* seated = session_.seated(seat)) return seated;
        return nullptr;
    }
    std::string sides_text(const std::vector<Player>& seats) const {
        std::string text;
        for (std::size_t i = 0; i < seats.size(); ++i)
            text += (i == 0 ? "" : i + 1 == seats.size() ? " and " : ", ") + side_text(seats[i]);
        return text;
    }
    std::string seats_text() const {
        const auto others = opponents();
        std::string text = (persons_.size() > 1 ? "You play " : "You are ") + sides_text(persons_);
        if (others.empty()) return text + ".";
        return text + "; " + sides_text(others) + (others.size() > 1 ? " are " : " is ") + title() + ".";
    }
    bool hides() const { return has_views(session_.game().kit.game); }
    /// Who looks at the screen: the person to move, or the one who looked last.
    Player viewer() const {
        if (!over() && !session_.chance_is_next() && is_person(session_.player_to_move()))
            return session_.player_to_move();
        return last_shown_to_;
    }
    std::string view_of_the_board() const {
        if (over()) return session_.drawing();
        return session_.drawing_for(viewer());
    }

    /// Where hands are hidden and another person is to move than the one who saw the screen last: waits until it has
    /// changed hands. False when the input ends.
    template <class Reader>
    bool pass_the_screen(Reader& reader) {
        if (!hides() || over() || persons_.size() < 2 || !is_person(session_.player_to_move()) ||
            session_.player_to_move() == last_shown_to_)
            return true;
        const Player next = session_.player_to_move();
        out_ << std::string(console_.line_editing ? 60 : 0, '\n') << "Pass the screen to " << side_text(next)
             << ", who then presses Enter.\n";
        if (!reader.next("")) {
            out_ << "The game is left as it is.\n";
            return false;
        }
        last_shown_to_ = next;
        show_board();
        return true;
    }
    bool over() const { return session_.ending().has_value(); }
    std::string side_text(Player player) const { return paint_.of_player(names_[index_of(player)], player); }
    std::string title() const {
        const OpponentSpec* seated = someone();
        return seated != nullptr ? plain_line(opponent_title(*seated)) : "nobody";
    }
    std::string prompt() const {
        try {
            return (over() ? "over" : lower_case(names_[index_of(viewer())])) + "> ";
        } catch (const std::exception&) {  // said where it happened
            return lower_case(names_[index_of(last_shown_to_)]) + "> ";
        }
    }

    /// Whatever goes wrong in a game of one's own is said in a line, and the game goes on.
    template <class Act>
    void guarded(Act act) {
        try {
            act();
        } catch (const std::exception& error) {
            say(error.what());
        } catch (...) {
            say("the game threw what is no std::exception");
        }
    }
    void say(const std::string& message) { tell("  " + message_line(message) + "\n"); }
    /// Where the board is drawn over, what is told since the person's last line stands below it.
    void tell(const std::string& text) {
        out_ << text;
        said_ += text;
    }

    std::string head() const { return title_ + seats_text() + " 'help' lists the commands.\n\n"; }

    /// `is_between`: an opponent answers at once, so that it is only for those who see the board drawn over.
    void show_board(bool is_between = false) {
        if (is_between && !draws_over_) return;
        // A hand is for the eyes of whoever is to move, after the screen was passed.
        const bool waits = hides() && !over() && persons_.size() > 1 && viewer() != last_shown_to_;
        const std::string board = waits ? "" : paint_.board(view_of_the_board(), names_);
        const std::string screen = head() + board + (said_.empty() ? "" : "\n" + said_);
        constexpr std::size_t lines_below = 3;  // the end of the game, and the prompt
        const std::size_t room = terminal_height();
        // Where it does not fit, moves follow each other down the screen.
        if (draws_over_ && (room == 0 || lines_of(screen, terminal_width()) + lines_below <= room)) {
            // What stood on the terminal before goes up rather than away.
            out_ << (is_begun_ ? "" : std::string(room, '\n')) << "\033[H\033[J" << screen;
        } else if (!is_between) {
            out_ << (is_begun_ ? "" : head()) << board;
        }
        is_begun_ = true;
        if (const auto ending = session_.ending()) {
            out_ << paint_.strong("The game is over: " + ending->text() + ".") << " 'restart', 'back' or 'quit'.\n";
            tell_person(*ending);
        }
    }

    /// The result counts once, whatever is taken back afterwards.
    void tell_person(const Ending& ending) {
        const OpponentSpec* seated = someone();
        if (person_ == nullptr || told_person_ || seated == nullptr) return;
        told_person_ = true;
        const double result = !ending.winner ? 0.5 : *ending.winner == names_[index_of(persons_.front())] ? 1.0 : 0.0;
        person_->add(level_of(*seated), result);
        out_ << "  " << person_text(*person_) << "\n";
    }

    void answer() {
        if (draws_over_) out_ << "  " << title() << " is thinking.\n";
        out_ << std::flush;  // the person sees the position while the opponent thinks
        const double started = steady_seconds();
        std::optional<DecisionReport> decision;
        std::string problem;
        try {
            decision = session_.ask_seated(seed_, InterruptGuard::stop_token());
        } catch (const std::exception& error) {
            problem = error.what();
        } catch (...) {
            problem = "it threw what is no std::exception";
        }
        if (InterruptGuard::interrupted()) return;
        if (!decision) {
            replace_opponent(problem);
            return;
        }
        wait_seconds(seconds_to_wait(pace_, steady_seconds() - started, pace_random_));
        if (InterruptGuard::interrupted()) return;
        guarded([&] {
            const std::string name = side_text(session_.player_to_move());
            const std::size_t seat = index_of(session_.player_to_move());
            session_.play_what_was_asked();
            tell(name + " plays " + paint_.strong(decision->move) + ".\n");
            if (!draws_over_) out_ << "\n";
            log_.push_back({session_.plies() - 1, static_cast<int>(seat), *decision});
            last_answer_ = std::move(*decision);
            if (const OpponentSpec* spec = session_.seated(static_cast<Player>(seat))) last_spec_ = *spec;
            let_chance_act();
            show_board();
        });
    }

    /// The opponent could not choose: the game goes on with the one before, or with random moves.
    void replace_opponent(const std::string& problem) {
        say(title() + " cannot choose: " + problem);
        std::vector<OpponentSpec> others;
        if (before_) others.push_back(*before_);
        before_.reset();
        if (!gave_up_) others.push_back(read_opponent("random"));
        gave_up_ = others.size() == 1 && others.front().name == "random";
        for (const OpponentSpec& other : others) {
            try {
                for (const Player seat : opponents()) session_.take_seat(seat, other, means_);
                tell("  " + title() + " plays on in its place.\n");
                return;
            } catch (const std::exception&) {
                continue;
            }
        }
        for (const Player seat : opponents()) session_.leave_seat(seat);
        say("nobody can play on; 'back' takes moves back, 'opponent NAME' seats another");
    }

    /// Depends on the game's seed and on how far the game is, not on what was asked or taken back.
    std::uint64_t decision_seed() const { return derived_seed(seed_, 1 + session_.plies()); }

    void let_chance_act() {
        for (;;) {
            Random chance(derived_seed(decision_seed(), 1));
            const auto event = session_.let_chance_act(chance, persons_);
            if (!event) return;
            if (event->empty()) continue;  // not for the eyes of all
            tell("  chance: " + paint_.strong(*event) + "\n");
        }
    }

    /// False when the person leaves.
    bool obey(const std::string& line) {
        std::istringstream words(line);
        std::string command, argument, rest;
        words >> command >> argument >> rest;
        if (command.empty()) return true;
        if (command == "quit") return false;
        if (line.size() > longest_line)
            throw InputError("", "a line of " + std::to_string(line.size()) + " characters is too long",
                             "a move, or a command that 'help' lists");
        if (!rest.empty())
            throw InputError("", "too many words: " + in_quotes(line), "a move, or a command that 'help' lists");
        if (command == "level" || command == "opponent")
            change_opponent(command, argument);
        else if (command == "save")
            save(argument);
        else if (!argument.empty())
            throw InputError("", in_quotes(command) + " takes nothing after it",
                             "a move, or a command that 'help' lists");
        else if (!obey_word(command))
            play(command);
        return true;
    }

    bool obey_word(const std::string& command) {
        if (command == "help") {
            out_ << help_text;
        } else if (command == "board") {
            show_board();
        } else if (command == "position") {
            out_ << "  " << shown_position() << "\n";
        } else if (command == "moves") {
            show_moves();
        } else if (command == "hint") {
            hint();
        } else if (command == "why") {
            why();
        } else if (command == "back") {
            back();
        } else if (command == "restart") {
            restart();
        } else if (command == "side") {
            change_sides();
        } else {
            return false;
        }
        return true;
    }

    /// Every person takes the next seat.
    void change_sides() {
        const auto others = opponents();
        if (others.empty()) throw InputError("", "people have every seat", "an opponent on one of them");
        const OpponentSpec seated = someone() != nullptr ? *someone() : read_opponent("random");
        for (const Player person : persons_) session_.take_seat(person, seated, means_);
        for (Player& person : persons_) person = static_cast<Player>((index_of(person) + 1) % names_.size());
        for (const Player person : persons_) session_.leave_seat(person);
        for (const Player seat : opponents())
            if (session_.seated(seat) == nullptr) session_.take_seat(seat, seated, means_);
        last_shown_to_ = persons_.front();
        out_ << "You are " << sides_text(persons_) << " now.\n";
    }

    void play(const std::string& move) {
        if (over()) throw InputError("", "the game is over, so nobody may move", "restart, back or quit");
        const std::string mover = session_.chance_is_next() ? "" : side_text(session_.player_to_move());
        try {
            session_.play(move);
        } catch (const InputError& error) {
            throw InputError("", std::string(error.what()) + "; 'moves' lists the legal moves, 'help' the commands");
        }
        if (draws_over_) said_ = mover + " plays " + paint_.strong(session_.moves_played().back()) + ".\n";
        let_chance_act();
        const bool is_answered = session_.awaits_answer();
        if (!draws_over_ && !is_answered) out_ << "\n";
        show_board(is_answered);
    }

    /// Throws InputError where it would show what the opponent has in hand.
    std::string shown_position() const {
        if (hides() && !over())
            throw InputError("", "it would show what the opponent has in hand", "'position' when the game is over");
        return plain_line(session_.position_text());
    }

    void save(const std::string& path) {
        if (path.empty() || !names_toml_file(path))
            throw InputError("save", "it is not said where to", "'save FILE.toml'");
        std::error_code problem;
        if (std::filesystem::exists(path, problem))
            throw InputError("save", in_quotes(path) + " is there already", "another name");
        OutputFile file(path);
        file.write("game = " + toml_text(session_.game().name) + "\nposition = " + toml_text(shown_position()) + "\n" +
                   toml_parameters(session_));
        file.commit();
        out_ << "  Saved: --position " << path << " goes on from here.\n";
    }

    void show_moves() {
        const auto legal = session_.legal_moves();
        if (legal.empty()) out_ << "  The game is over, so there are none.\n";
        constexpr std::size_t longest = 78;
        std::string line = " ";
        for (const std::string& move : legal) {
            if (line.size() > 1 && line.size() + 1 + move.size() > longest) {
                out_ << line << "\n";
                line = " ";
            }
            line += " " + move;
        }
        if (!legal.empty()) out_ << line << "\n";
    }

    void hint() {
        if (over()) throw InputError("", "the game is over, so there is nothing to decide", "restart, back or quit");
        const OpponentSpec adviser = read_opponent(usual_opponent(session_), session_.game().kit.choosers.infos());
        const auto report = session_.report_of(
            session_.decide(adviser, decision_seed(), means_, {.stop = InterruptGuard::stop_token()}), adviser);
        out_ << "  " << paint_.strong(report.has_scores ? report.ranked.front().move : report.move);
        if (!report.has_scores) {
            const auto rule = std::find_if(report.rules.begin(), report.rules.end(),
                                           [&](const RuleReport& asked) { return asked.rule == report.chosen_by; });
            out_ << (rule != report.rules.end() ? " by the rule " + in_quotes(rule->rule) + ": " + rule->why : "")
                 << "\n";
            return;
        }
        const MoveReport& best = report.ranked.front();
        constexpr std::size_t moves_told = 5;
        out_ << ", expecting";
        for (std::size_t i = 0; i < best.line.size() && i < moves_told; ++i) out_ << " " << best.line[i];
        out_ << (best.line.size() > moves_told ? " ..." : "") << ": " << standing_text(report, session_.game().kit.game)
             << "\n";
    }

    void why() {
        if (!last_answer_) throw InputError("", "the opponent has not moved yet", "'why' after its first move");
        if (hides() && !over())
            throw InputError("", "it would show what the opponent has in hand", "'why' when the game is over");
        if (!last_answer_->deeper && last_spec_)
            last_answer_->deeper = session_.look_deeper(*last_answer_, *last_spec_, seconds_of_a_longer_look, means_,
                                                        InterruptGuard::stop_token());
        out_ << last_answer_->to_move << " played " << paint_.strong(last_answer_->move) << " at "
             << last_answer_->position << "\n"
             << explanation_text(*last_answer_, moves_explained, paint_);
    }

    void back() {
        if (!session_.take_back()) throw InputError("", "no move has been played", "a move first");
        while ((session_.chance_is_next() || session_.awaits_answer()) && session_.take_back()) {
        }
        std::erase_if(log_, [&](const LoggedDecision& decision) { return decision.ply >= session_.plies(); });
        last_answer_.reset();
        tell("Taken back.\n");
        if (!draws_over_) out_ << "\n";
        show_board();
    }

    void restart() {
        const std::string title_before = title();
        session_.restart();
        told_person_ = false;
        log_.clear();
        last_answer_.reset();
        tell("The game begins again" + (title() != title_before ? ", against " + title() : "") + ".\n");
        if (!draws_over_) out_ << "\n";
        let_chance_act();
        show_board();
    }

    void change_opponent(const std::string& command, const std::string& argument) {
        if (opponents().empty()) throw InputError("", "people have every seat", "an opponent on one of them");
        const OpponentSpec* seated = someone();
        OpponentSpec changed;
        if (command == "level") {
            const int level = static_cast<int>(integer_value("level", argument, lowest_level, highest_level));
            if (seated == nullptr) throw InputError("level", "nobody sits there", "opponent NAME first");
            changed = *seated;
            changed.level = level;
        } else {
            changed = opponent_named(argument, session_);
        }
        const std::optional<OpponentSpec> old = seated != nullptr ? std::optional(*seated) : std::nullopt;
        for (const Player seat : opponents()) session_.take_seat(seat, changed, means_);  // refused, the old one stays
        before_ = old;
        gave_up_ = false;
        out_ << sides_text(opponents()) << (opponents().size() > 1 ? " are " : " is ") << title() << " now.\n";
    }

    Session session_;
    OpponentMeans means_;
    PersonFile* person_;        ///< null: nobody keeps results
    bool told_person_ = false;  ///< of this game
    std::vector<Player> persons_;
    Player last_shown_to_ = Player::First;  ///< the person who looked at the screen last
    Pace pace_;
    std::uint64_t seed_;
    Random pace_random_;
    Console console_;
    std::ostream& out_;
    bool draws_over_;
    bool is_begun_ = false;  ///< whether the board was shown
    std::string title_{};    ///< of the game
    std::string said_{};     ///< since the person's last line
    Paint paint_;
    std::vector<std::string> names_;
    Subject subject_;
    std::optional<DecisionReport> last_answer_;
    std::optional<OpponentSpec> last_spec_;  ///< whose answer that is
    std::vector<LoggedDecision> log_;        ///< of the opponent, as long as its moves stand
    std::optional<OpponentSpec> before_;     ///< the opponent before the one that sits there
    bool gave_up_ = false;                   ///< whether random moves were tried in place of one that could not choose
};

/// The sides that people play, in the order of the seats.
std::vector<Player> sides_of(const Arguments& arguments, const std::vector<std::string>& names) {
    if (!arguments.as) return {Player::First};
    std::vector<std::string> known;
    for (const std::string& name : names) known.push_back(lower_case(name));
    std::vector<Player> sides;
    for (const std::string& text : comma_parts(*arguments.as)) {
        const auto at = std::find(known.begin(), known.end(), lower_case(text));
        if (at == known.end()) throw InputError("--as", "there is no side " + in_quotes(text), any_of_text(known));
        const auto side = static_cast<Player>(at - known.begin());
        if (std::find(sides.begin(), sides.end(), side) != sides.end())
            throw InputError("--as", in_quotes(text) + " is named twice", "each side once");
        sides.push_back(side);
    }
    if (sides.empty()) throw InputError("--as", "no side is named", any_of_text(known));
    std::sort(sides.begin(), sides.end());
    return sides;
}

}  // namespace

int run_play(const Tool& tool, const Arguments& arguments, const Console& console) {
    Session session = open_session(tool, arguments);
    const OpponentSpec opponent = opponent_of(arguments, session, usual_opponent(session) + "@4");
    const std::vector<Player> persons = sides_of(arguments, session.player_names());
    Pace pace = console.line_editing ? unhurried_pace : Pace{};
    if (opponent.profile && console.line_editing && opponent.profile->pace.least_seconds > 0)
        pace = opponent.profile->pace;
    if (arguments.pace) pace.least_seconds = seconds_value("--pace", *arguments.pace, true);
    std::random_device device;
    const std::uint64_t fresh = (std::uint64_t{device()} << 20 ^ device()) & 0x7fff'ffff;
    const std::uint64_t seed = seed_of(arguments, fresh);
    require_going_on(session);

    std::shared_ptr<OpeningMemory> openings;
    if (arguments.remember) {
        if (!opponent.profile || opponent.profile->book.empty())
            throw InputError("--remember", in_quotes(opponent.name) + " has no opening book",
                             "a profile with [[book]]");
        openings = read_openings(*arguments.remember);
        write_openings(*arguments.remember, *openings);  // what cannot be written is known before the game
    }
    std::optional<PersonFile> person;
    OpponentSpec seated = opponent;
    if (arguments.person) {
        if (session.players() != 2 || persons.size() != 1)
            throw InputError("--person", "it is for one person against an opponent",
                             "a game of two, and one side in --as");
        if (!chooser_of(opponent, session).has_levels)
            throw InputError("--person", in_quotes(opponent.name) + " has no levels", "another opponent");
        person.emplace(*arguments.person, session, opponent);
        const bool named =
            arguments.level || (arguments.opponent && arguments.opponent->find('@') != std::string::npos);
        const bool follows = opponent.profile && opponent.profile->follow;
        if (!named && !follows)
            seated.level =
                std::clamp(static_cast<int>(std::lround(person->strength().level)), lowest_level, highest_level);
        (arguments.format == "json" ? console.err : console.out) << person_text(*person) << "\n";
    }
    std::unique_ptr<OutputFile> log;
    if (arguments.log) {
        log = std::make_unique<OutputFile>(*arguments.log);
        log->write(log_head(session.subject(), session.player_names()));
    }
    const InterruptGuard guard(console.reads_standard_input);
    const bool json = arguments.format == "json";
    Console shown = console;
    shown.draws_over = console.draws_over && !arguments.scroll && !json;
    PersonsGame game(std::move(session), seated, persons, pace, seed, shown, json ? console.err : console.out, openings,
                     person ? &*person : nullptr);
    game.run();
    if (openings) write_openings(*arguments.remember, *openings);
    if (log) {
        game.write_log(*log);
        log->commit();
    }
    if (json) console.out << play_as_json(game.subject(), game.report());
    return 0;
}

}  // namespace arvek::tool
