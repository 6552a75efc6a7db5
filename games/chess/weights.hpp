#pragma once
// What the evaluation of chess is made of, in hundredths of a pawn: how much each thing counts in the middle of a game and
// at its end, between which it changes with the pieces that are left.

#include <array>
#include <cstdint>
#include <span>
#include <string>
#include <string_view>

namespace waterway::chess {

/// In the middle and at the end of a game.
struct Tapered {
    int middle = 0, end = 0;

    friend bool operator==(const Tapered&, const Tapered&) = default;
    constexpr Tapered& operator+=(const Tapered& other) {
        middle += other.middle;
        end += other.end;
        return *this;
    }
    friend constexpr Tapered operator*(const Tapered& one, int times) { return {one.middle * times, one.end * times}; }
    friend constexpr Tapered operator-(const Tapered& one) { return {-one.middle, -one.end}; }
};

struct Weights {
    // Material.
    Tapered pawn{90, 110}, knight{320, 300}, bishop{335, 325}, rook{470, 520}, queen{960, 980};
    Tapered bishop_pair{28, 45};
    // Placement: a square nearer the centre, a rank further on.
    Tapered pawn_centre{7, 0}, pawn_advance{3, 9};
    Tapered knight_centre{10, 7}, bishop_centre{5, 4}, rook_centre{3, 0}, queen_centre{2, 5}, king_centre{-16, 14};
    Tapered rook_on_seventh{15, 22}, rook_on_open_file{22, 12}, rook_on_half_open_file{11, 8};
    // Mobility: a square that a piece can go to and no rival pawn attacks.
    Tapered knight_mobility{5, 5}, bishop_mobility{5, 5}, rook_mobility{3, 5}, queen_mobility{1, 3};
    // Pawns.
    Tapered doubled_pawn{-10, -20}, isolated_pawn{-13, -15}, backward_pawn{-7, -8}, protected_pawn{7, 5};
    Tapered passed_pawn{4, 12};      ///< and times the square of the ranks it has gone beyond its second
    Tapered free_passed_pawn{1, 4};  ///< the same, where the square before it is empty
    // The king's shelter.
    Tapered shelter_pawn{11, 0};  ///< a pawn one or two ranks before the king, on its file or the next
    Tapered open_file_at_king{-17, 0};
    Tapered attack_at_king{-8, -2};  ///< a square next to the king that a rival piece attacks
    Tapered tempo{12, 6};

    friend bool operator==(const Weights&, const Weights&) = default;
};

struct WeightName {
    std::string_view name;  ///< "knight_mobility"
    Tapered Weights::*weight;
};

/// Every weight by name, in the order above.
std::span<const WeightName> weight_names();

/// The weights of a TOML file: `knight = [320, 300]`, in the middle of a game and at its end, or one number for both. What it
/// does not name stays as it is. Throws arvek::InputError, which names file, line and column.
Weights read_weights(std::string_view text, std::string_view source);

/// Placement and material of each kind on each square, as White sees it.
using PlacementTables = std::array<std::array<Tapered, 64>, 7>;
PlacementTables placement_tables(const Weights& weights);

}  // namespace waterway::chess
