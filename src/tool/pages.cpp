#include "pages.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "arvek/game/input_error.hpp"
#include "arvek/session/plain_text.hpp"
#include "html_report.hpp"
#include "writing.hpp"
#include "writing_parts.hpp"

namespace arvek::tool {

namespace {

/// The page with what it is about, to be gone on with.
HtmlReport page_about(const std::string& what, const Subject& subject) {
    HtmlReport page(what + ": " + subject.game);
    std::vector<std::string> set;
    for (const Setting& setting : subject.settings) set.push_back(setting.name + " " + setting.value);
    page.text((set.empty() ? "" : "Parameters: " + joined(set, ", ") + ". ") + "Position: " + subject.position);
    return page;
}
void add_words(HtmlReport& page, const std::string& in_words) {
    page.heading("In words");
    page.lines(in_words);
}

std::string share_text(double share, const Interval& interval) {
    return fmt::format("{:.1f} % ({:.1f} to {:.1f})", 100 * share, 100 * interval.low, 100 * interval.high);
}

}  // namespace

void require_page_name(const std::string& path) {
    if (!path.ends_with(".html"))
        throw InputError("--report", in_quotes(plain_line(path)) + " is no name of a page",
                         "a name that ends in .html");
}

std::string match_as_page(const Subject& subject, const MatchReport& report, const std::string& in_words) {
    HtmlReport page = page_about("Match", subject);
    const MatchResult& result = report.result;
    if (result.players == 2 && result.games > 0) {
        const Interval a = result.interval(), b{1 - a.high, 1 - a.low};
        page.intervals("Scores with 95 % intervals",
                       {{report.a_title, result.score_a(), a.low, a.high, percent(result.score_a())},
                        {report.b_title, 1 - result.score_a(), b.low, b.high, percent(1 - result.score_a())}},
                       {0.0, 1.0, {}, {}, true});
        page.table(
            "Opponents",
            {{"opponent"}, {"wins", true}, {"draws", true}, {"losses", true}, {"score", true}, {"time per move", true}},
            {{report.a_title, std::to_string(result.wins_a), std::to_string(result.draws),
              std::to_string(result.wins_b), share_text(result.score_a(), a),
              duration_text(result.seconds_per_move_a())},
             {report.b_title, std::to_string(result.wins_b), std::to_string(result.draws),
              std::to_string(result.wins_a), share_text(1 - result.score_a(), b),
              duration_text(result.seconds_per_move_b())}});
        if (result.draws > 0) page.text("Draws: " + draws_text(result) + ".");
        page.text(fmt::format("{} games, seed {}; {} won by whoever moved first.", result.games, report.seed,
                              result.wins_of_first));
    }
    add_words(page, in_words);
    return page.page();
}

std::string ladder_as_page(const Subject& subject, const LadderReport& report, const std::string& in_words) {
    HtmlReport page = page_about("Levels of " + report.title, subject);
    std::vector<ReportInterval> ratings, steps;
    std::vector<std::vector<std::string>> rows;
    double low = 0, high = 1;
    for (const LevelRow& row : report.rows) {
        const std::string level = std::to_string(row.level);
        if (row.rating) {
            ratings.push_back({"level " + level, row.rating->rating, row.rating->low, row.rating->high,
                               fmt::format("{:.0f}", row.rating->rating)});
            low = std::min(low, row.rating->low);
            high = std::max(high, row.rating->high);
        }
        const auto score = [](const std::optional<MatchResult>& match) {
            return match ? share_text(match->score_a(), match->interval()) : std::string();
        };
        if (const auto& step = row.against_two_below) {
            const Interval interval = step->interval();
            steps.push_back({fmt::format("{} against {}", row.level, row.level - 2), step->score_a(), interval.low,
                             interval.high, percent(step->score_a())});
        }
        rows.push_back({level, row.rating ? fmt::format("{:.0f}", row.rating->rating) : "",
                        row.rating ? fmt::format("{:.0f} to {:.0f}", row.rating->low, row.rating->high) : "",
                        score(row.against_next_below), score(row.against_two_below), score(row.against_random),
                        row.against_random ? duration_text(row.against_random->seconds_per_move_a()) : ""});
    }
    if (!ratings.empty())
        page.intervals("Ratings with 95 % intervals; random moves at 0", ratings, {low, high, {}, {}});
    if (!steps.empty())
        page.intervals("Each level against the one two below; even steps lie in the band, 60 to 80 %", steps,
                       {0.0, 1.0, 0.6, 0.8, true});
    page.table("Levels",
               {{"level", true},
                {"rating", true},
                {"95 % interval", true},
                {"against the next below", true},
                {"against two below", true},
                {"against random", true},
                {"time per move", true}},
               rows);
    add_words(page, in_words);
    return page.page();
}

std::string league_as_page(const Subject& subject, const LeagueReport& report, const std::string& in_words) {
    HtmlReport page = page_about("League", subject);
    const LeagueResult& result = report.result;
    std::vector<ReportInterval> ratings;
    std::vector<std::vector<std::string>> rows;
    double low = 0, high = 1;
    int place = 0;
    for (const Standing& standing : result.standings) {
        const std::string& title = report.titles[standing.player];
        ratings.push_back({title, standing.rating.rating, standing.rating.low, standing.rating.high,
                           fmt::format("{:+.0f}", standing.rating.rating)});
        low = std::min(low, standing.rating.low);
        high = std::max(high, standing.rating.high);
        rows.push_back({std::to_string(++place), title, fmt::format("{:+.0f}", standing.rating.rating),
                        fmt::format("{:+.0f} to {:+.0f}", standing.rating.low, standing.rating.high),
                        standing.above_next ? fmt::format("{:.1f} %", 100 * *standing.above_next) : "",
                        std::to_string(standing.wins), std::to_string(standing.draws), std::to_string(standing.losses),
                        percent(standing.score()), duration_text(standing.seconds_per_move())});
    }
    page.intervals("Ratings with 95 % intervals", ratings, {low, high, {}, {}});
    page.table("Standings",
               {{"place", true},
                {"opponent"},
                {"rating", true},
                {"95 % interval", true},
                {"above the next", true},
                {"wins", true},
                {"draws", true},
                {"losses", true},
                {"score", true},
                {"time per move", true}},
               rows);
    if (report.shape == LeagueShape::EveryPair && report.seats == 2) {
        std::vector<ReportColumn> columns{{"opponent"}};
        std::vector<std::vector<std::string>> cross;
        for (std::size_t i = 0; i < result.standings.size(); ++i)
            columns.push_back({"against " + report.titles[result.standings[i].player], true});
        for (const Standing& row : result.standings) {
            std::vector<std::string>& cells = cross.emplace_back(std::vector<std::string>{report.titles[row.player]});
            for (const Standing& column : result.standings) {
                const auto score = score_between(result, row.player, column.player);
                cells.push_back(score ? percent(*score) : "–");
            }
        }
        page.table("Each against each", columns, cross);
        std::vector<std::vector<std::string>> draws;
        for (const LeaguePairing& pairing : result.pairings)
            if (const MatchResult& match = pairing.result; match.games > 0)
                draws.push_back({report.titles[pairing.a], report.titles[pairing.b], std::to_string(match.games),
                                 std::to_string(match.draws), draws_text(match)});
        page.table("Draws of each two", {{"opponent"}, {"and"}, {"games", true}, {"draws", true}, {"how"}}, draws);
    }
    add_words(page, in_words);
    return page.page();
}

std::string tuning_as_page(const Subject& subject, const TuningReport& report, const std::string& in_words) {
    HtmlReport page = page_about("Tuning of " + report.title, subject);
    std::vector<std::vector<std::string>> rows;
    std::vector<std::pair<std::string, std::vector<double>>> courses;
    for (std::size_t i = 0; i < report.numbers.size(); ++i) {
        const TunedNumber& number = report.numbers[i];
        const std::string name = plain_line(number.name);
        rows.push_back({name, number_text(number.low), number_text(number.high), number_text(number.start),
                        number_text(report.best[i])});
        // Numbers of different ranges on one scale: 0 the least, 1 the most that it may be.
        std::vector<double> course;
        for (const auto& step : report.history)
            course.push_back((step[i] - number.low) / std::max(1e-9, number.high - number.low));
        if (!course.empty()) courses.emplace_back(name, std::move(course));
    }
    page.table("Numbers", {{"number"}, {"least", true}, {"most", true}, {"start", true}, {"candidate", true}}, rows);
    if (!courses.empty()) page.curves("Where each number stood, between the least (0) and the most (1)", courses);
    std::vector<ReportInterval> stages;
    for (const auto& [name, stage] :
         {std::pair{"candidate", &report.test}, std::pair{"in fresh games", &report.confirmation}})
        if (*stage) {
            const MatchResult& match = (*stage)->pairings[0].result;
            const Interval interval = match.interval();
            stages.push_back({name, match.score_a(), interval.low, interval.high, percent(match.score_a())});
        }
    if (!stages.empty()) page.intervals("The candidate against the start", stages, {0.0, 1.0, {}, {}, true});
    add_words(page, in_words);
    return page.page();
}

std::string check_as_page(const Subject& subject, const CheckReport& report, const std::string& in_words) {
    HtmlReport page = page_about("Check of the rules", subject);
    page.text(report.sound()
                  ? fmt::format("No fault was found in {} games and {} positions.", report.games, report.positions)
                  : fmt::format("{} {} found in {} games and {} positions.", report.faults.size(),
                                report.faults.size() == 1 ? "fault was" : "faults were", report.games,
                                report.positions));
    if (!report.sound()) {
        std::vector<std::vector<std::string>> rows;
        for (const Fault& fault : report.faults)
            rows.push_back({fault.law, fault.function + "()", fault.what, joined(fault.moves, " ")});
        page.table("Faults", {{"law"}, {"function"}, {"what"}, {"moves that lead there"}}, rows);
    }
    add_words(page, in_words);
    return page.page();
}

}  // namespace arvek::tool
