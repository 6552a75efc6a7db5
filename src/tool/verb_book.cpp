#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <ostream>

#include "arvek/arena/files.hpp"
#include "arvek/arena/steady_clock.hpp"
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
std::string profile_text(const BookReport& report, const std::string& game) {
    std::string text = fmt::format(
        "# An opening book for {}: {} positions, {} different openings, each reply judged by {}.\n"
        "name = {}\ngame = {}\nchoose = \"standard\"\n",
        game, report.positions.size(), report.openings, report.judge, toml_text("Opens by the book, " + game),
        toml_text(game));
    for (const BookReport::At& at : report.positions) {
        std::vector<std::string> moves, replies;
        for (const std::string& move : at.moves) moves.push_back(toml_text(move));
        for (const BookReport::Reply& reply : at.replies)
            replies.push_back(fmt::format("{} = {:.2f}", toml_text(reply.move), std::max(0.01, reply.weight)));
        text += fmt::format("\n[[book]]\nmoves = [{}]\nreplies = {{ {} }}\n", fmt::join(moves, ", "),
                            fmt::join(replies, ", "));
    }
    return text;
}

}  // namespace

int run_book(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    if (arguments.position && arguments.out)
        throw InputError("--out", "a book begins at the initial position", "no --position, or no --out");
    OpponentSpec judge = opponent_named(arguments.opponent.value_or(usual_opponent(session)), session);
    judge.nodes =
        static_cast<std::uint64_t>(integer_value("--nodes", arguments.nodes.value_or("50000"), 1, 1'000'000'000'000));
    BookOptions options;
    options.plies = static_cast<int>(integer_value("--plies", arguments.plies.value_or("6"), 1, 60));
    options.width = static_cast<int>(integer_value("--width", arguments.width.value_or("3"), 1, 30));
    options.most_positions =
        static_cast<std::size_t>(integer_value("--positions", arguments.positions.value_or("500"), 1, 100'000));
    options.most_lost = percent_value("--most-lost", arguments.most_lost.value_or("3"), 50);
    options.seed = seed_of(arguments, 0);
    require_going_on(session);
    session.check_opponent(judge);
    if (arguments.out) check_out(*arguments.out, *arguments.out);
    const InterruptGuard guard(console.reads_standard_input);
    options.stop = InterruptGuard::stop_token();
    Book book;
    {
        ProgressBar progress(console, static_cast<int>(options.most_positions));
        book = session.book(judge, {steady_seconds, {}}, options,
                            [&](std::size_t done) { progress.show(static_cast<int>(done), "positions"); });
    }
    const AnyGame& game = session.game().kit.game;
    BookReport report;
    report.judge = fmt::format("{}, {} positions a look", plain_line(judge.name), *judge.nodes);
    report.seed = options.seed;
    report.openings = book.openings();
    report.searched = book.searched;
    report.folded = book.folded;
    report.complete = book.complete;
    for (const BookPosition& position : book.positions) {
        BookReport::At at;
        AnyPosition now = session.position();
        for (const AnyMove& move : position.line) {
            at.moves.push_back(plain_line(game.move_text(now, move)));
            game.play(now, move);
        }
        at.position = plain_line(game.position_text(now));
        for (const BookReply& reply : position.replies) {
            at.replies.push_back({plain_line(game.move_text(now, reply.move)), reply.lost, reply.weight});
            report.worst = std::max(report.worst, reply.lost);
        }
        report.positions.push_back(std::move(at));
    }
    if (arguments.out && !InterruptGuard::interrupted()) {
        OutputFile out(*arguments.out);
        out.write(profile_text(report, session.game().name));
        out.commit();
        report.written = *arguments.out;
    }
    console.out << (arguments.format == "json" ? book_as_json(session.subject(), report)
                                               : book_as_text(session.subject(), report, Paint(console.colour)));
    return InterruptGuard::interrupted() ? 1 : 0;
}

}  // namespace arvek::tool
