// The verb for whoever writes a game's rules: check.

#include <fmt/format.h>

#include <ostream>

#include "arvek/arena/files.hpp"
#include "arvek/arena/steady_clock.hpp"
#include "arvek/session/json.hpp"
#include "line_reader.hpp"
#include "playing.hpp"
#include "progress.hpp"
#include "values.hpp"
#include "verbs.hpp"
#include "writing.hpp"

namespace arvek::tool {

int run_check(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    if (arguments.position)
        throw InputError("--position", "rules are checked from the initial position", "no --position");
    if (arguments.facts) {
        if (arguments.report) throw InputError("--report", "it is for checks by the laws", "no --facts");
        if (arguments.games || arguments.time || arguments.watch)
            throw InputError("--facts", "facts alone are held against the rules", "no --games, --time or --watch");
        const FactsReport report = session.check_facts(read_text_file(*arguments.facts), *arguments.facts);
        console.out << (arguments.format == "json" ? facts_as_json(session.subject(), report)
                                                   : facts_as_text(session.subject(), report, Paint(console.colour)));
        return report.sound() ? 0 : 1;
    }
    CheckOptions options;
    if (arguments.games) options.games = static_cast<int>(integer_value("--games", *arguments.games, 1, most_games));
    if (arguments.time) options.seconds = seconds_value("--time", *arguments.time, false);
    options.seed = seed_of(arguments, 0);
    options.clock = steady_seconds;
    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: what was found so far
    options.stop = InterruptGuard::stop_token();
    PageFile page(arguments.report);
    const auto write = [&](const CheckReport& report) {
        page.write([&] {
            return check_as_page(session.subject(), report, check_as_text(session.subject(), report, Paint(false)));
        });
        console.out << (arguments.format == "json" ? check_as_json(session.subject(), report)
                                                   : check_as_text(session.subject(), report, Paint(console.colour)));
        return report.sound() && report.complete ? 0 : 1;
    };
    if (arguments.moves) {
        if (arguments.games || arguments.time || arguments.watch)
            throw InputError("--moves", "one line of play is looked at", "no --games, --time or --watch");
        return write(session.check_line(words_of(*arguments.moves), options));
    }
    WatchOptions watch;
    if (arguments.watch) watch.seconds_a_call = seconds_value("--watch", *arguments.watch, false);
    return write([&] {
        constexpr int all = 100;
        ProgressBar bar(console, all);  // wiped off before anything is written
        options.progress = [&](const CheckProgress& progress) {
            bar.show(static_cast<int>(progress.share * all),
                     fmt::format("percent: {}, {} positions, {} found", progress.stage, progress.positions,
                                 progress.faults));
        };
        return session.check(options, arguments.watch ? &watch : nullptr);
    }());
}

}  // namespace arvek::tool
