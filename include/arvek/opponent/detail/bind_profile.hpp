#pragma once
// The names of a profile, looked up in a game.

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/text.hpp"
#include "arvek/opponent/detail/choosers.hpp"
#include "arvek/opponent/profile.hpp"

namespace arvek::detail {

template <Game G>
class ProfileBinder {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    ProfileBinder(const G& game, const Profile& profile) : game_(game), profile_(profile) {
        if constexpr (ActingGame<G>) names_ = game.act_names();
    }

    RuleList<G> rules(int level) const {
        RuleList<G> list;
        for (const RuleText& text : profile_.rules) {
            if (text.use) {
                if (level >= text.from_level) add_ready(list, *text.use);
                continue;
            }
            ConditionalRule<G> rule;
            rule.name = text.name.name;
            if (text.actor) rule.actor = known(*text.actor, "actor", names_.actors);
            if (text.action) rule.action = known(*text.action, "action", names_.actions);
            if (text.kind) rule.kind = known(*text.kind, "kind of action", names_.kinds);
            rule.when = condition(text.when);
            rule.choose = text.choose;
            if (text.choose != TargetChoice::Any) rule.by = quantity(text.by);
            rule.chance = text.chance;
            rule.once = text.once;
            rule.every = text.every;
            rule.from_level = text.from_level;
            list.add(make_rule(game_, rule, level));
        }
        std::vector<Fallback> fallback;
        for (const FallbackText& text : profile_.fallback)
            fallback.push_back({text.action ? known(*text.action, "action", names_.actions) : "", text.weight});
        list.fallback(std::move(fallback));
        return list;
    }

    SuggestionList<G> suggestions(int level) const {
        SuggestionList<G> list;
        std::vector<std::string> reasons;
        if constexpr (SuggestingGame<G>)
            for (const Suggester<G>& suggester : std::span<const Suggester<G>>(game_.suggesters()))
                reasons.emplace_back(suggester.reason);
        if (reasons.empty())
            fail_in_profile(profile_, profile_.game.place, "the game suggests nothing", "a game with suggesters");
        for (const WeightText& text : profile_.suggestions) (void)known(text.name, "suggestion", reasons);
        for (const PlacedName& reason : profile_.reasons) (void)known(reason, "suggestion", reasons);
        if constexpr (SuggestingGame<G>)
            for (const Suggester<G>& suggester : std::span<const Suggester<G>>(game_.suggesters())) {
                bool awake = profile_.suggestions.empty();
                for (const WeightText& text : profile_.suggestions)
                    awake = awake || (text.name.name == suggester.reason && level >= text.from_level);
                if (awake) list.add(suggester.reason, suggester.suggest);
            }
        list.temperament(profile_.temperament);
        return list;
    }

    FeatureList<G> features() const {
        FeatureList<G> list;
        if (profile_.ends_weight != 0) list.add_ends(profile_.ends_weight);
        for (const WeightText& text : profile_.features) {
            const Quantity<G> found = quantity(text.name, true);
            if (found.of == QuantityOf::Position)
                fail_in_profile(profile_, text.name.place,
                                "'" + text.name.name + "' is of the position, the same for every move",
                                "a quantity of an actor, an action or a target");
            list.add(found, text.weight);
        }
        return list;
    }

    std::vector<BookLine<G>> book() const {
        std::vector<BookLine<G>> lines;
        if constexpr (TextGame<G>) {
            for (const BookEntry& entry : profile_.book) {
                BookLine<G> line{game_.initial_position(), {}};
                if (entry.position) {
                    line.position = at_place(entry.place, [&] { return game_.read_position(*entry.position); });
                    require_player(line.position, entry.place);
                }
                for (const std::string& text : entry.moves) {
                    require_player(line.position, entry.place);
                    const Move move = at_place(entry.place, [&] { return move_from_text(game_, line.position, text); });
                    game_.play(line.position, move);
                }
                require_player(line.position, entry.place);
                for (const WeightText& reply : entry.replies)
                    line.replies.emplace_back(
                        at_place(reply.name.place,
                                 [&] { return move_from_text(game_, line.position, reply.name.name); }),
                        reply.weight);
                lines.push_back(std::move(line));
            }
        } else if (!profile_.book.empty()) {
            fail_in_profile(profile_, profile_.book.front().place,
                            "the game has no texts of moves, so it can have no book", "no book");
        }
        return lines;
    }

   private:
    const std::string& known(const PlacedName& name, const char* what, const std::vector<std::string>& names) const {
        if (std::find(names.begin(), names.end(), name.name) == names.end())
            fail_unknown_in_profile(profile_, name, what, names);
        return name.name;
    }

    Quantity<G> quantity(const PlacedName& name, bool or_end = false) const {
        if (const Quantity<G>* found = find_quantity(game_, name.name)) return *found;
        std::vector<std::string> names;
        if constexpr (MeasuredGame<G>)
            for (const Quantity<G>& each : std::span<const Quantity<G>>(game_.quantities()))
                names.emplace_back(each.name);
        if (or_end) names.emplace_back("ends the game");
        fail_unknown_in_profile(profile_, name, "quantity", names);
    }

    Condition<G> condition(const ConditionText& text) const {
        if (text.kind == ConditionText::Kind::Test)
            return text.other ? Condition<G>::test(quantity(text.quantity), text.comparison, quantity(*text.other))
                              : Condition<G>::test(quantity(text.quantity), text.comparison, text.number);
        std::vector<Condition<G>> parts;
        for (const ConditionText& part : text.parts) parts.push_back(condition(part));
        if (text.kind == ConditionText::Kind::Any) return Condition<G>::any(std::move(parts));
        if (text.kind == ConditionText::Kind::None) return Condition<G>::none(std::move(parts));
        return Condition<G>::all(std::move(parts));
    }

    void add_ready(RuleList<G>& list, const PlacedName& name) const {
        if (name.name == "win now") {
            list.win_now();
        } else if (name.name == "stop the rival") {
            list.stop_rival();
        } else if constexpr (PreferringGame<G>) {
            list.add(game_preference_rule<G>());
        } else {
            fail_in_profile(profile_, name.place, "the game prefers nothing by itself",
                            "int preference(const Position&, const Move&) const, or another rule");
        }
    }

    template <class Read>
    auto at_place(const DataPlace& place, Read read) const -> decltype(read()) {
        try {
            return read();
        } catch (const InputError& error) {
            fail_in_profile(profile_, place, error.what(), "");
        }
    }

    void require_player(const Position& position, const DataPlace& place) const {
        if (game_.outcome(position) || chance_is_next(game_, position))
            fail_in_profile(profile_, place, "nobody is to move there", "a position where a player is to move");
    }

    const G& game_;
    const Profile& profile_;
    ActNames names_;
};

}  // namespace arvek::detail
