#include "verbs.hpp"

#include <algorithm>
#include <climits>
#include <ostream>

#include "arvek/arena/files.hpp"
#include "arvek/arena/steady_clock.hpp"
#include "arvek/link/program.hpp"
#include "arvek/link/rules_program.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/picture/tree_picture.hpp"
#include "arvek/search/techniques.hpp"
#include "arvek/search/transposition_table.hpp"
#include "arvek/search/worker_threads.hpp"
#include "arvek/session/plain_text.hpp"
#include "line_reader.hpp"
#include "playing.hpp"
#include "position_file.hpp"
#include "progress.hpp"
#include "values.hpp"

namespace arvek::tool {

std::vector<std::string> names_of(const std::vector<std::unique_ptr<GameEntry>>& games) {
    std::vector<std::string> names;
    for (const auto& game : games) names.push_back(game->name());
    return names;
}

std::optional<ProfilePath> profile_path(const std::string& text) {
    const auto at = text.rfind('@');
    if (names_toml_file(text)) return ProfilePath{text, std::nullopt};
    if (at == std::string::npos || !names_toml_file(text.substr(0, at))) return std::nullopt;
    return ProfilePath{text.substr(0, at),
                       static_cast<int>(integer_value("level", text.substr(at + 1), lowest_level, highest_level))};
}

namespace {

constexpr std::size_t ranked_shown = 12;
constexpr std::size_t most_compared = 200;

const GameEntry& entry_of(const Tool& tool, const std::string& name) {
    const auto names = names_of(tool.games());
    for (const auto& game : tool.games())
        if (game->name() == name) return *game;
    const std::string nearest = nearest_of(name, names);
    throw InputError(
        "", "there is no game " + in_quotes(name),
        (nearest.empty() || names.size() == 1 ? "" : nearest + ", perhaps; there are ") + any_of_text(names));
}

/// The same with the place of what is wrong in front.
template <class Read>
auto at_place(const std::string& place, Read read) -> decltype(read()) {
    try {
        return read();
    } catch (const InputError& error) {
        throw InputError(place, error.what());
    }
}

}  // namespace

namespace {

bool sets(const std::vector<std::string>& settings, const std::string& name) {
    return std::any_of(settings.begin(), settings.end(),
                       [&](const std::string& text) { return text.starts_with(name + "="); });
}

/// Whether a complaint about settings is one about that parameter.
bool is_about(const std::string& complaint, const std::string& name) {
    return complaint.starts_with(name + ":") || complaint.starts_with("--set " + name + ":") ||
           complaint.find("'" + name + "'") != std::string::npos;
}

/// Adds the parameters that profiles bring along, unless they are set.
void add_settings_of_profiles(std::vector<std::string>& settings, const GameEntry& entry, const Arguments& arguments) {
    std::vector<std::string> named = arguments.opponents;
    if (arguments.opponent)
        for (const std::string& one : comma_parts(*arguments.opponent)) named.push_back(one);
    for (const std::string& text : named) {
        const auto path = profile_path(text);
        if (!path) continue;
        const Profile profile = profile_in(path->path);
        if (profile.game.name != entry.name()) continue;  // said when the opponent is made
        std::vector<std::string> together = settings;
        for (const auto& [name, value] : profile.parameters)
            if (!sets(settings, name.name)) together.push_back(name.name + "=" + value);
        try {
            (void)entry.open(together);
        } catch (const InputError& error) {
            // The complaint begins with the parameter that it is about.
            const std::string what = error.what();
            const auto about = std::find_if(profile.parameters.begin(), profile.parameters.end(),
                                            [&](const auto& each) { return is_about(what, each.first.name); });
            if (about == profile.parameters.end() || sets(settings, about->first.name)) throw;
            fail_in_profile(profile, about->first.place, what, "");
        }
        settings = std::move(together);
    }
}

}  // namespace

OpenGame open_game(const Tool& tool, const std::string& name, const std::vector<std::string>& settings) {
    OpenGame game = entry_of(tool, name).open(settings);
    game.kit.choosers.add(link::program_info(), &link::make_program);
    return game;
}

/// A game that another program knows.
static Session open_rules(const Arguments& arguments) {
    if (!arguments.settings.empty())
        throw InputError("--set", "the rules are a program's, which is told what it needs by its arguments",
                         "no --set");
    OpenGame game = link::open_rules_program(arguments.rules);
    if (game.name != arguments.game)
        throw InputError("--rules", "the program knows the game " + in_quotes(game.name),
                         game.name + " as the game's name");
    return arguments.position ? Session(std::move(game), *arguments.position) : Session(std::move(game));
}

Session open_session(const Tool& tool, const Arguments& arguments) {
    if (!arguments.rules.empty()) return open_rules(arguments);
    const GameEntry& entry = entry_of(tool, arguments.game);
    std::vector<std::string> settings = arguments.settings;
    if (!arguments.position || !names_toml_file(*arguments.position)) {
        add_settings_of_profiles(settings, entry, arguments);
        OpenGame game = open_game(tool, arguments.game, settings);
        return arguments.position ? Session(std::move(game), *arguments.position) : Session(std::move(game));
    }
    const PositionFile file = read_position_file(*arguments.position);
    if (!file.game.empty() && file.game != arguments.game)
        throw InputError(*arguments.position, "the position is one of " + in_quotes(file.game),
                         "a position of " + arguments.game);
    // What the command line sets goes before what the file says.
    std::vector<std::string> together = settings;
    for (const PositionFile::Setting& setting : file.settings)
        if (!sets(settings, setting.name)) together.push_back(setting.name + "=" + setting.value);
    try {
        (void)entry.open(together);
    } catch (const InputError& error) {
        const std::string what = error.what();
        for (const PositionFile::Setting& setting : file.settings)
            if (is_about(what, setting.name) && !sets(settings, setting.name))
                at_place(setting.place, [&] { throw InputError("", what); });
        throw;
    }
    settings = std::move(together);
    add_settings_of_profiles(settings, entry, arguments);
    OpenGame game = open_game(tool, arguments.game, settings);
    return at_place(file.position_place, [&] { return Session(std::move(game), file.position); });
}

std::string toml_parameters(const Session& session) {
    std::string parameters;
    for (const Setting& setting : session.game().settings)
        if (!setting.value.empty())
            parameters += setting.name + " = " +
                          (setting.kind == ParameterKind::String ? toml_text(setting.value) : setting.value) + "\n";
    return parameters.empty() ? parameters : "\n[parameters]\n" + parameters;
}

void require_going_on(const Session& session) {
    if (const auto ending = session.ending())
        throw InputError("--position", "the game is over: " + ending->text(), "a position where play goes on");
}

const ChooserInfo& chooser_of(const OpponentSpec& spec, const Session& session) {
    const GameKit& kit = session.game().kit;
    if (const ChooserInfo* info = kit.choosers.find(kit.game, spec.chooser_name())) return *info;
    session.check_opponent(spec);  // says where
    throw InputError("opponent", "there is no such chooser");
}

/// The names of those that the game can have, for complaints about one that does not look ahead.
std::string those_that_look_ahead(const Session& session) {
    const GameKit& kit = session.game().kit;
    std::vector<std::string> names;
    for (const ChooserInfo& info : kit.choosers.infos())
        if (info.looks_ahead && ChooserSet::why_not(kit.game, kit.choosers.resolved(kit.game, info)).empty())
            names.push_back(info.name);
    return any_of_text(names);
}

std::optional<std::vector<GameRecord>> games_in_notation(const Tool& tool, const Session& session,
                                                         const std::string& path) {
    constexpr std::size_t most_bytes = 400'000'000;
    for (const auto& entry : tool.games()) {
        if (entry->name() != session.game().name) continue;
        for (const GamesNotation& notation : entry->notations())
            if (path.ends_with(notation.ending))
                return notation.read(session.game().kit.game, read_text_file(path, most_bytes), path);
    }
    return std::nullopt;
}

OpponentSpec opponent_named(const std::string& text, const Session& session) {
    const auto path = profile_path(text);
    if (!path) return read_opponent(text, session.game().kit.choosers.infos());
    Profile profile = profile_in(path->path);
    if (profile.game.name != session.game().name)
        fail_in_profile(profile, profile.game.place, "the profile is one for " + in_quotes(profile.game.name),
                        "a profile for " + session.game().name);
    for (const auto& [name, value] : profile.parameters)
        for (const Setting& setting : session.game().settings)
            if (setting.name == name.name && setting.value != value)
                fail_in_profile(profile, name.place,
                                "the profile is for " + name.name + " = " + in_quotes(value) + ", and the game has " +
                                    in_quotes(setting.value),
                                "the same, or no value on the command line");
    return opponent_of_profile(std::move(profile), path->level);
}

namespace {

/// Takes an option of a chooser from the command line.
void set_option(OpponentSpec& spec, const Session& session, const ChooserInfo& info, const std::string& where,
                const std::string& name, const std::string& value) {
    for (const OptionInfo& option : info.options) {
        if (option.name != name) continue;
        spec.options.put(name, read_option(option, value, where));
        return;
    }
    // Perhaps another opponent is meant, or another option.
    std::vector<std::string> names, owners;
    for (const OptionInfo& option : info.options) names.push_back(option.name);
    for (const ChooserInfo& other : session.game().kit.choosers.infos())
        for (const OptionInfo& option : other.options)
            if (option.name == name) owners.push_back(other.name);
    const std::string nearest = nearest_of(name, names);
    throw InputError(where, in_quotes(spec.profile ? spec.name : info.name) + " has no option " + in_quotes(name),
                     !owners.empty()    ? "the opponent " + any_of_text(owners)
                     : !nearest.empty() ? nearest + ", perhaps; it has " + any_of_text(names)
                     : !names.empty()   ? any_of_text(names)
                                        : "no option");
}

void set_options(OpponentSpec& spec, const Session& session, const ChooserInfo& info, const Arguments& arguments) {
    for (const bool on : {false, true})
        for (const std::string& name : on ? arguments.with : arguments.without) {
            const std::string option = on ? "--with" : "--without";
            Techniques known;
            if (technique_named(known, name) == nullptr) {
                const std::string nearest = nearest_of(name, technique_names());
                throw InputError(
                    option, "there is no technique " + in_quotes(name),
                    (nearest.empty() ? "" : nearest + ", perhaps; there are ") + any_of_text(technique_names()));
            }
            set_option(spec, session, info, option, name, on ? "true" : "false");
        }
    if (arguments.threads) set_option(spec, session, info, "--threads", "threads", *arguments.threads);
    if (arguments.memory) set_option(spec, session, info, "--memory", "memory", *arguments.memory);
    std::vector<std::string> given;
    for (const std::string& text : arguments.options) {
        const auto equals = text.find('=');
        if (equals == std::string::npos || equals == 0)
            throw InputError("--option", in_quotes(text) + " is not an option with its value", "name=value");
        const std::string name = text.substr(0, equals);
        if (std::find(given.begin(), given.end(), name) != given.end())
            throw InputError("--option " + name, "it is given twice", "one value");
        given.push_back(name);
        set_option(spec, session, info, "--option " + name, name, text.substr(equals + 1));
    }
}

}  // namespace

OpponentSpec opponent_of(const Arguments& arguments, const Session& session, const std::string& otherwise) {
    if (arguments.opponent && arguments.algorithm)
        throw InputError("--algorithm", "--opponent is given too, and both say who decides", "one of the two");
    OpponentSpec spec = opponent_named(arguments.opponent.value_or(arguments.algorithm.value_or(otherwise)), session);
    const ChooserInfo& info = chooser_of(spec, session);
    if (arguments.algorithm && !info.looks_ahead)
        throw InputError("--algorithm", in_quotes(spec.name) + " does not look ahead", those_that_look_ahead(session));
    if (arguments.level) {
        if (arguments.opponent && spec.level)
            throw InputError("--level", "--opponent names a level too", "one of the two");
        spec.level = static_cast<int>(integer_value("--level", *arguments.level, lowest_level, highest_level));
        if (!info.has_levels) throw InputError("--level", in_quotes(spec.name) + " has no levels", "no level");
    }
    set_options(spec, session, info, arguments);
    spec.margins = !arguments.win_or_loss;
    if (arguments.win_or_loss && !info.looks_ahead)
        throw InputError("--win-or-loss", in_quotes(spec.name) + " does not look ahead",
                         those_that_look_ahead(session));
    if (arguments.depth) spec.depth = static_cast<int>(integer_value("--depth", *arguments.depth, 0, max_depth));
    if (arguments.nodes)
        spec.nodes = static_cast<std::uint64_t>(integer_value("--nodes", *arguments.nodes, 1, INT64_MAX));
    if (arguments.playouts)
        spec.playouts = static_cast<std::uint64_t>(integer_value("--playouts", *arguments.playouts, 1, INT64_MAX));
    if (arguments.time) spec.seconds = seconds_value("--time", *arguments.time, false);
    if (arguments.state) {
        spec.state = *arguments.state;
        if (!spec.profile || info.name != "ruled")
            throw InputError("--state", in_quotes(spec.name) + " has no states", "a profile with rules and [state]");
    }
    return spec;
}

std::string usual_opponent(const Session& session) {
    const GameKit& kit = session.game().kit;
    const ChooserInfo* info = kit.choosers.find(kit.game, "standard");
    return info != nullptr && ChooserSet::why_not(kit.game, *info).empty() ? "standard" : "ruled";
}

std::uint64_t seed_of(const Arguments& arguments, std::uint64_t otherwise) {
    if (!arguments.seed) return otherwise;
    return static_cast<std::uint64_t>(integer_value("--seed", *arguments.seed, 0, INT64_MAX));
}

int run_games(const Tool& tool, const Arguments& arguments, const Console& console) {
    console.out << (arguments.format == "json" ? games_as_json(tool.games()) : games_as_text(tool.games()));
    return 0;
}

namespace {

/// Plays moves, or events, given with spaces between them.
void play_moves(Session& session, const std::string& moves) {
    std::size_t number = 0;
    for (const std::string& move : words_of(moves))
        at_place("--moves, move " + std::to_string(++number), [&] { session.play(move); });
}

/// The file of --tree, opened before the search.
class TreeFile {
   public:
    explicit TreeFile(const std::string& path) {
        if (path.ends_with(".json"))
            json_ = std::make_unique<OutputFile>(path);
        else
            picture_ = std::make_unique<TreePictureFile>(path);
    }

    void write(const Subject& subject, const TreeReport& tree) {
        if (picture_) {
            picture_->write(tree);
            return;
        }
        json_->write(tree_as_json(subject, tree));
        json_->commit();
    }

   private:
    std::unique_ptr<OutputFile> json_;
    std::unique_ptr<TreePictureFile> picture_;
};

int decide_once(Session& session, const Arguments& arguments, const Console& console, std::uint64_t seed,
                std::size_t shown) {
    const OpponentSpec spec = opponent_of(arguments, session, usual_opponent(session));
    require_going_on(session);
    if (session.chance_is_next() && !has_views(session.game().kit.game)) {
        if (arguments.tree)
            throw InputError("--tree", "chance is next, so several decisions are looked at",
                             "a position where a player is to move");
        const InterruptGuard guard(console.reads_standard_input);
        const OutlookReport outlook = session.outlook(spec, seed, {steady_seconds, {}}, InterruptGuard::stop_token());
        console.out << (arguments.format == "json" ? outlook_as_json(session.subject(), outlook)
                                                   : outlook_as_text(session.subject(), outlook, Paint(console.colour),
                                                                     session.player_names()));
        return 0;
    }
    std::unique_ptr<TreeFile> file;
    std::optional<SearchedTree<AnyMove>> tree;
    std::size_t tree_nodes = 0;
    if (arguments.tree) {
        if (!chooser_of(spec, session).looks_ahead)
            throw InputError("--tree", in_quotes(spec.name) + " does not look ahead, so there is no tree to draw",
                             those_that_look_ahead(session));
        tree.emplace(static_cast<int>(integer_value("--tree-plies", arguments.tree_plies.value_or("3"), 1, max_depth)));
        tree_nodes = static_cast<std::size_t>(
            integer_value("--tree-nodes", arguments.tree_nodes.value_or("24"), least_tree_nodes, most_tree_nodes));
        file = std::make_unique<TreeFile>(*arguments.tree);
    }
    if (arguments.moves && spec.profile) session.ask_about_the_game(spec, seed, {steady_seconds, {}});
    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: the best found so far
    const Decision<AnyMove> decision = session.decide(
        spec, seed, {steady_seconds, {}}, {.stop = InterruptGuard::stop_token(), .tree = tree ? &*tree : nullptr});
    DecisionReport report = session.report_of(decision, spec);
    report.deeper =
        session.look_deeper(report, spec, seconds_of_a_longer_look, {steady_seconds, {}}, InterruptGuard::stop_token());
    const Subject subject = session.subject();
    console.out << (arguments.format == "json"
                        ? decision_as_json(subject, report)
                        : decision_as_text(subject, report, shown, Paint(console.colour), session.player_names()));
    if (file) {
        if (tree->nodes().empty() && decision.stats.depth > 0)
            throw InputError("--tree",
                             in_quotes(report.searched_by.empty() ? spec.name : report.searched_by) +
                                 " decided, but keeps no one tree that could be drawn",
                             "a search that does, such as montecarlo or standard");
        TreeReport drawn = tree_report(session.game().kit.game, session.position(), *tree, decision, tree_nodes);
        std::string seen = subject.position;
        if (has_views(session.game().kit.game)) {
            seen = session.drawing_for(session.player_to_move());
            seen.resize(std::min(seen.find('\n'), seen.size()));
        }
        drawn.title = subject.game + "  " + settings_text(subject.settings) + "  " + seen + "  " + spec.name;
        file->write(subject, drawn);
    }
    return 0;
}

}  // namespace

namespace {

int decide_side_by_side(Session& session, const Arguments& arguments, const Console& console, std::uint64_t seed,
                        const std::vector<std::string>& opponents, const std::vector<int>& levels) {
    if (arguments.tree) throw InputError("--tree", "several decisions are compared", "one opponent and one level");
    if (std::max<std::size_t>(opponents.size(), 1) * std::max<std::size_t>(levels.size(), 1) > most_compared)
        throw InputError("--opponent", "more than " + std::to_string(most_compared) + " lines to compare",
                         "a shorter list");
    std::vector<OpponentSpec> specs;
    Arguments one = arguments;
    for (std::size_t i = 0; i < std::max<std::size_t>(opponents.size(), 1); ++i)
        for (std::size_t level = 0; level < std::max<std::size_t>(levels.size(), 1); ++level) {
            if (!opponents.empty()) one.opponent = opponents[i];
            if (!levels.empty()) one.level = std::to_string(levels[level]);
            specs.push_back(opponent_of(one, session, usual_opponent(session)));
            session.check_opponent(specs.back());
        }
    require_going_on(session);
    if (session.chance_is_next())
        throw InputError("--opponent", "chance is next", "a position where a player is to move");
    std::vector<DecisionReport> reports;
    for (const OpponentSpec& spec : specs) {
        if (arguments.moves && spec.profile) session.ask_about_the_game(spec, seed, {steady_seconds, {}});
        reports.push_back(session.report_of(session.decide(spec, seed, {steady_seconds, {}}), spec));
    }
    if (arguments.format == "json") {
        std::vector<ComparisonRow> rows;
        for (DecisionReport& report : reports) rows.push_back({std::move(report), -1});
        console.out << comparison_as_json(session.subject(), rows);
    } else {
        console.out << side_by_side_as_text(session.subject(), reports, Paint(console.colour), session.player_names());
    }
    return 0;
}

}  // namespace

/// Hidden hands that are still to be dealt are dealt by the seed, and it is said: a decision before them is none.
static std::string deal_hands(Session& session, const Arguments& arguments, std::uint64_t seed) {
    const AnyGame& game = session.game().kit.game;
    if (!has_views(game) || !session.chance_is_next()) {
        if (arguments.deal) throw InputError("--deal", "nothing is to be dealt", "a position where cards are dealt");
        return {};
    }
    const std::uint64_t deal =
        arguments.deal ? static_cast<std::uint64_t>(integer_value("--deal", *arguments.deal, 0, INT64_MAX)) : seed;
    Random random(derived_seed(deal, 17));
    int events = 0;
    while (session.let_chance_act(random)) ++events;
    return "dealt by the number " + std::to_string(deal) + " (" + std::to_string(events) +
           " events); --deal N deals otherwise\n";
}

static int decide_in(Session& session, const Arguments& arguments, const Console& console, std::uint64_t seed);

int run_decide(const Tool& tool, const Arguments& arguments, const Console& console) {
    Session session = open_session(tool, arguments);
    if (arguments.moves) play_moves(session, *arguments.moves);
    const std::uint64_t seed = seed_of(arguments, 0);
    const std::string dealt = deal_hands(session, arguments, seed);
    const int status = decide_in(session, arguments, console, seed);
    console.err << dealt;
    return status;
}

static int decide_in(Session& session, const Arguments& arguments, const Console& console, std::uint64_t seed) {
    const std::size_t shown =
        arguments.show ? static_cast<std::size_t>(integer_value("--show", *arguments.show, 0, INT_MAX)) : ranked_shown;

    // So does a list of opponents or levels, whose decisions are explained side by side.
    const auto opponents = arguments.opponent ? comma_parts(*arguments.opponent) : std::vector<std::string>{};
    const auto levels =
        arguments.level ? number_list("--level", *arguments.level, lowest_level, highest_level) : std::vector<int>{};
    if (opponents.size() > 1 || levels.size() > 1)
        return decide_side_by_side(session, arguments, console, seed, opponents, levels);

    // A list of algorithms or depths asks for a comparison; each of its lines is a decision of its own.
    const auto algorithms = arguments.algorithm ? comma_parts(*arguments.algorithm) : std::vector<std::string>{};
    const auto depths = arguments.depth ? number_list("--depth", *arguments.depth, 0, max_depth) : std::vector<int>{};
    if (algorithms.size() <= 1 && depths.size() <= 1) return decide_once(session, arguments, console, seed, shown);
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
            specs.push_back(opponent_of(one, session, usual_opponent(session)));
            if (!chooser_of(specs.back(), session).looks_ahead)
                throw InputError("--depth",
                                 in_quotes(specs.back().name) + " does not look ahead, so there is nothing to compare",
                                 those_that_look_ahead(session));
            session.check_opponent(specs.back());
        }
    require_going_on(session);
    std::vector<ComparisonRow> rows;
    for (const OpponentSpec& spec : specs)
        rows.push_back(
            {session.report_of(session.decide(spec, seed, {steady_seconds, {}}), spec), spec.depth.value_or(-1)});
    console.out << (arguments.format == "json"
                        ? comparison_as_json(session.subject(), rows)
                        : comparison_as_text(session.subject(), rows, Paint(console.colour), session.player_names()));
    return 0;
}

int run_count(const Tool& tool, const Arguments& arguments, const Console& console) {
    Session session = open_session(tool, arguments);
    const int depth = static_cast<int>(integer_value("--depth", arguments.depth.value_or("4"), 1, max_depth));
    require_going_on(session);
    const Subject subject = session.subject();
    const CountOptions options{arguments.table, arguments.quick ? LastPly::Counted : LastPly::Played};
    CountReport report;
    report.counts = session.count(depth, options);
    if (arguments.split)
        for (const std::string& move : session.legal_moves()) {
            session.play(move);
            // The sequences of this length that begin with the move; none where it ends the game.
            LargeCount sequences = depth == 1 ? 1 : 0;
            if (depth > 1 && !session.ending()) sequences = session.count(depth - 1, options).back().sequences;
            report.by_first_move.emplace_back(move, sequences);
            session.take_back();
        }
    console.out << (arguments.format == "json" ? count_as_json(subject, report) : count_as_text(subject, report));
    return 0;
}

int run_solve(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    SolveOptions options;
    options.memory_mebibytes =
        static_cast<std::size_t>(integer_value("--memory", arguments.memory.value_or("1024"), 1, most_table_mebibytes));
    if (arguments.time) options.seconds = seconds_value("--time", *arguments.time, false);
    options.clock = steady_seconds;
    options.margins = !arguments.win_or_loss;
    options.hint = !arguments.no_hint;
    if (arguments.threads)
        options.threads = static_cast<int>(integer_value("--threads", *arguments.threads, 1, most_threads));
    require_going_on(session);
    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: what is proven so far
    options.stop = InterruptGuard::stop_token();
    if (console.shows_progress)
        options.progress = [&](Payoff least, Payoff most, std::uint64_t positions) {
            console.err << "\r" << grouped(positions) << " positions; worth " << worth_text(least, most) << "   "
                        << std::flush;
        };
    const SolutionReport report = session.solve(options, arguments.sampled);
    if (console.shows_progress) console.err << "\r" << std::string(78, ' ') << "\r" << std::flush;
    console.out << (arguments.format == "json"
                        ? solution_as_json(session.subject(), report)
                        : solution_as_text(session.subject(), report, Paint(console.colour), session.player_names()));
    return report.complete ? 0 : 1;
}

int run_odds(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    Arguments of_opponent = arguments;
    of_opponent.threads.reset();  // of the games, not of a search
    // Not at full strength: many quick games tell more.
    const std::string otherwise = usual_opponent(session) + (arguments.level ? "" : "@5");
    const OpponentSpec spec = opponent_of(of_opponent, session, otherwise);
    MatchOptions options;
    options.games = static_cast<int>(integer_value("--games", arguments.games.value_or("200"), 1, most_games));
    options.threads = threads_of(arguments);
    options.opening_plies = opening_plies_of(arguments, has_chance(session.game().kit.game) ? 0 : 4);
    options.seed = seed_of(arguments, 0);
    options.clock = steady_seconds;
    require_going_on(session);
    session.check_match(spec, spec, options, {});
    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: by the games that are finished
    options.stop = InterruptGuard::stop_token();
    OddsReport report;
    {
        ProgressBar progress(console, options.games);
        int done = 0;
        report = session.odds(spec, options, [&] { progress.show(++done, plain_line(opponent_title(spec))); });
    }
    report.opponent = plain_line(opponent_text(spec));
    report.title = plain_line(opponent_title(spec));
    report.seed = options.seed;
    report.complete = !InterruptGuard::interrupted();
    console.out << (arguments.format == "json" ? odds_as_json(session.subject(), report)
                                               : odds_as_text(session.subject(), report, Paint(console.colour)));
    return report.complete ? 0 : 1;
}

}  // namespace arvek::tool
