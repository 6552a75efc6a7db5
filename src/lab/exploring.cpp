#include "exploring.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "arvek/game/chance.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/text.hpp"

namespace arvek::detail {

namespace {

/// In a few steps: 0, 1, 2, 3 to 4, 5 to 8, ...; less than 0 alike.
int steps_of(std::int64_t number) {
    if (number < 0) return -steps_of(-number);
    int steps = 0;
    for (std::int64_t most = 0; number > most; most = most < 2 ? most + 1 : 2 * most) ++steps;
    return steps;
}

/// A text without what tells single numbers and letters apart.
std::uint64_t shape_of(const std::string& text) {
    std::string shape;
    for (const char letter : text) {
        const char kind = letter >= '0' && letter <= '9'                                         ? '0'
                          : (letter >= 'a' && letter <= 'z') || (letter >= 'A' && letter <= 'Z') ? 'a'
                                                                                                 : letter;
        if (shape.empty() || shape.back() != kind) shape += kind;
    }
    return hash_of_text(shape);
}

std::array<int, 128> letters_of(const std::string& text) {
    std::array<int, 128> count{};
    for (const char letter : text) ++count[static_cast<unsigned char>(letter) & 127u];
    return count;
}

constexpr std::size_t most_known = 20'000;

}  // namespace

Path Exploring::begin(int number) {
    Random random(derived_seed(seed_, 6'000'011 + static_cast<std::uint64_t>(number)));
    // The first is plain, so that whatever breaks at once is seen in plain play.
    manner_ = number == 0 ? Manner::Uniform : static_cast<Manner>(number % 5);
    for (std::uint64_t& bias : bias_) bias = random.below(UINT64_MAX);
    if (number < 8 || number % 2 == 0 || in_order_.empty()) return {};
    // From where something seldom was seen, a few moves earlier now and then.
    Known* rarest = nullptr;
    for (int i = 0; i < 24; ++i) {
        Known& one = known_[in_order_[static_cast<std::size_t>(random.below(in_order_.size()))]];
        if (rarest == nullptr || one.met + 8 * one.begun < rarest->met + 8 * rarest->begun) rarest = &one;
    }
    ++rarest->begun;
    Path path = rarest->path;
    const std::size_t less = random.below(3) == 0 ? static_cast<std::size_t>(random.below(path.size() + 1)) : 0;
    path.resize(path.size() - less);
    return path;
}

std::uint64_t Exploring::key_of(const AnyPosition& position, const AnyMove& move) const {
    return hash_of_text(game_.move_text(position, move));
}

std::size_t Exploring::choose(const AnyPosition& position, const MoveList<AnyMove>& moves, Random& random) {
    const std::size_t count = moves.size();
    std::size_t chosen = static_cast<std::size_t>(random.below(count));
    if (count == 1 || manner_ == Manner::Uniform || random.below(8) == 0) return chosen;
    if (manner_ == Manner::Seldom) {
        std::uint64_t least = UINT64_MAX;
        const std::size_t first = chosen;
        for (std::size_t i = 0; i < count && least > 0; ++i) {
            const std::size_t place = (first + i) % count;
            const auto known = played_.find(key_of(position, moves[place]));
            const std::uint64_t times = known == played_.end() ? 0 : known->second;
            if (times >= least) continue;
            least = times;
            chosen = place;
        }
        ++played_[key_of(position, moves[chosen])];
        return chosen;
    }
    if (manner_ == Manner::Biased) {
        // A liking for each move by its name, which stays the same all game long.
        const std::uint64_t bias = bias_[index_of(game_.player_to_move(position)) % max_players];
        double most = -1;
        for (std::size_t i = 0; i < count; ++i) {
            const double liking = static_cast<double>(mix_bits(bias ^ key_of(position, moves[i])) >> 11) * 0x1.0p-53 +
                                  0.3 * random.unit();
            if (liking > most) {
                most = liking;
                chosen = i;
            }
        }
        return chosen;
    }
    constexpr std::size_t most_looked_at = 12;
    std::uint64_t least = UINT64_MAX;
    const std::size_t first = chosen;
    if (manner_ == Manner::Pressing) {
        // The move that leaves the others the least to do: towards checks and pins, and to where a side has nothing left.
        const Player player = game_.player_to_move(position);
        for (std::size_t i = 0; i < std::min(count, most_looked_at); ++i) {
            const std::size_t place = (first + i) % count;
            AnyPosition after = position;
            game_.play(after, moves[place]);
            if (game_.outcome(after)) return place;
            MoveList<AnyMove> next;
            generate_what_is_next(game_, after, next);
            const bool own = !chance_is_next(game_, after) && game_.player_to_move(after) == player;
            if (const std::uint64_t left = own ? 1'000 : next.size(); left < least) {
                least = left;
                chosen = place;
            }
        }
        return chosen;
    }
    // The move after which the least known is seen.
    for (std::size_t i = 0; i < std::min(count, most_looked_at); ++i) {
        const std::size_t place = (first + i) % count;
        AnyPosition after = position;
        game_.play(after, moves[place]);
        features_.clear();
        features_of(position, after, features_);
        std::uint64_t met = UINT64_MAX;
        for (const std::uint64_t feature : features_) {
            const auto known = known_.find(feature);
            met = std::min(met, known == known_.end() ? 0 : known->second.met);
        }
        if (met < least) {
            least = met;
            chosen = place;
        }
    }
    return chosen;
}

void Exploring::features_of(const AnyPosition& before, const AnyPosition& position,
                            std::vector<std::uint64_t>& found) const {
    const auto add = [&](std::uint64_t kind, std::uint64_t value, std::uint64_t more = 0) {
        found.push_back(hash_of_words({kind, value, more}));
    };
    if (offers(game_, Ability::Text)) {
        const std::string was = game_.position_text(before), is = game_.position_text(position);
        const auto earlier = letters_of(was), now = letters_of(is);
        std::uint64_t change = 0;
        for (std::size_t letter = 0; letter < now.size(); ++letter) {
            if (now[letter] > 0) add(1, letter, static_cast<std::uint64_t>(steps_of(now[letter])));
            if (now[letter] != earlier[letter] && (letter < '0' || letter > '9'))
                change = mix_bits(change ^ (letter * 64 + static_cast<std::uint64_t>(
                                                              std::clamp(now[letter] - earlier[letter], -9, 9) + 16)));
        }
        add(2, change);
        add(3, shape_of(is));
        // Every number in the text, by its place among them.
        std::uint64_t field = 0;
        for (std::size_t i = 0; i < is.size() && field < 24; ++i) {
            if (is[i] < '0' || is[i] > '9') continue;
            std::int64_t number = 0;
            for (; i < is.size() && is[i] >= '0' && is[i] <= '9'; ++i)
                number = std::min<std::int64_t>(10 * number + (is[i] - '0'), 1'000'000'000);
            add(4, field++, static_cast<std::uint64_t>(number <= 12 ? number : 12 + steps_of(number)));
        }
    }
    if (const auto outcome = game_.outcome(position)) {
        add(5, static_cast<std::uint64_t>(outcome->payoff(Player::First) + largest_payoff),
            static_cast<std::uint64_t>(outcome->payoff(Player::Second) + largest_payoff));
        return;
    }
    MoveList<AnyMove> moves;
    generate_what_is_next(game_, position, moves);
    add(6, moves.size());
    if (chance_is_next(game_, position)) {
        add(7, 1);
        return;
    }
    const Player player = game_.player_to_move(position);
    if (!game_.outcome(before) && !chance_is_next(game_, before))
        add(8, game_.player_to_move(before) == player ? 1 : 0, index_of(player));
    for (std::size_t i = 0; i < std::min<std::size_t>(moves.size(), 24); ++i)
        add(9, shape_of(game_.move_text(position, moves[i])));
    if (offers(game_, Ability::Evaluation)) {
        const Score score = game_.evaluate(position, player);
        add(10, static_cast<std::uint64_t>(64 + steps_of(score.is_proven() ? 0 : score.number())));
    }
    MoveList<AnyMove> part;
    if (offers(game_, Ability::ForcingMoves)) {
        game_.generate_forcing_moves(position, part);
        add(11, part.size());
    }
    if (offers(game_, Ability::SufficientMoves)) {
        part.clear();
        game_.generate_sufficient_moves(position, part);
        add(12, part.size());
    }
    if (offers(game_, Ability::PayoffBounds)) {
        const PayoffBounds bounds = game_.payoff_bounds(position, player);
        add(13, static_cast<std::uint64_t>(bounds.least + largest_payoff),
            static_cast<std::uint64_t>(bounds.most + largest_payoff));
    }
}

bool Exploring::meet(const AnyPosition& before, const AnyPosition& position, const Path& path) {
    features_.clear();
    features_of(before, position, features_);
    bool any = false;
    for (const std::uint64_t feature : features_) {
        auto known = known_.find(feature);
        if (known == known_.end()) {
            if (known_.size() >= most_known) continue;
            known = known_.emplace(feature, Known{path, 0, 0}).first;
            in_order_.push_back(feature);
            any = true;
        }
        ++known->second.met;
        if (path.size() < known->second.path.size()) known->second.path = path;
    }
    return any;
}

}  // namespace arvek::detail
