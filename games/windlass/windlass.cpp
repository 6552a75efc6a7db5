#include "windlass/windlass.hpp"

#include <cmath>
#include <vector>

#include <arvek/game/text.hpp>
#include <arvek/game/text_reader.hpp>

namespace waterway {

using arvek::InputError;
using arvek::Player;

Windlass::Windlass(const Parameters& parameters) : parameters_(parameters) {
    const auto require = [](const char* name, int value, int least, int most) {
        if (value < least || value > most)
            throw InputError(name, std::to_string(value) + " is out of range",
                             std::to_string(least) + " to " + std::to_string(most));
    };
    require("posts", parameters.posts, 4, 12);
    require("pegs", parameters.pegs, 2, 5);
    if (2 * parameters.pegs >= parameters.posts + 1)
        throw InputError("pegs",
                         "2 x " + std::to_string(parameters.pegs) + " pegs leave no post free of " +
                             std::to_string(parameters.posts) + " and the hub",
                         "at most " + std::to_string(parameters.posts / 2) + " with that many posts");
    rim_ = bit(parameters.posts) - 1;
    hub_ = bit(parameters.posts);
    all_ = rim_ | hub_;
    half_ = parameters.posts % 2 == 0 ? parameters.posts / 2 : 0;
    for (int post = 0; post < parameters.posts; ++post)
        neighbours_[static_cast<std::size_t>(post)] =
            bit((post + 1) % parameters.posts) | bit((post + parameters.posts - 1) % parameters.posts) | hub_;
    neighbours_[static_cast<std::size_t>(parameters.posts)] = rim_;
}

int Windlass::preference(const Position& position, const Move& move) const {
    return (own_after(position, move) & ~position.own() & hub_) != 0 ? 1 : 0;
}

std::string Windlass::player_name(Player player) const { return player == Player::First ? "Teal" : "Amber"; }

std::string Windlass::position_text(const Position& position) const {
    const bool teal_moves = position.to_move() == Player::First;
    const Places teal = teal_moves ? position.own() : position.others();
    const Places amber = teal_moves ? position.others() : position.own();
    const auto letter = [&](int place) {
        return (teal & bit(place)) != 0 ? 'T' : (amber & bit(place)) != 0 ? 'A' : '.';
    };
    std::string text{letter(parameters_.posts), '/'};
    for (int post = 0; post < parameters_.posts; ++post) text += letter(post);
    text += teal_moves ? " T " : " A ";
    text += std::to_string(teal_moves ? position.own_hand() : position.others_hand()) + " " +
            std::to_string(teal_moves ? position.others_hand() : position.own_hand());
    return text;
}

Windlass::Position Windlass::read_position(std::string_view text) const {
    arvek::TextReader in(text, "the hub, /, " + std::to_string(parameters_.posts) +
                                   " posts, the player to move and the pegs in hand of each, such as '" +
                                   position_text(initial_position()) + "'");
    Places pegs[3] = {0, 0, 0};  // the last of nobody
    const auto read_place = [&](int place) { pegs[in.one_of("TA.", "peg")] |= bit(place); };
    read_place(parameters_.posts);
    in.take('/', "the hub");
    for (int post = 0; post < parameters_.posts; ++post) read_place(post);
    in.take(' ', "the rim");
    const bool teal_moves = in.one_of("TA", "player") == 0;
    int hands[2] = {0, 0};
    for (int& hand : hands) {
        in.take(' ', "what comes before");
        hand = in.number("number of pegs in hand", 0, parameters_.pegs);
    }
    in.finish("the pegs in hand");
    for (int side = 0; side < 2; ++side)
        if (std::popcount(pegs[side]) + hands[side] != parameters_.pegs)
            in.fail_as_such(std::string(side == 0 ? "Teal" : "Amber") + " has " +
                                std::to_string(std::popcount(pegs[side])) + " pegs placed and " +
                                std::to_string(hands[side]) + " in hand",
                            std::to_string(parameters_.pegs) + " in all");
    if (hands[1] - hands[0] != (teal_moves ? 0 : 1) && (hands[0] > 0 || hands[1] > 0))
        in.fail_as_such("the pegs in hand do not go with the player to move",
                        "as many of each when Teal is to move, one more of Amber's when Amber is");
    const int mover = teal_moves ? 0 : 1;
    const Position position = Position::of(pegs[mover], pegs[1 - mover], hands[mover], hands[1 - mover],
                                           teal_moves ? Player::First : Player::Second);
    if (has_line(position.own()))
        in.fail_as_such("the side to move has a line already", "a line only of the side that moved last");
    return position;
}

std::string Windlass::move_text(const Position& position, const Move& move) const {
    const auto name = [&](Places place) {
        return place == hub_ ? std::string("h") : std::to_string(std::countr_zero(place) + 1);
    };
    const Places before = position.own(), after = own_after(position, move);
    return (position.own_hand() > 0 ? "" : name(before & ~after) + "-") + name(after & ~before);
}

std::string Windlass::drawing(const Position& position) const {
    const std::string text = position_text(position);
    constexpr int middle_x = 18, middle_y = 5;
    std::vector<std::string> lines(2 * middle_y + 1, std::string(2 * middle_x + 5, ' '));
    const auto put = [&](int x, int y, const std::string& what) {
        lines[static_cast<std::size_t>(y)].replace(static_cast<std::size_t>(x), what.size(), what);
    };
    put(middle_x - 1, middle_y, std::string("(") + text[0] + ")");
    put(middle_x, middle_y + 1, "h");
    for (int post = 0; post < parameters_.posts; ++post) {
        const double angle = 2 * 3.14159265358979 * post / parameters_.posts;
        const int x = middle_x + static_cast<int>(std::lround(15 * std::sin(angle)));
        const int y = middle_y - static_cast<int>(std::lround(4.4 * std::cos(angle)));
        const std::string number = std::to_string(post + 1);
        // The letter on the ring, the number on its outer side.
        put(x, y, std::string(1, text[2 + static_cast<std::size_t>(post)]));
        put(std::sin(angle) < -0.01 ? x - 1 - static_cast<int>(number.size()) : x + 2, y, number);
    }
    std::string drawing;
    for (std::string& line : lines) drawing += line.erase(line.find_last_not_of(' ') + 1) + "\n";
    drawing.erase(0,
                  drawing.find_first_not_of('\n') == 0 ? 0 : drawing.rfind('\n', drawing.find_first_not_of(" \n")) + 1);
    while (drawing.size() > 1 && drawing[drawing.size() - 2] == '\n') drawing.pop_back();
    const bool teal_moves = position.to_move() == Player::First;
    return drawing + "  in hand: Teal " + std::to_string(teal_moves ? position.own_hand() : position.others_hand()) +
           ", Amber " + std::to_string(teal_moves ? position.others_hand() : position.own_hand()) + "\n";
}

}  // namespace waterway
