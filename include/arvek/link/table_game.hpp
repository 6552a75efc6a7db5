#pragma once
// TableGame: a game as a table of functions from outside, such as another language gives (arvek/arvek.h). Every search,
// opponent, match and check works on it; what it can do is known at run time alone.

#include <array>
#include <atomic>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <string_view>
#include <type_traits>

#include "arvek/arvek.h"
#include "arvek/game/abilities.hpp"
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

/// How much room a function of the table gets for what it writes. It is asked once more, with as much as it said; what
/// then says another number would be asked for ever.
struct Room {
    Room(const char* of, std::uint32_t at_first) : function(of), size(at_first) {}
    /// Whether it is to be asked again. Throws RulesError where it must not be.
    bool must_grow_to(std::uint32_t count) {
        if (count <= size) return false;
        grow_to(count);
        return true;
    }
    void grow_to(std::uint32_t count);  ///< the rest of it

    const char* function;    ///< of the table
    std::uint32_t size;      ///< for how many moves
    bool is_second = false;  ///< whether it has grown
};

/// How many failures are told and not yet thrown, in all threads.
inline std::atomic<int> failures_told{0};
/// Throws RulesError where this thread was told of a failure.
void throw_what_this_thread_was_told();
inline void throw_what_was_told() {
    if (failures_told.load(std::memory_order_relaxed) != 0) throw_what_this_thread_was_told();
}

Outcome table_outcome(const arvek_rules& rules, const std::int32_t* payoffs);
std::string table_view_text(const arvek_rules& rules, const void* view);
/// Throws InputError.
std::uint32_t read_table_move(const arvek_rules& rules, const void* position, std::string_view text);
Board table_board(const arvek_rules& rules, const void* position, Player viewer);
LevelChange table_level_change(const arvek_rules& rules, int level);
ActNames table_act_names(const arvek_rules& rules);
Act table_act(const arvek_rules& rules, const void* position, std::uint32_t move);
std::vector<Pattern> table_patterns(const arvek_rules& rules);
/// A function of the table's draws from it.
arvek_random* random_for_table(Random& random);
Player table_player(const arvek_rules& rules, std::int32_t player);

}  // namespace detail

/// From a function of a table, in the thread in which it was called: it failed, and what it returns means nothing. Whoever asked
/// gets a RulesError with the message.
void tell_failure(const char* message) noexcept;

/// The move of that number.
AnyMove any_move(std::uint32_t number);

/// With room for positions and views of `Bytes` bytes. Its quantities and suggesters are added to its GameTable
/// (open_table_game), since there a function knows which of them it is asked for.
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
    /// The bytes of the table's view.
    struct View {
        alignas(8) std::array<std::byte, Bytes> bytes{};  ///< those that the game does not use stay 0

        friend bool operator==(const View& a, const View& b) {
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
        Position position;
        ask([&] { rules_.initial_position(rules_.user, position.bytes.data()); });
        return position;
    }
    Player player_to_move(const Position& position) const {
        return ask(
            [&] { return detail::table_player(rules_, rules_.player_to_move(rules_.user, position.bytes.data())); });
    }
    void generate_moves(const Position& position, MoveList<Move>& moves) const {
        generate("generate_moves", rules_.generate_moves, position, moves);
    }
    void play(Position& position, const Move& move) const {
        ask([&] { rules_.play(rules_.user, position.bytes.data(), move.number); });
    }
    std::optional<Outcome> outcome(const Position& position) const {
        std::int32_t payoffs[ARVEK_MOST_PLAYERS] = {};
        if (ask([&] { return rules_.outcome(rules_.user, position.bytes.data(), payoffs); }) == 0) return std::nullopt;
        return detail::table_outcome(rules_, payoffs);
    }

    int players() const { return rules_.players == 0 ? 2 : rules_.players; }
    Score evaluate(const Position& position, Player player) const {
        return Score::estimate(ask(
            [&] { return rules_.evaluate(rules_.user, position.bytes.data(), static_cast<std::int32_t>(player)); }));
    }
    std::uint64_t hash(const Position& position) const {
        if (rules_.hash != nullptr) return ask([&] { return rules_.hash(rules_.user, position.bytes.data()); });
        return hash_of_bytes(position.bytes.data(), rules_.position_bytes);
    }
    int order_hint(const Position& position, const Move& move) const {
        return ask([&] { return rules_.order_hint(rules_.user, position.bytes.data(), move.number); });
    }
    void generate_forcing_moves(const Position& position, MoveList<Move>& moves) const {
        generate("generate_forcing_moves", rules_.generate_forcing_moves, position, moves);
    }
    bool chance_is_next(const Position& position) const {
        return ask([&] { return rules_.chance_is_next(rules_.user, position.bytes.data()); }) != 0;
    }
    void generate_events(const Position& position, MoveList<Event<Move>>& events) const {
        detail::Room room("generate_events", 64);
        std::uint32_t count = 0;
        do {
            std::unique_ptr<std::uint32_t[]> moves(new std::uint32_t[room.size]());
            std::unique_ptr<double[]> probabilities(new double[room.size]());
            count = ask([&] {
                return rules_.generate_events(rules_.user, position.bytes.data(), moves.get(), probabilities.get(),
                                              room.size);
            });
            for (std::uint32_t i = 0; count <= room.size && i < count; ++i)
                events.push_back({{moves[i]}, probabilities[i]});
        } while (room.must_grow_to(count));
    }
    int draw_at_occurrence() const { return rules_.draw_at_occurrence; }
    std::uint64_t repetition_key(const Position& position) const {
        return ask([&] { return rules_.repetition_key(rules_.user, position.bytes.data()); });
    }
    std::uint64_t equivalence_hash(const Position& position) const {
        return ask([&] { return rules_.equivalence_hash(rules_.user, position.bytes.data()); });
    }
    void generate_quiet_moves(const Position& position, MoveList<Move>& moves) const {
        generate("generate_quiet_moves", rules_.generate_quiet_moves, position, moves);
    }
    void generate_sufficient_moves(const Position& position, MoveList<Move>& moves) const {
        generate("generate_sufficient_moves", rules_.generate_sufficient_moves, position, moves);
    }
    int count_moves(const Position& position) const {
        return ask([&] { return rules_.count_moves(rules_.user, position.bytes.data()); });
    }
    void play_nothing(Position& position) const {
        ask([&] { rules_.play_nothing(rules_.user, position.bytes.data()); });
    }
    bool nothing_is_sound(const Position& position) const {
        return ask([&] { return rules_.nothing_is_sound(rules_.user, position.bytes.data()); }) != 0;
    }
    Payoff most_payoff() const { return rules_.most_payoff; }
    PayoffBounds payoff_bounds(const Position& position, Player player) const {
        PayoffBounds bounds;
        ask([&] {
            rules_.payoff_bounds(rules_.user, position.bytes.data(), static_cast<std::int32_t>(player), &bounds.least,
                                 &bounds.most);
        });
        return bounds;
    }
    Move draw_event(const Position& position, Random& random) const {
        return {ask(
            [&] { return rules_.draw_event(rules_.user, position.bytes.data(), detail::random_for_table(random)); })};
    }
    Move random_move(const Position& position, Random& random) const {
        return {ask(
            [&] { return rules_.random_move(rules_.user, position.bytes.data(), detail::random_for_table(random)); })};
    }
    Outcome play_out(Position& position, Random& random) const {
        std::int32_t payoffs[ARVEK_MOST_PLAYERS] = {};
        ask([&] { rules_.play_out(rules_.user, position.bytes.data(), detail::random_for_table(random), payoffs); });
        return detail::table_outcome(rules_, payoffs);
    }
    double units_per_doubling() const { return rules_.units_per_doubling; }
    View view(const Position& position, Player player) const {
        View seen;
        ask([&] {
            rules_.view(rules_.user, position.bytes.data(), static_cast<std::int32_t>(player), seen.bytes.data());
        });
        return seen;
    }
    Position sample(const View& seen, Random& random) const {
        Position position;
        ask([&] {
            rules_.sample(rules_.user, seen.bytes.data(), detail::random_for_table(random), position.bytes.data());
        });
        return position;
    }
    std::string view_text(const View& seen) const {
        return ask([&] { return detail::table_view_text(rules_, seen.bytes.data()); });
    }
    Board board(const Position& position, Player viewer) const {
        return ask([&] { return detail::table_board(rules_, position.bytes.data(), viewer); });
    }
    int preference(const Position& position, const Move& move) const {
        return ask([&] { return rules_.preference(rules_.user, position.bytes.data(), move.number); });
    }
    double salience(const Position& position, const Move& move) const {
        return ask([&] { return rules_.salience(rules_.user, position.bytes.data(), move.number); });
    }
    LevelChange level_change(int level) const {
        return ask([&] { return detail::table_level_change(rules_, level); });
    }
    ActNames act_names() const {
        return ask([&] { return detail::table_act_names(rules_); });
    }
    Act act(const Position& position, const Move& move) const {
        return ask([&] { return detail::table_act(rules_, position.bytes.data(), move.number); });
    }
    std::vector<Pattern> patterns() const { return detail::table_patterns(rules_); }
    void read_patterns(const Position& position, Player player, std::span<std::uint16_t> ways) const {
        ask([&] {
            rules_.read_patterns(rules_.user, position.bytes.data(), static_cast<std::int32_t>(player), ways.data());
        });
    }
    /// @}
    /// @{
    /// As the table says, or numbers where it has no texts. Reading throws InputError for a text that is none.
    std::string position_text(const Position& position) const {
        return ask([&] { return detail::table_position_text(rules_, position.bytes.data()); });
    }
    Position read_position(std::string_view text) const {
        Position position;
        ask([&] { detail::read_table_position(rules_, text, position.bytes.data()); });
        return position;
    }
    std::string move_text(const Position& position, const Move& move) const {
        return ask([&] { return detail::table_text(rules_.move_text, rules_, position.bytes.data(), move.number); });
    }
    Move read_move(const Position& position, std::string_view text) const {
        return {ask([&] { return detail::read_table_move(rules_, position.bytes.data(), text); })};
    }
    std::string coordinates(const Position& position, const Move& move) const {
        return ask([&] { return detail::table_text(rules_.coordinates, rules_, position.bytes.data(), move.number); });
    }
    std::string drawing(const Position& position) const {
        return ask([&] { return detail::table_drawing(rules_, position.bytes.data()); });
    }
    std::string player_name(Player player) const {
        return ask([&] { return detail::table_player_name(rules_, player); });
    }
    /// @}

    const std::string& name() const { return name_; }    ///< as the table has it
    const arvek_rules& rules() const { return rules_; }  ///< the table

    /// Asks functions of the table, and throws RulesError where one of them told that it failed.
    template <class Question>
    auto ask(Question question) const {
        const Turn own(turns_.get());
        if constexpr (std::is_void_v<decltype(question())>) {
            question();
            detail::throw_what_was_told();
        } else {
            const auto answer = question();
            detail::throw_what_was_told();
            return answer;
        }
    }

   private:
    static_assert(sizeof(Move) == sizeof(std::uint32_t));

    /// Straight into the list, which has room for most positions at once.
    void generate(const char* function, std::uint32_t (*write)(void*, const void*, std::uint32_t*, std::uint32_t),
                  const Position& position, MoveList<Move>& moves) const {
        detail::Room room(function, 256);
        std::uint32_t count = 0;
        do
            moves.append_at_most(room.size, [&](Move* end) {
                count = ask([&] {
                    return write(rules_.user, position.bytes.data(), reinterpret_cast<std::uint32_t*>(end), room.size);
                });
                return count > room.size ? end : end + count;
            });
        while (room.must_grow_to(count));
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

    arvek_rules rules_;
    std::string name_;
    std::shared_ptr<std::mutex> turns_;
};

/// The game of a table with every opponent, solver and counter that it can have. Throws InputError as
/// check_rules_table() does.
OpenGame open_table_game(const arvek_rules& rules);

}  // namespace arvek::link
