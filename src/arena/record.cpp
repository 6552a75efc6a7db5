#include "arvek/arena/record.hpp"
#include "../game/json_reader.hpp"

#include <set>

#include "arvek/arena/files.hpp"
#include "arvek/game/input_error.hpp"
#include "game_line.hpp"

namespace arvek {

namespace {
using Json = RecordFile::Json;
}

MatchRecord::MatchRecord(const std::string& path, const MatchIdentity& identity, bool resume) {
    Json head = head_of_record(identity);
    head["a"] = identity.a;
    head["b"] = identity.b;
    std::set<int> known;
    const auto take_over = [&](const Json& line) -> std::string {
        GameRecord game = game_of_line(line, identity.a, identity.b, identity.players);
        if (std::string problem = what_cannot_be(game, identity.players); !problem.empty()) return problem;
        if (!known.insert(game.counted.number).second)
            return "game " + std::to_string(game.counted.number) + " is there twice";
        games_.push_back(std::move(game));
        return "";
    };
    file_ = std::make_unique<RecordFile>(path, "match", head, "game of a match", resume, take_over);
}

MatchRecord::~MatchRecord() = default;

void MatchRecord::add(const GameRecord& game) { file_->write(line_of_game(game)); }

RecordedGames read_games(const std::string& path) {
    constexpr std::size_t most_bytes = std::size_t{1} << 30;
    const std::string text = read_text_file(path, most_bytes);
    RecordedGames recorded;
    const auto fail = [&](std::size_t line, const std::string& problem) -> void {
        throw InputError(path + ", line " + std::to_string(line), problem, "a file that --record has written");
    };
    std::size_t number = 0;
    for (std::size_t begin = 0; begin < text.size(); ++number) {
        const std::size_t end = text.find('\n', begin);
        if (end == std::string::npos) break;  // it was being written
        const Json line =
            read_json<Json>(std::string_view(text).substr(begin, end - begin),
                            path + ", line " + std::to_string(number + 1), "a file that --record has written");
        begin = end + 1;
        if (!line.is_object()) fail(number + 1, "the line is no JSON object");
        try {
            if (number == 0) {
                const Json* head = nullptr;
                for (const char* what : {"match", "league", "tuning", "learning"})
                    if (line.contains(what)) head = &line.at(what);
                if (head == nullptr) fail(1, "the file does not begin with a match, a league, a tuning or learning");
                recorded.game = head->at("game").get<std::string>();
                recorded.players = integer_at<int>(*head, "players");
                recorded.position = head->at("position").get<std::string>();
                for (const auto& [name, value] : head->at("set").items())
                    recorded.settings.emplace_back(name, value.get<std::string>());
            } else if (!line.contains("step")) {
                recorded.games.push_back(game_of_line(line, "", "", recorded.players));
            }
        } catch (const InputError&) {
            throw;
        } catch (const std::exception&) {
            fail(number + 1, number == 0 ? "the head is of none of these" : "the line is no game");
        }
    }
    if (number == 0) fail(1, "there is nothing in it");
    return recorded;
}

}  // namespace arvek
