#pragma once
// TableGame: a game as a table of functions from outside, such as another language gives (arvek/arvek.h). Every search,
// opponent, match and check works on it; what it can do is known at run time alone.

#include <array>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <string_view>

#include "arvek/arvek.h"
#include "arvek/game/ability.hpp"
#include "arvek/game/chance.hpp"
#include "arvek/game/game.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/score.hpp"
#include "arvek/session/session.hpp"

namespace arvek::link {

/// Throws InputError for a table without one of the five functions, of another interface, or with numbers out of range.
void check_rules_table(const arvek_rules& rules);

namespace detail {

/// What does not depend on the size of positions.
std::string table_position_text(const arvek_rules& rules, const void* position);
/// Throws InputError.
void read_table_position(const arvek_rules& rules, std::string_view text, void* position);
std::string table_text(void (*write)(void*, const void*, std::uint32_t, char*, std::uint32_t), const arvek_rules& rules,
                       const void* position, std::uint32_t move);
std::string table_drawing(const arvek_rules& rules, const void* position);
std::string table_player_name(const arvek_rules& rules, Player player);
bool table_offers(const arvek_rules& rules, Ability ability);
[[noreturn]] void throw_too_many_moves(const char* function, std::uint32_t moves);
Outcome table_outcome(const arvek_rules& rules, const std::int32_t* payoffs);
Player table_player(const arvek_rules& rules, std::int32_t player);

}  // namespace detail

/// With room for positions of `Bytes` bytes.
template <std::size_t Bytes>
class TableGame {
   public:
    /// The bytes of the table's position.
    struct Position {
        alignas(8) std::array<std::byte, Bytes> bytes{};  ///< those that the game does not use stay 0

        friend bool operator==(const Position& a, const Position& b) {
            return std::memcmp(a.bytes.data(), b.bytes.data(), Bytes) == 0;
        }
    };
    /// The table's number of a move.
    struct Move {
        std::uint32_t number = 0;  ///< what it is

        friend bool operator==(const Move&, const Move&) = default;
    };

    /// Of a table, which is copied; what its functions and `user` lead to must live as long as the game.
    explicit TableGame(const arvek_rules& rules)
        : rules_(rules), name_(rules.name), turns_(rules.threads == 0 ? std::make_shared<std::mutex>() : nullptr) {
        rules_.name = nullptr;
    }

    /// @{
    /// As the table says; see game/game.hpp and the headers of the abilities.
    bool offers(Ability ability) const { return detail::table_offers(rules_, ability); }

    Position initial_position() const {
        const Turn own = turn();
        Position position;
        rules_.initial_position(rules_.user, position.bytes.data());
        return position;
    }
    Player player_to_move(const Position& position) const {
        const Turn own = turn();
        return detail::table_player(rules_, rules_.player_to_move(rules_.user, position.bytes.data()));
    }
    void generate_moves(const Position& position, MoveList<Move>& moves) const {
        generate("generate_moves", rules_.generate_moves, position, moves);
    }
    void play(Position& position, const Move& move) const {
        const Turn own = turn();
        rules_.play(rules_.user, position.bytes.data(), move.number);
    }
    std::optional<Outcome> outcome(const Position& position) const {
        const Turn own = turn();
        std::int32_t payoffs[ARVEK_MOST_PLAYERS] = {};
        if (rules_.outcome(rules_.user, position.bytes.data(), payoffs) == 0) return std::nullopt;
        return detail::table_outcome(rules_, payoffs);
    }

    int players() const { return rules_.players == 0 ? 2 : rules_.players; }
    Score evaluate(const Position& position, Player player) const {
        const Turn own = turn();
        return Score::estimate(rules_.evaluate(rules_.user, position.bytes.data(), static_cast<std::int32_t>(player)));
    }
    std::uint64_t hash(const Position& position) const {
        const Turn own = turn();
        if (rules_.hash != nullptr) return rules_.hash(rules_.user, position.bytes.data());
        std::uint64_t hash = rules_.position_bytes;
        for (std::size_t at = 0; at < rules_.position_bytes; at += 8) {
            std::uint64_t word = 0;
            std::memcpy(&word, position.bytes.data() + at, 8);  // room is a multiple of 8
            hash = mix_bits(hash ^ word);
        }
        return hash;
    }
    int order_hint(const Position& position, const Move& move) const {
        const Turn own = turn();
        return rules_.order_hint(rules_.user, position.bytes.data(), move.number);
    }
    void generate_forcing_moves(const Position& position, MoveList<Move>& moves) const {
        generate("generate_forcing_moves", rules_.generate_forcing_moves, position, moves);
    }
    bool chance_is_next(const Position& position) const {
        const Turn own = turn();
        return rules_.chance_is_next(rules_.user, position.bytes.data()) != 0;
    }
    void generate_events(const Position& position, MoveList<Event<Move>>& events) const {
        const Turn own = turn();
        std::uint32_t room = 64;
        for (;;) {
            std::unique_ptr<std::uint32_t[]> moves(new std::uint32_t[room]());
            std::unique_ptr<double[]> probabilities(new double[room]());
            const std::uint32_t count =
                rules_.generate_events(rules_.user, position.bytes.data(), moves.get(), probabilities.get(), room);
            if (count > most_moves) detail::throw_too_many_moves("generate_events", count);
            if (count <= room) {
                for (std::uint32_t i = 0; i < count; ++i) events.push_back({{moves[i]}, probabilities[i]});
                return;
            }
            room = count;
        }
    }
    int draw_at_occurrence() const { return rules_.draw_at_occurrence; }
    /// @}
    /// @{
    /// As the table says, or numbers where it has no texts. Reading throws InputError for a text that is none.
    std::string position_text(const Position& position) const {
        const Turn own = turn();
        return detail::table_position_text(rules_, position.bytes.data());
    }
    Position read_position(std::string_view text) const {
        const Turn own = turn();
        Position position;
        detail::read_table_position(rules_, text, position.bytes.data());
        return position;
    }
    std::string move_text(const Position& position, const Move& move) const {
        const Turn own = turn();
        return detail::table_text(rules_.move_text, rules_, position.bytes.data(), move.number);
    }
    std::string drawing(const Position& position) const {
        const Turn own = turn();
        return detail::table_drawing(rules_, position.bytes.data());
    }
    std::string player_name(Player player) const {
        const Turn own = turn();
        return detail::table_player_name(rules_, player);
    }
    /// @}

    const std::string& name() const { return name_; }  ///< as the table has it

   private:
    static constexpr std::uint32_t most_moves = 1u << 20;

    static_assert(sizeof(Move) == sizeof(std::uint32_t));

    /// Straight into the list, which has room for most positions at once.
    void generate(const char* function, std::uint32_t (*write)(void*, const void*, std::uint32_t*, std::uint32_t),
                  const Position& position, MoveList<Move>& moves) const {
        const Turn own = turn();
        std::uint32_t room = 256;
        for (;;) {
            std::uint32_t count = 0;
            moves.append_at_most(room, [&](Move* end) {
                count = write(rules_.user, position.bytes.data(), reinterpret_cast<std::uint32_t*>(end), room);
                return count > room ? end : end + count;
            });
            if (count <= room) return;
            if (count > most_moves) detail::throw_too_many_moves(function, count);
            room = count;
        }
    }

    /// Where its functions must not be called by several threads at once, they wait for each other here.
    class Turn {
       public:
        explicit Turn(std::mutex* mutex) : mutex_(mutex) {
            if (mutex_ != nullptr) mutex_->lock();
        }
        ~Turn() {
            if (mutex_ != nullptr) mutex_->unlock();
        }
        Turn(const Turn&) = delete;
        Turn& operator=(const Turn&) = delete;

       private:
        std::mutex* mutex_;
    };
    Turn turn() const { return Turn(turns_.get()); }

    arvek_rules rules_;
    std::string name_;
    std::shared_ptr<std::mutex> turns_;
};

/// The game of a table with every opponent, solver and counter that it can have. Throws InputError as
/// check_rules_table() does.
OpenGame open_table_game(const arvek_rules& rules);

}  // namespace arvek::link
