#pragma once
// Games drawn at random, as data: trees and graphs with joins and cycles, one to four seats, margins or wins alone, dice
// with few faces or thousands, a rule of repetition, evaluations that are good, bad, constant or wrong by sign. A game can
// be written as JSON and read back, so that what a search got wrong is kept as a file.

#include <arvek/game/any_game.hpp>
#include <arvek/game/chance.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/payoff_bounds.hpp>
#include <arvek/game/players.hpp>
#include <arvek/game/repetition.hpp>
#include <arvek/game/scale.hpp>
#include <arvek/game/text.hpp>

#include <memory>

#include "support/json.hpp"

namespace testing_support {

/// The rules of such a game.
struct RandomRules {
    enum Kind { End = -2, Chance = -1 };  // else the seat that moves
    struct Node {
        int kind = End;
        std::vector<int> next;                          ///< by move, or by event
        std::vector<double> weights;                    ///< of the events, summing to 1
        int each = 1;                                   ///< so many events lead to each of the next, all as likely
        std::array<int, arvek::max_players> payoffs{};  ///< of an end
        std::array<int, arvek::max_players> estimates{};
    };

    int seats = 2;
    int draw_at = 0;   ///< 0: no rule of repetition
    int declared = 0;  ///< the largest payoff, where the game says it
    bool evaluates = true, hashes = true, lists = true;
    double units = 0;  ///< 0: not said
    std::vector<Node> nodes;

    bool has_chance() const {
        return std::any_of(nodes.begin(), nodes.end(), [](const Node& node) { return node.kind == Chance; });
    }
    /// Whether a move leads to the node itself or one before it.
    bool goes_back() const {
        for (std::size_t i = 0; i < nodes.size(); ++i)
            for (const int to : nodes[i].next)
                if (to <= static_cast<int>(i)) return true;
        return false;
    }
    bool sums_to_zero() const {
        return std::all_of(nodes.begin(), nodes.end(), [&](const Node& node) {
            return node.kind != End || node.payoffs[0] + node.payoffs[1] + node.payoffs[2] + node.payoffs[3] == 0;
        });
    }

    nlohmann::json json() const {
        nlohmann::json all{
            {"seats", seats},   {"draw_at", draw_at}, {"declared", declared}, {"evaluates", evaluates},
            {"hashes", hashes}, {"lists", lists},     {"units", units},       {"nodes", nlohmann::json::array()}};
        for (const Node& node : nodes)
            all["nodes"].push_back({{"kind", node.kind},
                                    {"next", node.next},
                                    {"weights", node.weights},
                                    {"each", node.each},
                                    {"payoffs", node.payoffs},
                                    {"estimates", node.estimates}});
        return all;
    }
    static RandomRules from(const nlohmann::json& all) {
        RandomRules rules;
        rules.seats = all.at("seats");
        rules.draw_at = all.at("draw_at");
        rules.declared = all.at("declared");
        rules.evaluates = all.at("evaluates");
        rules.hashes = all.at("hashes");
        rules.lists = all.at("lists");
        rules.units = all.at("units");
        for (const auto& each : all.at("nodes")) {
            Node& node = rules.nodes.emplace_back();
            node.kind = each.at("kind");
            node.next = each.at("next").get<std::vector<int>>();
            node.weights = each.at("weights").get<std::vector<double>>();
            node.each = each.at("each");
            node.payoffs = each.at("payoffs");
            node.estimates = each.at("estimates");
        }
        return rules;
    }

    /// The same for the same seed.
    static RandomRules drawn(std::uint64_t seed) {
        using arvek::Random;
        Random random(seed);
        const auto below = [&](int n) { return static_cast<int>(random.below(static_cast<std::uint64_t>(n))); };
        const auto one_in = [&](int n) { return below(n) == 0; };
        RandomRules rules;
        constexpr int seats[] = {1, 2, 2, 2, 3, 4};
        rules.seats = seats[below(6)];
        const bool chance = one_in(2), goes_round = one_in(3);
        rules.draw_at = goes_round ? 2 : one_in(5) ? 2 : 0;
        rules.evaluates = !one_in(3);
        rules.hashes = !one_in(4);
        rules.lists = !one_in(6);
        constexpr int most_payoffs[] = {1, 1, 3, 50, 100, 10'000};
        const int most = most_payoffs[below(6)];
        if (one_in(2)) rules.declared = most * (one_in(4) ? 2 : 1);
        if (rules.evaluates && one_in(2)) rules.units = 1 + below(40);
        const bool zero_sum = rules.seats == 2 ? !one_in(8) : one_in(2);
        const int judged = below(4);  // good, bad, constant, wrong by sign
        const int size = goes_round ? 4 + below(7) : 6 + below(60);
        rules.nodes.resize(static_cast<std::size_t>(size));
        for (int i = 0; i < size; ++i) {
            Node& node = rules.nodes[static_cast<std::size_t>(i)];
            const bool ends = i > 0 && (i >= size - 2 || below(5) < 2);
            if (!ends) {
                node.kind = chance && i > 0 && below(3) == 0 ? Chance : below(rules.seats);
                const int count = 1 + below(goes_round ? 3 : 5);
                for (int k = 0; k < count; ++k) {
                    // Ahead, not too far, or now and then back where play may go round.
                    const bool back = goes_round && one_in(3);
                    node.next.push_back(back ? below(i + 1)
                                             : i + 1 + below(std::min(size - i - 1, goes_round ? 4 : 9)));
                }
                if (node.kind == Chance) {
                    if (one_in(8)) {
                        constexpr int faces[] = {2, 36, 221, 1'326, 2'000};
                        node.each = std::max(1, faces[below(5)] / count);
                    }
                    double sum = 0;
                    for (int k = 0; k < count; ++k) sum += node.weights.emplace_back(one_in(4) ? 0.01 : 1 + below(9));
                    for (double& weight : node.weights) weight /= sum;
                    if (node.each > 1) node.weights.assign(node.next.size(), 1.0 / count);
                }
            }
            const auto drawn_payoff = [&] {
                if (one_in(6)) return one_in(2) ? most : -most;
                return below(2 * most + 1) - most;
            };
            for (int j = 0; j < rules.seats; ++j) node.payoffs[static_cast<std::size_t>(j)] = drawn_payoff();
            if (zero_sum && rules.seats == 2) node.payoffs[1] = -node.payoffs[0];
            if (zero_sum && rules.seats > 2) {
                node.payoffs[static_cast<std::size_t>(rules.seats - 1)] = 0;
                int sum = 0;
                for (int j = 0; j + 1 < rules.seats; ++j) sum += node.payoffs[static_cast<std::size_t>(j)];
                node.payoffs[static_cast<std::size_t>(rules.seats - 1)] = std::clamp(-sum, -most, most);
                if (sum > most || sum < -most) node.payoffs.fill(0);
            }
            if (node.kind != End) node.payoffs.fill(0);
            for (int j = 0; j < rules.seats; ++j) {
                int& estimate = node.estimates[static_cast<std::size_t>(j)];
                estimate = judged == 2 ? 7 : below(61) - 30;
            }
            if (rules.seats == 2) node.estimates[1] = -node.estimates[0];
        }
        if (judged == 0 || judged == 3) {
            // The mean of what lies ahead, as far as that is there already, or the opposite.
            for (int i = size - 1; i >= 0; --i) {
                Node& node = rules.nodes[static_cast<std::size_t>(i)];
                for (int j = 0; j < rules.seats; ++j) {
                    const auto seat = static_cast<std::size_t>(j);
                    if (node.kind == End) {
                        node.estimates[seat] = 30 * node.payoffs[seat] / most;
                        continue;
                    }
                    int sum = 0, count = 0;
                    for (const int to : node.next)
                        if (to > i) sum += rules.nodes[static_cast<std::size_t>(to)].estimates[seat], ++count;
                    node.estimates[seat] = count > 0 ? sum / count : 0;
                }
            }
            if (judged == 3)
                for (Node& node : rules.nodes)
                    for (int& estimate : node.estimates) estimate = -estimate;
        }
        return rules;
    }
};

/// The same as a game, with positions of at least so many bytes.
template <std::size_t Bytes>
struct RandomGame {
    struct Position {
        std::uint32_t at = 0;
        std::array<unsigned char, Bytes - 4> rest{};
        friend bool operator==(const Position&, const Position&) = default;
    };
    using Move = std::uint16_t;
    using Kind = RandomRules::Kind;

    std::shared_ptr<const RandomRules> rules;

    explicit RandomGame(RandomRules drawn = {}) : rules(std::make_shared<RandomRules>(std::move(drawn))) {}

    const RandomRules::Node& node(const Position& p) const { return rules->nodes[p.at]; }

    bool offers(arvek::Ability ability) const {
        using arvek::Ability;
        switch (ability) {
            case Ability::Players: return true;
            case Ability::Evaluation: return rules->evaluates;
            case Ability::Hash: return rules->hashes;
            case Ability::Repetition: return rules->draw_at > 0;
            case Ability::MostPayoff: return rules->declared > 0;
            case Ability::Scale: return rules->units > 0;
            case Ability::Chance: return rules->has_chance() && rules->lists;
            case Ability::DrawnEvents: return rules->has_chance() && !rules->lists;
            case Ability::Text: return true;
            default: return false;
        }
    }
    int players() const { return rules->seats; }
    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& p) const {
        return static_cast<arvek::Player>(std::max(0, node(p).kind));
    }
    bool chance_is_next(const Position& p) const { return node(p).kind == Kind::Chance; }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        for (std::size_t i = 0; i < node(p).next.size(); ++i) moves.push_back(static_cast<Move>(i));
    }
    void generate_events(const Position& p, arvek::MoveList<arvek::Event<Move>>& events) const {
        const auto& from = node(p);
        const std::size_t count = from.next.size() * static_cast<std::size_t>(from.each);
        for (std::size_t i = 0; i < count; ++i)
            events.push_back({static_cast<Move>(i), from.weights[i % from.next.size()] / from.each});
    }
    Move draw_event(const Position& p, arvek::Random& random) const {
        const auto& from = node(p);
        double left = random.unit();
        std::size_t next = 0;
        while (next + 1 < from.next.size() && left >= from.weights[next]) left -= from.weights[next++];
        return static_cast<Move>(next + from.next.size() * random.below(static_cast<std::uint64_t>(from.each)));
    }
    void play(Position& p, const Move& move) const {
        const auto& next = node(p).next;
        p.at = static_cast<std::uint32_t>(next[move % next.size()]);
        p.rest.fill(static_cast<unsigned char>(p.at));
    }
    std::optional<arvek::Outcome> outcome(const Position& p) const {
        if (node(p).kind != Kind::End) return std::nullopt;
        return arvek::Outcome::of_payoffs(node(p).payoffs);
    }
    arvek::Score evaluate(const Position& p, arvek::Player player) const {
        return arvek::Score::estimate(node(p).estimates[arvek::index_of(player)]);
    }
    std::uint64_t hash(const Position& p) const { return arvek::mix_bits(p.at + 77); }
    int draw_at_occurrence() const { return rules->draw_at; }
    arvek::Payoff most_payoff() const { return rules->declared; }
    double units_per_doubling() const { return rules->units; }
    std::string position_text(const Position& p) const { return std::to_string(p.at); }
    Position read_position(std::string_view text) const {
        Position p;
        p.at = static_cast<std::uint32_t>(std::stoul(std::string(text)));
        if (p.at > 0) p.rest.fill(static_cast<unsigned char>(p.at));
        return p;
    }
    std::string move_text(const Position&, const Move& move) const { return std::to_string(move); }
};

/// The same with positions that are not plain, do not compare all that they hold, and moves that are texts.
struct OddGame {
    using Plain = RandomGame<8>;
    struct Position {
        Plain::Position of{};
        std::vector<std::uint8_t> trail{};  // of no account
        friend bool operator==(const Position& a, const Position& b) { return a.of == b.of; }
    };
    struct Move {
        std::string text;
        Plain::Move place = 0;
        friend bool operator==(const Move&, const Move&) = default;
    };

    Plain plain;

    explicit OddGame(RandomRules drawn = {}) : plain(std::move(drawn)) {}

    static Move move_at(Plain::Move place) { return {"the way of the number " + std::to_string(place), place}; }

    bool offers(arvek::Ability ability) const { return plain.offers(ability); }
    int players() const { return plain.players(); }
    Position initial_position() const { return {plain.initial_position(), {}}; }
    arvek::Player player_to_move(const Position& p) const { return plain.player_to_move(p.of); }
    bool chance_is_next(const Position& p) const { return plain.chance_is_next(p.of); }
    void generate_moves(const Position& p, arvek::MoveList<Move>& moves) const {
        arvek::MoveList<Plain::Move> all;
        plain.generate_moves(p.of, all);
        for (const auto place : all) moves.push_back(move_at(place));
    }
    void generate_events(const Position& p, arvek::MoveList<arvek::Event<Move>>& events) const {
        arvek::MoveList<arvek::Event<Plain::Move>> all;
        plain.generate_events(p.of, all);
        for (const auto& event : all) events.push_back({move_at(event.move), event.probability});
    }
    Move draw_event(const Position& p, arvek::Random& random) const { return move_at(plain.draw_event(p.of, random)); }
    void play(Position& p, const Move& move) const {
        plain.play(p.of, move.place);
        p.trail.push_back(static_cast<std::uint8_t>(move.place));
    }
    std::optional<arvek::Outcome> outcome(const Position& p) const { return plain.outcome(p.of); }
    arvek::Score evaluate(const Position& p, arvek::Player player) const { return plain.evaluate(p.of, player); }
    std::uint64_t hash(const Position& p) const { return plain.hash(p.of); }
    int draw_at_occurrence() const { return plain.draw_at_occurrence(); }
    arvek::Payoff most_payoff() const { return plain.most_payoff(); }
    double units_per_doubling() const { return plain.units_per_doubling(); }
    std::string position_text(const Position& p) const { return plain.position_text(p.of); }
    Position read_position(std::string_view text) const { return {plain.read_position(text), {}}; }
    std::string move_text(const Position& p, const Move& move) const { return plain.move_text(p.of, move.place); }
};

}  // namespace testing_support
