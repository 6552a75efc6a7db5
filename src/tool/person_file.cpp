#include "person_file.hpp"

#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>

#include "../game/json_reader.hpp"
#include "arvek/arena/files.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/session/plain_text.hpp"

namespace arvek::tool {

using PersonJson = nlohmann::json;

constexpr const char* result_line = R"({"game":"lanterns","set":{},"opponent":"standard","level":4,"result":1})";

PersonFile::PersonFile(std::string path, const Session& session, const OpponentSpec& opponent)
    : path_(std::move(path)),
      game_(session.game().name),
      opponent_(plain_line(opponent.profile ? opponent.profile->name : opponent.name)),
      ratings_(level_ratings(opponent.profile.get())) {
    for (const Setting& setting : session.game().settings) settings_.emplace_back(setting.name, setting.value);
    std::error_code problem;
    if (!std::filesystem::exists(path_, problem)) {
        OutputFile empty(path_);  // what cannot be written is known before the game
        empty.commit();
        return;
    }
    std::istringstream lines(read_text_file(path_, 100'000'000));
    std::size_t number = 0;
    for (std::string line; std::getline(lines, line);) {
        ++number;
        if (line.empty()) continue;
        const auto fail = [&] {
            throw InputError(path_ + ", line " + std::to_string(number), "it is no result of a game", result_line);
        };
        const PersonJson json = read_json<PersonJson>(line, path_ + ", line " + std::to_string(number), result_line);
        if (!json.is_object()) fail();
        try {
            const int level = json.at("level").get<int>();
            const double result = json.at("result").get<double>();
            if (level < lowest_level || level > highest_level || !(result == 0 || result == 0.5 || result == 1)) fail();
            PersonJson set = PersonJson::object();
            for (const auto& [name, value] : settings_) set[name] = value;
            if (json.at("game").get<std::string>() != game_ || json.at("opponent").get<std::string>() != opponent_ ||
                json.at("set") != set)
                continue;
            games_.push_back({ratings_[static_cast<std::size_t>(level - lowest_level)], result});
        } catch (const PersonJson::exception&) {
            fail();
        }
    }
}

void PersonFile::add(int level, double result) {
    PersonJson set = PersonJson::object();
    for (const auto& [name, value] : settings_) set[name] = value;
    const PersonJson json{{"game", game_}, {"set", set}, {"opponent", opponent_}, {"level", level}, {"result", result}};
    std::ofstream file(path_, std::ios::app);
    file << json.dump() << "\n" << std::flush;
    if (!file) throw InputError(path_, "the result cannot be written", "room for it, and the right to write");
    games_.push_back({ratings_[static_cast<std::size_t>(level - lowest_level)], result});
}

}  // namespace arvek::tool
