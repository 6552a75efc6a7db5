#include "verbs.hpp"

#include <climits>
#include <ostream>

#include "arvek/arena/steady_clock.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/search/transposition_table.hpp"
#include "line_reader.hpp"
#include "position_file.hpp"
#include "values.hpp"

namespace arvek::tool {

namespace {

constexpr std::size_t ranked_shown = 12;
constexpr std::size_t most_compared = 200;

std::vector<std::string> names_of(const std::vector<std::unique_ptr<GameEntry>>& games) {
    std::vector<std::string> names;
    for (const auto& game : games) names.push_back(game->name());
    return names;
}

const GameEntry& entry_of(const Tool& tool, const std::string& name) {
    const auto names = names_of(tool.games());
    for (const auto& game : tool.games())
        if (game->name() == name) return *game;
    const std::string nearest = nearest_of(name, names);
    throw InputError(
        "", "there is no game " + in_quotes(name),
        (nearest.empty() || names.size() == 1 ? "" : nearest + ", perhaps; there are ") + any_of_text(names));
}

}  // namespace

OpenedGame open_game(const Tool& tool, const Arguments& arguments) {
    OpenedGame game;
    game.entry = &entry_of(tool, arguments.game);
    std::vector<std::string> settings;
    std::optional<std::string> position = arguments.position;
    if (position && names_position_file(*position)) {
        const PositionFile file = read_position_file(*position);
        if (!file.game.empty() && file.game != arguments.game)
            throw InputError(*position, "the position is one of " + in_quotes(file.game),
                             "a position of " + arguments.game);
        settings = file.settings;
        position = file.position;
    }
    settings.insert(settings.end(), arguments.settings.begin(), arguments.settings.end());
    game.handle = game.entry->open(settings);
    game.table = position ? game.handle->table_at(*position) : game.handle->initial_table();
    return game;
}

void require_going_on(const OpenedGame& game) {
    if (const auto ending = game.table->ending())
        throw InputError("--position", "the game is over: " + ending->text(), "a position where play goes on");
}

bool searches(const OpponentSpec& spec) {
    return spec.profile ? spec.profile->kind == ChooserKind::Search : opponent_searches(spec.name);
}

OpponentSpec opponent_named(const std::string& text, const std::string& game) {
    const auto at = text.rfind('@');
    const std::string path = text.substr(0, at);
    if (!names_position_file(path)) return read_opponent(text);
    std::optional<int> level;
    if (at != std::string::npos)
        level = static_cast<int>(whole_number("level", text.substr(at + 1), lowest_level, highest_level));
    Profile profile = read_profile(file_text(path), path);
    if (profile.game.name != game)
        arvek::detail::fail_in_profile(profile, profile.game.place,
                                       "the profile is one for " + in_quotes(profile.game.name),
                                       "a profile for " + game);
    return opponent_of_profile(std::move(profile), level);
}

OpponentSpec opponent_of(const Arguments& arguments, const std::string& standard) {
    if (arguments.opponent && arguments.algorithm)
        throw InputError("--algorithm", "--opponent is given too, and both say who decides", "one of the two");
    OpponentSpec spec =
        opponent_named(arguments.opponent.value_or(arguments.algorithm.value_or(standard)), arguments.game);
    if (arguments.algorithm && !opponent_searches(spec.name))
        throw InputError("--algorithm", in_quotes(spec.name) + " is no search", "minimax, alphabeta or standard");
    if (arguments.level) {
        if (arguments.opponent && arguments.opponent->find('@') != std::string::npos)
            throw InputError("--level", "--opponent names a level too", "one of the two");
        spec.level = static_cast<int>(whole_number("--level", *arguments.level, lowest_level, highest_level));
        check_level(spec.name, spec.level);
        if (spec.profile && spec.profile->kind == ChooserKind::Random)
            throw InputError("--level", in_quotes(spec.name) + " has no levels", "no level");
    }
    for (const bool on : {false, true})
        for (const std::string& name : on ? arguments.with : arguments.without) {
            const std::string option = on ? "--with" : "--without";
            bool* technique = technique_named(spec.techniques, name);
            if (technique == nullptr) {
                const std::string nearest = nearest_of(name, technique_names());
                throw InputError(
                    option, "there is no technique " + in_quotes(name),
                    (nearest.empty() ? "" : nearest + ", perhaps; there are ") + any_of_text(technique_names()));
            }
            if (spec.name != "standard")
                throw InputError(option, in_quotes(spec.name) + " has no techniques to switch",
                                 "the opponent standard");
            *technique = on;
        }
    if (arguments.threads) {
        spec.threads = static_cast<int>(whole_number("--threads", *arguments.threads, 1, most_threads));
        if (spec.name != "standard" && spec.threads > 1)
            throw InputError("--threads", in_quotes(spec.name) + " searches with one thread", "the opponent standard");
    }
    if (arguments.memory) {
        spec.table_mebibytes =
            static_cast<std::size_t>(whole_number("--memory", *arguments.memory, 1, most_table_mebibytes));
        if (spec.name != "standard")
            throw InputError("--memory", in_quotes(spec.name) + " has no table", "the opponent standard");
    }
    spec.margins = !arguments.win_or_loss;
    if (arguments.win_or_loss && !searches(spec))
        throw InputError("--win-or-loss", in_quotes(spec.name) + " does not look ahead",
                         "minimax, alphabeta or standard");
    if (arguments.depth) spec.depth = static_cast<int>(whole_number("--depth", *arguments.depth, 0, max_depth));
    if (arguments.nodes)
        spec.nodes = static_cast<std::uint64_t>(whole_number("--nodes", *arguments.nodes, 1, INT64_MAX));
    if (arguments.time) spec.seconds = seconds_value("--time", *arguments.time, false);
    return spec;
}

std::string standard_opponent(const OpenedGame& game) { return game.handle->has_chance() ? "ruled" : "standard"; }

std::uint64_t seed_of(const Arguments& arguments, std::uint64_t standard) {
    if (!arguments.seed) return standard;
    return static_cast<std::uint64_t>(whole_number("--seed", *arguments.seed, 0, INT64_MAX));
}

int run_opponents(const Tool& tool, const Arguments& arguments, const Console& console) {
    if (arguments.what != "check")
        throw InputError("opponents", "there is nothing like " + in_quotes(arguments.what) + " to do", "check FILE");
    std::vector<Profile> profiles;
    for (const std::string& path : arguments.files) {
        const auto texts = file_text(path);
        Profile profile = read_profile(texts, path);
        const auto names = names_of(tool.games());
        if (std::find(names.begin(), names.end(), profile.game.name) == names.end())
            arvek::detail::fail_unknown_in_profile(profile, profile.game, "game", names);
        Arguments own = arguments;
        own.game = profile.game.name;
        open_game(tool, own).table->check_opponent(opponent_of_profile(profile));
        profiles.push_back(std::move(profile));
    }
    console.out << (arguments.format == "json" ? profiles_as_json(profiles) : profiles_as_text(profiles));
    return 0;
}

int run_games(const Tool& tool, const Arguments& arguments, const Console& console) {
    console.out << (arguments.format == "json" ? games_as_json(tool.games()) : games_as_text(tool.games()));
    return 0;
}

namespace {

/// A decision, with the picture of its tree written to the file of --tree.
DecisionReport decide_and_draw(const OpenedGame& game, const OpponentSpec& spec, std::uint64_t seed,
                               const OpponentMeans& means, const Arguments& arguments) {
    if (!searches(spec))
        throw InputError("--tree", in_quotes(spec.name) + " does not look ahead, so there is no tree to draw",
                         "minimax, alphabeta or standard");
    const int plies = static_cast<int>(whole_number("--tree-plies", arguments.tree_plies.value_or("3"), 1, max_depth));
    const auto nodes = static_cast<std::size_t>(
        whole_number("--tree-nodes", arguments.tree_nodes.value_or("24"), least_pictured, most_pictured));
    const bool json = arguments.tree->ends_with(".json");
    if (!json) check_picture_name(*arguments.tree);  // before a long search
    TreePicture picture;
    DecisionReport report = game.table->decide(spec, seed, means, plies, nodes, picture);
    const Subject subject = game.subject();
    picture.title = subject.game + "  " + settings_text(subject.settings) + "  " + subject.position + "  " + spec.name;
    if (json)
        write_file(*arguments.tree, tree_as_json(subject, picture));
    else
        write_tree_picture(*arguments.tree, picture);
    return report;
}

}  // namespace

int run_decide(const Tool& tool, const Arguments& arguments, const Console& console) {
    const OpenedGame game = open_game(tool, arguments);
    const OpponentMeans means{steady_seconds, {}};
    const std::uint64_t seed = seed_of(arguments, 0);
    const std::size_t shown =
        arguments.show ? static_cast<std::size_t>(whole_number("--show", *arguments.show, 0, INT_MAX)) : ranked_shown;
    const bool json = arguments.format == "json";
    const Paint paint(console.colour);

    // A list of algorithms or depths asks for a comparison; each of its lines is a decision of its own.
    const auto algorithms = arguments.algorithm ? comma_parts(*arguments.algorithm) : std::vector<std::string>{};
    const auto depths = arguments.depth ? number_list("--depth", *arguments.depth, 0, max_depth) : std::vector<int>{};
    if (algorithms.size() <= 1 && depths.size() <= 1) {
        const OpponentSpec spec = opponent_of(arguments, standard_opponent(game));
        require_going_on(game);
        const DecisionReport report = arguments.tree ? decide_and_draw(game, spec, seed, means, arguments)
                                                     : game.table->decide(spec, seed, means);
        console.out << (json ? decision_as_json(game.subject(), report)
                             : decision_as_text(game.subject(), report, shown, paint, game.player_names()));
        return 0;
    }
    if (arguments.tree) throw InputError("--tree", "several decisions are compared", "one algorithm and one depth");
    if (std::max<std::size_t>(algorithms.size(), 1) * std::max<std::size_t>(depths.size(), 1) > most_compared)
        throw InputError("--depth", "more than " + std::to_string(most_compared) + " lines to compare",
                         "a shorter list");
    std::vector<OpponentSpec> specs;
    Arguments one = arguments;
    for (std::size_t d = 0; d < std::max<std::size_t>(depths.size(), 1); ++d)
        for (std::size_t a = 0; a < std::max<std::size_t>(algorithms.size(), 1); ++a) {
            if (!algorithms.empty()) one.algorithm = algorithms[a];
            if (!depths.empty()) one.depth = std::to_string(depths[d]);
            specs.push_back(opponent_of(one, standard_opponent(game)));
        }
    require_going_on(game);
    std::vector<ComparisonRow> rows;
    for (const OpponentSpec& spec : specs) {
        rows.push_back({game.table->decide(spec, seed, means), spec.depth.value_or(-1)});
        if (!rows.back().report.has_scores)
            throw InputError("--depth", in_quotes(spec.name) + " does not look ahead, so there is nothing to compare",
                             "minimax, alphabeta or standard");
    }
    console.out << (json ? comparison_as_json(game.subject(), rows)
                         : comparison_as_text(game.subject(), rows, paint, game.player_names()));
    return 0;
}

int run_count(const Tool& tool, const Arguments& arguments, const Console& console) {
    const OpenedGame game = open_game(tool, arguments);
    const int depth = static_cast<int>(whole_number("--depth", arguments.depth.value_or("4"), 1, max_depth));
    require_going_on(game);
    CountReport report;
    report.counts = game.table->count(depth, arguments.table);
    if (arguments.split)
        for (const std::string& move : game.table->legal_moves()) {
            game.table->play(move);
            // The sequences of this length that begin with the move; none where it ends the game.
            std::uint64_t sequences = depth == 1 ? 1 : 0;
            if (depth > 1 && !game.table->ending())
                sequences = game.table->count(depth - 1, arguments.table).back().sequences;
            report.by_first_move.emplace_back(move, sequences);
            game.table->take_back();
        }
    console.out << (arguments.format == "json" ? count_as_json(game.subject(), report)
                                               : count_as_text(game.subject(), report));
    return 0;
}

int run_solve(const Tool& tool, const Arguments& arguments, const Console& console) {
    const OpenedGame game = open_game(tool, arguments);
    SolveOptions options;
    options.memory_mebibytes =
        static_cast<std::size_t>(whole_number("--memory", arguments.memory.value_or("1024"), 1, most_table_mebibytes));
    if (arguments.time) options.seconds = seconds_value("--time", *arguments.time, false);
    options.clock = steady_seconds;
    options.margins = !arguments.win_or_loss;
    require_going_on(game);
    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: what is proven so far
    options.stop = InterruptGuard::stop_token();
    if (console.shows_progress)
        options.progress = [&](Payoff least, Payoff most, std::uint64_t positions) {
            console.err << "\r" << grouped(positions) << " positions; worth " << worth_text(least, most) << "   "
                        << std::flush;
        };
    const SolutionReport report = game.table->solve(options);
    if (console.shows_progress) console.err << "\r" << std::string(78, ' ') << "\r" << std::flush;
    console.out << (arguments.format == "json"
                        ? solution_as_json(game.subject(), report)
                        : solution_as_text(game.subject(), report, Paint(console.colour), game.player_names()));
    return report.complete ? 0 : 1;
}

int run_check(const Tool& tool, const Arguments& arguments, const Console& console) {
    const OpenedGame game = open_game(tool, arguments);
    if (arguments.position)
        throw InputError("--position", "rules are checked from the initial position", "no --position");
    CheckOptions options;
    options.games = static_cast<int>(whole_number("--games", arguments.games.value_or("200"), 1, most_games));
    options.seed = seed_of(arguments, 0);
    const CheckReport report = game.handle->check(options);
    console.out << (arguments.format == "json" ? check_as_json(game.subject(), report)
                                               : check_as_text(game.subject(), report, Paint(console.colour)));
    return report.sound() ? 0 : 1;
}

}  // namespace arvek::tool
