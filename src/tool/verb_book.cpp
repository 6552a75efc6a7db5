#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <ostream>

#include "arvek/arena/files.hpp"
#include "arvek/arena/record.hpp"
#include "arvek/arena/steady_clock.hpp"
#include "arvek/opponent/opening_book.hpp"
#include "arvek/session/plain_text.hpp"
#include "line_reader.hpp"
#include "playing.hpp"
#include "progress.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

namespace {

double percent_value(const char* option, const std::string& text, double most) {
    double number = 0;
    const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (problem != std::errc() || end != text.data() + text.size() || !(number >= 0 && number <= most))
        throw InputError(option, in_quotes(text) + " is out of range", fmt::format("percent from 0 to {}", most));
    return number / 100;
}

/// A profile that opens by the book, and looks ahead behind it.
std::string profile_text(const BookReport& report, const Session& session) {
    const std::string& game = session.game().name;
    std::string text = fmt::format(
        "# A book for {}: {} positions, {} different openings, each reply judged by {}.\n"
        "name = {}\ngame = {}\nchoose = \"standard\"\n",
        game, report.positions.size(), report.openings, report.judge, toml_text("Opens by the book, " + game),
        toml_text(game));
    text += toml_parameters(session);
    for (const BookReport::At& at : report.positions) {
        std::vector<std::string> moves, replies;
        for (const std::string& move : at.moves) moves.push_back(toml_text(move));
        for (const BookReport::Reply& reply : at.replies)
            replies.push_back(fmt::format("{} = {:.2f}", toml_text(reply.move), std::max(0.01, reply.weight)));
        text += "\n[[book]]\n";
        text += at.is_given ? "position = " + toml_text(at.position) + "\n"
                            : fmt::format("moves = [{}]\n", fmt::join(moves, ", "));
        text += fmt::format("replies = {{ {} }}\n", fmt::join(replies, ", "));
    }
    return text;
}

/// The games of a file: of a notation that the game has, or a record.
std::vector<GameRecord> games_in(const Tool& tool, const Session& session, const std::string& path) {
    if (auto games = games_in_notation(tool, session, path)) return std::move(*games);
    RecordedGames recorded = read_games(path);
    if (recorded.game != session.game().name)
        throw InputError(path, "it is of " + in_quotes(recorded.game), "games of " + session.game().name);
    for (const auto& [name, value] : recorded.settings)
        for (const Setting& setting : session.game().settings)
            if (setting.name == name && setting.value != value)
                throw InputError(path, "its games were played with " + name + " = " + in_quotes(value),
                                 "--set " + name + "=" + value);
    if (recorded.position != session.position_text())
        throw InputError(path, "its games begin elsewhere, at " + recorded.position, "games from the same position");
    return std::move(recorded.games);
}

/// What a book is made of besides the game.
struct BookSources {
    std::vector<GameRecord> games{};
    std::vector<BookLine> lines{};  ///< of other books
};

BookSources sources_of(const Tool& tool, const Session& session, const std::vector<std::string>& paths) {
    BookSources sources;
    for (const std::string& path : paths) {
        if (path.ends_with(".toml")) {
            const OpponentSpec spec = opponent_named(path, session);
            for (BookLine& line : book_of(session.game().kit.game, *spec.profile))
                sources.lines.push_back(std::move(line));
        } else {
            for (GameRecord& game : games_in(tool, session, path)) sources.games.push_back(std::move(game));
        }
    }
    return sources;
}

/// As if each reply had been played as often as is asked for, so that none is left out.
void add_lines(PlayedReplies& played, const std::vector<BookLine>& lines, int games) {
    for (const BookLine& line : lines)
        for (const auto& [move, weight] : line.replies) played.add(line.position, move, games * weight, games);
}

/// Where the lines of books are, each position once.
std::vector<BookRoot> roots_of(const std::vector<BookLine>& lines) {
    std::vector<BookRoot> roots;
    for (const BookLine& line : lines) roots.push_back({line.moves, line.position});
    return roots;
}

}  // namespace

int run_book(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    if (arguments.position && arguments.out)
        throw InputError("--out", "a book begins at the initial position", "no --position, or no --out");
    if (arguments.check_book && (!arguments.sources.empty() || arguments.blunders_of || arguments.out))
        throw InputError("--check", "a book that is checked is not built", "no --from, no --blunders-of and no --out");
    if (arguments.solved && (arguments.opponent || arguments.nodes))
        throw InputError("--solved", "what is solved needs no judge", "no --opponent and no --nodes");
    if (arguments.unjudged && (arguments.solved || arguments.opponent || arguments.nodes || arguments.blunders_of))
        throw InputError("--unjudged", "there is to be no judge", "no --solved, --opponent, --nodes and --blunders-of");
    if (arguments.unjudged && arguments.sources.empty() && !arguments.check_book)
        throw InputError("--unjudged", "without a judge a book is made of games or books", "--from FILE");
    if (arguments.blunders_of && arguments.sources.empty())
        throw InputError("--blunders-of", "it is not said in which positions", "--from FILE, recorded games");
    OpponentSpec judge = opponent_named(arguments.opponent.value_or(usual_opponent(session)), session);
    judge.nodes =
        static_cast<std::uint64_t>(integer_value("--nodes", arguments.nodes.value_or("50000"), 1, 1'000'000'000'000));
    BookOptions options;
    options.plies = static_cast<int>(integer_value("--plies", arguments.plies.value_or("6"), 1, 60));
    options.width = static_cast<int>(integer_value("--width", arguments.width.value_or("3"), 1, 30));
    options.most_positions =
        static_cast<std::size_t>(integer_value("--positions", arguments.positions.value_or("500"), 1, 100'000));
    options.most_lost = percent_value("--most-lost", arguments.most_lost.value_or("3"), 50);
    options.least_games =
        static_cast<int>(integer_value("--least-games", arguments.least_games.value_or("2"), 1, 1'000'000));
    options.seed = seed_of(arguments, 0);
    require_going_on(session);
    if (!arguments.solved && !arguments.unjudged) session.check_opponent(judge);
    const AnyGame& game = session.game().kit.game;
    BookReport report;
    // What it is made of.
    std::vector<std::string> paths = arguments.sources;
    if (arguments.check_book) paths = {*arguments.check_book};
    const BookSources sources = sources_of(tool, session, paths);
    std::optional<OpponentSpec> erring;
    if (arguments.blunders_of) erring = opponent_named(*arguments.blunders_of, session);
    if (erring) session.check_opponent(*erring);
    PlayedReplies played = session.played_in(sources.games);
    add_lines(played, sources.lines, options.least_games);
    if (!paths.empty() && !erring) {
        report.known = played.positions();
        if (report.known == 0)
            throw InputError(paths.front(), "there are no replies in it", "games, or a profile with a book");
        options.played = &played;
        options.roots = roots_of(sources.lines);
        if (!sources.games.empty()) options.roots.insert(options.roots.begin(), BookRoot{{}, session.position()});
    }
    if (arguments.out) check_out(*arguments.out, *arguments.out);
    const InterruptGuard guard(console.reads_standard_input);
    options.stop = InterruptGuard::stop_token();
    const double most_lost = options.most_lost;
    if (arguments.check_book) {
        options.most_lost = 1.0;  // all of it is told
        options.width = most_book_width;
        options.most_positions = std::max(options.most_positions, sources.lines.size());
        report.checked = *arguments.check_book;
        report.most_lost = most_lost;
    }
    if (erring) {
        ProgressBar progress(console, static_cast<int>(options.most_positions));
        options.roots = session.blunders(sources.games, *erring, judge, {steady_seconds, {}}, most_lost,
                                         options.most_positions, options.stop,
                                         [&](std::size_t done) { progress.show(static_cast<int>(done), "looked at"); });
        report.blunders = options.roots.size();
        options.plies = 1;
    }
    Book book;
    if (!erring || !options.roots.empty()) {
        ProgressBar progress(console, static_cast<int>(options.most_positions));
        const auto seen = [&](std::size_t done) { progress.show(static_cast<int>(done), "positions"); };
        SolveOptions solving;
        solving.clock = steady_seconds;
        solving.stop = options.stop;
        solving.margins = false;
        book = arguments.solved     ? session.solved_book(solving, options, seen)
               : arguments.unjudged ? session.unjudged_book(options, seen)
                                    : session.book(judge, {steady_seconds, {}}, options, seen);
    }
    report.judged = !arguments.unjudged;
    report.judge = arguments.solved     ? "solving"
                   : arguments.unjudged ? "nobody"
                                        : fmt::format("{}, {} positions a look", plain_line(judge.name), *judge.nodes);
    report.seed = options.seed;
    report.openings = book.openings();
    report.searched = book.searched;
    report.folded = book.folded;
    report.complete = book.complete;
    for (const BookPosition& position : book.positions) {
        BookReport::At at;
        AnyPosition now = position.is_given ? position.position : session.position();
        for (const AnyMove& move : position.line) {
            at.moves.push_back(plain_line(game.move_text(now, move)));
            game.play(now, move);
        }
        at.is_given = position.is_given;
        at.position = plain_line(game.position_text(now));
        for (const BookReply& reply : position.replies) {
            at.replies.push_back({plain_line(game.move_text(now, reply.move)), reply.lost, reply.weight});
            report.worst = std::max(report.worst, reply.lost);
        }
        report.positions.push_back(std::move(at));
    }
    if (arguments.out && !InterruptGuard::interrupted()) {
        OutputFile out(*arguments.out);
        out.write(profile_text(report, session));
        out.commit();
        report.written = *arguments.out;
    }
    console.out << (arguments.format == "json" ? book_as_json(session.subject(), report)
                                               : book_as_text(session.subject(), report, Paint(console.colour)));
    if (arguments.check_book && report.judged && report.worst > most_lost) return 1;
    return InterruptGuard::interrupted() ? 1 : 0;
}

}  // namespace arvek::tool
