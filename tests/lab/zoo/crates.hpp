#pragma once
// Two sides take one to three crates from a pile, or pass (four times in a game at most); who takes the last wins.
// Passing the turn leaves the pile as it is, so the same pile is met with either side to move.

#include <algorithm>
#include <array>
#include <atomic>
#include <chrono>
#include <cstdio>
#include <memory>
#include <stdexcept>
#include <string>
#include <string_view>
#include <thread>

#include <arvek/game/abilities.hpp>
#include <arvek/game/random.hpp>
#include <arvek/game/text.hpp>

namespace zoo {

using namespace arvek;

struct Crates {
    struct Position {
        int pile = 12;
        int passes = 0;  // so far
        Player to_move = Player::First;
        int ghost = 0;  // what some faults forget to compare or to write
        friend bool operator==(const Position& a, const Position& b) {
            return a.pile == b.pile && a.passes == b.passes && a.to_move == b.to_move;
        }
    };
    using Move = int;  // crates taken; 0 passes
    struct Undo {
        Position before;
    };

    std::string_view broken;
    std::shared_ptr<std::atomic<int>> memory = std::make_shared<std::atomic<int>>(0);
    std::chrono::microseconds hash_takes{0};

    bool is(std::string_view fault) const { return broken == fault; }

    Position initial_position() const {
        Position p;
        if (is("a start that differs")) p.passes = ++*memory % 3 == 2 ? 1 : 0;
        return p;
    }
    Player player_to_move(const Position& p) const {
        return is("a third player") && p.pile == 5 ? Player::Third : p.to_move;
    }
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        if (is("no move though play goes on") && p.pile == 3) return;
        for (int taken = std::min(3, p.pile); taken >= 1; --taken) moves.push_back(taken);
        if (p.passes < 4) moves.push_back(0);
        if (is("a move twice") && p.pile == 7) moves.push_back(1);
        if (is("a move now and then") && ++*memory % 500 == 499) moves.push_back(0);
        if (is("an order by the address") && (reinterpret_cast<std::uintptr_t>(&p) >> 5) % 7 == 0)
            std::swap(moves[0], moves[moves.size() - 1]);
        if (is("a list that is not emptied")) {
            static MoveList<Move> kept;
            if (kept.size() > 900) moves.push_back(-1);
            kept.push_back(0);
        }
    }
    template <class Visit>
    void visit_moves(const Position& p, Visit visit) const {
        MoveList<Move> moves;
        generate_moves(p, moves);
        if (is("visits in another order") && p.pile == 8) std::swap(moves[0], moves[1]);
        std::size_t shown = 0;
        for (const Move& move : moves) {
            if (is("visits without the last") && ++shown == moves.size() && p.pile == 4) return;
            if (!visit(move) && !is("visits that do not stop")) return;
        }
    }
    void play(Position& p, const Move& move) const {
        if (is("a throw in one move") && p.pile == 6 && move == 2) throw std::runtime_error("the crane broke");
        if (is("a throw of a number") && p.pile == 2 && move == 2) throw 3;
        p.pile -= move;
        if (is("a count that grows") && ++*memory > 5'000) p.passes += 1;
        if (move == 0 && !is("play without end")) ++p.passes;
        if (is("play without end") && p.pile <= 0) p.pile = 12;
        if (is("a ghost that acts") && move == 3) p.ghost = 1;
        if (is("a ghost that is evaluated") && move == 1) p.ghost = 1;
        if (is("a ghost that moves") && p.pile == 6) p.ghost = 1;
        if (is("a ghost in the hash") && move == 0) p.ghost += 1;
        p.to_move = rival_of(p.to_move);
    }
    Undo play_reversibly(Position& p, const Move& move) const {
        const Undo undo{p};
        play(p, move);
        if (is("playing reversibly differs") && move == 3) ++p.passes;
        if (is("playing reversibly forgets the mover") && p.pile == 0) p.to_move = rival_of(p.to_move);
        return undo;
    }
    void take_back(Position& p, const Move& move, const Undo& undo) const {
        const Position now = p;
        p = undo.before;
        if (is("taking back forgets the mover")) p.to_move = now.to_move;
        if (is("taking back forgets the count") && move == 0) p.passes = now.passes;
        if (is("taking back the last crate") && now.pile == 0) p.pile += 1;
        if (is("taking back in a row") && move == 0 && undo.before.passes >= 2) p.passes -= 1;
    }
    std::optional<Outcome> outcome(const Position& p) const {
        if (p.pile > 0 && !(is("a ghost that acts") && p.ghost == 1 && p.pile <= 2)) return std::nullopt;
        if (is("the loser is paid nothing")) return Outcome::of_payoffs({1, 0});
        if (is("more than the most") && p.passes == 4) return Outcome::of_payoffs({5, -5});
        if (is("a player that is not there is paid")) return Outcome::of_payoffs({1, -1, 1});
        if (is("an outcome that wavers") && ++*memory % 400 == 399) return Outcome::draw();
        return Outcome::win(is("the one who is left with none wins") ? p.to_move : rival_of(p.to_move));
    }
    Payoff most_payoff() const { return is("a most of nothing") ? 0 : 1; }
    Score evaluate(const Position& p, Player player) const {
        if (is("an evaluation that claims a win") && p.pile == 2)
            return player == p.to_move ? Score::proven(1, 1) : Score::proven(-1, 1);
        int value = p.pile % 4 == 0 ? -1 : 1;
        if (is("a ghost that is evaluated")) value += p.ghost;
        if (is("an evaluation of one side")) return Score::estimate(value);
        if (is("an evaluation off by one") && p.pile == 9 && player == Player::Second) ++value;
        if (is("an evaluation that tires") && ++*memory % 3'000 > 2'900) value += 2;
        return Score::estimate(player == p.to_move ? value : -value);
    }
    std::uint64_t hash(const Position& p) const {
        if (hash_takes.count() > 0) std::this_thread::sleep_for(hash_takes);
        if (is("a hash of a counter")) return mix_bits(static_cast<std::uint64_t>(++*memory));
        const auto mover = is("a hash without the mover") ? 0 : static_cast<std::uint64_t>(p.to_move);
        const auto passes = is("a hash without the passes") ? 0 : static_cast<std::uint64_t>(p.passes);
        const auto pile = static_cast<std::uint64_t>(is("a hash that folds") && p.pile >= 10 ? 10 : p.pile);
        if (is("a hash by the address")) return hash_of_words({reinterpret_cast<std::uintptr_t>(&p), pile});
        const auto ghost = is("a ghost in the hash") ? static_cast<std::uint64_t>(p.ghost / 2) : 0;
        return hash_of_words({pile, passes, mover, ghost});
    }
    std::uint64_t equivalence_hash(const Position& p) const {
        if (is("equivalence by the mover alone")) return static_cast<std::uint64_t>(p.to_move);
        if (is("equivalence without the passes")) {
            Position q = p;
            q.passes = 0;
            return hash(q);
        }
        // Who is to move does not matter, only the pile is.
        return hash_of_words({static_cast<std::uint64_t>(p.pile), static_cast<std::uint64_t>(p.passes)});
    }
    void generate_forcing_moves(const Position& p, MoveList<Move>& moves) const {
        if (p.pile <= 3) moves.push_back(p.pile);
        if (is("a forcing move that is not legal") && p.pile == 2) moves.push_back(3);
        if (is("a forcing move twice") && p.pile == 3) moves.push_back(3);
    }
    void generate_quiet_moves(const Position& p, MoveList<Move>& moves) const {
        for (int taken = std::min(3, p.pile - 1); taken >= 1; --taken)
            if (!(is("a quiet move that is left out") && p.pile == 7 && taken == 2)) moves.push_back(taken);
        if (p.pile <= 3 && is("a quiet move that is forcing, too")) moves.push_back(p.pile);
        if (p.passes < 4 || (is("a quiet move that is not legal") && p.pile == 5)) moves.push_back(0);
        if (is("a quiet move twice") && p.pile == 6) moves.push_back(1);
    }
    PayoffBounds payoff_bounds(const Position& p, Player player) const {
        if (is("bounds that are too narrow") && p.pile == 1) return {-1, 0};
        if (is("bounds for the wrong player") && p.pile <= 3)
            return player == p.to_move ? PayoffBounds{-1, -1} : PayoffBounds{1, 1};
        if (is("bounds upside down") && p.pile == 8) return {1, -1};
        if (p.pile <= 3) return player == p.to_move ? PayoffBounds{1, 1} : PayoffBounds{-1, -1};
        return {-1, 1};
    }
    void generate_sufficient_moves(const Position& p, MoveList<Move>& moves) const {
        if (is("sufficient moves that are not enough")) return moves.push_back(1);
        if (is("no sufficient move") && p.pile == 10) return;
        if (is("a sufficient move that is not legal")) moves.push_back(p.pile + 1);
        if (p.pile <= 3) return moves.push_back(p.pile);
        generate_moves(p, moves);
    }
    int order_hint(const Position& p, const Move& move) const {
        if (is("a hint that throws") && p.pile == 1 && p.passes == 3) throw std::out_of_range("no such pile");
        if (is("a hint by the address")) return static_cast<int>((reinterpret_cast<std::uintptr_t>(&p) >> 4) & 7u);
        return move == p.pile % 4 ? 1 : 0;
    }
    int preference(const Position& p, const Move& move) const {
        if (is("a preference that counts")) return ++*memory;
        return move == p.pile ? 9 : move;
    }
    double salience(const Position& p, const Move& move) const {
        if (is("a salience beyond one") && p.pile == move) return 1.5;
        if (is("a salience of no number") && p.pile == 11) return 0.0 / static_cast<double>(move * 0);
        return move == p.pile ? 1.0 : 0.2;
    }
    int count_moves(const Position& p) const {
        if (is("a move that is not counted") && p.pile == 2) return 1;
        MoveList<Move> moves;
        generate_moves(p, moves);
        return static_cast<int>(moves.size());
    }
    LevelChange level_change(int level) const {
        if (is("a level that overlooks more than all") && level == 3) return {.overlooks = 1.2};
        if (is("a level without depth") && level == 5) return {.depth = 0};
        return level == 1 ? LevelChange{.noise = 4.0} : LevelChange{};
    }
    std::vector<Pattern> patterns() const {
        std::vector<std::uint16_t> alike(13);
        for (std::uint16_t i = 0; i < 13; ++i)
            alike[i] = is("a pattern that the rival sees otherwise") && i == 6 ? 5 : i;
        return {{"pile", 13, alike}, {is("a pattern of another's name") ? "pile" : "passes", 5}};
    }
    void read_patterns(const Position& p, Player player, std::span<std::uint16_t> ways) const {
        ways[0] = static_cast<std::uint16_t>(is("a pattern beyond its ways") && p.pile == 4 ? 13 : p.pile);
        if (is("a pattern that is not set") && player == Player::Second) return;
        ways[1] = static_cast<std::uint16_t>(is("a pattern that changes") ? ++*memory % 5 : p.passes);
    }
    std::span<const Quantity<Crates>> quantities() const {
        static const Quantity<Crates> all[] = {
            {"pile", "crates", "what is left", QuantityOf::Position,
             [](const Crates& game, const Position& p, const Move& move) {
                 return double(game.is("a quantity that looks at the move") ? p.pile - move : p.pile);
             },
             0, 12},
            {"last", "0 or 1", "whether it takes the last", QuantityOf::Action,
             [](const Crates& game, const Position& p, const Move& move) {
                 if (game.is("a quantity beyond its range")) return double(move == p.pile) * 2;
                 if (game.is("a quantity of no number") && p.pile == 3) return 0.0 / double(p.pile - 3);
                 return double(move == p.pile);
             }},
        };
        static const Quantity<Crates> alike[] = {all[0], all[0]};
        if (is("two quantities of one name")) return alike;
        return all;
    }
    std::span<const Suggester<Crates>> suggesters() const {
        static const Suggester<Crates> all[] = {
            {"finish", "takes the last crate", [](const Crates& game, const Position& p, Proposals<Move>& proposals) {
                 if (p.pile <= 3) proposals.add(p.pile, game.is("a suggestion without urgency") ? 0.0 : 5.0, "ends it");
                 if (game.is("a suggestion that is not legal") && p.pile == 9) proposals.add(4, 1.0, "takes four");
             }}};
        return all;
    }
    std::string position_text(const Position& p) const {
        if (is("two lines of text") && p.pile == 4) return "4\n";
        if (is("a text that is not checked") && p.passes > 4) return std::to_string(p.pile) + "/many";
        return std::to_string(p.pile) + "/" + std::to_string(is("a text that loses the passes") ? 0 : p.passes) +
               (p.to_move == Player::First ? "T" : "A");
    }
    Position read_position(std::string_view text) const {
        Position p;
        char mover = 0;
        int read = 0;
        const std::string copy(text);
        if (std::sscanf(copy.c_str(), "%d/%d%c%n", &p.pile, &p.passes, &mover, &read) != 3) {
            if (is("a text refused by another error")) throw std::logic_error("cannot parse");
            throw InputError("position", "it is not a pile", "12/0T");
        }
        const bool sound =
            p.pile >= 0 && p.pile <= 12 && p.passes >= 0 && p.passes <= 4 && (mover == 'T' || mover == 'A');
        if (!sound && !is("a text that is not checked")) throw InputError("position", "it is not a pile", "12/0T");
        p.to_move = mover == 'T' ? Player::First : Player::Second;
        if (is("a text that is not checked")) p.pile = p.pile & 15;
        if (is("a text read with a limp") && p.passes == 4) p.passes = 3;
        return p;
    }
    std::string move_text(const Position&, const Move& move) const {
        if (is("a move text with a space") && move == 0) return "no move";
        if (is("a move text from a static buffer")) {
            static char text[16];
            std::snprintf(text, sizeof text, "%d", move);
            return std::string(text);
        }
        return is("move texts alike") && move == 2 ? "1" : std::to_string(move);
    }
    Move read_move(const Position& p, std::string_view text) const {
        if (text.size() == 1 && text[0] >= '0' && text[0] <= '3') {
            const int move = text[0] - '0';
            if (move <= p.pile && (move > 0 || p.passes < 4))
                return is("a move read as another") && move == 3 ? 2 : move;
            if (is("a move read that is not legal")) return move;
        }
        if (is("a move refused by another error")) throw std::invalid_argument("stoi");
        throw InputError("move", "it is none", "0 to 3");
    }
    std::string drawing(const Position& p) const {
        if (is("a drawing that rings") && p.pile == 5) return "\x07";
        return std::string(static_cast<std::size_t>(p.pile), '#') + "\n";
    }
    Board board(const Position& p, Player viewer) const {
        Board board = square_board(12, 1);
        for (int i = 0; i < std::min(p.pile, 12); ++i) board.cells[static_cast<std::size_t>(i)].text = "#";
        if (is("a board with a cell twice")) board.cells[3].name = board.cells[4].name;
        if (is("a board of a player who is not there") && p.pile == 5) board.cells[0].player = 2;
        if (is("a board that changes")) board.cells[0].x = ++*memory % 2;
        if (is("a board without cells") && p.pile == 4) board.cells.clear();
        if (is("a cell without size") && viewer == Player::Second) board.cells[2].width = 0;
        if (is("a path to nowhere")) board.paths.emplace_back(0, 99);
        if (is("a board move that is not legal") && p.pile == 2) board.moves.push_back({"3", {"a1"}});
        if (is("a board move by a cell that is not there") && p.pile == 6) board.moves.push_back({"3", {"z9"}});
        return board;
    }
    std::string player_name(Player player) const {
        if (is("players of one name")) return "Teal";
        return player == Player::First ? "Teal" : player == Player::Second ? "Amber" : "nobody";
    }
};

inline constexpr std::array crates_faults{
    std::pair{"a start that differs", "left-over state"},
    std::pair{"a third player", "player"},
    std::pair{"no move though play goes on", "no move"},
    std::pair{"a move twice", "duplicate move"},
    std::pair{"a move now and then", "left-over state"},
    std::pair{"an order by the address", "left-over state"},
    std::pair{"a list that is not emptied", "left-over state"},
    std::pair{"visits in another order", "visited moves"},
    std::pair{"visits without the last", "visited moves"},
    std::pair{"visits that do not stop", "visited moves"},
    std::pair{"a throw in one move", "exception"},
    std::pair{"a throw of a number", "exception"},
    std::pair{"a count that grows", "left-over state"},
    std::pair{"play without end", "endless play"},
    std::pair{"a ghost that acts", "equality"},
    std::pair{"a ghost that is evaluated", "equality"},
    std::pair{"a ghost in the hash", "hash"},
    std::pair{"playing reversibly differs", "take-back"},
    std::pair{"playing reversibly forgets the mover", "take-back"},
    std::pair{"taking back forgets the mover", "take-back"},
    std::pair{"taking back forgets the count", "take-back"},
    std::pair{"taking back the last crate", "take-back"},
    std::pair{"taking back in a row", "take-back"},
    std::pair{"the loser is paid nothing", "payoffs"},
    std::pair{"more than the most", "payoffs"},
    std::pair{"a player that is not there is paid", "payoffs"},
    std::pair{"an outcome that wavers", "left-over state"},
    std::pair{"a most of nothing", "payoffs"},
    std::pair{"an evaluation that claims a win", "evaluation"},
    std::pair{"an evaluation of one side", "evaluation"},
    std::pair{"an evaluation off by one", "evaluation"},
    std::pair{"an evaluation that tires", "left-over state"},
    std::pair{"a hash of a counter", "hash"},
    std::pair{"a hash without the mover", "hash"},
    std::pair{"a hash without the passes", "hash"},
    std::pair{"a hash that folds", "hash"},
    std::pair{"a hash by the address", "hash"},
    std::pair{"equivalence by the mover alone", "equivalence"},
    std::pair{"equivalence without the passes", "equivalence"},
    std::pair{"a forcing move that is not legal", "forcing moves"},
    std::pair{"a forcing move twice", "forcing moves"},
    std::pair{"a quiet move that is left out", "quiet moves"},
    std::pair{"a quiet move that is forcing, too", "quiet moves"},
    std::pair{"a quiet move that is not legal", "quiet moves"},
    std::pair{"a quiet move twice", "quiet moves"},
    std::pair{"bounds that are too narrow", "payoff bounds"},
    std::pair{"bounds for the wrong player", "payoff bounds"},
    std::pair{"bounds upside down", "payoff bounds"},
    std::pair{"sufficient moves that are not enough", "sufficient moves"},
    std::pair{"no sufficient move", "sufficient moves"},
    std::pair{"a sufficient move that is not legal", "sufficient moves"},
    std::pair{"a hint that throws", "exception"},
    std::pair{"a hint by the address", "left-over state"},
    std::pair{"a preference that counts", "left-over state"},
    std::pair{"a salience beyond one", "salience"},
    std::pair{"a salience of no number", "salience"},
    std::pair{"a move that is not counted", "move count"},
    std::pair{"a level that overlooks more than all", "level change"},
    std::pair{"a level without depth", "level change"},
    std::pair{"a pattern beyond its ways", "patterns"},
    std::pair{"a pattern that is not set", "patterns"},
    std::pair{"a pattern that changes", "patterns"},
    std::pair{"a pattern that the rival sees otherwise", "patterns"},
    std::pair{"a pattern of another's name", "names"},
    std::pair{"a quantity that looks at the move", "quantities"},
    std::pair{"a quantity beyond its range", "quantities"},
    std::pair{"a quantity of no number", "quantities"},
    std::pair{"two quantities of one name", "names"},
    std::pair{"a suggestion without urgency", "suggestions"},
    std::pair{"a suggestion that is not legal", "suggestions"},
    std::pair{"two lines of text", "position text"},
    std::pair{"a text that loses the passes", "position text"},
    std::pair{"a text refused by another error", "malformed text"},
    std::pair{"a text that is not checked", "malformed text"},
    std::pair{"a text read with a limp", "position text"},
    std::pair{"a move text with a space", "move text"},
    std::pair{"a move text from a static buffer", "threads"},
    std::pair{"move texts alike", "move text"},
    std::pair{"a move read as another", "move text"},
    std::pair{"a move read that is not legal", "malformed text"},
    std::pair{"a move refused by another error", "malformed text"},
    std::pair{"a drawing that rings", "drawing"},
    std::pair{"a board with a cell twice", "board"},
    std::pair{"a board of a player who is not there", "board"},
    std::pair{"a board that changes", "board"},
    std::pair{"a board without cells", "board"},
    std::pair{"a cell without size", "board"},
    std::pair{"a path to nowhere", "board"},
    std::pair{"a board move that is not legal", "board"},
    std::pair{"a board move by a cell that is not there", "board"},
    std::pair{"players of one name", "names"},
};

}  // namespace zoo
