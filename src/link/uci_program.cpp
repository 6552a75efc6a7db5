#include "uci_program.hpp"

#include <algorithm>
#include <chrono>
#include <cmath>

#include "arvek/game/input_error.hpp"
#include "arvek/game/text.hpp"
#include "arvek/session/plain_text.hpp"
#include "words.hpp"

namespace arvek::link {

namespace {

constexpr double write_seconds = 5.0;
/// After the time that it was given, and after it was told to stop, at the most.
constexpr double most_grace_seconds = 2.0;
constexpr std::size_t most_lines = 1'000'000, most_unknown_lines = 2'000;

double now_seconds() {
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

}  // namespace

UciProgram::UciProgram(const AnyGame& game, const Profile& profile)
    : game_(game),
      profile_(profile),
      text_(*profile.program),
      child_({.command = text_.command, .folder = text_.folder, .environment = text_.environment}) {
    greet();
    set_options();
}

UciProgram::~UciProgram() {
    try {
        if (child_.is_running()) child_.write_line("quit", 0.2);
    } catch (const ProgramError&) {
        // It goes all the same.
    }
    child_.end(0.5);
}

void UciProgram::greet() {
    child_.write_line("uci", write_seconds);
    const double end = now_seconds() + text_.start_seconds;
    for (std::size_t lines = 0;; ++lines) {
        const auto line = child_.read_line(end - now_seconds());
        // One that talks on is no nearer to being ready.
        if (!line || now_seconds() > end)
            child_.fail(Trouble::Silent, "did not say 'uciok' within " + number_text(text_.start_seconds) + " s");
        if (lines > most_lines) child_.fail(Trouble::TooMuch, "says more than a million lines in greeting");
        const auto words = words_of_line(*line);
        if (words.empty()) continue;
        if (words[0] == "uciok") break;
        if (words[0] == "id" && words.size() > 2 && words[1] == "name") {
            for (std::size_t i = 2; i < words.size(); ++i) program_name_ += (i > 2 ? " " : "") + words[i];
            program_name_ = plain_line(program_name_.substr(0, 100));
        } else if (words[0] == "option") {
            note_option(words);
        }
    }
    wait_until_ready(text_.start_seconds);
}

void UciProgram::note_option(const std::vector<std::string>& words) {
    Option option;
    std::string* value = nullptr;
    std::string least, most;
    for (std::size_t i = 1; i < words.size(); ++i) {
        const std::string& word = words[i];
        if (word == "name" && option.name.empty()) {
            value = &option.name;
        } else if (word == "type") {
            value = &option.type;
        } else if (word == "default") {
            value = &option.default_value;
        } else if (word == "min") {
            value = &least;
        } else if (word == "max") {
            value = &most;
        } else if (word == "var") {
            value = &option.choices.emplace_back();
        } else if (value != nullptr) {
            *value += (value->empty() ? "" : " ") + word;
        }
    }
    option.least = number_in<long long>(least);
    option.most = number_in<long long>(most);
    if (!option.name.empty() && options_.size() < 1'000) options_[lower_case(option.name)] = option;
}

void UciProgram::set_options() {
    for (const PlacedOption& given : text_.options) {
        const auto found = options_.find(lower_case(given.name.name));
        if (found == options_.end()) {
            std::vector<std::string> names;
            for (const auto& [key, each] : options_) names.push_back(plain_line(each.name));
            const std::string nearest = nearest_of(given.name.name, names);
            fail_in_profile(profile_, given.name.place, child_.name() + " has no option '" + given.name.name + "'",
                            names.empty()
                                ? "no options"
                                : (nearest.empty() ? "" : nearest + ", perhaps; it has ") + any_of_text(names));
        }
        const Option& option = found->second;
        const std::string value = option_text(given.value);
        const auto refuse = [&](const std::string& expected) {
            fail_in_profile(profile_, given.place,
                            "'" + plain_line(option.name) + "' of " + child_.name() + " cannot be " + value, expected);
        };
        if (value.find_first_of("\r\n") != std::string::npos) refuse("one line");
        if (option.type == "check" && value != "true" && value != "false") refuse("true or false");
        if (option.type == "spin") {
            const auto number = number_in<long long>(value);
            if (!number || (option.least && *number < *option.least) || (option.most && *number > *option.most))
                refuse(option.least && option.most
                           ? "an integer from " + std::to_string(*option.least) + " to " + std::to_string(*option.most)
                           : "an integer");
        }
        if (option.type == "combo" && !option.choices.empty() &&
            std::none_of(option.choices.begin(), option.choices.end(),
                         [&](const auto& each) { return lower_case(each) == lower_case(value); })) {
            std::vector<std::string> choices;
            for (const auto& each : option.choices) choices.push_back(plain_line(each));
            refuse(any_of_text(choices));
        }
        child_.write_line("setoption name " + option.name + (option.type == "button" ? "" : " value " + value),
                          write_seconds);
    }
    if (!text_.options.empty()) wait_until_ready(text_.start_seconds);
}

void UciProgram::wait_until_ready(double seconds) {
    child_.write_line("isready", write_seconds);
    const double end = now_seconds() + seconds;
    for (std::size_t lines = 0;; ++lines) {
        const auto line = child_.read_line(end - now_seconds());
        if (!line || (*line != "readyok" && now_seconds() > end))
            child_.fail(Trouble::Silent, "did not say 'readyok' within " + number_text(seconds) + " s");
        if (*line == "readyok") return;
        if (lines > most_lines) child_.fail(Trouble::TooMuch, "says more than a million lines before it is ready");
    }
}

std::optional<AnyMove> UciProgram::move_between(const AnyPosition& before, const AnyPosition& after) const {
    if (game_.outcome(before)) return std::nullopt;
    MoveList<AnyMove> moves;
    game_.generate_moves(before, moves);
    for (const AnyMove& move : moves) {
        AnyPosition next = before;
        game_.play(next, move);
        if (next == after) return move;
    }
    return std::nullopt;
}

std::string UciProgram::position_line(const AnyPosition& position, std::span<const AnyPosition> earlier) {
    std::vector<AnyPosition> game(earlier.begin(), earlier.end());
    game.push_back(position);
    const bool goes_on =
        !told_.empty() && told_.size() <= game.size() && std::equal(told_.begin(), told_.end(), game.begin());
    if (!goes_on) {
        told_.assign(1, game.front());
        told_moves_.clear();
        child_.write_line("ucinewgame", write_seconds);
        wait_until_ready(text_.start_seconds);
    }
    for (std::size_t i = told_.size(); i < game.size(); ++i) {
        if (const auto move = move_between(game[i - 1], game[i])) {
            told_moves_.push_back(game_.coordinates(game[i - 1], *move));
        } else {
            // No move leads there: what came before does not count.
            told_moves_.clear();
            told_.clear();
            told_.push_back(game[i]);
            const std::vector<AnyPosition> rest(game.begin() + static_cast<std::ptrdiff_t>(i), game.end());
            game = rest;
            i = 0;
            continue;
        }
        told_.push_back(game[i]);
    }
    std::string line = told_.front() == game_.initial_position() ? "position startpos"
                                                                 : "position fen " + game_.position_text(told_.front());
    if (!told_moves_.empty()) line += " moves";
    for (const std::string& move : told_moves_) line += " " + move;
    return line;
}

AnyMove UciProgram::move_of(const AnyPosition& position, const std::string& text) {
    for (const AnyMove& move : legal_moves(game_, position))
        if (game_.coordinates(position, move) == text) return move;
    child_.fail(Trouble::IllegalMove,
                "played " + in_quotes(text) + ", which is not legal in " + game_.position_text(position));
}

void UciProgram::note_info(const std::vector<std::string>& words, Said& said) const {
    std::optional<int> hundredths, mate;
    int depth = 0;
    std::uint64_t nodes = 0;
    std::vector<std::string> line;
    for (std::size_t i = 1; i + 1 < words.size(); ++i) {
        if (words[i] == "string") return;
        if (words[i] == "multipv" && words[i + 1] != "1") return;
        if (words[i] == "depth") depth = number_in<int>(words[i + 1]).value_or(0);
        if (words[i] == "nodes") nodes = number_in<std::uint64_t>(words[i + 1]).value_or(0);
        if (words[i] == "cp") hundredths = number_in<int>(words[i + 1]);
        if (words[i] == "mate") mate = number_in<int>(words[i + 1]);
        if (words[i] == "pv") {
            line.assign(words.begin() + static_cast<std::ptrdiff_t>(i) + 1, words.end());
            break;
        }
    }
    said.depth = std::clamp(depth > 0 ? depth : said.depth, 0, max_depth);
    if (nodes > 0) said.nodes = nodes;
    if (hundredths || mate) {
        said.hundredths = hundredths;
        said.mate = mate;
    }
    if (!line.empty()) said.line = std::move(line);
}

Decision<AnyMove> UciProgram::decide(const AnyPosition& position, std::span<const AnyPosition> earlier,
                                     const Limits& limits) {
    child_.write_line(position_line(position, earlier), write_seconds);
    std::string go = "go";
    if (limits.depth) go += " depth " + std::to_string(*limits.depth);
    if (limits.nodes) go += " nodes " + std::to_string(*limits.nodes);
    if (limits.seconds)
        go += " movetime " + std::to_string(std::max<long long>(1, std::llround(*limits.seconds * 1'000)));
    if (go == "go") go += " movetime 1000";
    const double begin = now_seconds();
    child_.write_line(go, write_seconds);
    const double grace_seconds = std::min(most_grace_seconds, text_.answer_seconds);
    const double given = limits.seconds ? *limits.seconds + grace_seconds : text_.answer_seconds;
    double end = begin + given;
    bool told_to_stop = false;
    Said said;
    std::optional<AnyMove> best;
    std::size_t lines = 0, unknown = 0;
    while (!best) {
        constexpr double slice = 0.02;
        if (limits.stop.stop_requested() && !told_to_stop) {
            child_.write_line("stop", write_seconds);
            told_to_stop = true;
            end = std::min(end, now_seconds() + grace_seconds);
        }
        const double left = end - now_seconds();
        const auto line = child_.read_line(limits.stop.can_stop() ? std::clamp(left, 0.0, slice) : left);
        const bool is_late = now_seconds() >= end;
        if (!line && !is_late) continue;
        if (!line || (is_late && !line->starts_with("bestmove"))) {
            child_.fail(Trouble::Silent, told_to_stop ? "did not stop within " + number_text(grace_seconds) + " s"
                                                      : "gave no move within " + number_text(given) + " s");
        }
        if (++lines > most_lines) child_.fail(Trouble::TooMuch, "says more than a million lines and no move");
        const auto words = words_of_line(*line);
        if (words.empty()) continue;
        if (words[0] == "info") {
            note_info(words, said);
        } else if (words[0] == "bestmove") {
            if (words.size() < 2) child_.fail(Trouble::Nonsense, "said 'bestmove' without a move");
            best = move_of(position, words[1]);
        } else if (words[0] != "readyok" && ++unknown > most_unknown_lines) {
            child_.fail(Trouble::Nonsense, "says what the protocol does not have: " + in_quotes(*line));
        }
    }
    Decision<AnyMove> decision;
    decision.move = *best;
    decision.searched_by = program_name_.empty() ? child_.name() : program_name_;
    decision.stats.depth = said.depth;
    decision.stats.nodes = said.nodes;
    decision.stats.seconds = now_seconds() - begin;
    decision.stats.stopped_by = told_to_stop     ? StoppedBy::Stop
                                : limits.seconds ? StoppedBy::Time
                                : limits.nodes   ? StoppedBy::Nodes
                                                 : StoppedBy::Depth;
    auto& first = decision.ranked.emplace_back();
    first.move = *best;
    first.line = {*best};
    if (said.hundredths || said.mate) {
        decision.has_scores = true;
        constexpr int far_ahead = 100'000;
        first.score = Score::estimate(said.mate ? (*said.mate > 0 ? far_ahead : -far_ahead)
                                                : std::clamp(*said.hundredths, -far_ahead, far_ahead));
        if (said.mate)
            first.reasons.push_back("it claims a mate in " +
                                    std::to_string(std::abs(static_cast<long long>(*said.mate))) +
                                    (*said.mate > 0 ? "" : " against it"));
    }
    // Its line, as far as it is one.
    AnyPosition at = position;
    for (std::size_t i = 0; i < said.line.size() && i < 64; ++i) {
        if (game_.outcome(at)) break;
        const auto legal = legal_moves(game_, at);
        const auto move = std::find_if(legal.begin(), legal.end(),
                                       [&](const auto& each) { return game_.coordinates(at, each) == said.line[i]; });
        if (move == legal.end() || (i == 0 && !(*move == *best))) break;
        if (i > 0) first.line.push_back(*move);
        game_.play(at, *move);
    }
    const Score score = first.score;
    for (const AnyMove& move : legal_moves(game_, position)) {
        if (move == *best) continue;
        auto& entry = decision.ranked.emplace_back();
        entry.move = move;
        entry.line = {move};
        entry.score = score;
    }
    return decision;
}

}  // namespace arvek::link
