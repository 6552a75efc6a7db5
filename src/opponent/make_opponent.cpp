#include "arvek/opponent/make_opponent.hpp"

#include <algorithm>

#include "arvek/opponent/model_file.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/search/learned_evaluator.hpp"
#include "arvek/search/scale_of.hpp"
#include "levelled.hpp"

namespace arvek {

namespace {

std::vector<std::string> names_of(const ChooserSet& choosers) {
    std::vector<std::string> names;
    for (const ChooserInfo& info : choosers.infos()) names.push_back(info.name);
    return names;
}

/// The profile's options, each found right, with those of the caller over them.
Options options_of(const OpponentSpec& spec, const ChooserInfo& info) {
    Options options;
    if (const Profile* profile = spec.profile.get()) {
        for (const PlacedOption& option : profile->options) {
            const auto known = std::find_if(info.options.begin(), info.options.end(),
                                            [&](const auto& each) { return each.name == option.name.name; });
            if (known == info.options.end()) {
                std::vector<std::string> names;
                for (const OptionInfo& each : info.options) names.push_back(each.name);
                const std::string nearest = nearest_of(option.name.name, names);
                fail_in_profile(*profile, option.name.place, info.name + " has no option '" + option.name.name + "'",
                                names.empty()
                                    ? "no options"
                                    : (nearest.empty() ? "" : nearest + ", perhaps; it has ") + any_of_text(names));
            }
            if (const std::string problem = what_is_wrong(*known, option.value); !problem.empty())
                fail_in_profile(*profile, option.place, problem, known->range_text());
            options.put(option.name.name, option.value);
        }
    }
    for (const auto& [name, value] : spec.options.all()) options.put(name, value);
    return options;
}

/// Throws InputError at its place for what the profile says and its chooser cannot use.
void check_profile(const Profile& profile, const AnyGame& game, const ChooserInfo& info) {
    if (!info.has_levels && profile.level != highest_level)
        fail_in_profile(profile, profile.level_place, info.name + " has no levels", "no level");
    if (!info.looks_ahead && (profile.depth || profile.nodes || profile.playouts || profile.seconds))
        fail_in_profile(profile, profile.limits_place, info.name + " does not look ahead", "no limits");
    if (info.plays_out && profile.depth)
        fail_in_profile(profile, profile.limits_place, info.name + " plays out, so a depth means nothing to it",
                        "playouts, nodes or seconds");
    if (!info.plays_out && profile.playouts)
        fail_in_profile(profile, profile.limits_place, info.name + " does not play out, so playouts mean nothing to it",
                        "depth, nodes or seconds");
    if (!info.looks_ahead && !profile.evaluation.empty())
        fail_in_profile(profile, profile.evaluation.front().name.place,
                        info.name + " does not look ahead, so it evaluates nothing", "no [evaluation]");
    if (profile.model != nullptr) {
        const bool evaluates = std::any_of(info.options.begin(), info.options.end(),
                                           [](const OptionInfo& option) { return option.name == "evaluator"; });
        if (!evaluates)
            fail_in_profile(profile, profile.model_place, info.name + " does not ask what a position is worth",
                            "no model, or a search such as standard");
        try {
            require_model_fits(game, profile.model->model());
        } catch (const InputError& error) {
            fail_in_profile(profile, profile.model_place, error.what(), "");
        }
    }
    if (const std::string why = ChooserSet::why_not(game, info); !why.empty())
        fail_in_profile(profile, profile.chooser.place, why, "choose = \"rules\", or another that the game can have");
}

}  // namespace

double units_of_scores(const AnyGame& game, const OpponentSpec& spec) {
    if (spec.profile != nullptr && spec.profile->model != nullptr) return learned_units_per_doubling;
    return units_per_doubling_of(game);
}

void find_profile_problems(const AnyGame& game, const Profile& profile, const ChooserSet& choosers,
                           std::vector<std::string>& problems) {
    const auto look = [&](auto at) {
        try {
            at();
        } catch (const InputError& error) {
            problems.push_back(error.what());
        }
    };
    const ChooserInfo* info = choosers.find(game, profile.chooser.name);
    Options options;
    look([&] {
        if (info == nullptr) fail_unknown_in_profile(profile, profile.chooser, "chooser", names_of(choosers));
        check_profile(profile, game, *info);
        OpponentSpec spec;
        spec.profile = std::make_shared<const Profile>(profile);
        options = options_of(spec, *info);
        (void)detail::evaluation_weights(game, &profile);
    });
    detail::find_problems(game, profile, problems);
    // What shows only when all of it comes together, such as options that exclude each other.
    if (problems.empty())
        look([&] { (void)choosers.make(game, info->name, {std::move(options), profile.level, &profile, {}}); });
}

std::size_t memory_of(const AnyGame& game, const OpponentSpec& spec, const ChooserSet& choosers) {
    const ChooserInfo* info = choosers.find(game, spec.chooser_name());
    if (info == nullptr) return 0;
    const Options options = complete_options(info->options, options_of(spec, *info), info->name);
    return options.has("memory") ? static_cast<std::size_t>(options.integer("memory")) : 0;
}

std::unique_ptr<Opponent<AnyGame>> make_opponent(const AnyGame& game, const OpponentSpec& spec,
                                                 const OpponentMeans& means, const ChooserSet& choosers) {
    const Profile* profile = spec.profile.get();
    const std::string& name = spec.chooser_name();
    const ChooserInfo* info = choosers.find(game, name);
    if (info == nullptr) {
        if (profile != nullptr) fail_unknown_in_profile(*profile, profile->chooser, "chooser", names_of(choosers));
        (void)read_opponent(name, choosers.infos());  // says so
        return nullptr;
    }
    if (profile != nullptr) check_profile(*profile, game, *info);
    const int level_number = level_of(spec);
    check_level(level_number);
    if (!info->has_levels && level_number != highest_level)
        throw InputError("level", "the opponent '" + spec.name + "' has no levels", "no level, or another opponent");
    if (spec.has_own_limits() && !info->looks_ahead)
        throw InputError("opponent",
                         "'" + spec.name + "' does not look ahead, so depth, nodes and time mean nothing to it",
                         "one that looks ahead, such as standard");

    if (spec.depth && info->plays_out)
        throw InputError("opponent", "'" + info->name + "' plays out, so a depth means nothing to it",
                         "a limit of playouts, nodes or time");
    if (spec.playouts && !info->plays_out)
        throw InputError("opponent", "'" + info->name + "' does not play out, so playouts mean nothing to it",
                         "a limit of depth, nodes or time, or an opponent such as montecarlo");
    const LevelTable table = level_table_of(*info);
    const LevelChange of_game = level_change_of(game, level_number, table);
    LevelSettings level = profile != nullptr ? level_settings(*profile, level_number, table, of_game)
                                             : changed(level_settings(level_number, table), of_game);
    if (spec.depth || spec.nodes || spec.playouts) {
        level.limits = {.depth = spec.depth, .nodes = spec.nodes, .playouts = spec.playouts, .seconds = spec.seconds};
        level.playouts_by_moves = false;
        level.variety = level.deeper = 0.0;  // a question about a search, not a game
        level.deeper_at_first = 0;
    } else if (spec.seconds) {
        if (profile == nullptr && level_number == highest_level) level.limits = {};
        level.limits.seconds = std::min(level.limits.seconds.value_or(*spec.seconds), *spec.seconds);
    }
    if (!info->has_levels) {  // it is what it is
        level.sees_wins = level.sees_losses = level.variety = level.deeper = 0.0;
        level.deeper_at_first = 0;
    }
    level.limits.clock = means.clock;
    level.margins = level.margins && spec.margins;
    check_limits(level.limits);

    if (!spec.state.empty() && info->name != "ruled")
        throw InputError("state", "'" + info->name + "' has no rules that remember anything", "an opponent of rules");
    ChooserSetup setup{options_of(spec, *info), level_number, profile, spec.state};
    auto opponent =
        detail::levelled_opponent(game, info->looks_ahead, level, choosers.make(game, info->name, std::move(setup)));
    if (profile == nullptr) return opponent;
    auto book = book_of(game, *profile);
    if (book.empty() || level_number < profile->book_from_level) return opponent;
    return detail::book_opponent(game, std::move(book), means.openings, std::move(opponent));
}

}  // namespace arvek
