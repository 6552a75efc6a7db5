#include <fmt/format.h>

#include <charconv>
#include <ostream>

#include "arvek/arena/files.hpp"
#include "arvek/arena/record.hpp"
#include "arvek/session/plain_text.hpp"
#include "playing.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

int run_weigh(const Tool& tool, const Arguments& arguments, const Console& console) {
    const RecordedGames recorded = read_games(arguments.game);
    std::vector<std::string> settings;
    for (const auto& [name, value] : recorded.settings) settings.push_back(name + "=" + value);
    const Session session(open_game(tool, recorded.game, settings), recorded.position);
    WeightReport report;
    report.ridge = 10.0;
    if (arguments.ridge) {
        const std::string& text = *arguments.ridge;
        const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), report.ridge);
        if (problem != std::errc() || end != text.data() + text.size() || !(report.ridge >= 0 && report.ridge <= 1e9))
            throw InputError("--ridge", in_quotes(text) + " is out of range", "0 to 1000000000");
    }
    report.features = arguments.features;
    if (arguments.out) check_out(*arguments.out, *arguments.out);
    const auto samples = session.samples(recorded.games, report.features);
    if (samples.empty()) throw InputError(arguments.game, "there is no game in it", "a record of finished games");
    report.fit = fit_weights(samples, report.ridge);
    if (arguments.out) {
        std::string text = fmt::format(
            "# Weights that were fitted to {} games: by {:.0f} units the odds to win double.\nname = {}\ngame = "
            "{}\nchoose = "
            "\"standard\"\n\n[evaluation]\n",
            report.fit.games, fitted_units_per_doubling,
            toml_text("Weighed by " + std::to_string(report.fit.games) + " games"), toml_text(recorded.game));
        for (std::size_t i = 0; i < report.features.size(); ++i)
            text += fmt::format("{} = {:.4f}\n", toml_text(report.features[i]), report.fit.weights[i].weight);
        OutputFile out(*arguments.out);
        out.write(text);
        out.commit();
        report.written = *arguments.out;
    }
    console.out << (arguments.format == "json" ? weights_as_json(session.subject(), report)
                                               : weights_as_text(session.subject(), report, Paint(console.colour)));
    return 0;
}

}  // namespace arvek::tool
