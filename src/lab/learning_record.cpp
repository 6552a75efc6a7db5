#include "arvek/lab/learning_record.hpp"

#include <set>
#include <tuple>

#include "../arena/game_line.hpp"

namespace arvek {

LearningRecord::LearningRecord(const std::string& path, const LearningIdentity& identity, bool resume) {
    RecordFile::Json head = head_of_record(identity);
    head["player"] = identity.player;
    head["against"] = identity.against;
    head["round"] = identity.round;
    head["opening_plies_at_most"] = identity.opening_plies_at_most;
    head["stray"] = identity.stray;
    head["hidden"] = identity.options.hidden;
    head["second"] = identity.options.second;
    head["prior"] = identity.options.prior;
    head["outcome"] = identity.options.outcome;
    head["step"] = identity.options.step;
    head["passes"] = identity.options.passes;
    head["kept_games"] = identity.options.kept_games;
    std::set<std::tuple<int, std::uint64_t, int>> known;
    const auto take_over = [&](const RecordFile::Json& line) -> std::string {
        const bool learned = !line.contains("after");
        GameRecord game = game_of_line(line, learned ? "learner" : "learned", learned ? "learner" : identity.against,
                                       identity.players);
        if (std::string problem = what_cannot_be(game, identity.players); !problem.empty()) return problem;
        const int number = game.counted.number;
        const int after = learned ? -1 : integer_at<int>(line, "after");
        const auto pairing = learned ? 0 : integer_at<std::uint64_t>(line, "pairing");
        if (!learned && after < 0) return "a measurement is after 0 games or more";
        if (!known.emplace(after, pairing, number).second) return "game " + std::to_string(number) + " is there twice";
        if (learned)
            games_.emplace(number, std::move(game));
        else
            tests_[after].emplace_back(GameTask{static_cast<std::size_t>(pairing), number}, std::move(game));
        return "";
    };
    file_ = std::make_unique<RecordFile>(path, "learning", head, "game of learning", resume, take_over);
}

LearningRecord::~LearningRecord() = default;

std::vector<std::pair<GameTask, GameRecord>> LearningRecord::test_games(int after) const {
    const auto found = tests_.find(after);
    return found == tests_.end() ? std::vector<std::pair<GameTask, GameRecord>>() : found->second;
}

void LearningRecord::add(const GameRecord& game) { file_->write(line_of_game(game)); }

void LearningRecord::add(int after, const GameTask& task, const GameRecord& game) {
    RecordFile::Json line{{"after", after}, {"pairing", task.pairing}};
    line.update(line_of_game(game));
    file_->write(line);
}

}  // namespace arvek
