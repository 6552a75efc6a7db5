#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <filesystem>
#include <functional>
#include <memory>
#include <ostream>
#include <sstream>
#include <thread>

#include "arvek/arena/files.hpp"
#include "arvek/arena/record.hpp"
#include "arvek/arena/steady_clock.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/search/worker_threads.hpp"
#include "arvek/session/plain_text.hpp"
#include "game_log.hpp"
#include "line_reader.hpp"
#include "playing.hpp"
#include "progress.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

int threads_of(const Arguments& arguments) {
    if (arguments.threads) return static_cast<int>(integer_value("--threads", *arguments.threads, 1, most_threads));
    return static_cast<int>(std::clamp(std::thread::hardware_concurrency(), 1u, static_cast<unsigned>(most_threads)));
}

Pool::Pool(const Arguments& arguments, const Console& console) : pool_(console.pool) {
    if (pool_ == nullptr) pool_ = &own_.emplace(threads_of(arguments));
    // Of several processes each has a core of its own, as a rule.
    if (console.pool != nullptr && arguments.threads) pool_->use_threads(threads_of(arguments));
}

std::string Openings::place(const std::string& path, std::size_t opening) const {
    return path + ", line " + std::to_string(lines[opening]);
}

Openings openings_of(const Arguments& arguments) {
    Openings openings;
    if (!arguments.openings) return openings;
    if (arguments.opening_plies)
        throw InputError("--opening-plies", "the openings are in a file", "--openings or --opening-plies");
    const std::string text = read_text_file(*arguments.openings);
    std::istringstream lines(text.starts_with("\xef\xbb\xbf") ? text.substr(3) : text);
    std::string line;
    for (std::size_t number = 1; std::getline(lines, line); ++number) {
        std::istringstream words(line);
        std::vector<std::string> moves;
        for (std::string word; words >> word && word[0] != '#';) moves.push_back(word);
        if (moves.empty()) continue;
        openings.moves.push_back(std::move(moves));
        openings.lines.push_back(number);
    }
    if (openings.moves.empty())
        throw InputError(*arguments.openings, "there are no openings in it", "a line of moves, such as \"a1 b2\"");
    return openings;
}

int opening_plies_of(const Arguments& arguments, int otherwise) {
    if (arguments.openings || !arguments.opening_plies) return otherwise;
    return static_cast<int>(integer_value("--opening-plies", *arguments.opening_plies, 0, 100));
}

int opening_plies_of_comparison(const Arguments& arguments, const Session& session) {
    const bool differ = has_chance(session.game().kit.game) || session.players() == 1;
    return opening_plies_of(arguments, differ ? 0 : 2);
}

namespace {

/// Of every file that the games come from: profiles, and files that parameters of the game name.
std::map<std::string, std::uint64_t> digests_of(const Session& session, std::span<const OpponentSpec> specs,
                                                const std::vector<std::string>& names) {
    std::map<std::string, std::uint64_t> digests;
    for (std::size_t i = 0; i < specs.size(); ++i) {
        if (!specs[i].profile) continue;
        const std::string what = "opponent " + names[i];
        for (const std::string& source : specs[i].profile->sources)  // and what it is based on
            digests[what + (source == specs[i].profile->source ? "" : ", " + source)] =
                hash_of_text(read_named_file(source));
    }
    for (const Setting& setting : session.game().settings) {
        std::error_code problem;
        if (setting.kind == ParameterKind::String && std::filesystem::is_regular_file(setting.value, problem))
            digests["parameter " + setting.name] = hash_of_text(read_text_file(setting.value));
    }
    return digests;
}

}  // namespace

GameIdentity identity_of(const Session& session, const MatchOptions& options, const Openings& openings,
                         std::span<const OpponentSpec> specs, const std::vector<std::string>& names) {
    GameIdentity identity;
    const Subject subject = session.subject();
    identity.game = subject.game;
    for (const Setting& setting : subject.settings) identity.settings.emplace_back(setting.name, setting.value);
    identity.position = subject.position;
    identity.players = session.players();
    identity.seed = options.seed;
    identity.opening_plies = options.opening_plies;
    identity.openings = openings.moves;
    if (options.seconds_a) identity.limits = fmt::format("{} s a decision", *options.seconds_a);
    identity.digests = digests_of(session, specs, names);
    return identity;
}

StopToken Stopping::token() const {
    return StopToken(
        [](const void* state) {
            return InterruptGuard::interrupted() || static_cast<const Stopping*>(state)->asked.load();
        },
        this);
}

void hold_to_time(const Arguments& arguments, const Session& session, std::span<OpponentSpec> specs,
                  MatchOptions& options) {
    if (!arguments.time) return;
    const double seconds = seconds_value("--time", *arguments.time, false);
    for (OpponentSpec& spec : specs)
        if (chooser_of(spec, session).looks_ahead) spec.seconds = seconds;
    options.seconds_a = options.seconds_b = seconds;
}

/// The rules of a profile in their order, and what chooses where none of them does.
static std::vector<std::string> rules_of(const OpponentSpec& spec) {
    std::vector<std::string> rules;
    if (!spec.profile) return rules;
    for (const RuleText& rule : spec.profile->rules) rules.push_back(plain_line(rule.name.name));
    if (!spec.profile->fallback.empty()) rules.emplace_back("fallback");
    return rules;
}

int run_match(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    std::array<OpponentSpec, 2> specs{opponent_named(arguments.opponents[0], session),
                                      opponent_named(arguments.opponents[1], session)};
    const auto& [a, b] = specs;
    MatchReport report;
    report.a = opponent_text(a);
    report.b = opponent_text(b);
    report.a_title = plain_line(opponent_title(a));
    report.b_title = plain_line(opponent_title(b));
    if (report.a != report.b && report.a_title == report.b_title) {  // two files that give the same name
        report.a_title = plain_line(report.a);
        report.b_title = plain_line(report.b);
    }
    report.seed = seed_of(arguments, 0);
    report.until_sure = arguments.until_sure;
    report.rules_a = rules_of(a);
    report.rules_b = rules_of(b);
    MatchOptions options;
    options.games = report.games_asked =
        static_cast<int>(integer_value("--games", arguments.games.value_or("100"), 1, most_games));
    options.seed = report.seed;
    options.clock = steady_seconds;
    options.threads = threads_of(arguments);
    options.opening_plies = opening_plies_of(arguments, 0);
    if (arguments.until_sure) options.until_sure = SequentialTest{};
    hold_to_time(arguments, session, specs, options);
    const Openings openings = openings_of(arguments);
    require_going_on(session);
    if (arguments.resume && !arguments.record)
        throw InputError("--resume", "no file is named", "--record FILE, the one that the match was written to");
    try {
        session.check_match(a, b, options, openings.moves);  // wrong use writes nothing
    } catch (const OpeningError& error) {
        throw InputError(openings.place(*arguments.openings, error.opening()), error.what());
    }

    PageFile page(arguments.report);  // before long games
    std::unique_ptr<OutputFile> log;
    if (arguments.log) {
        log = std::make_unique<OutputFile>(*arguments.log);
        log->write(log_head(session.subject(), session.player_names()));
    }
    std::optional<MatchRecord> file;
    std::vector<GameResult> played;
    if (arguments.record) {
        const MatchIdentity identity{identity_of(session, options, openings, specs, {"A", "B"}), report.a, report.b};
        file.emplace(*arguments.record, identity, arguments.resume);
        for (const GameRecord& record : file->games())
            if (record.counted.number < options.games) {
                played.push_back(record.counted);
                if (arguments.records) report.records.push_back(record);
            }
    }
    options.played = played;
    report.taken_over = static_cast<int>(played.size());

    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: the games played so far
    Stopping stopping;
    options.stop = stopping.token();
    Writing writing(stopping);
    {
        ProgressBar progress(console, options.games);
        MatchResult so_far;
        so_far.players = session.players();
        for (const GameResult& result : played) so_far.add(result);
        const auto write_log = [&](const GameLog& game) {
            writing([&] {
                for (const LoggedDecision& decision : game.decisions)
                    log->write(log_line(game.record.counted.number, decision, session.player_names()));
                log->write(log_end(game.record));
            });
        };
        const auto seen = [&](const GameRecord& record) {
            if (arguments.records) report.records.push_back(record);
            so_far.add(record.counted);
            progress.show(so_far.games, fmt::format("A {:.1f} %", 100 * so_far.score_a()));
            if (file) writing([&] { file->add(record); });
        };
        report.result = session.match(a, b, options, openings.moves, seen,
                                      log ? std::function<void(const GameLog&)>(write_log) : nullptr);
    }
    std::sort(report.records.begin(), report.records.end(),
              [](const GameRecord& x, const GameRecord& y) { return x.counted.number < y.counted.number; });
    std::erase_if(report.records, [&](const GameRecord& record) {
        return report.result.verdict != 0 && record.counted.number >= report.result.games + report.result.broken;
    });
    console.out << (arguments.format == "json"
                        ? match_as_json(session.subject(), report)
                        : match_as_text(session.subject(), report, Paint(console.colour), session.player_names()));
    page.write([&] {
        return match_as_page(session.subject(), report,
                             match_as_text(session.subject(), report, Paint(false), session.player_names()));
    });
    writing.done();
    if (log) log->commit();
    return report.result.games == options.games || report.result.verdict != 0 ? 0 : 1;
}

}  // namespace arvek::tool
