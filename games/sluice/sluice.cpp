#include "sluice/sluice.hpp"

#include <numeric>

#include <arvek/game/text.hpp>
#include <arvek/game/text_reader.hpp>

namespace waterway {

using arvek::InputError;
using arvek::Player;

namespace {

void require_range(const char* name, int value, int most) {
    if (value < 1 || value > most)
        throw InputError(name, std::to_string(value) + " is out of range", "1 to " + std::to_string(most));
}

}  // namespace

Sluice::Sluice(const Parameters& parameters) : parameters_(parameters), basins_(parameters.basins) {
    require_range("basins", parameters.basins, most_basins);
    require_range("buckets", parameters.buckets, 12);
    used_places_ = at(2 * basins_ + 2);
}

Sluice::Position Sluice::initial_position() const {
    Position position;
    for (const Player player : {Player::First, Player::Second})
        for (int basin = 0; basin < basins_; ++basin)
            position.places[at(first_basin(player) + basin)] = static_cast<std::uint16_t>(parameters_.buckets);
    return position;
}

void Sluice::store_the_rest(Position& position) const {
    for (const Player player : {Player::First, Player::Second}) {
        auto& store = position.places[at(store_of(player))];
        for (int basin = 0; basin < basins_; ++basin) {
            auto& water = position.places[at(first_basin(player) + basin)];
            store = static_cast<std::uint16_t>(store + water);
            water = 0;
        }
    }
    // Nobody moves any more; one way of saying so keeps equal ends equal.
    position.to_move = Player::First;
}

std::string Sluice::player_name(Player player) const { return player == Player::First ? "Teal" : "Amber"; }

std::string Sluice::position_text(const Position& position) const {
    std::string text;
    for (const Player player : {Player::First, Player::Second}) {
        for (int basin = 0; basin < basins_; ++basin)
            text += (basin > 0 ? "," : "") + std::to_string(position.places[at(first_basin(player) + basin)]);
        text += ":" + std::to_string(position.places[at(store_of(player))]) + " ";
    }
    return text + (position.to_move == Player::First ? 'T' : 'A');
}

Sluice::Position Sluice::read_position(std::string_view text) const {
    arvek::TextReader in(text, std::to_string(basins_) +
                                   " basins with , between, : and the store, first Teal's and then Amber's, " +
                                   "and the player to move, such as '" + position_text(initial_position()) + "'");
    Position position;
    const int total = 2 * basins_ * parameters_.buckets;
    int water[2] = {0, 0};
    int sum = 0;
    for (const Player player : {Player::First, Player::Second})
        for (int place = 0; place <= basins_; ++place) {
            const int buckets = in.number("number of buckets", 0, total);
            position.places[at(first_basin(player) + place)] = static_cast<std::uint16_t>(buckets);
            sum += buckets;
            if (place < basins_) water[arvek::index_of(player)] += buckets;
            in.take(place == basins_       ? ' '
                    : place == basins_ - 1 ? ':'
                                           : ',',
                    player_name(player) + "'s " + (place == basins_ ? "store" : "basin " + std::to_string(place + 1)));
        }
    position.to_move = in.one_of("TA", "player") == 0 ? Player::First : Player::Second;
    in.finish("the player to move");
    if (sum != total) in.fail_as_such("there are " + std::to_string(sum) + " buckets in all", std::to_string(total));
    if ((water[0] == 0) != (water[1] == 0))
        in.fail_as_such("the basins of one side are all empty and the other's are not",
                        "water on both sides, or, when the game is over, all of it in the stores");
    if (water[0] == 0 && position.to_move != Player::First)
        throw InputError("position", text.size(), "the game is over, and then T stands for nobody", "T");
    return position;
}

std::string Sluice::move_text(const Position&, const Move& move) const { return std::to_string(move.basin + 1); }

std::string Sluice::drawing(const Position& position) const {
    const auto cell = [](int number) {
        const std::string digits = std::to_string(number);
        return std::string(4 - std::min<std::size_t>(digits.size(), 4), ' ') + digits + " ";
    };
    std::string numbers_above, numbers_below, above, below;
    for (int basin = 0; basin < basins_; ++basin) {
        const int from_right = basins_ - 1 - basin;
        numbers_above += cell(from_right + 1);
        above += cell(position.places[at(first_basin(Player::Second) + from_right)]);
        below += cell(position.places[at(first_basin(Player::First) + basin)]);
        numbers_below += cell(basin + 1);
    }
    const std::string margin(14, ' ');
    const std::string line = margin + "+" + std::string(above.size(), '-') + "+\n";
    const auto store = [&](Player player) { return std::to_string(position.places[at(store_of(player))]); };
    const std::string amber = "  A store " + store(Player::Second);
    return margin + " " + numbers_above + "\n" + line + "  A (Amber)   |" + above + "|\n" + amber +
           std::string(margin.size() > amber.size() ? margin.size() - amber.size() : 1, ' ') + "|" +
           std::string(above.size(), ' ') + "|  T store " + store(Player::First) + "\n" + "  T (Teal)    |" + below +
           "|\n" + line + margin + " " + numbers_below + "\n";
}

}  // namespace waterway
