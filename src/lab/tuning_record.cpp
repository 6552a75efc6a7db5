#include "arvek/lab/tuning_record.hpp"

#include <set>
#include <tuple>

#include "../arena/game_line.hpp"

namespace arvek {

namespace {

using Json = RecordFile::Json;

constexpr const char* stage_names[] = {"test", "confirmation"};

Json head_of(const TuningIdentity& identity) {
    Json head = head_of_record(identity);
    head["profile"] = identity.profile;
    Json numbers = Json::array();
    for (const TunedNumber& number : identity.numbers)
        numbers.push_back({{"name", number.name},
                           {"low", number.low},
                           {"high", number.high},
                           {"start", number.start},
                           {"whole", number.whole}});
    head["numbers"] = std::move(numbers);
    head["method"] = identity.options.method == TuningMethod::Perturbation ? "perturbation" : "surface";
    head["steps"] = identity.options.steps;
    head["games"] = identity.games;
    return head;
}

}  // namespace

TuningRecord::TuningRecord(const std::string& path, const TuningIdentity& identity, bool resume) {
    std::set<std::pair<std::string, int>> known;
    const auto take_over = [&](const Json& line) -> std::string {
        if (line.contains("step")) {
            if (integer_at<std::uint64_t>(line, "step") != steps_.size()) return "a step is missing before it";
            if (!known.empty()) return "a step comes after the games of the test";
            const StepResult step{line.at("points_a").get<double>(), integer_at<int>(line, "comparisons")};
            if (static_cast<int>(steps_.size()) >= identity.options.steps) return "there are not so many steps";
            if (step.comparisons < 1 || !(step.points_a >= 0 && step.points_a <= step.comparisons))
                return "points are from 0 to the comparisons";
            steps_.push_back(step);
            return "";
        }
        const auto stage = line.at("stage").get<std::string>();
        if (stage != stage_names[0] && stage != stage_names[1]) throw std::invalid_argument("stage");
        GameRecord game = game_of_line(line, "candidate", "start", identity.players);
        if (std::string problem = what_cannot_be(game, identity.players); !problem.empty()) return problem;
        const auto pairing = integer_at<std::uint64_t>(line, "pairing");
        if (!known.emplace(stage + std::to_string(pairing), game.counted.number).second)
            return "game " + std::to_string(game.counted.number) + " is there twice";
        games_[stage == stage_names[0] ? 0 : 1].emplace_back(
            GameTask{static_cast<std::size_t>(pairing), game.counted.number}, std::move(game));
        return "";
    };
    file_ = std::make_unique<RecordFile>(path, "tuning", head_of(identity), "step of a tuning", resume, take_over);
}

TuningRecord::~TuningRecord() = default;

void TuningRecord::add(const TuningStep& step, const StepResult& result, const std::vector<double>& now) {
    file_->write({{"step", steps_.size()},
                  {"a", step.a},
                  {"b", step.b},
                  {"points_a", result.points_a},
                  {"comparisons", result.comparisons},
                  {"now", now}});
    steps_.push_back(result);
}

void TuningRecord::add(TuningStage stage, const GameTask& task, const GameRecord& game) {
    Json line{{"stage", stage_names[static_cast<std::size_t>(stage)]}, {"pairing", task.pairing}};
    line.update(line_of_game(game));
    file_->write(line);
}

}  // namespace arvek
