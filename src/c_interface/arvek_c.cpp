// The functions of arvek/arvek.h, and the games that are compiled into the library.

#include "arvek/arvek.h"

#include <algorithm>
#include <atomic>
#include <cstdlib>
#include <cstring>
#include <memory>
#include <new>
#include <sstream>
#include <string>
#include <thread>

#include "arvek/arena/steady_clock.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/link/program.hpp"
#include "arvek/link/table_game.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/session/json.hpp"
#include "arvek/session/plain_text.hpp"
#include "arvek/tool/tool.hpp"
#include "arvek/version.hpp"
#include "every_offer.hpp"

struct arvek_game {
    arvek::OpenGame open;
    bool one_thread = false;  ///< whether its functions must not be called by several threads at once
};

struct arvek_session {
    arvek::Session session;
    std::uint64_t seed = 0;
    std::atomic<bool> stop{false};
};

namespace {

using arvek::InputError;

thread_local std::string last_error;

arvek_status failed(arvek_status status, const std::string& message) {
    try {
        last_error = arvek::message_line(message);
    } catch (...) {
        last_error.clear();
    }
    return status;
}

/// Runs it, and turns whatever is thrown into a code and a text.
template <class Work>
arvek_status guarded(Work work) noexcept {
    try {
        work();
        return ARVEK_OK;
    } catch (const InputError& error) {
        return failed(ARVEK_WRONG_USE, error.what());
    } catch (const arvek::RulesError& error) {
        return failed(ARVEK_BROKEN_RULES, error.what());
    } catch (const std::bad_alloc&) {
        return failed(ARVEK_FAILED, "there is not enough memory for this");
    } catch (const std::exception& error) {
        return failed(ARVEK_FAILED, error.what());
    } catch (...) {
        return failed(ARVEK_FAILED, "something was thrown that is no std::exception");
    }
}

template <class T>
T& required(T* pointer, const char* what) {
    if (pointer == nullptr) throw InputError(what, "it is NULL", "something");
    return *pointer;
}

/// Where something is to be given out; nothing is yet.
template <class T>
T*& place_of(T** out, const char* what) {
    T*& place = required(out, what);
    place = nullptr;
    return place;
}

char* given_out(const std::string& text) {
    char* copy = static_cast<char*>(std::malloc(text.size() + 1));
    if (copy == nullptr) throw std::bad_alloc();
    std::memcpy(copy, text.c_str(), text.size() + 1);
    return copy;
}

const arvek::tool::Tool& all_games() {
    static const arvek::tool::Tool* const tool = [] {
        auto* made = new arvek::tool::Tool("arvek");
        waterway::offer_every_game(*made);
        return made;
    }();
    return *tool;
}

arvek::OpponentSpec spec_of(const char* opponent, const arvek::OpenGame& game) {
    const std::string text = &required(opponent, "opponent");
    if (text.find('\n') != std::string::npos) return arvek::opponent_of_profile(arvek::read_profile(text, "profile"));
    return arvek::read_opponent(text, game.kit.choosers.infos());
}

#define ARVEK_TEXT_OF(x) #x
#define ARVEK_TEXT(x) ARVEK_TEXT_OF(x)
constexpr const char* version_text =
    ARVEK_TEXT(ARVEK_VERSION_MAJOR) "." ARVEK_TEXT(ARVEK_VERSION_MINOR) "." ARVEK_TEXT(ARVEK_VERSION_PATCH);

}  // namespace

extern "C" {

const char* arvek_version(void) { return version_text; }
int arvek_interface(void) { return ARVEK_INTERFACE; }
const char* arvek_last_error(void) { return last_error.c_str(); }
void arvek_free(char* text) { std::free(text); }

arvek_status arvek_game_open(const char* name, const char* settings, arvek_game** game) {
    return guarded([&] {
        arvek_game*& made = place_of(game, "game");
        const std::string wanted = &required(name, "name");
        std::vector<std::string> names, given;
        std::istringstream in(settings != nullptr ? settings : "");
        for (std::string each; in >> each;) given.push_back(each);
        for (const auto& entry : all_games().games()) {
            names.push_back(entry->name());
            if (entry->name() != wanted) continue;
            auto opened = std::make_unique<arvek_game>(arvek_game{entry->open(given)});
            opened->open.kit.choosers.add(arvek::link::program_info(), &arvek::link::make_program);
            made = opened.release();
            return;
        }
        throw InputError("game", "there is no game " + arvek::in_quotes(wanted), arvek::any_of_text(names));
    });
}

arvek_status arvek_game_from_rules(const arvek_rules* rules, arvek_game** game) {
    return guarded([&] {
        arvek_game*& made = place_of(game, "game");
        const arvek_rules& table = required(rules, "rules");
        made = new arvek_game{arvek::link::open_table_game(table), table.threads == 0};
    });
}

void arvek_rules_failed(const char* message) { arvek::link::tell_failure(message); }

void arvek_game_close(arvek_game* game) { delete game; }

arvek_status arvek_games(char** json) {
    return guarded([&] { place_of(json, "json") = given_out(arvek::games_as_json(all_games().games())); });
}

arvek_status arvek_check(arvek_game* game, double seconds, uint64_t seed, int32_t* faults, char** json) {
    return guarded([&] {
        if (json != nullptr) *json = nullptr;
        if (faults != nullptr) *faults = 0;
        const arvek::Session session(required(game, "game").open);
        if (!(seconds >= 0 && seconds <= 86'400))
            throw InputError("seconds", arvek::number_text(seconds) + " is out of range", "0 to 86400");
        arvek::CheckOptions options;
        if (seconds > 0) options.seconds = seconds;
        options.seed = seed;
        options.clock = arvek::steady_seconds;
        const arvek::CheckReport report = session.check(options);
        if (faults != nullptr) *faults = static_cast<int32_t>(report.faults.size());
        if (json != nullptr) *json = given_out(arvek::check_as_json(session.subject(), report));
    });
}

arvek_status arvek_match(arvek_game* game, const char* a, const char* b, int32_t games, uint64_t seed, char** json) {
    return guarded([&] {
        char*& out = place_of(json, "json");
        const arvek_game& of = required(game, "game");
        const arvek::Session session(of.open);
        if (games < 1 || games > 1'000'000)
            throw InputError("games", std::to_string(games) + " is out of range", "1 to 1000000");
        const arvek::OpponentSpec first = spec_of(a, of.open), second = spec_of(b, of.open);
        arvek::MatchOptions options;
        options.games = games;
        options.seed = seed;
        options.clock = arvek::steady_seconds;
        options.threads =
            of.one_thread ? 1 : static_cast<int>(std::clamp(std::thread::hardware_concurrency(), 1u, 64u));
        arvek::MatchReport report;
        report.result = session.match(first, second, options, {}, {});
        report.a = arvek::opponent_text(first);
        report.b = arvek::opponent_text(second);
        report.a_title = arvek::opponent_title(first);
        report.b_title = arvek::opponent_title(second);
        report.seed = seed;
        out = given_out(arvek::match_as_json(session.subject(), report));
    });
}

arvek_status arvek_session_open(arvek_game* game, const char* position, arvek_session** session) {
    return guarded([&] {
        arvek_session*& made = place_of(session, "session");
        const arvek::OpenGame& open = required(game, "game").open;
        made = position != nullptr ? new arvek_session{arvek::Session(open, position)}
                                   : new arvek_session{arvek::Session(open)};
    });
}

void arvek_session_close(arvek_session* session) { delete session; }

arvek_status arvek_session_state(arvek_session* session, char** json) {
    return guarded([&] {
        char*& out = place_of(json, "json");
        out = given_out(arvek::session_as_json(required(session, "session").session));
    });
}

arvek_status arvek_session_drawing(arvek_session* session, char** text) {
    return guarded([&] {
        char*& out = place_of(text, "text");
        out = given_out(required(session, "session").session.drawing());
    });
}

arvek_status arvek_session_play(arvek_session* session, const char* move) {
    return guarded([&] { required(session, "session").session.play(&required(move, "move")); });
}

arvek_status arvek_session_let_chance_act(arvek_session* session, uint64_t seed) {
    return guarded([&] {
        arvek::Random random(seed);
        if (!required(session, "session").session.let_chance_act(random))
            throw InputError("session", "chance is not next", "a position where it is");
    });
}

arvek_status arvek_session_take_back(arvek_session* session) {
    return guarded([&] {
        if (!required(session, "session").session.take_back())
            throw InputError("session", "no move was played yet", "a session with moves");
    });
}

arvek_status arvek_decide(arvek_session* session, const char* opponent, uint64_t nodes, double seconds, int32_t plays,
                          char** json) {
    return guarded([&] {
        if (json != nullptr) *json = nullptr;
        arvek_session& in_hand = required(session, "session");
        arvek::OpponentSpec spec = spec_of(opponent, in_hand.session.game());
        if (!(seconds >= 0 && seconds <= 86'400))
            throw InputError("seconds", arvek::number_text(seconds) + " is out of range", "0 to 86400");
        if (nodes > 0) spec.nodes = nodes;
        if (seconds > 0) spec.seconds = seconds;
        in_hand.stop = false;
        arvek::Question question;
        question.stop = arvek::StopToken(
            [](const void* stop) { return static_cast<const std::atomic<bool>*>(stop)->load(); }, &in_hand.stop);
        const arvek::Subject subject = in_hand.session.subject();
        const auto decision = in_hand.session.decide(spec, in_hand.seed, {arvek::steady_seconds, {}}, question);
        const arvek::DecisionReport report = in_hand.session.report_of(decision, spec);
        std::unique_ptr<char, void (*)(void*)> text(
            json != nullptr ? given_out(arvek::decision_as_json(subject, report)) : nullptr, &std::free);
        if (plays != 0) in_hand.session.play(report.move);
        if (json != nullptr) *json = text.release();
    });
}

arvek_status arvek_session_seed(arvek_session* session, uint64_t seed) {
    return guarded([&] { required(session, "session").seed = seed; });
}

void arvek_session_stop(arvek_session* session) {
    if (session != nullptr) session->stop = true;
}

}  // extern "C"
