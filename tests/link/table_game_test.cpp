#include "arvek/link/table_game.hpp"

#include <gtest/gtest.h>

#include <cstring>
#include <thread>

#include <arvek/game/input_error.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/session/session.hpp>

#include "sluice/sluice.hpp"
#include "support/compiled_games.hpp"

using arvek::InputError;
using waterway::Sluice;

namespace {

const Sluice& sluice_of(void* user) { return *static_cast<const Sluice*>(user); }
Sluice::Position sluice_position(const void* bytes) {
    Sluice::Position position;
    std::memcpy(&position, bytes, sizeof position);
    return position;
}
void put(const Sluice::Position& position, void* bytes) {
    // Part by part, so that no byte between the parts tells equal positions apart.
    std::memset(bytes, 0, sizeof position);
    std::memcpy(bytes, position.places.data(), sizeof position.places);
    std::memcpy(static_cast<char*>(bytes) +
                    (reinterpret_cast<const char*>(&position.to_move) - reinterpret_cast<const char*>(&position)),
                &position.to_move, sizeof position.to_move);
}
std::uint32_t put_moves(const arvek::MoveList<Sluice::Move>& all, std::uint32_t* moves, std::uint32_t room) {
    for (std::uint32_t i = 0; i < all.size() && i < room; ++i) moves[i] = all[i].basin;
    return static_cast<std::uint32_t>(all.size());
}

/// Sluice once more, through the border.
arvek_rules sluice_table(Sluice& game) {
    arvek_rules rules{};
    rules.interface = ARVEK_INTERFACE;
    rules.position_bytes = sizeof(Sluice::Position);
    rules.name = "sluice_again";
    rules.user = &game;
    rules.threads = 1;
    rules.initial_position = [](void* user, void* p) { put(sluice_of(user).initial_position(), p); };
    rules.player_to_move = [](void* user, const void* p) {
        return static_cast<std::int32_t>(sluice_of(user).player_to_move(sluice_position(p)));
    };
    rules.generate_moves = [](void* user, const void* p, std::uint32_t* moves, std::uint32_t room) {
        arvek::MoveList<Sluice::Move> all;
        sluice_of(user).generate_moves(sluice_position(p), all);
        return put_moves(all, moves, room);
    };
    rules.play = [](void* user, void* p, std::uint32_t move) {
        auto position = sluice_position(p);
        sluice_of(user).play(position, {static_cast<std::uint8_t>(move)});
        put(position, p);
    };
    rules.outcome = [](void* user, const void* p, std::int32_t* payoffs) {
        const auto outcome = sluice_of(user).outcome(sluice_position(p));
        if (!outcome) return 0;
        for (int i = 0; i < 2; ++i) payoffs[i] = outcome->payoff(static_cast<arvek::Player>(i));
        return 1;
    };
    rules.evaluate = [](void* user, const void* p, std::int32_t player) {
        return static_cast<std::int64_t>(
            sluice_of(user).evaluate(sluice_position(p), static_cast<arvek::Player>(player)).number());
    };
    rules.order_hint = [](void* user, const void* p, std::uint32_t move) {
        return sluice_of(user).order_hint(sluice_position(p), {static_cast<std::uint8_t>(move)});
    };
    rules.generate_forcing_moves = [](void* user, const void* p, std::uint32_t* moves, std::uint32_t room) {
        arvek::MoveList<Sluice::Move> all;
        sluice_of(user).generate_forcing_moves(sluice_position(p), all);
        return put_moves(all, moves, room);
    };
    rules.move_text = [](void* user, const void* p, std::uint32_t move, char* text, std::uint32_t room) {
        const std::string name = sluice_of(user).move_text(sluice_position(p), {static_cast<std::uint8_t>(move)});
        std::strncpy(text, name.c_str(), room);
    };
    return rules;
}

}  // namespace

TEST(TableGame, DecidesAsTheGameItself) {
    Sluice game;
    arvek::OpenGame again = arvek::link::open_table_game(sluice_table(game));
    EXPECT_EQ(again.name, "sluice_again");
    const auto spec = [] {
        arvek::OpponentSpec made = arvek::read_opponent("standard");
        made.depth = 6;
        return made;
    }();
    const auto own = make_opponent(game, spec);
    arvek::Session session(again);
    Sluice::Position position = game.initial_position();
    for (int ply = 0; ply < 12 && !game.outcome(position); ++ply) {
        const auto decision = own->decide(position, 5);
        const auto other = session.decide(spec, 5, {});
        EXPECT_EQ(other.ranked.front().score, decision.ranked.front().score);
        const std::string move = game.move_text(position, decision.move);
        session.play(move);
        game.play(position, decision.move);
    }
    const auto report = session.check({.games = 4, .short_positions = 100, .compared = 4});
    EXPECT_TRUE(report.sound()) << report.text();
}

TEST(TableGame, AnswersOfLargePositionsAndWithoutTextsWork) {
    Sluice game;
    arvek_rules rules = sluice_table(game);
    rules.position_bytes = 600;  // most of it is never used
    rules.move_text = nullptr;
    rules.threads = 0;
    arvek::Session session(arvek::link::open_table_game(rules));
    EXPECT_EQ(session.legal_moves(), (std::vector<std::string>{"0", "1", "2", "3", "4", "5"}));
    const std::string text = session.position_text();
    EXPECT_EQ(text.size(), 1'200u);
    const arvek::Session other(session.game(), text);
    EXPECT_EQ(other.position_text(), text);
    EXPECT_THROW(arvek::Session(session.game(), "0g"), InputError);
    auto spec = arvek::read_opponent("montecarlo");
    spec.playouts = 50;
    EXPECT_NO_THROW((void)session.decide(spec, 1, {}));
}

TEST(TableGame, WrongTablesAreRefused) {
    Sluice game;
    const auto complaint = [&](const auto& change) -> std::string {
        arvek_rules rules = sluice_table(game);
        change(rules);
        try {
            (void)arvek::link::open_table_game(rules);
        } catch (const InputError& error) {
            return error.what();
        }
        return "";
    };
    EXPECT_NE(complaint([](arvek_rules& r) { r.interface = 0; }).find("rules.interface"), std::string::npos);
    EXPECT_NE(complaint([](arvek_rules& r) { r.interface = 99; }).find("rules.interface"), std::string::npos);
    EXPECT_NE(complaint([](arvek_rules& r) { r.position_bytes = 0; }).find("1 to 1024"), std::string::npos);
    EXPECT_NE(complaint([](arvek_rules& r) { r.position_bytes = 4'000; }).find("1 to 1024"), std::string::npos);
    EXPECT_NE(complaint([](arvek_rules& r) { r.players = 5; }).find("rules.players"), std::string::npos);
    EXPECT_NE(complaint([](arvek_rules& r) { r.name = "Two Words"; }).find("is no name"), std::string::npos);
    EXPECT_NE(complaint([](arvek_rules& r) { r.name = nullptr; }).find("is no name"), std::string::npos);
    EXPECT_NE(complaint([](arvek_rules& r) { r.play = nullptr; }).find("rules.play: it is NULL"), std::string::npos);
    EXPECT_NE(complaint([](arvek_rules& r) { r.draw_at_occurrence = 1; }).find("2 and more"), std::string::npos);
    EXPECT_NE(complaint([](arvek_rules& r) {
                  r.chance_is_next = [](void*, const void*) { return 0; };
              }).find("both or neither"),
              std::string::npos);
    // What only shows when it is asked is the game's fault, and said so.
    arvek_rules rules = sluice_table(game);
    rules.player_to_move = [](void*, const void*) { return 7; };
    arvek::Session session(arvek::link::open_table_game(rules));
    EXPECT_THROW((void)session.decide(arvek::read_opponent("random"), 1, {}), arvek::RulesError);
    rules = sluice_table(game);
    rules.generate_moves = [](void*, const void*, std::uint32_t*, std::uint32_t) { return 0xffff'ffffu; };
    arvek::Session endless(arvek::link::open_table_game(rules));
    EXPECT_THROW((void)endless.legal_moves(), arvek::RulesError);
}

TEST(TableGame, AFunctionCanTellThatItFailed) {
    Sluice game;
    arvek_rules rules = sluice_table(game);
    rules.outcome = [](void* user, const void* p, std::int32_t*) {
        if (sluice_position(p) == sluice_of(user).initial_position()) return 0;
        arvek::link::tell_failure("KeyError: no\nsuch basin");
        return 1;
    };
    const auto message_of = [](const auto& act) -> std::string {
        try {
            act();
        } catch (const arvek::RulesError& error) {
            return error.what();
        }
        return "";
    };
    arvek::Session session(arvek::link::open_table_game(rules));
    for (const char* name : {"standard@10", "montecarlo@3"})
        EXPECT_EQ(message_of([&] { (void)session.decide(arvek::read_opponent(name), 1, {}); }),
                  "KeyError: no such basin");
    const auto report = session.check({.games = 2, .short_positions = 10, .compared = 1});
    EXPECT_FALSE(report.sound());
    EXPECT_NE(report.text().find("KeyError: no such basin"), std::string::npos) << report.text();
    // What one thread was told is no business of another's.
    arvek::link::tell_failure(nullptr);
    EXPECT_EQ(message_of([&] { std::thread([&] { (void)session.legal_moves(); }).join(); }), "");
    EXPECT_EQ(message_of([&] { (void)session.legal_moves(); }), "a function of the table failed");
    EXPECT_EQ(message_of([&] { (void)session.legal_moves(); }), "");
}

TEST(TableGame, AskedForRoomTwiceItIsNotAskedAgain) {
    static int asked;
    Sluice game;
    arvek_rules rules = sluice_table(game);
    rules.generate_moves = [](void*, const void*, std::uint32_t*, std::uint32_t room) {
        ++asked;
        return room + 1;
    };
    arvek::Session session(arvek::link::open_table_game(rules));
    asked = 0;
    EXPECT_THROW((void)session.legal_moves(), arvek::RulesError);
    EXPECT_EQ(asked, 2);
}
