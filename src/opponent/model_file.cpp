#include "arvek/opponent/model_file.hpp"
#include "../game/json_reader.hpp"

#include <charconv>
#include <nlohmann/json.hpp>
#include <string>

#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

using ModelJson = nlohmann::ordered_json;

constexpr int model_format = 1;

/// The fewest digits that are read back to the same.
void put_numbers(std::string& text, const char* name, const std::vector<float>& numbers) {
    text += std::string(",\n\"") + name + "\": [";
    char digits[32];
    for (std::size_t i = 0; i < numbers.size(); ++i) {
        if (i > 0) text += i % 16 == 0 ? ",\n" : ",";
        const auto end = std::to_chars(digits, digits + sizeof digits, numbers[i]).ptr;
        text.append(digits, end);
    }
    text += "]";
}

std::vector<float> numbers_at(const ModelJson& json, const char* name) {
    std::vector<float> numbers;
    for (const ModelJson& each : json.at(name)) {
        if (!each.is_number()) throw std::invalid_argument(name);
        numbers.push_back(each.get<float>());
    }
    return numbers;
}

int integer_of(const ModelJson& json, const char* name) {
    const ModelJson& value = json.at(name);
    if (!value.is_number_integer() || value.get<std::int64_t>() < 0 || value.get<std::int64_t>() > INT32_MAX)
        throw std::invalid_argument(name);
    return value.get<int>();
}

}  // namespace

std::string model_as_json(const LearnedModel& model) {
    ModelJson head{{"format", model_format}, {"game", model.game}};
    ModelJson settings = ModelJson::object();
    for (const auto& [name, value] : model.settings) settings[name] = value;
    head["set"] = std::move(settings);
    head["games"] = model.games;
    head["hidden"] = model.hidden;
    head["second"] = model.second;
    head["prior"] = model.prior;
    ModelJson patterns = ModelJson::array();
    for (const Pattern& pattern : model.patterns) {
        ModelJson one{{"name", pattern.name}, {"ways", pattern.ways}};
        if (!pattern.rival_ways.empty()) {
            one["rival_ways"] = pattern.rival_ways;
            if (pattern.rival_place >= 0) one["rival_place"] = pattern.rival_place;
        }
        patterns.push_back(std::move(one));
    }
    head["patterns"] = std::move(patterns);
    std::string text = "{\"learned\": " + head.dump();
    put_numbers(text, "rows", model.rows);
    put_numbers(text, "row_bias", model.row_bias);
    put_numbers(text, "second_rows", model.second_rows);
    put_numbers(text, "second_bias", model.second_bias);
    put_numbers(text, "last_rows", model.last_rows);
    put_numbers(text, "last_bias", model.last_bias);
    return text + "}\n";
}

LearnedModel read_model(std::string_view text, std::string_view source) {
    const std::string place(source);
    constexpr JsonLimits limits{.bytes = std::size_t{1} << 30, .values = 100'000'000};
    const auto json = read_json<ModelJson>(text, place, "a file that 'arvek learn' has written", limits);
    LearnedModel model;
    try {
        const ModelJson& head = json.at("learned");
        if (integer_of(head, "format") != model_format)
            throw InputError(place, "it is of format " + std::to_string(integer_of(head, "format")),
                             "format " + std::to_string(model_format));
        model.game = head.at("game").get<std::string>();
        for (const auto& [name, value] : head.at("set").items())
            model.settings.emplace_back(name, value.get<std::string>());
        if (!head.at("games").is_number_unsigned()) throw std::invalid_argument("games");
        model.games = head.at("games").get<std::uint64_t>();
        model.hidden = integer_of(head, "hidden");
        model.second = integer_of(head, "second");
        model.prior = head.at("prior").get<bool>();
        for (const ModelJson& pattern : head.at("patterns")) {
            Pattern& one = model.patterns.emplace_back();
            one.name = pattern.at("name").get<std::string>();
            one.ways = integer_of(pattern, "ways");
            if (pattern.contains("rival_ways"))
                for (const ModelJson& way : pattern.at("rival_ways")) {
                    if (!way.is_number_unsigned() || way.get<std::uint64_t>() >= most_ways)
                        throw std::invalid_argument("rival_ways");
                    one.rival_ways.push_back(way.get<std::uint16_t>());
                }
            if (pattern.contains("rival_place")) one.rival_place = integer_of(pattern, "rival_place");
        }
        model.rows = numbers_at(json, "rows");
        model.row_bias = numbers_at(json, "row_bias");
        model.second_rows = numbers_at(json, "second_rows");
        model.second_bias = numbers_at(json, "second_bias");
        model.last_rows = numbers_at(json, "last_rows");
        model.last_bias = numbers_at(json, "last_bias");
    } catch (const InputError&) {
        throw;
    } catch (const std::exception& error) {
        throw InputError(place, std::string("it is no model: ") + error.what(),
                         "a file that 'arvek learn' has written");
    }
    try {
        check_model(model);
    } catch (const InputError& error) {
        throw InputError(place, error.what());
    }
    return model;
}

void require_learnable(const AnyGame& game) {
    if (players_of(game) != 2)
        throw InputError("model", "the game is not for two", "a game of two, which one wins or the other");
    if (!offers(game, Ability::Patterns)) throw_not_offered(Ability::Patterns);
}

void require_model_fits(const AnyGame& game, const LearnedModel& model) {
    require_learnable(game);
    const std::vector<Pattern> patterns = game.patterns();
    const auto told = [](const Pattern& pattern) {
        return "'" + pattern.name + "' with " + std::to_string(pattern.ways) + " ways" +
               (pattern.rival_ways.empty() ? "" : ", and how the rival sees them");
    };
    for (std::size_t i = 0; i < std::max(patterns.size(), model.patterns.size()); ++i) {
        if (i >= patterns.size())
            throw InputError("model", "it has pattern " + told(model.patterns[i]) + ", and the game has no more",
                             "a model that was learned in this game with these parameters");
        if (i >= model.patterns.size())
            throw InputError("model", "the game has pattern " + told(patterns[i]) + ", and the model has no more",
                             "a model that was learned in this game with these parameters");
        if (!(patterns[i] == model.patterns[i]))
            throw InputError("model",
                             "it has pattern " + told(model.patterns[i]) + ", and the game " + told(patterns[i]),
                             "a model that was learned in this game with these parameters");
    }
}

}  // namespace arvek
