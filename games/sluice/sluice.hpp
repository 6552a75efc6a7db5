#pragma once
// Sluice: pouring water from basin to basin. One of the Basin Games of the Lowmere Waterway.
//
// Two rows of `basins` with `buckets` of water in each, and a store for each side. A move empties one own basin and
// pours one bucket into each following place counter-clockwise: own basins, own store, the rival's basins; the rival's
// store is passed over. The last bucket in the own store: move again. In an own basin that was empty, with water
// opposite: that bucket and all of the opposite go to the own store (`empty_capture`: the bucket goes there even with
// no water opposite). `relay`: a last bucket in an own basin that was not empty picks up all of it and pours on. As
// soon as the basins of one side are all empty, the other's remaining buckets go to that other side's store, and the
// game is over: more buckets win.
//
// Moves: the basin's number from the mover's own left, so that the last is next to the own store.
// Positions: "4,4,4,4,4,4:0 4,4,4,4,4,4:0 T".

#include <array>
#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>

#include <arvek/game/board.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/patterns.hpp>
#include <arvek/game/payoff_bounds.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/suggesters.hpp>

namespace waterway {

class Sluice {
   public:
    static constexpr int most_basins = 12;

    struct Parameters {
        int basins = 6;
        int buckets = 4;
        bool empty_capture = false;
        bool relay = false;
    };

    struct Position {
        /// Teal's basins from its left, Teal's store, Amber's basins from its left, Amber's store, then unused places.
        std::array<std::uint16_t, 2 * most_basins + 2> places{};
        arvek::Player to_move = arvek::Player::First;

        friend bool operator==(const Position&, const Position&) = default;
    };

    struct Move {
        std::uint8_t basin = 0;  ///< from the mover's own left, from 0

        friend bool operator==(const Move&, const Move&) = default;
    };

    struct Undo {
        Position before;
    };

    /// Throws arvek::InputError for parameters out of range.
    explicit Sluice(const Parameters& parameters);
    Sluice() : Sluice(Parameters{}) {}

    Position initial_position() const;

    arvek::Player player_to_move(const Position& position) const { return position.to_move; }

    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        // Written without branches, since which basins are empty is hard to foretell.
        const std::uint16_t* water = &position.places[at(first_basin(position.to_move))];
        moves.append_at_most(static_cast<std::size_t>(basins_), [&](Move* end) {
            for (int basin = 0; basin < basins_; ++basin) {
                end->basin = static_cast<std::uint8_t>(basin);
                end += water[basin] > 0 ? 1 : 0;
            }
            return end;
        });
    }

    template <class Visit>
    void visit_moves(const Position& position, Visit visit) const {
        const int first = first_basin(position.to_move);
        for (int basin = 0; basin < basins_; ++basin)
            if (position.places[at(first + basin)] > 0 && !visit(Move{static_cast<std::uint8_t>(basin)})) return;
    }

    /// Captures, which change the lead at once, and moving again, by which the next capture comes within reach.
    void generate_forcing_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        const int first = first_basin(position.to_move);
        for (int basin = 0; basin < basins_; ++basin)
            if (position.places[at(first + basin)] > 0 && gain_of(position, first, basin) > 0)
                moves.push_back({static_cast<std::uint8_t>(basin)});
    }

    void play(Position& position, const Move& move) const {
        auto& places = position.places;
        const int own_first = first_basin(position.to_move), own_store = own_first + basins_;
        const int rival_store = store_of(arvek::rival_of(position.to_move));
        const int last_place = 2 * basins_ + 1;
        int place = own_first + move.basin;
        for (;;) {
            int water = places[at(place)];
            places[at(place)] = 0;
            while (water > 0) {
                place = place == last_place ? 0 : place + 1;
                if (place == rival_store) continue;
                ++places[at(place)];
                --water;
            }
            // The last bucket has fallen into `place`.
            if (place < own_first || place >= own_store) break;
            if (places[at(place)] == 1) {
                const int opposite = 2 * basins_ - place;
                if (places[at(opposite)] > 0 || parameters_.empty_capture) {
                    places[at(own_store)] =
                        static_cast<std::uint16_t>(places[at(own_store)] + 1 + places[at(opposite)]);
                    places[at(place)] = places[at(opposite)] = 0;
                }
                break;
            }
            if (!parameters_.relay) break;
        }
        if (place != own_store) position.to_move = arvek::rival_of(position.to_move);
        int teal = 0, amber = 0;
        for (int basin = 0; basin < basins_; ++basin) {
            teal |= places[at(basin)];
            amber |= places[at(basins_ + 1 + basin)];
        }
        if (teal == 0 || amber == 0) store_the_rest(position);
    }

    Undo play_reversibly(Position& position, const Move& move) const {
        const Undo undo{position};
        play(position, move);
        return undo;
    }
    void take_back(Position& position, const Move&, const Undo& undo) const { position = undo.before; }

    std::optional<arvek::Outcome> outcome(const Position& position) const {
        // play() leaves a finished game with both rows empty.
        int water = 0;
        const int first = first_basin(position.to_move);
        for (int basin = 0; basin < basins_; ++basin) water |= position.places[at(first + basin)];
        if (water != 0) return std::nullopt;
        return arvek::Outcome::margin_of_first(lead_of_first(position));
    }

    /// The lead in stored buckets.
    arvek::Score evaluate(const Position& position, arvek::Player player) const {
        const int lead = lead_of_first(position);
        return arvek::Score::estimate(player == arvek::Player::First ? lead : -lead);
    }

    /// The lead, and all the water that is not yet stored either way.
    arvek::PayoffBounds payoff_bounds(const Position& position, arvek::Player player) const {
        const int lead = player == arvek::Player::First ? lead_of_first(position) : -lead_of_first(position);
        const int stored =
            position.places[at(store_of(arvek::Player::First))] + position.places[at(store_of(arvek::Player::Second))];
        const int left = 2 * basins_ * parameters_.buckets - stored;
        return {lead - left, lead + left};
    }

    std::uint64_t hash(const Position& position) const {
        std::uint64_t hash = static_cast<std::uint64_t>(position.to_move);
        for (std::size_t place = 0; place < used_places_; ++place)
            hash = (hash ^ position.places[place]) * 0x9e3779b97f4a7c15u + (hash >> 29);
        return arvek::mix_bits(hash);
    }

    /// Moving again first, with what lies next to the store; then by what is captured; then water that would else be
    /// lost.
    int order_hint(const Position& position, const Move& move) const {
        const int first = first_basin(position.to_move);
        const int gain = gain_of(position, first, move.basin);
        if (gain > 0) return gain;
        return move.basin + position.places[at(first + move.basin)] > basins_ ? move.basin : -basins_ + move.basin;
    }

    /// What evaluations are learned from: each basin with what lies opposite, and the lead.
    std::vector<arvek::Pattern> patterns() const;
    void read_patterns(const Position& position, arvek::Player player, std::span<std::uint16_t> ways) const;

    std::span<const arvek::Quantity<Sluice>> quantities() const;
    std::span<const arvek::Suggester<Sluice>> suggesters() const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    /// Amber's row above, Teal's below, each side's first basin on its own left.
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const;

    const Parameters& parameters() const { return parameters_; }

   private:
    /// One side has no water left, so that the game ends.
    void store_the_rest(Position& position) const;

    static std::size_t at(int place) { return static_cast<std::size_t>(place); }

    int first_basin(arvek::Player player) const { return player == arvek::Player::First ? 0 : basins_ + 1; }
    /// What speaks for the move at once: moving again, or the capture of so much; 0 where it does neither.
    int gain_of(const Position& position, int first, int basin) const {
        const int last = basin + position.places[at(first + basin)];
        if (last == basins_) return 1'000 + basin;
        if (last > basins_ || position.places[at(first + last)] != 0) return 0;
        const int opposite = position.places[at(2 * basins_ - first - last)];
        return opposite > 0 ? 100 + 8 * opposite : 0;
    }
    int water_of(const Position& position, arvek::Player player) const {
        int water = 0;
        for (int basin = 0; basin < basins_; ++basin) water += position.places[at(first_basin(player) + basin)];
        return water;
    }
    int store_of(arvek::Player player) const { return first_basin(player) + basins_; }
    int lead_of_first(const Position& position) const {
        return position.places[at(store_of(arvek::Player::First))] -
               position.places[at(store_of(arvek::Player::Second))];
    }

    Parameters parameters_;
    int basins_ = 0;
    std::size_t used_places_ = 0;
};

}  // namespace waterway
