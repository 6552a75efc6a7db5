#include "arvek/link/uci_server.hpp"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <condition_variable>
#include <istream>
#include <mutex>
#include <optional>
#include <ostream>
#include <sstream>
#include <thread>

#include "arvek/arena/steady_clock.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/session/plain_text.hpp"
#include "line_input.hpp"
#include "words.hpp"

namespace arvek::link {

double seconds_to_think(double left, double increment, std::optional<long long> moves_to_go) {
    // What is kept back is for the way to the interface and back, each time.
    constexpr double kept_back = 0.05, least = 0.001;
    const double usable = std::max(left - kept_back, 0.0);
    const auto moves = static_cast<double>(std::clamp(moves_to_go.value_or(30), 1LL, 60LL));
    const double share = usable / (moves + 1) + 0.75 * std::max(increment, 0.0);
    return std::max(std::min(share, moves_to_go == 1 ? usable : 0.6 * usable), least);
}

namespace {

constexpr std::size_t longest_line = std::size_t{1} << 20;
constexpr int most_threads_of_uci = 64, most_mebibytes_of_uci = 65'536, most_lines_at_once = 64;

/// What "go" asks for.
struct GoText {
    std::optional<long long> depth, nodes, mate, movetime, movestogo;
    std::optional<long long> time[2], increment[2];  // of the first and the second player, in milliseconds
    bool infinite = false, ponder = false;
    std::vector<std::string> only;
};

double seconds_to_think(const GoText& go, Player player) {
    const std::size_t side = index_of(player);
    return link::seconds_to_think(static_cast<double>(go.time[side].value_or(0)) / 1'000,
                                  static_cast<double>(go.increment[side].value_or(0)) / 1'000, go.movestogo);
}

class UciServer {
   public:
    UciServer(const OpenGame& game, std::ostream& out, const UciServerOptions& options)
        : game_(game), out_(out), options_(options), spec_(options.opponent), session_(game) {
        if (!offers(game.kit.game, Ability::Coordinates))
            throw InputError(game.name, "its moves have no coordinates, which the protocol is made of",
                             ability_info(Ability::Coordinates).functions);
    }
    ~UciServer() { stop_thinking(); }

    /// False for the last command.
    bool obey(const std::string& line) {
        std::istringstream in(line);
        // Words that nobody knows are passed over, as the protocol wants it.
        static const std::vector<std::string> commands{"quit",       "uci",      "isready", "debug", "setoption",
                                                       "ucinewgame", "position", "go",      "stop",  "ponderhit"};
        std::string word, unknown;
        while (in >> word && std::find(commands.begin(), commands.end(), word) == commands.end()) {
            if (unknown.empty()) unknown = word;
            word.clear();
        }
        if (!unknown.empty()) note("there is no command " + in_quotes(unknown));
        try {
            if (word == "quit") return false;
            if (word == "uci")
                greet();
            else if (word == "isready")
                say("readyok");
            else if (word == "debug")
                ;
            else if (word == "setoption")
                set_option(in);
            else if (word == "ucinewgame")
                begin_anew();
            else if (word == "position")
                set_position(in);
            else if (word == "go")
                go(in);
            else if (word == "stop")
                stop_thinking();
            else if (word == "ponderhit")
                ponderhit();
        } catch (const std::exception& error) {
            note(error.what());
        }
        return true;
    }

    void note(const std::string& text) { say("info string " + message_line(text)); }

    void stop_thinking() {
        stop_ = true;
        go_on();
        if (thinking_.joinable()) thinking_.join();
    }

   private:
    void say(const std::string& line) {
        const std::lock_guard lock(output_);
        out_ << line << "\n" << std::flush;
    }

    void greet() {
        say("id name " + options_.name);
        say("id author the founders of " + options_.name);
        say("option name Level type spin default " + std::to_string(highest_level) + " min " +
            std::to_string(lowest_level) + " max " + std::to_string(highest_level));
        say("option name Opponent type string default " + options_.opponent.name);
        say("option name Threads type spin default 1 min 1 max " + std::to_string(most_threads_of_uci));
        say("option name Hash type spin default 16 min 1 max " + std::to_string(most_mebibytes_of_uci));
        say("option name MultiPV type spin default 1 min 1 max " + std::to_string(most_lines_at_once));
        say("option name Seed type spin default 0 min 0 max 2147483647");
        say("option name Ponder type check default false");
        say("uciok");
    }

    void set_option(std::istream& in) {
        std::string word, name, value;
        std::string* part = nullptr;
        while (in >> word) {
            if (word == "name" && part == nullptr) {
                part = &name;
            } else if (word == "value" && part == &name) {
                part = &value;
            } else if (part != nullptr) {
                *part += (part->empty() ? "" : " ") + word;
            }
        }
        stop_thinking();
        const std::string key = lower_case(name);
        const auto integer = [&](int least, int most) {
            const auto number = number_in<long long>(value);
            if (!number || *number < least || *number > most)
                throw InputError(name, in_quotes(value) + " is not possible",
                                 "an integer from " + std::to_string(least) + " to " + std::to_string(most));
            return static_cast<int>(*number);
        };
        if (key == "level") {
            level_ = integer(lowest_level, highest_level);
        } else if (key == "opponent") {
            OpponentSpec changed = options_.read_opponent ? options_.read_opponent(value) : read_opponent(value);
            session_.check_opponent(changed);
            spec_ = std::move(changed);
            level_ = level_of(spec_);
        } else if (key == "threads") {
            threads_ = integer(1, most_threads_of_uci);
        } else if (key == "hash") {
            mebibytes_ = integer(1, most_mebibytes_of_uci);
        } else if (key == "multipv") {
            lines_at_once_ = integer(1, most_lines_at_once);
        } else if (key == "seed") {
            seed_ = static_cast<std::uint64_t>(integer(0, 2'147'483'647));
        } else if (key != "ponder") {
            throw InputError("setoption", "there is no option " + in_quotes(name),
                             "Level, Opponent, Threads, Hash, MultiPV, Seed or Ponder");
        }
    }

    void begin_anew() {
        stop_thinking();
        session_ = Session(game_);
        start_.clear();
        played_.clear();
        beyond_.reset();
        has_position_ = true;
        ++game_number_;
    }

    void set_position(std::istream& in) {
        stop_thinking();
        // From a position that is wrong nothing is played, least of all from the one before it.
        has_position_ = false;
        std::string word, start;
        in >> word;
        bool moves_follow = false;
        if (word == "fen") {
            while (in >> word && !(moves_follow = word == "moves")) start += (start.empty() ? "" : " ") + word;
        } else if (word == "startpos") {
            start = game_.kit.game.position_text(game_.kit.game.initial_position());
            moves_follow = static_cast<bool>(in >> word) && word == "moves";
        } else {
            throw InputError("position", in_quotes(word) + " is no way to say a position", "startpos or fen");
        }
        std::vector<std::string> moves;
        if (moves_follow)
            while (in >> word) moves.push_back(word);
        // The game goes on where it can, so that what was learned of it is kept.
        const bool goes_on = !beyond_ && start == start_ && played_.size() <= moves.size() &&
                             std::equal(played_.begin(), played_.end(), moves.begin());
        if (!goes_on) {
            session_ = Session(game_, start);
            start_ = start;
            played_.clear();
            beyond_.reset();
        }
        for (std::size_t i = played_.size(); i < moves.size(); ++i) {
            if (!beyond_ && session_.ending()) beyond_ = session_.position();
            if (beyond_)
                play_beyond(moves[i]);
            else
                session_.play(moves[i]);
            played_.push_back(moves[i]);
        }
        has_position_ = true;
    }

    /// Draws are the interface's to claim: where the rules see one, play may go on all the same.
    void play_beyond(const std::string& text) {
        const AnyGame& game = game_.kit.game;
        for (const AnyMove& move : moves_beyond(*beyond_)) {
            if (game.coordinates(*beyond_, move) != text) continue;
            game.play(*beyond_, move);
            return;
        }
        throw InputError("move", in_quotes(text) + " is not legal", "a move in coordinates");
    }
    /// None where somebody has won, or cannot move.
    std::vector<AnyMove> moves_beyond(const AnyPosition& at) const {
        const AnyGame& game = game_.kit.game;
        const auto outcome = game.outcome(at);
        if (outcome && outcome->payoff(Player::First) != 0) return {};
        MoveList<AnyMove> moves;
        game.generate_moves(at, moves);
        return {moves.begin(), moves.end()};
    }
    /// A move where the rules see a draw: searched where only the past made it one, or else what evaluates best.
    void go_beyond(const GoText& go) {
        const AnyGame& game = game_.kit.game;
        const AnyPosition at = beyond_ ? *beyond_ : session_.position();
        if (!game.outcome(at)) {
            const std::string text = game.position_text(at);
            session_ = Session(game_, text);
            start_.clear();  // what is played next begins a game of its own
            beyond_.reset();
            return start_thinking(go);
        }
        const auto moves = moves_beyond(at);
        const AnyMove* best = nullptr;
        Score most = Score::lowest();
        for (const AnyMove& move : moves) {
            AnyPosition after = at;
            game.play(after, move);
            const Score score = evaluation_of(game, after, game.player_to_move(at));
            if (best == nullptr || score > most) most = score, best = &move;
        }
        say("bestmove " + (best == nullptr ? std::string("(none)") : game.coordinates(at, *best)));
    }

    void go(std::istream& in) {
        stop_thinking();
        if (!has_position_) {
            note("there is no position to play from");
            return say("bestmove (none)");
        }
        GoText go;
        std::string word;
        const auto number = [&]() -> std::optional<long long> {
            std::string text;
            in >> text;
            const auto read = number_in<long long>(text);
            if (!read) note("go: " + in_quotes(text) + " is not an integer, so it limits nothing");
            return read;
        };
        bool moves_follow = false;
        while (moves_follow || in >> word) {
            moves_follow = false;
            if (word == "depth") {
                go.depth = number();
            } else if (word == "nodes") {
                go.nodes = number();
            } else if (word == "mate") {
                go.mate = number();
            } else if (word == "movetime") {
                go.movetime = number();
            } else if (word == "movestogo") {
                go.movestogo = number();
            } else if (word == "wtime" || word == "btime") {
                go.time[word == "wtime" ? 0 : 1] = number();
            } else if (word == "winc" || word == "binc") {
                go.increment[word == "winc" ? 0 : 1] = number();
            } else if (word == "infinite") {
                go.infinite = true;
            } else if (word == "ponder") {
                go.ponder = true;
            } else if (word == "searchmoves") {
                while (in >> word) {
                    static const std::vector<std::string> others{"depth",     "nodes",    "mate",  "movetime",
                                                                 "movestogo", "wtime",    "btime", "winc",
                                                                 "binc",      "infinite", "ponder"};
                    moves_follow = std::find(others.begin(), others.end(), word) != others.end();
                    if (moves_follow) break;
                    go.only.push_back(word);
                }
                if (!moves_follow) break;
            } else {
                note("go: there is no limit " + in_quotes(word));
            }
        }
        if (beyond_ || session_.ending()) return go_beyond(go);
        if (chance_is_next(game_.kit.game, session_.position()) || session_.legal_moves().empty()) {
            say("bestmove (none)");
            return;
        }
        std::erase_if(go.only, [&](const std::string& move) {
            try {
                (void)move_from_text(game_.kit.game, session_.position(), move);
                return false;
            } catch (const InputError& error) {
                note(error.what());
                return true;
            }
        });
        start_thinking(go);
    }

    const ChooserInfo* chooser_of(const OpponentSpec& spec) const {
        return game_.kit.choosers.find(game_.kit.game, spec.chooser_name());
    }

    OpponentSpec asked(const GoText& go) const {
        OpponentSpec spec = spec_;
        const ChooserInfo* info = chooser_of(spec);
        if (info != nullptr && info->has_levels && level_) spec.level = *level_;
        const auto has = [&](const char* name) {
            return info != nullptr && std::any_of(info->options.begin(), info->options.end(),
                                                  [&](const OptionInfo& option) { return option.name == name; });
        };
        if (threads_ && has("threads")) spec.options.set("threads", *threads_);
        if (mebibytes_ && has("memory")) spec.options.set("memory", *mebibytes_);
        if (info == nullptr || !info->looks_ahead) return spec;
        if (go.depth) spec.depth = static_cast<int>(std::clamp<long long>(*go.depth, 1, max_depth));
        if (go.mate)
            spec.depth = static_cast<int>(std::clamp<long long>(2 * std::min(*go.mate, 1'000LL) - 1, 1, max_depth));
        if (go.nodes) spec.nodes = static_cast<std::uint64_t>(std::max(*go.nodes, 1LL));
        if ((go.infinite || go.ponder) && level_of(spec) == highest_level && !spec.profile) spec.depth = max_depth;
        return spec;
    }

    void start_thinking(const GoText& go) {
        const Player player = session_.player_to_move();
        std::optional<double> seconds;
        if (go.movetime)
            seconds = static_cast<double>(std::max(*go.movetime, 1LL)) / 1'000;
        else if (go.time[index_of(player)])
            seconds = seconds_to_think(go, player);
        OpponentSpec spec = asked(go);
        const bool waits = go.infinite || go.ponder;
        if (seconds && !waits) {
            const ChooserInfo* info = chooser_of(spec);
            if (info != nullptr && info->looks_ahead) spec.seconds = std::max(*seconds - 0.005, 0.001);
        }
        stop_ = false;
        held_back_ = waits;
        deadline_ = -1.0;
        time_after_hit_ = seconds;
        thinking_ = std::thread([this, spec, only = go.only] { think(spec, only); });
    }

    void ponderhit() {
        {
            const std::lock_guard lock(holding_);
            if (!held_back_) return;
            held_back_ = false;
        }
        if (time_after_hit_) deadline_ = steady_seconds() + *time_after_hit_;
        held_.notify_all();
    }

    void go_on() {
        {
            const std::lock_guard lock(holding_);
            held_back_ = false;
        }
        held_.notify_all();
    }

    bool should_stop() const {
        const double deadline = deadline_;
        return stop_ || (deadline >= 0 && steady_seconds() >= deadline);
    }

    /// In a thread of its own.
    void think(const OpponentSpec& spec, const std::vector<std::string>& only) {
        const double begin = steady_seconds();
        std::string best = "(none)", answer;
        try {
            int told_depth = 0;
            const auto told = [&](const Decision<AnyMove>& so_far) {
                tell(so_far, begin);
                told_depth = so_far.stats.depth;
            };
            const Progress<AnyMove> progress(told);
            Question question;
            question.stop =
                StopToken([](const void* state) { return static_cast<const UciServer*>(state)->should_stop(); }, this);
            question.progress = &progress;
            question.only = only;
            if (lines_at_once_ > 1) question.ranking = Ranking::All;
            const Decision<AnyMove> decision =
                session_.decide(spec, seed_ + game_number_, {steady_seconds, {}}, question);
            if (told_depth != decision.stats.depth || decision.rank != 1) tell(decision, begin);
            best = game_.kit.game.coordinates(session_.position(), decision.move);
            for (const auto& entry : decision.ranked)
                if (entry.move == decision.move && entry.line.size() > 1) {
                    AnyPosition after = session_.position();
                    game_.kit.game.play(after, entry.line[0]);
                    if (!game_.kit.game.outcome(after)) answer = game_.kit.game.coordinates(after, entry.line[1]);
                }
        } catch (const std::exception& error) {
            note(error.what());
            best = first_legal(only);
        }
        // Before it is asked for, it is not to be said.
        std::unique_lock lock(holding_);
        held_.wait(lock, [&] { return !held_back_; });
        lock.unlock();
        say("bestmove " + best + (answer.empty() ? "" : " ponder " + answer));
    }

    std::string first_legal(const std::vector<std::string>& only) const {
        if (!only.empty()) return only.front();
        const auto moves = legal_moves(game_.kit.game, session_.position());
        return moves.empty() ? "(none)" : game_.kit.game.coordinates(session_.position(), moves[0]);
    }

    std::string score_text(Score score) const {
        if (!score.is_proven()) return "cp " + std::to_string(static_cast<long long>(score.number()));
        if (score.payoff() == 0) return "cp 0";
        const int plies = static_cast<int>(score.plies());
        return "mate " + std::to_string(score.is_proven_win() ? (plies + 1) / 2 : -(plies / 2));
    }

    void tell(const Decision<AnyMove>& decision, double begin) {
        if (decision.ranked.empty() || !decision.has_scores) return;
        const auto milliseconds = static_cast<long long>((steady_seconds() - begin) * 1'000);
        const std::uint64_t nodes = decision.stats.nodes;
        // The move that is played comes first, though a level may have ranked it lower.
        auto ranked = decision.ranked;
        const auto played =
            std::find_if(ranked.begin(), ranked.end(), [&](const auto& entry) { return entry.move == decision.move; });
        if (played != ranked.end()) std::rotate(ranked.begin(), played, played + 1);
        int number = 0;
        for (const auto& entry : ranked) {
            if (++number > lines_at_once_) break;
            if (number > 1 && entry.kind != ScoreKind::Exact) break;
            std::string line = "info depth " + std::to_string(std::max(decision.stats.depth, 1));
            if (lines_at_once_ > 1) line += " multipv " + std::to_string(number);
            line += " score " + score_text(entry.score);
            line += " nodes " + std::to_string(nodes);
            if (milliseconds > 0)
                line += " nps " + std::to_string(nodes * 1'000 / static_cast<std::uint64_t>(milliseconds));
            line += " time " + std::to_string(milliseconds) + " pv";
            AnyPosition at = session_.position();
            for (const AnyMove& move : entry.line) {
                line += " " + game_.kit.game.coordinates(at, move);
                game_.kit.game.play(at, move);
            }
            say(line);
        }
    }

    const OpenGame& game_;
    std::ostream& out_;
    const UciServerOptions& options_;
    OpponentSpec spec_;
    Session session_;
    std::string start_;                  ///< the text of the position where the game in hand began
    std::vector<std::string> played_;    ///< since, as they were told
    std::optional<AnyPosition> beyond_;  ///< where play went on after what the rules see as a draw
    bool has_position_ = true;           ///< false after one that was wrong
    std::optional<int> level_, threads_, mebibytes_;
    int lines_at_once_ = 1;
    std::uint64_t seed_ = 0, game_number_ = 0;
    std::mutex output_, holding_;
    std::condition_variable held_;
    bool held_back_ = false;  ///< guarded by holding_
    std::atomic<bool> stop_{false};
    std::atomic<double> deadline_{-1.0};
    std::optional<double> time_after_hit_;
    std::thread thinking_;
};

}  // namespace

void serve_uci(const OpenGame& game, std::istream& in, std::ostream& out, const UciServerOptions& options) {
    UciServer server(game, out, options);
    for (InputLine line; read_input_line(in, line, longest_line);) {
        if (line.too_long) {
            server.note("a line of over a million bytes was not read");
            continue;
        }
        if (!server.obey(line.text)) break;
    }
    server.stop_thinking();
}

}  // namespace arvek::link
