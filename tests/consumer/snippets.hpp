#pragma once
// What the snippets of code in the documentation take for granted: a game, a position of it, a search and so on. It is
// only compiled, never linked or run.

#include <array>
#include <cstdint>
#include <cstdio>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <gtest/gtest.h>

using namespace arvek;

struct MyGame {
    struct Hand {
        int stamina = 0;
    };
    struct Position {
        std::array<int, 9> stores{};
        arvek::Player to_move = arvek::Player::First;
        bool free(int place) const;
        Hand hand(int) const;
        bool operator==(const Position&) const = default;
    };
    using Move = int;
    using Undo = int;

    Position initial_position() const;
    arvek::Player player_to_move(const Position&) const;
    void generate_moves(const Position&, arvek::MoveList<Move>&) const;
    void play(Position&, const Move&) const;
    std::optional<arvek::Outcome> outcome(const Position&) const;
    arvek::Score evaluate(const Position&, arvek::Player) const;
    std::uint64_t hash(const Position&) const;
    std::string position_text(const Position&) const;
    Position read_position(std::string_view) const;
    std::string move_text(const Position&, const Move&) const;
    std::span<const arvek::Quantity<MyGame>> quantities() const;
    arvek::ActNames act_names() const;
    arvek::Act act(const Position&, const Move&) const;

    template <class Visit>
    void visit_moves(const Position&, Visit) const {}

    int material(const Position&, arvek::Player) const;
    int crates_of(const Position&, arvek::Player) const;
    int crates_left(const Position&) const;
    int weight_of(const Position&, const Move&) const;
};
using Move = MyGame::Move;

/// A game with hidden hands.
struct CardGame : MyGame {
    using View = int;
    std::span<const arvek::Quantity<CardGame>> quantities() const;
    View view(const Position&, arvek::Player) const;
    Position sample(const View&, arvek::Random&) const;
};

/// A puzzle for one.
struct MyPuzzle : MyGame {
    static constexpr int players() { return 1; }
    std::span<const arvek::Quantity<MyPuzzle>> quantities() const;
};

/// A game with parameters.
struct Harbour : MyGame {
    struct Parameters {
        int piers = 3;
    };
    Harbour(const Parameters&);
    std::span<const arvek::Quantity<Harbour>> quantities() const;
};

/// A game whose moves have targets.
struct Targeting {
    struct Move {
        int target = 0;
        bool operator==(const Move&) const = default;
    };
    struct Position : MyGame::Position {};
    Position initial_position() const;
    arvek::Player player_to_move(const Position&) const;
    void generate_moves(const Position&, arvek::MoveList<Move>&) const;
    void play(Position&, const Move&) const;
    std::optional<arvek::Outcome> outcome(const Position&) const;
};

struct Material final : arvek::Evaluator<MyGame> {
    arvek::Score evaluate(const MyGame&, const MyGame::Position&, arvek::Player) const override;
};
struct Given final : arvek::Chooser<MyGame> {
    explicit Given(const MyGame&);
    arvek::Decision<MyGame::Move> choose(const arvek::Choice<MyGame>& now) override;
};

bool guards_gate(const MyGame::Position&, Move);
extern const MyGame game;
extern const MyPuzzle puzzle;
extern MyGame::Position position;
extern std::uint64_t seed;
extern std::string text;
extern std::unique_ptr<arvek::Opponent<MyGame>> a, b;
extern arvek::Standard<MyGame> search;
extern arvek::GameEntry entry;
extern arvek::OpponentSpec spec;
extern arvek::RuleList<MyGame> rules;
using Lightest = Given;
