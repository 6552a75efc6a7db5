#include "choosers.hpp"

#include <algorithm>
#include <optional>
#include <string>

#include "arvek/game/random.hpp"
#include "arvek/rules/feature_list.hpp"
#include "arvek/rules/rule_list.hpp"
#include "arvek/rules/suggestion_list.hpp"
#include "arvek/rules/threat_rules.hpp"

namespace arvek::detail {

namespace {

/// The names of a profile, looked up in a game.
class ProfileBinder {
   public:
    /// `problems`: is given everything that is wrong, instead of the first being thrown.
    ProfileBinder(const AnyGame& game, const Profile& profile, std::vector<std::string>* problems = nullptr)
        : game_(game), profile_(profile), problems_(problems) {
        if (acts_in(game)) names_ = game.act_names();
        for (const StateText& state : profile.states)
            states_.push_back({state.name.name, state.first, state.is_boolean});
    }

    RuleList<AnyGame> rules(int level) const {
        RuleList<AnyGame> list;
        for (const StateText& state : profile_.states)
            attempt([&] {
                if (find_quantity(game_, state.name.name) != nullptr)
                    fail_in_profile(profile_, state.name.place,
                                    "there is a quantity '" + state.name.name + "' in the game", "another name");
            });
        list.state(states_);
        for (const ChangeText& text : profile_.changes)
            attempt([&] { list.change({text.name.name, condition(text.when), changes(text.changes)}); });
        for (const auto& [name, text] : profile_.conditions) attempt([&, &text = text] { (void)condition(text); });
        for (const GroupText& text : profile_.groups) attempt([&] { (void)condition(text.when); });
        for (const RuleText& text : profile_.rules) attempt([&] { list.add(rule(text, level)); });
        std::vector<Fallback<AnyGame>> fallback;
        for (const FallbackText& text : profile_.fallback)
            attempt([&] {
                Fallback<AnyGame> choice("", text.weight);
                choice.acts = filter(text.acts);
                choice.when = condition(text.when);
                fallback.push_back(std::move(choice));
            });
        list.fallback(std::move(fallback));
        if (list.asks_deeds()) attempt([&] { require_deeds(); });
        return list;
    }

    SuggestionList<AnyGame> suggestions(int level) const {
        SuggestionList<AnyGame> list;
        std::vector<std::string> reasons;
        for (const auto& suggester : game_.suggesters()) reasons.emplace_back(suggester.reason);
        if (reasons.empty())
            fail_in_profile(profile_, profile_.game.place, "the game suggests nothing", "a game with suggesters");
        for (const SuggestionText& text : profile_.suggestions)
            attempt([&] { (void)known(text.name, "suggestion", reasons); });
        for (const PlacedName& reason : profile_.reasons) attempt([&] { (void)known(reason, "suggestion", reasons); });
        for (const PlacedName& actor : profile_.individuals)
            attempt([&] { (void)known(actor, "actor", names_.actors); });
        for (const auto& [name, text] : profile_.conditions) attempt([&, &text = text] { (void)condition(text); });
        for (const auto& suggester : game_.suggesters()) {
            if (profile_.suggestions.empty()) {
                list.add(suggester.reason, suggester.suggest);
                continue;
            }
            std::vector<SuggestionUse<AnyGame>> uses;
            for (const SuggestionText& text : profile_.suggestions)
                if (text.name.name == suggester.reason)
                    attempt([&] {
                        SuggestionUse<AnyGame> use{filter(text.acts), condition(text.when), text.weight};
                        if (level >= text.from_level) uses.push_back(std::move(use));
                    });
            if (!uses.empty()) list.add(game_, suggester.reason, suggester.suggest, uses);
        }
        list.temperament(profile_.temperament);
        if (list.asks_deeds()) attempt([&] { require_deeds(); });
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
                BookLine line{game_.initial_position(), {}, {}};
                if (entry.position) {
                    line.position = at_place(entry.place, [&] { return game_.read_position(*entry.position); });
                    require_player(line.position, entry.place);
                }
                for (const std::string& text : entry.moves) {
                    require_player(line.position, entry.place);
                    const AnyMove move =
                        at_place(entry.place, [&] { return move_from_text(game_, line.position, text); });
                    game_.play(line.position, move);
                    if (!entry.position) line.moves.push_back(move);
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

    /// What goes wrong within does not keep the rest from being looked at, where all problems are wanted.
    template <class Look>
    void attempt(Look look) const {
        if (problems_ == nullptr) return look();
        try {
            look();
        } catch (const InputError& error) {
            problems_->push_back(error.what());
        }
    }

    Quantity<AnyGame> quantity(const PlacedName& name, bool or_end = false) const {
        if (const Quantity<AnyGame>* found = find_quantity(game_, name.name)) return *found;
        std::vector<std::string> names;
        for (const auto& each : game_.quantities()) names.emplace_back(each.name);
        if (or_end) names.emplace_back("ends the game");
        fail_unknown_in_profile(profile_, name, "quantity", names);
    }

    std::vector<std::string> known_names(const std::vector<PlacedName>& some, const char* what,
                                         const std::vector<std::string>& all) const {
        std::vector<std::string> names;
        for (const PlacedName& name : some) names.push_back(known(name, what, all));
        return names;
    }

    ActFilter filter(const ActFilterText& text) const {
        return {known_names(text.actors, "actor", names_.actors),
                known_names(text.actions, "action", names_.actions),
                known_names(text.kinds, "kind of action", names_.kinds),
                known_names(text.targets, "target", names_.targets),
                known_names(text.no_actors, "actor", names_.actors),
                known_names(text.no_actions, "action", names_.actions),
                known_names(text.no_kinds, "kind of action", names_.kinds),
                known_names(text.no_targets, "target", names_.targets)};
    }

    /// What was done: a filter, or the name of an action or a kind.
    ActFilter deed(const MeasureText& text) const {
        if (text.name.name.empty()) return filter(text.done);
        const auto is_in = [&](const std::vector<std::string>& names) {
            return std::find(names.begin(), names.end(), text.name.name) != names.end();
        };
        ActFilter filter;
        if (is_in(names_.actions)) {
            filter.actions = {text.name.name};
        } else if (is_in(names_.kinds)) {
            filter.kinds = {text.name.name};
        } else {
            std::vector<std::string> names = names_.actions;
            names.insert(names.end(), names_.kinds.begin(), names_.kinds.end());
            fail_unknown_in_profile(profile_, text.name, "action or kind of action", names);
        }
        return filter;
    }

    Measure<AnyGame> measure(const MeasureText& text) const {
        Measure<AnyGame> measure;
        switch (text.kind) {
            case MeasureText::Kind::Number: measure = Measure<AnyGame>::number(text.number); break;
            case MeasureText::Kind::Named:
            case MeasureText::Kind::Quantity:
            case MeasureText::Kind::State: measure = named_measure(text); break;
            case MeasureText::Kind::Count: measure = Measure<AnyGame>::times(game_, deed(text), text.by); break;
            case MeasureText::Kind::TurnsSince:
                measure = Measure<AnyGame>::turns_since(game_, deed(text), text.by);
                break;
        }
        for (const MeasureText& other : text.with) measure = measure.combined(other.operation, this->measure(other));
        return measure;
    }

    Measure<AnyGame> named_measure(const MeasureText& text) const {
        const std::string& name = text.name.name;
        for (std::size_t place = 0; place < states_.size() && text.kind != MeasureText::Kind::Quantity; ++place)
            if (states_[place].name == name) return Measure<AnyGame>::state(states_[place], place);
        if (text.kind != MeasureText::Kind::State) {
            if (name == "turn") return Measure<AnyGame>::turn();
            if (const Quantity<AnyGame>* found = find_quantity(game_, name)) return Measure<AnyGame>::quantity(*found);
        }
        std::vector<std::string> names;
        if (text.kind != MeasureText::Kind::State) {
            for (const auto& each : game_.quantities()) names.emplace_back(each.name);
            names.emplace_back("turn");
        }
        if (text.kind != MeasureText::Kind::Quantity)
            for (const StateInfo& state : states_) names.push_back(state.name);
        if (text.kind == MeasureText::Kind::State && names.empty())
            fail_in_profile(profile_, text.name.place, "there is no state '" + name + "'",
                            "[state], with its first value: " + name + " = false");
        fail_unknown_in_profile(profile_, text.name, text.kind == MeasureText::Kind::State ? "state" : "quantity",
                                names);
    }

    Condition<AnyGame> condition(const ConditionText& text) const {
        if (text.kind == ConditionText::Kind::Test)
            return Condition<AnyGame>::test(measure(text.left), text.comparison, measure(text.right));
        if (text.kind == ConditionText::Kind::Named) return condition(text.parts.front()).named(text.name.name);
        std::vector<Condition<AnyGame>> parts;
        for (const ConditionText& part : text.parts) parts.push_back(condition(part));
        if (text.kind == ConditionText::Kind::Any) return Condition<AnyGame>::any(std::move(parts));
        if (text.kind == ConditionText::Kind::None) return Condition<AnyGame>::none(std::move(parts));
        return Condition<AnyGame>::all(std::move(parts));
    }

    static std::vector<StateChange> changes(const std::vector<StateChangeText>& texts) {
        std::vector<StateChange> changes;
        for (const StateChangeText& text : texts)
            changes.push_back({text.state.name, text.kind, text.number, text.to_turn});
        return changes;
    }

    Rule<AnyGame> rule(const RuleText& text, int level) const {
        ConditionalRule<AnyGame> rule;
        rule.name = text.name.name;
        rule.acts = filter(text.acts);
        rule.when = condition(text.when);
        for (const ChoiceText& key : text.choose) {
            MeasureText by;
            by.kind = MeasureText::Kind::Named;
            by.name = key.by;
            rule.choose.push_back({key.choose, named_measure(by)});
        }
        rule.chance = text.chance;
        rule.once = text.once;
        rule.every = text.every;
        rule.from_level = text.from_level;
        rule.changes = changes(text.changes);
        rule.weight = text.weight;
        for (const GroupText& group : profile_.groups) {
            if (!text.group || group.name.name != text.group->name) continue;
            Condition<AnyGame> when = condition(group.when);
            if (!when.always_holds())
                rule.when =
                    rule.when.always_holds() ? when : Condition<AnyGame>::all({std::move(when), std::move(rule.when)});
            rule.from_level = std::max(rule.from_level, group.from_level);
            if (group.draw) rule.lot = group.name.name;
        }
        return make_rule(game_, rule, level, text.use ? ready(*text.use, text.above, level) : Rule<AnyGame>());
    }

    Rule<AnyGame> ready(const PlacedName& name, double above, int level) const {
        if (name.name == "suggestions") return suggestions_rule(suggestions(level), above);
        if (name.name == "the game's preference") {
            if (!offers(game_, Ability::Preference))
                fail_in_profile(profile_, name.place, "the game prefers nothing by itself",
                                "int preference(const Position&, const Move&) const, or another rule");
            return game_preference_rule<AnyGame>();
        }
        if (name.name == "win now") return win_now_rule<AnyGame>();
        if (name.name == "stop the rival") return stop_rival_rule<AnyGame>();
        if (has_views(game_) || has_chance(game_) || players_of(game_) != 2)
            fail_in_profile(profile_, name.place,
                            "'" + name.name + "' is for games of two without luck, in which all is in sight",
                            "another rule");
        return name.name == "make a double threat" ? double_threat_rule<AnyGame>() : deny_double_threat_rule<AnyGame>();
    }

    void require_deeds() const {
        if (has_views(game_))
            fail_in_profile(profile_, profile_.game.place,
                            "what was done earlier cannot be asked in a game in which not all is in sight",
                            "no 'count' and no 'turns_since'");
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
    std::vector<std::string>* problems_;
    ActNames names_;
    std::vector<StateInfo> states_;
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

/// What everybody did in a game, found out from its positions.
class DeedsSeen {
   public:
    explicit DeedsSeen(const AnyGame& game) : game_(game) {}

    std::vector<Deed> of(std::span<const AnyPosition> earlier, const AnyPosition& now) {
        std::size_t alike = 0;
        while (alike < positions_.size() && alike < earlier.size() && positions_[alike] == earlier[alike]) ++alike;
        if (alike < positions_.size()) {
            // Another game, or one that went back: what was done is found out once more.
            positions_.clear();
            deeds_.clear();
        }
        for (std::size_t ply = positions_.size(); ply < earlier.size(); ++ply) {
            if (ply > 0) add(deeds_, positions_.back(), earlier[ply]);
            positions_.push_back(earlier[ply]);
        }
        std::vector<Deed> deeds = deeds_;
        if (!positions_.empty()) add(deeds, positions_.back(), now);
        return deeds;
    }

   private:
    void add(std::vector<Deed>& deeds, const AnyPosition& before, const AnyPosition& after) const {
        if (chance_is_next(game_, before) || game_.outcome(before)) return;
        for (const AnyMove& move : legal_moves(game_, before)) {
            AnyPosition played = before;
            game_.play(played, move);
            if (!(played == after)) continue;
            deeds.push_back({game_.player_to_move(before), game_.act(before, move)});
            return;
        }
    }

    AnyGame game_;
    std::vector<AnyPosition> positions_;
    std::vector<Deed> deeds_;  ///< that led from one of them to the next
};

/// Ordered rules, with what the player remembers of the game. Only decisions whose positions and moves are among those
/// passed in as earlier count, so a move taken back or a new game is as if nothing had been.
class RulesChooser final : public Chooser<AnyGame> {
   public:
    RulesChooser(const AnyGame& game, RuleList<AnyGame> rules, const std::string& state)
        : game_(game), rules_(std::move(rules)), first_(rules_.new_memory()), deeds_(game) {
        read_state(state, rules_.states(), first_);
    }

    Decision<AnyMove> choose(const Choice<AnyGame>& now) override {
        GameMemory memory = memory_at(now);
        rules_.explain(now.request.explains);
        Decision<AnyMove> decision =
            rules_.decide(game_, now.position, now.request.seed, {now.request.only.begin(), now.request.only.end()},
                          &memory, now.request.game_seed);
        noted_ = std::move(memory);
        return decision;
    }

    void remember(const Choice<AnyGame>& now, const Decision<AnyMove>& decision) override {
        std::erase_if(past_, [&](const Past& past) { return past.ply >= now.earlier.size() || !is_in(past, now); });
        AnyPosition after = now.position;
        game_.play(after, decision.move);
        noted_.deeds.clear();
        GameMemory played = noted_, unplayed = noted_;
        rules_.remember(played, decision);
        unplayed.fired.emplace_back();
        past_.push_back({now.earlier.size(), now.position, std::move(after), game_.player_to_move(now.position),
                         std::move(played), std::move(unplayed)});
    }

   private:
    struct Past {
        std::size_t ply;
        AnyPosition position, after;
        Player player;
        GameMemory played;    ///< once the move was played; without deeds
        GameMemory unplayed;  ///< once another was
    };

    /// Of the player's decisions the last that is part of the game, and what was done.
    GameMemory memory_at(const Choice<AnyGame>& now) {
        const Player player = game_.player_to_move(now.position);
        GameMemory memory = first_;
        for (const Past& past : past_)
            if (past.player == player && is_in(past, now)) memory = was_played(past, now) ? past.played : past.unplayed;
        if (rules_.asks_deeds()) memory.deeds = deeds_.of(now.earlier, now.position);
        return memory;
    }

    /// Whether it was decided in this game.
    static bool is_in(const Past& past, const Choice<AnyGame>& now) {
        return past.ply < now.earlier.size() && now.earlier[past.ply] == past.position;
    }
    /// Where hands are hidden the positions after a move only stand for what is seen, and tell nothing.
    static bool was_played(const Past& past, const Choice<AnyGame>& now) {
        if (now.view != nullptr) return true;
        return (past.ply + 1 < now.earlier.size() ? now.earlier[past.ply + 1] : now.position) == past.after;
    }

    AnyGame game_;
    RuleList<AnyGame> rules_;
    GameMemory first_;  ///< at the start of a game
    DeedsSeen deeds_;
    GameMemory noted_;  ///< of the decision that was asked last, before its move
    std::vector<Past> past_;
};

/// Suggestions.
class SuggestionsChooser final : public Chooser<AnyGame> {
   public:
    SuggestionsChooser(const AnyGame& game, SuggestionList<AnyGame> list)
        : game_(game), list_(std::move(list)), deeds_(game) {}

    Decision<AnyMove> choose(const Choice<AnyGame>& now) override {
        const GameMemory memory = suggestion_memory(game_, list_, deeds_, now);
        return list_.decide(game_, now.position, now.request.seed, now.request.only, &memory, now.request.game_seed);
    }

    /// What conditions of suggestions may ask: the turn, and what was done.
    static GameMemory suggestion_memory(const AnyGame& game, const SuggestionList<AnyGame>& list, DeedsSeen& deeds,
                                        const Choice<AnyGame>& now) {
        GameMemory memory;
        const Player player = game.player_to_move(now.position);
        for (const AnyPosition& position : now.earlier)
            if (!chance_is_next(game, position) && game.player_to_move(position) == player) ++memory.turns_before;
        if (list.asks_deeds()) memory.deeds = deeds.of(now.earlier, now.position);
        return memory;
    }

   private:
    AnyGame game_;
    SuggestionList<AnyGame> list_;
    DeedsSeen deeds_;
};

/// Features.
class FeaturesChooser final : public Chooser<AnyGame> {
   public:
    FeaturesChooser(const AnyGame& game, FeatureList<AnyGame> list) : game_(game), list_(std::move(list)) {}

    Decision<AnyMove> choose(const Choice<AnyGame>& now) override {
        return list_.decide(game_, now.position, now.request.seed);
    }

   private:
    AnyGame game_;
    FeatureList<AnyGame> list_;
};

/// Looks ahead from what is suggested: of the most urgent moves the search takes the best.
class AdvisedChooser final : public Chooser<AnyGame> {
   public:
    AdvisedChooser(const AnyGame& game, SuggestionList<AnyGame> list, std::unique_ptr<Chooser<AnyGame>> search,
                   std::size_t most)
        : game_(game), list_(std::move(list)), deeds_(game), search_(std::move(search)), most_(most) {}

    Decision<AnyMove> choose(const Choice<AnyGame>& now) override {
        const GameMemory memory = SuggestionsChooser::suggestion_memory(game_, list_, deeds_, now);
        Decision<AnyMove> ideas =
            list_.decide(game_, now.position, now.request.seed, now.request.only, &memory, now.request.game_seed);
        const Player player = game_.player_to_move(now.position);
        std::vector<AnyMove> first;
        std::size_t suggested = 0;
        for (const auto& entry : ideas.ranked) suggested += entry.worth > 0 ? 1 : 0;
        for (std::size_t i = 0; i < ideas.ranked.size(); ++i) {
            AnyPosition after = now.position;
            game_.play(after, ideas.ranked[i].move);
            const auto outcome = game_.outcome(after);
            const bool wins = outcome && outcome->payoff(player) > 0;
            if (wins || suggested == 0 || (i < most_ && ideas.ranked[i].worth > 0))
                first.push_back(ideas.ranked[i].move);
        }
        SearchRequest<AnyMove> request = now.request;
        request.only = first;
        Decision<AnyMove> decision = search_->choose({now.position, now.earlier, now.limits, request, now.view});
        // Ideas that are all lost are no ideas.
        const bool all_lost =
            first.size() < ideas.ranked.size() && decision.has_scores && decision.ranked.front().score.is_proven_loss();
        if (all_lost) {
            request.only = now.request.only;
            const DecisionStats before = decision.stats;
            decision = search_->choose({now.position, now.earlier, now.limits, request, now.view});
            decision.stats.nodes += before.nodes;
            decision.stats.seconds += before.seconds;
        }
        for (auto& entry : decision.ranked) {
            const auto idea = std::find_if(ideas.ranked.begin(), ideas.ranked.end(),
                                           [&](const auto& each) { return each.move == entry.move; });
            entry.worth = idea->worth;
            entry.reason = idea->reason;
            entry.reasons = idea->reasons;
        }
        const std::string most_urgent = game_.move_text(now.position, ideas.ranked.front().move);
        const bool agrees = decision.move == ideas.ranked.front().move;
        decision.rules.push_back(
            {"suggestions", suggested > 0,
             suggested > 0 ? std::to_string(suggested) + " of " + std::to_string(ideas.ranked.size()) +
                                 " moves are suggested; looked at: " +
                                 (all_lost ? "all, as those that are suggested lose" : std::to_string(first.size()))
                           : "nothing is suggested, so every move is looked at"});
        if (suggested > 0)
            decision.rules.push_back({"look-ahead", !agrees,
                                      agrees ? "it finds nothing better than the most urgent, " + most_urgent
                                             : "instead of the most urgent, " + most_urgent});
        decision.chosen_by = agrees && suggested > 0 ? decision.ranked.front().reason : "look-ahead";
        return decision;
    }

   private:
    AnyGame game_;
    SuggestionList<AnyGame> list_;
    DeedsSeen deeds_;
    std::unique_ptr<Chooser<AnyGame>> search_;
    std::size_t most_;
};

SuggestionList<AnyGame> suggestions_of(const AnyGame& game, const ChooserSetup& setup) {
    if (setup.profile != nullptr) return ProfileBinder(game, *setup.profile).suggestions(setup.level);
    SuggestionList<AnyGame> list;
    list.add_all_of(game);
    return list;
}

}  // namespace

std::unique_ptr<Chooser<AnyGame>> random_chooser(const AnyGame& game, const ChooserSetup&) {
    return std::make_unique<RandomChooser>(game);
}

std::unique_ptr<Chooser<AnyGame>> rules_chooser(const AnyGame& game, const ChooserSetup& setup) {
    return std::make_unique<RulesChooser>(
        game, setup.profile != nullptr ? ProfileBinder(game, *setup.profile).rules(setup.level) : usual_rules(game),
        setup.state);
}

std::unique_ptr<Chooser<AnyGame>> suggestions_chooser(const AnyGame& game, const ChooserSetup& setup) {
    return std::make_unique<SuggestionsChooser>(game, suggestions_of(game, setup));
}

std::unique_ptr<Chooser<AnyGame>> features_chooser(const AnyGame& game, const ChooserSetup& setup) {
    if (setup.profile == nullptr)
        throw InputError("opponent", "'features' needs weights, which a profile has", "a profile with [features]");
    return std::make_unique<FeaturesChooser>(game, ProfileBinder(game, *setup.profile).features());
}

std::unique_ptr<Chooser<AnyGame>> advised_chooser(const AnyGame& game, const ChooserSetup& setup,
                                                  std::unique_ptr<Chooser<AnyGame>> search) {
    return std::make_unique<AdvisedChooser>(game, suggestions_of(game, setup), std::move(search),
                                            static_cast<std::size_t>(setup.options.integer("ideas")));
}

void find_problems(const AnyGame& game, const Profile& profile, std::vector<std::string>& problems) {
    const ProfileBinder binder(game, profile, &problems);
    const auto look = [&](auto bind) {
        try {
            bind();
        } catch (const InputError& error) {
            problems.push_back(error.what());
        }
    };
    if (!profile.rules.empty() || !profile.fallback.empty()) look([&] { (void)binder.rules(highest_level); });
    if (!profile.suggestions.empty() || !profile.reasons.empty())
        look([&] { (void)binder.suggestions(highest_level); });
    if (!profile.features.empty()) look([&] { (void)binder.features(); });
    look([&] { (void)binder.book(); });
}

}  // namespace arvek::detail

namespace arvek {

std::vector<BookLine> book_of(const AnyGame& game, const Profile& profile) {
    return detail::ProfileBinder(game, profile).book();
}

}  // namespace arvek
