#include "answers.hpp"

#include <cinttypes>
#include <cstdio>
#include <exception>
#include <string_view>

#include "arvek/game/chance.hpp"
#include "arvek/game/playing_out.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/text.hpp"

namespace arvek::detail {

namespace {

std::string text_of(double number) {
    char text[40];
    std::snprintf(text, sizeof text, "%.17g", number);
    return text;
}
std::string text_of(std::uint64_t number) {
    char text[24];
    std::snprintf(text, sizeof text, "%016" PRIx64, number);
    return text;
}
std::string text_of(Score score) {
    if (score.is_proven()) return "a proven " + std::to_string(score.payoff()) + " in " + std::to_string(score.plies());
    return std::to_string(score.number());
}
std::string text_of(const std::optional<Outcome>& outcome, int players) {
    if (!outcome) return "play goes on";
    std::string text = "payoffs";
    for (int i = 0; i < players; ++i) text += " " + std::to_string(outcome->payoff(static_cast<Player>(i)));
    return text;
}

class Asking {
   public:
    Asking(const AnyGame& game, const AnyPosition& position, std::size_t most, std::string_view only)
        : game_(game), position_(position), most_(most), only_(only) {}

    Answers answers() {
        const int players = players_of(game_);
        bool over = false, chance = false;
        find_out("outcome", [&] {
            const auto outcome = game_.outcome(position_);
            over = outcome.has_value();
            return [&, outcome] { return text_of(outcome, players); };
        });
        MoveList<AnyMove> moves;
        if (!over && has_chance(game_))
            find_out("chance_is_next", [&] {
                chance = game_.chance_is_next(position_);
                return [&] { return std::string(chance ? "yes" : "no"); };
            });
        if (!over && chance) {
            ask_about_events(moves);
        } else if (!over) {
            ask("player_to_move", "", [&] { return game_.player_name(game_.player_to_move(position_)); });
            find_out("generate_moves", [&] {
                game_.generate_moves(position_, moves);
                return [&] { return names(moves); };
            });
            ask_about_the_position(moves);
        }
        if (moves.size() > most_) {
            // The first and the last, so that the end of a list is not left out.
            MoveList<AnyMove> some;
            for (std::size_t i = 0; i < most_; ++i) some.push_back(moves[i % 2 ? moves.size() - 1 - i / 2 : i / 2]);
            moves = some;
        }
        for (const AnyMove& move : moves) ask_about(move, players, chance);
        if (has_views(game_))
            for (int i = 0; i < players; ++i) ask_about_view(static_cast<Player>(i));
        ask_how_it_is_told_apart();
        return std::move(answers_);
    }

   private:
    bool asks(const char* function) const { return only_.empty() || only_ == function; }

    /// What is needed to ask the others: `act` finds it out, and gives what says it.
    template <class Act>
    void find_out(const char* function, Act act) {
        if (asks(function)) return ask(function, "", [&] { return act()(); });
        try {
            (void)act();
        } catch (...) {
            // It is an answer where this function is asked.
        }
    }

    template <class Act>
    void ask(const char* function, const char* about, Act act) {
        if (!asks(function)) return;
        try {
            answers_.all.push_back({function, about, act()});
        } catch (const std::exception& error) {
            answers_.all.push_back({function, about, std::string("threw: ") + error.what()});
        } catch (...) {
            answers_.all.push_back({function, about, "threw"});
        }
    }

    std::string names(const MoveList<AnyMove>& moves) const {
        std::string text = std::to_string(moves.size()) + ":";
        for (const AnyMove& move : moves) text += " " + game_.move_text(position_, move);
        return text;
    }

    void ask_about_events(MoveList<AnyMove>& moves) {
        MoveList<Event<AnyMove>> events;
        if (lists_events(game_))
            find_out("generate_events", [&] {
                game_.generate_events(position_, events);
                for (const auto& event : events) moves.push_back(event.move);
                return [&] {
                    std::string text;
                    for (const auto& event : events)
                        text += game_.move_text(position_, event.move) + " " + text_of(event.probability) + " ";
                    return text;
                };
            });
        if (offers(game_, Ability::DrawnEvents))
            ask("draw_event", "", [&] {
                Random random(7);
                return game_.move_text(position_, game_.draw_event(position_, random));
            });
    }

    /// A part of the legal moves, where the game gives it.
    void ask_for_part(Ability ability, const char* function,
                      void (AnyGame::*generate)(const AnyPosition&, MoveList<AnyMove>&) const) {
        if (!offers(game_, ability)) return;
        ask(function, "", [&] {
            MoveList<AnyMove> part;
            (game_.*generate)(position_, part);
            return names(part);
        });
    }

    void ask_about_the_position(const MoveList<AnyMove>& moves) {
        if (offers(game_, Ability::Patterns))
            for (const Player player : {Player::First, Player::Second})
                ask("read_patterns", "", [&] {
                    std::vector<std::uint16_t> ways(game_.patterns().size());
                    game_.read_patterns(position_, player, ways);
                    std::string text;
                    for (const std::uint16_t way : ways) text += std::to_string(way) + " ";
                    return text;
                });
        if (offers(game_, Ability::Evaluation))
            for (const Player player : {Player::First, Player::Second})
                ask("evaluate", "", [&] { return text_of(game_.evaluate(position_, player)); });
        ask_for_part(Ability::ForcingMoves, "generate_forcing_moves", &AnyGame::generate_forcing_moves);
        ask_for_part(Ability::QuietMoves, "generate_quiet_moves", &AnyGame::generate_quiet_moves);
        if (offers(game_, Ability::MoveCount))
            ask("count_moves", "", [&] { return std::to_string(game_.count_moves(position_)); });
        if (offers(game_, Ability::RepetitionKey))
            ask("repetition_key", "", [&] { return std::to_string(game_.repetition_key(position_)); });
        ask_for_part(Ability::SufficientMoves, "generate_sufficient_moves", &AnyGame::generate_sufficient_moves);
        if (offers(game_, Ability::Visiting))
            ask("visit_moves", "", [&] {
                MoveList<AnyMove> part;
                game_.visit_moves(position_, [&](const AnyMove& move) { return part.push_back(move), true; });
                return names(part);
            });
        if (offers(game_, Ability::PayoffBounds))
            for (const Player player : {Player::First, Player::Second})
                ask("payoff_bounds", "", [&] {
                    const PayoffBounds bounds = game_.payoff_bounds(position_, player);
                    return std::to_string(bounds.least) + " to " + std::to_string(bounds.most);
                });
        if (offers(game_, Ability::NullMove))
            ask("nothing_is_sound", "", [&] {
                if (!game_.nothing_is_sound(position_)) return std::string("no");
                AnyPosition after = position_;
                game_.play_nothing(after);
                return "yes " + told(after);
            });
        if (moves.empty()) return;
        if (offers(game_, Ability::RandomMove))
            ask("random_move", "", [&] {
                Random random(7);
                return game_.move_text(position_, game_.random_move(position_, random));
            });
        for (const auto& suggester : game_.suggesters()) {
            ask("suggesters", suggester.reason, [&] {
                Proposals<AnyMove> proposals;
                suggester.suggest(game_, position_, proposals);
                std::string text;
                for (const auto& each : proposals.all())
                    text +=
                        game_.move_text(position_, each.move) + " " + text_of(each.urgency) + " " + each.note + "; ";
                return text;
            });
        }
    }

    /// What tells a position from others, as far as the game says.
    std::string told(const AnyPosition& position) const {
        if (offers(game_, Ability::Text)) return game_.position_text(position);
        if (offers(game_, Ability::Hash)) return text_of(game_.hash(position));
        return "";
    }

    void ask_about(const AnyMove& move, int players, bool chance) {
        ask("play", "", [&] {
            AnyPosition after = position_;
            game_.play(after, move);
            return told(after);
        });
        ask("outcome", "after a move", [&] {
            AnyPosition after = position_;
            game_.play(after, move);
            return text_of(game_.outcome(after), players);
        });
        if (chance) return;
        if (offers(game_, Ability::OrderHint))
            ask("order_hint", "", [&] { return std::to_string(game_.order_hint(position_, move)); });
        if (offers(game_, Ability::Preference))
            ask("preference", "", [&] { return std::to_string(game_.preference(position_, move)); });
        if (offers(game_, Ability::Salience))
            ask("salience", "", [&] { return text_of(game_.salience(position_, move)); });
        if (offers(game_, Ability::Acting))
            ask("act", "", [&] {
                const Act act = game_.act(position_, move);
                // Not the individual: numbers that follow somebody need not be a part of what makes positions equal.
                return std::to_string(act.actor) + " " + std::to_string(act.action) + " " + text_of(act.kinds) + " " +
                       std::to_string(act.target);
            });
        for (const auto& quantity : game_.quantities()) {
            ask("quantities", quantity.name, [&] { return text_of(quantity.value(game_, position_, move)); });
        }
    }

    void ask_about_view(Player player) {
        ask("view", "", [&] {
            const AnyView view = game_.view(position_, player);
            return offers(game_, Ability::ViewText) ? game_.view_text(view) : std::string();
        });
        ask("sample", "", [&] {
            Random random(7);
            return told(game_.sample(game_.view(position_, player), random));
        });
    }

    void ask_how_it_is_told_apart() {
        if (offers(game_, Ability::Drawing)) ask("drawing", "", [&] { return game_.drawing(position_); });
        if (offers(game_, Ability::Board))
            ask("board", "", [&] {
                std::string text;
                for (const BoardCell& cell : game_.board(position_, Player::First).cells)
                    text += cell.name + "=" + cell.text + std::to_string(cell.player) + " ";
                return text;
            });
        if (offers(game_, Ability::Text)) ask("position_text", "", [&] { return game_.position_text(position_); });
        if (offers(game_, Ability::Hash)) ask("hash", "", [&] { return text_of(game_.hash(position_)); });
        if (offers(game_, Ability::Equivalence))
            ask("equivalence_hash", "", [&] { return text_of(game_.equivalence_hash(position_)); });
    }

    const AnyGame& game_;
    const AnyPosition& position_;
    std::size_t most_;
    std::string_view only_;
    Answers answers_;
};

/// Cut to what fits on a line, at the place where the two part.
std::pair<std::string, std::string> shown(const std::string& one, const std::string& other) {
    constexpr std::size_t enough = 70, before = 20;
    std::size_t at = 0;
    while (at < one.size() && at < other.size() && one[at] == other[at]) ++at;
    const std::size_t from = std::max(one.size(), other.size()) <= enough || at <= before ? 0 : at - before;
    const auto cut = [&](const std::string& text) {
        std::string part = text.substr(std::min(from, text.size()), enough);
        if (from > 0) part = "... " + part;
        if (from + enough < text.size()) part += " ...";
        for (char& letter : part)
            if (letter == '\n') letter = ' ';
        return part;
    };
    return {cut(one), cut(other)};
}

}  // namespace

Answers answers_of(const AnyGame& game, const AnyPosition& position, std::size_t moves, std::string_view only) {
    return Asking(game, position, moves, only).answers();
}

std::optional<Disagreement> disagreement(const Answers& one, const Answers& other) {
    const std::size_t both = std::min(one.all.size(), other.all.size());
    for (std::size_t i = 0; i < both; ++i) {
        const Answer &a = one.all[i], &b = other.all[i];
        if (std::string_view(a.function) == b.function && a.text == b.text) continue;
        const auto [text_a, text_b] = shown(a.text, b.text);
        return Disagreement{a.function, text_a, text_b};
    }
    return std::nullopt;
}

std::string said_by(const Disagreement& found) { return "'" + found.one + "' and '" + found.other + "'"; }

}  // namespace arvek::detail
