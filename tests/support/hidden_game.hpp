#pragma once
// A random game in which each player holds a card and may have moved unseen: who moves, what is covered and what it pays
// are drawn by a seed. Two to four seats; cards are dealt with uneven probabilities.

#include <algorithm>
#include <array>
#include <arvek/game/abilities.hpp>
#include <cstdint>
#include <vector>

namespace testing_support {

struct HiddenGame {
    static constexpr int most_plies = 5;
    static constexpr std::uint8_t unseen = 255;
    struct Position {
        std::array<std::uint8_t, 4> cards{};
        std::array<std::uint8_t, most_plies> moves{};
        std::uint8_t dealt = 0, ply = 0;
        friend bool operator==(const Position&, const Position&) = default;
    };
    struct View {
        std::array<std::uint8_t, most_plies> moves{};
        std::uint8_t whose = 0, card = 0, dealt = 0, ply = 0;
        friend bool operator==(const View&, const View&) = default;
    };
    using Move = int;

    explicit HiddenGame(std::uint64_t seed, int seats = 0)
        : seed_(seed),
          seats_(seats > 0 ? seats : 2 + below(1, 3)),
          cards_(seats_ == 2 ? 2 + below(2, 3) : 2),
          plies_(2 + below(3, seats_ == 2 ? most_plies - 1 : most_plies - 2)) {}

    int players() const { return seats_; }
    arvek::Payoff most_payoff() const { return 3; }
    Position initial_position() const { return {}; }
    bool chance_is_next(const Position& p) const { return p.dealt == 0; }
    arvek::Player player_to_move(const Position& p) const { return static_cast<arvek::Player>(mover(p.ply)); }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        for (int i = 0; i < 1 + below(100 + p.ply, 3); ++i) moves.push_back(i);
    }
    void generate_events(const Position&, arvek::MoveList<arvek::Event<Move>>& events) const {
        double sum = 0;
        for (int deal = 0; deal < deals(); ++deal) sum += weight(deal);
        for (int deal = 0; deal < deals(); ++deal) events.push_back({deal, weight(deal) / sum});
    }
    void play(Position& p, const Move& move) const {
        if (p.dealt == 0) {
            p = dealt(move);
        } else {
            p.moves[p.ply] = static_cast<std::uint8_t>(move);
            ++p.ply;
        }
    }
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        const std::uint64_t open = seen_by_all(p);
        if (p.dealt == 0 || p.ply == 0 || (p.ply < plies_ && open % 5 != 0)) return std::nullopt;
        std::uint64_t drawn = arvek::mix_bits(open + 1);
        // What it pays is in sight in every third ending.
        if (open / 5 % 3 != 0) {
            for (const std::uint8_t card : p.cards) drawn = arvek::mix_bits(drawn * 31 + card);
            for (int i = 0; i < p.ply; ++i) drawn = arvek::mix_bits(drawn * 31 + p.moves[static_cast<std::size_t>(i)]);
        }
        if (seats_ == 2) return arvek::Outcome::margin_of_first(static_cast<int>(drawn % 7) - 3);
        std::array<arvek::Payoff, arvek::max_players> payoffs{};
        for (int i = 0; i < seats_; ++i)
            payoffs[static_cast<std::size_t>(i)] =
                static_cast<int>(arvek::mix_bits(drawn + static_cast<std::uint64_t>(i)) % 7) - 3;
        return arvek::Outcome::of_payoffs(payoffs);
    }
    /// Tells nothing.
    arvek::Score evaluate(const Position& p, arvek::Player player) const {
        const int value = static_cast<int>(arvek::mix_bits(hash(p)) % 41) - 20;
        return arvek::Score::estimate(player == arvek::Player::First ? value : -value);
    }
    std::uint64_t hash(const Position& p) const {
        std::uint64_t hash = arvek::hash_of_words({p.dealt, p.ply});
        for (const std::uint8_t card : p.cards) hash = arvek::mix_bits(hash * 31 + card);
        for (const std::uint8_t move : p.moves) hash = arvek::mix_bits(hash * 31 + move);
        return hash;
    }
    View view(const Position& p, arvek::Player player) const {
        const int whose = static_cast<int>(arvek::index_of(player));
        View view{{}, static_cast<std::uint8_t>(whose), p.cards[static_cast<std::size_t>(whose)], p.dealt, p.ply};
        for (int i = 0; i < p.ply; ++i)
            view.moves[static_cast<std::size_t>(i)] =
                is_covered(i) && mover(i) != whose ? unseen : p.moves[static_cast<std::size_t>(i)];
        return view;
    }
    Position sample(const View& view, arvek::Random& random) const {
        const auto all = behind(view);
        double sum = 0;
        for (const auto& [position, probability] : all) sum += probability;
        double left = random.unit() * sum;
        for (const auto& [position, probability] : all)
            if ((left -= probability) < 0) return position;
        return all.back().first;
    }

    /// All that may lie behind a view, each with a number that grows as it is likelier while nobody's ways are known.
    std::vector<std::pair<Position, double>> behind(const View& view) const {
        if (view.dealt == 0) return {{Position{}, 1.0}};
        std::vector<std::pair<Position, double>> all;
        for (int deal = 0; deal < deals(); ++deal)
            if (dealt(deal).cards[view.whose] == view.card) all.push_back({dealt(deal), weight(deal)});
        for (int i = 0; i < view.ply; ++i) {
            std::vector<std::pair<Position, double>> longer;
            const std::uint8_t seen = view.moves[static_cast<std::size_t>(i)];
            for (auto [position, probability] : all)
                for (int move = 0; move < 1 + below(100 + i, 3); ++move)
                    if (seen == unseen || seen == move) {
                        Position after = position;
                        play(after, move);
                        longer.push_back({after, probability});
                    }
            all = std::move(longer);
        }
        return all;
    }

   private:
    int below(int what, int bound) const {
        return static_cast<int>(arvek::hash_of_words({seed_, static_cast<std::uint64_t>(what)}) %
                                static_cast<std::uint64_t>(bound));
    }
    int mover(int ply) const { return below(200 + ply, seats_); }
    bool is_covered(int ply) const { return below(300 + ply, 3) == 0; }
    int deals() const {
        int deals = 1;
        for (int i = 0; i < seats_; ++i) deals *= cards_;
        return deals;
    }
    double weight(int deal) const { return 1 + below(400 + deal, 9); }
    Position dealt(int deal) const {
        Position p;
        p.dealt = 1;
        for (int i = 0; i < seats_; ++i, deal /= cards_)
            p.cards[static_cast<std::size_t>(i)] = static_cast<std::uint8_t>(deal % cards_);
        return p;
    }
    std::uint64_t seen_by_all(const Position& p) const {
        std::uint64_t open = arvek::hash_of_words({seed_, p.ply});
        for (int i = 0; i < p.ply; ++i)
            if (!is_covered(i)) open = arvek::mix_bits(open * 31 + p.moves[static_cast<std::size_t>(i)] + 1u);
        return open;
    }

    std::uint64_t seed_;
    int seats_, cards_, plies_;
};

}  // namespace testing_support
