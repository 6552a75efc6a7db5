#include "choosers.hpp"

#include <algorithm>
#include <optional>
#include <string>

#include "arvek/game/random.hpp"
#include "arvek/rules/feature_list.hpp"
#include "arvek/rules/rule_list.hpp"
#include "arvek/rules/suggestion_list.hpp"

namespace arvek::detail {

namespace {

/// The names of a profile, looked up in a game.
class ProfileBinder {
   public:
    ProfileBinder(const AnyGame& game, const Profile& profile) : game_(game), profile_(profile) {
        if (acts_in(game)) names_ = game.act_names();
    }

    RuleList<AnyGame> rules(int level) const {
        RuleList<AnyGame> list;
        for (const RuleText& text : profile_.rules) {
            if (text.use) {
                if (level >= text.from_level) add_ready(list, *text.use);
                continue;
            }
            ConditionalRule<AnyGame> rule;
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

    SuggestionList<AnyGame> suggestions(int level) const {
        SuggestionList<AnyGame> list;
        std::vector<std::string> reasons;
        for (const auto& suggester : game_.suggesters()) reasons.emplace_back(suggester.reason);
        if (reasons.empty())
            fail_in_profile(profile_, profile_.game.place, "the game suggests nothing", "a game with suggesters");
        for (const WeightText& text : profile_.suggestions) (void)known(text.name, "suggestion", reasons);
        for (const PlacedName& reason : profile_.reasons) (void)known(reason, "suggestion", reasons);
        for (const auto& suggester : game_.suggesters()) {
            bool awake = profile_.suggestions.empty();
            for (const WeightText& text : profile_.suggestions)
                awake = awake || (text.name.name == suggester.reason && level >= text.from_level);
            if (awake) list.add(suggester.reason, suggester.suggest);
        }
        list.temperament(profile_.temperament);
        return list;
    }

    FeatureList<AnyGame> features() const {
        FeatureList<AnyGame> list;
        if (profile_.ends_weight != 0) list.add_ends(profile_.ends_weight);
        for (const WeightText& text : profile_.features) {
            const Quantity<AnyGame> found = quantity(text.name, true);
            if (found.of == QuantityOf::Position)
                fail_in_profile(profile_, text.name.place,
                                "'" + text.name.name + "' is of the position, the same for every move",
                                "a quantity of an actor, an action or a target");
            list.add(found, text.weight);
        }
        return list;
    }

    std::vector<BookLine> book() const {
        std::vector<BookLine> lines;
        if (offers(game_, Ability::Text)) {
            for (const BookEntry& entry : profile_.book) {
                BookLine line{game_.initial_position(), {}};
                if (entry.position) {
                    line.position = at_place(entry.place, [&] { return game_.read_position(*entry.position); });
                    require_player(line.position, entry.place);
                }
                for (const std::string& text : entry.moves) {
                    require_player(line.position, entry.place);
                    const AnyMove move =
                        at_place(entry.place, [&] { return move_from_text(game_, line.position, text); });
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

    Quantity<AnyGame> quantity(const PlacedName& name, bool or_end = false) const {
        if (const Quantity<AnyGame>* found = find_quantity(game_, name.name)) return *found;
        std::vector<std::string> names;
        for (const auto& each : game_.quantities()) names.emplace_back(each.name);
        if (or_end) names.emplace_back("ends the game");
        fail_unknown_in_profile(profile_, name, "quantity", names);
    }

    Condition<AnyGame> condition(const ConditionText& text) const {
        if (text.kind == ConditionText::Kind::Test)
            return text.other
                       ? Condition<AnyGame>::test(quantity(text.quantity), text.comparison, quantity(*text.other))
                       : Condition<AnyGame>::test(quantity(text.quantity), text.comparison, text.number);
        std::vector<Condition<AnyGame>> parts;
        for (const ConditionText& part : text.parts) parts.push_back(condition(part));
        if (text.kind == ConditionText::Kind::Any) return Condition<AnyGame>::any(std::move(parts));
        if (text.kind == ConditionText::Kind::None) return Condition<AnyGame>::none(std::move(parts));
        return Condition<AnyGame>::all(std::move(parts));
    }

    void add_ready(RuleList<AnyGame>& list, const PlacedName& name) const {
        if (name.name == "win now") {
            list.win_now();
        } else if (name.name == "stop the rival") {
            list.stop_rival();
        } else if (offers(game_, Ability::Preference)) {
            list.add(game_preference_rule<AnyGame>());
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

    void require_player(const AnyPosition& position, const DataPlace& place) const {
        if (game_.outcome(position) || chance_is_next(game_, position))
            fail_in_profile(profile_, place, "nobody is to move there", "a position where a player is to move");
    }

    const AnyGame& game_;
    const Profile& profile_;
    ActNames names_;
};

/// Draws any legal move.
class RandomChooser final : public Chooser<AnyGame> {
   public:
    explicit RandomChooser(const AnyGame& game) : game_(game) {}

    Decision<AnyMove> choose(const Choice<AnyGame>& now) override {
        auto decision = RuleList<AnyGame>().decide(game_, now.position, now.request.seed,
                                                   {now.request.only.begin(), now.request.only.end()});
        decision.rules.clear();
        decision.stats.stopped_by = StoppedBy::Draw;
        return decision;
    }

   private:
    AnyGame game_;
};

/// Ordered rules, with what was chosen earlier in the same game, for rules that fire once or every so often. Only
/// decisions whose positions are among those passed in as earlier count, so a move taken back or a new game is as if
/// nothing had been.
class RulesChooser final : public Chooser<AnyGame> {
   public:
    RulesChooser(const AnyGame& game, RuleList<AnyGame> rules) : game_(game), rules_(std::move(rules)) {}

    Decision<AnyMove> choose(const Choice<AnyGame>& now) override {
        std::vector<std::string> fired;
        const Player player = game_.player_to_move(now.position);
        for (const Past& past : past_)
            if (past.player == player && is_in(past, now.earlier)) fired.push_back(past.chosen_by);
        return rules_.decide(game_, now.position, now.request.seed, {now.request.only.begin(), now.request.only.end()},
                             &fired);
    }

    void remember(const Choice<AnyGame>& now, const Decision<AnyMove>& decision) override {
        std::erase_if(past_, [&](const Past& past) { return !is_in(past, now.earlier); });
        past_.push_back({now.earlier.size(), now.position, game_.player_to_move(now.position), decision.chosen_by});
    }

   private:
    struct Past {
        std::size_t ply;
        AnyPosition position;
        Player player;
        std::string chosen_by;
    };

    static bool is_in(const Past& past, std::span<const AnyPosition> earlier) {
        return past.ply < earlier.size() && earlier[past.ply] == past.position;
    }

    AnyGame game_;
    RuleList<AnyGame> rules_;
    std::vector<Past> past_;
};

/// Suggestions or features.
template <class List>
class WorthChooser final : public Chooser<AnyGame> {
   public:
    WorthChooser(const AnyGame& game, List list) : game_(game), list_(std::move(list)) {}

    Decision<AnyMove> choose(const Choice<AnyGame>& now) override {
        return list_.decide(game_, now.position, now.request.seed);
    }

   private:
    AnyGame game_;
    List list_;
};

}  // namespace

std::unique_ptr<Chooser<AnyGame>> random_chooser(const AnyGame& game, const ChooserSetup&) {
    return std::make_unique<RandomChooser>(game);
}

std::unique_ptr<Chooser<AnyGame>> rules_chooser(const AnyGame& game, const ChooserSetup& setup) {
    return std::make_unique<RulesChooser>(
        game, setup.profile != nullptr ? ProfileBinder(game, *setup.profile).rules(setup.level) : usual_rules(game));
}

std::unique_ptr<Chooser<AnyGame>> suggestions_chooser(const AnyGame& game, const ChooserSetup& setup) {
    SuggestionList<AnyGame> list;
    if (setup.profile != nullptr)
        list = ProfileBinder(game, *setup.profile).suggestions(setup.level);
    else
        list.add_all_of(game);
    return std::make_unique<WorthChooser<SuggestionList<AnyGame>>>(game, std::move(list));
}

std::unique_ptr<Chooser<AnyGame>> features_chooser(const AnyGame& game, const ChooserSetup& setup) {
    if (setup.profile == nullptr)
        throw InputError("opponent", "'features' needs weights, which a profile has", "a profile with [features]");
    return std::make_unique<WorthChooser<FeatureList<AnyGame>>>(game, ProfileBinder(game, *setup.profile).features());
}

std::vector<BookLine> book_of(const AnyGame& game, const Profile& profile) {
    return ProfileBinder(game, profile).book();
}

}  // namespace arvek::detail
