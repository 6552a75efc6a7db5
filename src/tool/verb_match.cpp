#include <fmt/format.h>

#include <fstream>
#include <ostream>
#include <sstream>
#include <thread>

#include "arvek/arena/steady_clock.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/opponent/profile.hpp"
#include "line_reader.hpp"
#include "match_file.hpp"
#include "playing.hpp"
#include "position_file.hpp"
#include "progress.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

int threads_of(const Arguments& arguments) {
    if (arguments.threads) return static_cast<int>(whole_number("--threads", *arguments.threads, 1, most_threads));
    return static_cast<int>(std::clamp(std::thread::hardware_concurrency(), 1u, static_cast<unsigned>(most_threads)));
}

std::vector<std::vector<std::string>> openings_of(const Arguments& arguments) {
    std::vector<std::vector<std::string>> openings;
    if (!arguments.openings) return openings;
    if (arguments.opening_plies)
        throw InputError("--opening-plies", "the openings are in a file", "--openings or --opening-plies");
    std::ifstream file(*arguments.openings);
    std::string line;
    while (std::getline(file, line)) {
        std::istringstream words(line);
        std::vector<std::string> moves;
        for (std::string word; words >> word && word[0] != '#';) moves.push_back(word);
        if (!moves.empty()) openings.push_back(std::move(moves));
    }
    if (!file.eof()) throw InputError(*arguments.openings, "the file can not be read", "a file of openings");
    if (openings.empty())
        throw InputError(*arguments.openings, "there are no openings in it", "a line of moves, such as \"a1 b2\"");
    return openings;
}

int opening_plies_of(const Arguments& arguments, int standard) {
    if (arguments.openings || !arguments.opening_plies) return standard;
    return static_cast<int>(whole_number("--opening-plies", *arguments.opening_plies, 0, 100));
}

namespace {

/// Of the profile's file; 0 where the opponent has none.
std::uint64_t digest(const OpponentSpec& spec) {
    return spec.profile ? hash_of_text(file_text(spec.profile->source)) : 0;
}

}  // namespace

int run_match(const Tool& tool, const Arguments& arguments, const Console& console) {
    const OpenedGame game = open_game(tool, arguments);
    const OpponentSpec a = opponent_named(arguments.opponents[0], arguments.game);
    const OpponentSpec b = opponent_named(arguments.opponents[1], arguments.game);
    MatchReport report;
    report.a = opponent_text(a);
    report.b = opponent_text(b);
    report.a_title = opponent_title(a);
    report.b_title = opponent_title(b);
    if (report.a != report.b && report.a_title == report.b_title) {  // two files that give the same name
        report.a_title = report.a;
        report.b_title = report.b;
    }
    report.seed = seed_of(arguments, 0);
    report.until_sure = arguments.until_sure;
    MatchOptions options;
    options.games = report.games_asked =
        static_cast<int>(whole_number("--games", arguments.games.value_or("100"), 1, most_games));
    options.seed = report.seed;
    options.clock = steady_seconds;
    options.threads = threads_of(arguments);
    options.opening_plies = opening_plies_of(arguments, 0);
    if (arguments.until_sure) options.until_sure = SequentialTest{};
    const auto openings = openings_of(arguments);
    require_going_on(game);
    if (arguments.resume && !arguments.record)
        throw InputError("--resume", "no file is named", "--record FILE, the one that the match was written to");

    std::optional<MatchFile> file;
    std::vector<GameResult> played;
    if (arguments.record) {
        (void)game.table->match(a, b, with_no_games(options), openings, nullptr);  // wrong use writes nothing
        file.emplace(*arguments.record,
                     MatchIdentity{game.subject(), report.a, report.b, digest(a), digest(b), report.seed,
                                   options.opening_plies, openings},
                     arguments.resume);
        for (const GameRecord& record : file->games())
            if (record.counted.number < options.games) {
                played.push_back(record.counted);
                if (arguments.records) report.records.push_back(record);
            }
    }
    options.played = played;
    report.taken_over = static_cast<int>(played.size());

    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: the games played so far
    options.stop = InterruptGuard::stop_token();
    {
        ProgressBar progress(console, options.games);
        MatchResult so_far;
        for (const GameResult& result : played) so_far.add(result);
        report.result = game.table->match(a, b, options, openings, [&](const GameRecord& record) {
            if (file) file->add(record);
            if (arguments.records) report.records.push_back(record);
            so_far.add(record.counted);
            progress.show(so_far.games, fmt::format("A {:.1f} %", 100 * so_far.score_a()));
        });
    }
    std::sort(report.records.begin(), report.records.end(),
              [](const GameRecord& x, const GameRecord& y) { return x.counted.number < y.counted.number; });
    std::erase_if(report.records, [&](const GameRecord& record) {
        return report.result.verdict != 0 && record.counted.number >= report.result.games;
    });
    console.out << (arguments.format == "json"
                        ? match_as_json(game.subject(), report)
                        : match_as_text(game.subject(), report, Paint(console.colour), game.player_names()));
    return report.result.games == options.games || report.result.verdict != 0 ? 0 : 1;
}

}  // namespace arvek::tool
