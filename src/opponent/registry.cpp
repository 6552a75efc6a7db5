#include "arvek/opponent/registry.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/scale.hpp"
#include "arvek/opponent/compiled.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/search/monte_carlo.hpp"
#include "arvek/search/nested_playouts.hpp"
#include "arvek/search/techniques.hpp"
#include "arvek/search/transposition_table.hpp"
#include "choosers.hpp"
#include "engine.hpp"

namespace arvek {

namespace {

constexpr const char* name_letters = "abcdefghijklmnopqrstuvwxyz0123456789_";

bool is_name(const std::string& name) {
    return !name.empty() && name.size() <= 60 && name.find_first_not_of(name_letters) == std::string::npos;
}

OptionInfo evaluator_option() {
    return {"evaluator", std::string("game"), 0, 0,
            "what says how good a position is; game: the game's own evaluation"};
}

OptionInfo memory_option(const char* what) {
    return {"memory", std::int64_t{16}, 1, static_cast<double>(most_table_mebibytes),
            std::string("MiB for the ") + what};
}

OptionInfo repetition_option() {
    return {"avoid_repetition", true, 0, 0, "whether a draw by repetition counts as a little less than even"};
}

std::vector<OptionInfo> options_of_standard() {
    std::vector<OptionInfo> options{
        {"threads", std::int64_t{1}, 1, most_threads, "how many threads search; one repeats exactly"},
        memory_option("table"),
        {"keep_table", false, 0, 0, "whether a decision may use what earlier ones left in the table"},
        evaluator_option(),
        repetition_option()};
    Techniques defaults;
    for (const std::string& name : technique_names())
        options.push_back({name, *technique_named(defaults, name), 0, 0, "a technique of the search"});
    return options;
}

bool has_listed_luck(const AnyGame& game) { return !has_chance(game) || lists_events(game); }

/// What "standard" is in a game; measured, see docs/monte_carlo.md.
std::string usual_search(const AnyGame& game) {
    if (has_views(game) || !has_listed_luck(game)) return "montecarlo";
    const int players = players_of(game);
    if (players == 1 && !has_chance(game)) return "nested";
    if (players != 2) return "montecarlo";
    if (!has_chance(game)) return "standard";
    // An evaluation that says what it is worth beats play at random; one that does not is beaten by it.
    return offers(game, Ability::Scale) ? "expectation" : "montecarlo";
}

ChooserInfo search_info(std::string name, std::string about, std::vector<OptionInfo> options) {
    ChooserInfo info;
    info.name = std::move(name);
    info.about = std::move(about);
    info.looks_ahead = true;
    info.weighs_chance = false;
    info.sees_all = true;
    info.least_players = info.most_players = 2;
    info.options = std::move(options);
    return info;
}

std::vector<ChooserInfo> all_built_in() {
    std::vector<ChooserInfo> infos(4);
    infos[0].name = "random";
    infos[0].about = "any legal move";
    infos[0].has_levels = false;
    infos[1].name = "ruled";
    infos[1].about = "rules: win now, stop the rival, then what the game prefers; or those of a profile";
    infos[2].name = "suggestions";
    infos[2].about = "what stands out, weighed by a temperament";
    infos[2].needs = {Ability::Suggesters};
    infos[3].name = "features";
    infos[3].about = "one ply, all moves, features with the weights of a profile";
    infos.push_back(
        search_info("minimax", "every line to the depth; the reference", {evaluator_option(), repetition_option()}));
    infos.push_back(
        search_info("alphabeta", "alpha-beta without further techniques", {evaluator_option(), repetition_option()}));
    infos.push_back(search_info("expectation", "looks ahead through chance: events count by their probability",
                                {memory_option("table"), evaluator_option()}));
    infos.back().weighs_chance = true;
    infos.back().needs = {Ability::Chance};
    for (const bool paranoid : {false, true}) {
        infos.push_back(search_info(
            paranoid ? "paranoid" : "maxn",
            paranoid ? "looks ahead as if all others were against it" : "looks ahead, each player for itself",
            {memory_option("table"), evaluator_option()}));
        infos.back().weighs_chance = true;
        infos.back().least_players = 1;
        infos.back().most_players = max_players;
        infos.back().needs = {Ability::Players};
    }
    infos.push_back(
        search_info("montecarlo", "plays out at random, and grows a tree where that goes well",
                    {{"threads", std::int64_t{1}, 1, most_threads, "how many threads search; one repeats exactly"},
                     {"memory", std::int64_t{64}, 1, static_cast<double>(most_tree_mebibytes), "MiB for the tree"},
                     {"keep_tree", false, 0, 0, "whether a decision goes on with what the last one found"},
                     {"exploration", 0.7, 0.01, 10, "how much it looks around, in shares of the result's range"},
                     {"leaves", std::string("auto"), 0, 0, "what a leaf counts", {"auto", "playouts", "evaluation"}},
                     evaluator_option()}));
    ChooserInfo& monte_carlo = infos.back();
    monte_carlo.plays_out = monte_carlo.weighs_chance = true;
    monte_carlo.sees_all = false;
    monte_carlo.least_players = 1;
    monte_carlo.most_players = max_players;
    infos.push_back(
        search_info("nested", "tries moves by playouts within playouts, and keeps the best line",
                    {{"levels", std::int64_t{4}, 1, most_nested_levels, "how deep playouts are nested at the most"},
                     {"keep_line", true, 0, 0, "whether a decision begins with the rest of the last one's line"}}));
    infos.back().plays_out = true;
    infos.back().least_players = infos.back().most_players = 1;
    infos.back().needs = {Ability::Players};
    infos.push_back(search_info("worlds", "draws worlds that may be, and looks ahead in each as if hands were open",
                                {{"worlds", std::int64_t{30}, 1, 100'000, "how many"}}));
    infos.back().weighs_chance = true;
    infos.back().sees_all = false;
    infos.back().needs = {Ability::Views};
    infos.back().least_players = 1;
    infos.back().most_players = max_players;
    ChooserInfo mixed;
    mixed.name = "mixed";
    mixed.about = "the equilibrium of a small game with hidden hands, with its bluffs";
    mixed.has_levels = false;
    mixed.needs = {Ability::Views};
    mixed.least_players = mixed.most_players = 2;
    mixed.options = {{"memory", std::int64_t{512}, 1, 16'384, "MiB for the tree of the game"},
                     {"exploitability", 0.0005, 1e-9, 1'000, "how much in points the best answer to it may gain"},
                     {"iterations", std::int64_t{20'000}, 1, 100'000'000, "how often regrets are added up at the most"},
                     {"sampled", false, 0, 0, "whether on drawn games, where the tree is too large for the memory"}};
    infos.push_back(mixed);
    infos.push_back(search_info("advised", "looks ahead, from what is suggested alone",
                                {{"ideas", std::int64_t{8}, 1, 100, "how many of the most urgent moves are looked at"},
                                 memory_option("table")}));
    infos.back().needs = {Ability::Suggesters};
    infos.push_back(search_info("standard", "the search that suits the game", options_of_standard()));
    infos.back().becomes = usual_search;
    return infos;
}

}  // namespace

std::span<const ChooserInfo> built_in_choosers() {
    static const std::vector<ChooserInfo> infos = all_built_in();
    return infos;
}

void ChooserSet::add(ChooserInfo info, Make make) {
    if (!is_name(info.name))
        throw InputError("chooser", "'" + info.name + "' is no name", "lower-case letters, digits and underscores");
    if (find_chooser(infos_, info.name) != nullptr)
        throw InputError("chooser", "there are two named '" + info.name + "'", "a name of its own for each");
    for (const OptionInfo& option : info.options) {
        if (!is_name(option.name))
            throw InputError("chooser " + info.name, "'" + option.name + "' is no name for an option",
                             "lower-case letters, digits and underscores");
        if (const std::string problem = what_is_wrong(option, option.default_value); !problem.empty())
            throw InputError("chooser " + info.name, "the default: " + problem, option.range_text());
    }
    infos_.push_back(std::move(info));
    makes_.push_back(std::move(make));
}

const ChooserInfo* ChooserSet::find(const AnyGame& game, std::string_view name) const {
    const ChooserInfo* info = find_chooser(infos_, name);
    return info == nullptr ? nullptr : &resolved(game, *info);
}

const ChooserInfo& ChooserSet::resolved(const AnyGame& game, const ChooserInfo& info) const {
    if (info.becomes == nullptr) return info;
    const ChooserInfo* other = find_chooser(infos_, info.becomes(game));
    return other != nullptr ? *other : info;
}

std::string ChooserSet::why_not(const AnyGame& game, const ChooserInfo& info) {
    if (info.sees_all && has_views(game))
        return "'" + info.name + "' sees the whole position, and players of this game do not";
    if (!info.weighs_chance && has_chance(game))
        return "'" + info.name + "' does not weigh chance, and this is a game of chance";
    const int players = players_of(game);
    if (players < info.least_players || players > info.most_players) {
        const std::string range = info.least_players == info.most_players
                                      ? std::to_string(info.least_players)
                                      : std::to_string(info.least_players) + " to " + std::to_string(info.most_players);
        return "'" + info.name + "' is for " + range + " players, and this game has " + std::to_string(players);
    }
    for (const Ability ability : info.needs)
        if (!offers(game, ability))
            return "'" + info.name + "' needs what the game does not offer: " + ability_info(ability).functions;
    return "";
}

std::unique_ptr<Chooser<AnyGame>> ChooserSet::make(const AnyGame& game, std::string_view name,
                                                   ChooserSetup setup) const {
    const ChooserInfo* info = find(game, name);
    if (info == nullptr) {
        std::vector<std::string> names;
        for (const ChooserInfo& each : infos_) names.push_back(each.name);
        throw InputError("opponent", "there is no opponent '" + std::string(name) + "'", any_of_text(names));
    }
    if (const std::string why = why_not(game, *info); !why.empty())
        throw InputError("opponent", why, "an opponent that can play it, such as ruled or random");
    setup.options = complete_options(info->options, setup.options, info->name);
    auto chooser = makes_[static_cast<std::size_t>(info - infos_.data())](game, setup);
    if (!chooser) throw InputError("opponent", "'" + info->name + "' could not be made", "a chooser");
    return chooser;
}

void ChooserSet::change(std::string_view name, const std::function<Make(Make)>& changed) {
    for (std::size_t i = 0; i < infos_.size(); ++i)
        if (infos_[i].name == name) makes_[i] = changed(std::move(makes_[i]));
}

void ChooserSet::add_evaluator(std::string name, MakeEvaluator make) {
    evaluators_->emplace_back(std::move(name), std::move(make));
}

ChooserSet ChooserSet::built_in() {
    std::vector<detail::EngineSearch> searches;
    for (const auto& some :
         {detail::engine_for_two(), detail::engine_for_many(), detail::engine_by_sampling(), detail::engine_by_views()})
        searches.insert(searches.end(), some.begin(), some.end());
    ChooserSet set;
    const auto info_of = [](std::string_view name) { return *find_chooser(built_in_choosers(), name); };
    set.add(info_of("random"), detail::random_chooser);
    set.add(info_of("ruled"), detail::rules_chooser);
    set.add(info_of("suggestions"), detail::suggestions_chooser);
    set.add(info_of("features"), detail::features_chooser);
    for (const ChooserInfo& info : built_in_choosers()) {
        const auto at = std::find_if(searches.begin(), searches.end(),
                                     [&](const auto& search) { return search.name == info.name; });
        if (at == searches.end()) continue;
        set.add(info, [make = at->make, evaluators = set.evaluators_](const AnyGame& game, const ChooserSetup& setup) {
            return make(game, setup, *evaluators);
        });
    }
    set.add(info_of("advised"), [searches_of = set](const AnyGame& game, const ChooserSetup& setup) {
        ChooserSetup of_search{{}, setup.level, setup.profile, {}};
        of_search.options.put("memory", setup.options.integer("memory"));
        return detail::advised_chooser(game, setup, searches_of.make(game, "standard", std::move(of_search)));
    });
    return set;
}

namespace detail {

StandardOptions standard_options(const Options& options) {
    StandardOptions own;
    for (const std::string& name : technique_names()) *technique_named(own.techniques, name) = options.boolean(name);
    own.threads = static_cast<int>(options.integer("threads"));
    own.table_mebibytes = static_cast<std::size_t>(options.integer("memory"));
    own.keep_table = options.boolean("keep_table");
    return own;
}

MonteCarloOptions monte_carlo_options(const Options& options) {
    MonteCarloOptions own;
    own.threads = static_cast<int>(options.integer("threads"));
    own.memory_mebibytes = static_cast<std::size_t>(options.integer("memory"));
    own.keep_tree = options.boolean("keep_tree");
    own.exploration = options.number("exploration");
    const std::string& leaves = options.string("leaves");
    own.leaf = leaves == "playouts"     ? LeafValue::PlayOut
               : leaves == "evaluation" ? LeafValue::Evaluation
                                        : LeafValue::Automatic;
    return own;
}

EquilibriumOptions equilibrium_options(const Options& options) {
    EquilibriumOptions own;
    own.memory_mebibytes = static_cast<std::size_t>(options.integer("memory"));
    own.exploitability = options.number("exploitability");
    own.iterations = static_cast<int>(options.integer("iterations"));
    own.sampled = options.boolean("sampled");
    return own;
}

NestedPlayoutsOptions nested_options(const Options& options) {
    NestedPlayoutsOptions own;
    own.levels = static_cast<int>(options.integer("levels"));
    own.keep_line = options.boolean("keep_line");
    return own;
}

std::vector<MixedPlace> mixed_order(const std::vector<double>& shares, const std::vector<double>& values,
                                    std::uint64_t seed, double& per_point) {
    double sum = 0, largest = 1;
    for (const double share : shares) sum += share;
    for (const double value : values) largest = std::max(largest, std::abs(value));
    per_point = scores_per_point(largest);
    std::vector<std::uint32_t> order(shares.size());
    std::iota(order.begin(), order.end(), 0u);
    std::stable_sort(order.begin(), order.end(), [&](auto a, auto b) { return shares[a] > shares[b]; });
    if (sum > 0) {
        const auto drawn = static_cast<std::uint32_t>(weighted_draw(shares, Random(seed).unit() * sum));
        const auto at = std::find(order.begin(), order.end(), drawn);
        std::rotate(order.begin(), at, at + 1);
    }
    std::vector<MixedPlace> ranked;
    for (const std::uint32_t place : order)
        ranked.push_back({place, Score::estimate(std::llround(values[place] * per_point))});
    return ranked;
}

std::shared_ptr<const LearnedNetwork> learned_of(const Profile* profile) {
    return profile != nullptr ? profile->model : nullptr;
}

bool evaluates_as_the_game_does(const ChooserSetup& setup) {
    const bool by_profile =
        setup.profile != nullptr && (!setup.profile->evaluation.empty() || setup.profile->model != nullptr);
    return !by_profile && (!setup.options.has("evaluator") || setup.options.string("evaluator") == "game");
}

std::shared_ptr<const Evaluator<AnyGame>> evaluator_named(const AnyGame& game, const std::string& name,
                                                          const NamedEvaluators& evaluators) {
    if (name == "game") return nullptr;
    std::vector<std::string> known{"game"};
    for (const auto& [each, make] : evaluators) {
        if (each == name) return make(game);
        known.push_back(each);
    }
    throw InputError("option evaluator", "there is no evaluator '" + name + "'", any_of_text(known));
}

std::vector<std::pair<std::size_t, double>> evaluation_weights(const AnyGame& game, const Profile* profile) {
    std::vector<std::pair<std::size_t, double>> weights;
    if (profile == nullptr) return weights;
    for (const WeightText& text : profile->evaluation) {
        std::vector<std::string> names;
        std::size_t found = SIZE_MAX, place = 0;
        for (const auto& quantity : game.quantities()) {
            if (quantity.of == QuantityOf::Position) {
                names.emplace_back(quantity.name);
                if (quantity.name == text.name.name) found = place;
            }
            ++place;
        }
        if (found == SIZE_MAX) fail_unknown_in_profile(*profile, text.name, "quantity of positions", names);
        weights.emplace_back(found, text.weight);
    }
    return weights;
}

}  // namespace detail

}  // namespace arvek
