#include "arguments.hpp"

#include <CLI/CLI.hpp>
#include <algorithm>

#include "arvek/session/plain_text.hpp"
#include "arvek/version.hpp"
#include "values.hpp"

namespace arvek::tool {

namespace {

#define ARVEK_TEXT_OF(x) #x
#define ARVEK_TEXT(x) ARVEK_TEXT_OF(x)
constexpr const char* version =
    ARVEK_TEXT(ARVEK_VERSION_MAJOR) "." ARVEK_TEXT(ARVEK_VERSION_MINOR) "." ARVEK_TEXT(ARVEK_VERSION_PATCH);
#undef ARVEK_TEXT
#undef ARVEK_TEXT_OF

CLI::App* add_verb(CLI::App& app, Arguments& arguments, const std::string& name, const std::string& summary) {
    CLI::App* verb = app.add_subcommand(name, summary);
    verb->group("Verbs");
    verb->callback([&arguments, name] { arguments.verb = name; });
    verb->add_option("--format", arguments.format, "text for people, or json: one document and nothing else")
        ->option_text("text|json");
    return verb;
}

CLI::App* add_game_verb(CLI::App& app, Arguments& arguments, const std::string& name, const std::string& summary) {
    CLI::App* verb = add_verb(app, arguments, name, summary);
    verb->add_option("game", arguments.game, "the game")->option_text("GAME")->required();
    verb->add_option("--set", arguments.settings, "a rule parameter; may be repeated")
        ->option_text("NAME=VALUE")
        ->allow_extra_args(false);
    verb->add_option("--rules", arguments.rules, "a program that knows the game; again for each of its arguments")
        ->option_text("PROGRAM")
        ->allow_extra_args(false);
    verb->add_option("--position", arguments.position,
                     "where to begin: a position's text, or a .toml file that holds it")
        ->option_text("TEXT");
    return verb;
}

void add_seed(CLI::App* verb, Arguments& arguments, const std::string& meaning) {
    verb->add_option("--seed", arguments.seed, meaning)->option_text("N");
}

/// `compares`: whether several depths may be asked for.
void add_limits(CLI::App* verb, Arguments& arguments, bool compares = true) {
    verb->add_option("--depth", arguments.depth,
                     compares ? "how many plies to look ahead; a range such as 0..6 compares them"
                              : "how many plies to look ahead")
        ->option_text("N");
    verb->add_option("--nodes", arguments.nodes, "look at so many positions at the most")->option_text("N");
    verb->add_option("--playouts", arguments.playouts, "play out so often at the most, where playouts decide")
        ->option_text("N");
    verb->add_option("--time", arguments.time, "think for so long at the most")->option_text("SECONDS");
}

void add_threads(CLI::App* verb, Arguments& arguments) {
    verb->add_option("--threads", arguments.threads, "how many threads search; 1 by default, which repeats exactly")
        ->option_text("N");
}

void add_memory(CLI::App* verb, Arguments& arguments, const std::string& meaning) {
    verb->add_option("--memory", arguments.memory, meaning)->option_text("MIB");
}

void add_options(CLI::App* verb, Arguments& arguments) {
    verb->add_option("--option", arguments.options, "an option of the opponent, as 'games --format json' lists them")
        ->option_text("NAME=VALUE")
        ->allow_extra_args(false);
}

void add_win_or_loss(CLI::App* verb, Arguments& arguments, const std::string& meaning) {
    verb->add_flag("--win-or-loss", arguments.win_or_loss, meaning);
}

void add_openings(CLI::App* verb, Arguments& arguments) {
    verb->add_option("--opening-plies", arguments.opening_plies,
                     "random moves before the opponents begin, alike for both games of a pair")
        ->option_text("N");
    verb->add_option("--openings", arguments.openings, "a file of openings, a line of moves each, one for each pair")
        ->option_text("FILE");
}

/// `what`: "league", as it is called where it goes on.
void add_record(CLI::App* verb, Arguments& arguments, const std::string& what) {
    verb->add_option("--record", arguments.record, "write each game to the file as it ends, a line of JSON each")
        ->option_text("FILE");
    verb->add_flag("--resume", arguments.resume, "go on with the " + what + " that the --record file holds a part of");
}

void add_time_of_decisions(CLI::App* verb, Arguments& arguments) {
    verb->add_option("--time", arguments.time,
                     "a decision may take so long; who takes over twice as long loses the game")
        ->option_text("SECONDS");
}

void add_plot(CLI::App* verb, Arguments& arguments, const std::string& what) {
    verb->add_option("--plot", arguments.plot, "draw " + what + ": a name that ends in .svg or .png")
        ->option_text("FILE");
}

void add_report(CLI::App* verb, Arguments& arguments) {
    verb->add_option("--report", arguments.report, "write all of it as one page that opens anywhere")
        ->option_text("FILE.html");
}

void add_jobs(CLI::App* verb, Arguments& arguments) {
    verb->add_option("--threads", arguments.threads, "how many games are played at once; one a core by default")
        ->option_text("N");
}

/// Throws InputError unless the command line begins with a verb or an option of the tool itself.
void require_verb(const CLI::App& app, const std::string& program, const std::vector<std::string>& given) {
    std::vector<std::string> verbs;
    for (const CLI::App* verb : app.get_subcommands([](const CLI::App*) { return true; }))
        verbs.push_back(verb->get_name());
    const std::string help = "; see '" + program + " --help'";
    if (given.empty()) throw InputError("", "no verb is given" + help, any_of_text(verbs));
    const std::string& first = given.front();
    if (first.empty() || first[0] == '-' || std::find(verbs.begin(), verbs.end(), first) != verbs.end()) return;
    const std::string nearest = nearest_of(first, verbs);
    throw InputError("", "there is no verb " + in_quotes(first) + help,
                     (nearest.empty() ? "" : nearest + ", perhaps; there are ") + any_of_text(verbs));
}

/// A verb with its options, as completion and manual need them.
struct VerbWords {
    const CLI::App* app;
    std::vector<const CLI::Option*> options, places;
};
std::vector<VerbWords> verbs_of(const CLI::App& app) {
    std::vector<VerbWords> verbs;
    for (const CLI::App* verb : app.get_subcommands([](const CLI::App*) { return true; })) {
        VerbWords& words = verbs.emplace_back(VerbWords{verb, {}, {}});
        for (const CLI::Option* option : verb->get_options())
            (option->get_positional() ? words.places : words.options).push_back(option);
    }
    return verbs;
}
/// "--depth", or "-h" where there is no long name.
std::string name_of(const CLI::Option& option) {
    return !option.get_lnames().empty() ? "--" + option.get_lnames().front() : "-" + option.get_snames().front();
}
std::string completion_of(const CLI::App& app, const std::string& program, const std::string& shell) {
    const auto verbs = verbs_of(app);
    if (shell == "fish") {
        std::string text = "complete -c " + program + " -f\n";
        const auto add = [&](const std::string& where, const std::string& what, const std::string& about) {
            text +=
                "complete -c " + program + " -n " + shell_text(where) + " " + what + " -d " + shell_text(about) + "\n";
        };
        for (const VerbWords& verb : verbs) {
            add("__fish_use_subcommand", "-a " + verb.app->get_name(), verb.app->get_description());
            for (const CLI::Option* option : verb.options)
                if (!option->get_lnames().empty())
                    add("__fish_seen_subcommand_from " + verb.app->get_name(),
                        "-l " + option->get_lnames().front() + (option->get_items_expected_max() > 0 ? " -r -F" : ""),
                        option->get_description());
        }
        return text;
    }
    if (shell != "bash" && shell != "zsh")
        throw InputError("completion", "there is no script for " + in_quotes(shell), "bash, zsh or fish");
    std::string names, cases;
    for (const VerbWords& verb : verbs) {
        names += (names.empty() ? "" : " ") + verb.app->get_name();
        std::string options;
        for (const CLI::Option* option : verb.options) options += (options.empty() ? "" : " ") + name_of(*option);
        cases += "        " + verb.app->get_name() + ") words=" + shell_text(options) + " ;;\n";
    }
    // Zsh reads the same, with what it has for bash.
    return std::string(shell == "zsh" ? "autoload -U +X bashcompinit && bashcompinit\n" : "") + "_" + program +
           "_words() {\n" +
           "    local word=${COMP_WORDS[COMP_CWORD]} words=\n    if [ \"$COMP_CWORD\" -eq 1 ]; then\n        words=" +
           shell_text(names) + "\n    else\n        case ${COMP_WORDS[1]} in\n" + cases +
           "        esac\n    fi\n    COMPREPLY=($(compgen -W \"$words\" -- \"$word\"))\n}\ncomplete -o default -F _" +
           program + "_words " + program + "\n";
}

/// As roff: what it takes for a command is put out of action.
std::string roff_text(const std::string& text) {
    std::string safe;
    for (std::size_t i = 0; i < text.size(); ++i) {
        if (text[i] == '\\')
            safe += "\\e";
        else if (text[i] == '-')
            safe += "\\-";
        else if ((text[i] == '.' || text[i] == '\'') && (i == 0 || text[i - 1] == '\n'))
            safe += std::string("\\&") + text[i];
        else
            safe += text[i];
    }
    return safe;
}

std::string manual_of(const CLI::App& app, const std::string& program) {
    std::string upper = program;
    for (char& each : upper)
        if (each >= 'a' && each <= 'z') each = static_cast<char>(each - 'a' + 'A');
    std::string text =
        ".TH " + upper + " 1 \"\" \"" + program + " " + version + "\" \"Games and their computer players\"\n" +
        ".SH NAME\n" + roff_text(program) + " \\- computer players of board, card and turn-based games\n" +
        ".SH SYNOPSIS\n.B " + roff_text(program) + "\n.I VERB\n[options]\n.SH DESCRIPTION\n" +
        roff_text(app.get_description()) + "\n.PP\nExit status: 0 done, 1 what was checked or played did not hold, " +
        "2 wrong use, with a message on standard error.\n.SH VERBS\n";
    for (const VerbWords& verb : verbs_of(app)) {
        text += ".SS " + roff_text(verb.app->get_name());
        for (const CLI::Option* place : verb.places) text += " " + roff_text(place->get_option_text());
        text += "\n" + roff_text(verb.app->get_description()) + ".\n";
        for (const CLI::Option* option : verb.options) {
            if (name_of(*option) == "--help") continue;
            text += ".TP\n.B " + roff_text(name_of(*option));
            if (!option->get_option_text().empty()) text += " \\fI" + roff_text(option->get_option_text()) + "\\fR";
            text += "\n" + roff_text(option->get_description()) + "\n";
        }
    }
    return text;
}

}  // namespace

/// What is wrong with the first option that the verb does not have, and what was probably meant; nothing where it has all.
static std::optional<std::string> unknown_option(const CLI::App& verb, const std::vector<std::string>& given) {
    std::vector<std::string> known;
    for (const CLI::Option* option : verb.get_options())
        for (const std::string& name : option->get_lnames()) known.push_back("--" + name);
    for (const std::string& word : given) {
        if (!word.starts_with("--") || word.size() < 3) continue;
        const std::string name = word.substr(0, word.find('='));
        if (std::find(known.begin(), known.end(), name) != known.end()) continue;
        const std::string nearest = nearest_of(name, known);
        return "there is no option " + in_quotes(name) +
               (nearest.empty() ? "" : "; did you mean " + in_quotes(nearest) + "?");
    }
    return std::nullopt;
}

ParsedCommandLine parse_command_line(const std::string& program, const std::vector<std::string>& given) {
    ParsedCommandLine parsed;
    Arguments& arguments = parsed.arguments;
    CLI::App app("The computer players of " + program + ": play against them, ask them why, count, compare.", program);
    app.set_version_flag("--version", program + " " + version);
    app.require_subcommand(1);
    app.get_formatter()->column_width(26);
    app.get_formatter()->label("SUBCOMMAND", "VERB");

    add_verb(app, arguments, "games", "lists the games, their parameters with ranges and defaults");

    CLI::App* play = add_game_verb(app, arguments, "play", "a person against an opponent in the terminal");
    play->add_option("--opponent", arguments.opponent, "the opponent, perhaps with a level")
        ->option_text("NAME[@LEVEL] or FILE.toml[@LEVEL]");
    play->add_option("--level", arguments.level, "its level of difficulty, 1 to 10")->option_text("N");
    play->add_option("--as", arguments.as, "the side that people play, several with commas; the first by default")
        ->option_text("SIDE[,SIDE]");
    play->add_option("--pace", arguments.pace, "how long an answer takes at the least; 0 when piped")
        ->option_text("SECONDS");
    play->add_option("--remember", arguments.remember,
                     "a file in which the opponent keeps the openings that it played, so as to play others")
        ->option_text("FILE");
    play->add_option("--person", arguments.person,
                     "a file of the person's results: the level begins where the person is, and this game is added")
        ->option_text("FILE.jsonl");
    play->add_flag("--scroll", arguments.scroll,
                   "moves follow each other down the terminal, instead of the board being drawn over");
    play->add_option("--log", arguments.log, "write why the opponent's moves were chosen; 'story' reads it")
        ->option_text("FILE");
    add_threads(play, arguments);
    add_memory(play, arguments, "MiB for the table of the standard search; 16 by default");
    add_options(play, arguments);
    play->add_option("--time", arguments.time, "the opponent thinks for so long at the most, besides its level")
        ->option_text("SECONDS");
    add_win_or_loss(play, arguments, "the opponent plays to win, not for the margin");
    add_seed(play, arguments, "seed of the opponent's choices; without it games differ");

    CLI::App* decide = add_game_verb(app, arguments, "decide", "one decision, ranked and explained");
    decide
        ->add_option("--opponent", arguments.opponent,
                     "who decides, perhaps with a level; several with commas are shown side by side")
        ->option_text("NAME[@LEVEL] or FILE.toml[@LEVEL]");
    decide
        ->add_option("--level", arguments.level,
                     "its level of difficulty, 1 to 10; a range such as 1..10 compares them")
        ->option_text("N");
    decide
        ->add_option(
            "--algorithm", arguments.algorithm,
            "what looks ahead, such as standard, alphabeta, montecarlo or, with dice, expectation; a list with commas "
            "compares them")
        ->option_text("NAME[,NAME]");
    decide
        ->add_option("--deal", arguments.deal,
                     "where cards are still to be dealt, deal them by this number; by the seed otherwise")
        ->option_text("N");
    add_limits(decide, arguments);
    decide->add_option("--without", arguments.without, "switch a technique of the standard search off; may be repeated")
        ->option_text("NAME")
        ->allow_extra_args(false);
    decide->add_option("--with", arguments.with, "switch one on that is off by default")
        ->option_text("NAME")
        ->allow_extra_args(false);
    decide
        ->add_option("--moves", arguments.moves,
                     "moves that are played from the position first; what the opponent did in them it remembers")
        ->option_text("\"MOVE MOVE ...\"");
    decide->add_option("--state", arguments.state, "what the rules of a profile remember: \"phase=2 turn=31\"")
        ->option_text("\"NAME=VALUE ...\"");
    add_threads(decide, arguments);
    add_memory(decide, arguments, "MiB for the table of the standard search; 16 by default");
    add_options(decide, arguments);
    add_win_or_loss(decide, arguments, "only win, draw or loss counts at the end, not the margin");
    decide
        ->add_option("--tree", arguments.tree,
                     "draw the tree that was searched: a name that ends in .svg, .png, .dot or .json")
        ->option_text("FILE");
    decide->add_option("--tree-plies", arguments.tree_plies, "how many plies of it; 3 by default")->option_text("N");
    decide->add_option("--tree-nodes", arguments.tree_nodes, "how many positions of it at the most; 24 by default")
        ->option_text("N");
    decide->add_option("--show", arguments.show, "how many of the ranked moves to show; 0 for all")->option_text("N");
    add_seed(decide, arguments, "decides among equally good moves");

    CLI::App* count = add_game_verb(app, arguments, "count", "how many move sequences there are at each depth");
    count->add_option("--depth", arguments.depth, "the greatest length, in plies; 4 by default")->option_text("N");

    count->add_flag("--split", arguments.split, "also by first move");
    count->add_flag("--table", arguments.table, "count each position once; needs the game's hash");
    count
        ->add_flag("--quick", arguments.quick,
                   "do not look which of the longest end the game; much faster where the game can tell how many moves "
                   "there are")
        ->excludes("--table");

    CLI::App* solve = add_game_verb(app, arguments, "solve", "the exact value and every best move");
    add_memory(solve, arguments, "MiB to work in; 1024 by default");
    solve->add_option("--time", arguments.time, "give up after so long, and say what is proven")
        ->option_text("SECONDS");
    add_win_or_loss(solve, arguments, "settle only win, draw or loss, not the margin");
    add_threads(solve, arguments);
    solve->add_flag("--no-hint", arguments.no_hint,
                    "order moves by the fewest replies, not by the game's hint, which may be weak");
    solve->add_flag("--sampled", arguments.sampled,
                    "with hidden hands: on drawn games, where the whole tree is too large");

    CLI::App* odds = add_game_verb(app, arguments, "odds",
                                   "what a lead is worth: how the evaluation tells who wins, measured from play");
    odds->add_option("--opponent", arguments.opponent,
                     "who plays against itself, perhaps with a level; standard@5 by default")
        ->option_text("NAME[@LEVEL] or FILE.toml[@LEVEL]");
    odds->add_option("--level", arguments.level, "its level of difficulty, 1 to 10")->option_text("N");
    add_limits(odds, arguments, false);
    odds->add_option("--games", arguments.games, "how many games; 200 by default")->option_text("N");
    odds->add_option("--opening-plies", arguments.opening_plies, "how many random moves begin each game")
        ->option_text("N");
    add_jobs(odds, arguments);
    add_seed(odds, arguments, "seed of the games");

    CLI::App* check = add_game_verb(app, arguments, "check", "whether a game's rules are sound");
    add_report(check, arguments);
    check->add_option("--games", arguments.games, "how many games to play at the most; without --time the only limit")
        ->option_text("N");
    check->add_option("--time", arguments.time, "how long to look at the most; 10 by default, less where all was seen")
        ->option_text("SECONDS");
    add_seed(check, arguments, "seed of the games");
    check->add_option("--moves", arguments.moves, "look at the end of these moves alone: is a fault mended?")
        ->option_text("\"MOVE MOVE ...\"");
    check->add_option("--facts", arguments.facts, "hold what a file of facts says against the rules, and nothing else")
        ->option_text("FILE.toml");
    check
        ->add_option("--watch", arguments.watch,
                     "in a process of its own, so that a crash is reported, or a call that takes so many seconds")
        ->option_text("SECONDS");

    CLI::App* match = add_game_verb(app, arguments, "match", "two opponents, many games, with the error bars");
    add_report(match, arguments);
    match->add_option("opponents", arguments.opponents, "the two opponents")
        ->option_text("A B")
        ->required()
        ->expected(2);
    match->add_option("--games", arguments.games, "how many games; 100 by default")->option_text("N");
    add_openings(match, arguments);
    match->add_flag("--until-sure", arguments.until_sure,
                    "stop when it is sure who is better: at most 5 % wrong where one wins 55 % of decided games");
    add_jobs(match, arguments);
    add_time_of_decisions(match, arguments);
    match->add_flag("--records", arguments.records, "also give the moves of every game");
    add_record(match, arguments, "match");
    match->add_option("--log", arguments.log, "write why every move was chosen, a line of JSON each; 'story' reads it")
        ->option_text("FILE");
    add_seed(match, arguments, "seed of the match");

    CLI::App* league =
        add_game_verb(app, arguments, "league", "any number of opponents, with ratings and a cross table");
    add_report(league, arguments);
    league->add_option("opponents", arguments.opponents, "two opponents or more")
        ->option_text("A B ...")
        ->required()
        ->expected(2, most_league_players);
    league->add_option("--games", arguments.games, "how many games of each two; 100 by default")->option_text("N");
    league->add_flag("--against-first", arguments.against_first, "everybody meets the first alone, and nobody else");
    add_openings(league, arguments);
    league->add_flag("--until-sure", arguments.until_sure, "stop when the order is sure: at most 5 % wrong");
    add_jobs(league, arguments);
    add_time_of_decisions(league, arguments);
    add_record(league, arguments, "league");
    add_plot(league, arguments, "the ratings");
    add_seed(league, arguments, "seed of the games");

    CLI::App* weigh =
        add_verb(app, arguments, "weigh", "weights of an evaluation from recorded games, by who won them");
    weigh->add_option("record", arguments.game, "a file that --record has written")->option_text("FILE")->required();
    weigh->add_option("--feature", arguments.features, "a quantity of positions; may be repeated. All by default")
        ->option_text("NAME")
        ->allow_extra_args(false);
    weigh->add_option("--ridge", arguments.ridge, "holds back what the games say little of; 10 by default")
        ->option_text("N");
    weigh->add_option("--out", arguments.out, "write a profile with these weights")->option_text("FILE.toml");

    CLI::App* book = add_game_verb(app, arguments, "book",
                                   "builds an opening book: replies that lose next to nothing, several of them");
    book->add_option("--opponent", arguments.opponent, "who judges; what looks ahead")->option_text("NAME");
    book->add_option("--plies", arguments.plies, "how far it goes; 6 by default")->option_text("N");
    book->add_option("--width", arguments.width, "how many replies to a position at the most; 3 by default")
        ->option_text("N");
    book->add_option("--most-lost", arguments.most_lost,
                     "percent of the chance to win that a reply may lose; 3 by default")
        ->option_text("N");
    book->add_option("--positions", arguments.positions, "how many positions at the most; 500 by default")
        ->option_text("N");
    book->add_option("--nodes", arguments.nodes, "positions that a look at each may take; 50000 by default")
        ->option_text("N");
    book->add_option(
            "--from", arguments.sources,
            "look only at what was played there: a record of games, PGN, or a profile with a book; may be repeated, "
            "which joins them")
        ->option_text("FILE")
        ->allow_extra_args(false);
    book->add_option("--least-games", arguments.least_games, "replies of fewer games are left out; 2 by default")
        ->option_text("N");
    book->add_flag("--solved", arguments.solved, "judge by solving each position exactly");
    book->add_flag("--unjudged", arguments.unjudged, "take what was played, or what books have, as it is");
    book->add_option("--blunders-of", arguments.blunders_of,
                     "not openings: the positions of the games in which that opponent blunders, and what is better")
        ->option_text("NAME[@LEVEL] or FILE.toml[@LEVEL]");
    book->add_option("--check", arguments.check_book,
                     "judge and list a book that is there; status 1 where a reply loses too much")
        ->option_text("FILE.toml");
    book->add_option("--out", arguments.out, "write a profile that opens by it")->option_text("FILE.toml");
    add_seed(book, arguments, "decides among equals");

    CLI::App* levels = add_game_verb(app, arguments, "levels", "measures an opponent's levels: a ladder of ratings");
    add_report(levels, arguments);
    levels->add_option("--opponent", arguments.opponent, "whose levels")->option_text("NAME");
    levels->add_option("--levels,--level", arguments.levels, "which of them; 1..10 by default")->option_text("N..M");
    levels->add_option("--games", arguments.games, "how many games of each two; 100 by default")->option_text("N");
    add_openings(levels, arguments);
    add_jobs(levels, arguments);
    levels->add_flag("--fit", arguments.fit,
                     "measure how strong which settings are, and place ten levels by even steps");
    levels->add_option("--time", arguments.time, "measure for about so long, to fit; 240 by default")
        ->option_text("SECONDS");
    levels->add_flag("--whole-range", arguments.whole_range,
                     "fitted, level 10 is the full strength, however large the steps");
    levels->add_option("--out", arguments.out, "write the fitted levels as a profile")->option_text("FILE.toml");
    add_plot(levels, arguments, "the ladder");
    add_seed(levels, arguments, "seed of the games");

    CLI::App* uci = app.add_subcommand("uci", "speaks the open chess protocol (UCI), for a game with coordinates");
    uci->group("Verbs");
    uci->callback([&arguments] { arguments.verb = "uci"; });
    uci->add_option("game", arguments.game, "the game")->option_text("GAME")->required();
    uci->add_option("--set", arguments.settings, "a rule parameter; may be repeated")
        ->option_text("NAME=VALUE")
        ->allow_extra_args(false);
    uci->add_option("--opponent", arguments.opponent, "who decides until the interface sets another")
        ->option_text("NAME[@LEVEL] or FILE.toml[@LEVEL]");

    CLI::App* serve =
        app.add_subcommand("serve", "games for any language: JSON-RPC 2.0, a message a line, on standard input");
    serve->group("Verbs");
    serve->callback([&arguments] { arguments.verb = "serve"; });
    serve->add_option("--rules", arguments.rules, "a program that knows one more game; again for each of its arguments")
        ->option_text("PROGRAM")
        ->allow_extra_args(false);

    add_memory(serve, arguments, "for the tables and trees of all sessions together; 4096 by default");

    CLI::App* workbench = add_game_verb(app, arguments, "workbench",
                                        "a page in a browser: play, see it think, edit an opponent, play matches");
    workbench
        ->add_option("--opponent", arguments.opponent, "who sits opposite at first; a profile may be named here alone")
        ->option_text("NAME[@LEVEL] or FILE.toml[@LEVEL]");
    add_memory(workbench, arguments, "for the tables and trees of all sessions together; 1024 by default");
    workbench->add_option("--port", arguments.port, "the port of the address; one that is free by default")
        ->option_text("N");

    add_game_verb(app, arguments, "words", "everything that a profile may name, with its meaning and its value now");

    CLI::App* story = add_verb(app, arguments, "story", "reads a log of games: which rule did what, and why");
    story->add_option("log", arguments.game, "a file that --log has written")->option_text("FILE")->required();
    story->add_option("--game", arguments.games, "which game; the first by default")->option_text("N");
    story->add_option("--ply", arguments.ply, "the decision after so many plies, opened")->option_text("N");
    story
        ->add_option("--turning-points", arguments.turning_points,
                     "so many decisions that lost the most of the chance to win, by a search afterwards")
        ->option_text("N");
    story->add_option("--nodes", arguments.nodes, "positions that the search looks at each time; 20000 by default")
        ->option_text("N");

    CLI::App* sweep =
        add_game_verb(app, arguments, "sweep", "a number of a profile over several values, a match with each");
    sweep->add_option("opponents", arguments.opponents, "the profile, and its rival")
        ->option_text("FILE.toml[@LEVEL] RIVAL")
        ->required()
        ->expected(2);
    sweep->add_option("--key", arguments.key, "which number, such as temperament.hunger.value or rule.NAME.chance")
        ->option_text("KEY");
    sweep->add_option("--values", arguments.values, "its values")->option_text("N,N,...");
    sweep->add_option("--games", arguments.games, "how many games with each; 100 by default")->option_text("N");
    sweep->add_option("--opening-plies", arguments.opening_plies, "how many random moves begin each pair of games")
        ->option_text("N");
    add_plot(sweep, arguments, "the scores");
    add_jobs(sweep, arguments);
    add_seed(sweep, arguments, "seed of the matches");

    CLI::App* tune = add_game_verb(app, arguments, "tune", "makes numbers of a profile better by playing");
    add_report(tune, arguments);
    tune->add_option("opponents", arguments.opponents, "the profile, perhaps with a level")
        ->option_text("FILE.toml[@LEVEL]")
        ->required()
        ->expected(1);
    tune->add_option("--number", arguments.numbers,
                     "a number and its range; may be repeated. Between integers only integers do, if it is one")
        ->option_text("KEY=LOW..HIGH")
        ->allow_extra_args(false);
    tune->add_option("--method", arguments.method,
                     "perturbation, for any number of numbers, or surface, for six at most")
        ->option_text("NAME");
    tune->add_option("--steps", arguments.steps, "how many steps; 200 by default, 60 of a surface")->option_text("N");
    tune->add_option("--games", arguments.games, "how many games a step; 16 by default")->option_text("N");
    tune->add_option("--test-games", arguments.test_games,
                     "at the most so many games until the candidate is surely better; 2000 by default")
        ->option_text("N");
    tune->add_option("--confirm", arguments.confirm,
                     "so many fresh games of what was taken; 400 by default, 0 for none")
        ->option_text("N");
    add_openings(tune, arguments);
    add_jobs(tune, arguments);
    tune->add_option("--out", arguments.out,
                     "write the profile with the better numbers, beside the one that it comes from")
        ->option_text("FILE.toml");
    add_record(tune, arguments, "tuning");
    add_plot(tune, arguments, "the course of the numbers");
    add_seed(tune, arguments, "seed of the tuning");

    CLI::App* habits =
        add_game_verb(app, arguments, "habits", "whether opponents repeat themselves, and what decides their moves");
    habits->add_option("opponents", arguments.opponents, "whose habits; two are compared")
        ->option_text("NAME[@LEVEL] or FILE.toml[@LEVEL]")
        ->required()
        ->expected(1, 20);
    habits->add_option("--games", arguments.games, "how many games of each; 100 by default")->option_text("N");
    habits->add_option("--against", arguments.against, "whom all play; by default each plays itself")
        ->option_text("NAME[@LEVEL] or FILE.toml[@LEVEL]");
    habits->add_option("--plies", arguments.plies, "how many moves are an opening; 6 by default")->option_text("N");
    add_jobs(habits, arguments);
    add_seed(habits, arguments, "seed of the games");

    CLI::App* learn =
        add_game_verb(app, arguments, "learn", "learns what positions are worth by playing against itself");
    learn
        ->add_option("--method", arguments.method,
                     "search, from what a search sees and what comes of it; or differences, from one ply ahead")
        ->option_text("NAME");
    learn->add_option("--algorithm", arguments.algorithm, "the search that plays and is to know; standard by default")
        ->option_text("NAME");
    learn->add_option("--nodes", arguments.nodes, "look at so many positions a move while learning; 300 by default")
        ->option_text("N");
    learn->add_option("--depth", arguments.depth, "look so many plies ahead instead")->option_text("N");
    learn->add_option("--playouts", arguments.playouts, "the same of a search that plays out; 100 by default")
        ->option_text("N");
    learn->add_option("--games", arguments.games, "how many games to learn from; 5000 by default")->option_text("N");
    learn->add_option("--hidden", arguments.hidden, "units of the first layer; 32 by default, 0: linear")
        ->option_text("N");
    learn->add_option("--second", arguments.second, "units of a second layer; 0 by default: none")->option_text("N");
    learn->add_flag("--no-prior", arguments.no_prior, "learn nothing about moves, only about positions");
    learn
        ->add_option("--outcome", arguments.outcome,
                     "how much what came of a position counts against what was seen there, 0 to 1; 0.9 by default")
        ->option_text("SHARE");
    learn
        ->add_option("--step", arguments.learning_step, "how far weights move at a time; by default as suits the model")
        ->option_text("X");
    learn->add_option("--passes", arguments.passes, "how often a position is learned from; 4 by default")
        ->option_text("N");
    learn
        ->add_option("--kept", arguments.kept, "how many games are learned from at a time, the latest; 3000 by default")
        ->option_text("N");
    learn->add_option("--round", arguments.round, "so many games before it is learned from them; 100 by default")
        ->option_text("N");
    learn
        ->add_option("--opening-plies", arguments.opening_plies,
                     "random moves before a game begins, at the most; 8 by default")
        ->option_text("N");
    learn->add_option("--stray", arguments.stray, "how often another move than the best is played; 0.05 by default")
        ->option_text("SHARE");
    learn
        ->add_option("--against", arguments.against,
                     "whom the strength is measured against; by default the same search with the game's evaluation")
        ->option_text("NAME[@LEVEL] or FILE.toml[@LEVEL]");
    learn->add_option("--test-games", arguments.test_games, "games of a measurement; 200 by default, 0: none")
        ->option_text("N");
    learn->add_option("--test-every", arguments.test_every, "measure after so many games; ten times by default")
        ->option_text("N");
    add_jobs(learn, arguments);
    learn->add_option("--out", arguments.out, "write a profile that knows what was learned, and its model beside it")
        ->option_text("FILE.toml");
    add_record(learn, arguments, "learning");
    add_plot(learn, arguments, "the strength");
    add_seed(learn, arguments, "seed of all of it");

    CLI::App* opponents = add_verb(app, arguments, "opponents", "checks profiles of opponents, everything in them");
    opponents
        ->add_option("--games", arguments.games, "also play so many games, and say which rules fired; 0 by default")
        ->option_text("N");
    add_seed(opponents, arguments, "seed of the games");
    opponents->add_option("what", arguments.what, "check")->option_text("check")->required();
    opponents->add_option("files", arguments.files, "the profiles")->option_text("FILE...")->required();
    opponents->add_option("--set", arguments.settings, "a rule parameter; may be repeated")
        ->option_text("NAME=VALUE")
        ->allow_extra_args(false);

    CLI::App* begin =
        app.add_subcommand("new", "begins a project for a game of your own, which builds and plays as it is");
    begin->group("Verbs");
    begin->callback([&arguments] { arguments.verb = "new"; });
    begin->add_option("folder", arguments.folder, "the folder to make; its name is the game's")
        ->option_text("FOLDER")
        ->required();
    begin->add_option("--name", arguments.name, "another name for the game, such as my_game")->option_text("NAME");

    CLI::App* completion = app.add_subcommand("completion", "a script by which a shell completes verbs and options");
    completion->group("Verbs");
    completion->callback([&arguments] { arguments.verb = "completion"; });
    completion->add_option("shell", arguments.shell, "bash, zsh or fish")->option_text("SHELL")->required();
    CLI::App* manual = app.add_subcommand("manual", "the manual page, in the form that man reads");
    manual->group("Verbs");
    manual->callback([&arguments] { arguments.verb = "manual"; });

    CLI::App* demo = add_verb(app, arguments, "demo", "the guided tour on the shipped data");
    demo->add_option("tour", arguments.tour, "another tour")->option_text("FILE.toml");

    require_verb(app, program, given);
    std::vector<std::string> reversed(given.rbegin(), given.rend());
    try {
        app.parse(reversed);
    } catch (const CLI::CallForVersion&) {
        parsed.help = program + " " + version + "\n";
    } catch (const CLI::Success&) {
        parsed.help = app.help();  // of the verb, if one is given
    } catch (const CLI::ParseError& error) {
        std::string problem = error.what();
        std::replace(problem.begin(), problem.end(), '\n', ' ');
        std::string verb;
        const CLI::App* verb_app = &app;
        for (const CLI::App* used : app.get_subcommands()) {
            verb = " " + used->get_name();
            verb_app = used;
        }
        if (const auto unknown = unknown_option(*verb_app, given)) problem = *unknown;
        throw InputError("", problem + "; see '" + program + verb + " --help'");
    }
    if (!parsed.help && arguments.verb == "completion") parsed.help = completion_of(app, program, arguments.shell);
    if (!parsed.help && arguments.verb == "manual") parsed.help = manual_of(app, program);
    if (!parsed.help && arguments.format != "text" && arguments.format != "json")
        throw InputError("--format", in_quotes(arguments.format) + " is not known", "text or json");
    return parsed;
}

}  // namespace arvek::tool
