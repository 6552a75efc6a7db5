#pragma once
// Any game once more through the border to C, with every ability that it has.

#include <algorithm>
#include <array>
#include <cstring>
#include <map>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include <arvek/arvek.h>
#include <arvek/game/any_game.hpp>
#include <arvek/game/input_error.hpp>

namespace testing_support {

using namespace arvek;

/// A table in C for a game whose positions and views are plain bytes without gaps. Must live as long as what is made of it.
class ThroughC {
   public:
    explicit ThroughC(const AnyGame& game)
        : game_(game),
          start_(game.initial_position()),
          seen_(game_.offers(Ability::Views) ? game.view(start_, Player::First) : AnyView()) {
        fill();
    }
    const arvek_rules& rules() const { return rules_; }

   private:
    static constexpr std::size_t most = 64;  // quantities or suggesters

    static ThroughC& self(void* user) { return *static_cast<ThroughC*>(user); }
    AnyPosition at(const void* bytes) const {
        AnyPosition position = start_;
        std::memcpy(position.data(), bytes, start_.operations()->size);
        return position;
    }
    static void give(const AnyValue& value, void* bytes) { std::memcpy(bytes, value.data(), value.operations()->size); }
    /// Moves by the order in which they were met.
    AnyMove move_of(std::uint32_t number) const { return moves_[number]; }
    std::uint32_t number_of(const AnyMove& move) {
        const auto [at, is_new] = numbers_.try_emplace(move.number, static_cast<std::uint32_t>(moves_.size()));
        if (is_new) moves_.push_back(move);
        return at->second;
    }
    static void write(const std::string& from, char* text, std::uint32_t room) {
        std::strncpy(text, from.c_str(), room - 1);
        text[room - 1] = '\0';
    }
    template <class Generate>
    static std::uint32_t list(void* u, std::uint32_t* moves, std::uint32_t room, Generate generate) {
        MoveList<AnyMove> all;
        generate(all);
        for (std::uint32_t i = 0; i < all.size() && i < room; ++i) moves[i] = self(u).number_of(all[i]);
        return static_cast<std::uint32_t>(all.size());
    }
    static void give(const Outcome& outcome, int players, std::int32_t* payoffs) {
        for (int i = 0; i < players; ++i) payoffs[i] = outcome.payoff(static_cast<Player>(i));
    }
    static Random& drawn(arvek_random* random) { return *reinterpret_cast<Random*>(random); }

    template <std::size_t Place>
    static double value_of(void* user, const void* p, std::uint32_t move) {
        const ThroughC& own = self(user);
        return own.game_.quantities()[Place].value(own.game_, own.at(p), own.move_of(move));
    }
    template <std::size_t Place>
    static void suggest(void* user, const void* p, arvek_proposals* told) {
        ThroughC& own = self(user);
        Proposals<AnyMove> proposals;
        own.game_.suggesters()[Place].suggest(own.game_, own.at(p), proposals);
        for (const auto& each : proposals.all())
            arvek_propose(told, own.number_of(each.move), each.urgency, each.note.c_str());
    }
    template <std::size_t... Places>
    static constexpr auto values(std::index_sequence<Places...>) {
        return std::array{&value_of<Places>...};
    }
    template <std::size_t... Places>
    static constexpr auto suggests(std::index_sequence<Places...>) {
        return std::array{&suggest<Places>...};
    }

    void fill() {
        const auto has = [&](Ability ability) { return offers(game_, ability); };
        arvek_rules& r = rules_;
        r.interface = ARVEK_INTERFACE;
        r.position_bytes = static_cast<std::uint32_t>(start_.operations()->size);
        r.players = players_of(game_);
        r.name = "through_c";
        r.user = this;
        r.initial_position = [](void* u, void* p) { give(self(u).game_.initial_position(), p); };
        r.player_to_move = [](void* u, const void* p) {
            return static_cast<std::int32_t>(self(u).game_.player_to_move(self(u).at(p)));
        };
        r.generate_moves = [](void* u, const void* p, std::uint32_t* moves, std::uint32_t room) {
            return list(u, moves, room, [&](auto& all) { self(u).game_.generate_moves(self(u).at(p), all); });
        };
        r.play = [](void* u, void* p, std::uint32_t move) {
            AnyPosition position = self(u).at(p);
            self(u).game_.play(position, self(u).move_of(move));
            give(position, p);
        };
        r.outcome = [](void* u, const void* p, std::int32_t* payoffs) {
            const auto outcome = self(u).game_.outcome(self(u).at(p));
            if (outcome) give(*outcome, self(u).rules_.players, payoffs);
            return outcome ? 1 : 0;
        };
        if (has(Ability::Evaluation))
            r.evaluate = [](void* u, const void* p, std::int32_t player) {
                return static_cast<std::int64_t>(
                    self(u).game_.evaluate(self(u).at(p), static_cast<Player>(player)).number());
            };
        if (has(Ability::Hash)) r.hash = [](void* u, const void* p) { return self(u).game_.hash(self(u).at(p)); };
        if (has(Ability::OrderHint))
            r.order_hint = [](void* u, const void* p, std::uint32_t move) {
                return std::int32_t{self(u).game_.order_hint(self(u).at(p), self(u).move_of(move))};
            };
        if (has(Ability::ForcingMoves))
            r.generate_forcing_moves = [](void* u, const void* p, std::uint32_t* moves, std::uint32_t room) {
                return list(u, moves, room,
                            [&](auto& all) { self(u).game_.generate_forcing_moves(self(u).at(p), all); });
            };
        if (has(Ability::QuietMoves))
            r.generate_quiet_moves = [](void* u, const void* p, std::uint32_t* moves, std::uint32_t room) {
                return list(u, moves, room, [&](auto& all) { self(u).game_.generate_quiet_moves(self(u).at(p), all); });
            };
        if (has(Ability::SufficientMoves))
            r.generate_sufficient_moves = [](void* u, const void* p, std::uint32_t* moves, std::uint32_t room) {
                return list(u, moves, room,
                            [&](auto& all) { self(u).game_.generate_sufficient_moves(self(u).at(p), all); });
            };
        if (has(Ability::Chance) || has(Ability::DrawnEvents))
            r.chance_is_next = [](void* u, const void* p) {
                return self(u).game_.chance_is_next(self(u).at(p)) ? 1 : 0;
            };
        if (has(Ability::Chance))
            r.generate_events = [](void* u, const void* p, std::uint32_t* moves, double* shares, std::uint32_t room) {
                MoveList<Event<AnyMove>> events;
                self(u).game_.generate_events(self(u).at(p), events);
                for (std::uint32_t i = 0; i < events.size() && i < room; ++i) {
                    moves[i] = self(u).number_of(events[i].move);
                    shares[i] = events[i].probability;
                }
                return static_cast<std::uint32_t>(events.size());
            };
        if (has(Ability::DrawnEvents))
            r.draw_event = [](void* u, const void* p, arvek_random* random) {
                return self(u).number_of(self(u).game_.draw_event(self(u).at(p), drawn(random)));
            };
        if (has(Ability::RandomMove))
            r.random_move = [](void* u, const void* p, arvek_random* random) {
                return self(u).number_of(self(u).game_.random_move(self(u).at(p), drawn(random)));
            };
        if (has(Ability::PlayOut))
            r.play_out = [](void* u, void* p, arvek_random* random, std::int32_t* payoffs) {
                AnyPosition position = self(u).at(p);
                give(self(u).game_.play_out(position, drawn(random)), self(u).rules_.players, payoffs);
            };
        if (has(Ability::Text)) {
            r.position_text = [](void* u, const void* p, char* text, std::uint32_t room) {
                write(self(u).game_.position_text(self(u).at(p)), text, room);
            };
            r.read_position = [](void* u, const char* text, void* p, char* complaint, std::uint32_t room) {
                try {
                    give(self(u).game_.read_position(text), p);
                    return 1;
                } catch (const InputError& error) {
                    write(error.what(), complaint, room);
                    return 0;
                }
            };
        }
        r.move_text = [](void* u, const void* p, std::uint32_t move, char* text, std::uint32_t room) {
            write(self(u).game_.move_text(self(u).at(p), self(u).move_of(move)), text, room);
        };
        if (has(Ability::ReadMove))
            r.read_move = [](void* u, const void* p, const char* text, std::uint32_t* move, char* complaint,
                             std::uint32_t room) {
                try {
                    *move = self(u).number_of(self(u).game_.read_move(self(u).at(p), text));
                    return 1;
                } catch (const InputError& error) {
                    write(error.what(), complaint, room);
                    return 0;
                }
            };
        if (has(Ability::Coordinates))
            r.coordinates = [](void* u, const void* p, std::uint32_t move, char* text, std::uint32_t room) {
                write(self(u).game_.coordinates(self(u).at(p), self(u).move_of(move)), text, room);
            };
        if (has(Ability::Drawing))
            r.drawing = [](void* u, const void* p, char* text, std::uint32_t room) {
                write(self(u).game_.drawing(self(u).at(p)), text, room);
            };
        if (has(Ability::PlayerName))
            r.player_name = [](void* u, std::int32_t player, char* text, std::uint32_t room) {
                write(self(u).game_.player_name(static_cast<Player>(player)), text, room);
            };
        if (has(Ability::Repetition)) r.draw_at_occurrence = game_.draw_at_occurrence();
        if (has(Ability::MostPayoff)) r.most_payoff = game_.most_payoff();
        if (has(Ability::Scale)) r.units_per_doubling = game_.units_per_doubling();
        if (has(Ability::RepetitionKey))
            r.repetition_key = [](void* u, const void* p) { return self(u).game_.repetition_key(self(u).at(p)); };
        if (has(Ability::Equivalence))
            r.equivalence_hash = [](void* u, const void* p) { return self(u).game_.equivalence_hash(self(u).at(p)); };
        if (has(Ability::MoveCount))
            r.count_moves = [](void* u, const void* p) {
                return std::int32_t{self(u).game_.count_moves(self(u).at(p))};
            };
        if (has(Ability::NullMove)) {
            r.play_nothing = [](void* u, void* p) {
                AnyPosition position = self(u).at(p);
                self(u).game_.play_nothing(position);
                give(position, p);
            };
            r.nothing_is_sound = [](void* u, const void* p) {
                return self(u).game_.nothing_is_sound(self(u).at(p)) ? 1 : 0;
            };
        }
        if (has(Ability::PayoffBounds))
            r.payoff_bounds = [](void* u, const void* p, std::int32_t player, std::int32_t* least,
                                 std::int32_t* greatest) {
                const PayoffBounds bounds = self(u).game_.payoff_bounds(self(u).at(p), static_cast<Player>(player));
                *least = bounds.least;
                *greatest = bounds.most;
            };
        if (has(Ability::Views)) {
            r.view_bytes = static_cast<std::uint32_t>(seen_.operations()->size);
            r.view = [](void* u, const void* p, std::int32_t player, void* view) {
                give(self(u).game_.view(self(u).at(p), static_cast<Player>(player)), view);
            };
            r.sample = [](void* u, const void* view, arvek_random* random, void* p) {
                AnyView seen = self(u).seen_;
                std::memcpy(seen.data(), view, seen.operations()->size);
                give(self(u).game_.sample(seen, drawn(random)), p);
            };
            if (has(Ability::ViewText))
                r.view_text = [](void* u, const void* view, char* text, std::uint32_t room) {
                    AnyView seen = self(u).seen_;
                    std::memcpy(seen.data(), view, seen.operations()->size);
                    write(self(u).game_.view_text(seen), text, room);
                };
        }
        if (has(Ability::Board))
            r.board = [](void* u, const void* p, std::int32_t viewer, arvek_board* board) {
                const Board from = self(u).game_.board(self(u).at(p), static_cast<Player>(viewer));
                for (const BoardCell& each : from.cells) {
                    const arvek_cell cell{each.name.c_str(),
                                          each.x,
                                          each.y,
                                          each.width,
                                          each.height,
                                          each.round,
                                          static_cast<std::int32_t>(each.ground),
                                          each.text.c_str(),
                                          each.player,
                                          each.spoken.c_str()};
                    arvek_board_cell(board, &cell);
                }
                for (const auto& [one, other] : from.paths)
                    arvek_board_path(board, static_cast<std::uint32_t>(one), static_cast<std::uint32_t>(other));
                for (const std::string& note : from.notes) arvek_board_note(board, note.c_str());
                for (const BoardMove& each : from.moves) {
                    std::string cells;
                    for (const std::string& cell : each.cells) cells += cell + " ";
                    arvek_board_move(board, each.move.c_str(), cells.c_str());
                }
            };
        if (has(Ability::Preference))
            r.preference = [](void* u, const void* p, std::uint32_t move) {
                return std::int32_t{self(u).game_.preference(self(u).at(p), self(u).move_of(move))};
            };
        if (has(Ability::Salience))
            r.salience = [](void* u, const void* p, std::uint32_t move) {
                return self(u).game_.salience(self(u).at(p), self(u).move_of(move));
            };
        if (has(Ability::LevelChange))
            r.level_change = [](void* u, std::int32_t level, arvek_level_change* change) {
                const LevelChange from = self(u).game_.level_change(level);
                change->depth = from.depth.value_or(0);
                change->nodes = from.nodes.value_or(0);
                change->overlooks = from.overlooks.value_or(-1);
                change->noise = from.noise.value_or(-1);
                change->most_lost = from.most_lost.value_or(-1);
                change->sees_wins = from.sees_wins.value_or(-1);
                change->sees_losses = from.sees_losses.value_or(-1);
                change->deeper = from.deeper.value_or(-1);
                change->variety = from.variety.value_or(-1);
            };
        if (has(Ability::Acting)) {
            r.act_names = [](void* u, arvek_names* names) {
                const ActNames from = self(u).game_.act_names();
                for (const auto& each : from.actors) arvek_name(names, ARVEK_ACTOR, each.c_str());
                for (const auto& each : from.actions) arvek_name(names, ARVEK_ACTION, each.c_str());
                for (const auto& each : from.kinds) arvek_name(names, ARVEK_KIND, each.c_str());
                for (const auto& each : from.targets) arvek_name(names, ARVEK_TARGET, each.c_str());
            };
            r.act = [](void* u, const void* p, std::uint32_t move, arvek_act* act) {
                const Act from = self(u).game_.act(self(u).at(p), self(u).move_of(move));
                *act = {from.actor, from.action, from.target, from.individual, from.kinds};
            };
        }
        if (has(Ability::Patterns)) {
            own_patterns_ = game_.patterns();
            for (const Pattern& each : own_patterns_)
                patterns_.push_back({each.name.c_str(), each.ways,
                                     each.rival_ways.empty() ? nullptr : each.rival_ways.data(), each.rival_place});
            r.patterns = patterns_.data();
            r.pattern_count = static_cast<std::uint32_t>(patterns_.size());
            r.read_patterns = [](void* u, const void* p, std::int32_t player, std::uint16_t* ways) {
                self(u).game_.read_patterns(self(u).at(p), static_cast<Player>(player),
                                            {ways, self(u).own_patterns_.size()});
            };
        }
        constexpr auto all_values = values(std::make_index_sequence<most>{});
        constexpr auto all_suggests = suggests(std::make_index_sequence<most>{});
        for (const auto& each : game_.quantities())
            quantities_.push_back({each.name, each.unit, each.doc, static_cast<std::int32_t>(each.of), each.least,
                                   each.most, all_values.at(quantities_.size())});
        for (const auto& each : game_.suggesters())
            suggesters_.push_back({each.reason, each.doc, all_suggests.at(suggesters_.size())});
        r.quantities = quantities_.data();
        r.quantity_count = static_cast<std::uint32_t>(quantities_.size());
        r.suggesters = suggesters_.data();
        r.suggester_count = static_cast<std::uint32_t>(suggesters_.size());
    }

    AnyGame game_;
    AnyPosition start_;
    AnyView seen_;
    std::vector<AnyMove> moves_;
    std::map<std::uint64_t, std::uint32_t> numbers_;
    arvek_rules rules_{};
    std::vector<Pattern> own_patterns_;
    std::vector<arvek_pattern> patterns_;
    std::vector<arvek_quantity> quantities_;
    std::vector<arvek_suggester> suggesters_;
};

}  // namespace testing_support
