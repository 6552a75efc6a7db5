#include "arvek/link/rules_program.hpp"
#include "../game/json_reader.hpp"

#include <algorithm>
#include <chrono>
#include <mutex>
#include <nlohmann/json.hpp>
#include <unordered_map>

#include "arvek/game/hashing.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/text.hpp"
#include "arvek/session/plain_text.hpp"

namespace arvek::link {

using RulesJson = nlohmann::json;

struct SaidOfPosition {
    std::optional<Outcome> outcome{};
    bool chance = false;
    Player to_move = Player::First;
    std::vector<RulesProgram::Move> moves{};
    std::vector<double> probabilities{};
    std::vector<std::shared_ptr<const std::string>> after{};
    std::int64_t evaluation = 0;
    std::string drawing{};

    /// About how much it takes.
    std::size_t bytes() const {
        std::size_t all = sizeof *this + drawing.size() + moves.size() * (sizeof moves[0] + sizeof(double));
        for (const auto& text : after) all += sizeof text + 64 + text->size();
        return all;
    }
};

namespace {

constexpr int most_moves_said = 100'000;
constexpr std::size_t most_remembered = 1'000'000;
constexpr std::size_t most_remembered_bytes = std::size_t{256} << 20;
constexpr std::size_t most_move_bytes = std::size_t{64} << 20;  // of all texts of moves, each kept for good

/// A message of the program's that is not what it should be.
class WrongAnswer : public std::runtime_error {
   public:
    using std::runtime_error::runtime_error;
};

const RulesJson& member_of(const RulesJson& json, const char* name, const char* expected) {
    const auto found = json.find(name);
    if (found == json.end()) throw WrongAnswer(std::string("'") + name + "' is missing (expected " + expected + ")");
    return *found;
}
std::string text_of(const RulesJson& json, const char* name) {
    const RulesJson& value = member_of(json, name, "a string");
    if (!value.is_string()) throw WrongAnswer(std::string("'") + name + "' is no string");
    return value.get<std::string>();
}
std::int64_t integer_of(const RulesJson& value, const char* name, std::int64_t least, std::int64_t most) {
    if (!value.is_number_integer() || value.get<std::int64_t>() < least || value.get<std::int64_t>() > most)
        throw WrongAnswer(std::string("'") + name + "' is no integer from " + std::to_string(least) + " to " +
                          std::to_string(most));
    return value.get<std::int64_t>();
}
void require_one_line(const std::string& text, const char* what, bool with_spaces) {
    const bool fits = !text.empty() && std::none_of(text.begin(), text.end(), [&](char letter) {
        return static_cast<unsigned char>(letter) < 0x20 || (letter == ' ' && !with_spaces);
    });
    if (!fits)
        throw WrongAnswer(std::string(what) + " " + in_quotes(text) + " is empty, or has " +
                          (with_spaces ? "" : "a space or ") + "a control character in it");
}

}  // namespace

struct RulesProgram::State {
    explicit State(Options given)
        : options(std::move(given)), child({.command = options.command, .longest_line = std::size_t{1} << 24}) {}

    Options options;
    mutable std::mutex mutex;  // one question at a time
    Child child;
    std::int64_t last_id = 0;

    std::string name;
    std::vector<std::string> player_names;
    int draw_at_occurrence = 0;
    bool evaluates = false, draws = false, has_chance = false;
    std::shared_ptr<const std::string> initial;

    std::vector<std::string> move_texts;
    std::unordered_map<std::string, std::uint32_t> move_numbers;
    std::size_t move_bytes = 0;
    std::unordered_map<std::string, std::shared_ptr<const SaidOfPosition>> remembered;
    std::size_t remembered_bytes = 0;

    void remember(const std::string& text, const std::shared_ptr<const SaidOfPosition>& said) {
        const std::size_t bytes = 2 * text.size() + said->bytes();
        if (remembered.size() >= most_remembered || remembered_bytes + bytes > most_remembered_bytes) {
            remembered.clear();
            remembered_bytes = 0;
        }
        remembered_bytes += bytes;
        remembered.emplace(text, said);
    }

    /// The result of one request. Throws ProgramError, and InputError for an error that the program answers with.
    RulesJson ask(const char* method, RulesJson params, double seconds) {
        const std::int64_t id = ++last_id;
        const RulesJson request{{"jsonrpc", "2.0"}, {"id", id}, {"method", method}, {"params", std::move(params)}};
        child.write_line(request.dump(-1, ' ', false, RulesJson::error_handler_t::replace), seconds);
        const auto end = std::chrono::steady_clock::now() + std::chrono::duration<double>(seconds);
        for (int others = 0;;) {
            const auto left = std::chrono::duration<double>(end - std::chrono::steady_clock::now()).count();
            const auto line = child.read_line(left);
            if (!line)
                child.fail(Trouble::Silent,
                           std::string("did not answer '") + method + "' within " + number_text(seconds) + " s");
            if (line->find_first_not_of(" \t") == std::string::npos) continue;
            RulesJson answer;
            try {
                answer = arvek::read_json<RulesJson>(*line, "");
            } catch (const InputError& error) {
                child.fail(Trouble::Nonsense, "said what is no answer: " + in_quotes(*line) + ", " + error.what());
            }
            if (!answer.is_object()) child.fail(Trouble::Nonsense, "said what is no answer: " + in_quotes(*line));
            const auto of = answer.find("id");
            if (of == answer.end() || *of != id) {
                if (++others > 1'000) child.fail(Trouble::Nonsense, "answers what it was not asked");
                continue;
            }
            if (const auto error = answer.find("error"); error != answer.end()) {
                std::string message = "it gave an error";
                if (error->is_object() && error->contains("message") && (*error)["message"].is_string())
                    message = (*error)["message"].get<std::string>();
                throw InputError(name.empty() ? child.name() : name, message_line(message));
            }
            const auto result = answer.find("result");
            if (result == answer.end()) child.fail(Trouble::Nonsense, "answered without a result: " + in_quotes(*line));
            return *result;
        }
    }

    std::uint32_t number_of(const std::string& move) {
        const auto [at, is_new] = move_numbers.try_emplace(move, static_cast<std::uint32_t>(move_texts.size()));
        if (!is_new) return at->second;
        move_bytes += 2 * move.size() + 128;
        if (move_bytes > most_move_bytes)
            child.fail(Trouble::TooMuch, "has texts for over " + std::to_string(move_texts.size()) +
                                             " moves; one text for the same move in every position would do");
        move_texts.push_back(move);
        return at->second;
    }

    void read_rules() {
        const RulesJson rules = ask("rules", RulesJson::object(), options.start_seconds);
        if (!rules.is_object()) throw WrongAnswer("it is no object");
        name = text_of(rules, "game");
        require_one_line(name, "the name of the game", true);
        initial = std::make_shared<const std::string>(text_of(rules, "initial"));
        require_one_line(*initial, "the initial position", true);
        const RulesJson& names = member_of(rules, "players", "a list of names");
        if (!names.is_array() || names.empty() || names.size() > max_players)
            throw WrongAnswer("'players' is no list of 1 to " + std::to_string(max_players) + " names");
        for (const RulesJson& each : names) {
            if (!each.is_string()) throw WrongAnswer("'players' is no list of names");
            player_names.push_back(each.get<std::string>());
            require_one_line(player_names.back(), "the name of a player", true);
        }
        if (const auto at = rules.find("draw_at_occurrence"); at != rules.end())
            draw_at_occurrence = static_cast<int>(integer_of(*at, "draw_at_occurrence", 0, 1'000));
        const auto truth = [&](const char* key) {
            const auto at = rules.find(key);
            if (at == rules.end()) return false;
            if (!at->is_boolean()) throw WrongAnswer(std::string("'") + key + "' is not true or false");
            return at->get<bool>();
        };
        evaluates = truth("evaluates");
        draws = truth("draws");
        has_chance = truth("chance");
    }

    std::shared_ptr<const SaidOfPosition> read_look(const RulesJson& said) {
        if (!said.is_object()) throw WrongAnswer("it is no object");
        auto known = std::make_shared<SaidOfPosition>();
        if (const auto payoffs = said.find("payoffs"); payoffs != said.end() && !payoffs->is_null()) {
            if (!payoffs->is_array() || payoffs->size() != player_names.size())
                throw WrongAnswer("'payoffs' is no list of a payoff for each player");
            std::array<Payoff, max_players> all{};
            for (std::size_t i = 0; i < payoffs->size(); ++i)
                all[i] = static_cast<Payoff>(integer_of((*payoffs)[i], "payoffs", -largest_payoff, largest_payoff));
            known->outcome = Outcome::of_payoffs(all);
        }
        if (const auto drawing = said.find("drawing"); drawing != said.end())
            known->drawing = plain_lines(text_of(said, "drawing"));
        if (known->outcome) return known;
        const RulesJson& moves = member_of(said, "moves", "a list of moves");
        if (!moves.is_array() || moves.size() > most_moves_said) throw WrongAnswer("'moves' is no list of moves");
        for (const RulesJson& each : moves) {
            if (!each.is_object()) throw WrongAnswer("a move is no object");
            const std::string text = text_of(each, "move");
            require_one_line(text, "the move", false);
            known->moves.push_back({number_of(text)});
            known->after.push_back(std::make_shared<const std::string>(text_of(each, "after")));
            require_one_line(*known->after.back(), "the position after a move", true);
            if (const auto at = each.find("probability"); at != each.end()) {
                if (!at->is_number()) throw WrongAnswer("'probability' is no number");
                known->probabilities.push_back(at->get<double>());
            }
        }
        known->chance = !known->probabilities.empty();
        if (known->chance && known->probabilities.size() != known->moves.size())
            throw WrongAnswer("some events have a probability, and some do not");
        if (known->chance && !has_chance)
            throw WrongAnswer("there are probabilities, but the rules do not say \"chance\": true");
        if (!known->chance)
            known->to_move =
                static_cast<Player>(integer_of(member_of(said, "to_move", "the number of a player, from 0"), "to_move",
                                               0, static_cast<std::int64_t>(player_names.size()) - 1));
        if (evaluates && !known->chance)
            known->evaluation = integer_of(member_of(said, "evaluation", "an integer, for the first player"),
                                           "evaluation", -1'000'000, 1'000'000);
        return known;
    }

    template <class Read>
    auto read_answer(const char* method, Read read) {
        try {
            return read();
        } catch (const WrongAnswer& error) {
            child.fail(Trouble::Nonsense, std::string("answered '") + method + "' wrongly: " + error.what());
        } catch (const RulesJson::exception&) {
            child.fail(Trouble::Nonsense, std::string("answered '") + method + "' wrongly");
        }
    }
};

RulesProgram::RulesProgram(Options options) : state_(std::make_shared<State>(std::move(options))) {
    const std::lock_guard lock(state_->mutex);
    state_->read_answer("rules", [&] { state_->read_rules(); });
}

const SaidOfPosition& RulesProgram::look(const Position& position) const {
    // Kept for as long as the thread asks nothing else.
    thread_local std::shared_ptr<const SaidOfPosition> last;
    thread_local std::shared_ptr<const std::string> last_text;
    thread_local const State* last_state = nullptr;
    if (last_state == state_.get() && last_text == position.text && last) return *last;
    State& state = *state_;
    static const std::string none;
    const std::string& text = position.text ? *position.text : none;
    const std::lock_guard lock(state.mutex);
    if (const auto found = state.remembered.find(text); found != state.remembered.end()) {
        last = found->second;
    } else {
        const RulesJson said = state.ask("look", RulesJson{{"position", text}}, state.options.answer_seconds);
        last = state.read_answer("look", [&] { return state.read_look(said); });
        state.remember(text, last);
    }
    last_text = position.text;
    last_state = state_.get();
    return *last;
}

bool RulesProgram::offers(Ability ability) const {
    switch (ability) {
        case Ability::Players:
        case Ability::Hash:
        case Ability::Text:
        case Ability::PlayerName: return true;
        case Ability::Evaluation: return state_->evaluates;
        case Ability::Drawing: return state_->draws;
        case Ability::Chance: return state_->has_chance;
        case Ability::Repetition: return state_->draw_at_occurrence > 0;
        default: return false;
    }
}

RulesProgram::Position RulesProgram::initial_position() const { return {state_->initial}; }
Player RulesProgram::player_to_move(const Position& position) const { return look(position).to_move; }
void RulesProgram::generate_moves(const Position& position, MoveList<Move>& moves) const {
    for (const Move& move : look(position).moves) moves.push_back(move);
}
void RulesProgram::play(Position& position, const Move& move) const {
    const SaidOfPosition& said = look(position);
    const auto at = std::find(said.moves.begin(), said.moves.end(), move);
    if (at == said.moves.end())
        throw RulesError("play() is asked for a move that is not legal in " + (position.text ? *position.text : ""));
    position.text = said.after[static_cast<std::size_t>(at - said.moves.begin())];
}
std::optional<Outcome> RulesProgram::outcome(const Position& position) const { return look(position).outcome; }
int RulesProgram::players() const { return static_cast<int>(state_->player_names.size()); }
Score RulesProgram::evaluate(const Position& position, Player player) const {
    const std::int64_t of_first = look(position).evaluation;
    return Score::estimate(player == Player::First ? of_first : -of_first);
}
std::uint64_t RulesProgram::hash(const Position& position) const {
    return position.text ? hash_of_text(*position.text) : 0;
}
bool RulesProgram::chance_is_next(const Position& position) const { return look(position).chance; }
void RulesProgram::generate_events(const Position& position, MoveList<Event<Move>>& events) const {
    const SaidOfPosition& said = look(position);
    for (std::size_t i = 0; i < said.moves.size(); ++i) events.push_back({said.moves[i], said.probabilities[i]});
}
int RulesProgram::draw_at_occurrence() const { return state_->draw_at_occurrence; }
std::string RulesProgram::position_text(const Position& position) const { return position.text ? *position.text : ""; }
RulesProgram::Position RulesProgram::read_position(std::string_view text) const {
    if (text.empty()) throw InputError("position", "the text is empty", "such as '" + *state_->initial + "'");
    const Position position{std::make_shared<const std::string>(text)};
    (void)look(position);  // it says what is wrong with it
    return position;
}
std::string RulesProgram::move_text(const Position&, const Move& move) const {
    const std::lock_guard lock(state_->mutex);
    return move.number < state_->move_texts.size() ? state_->move_texts[move.number] : "";
}
std::string RulesProgram::drawing(const Position& position) const { return look(position).drawing; }
std::string RulesProgram::player_name(Player player) const {
    return index_of(player) < state_->player_names.size() ? state_->player_names[index_of(player)] : "";
}
const std::string& RulesProgram::name() const { return state_->name; }

}  // namespace arvek::link
