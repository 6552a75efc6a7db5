#include "rpc_methods.hpp"

#include <algorithm>
#include <optional>

#include "arvek/arena/steady_clock.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/session/checked_profile.hpp"
#include "arvek/session/json.hpp"
#include "arvek/session/tree_report.hpp"

namespace arvek::link::detail {

Json rpc_state_of(const Session& session) { return Json::parse(session_as_json(session)); }

namespace {

constexpr int most_tree_plies = 12;

Json state(RpcSession& at, Params& params, const RpcRequest&) {
    params.finish();
    return rpc_state_of(at.session);
}
Json drawing(RpcSession& at, Params& params, const RpcRequest&) {
    params.finish();
    return Json{{"drawing", at.session.drawing()}};
}
Json play(RpcSession& at, Params& params, const RpcRequest&) {
    const std::string move = params.text("move");
    params.finish();
    at.session.play(move);
    return rpc_state_of(at.session);
}
Json take_back(RpcSession& at, Params& params, const RpcRequest&) {
    const auto plies = params.integer_if("plies", 1, 1'000'000).value_or(1);
    params.finish();
    if (static_cast<std::size_t>(plies) > at.session.plies())
        throw RpcError(CannotBeDone, "take_back: only " + std::to_string(at.session.plies()) + " moves were played");
    for (std::int64_t i = 0; i < plies; ++i) at.session.take_back();
    return rpc_state_of(at.session);
}
Json restart(RpcSession& at, Params& params, const RpcRequest&) {
    params.finish();
    at.session.restart();
    return rpc_state_of(at.session);
}
Json let_chance_act(RpcSession& at, Params& params, const RpcRequest&) {
    params.finish();
    Random random(derived_seed(at.seed, at.session.plies()));
    const auto event = at.session.let_chance_act(random);
    if (!event) throw RpcError(CannotBeDone, "let_chance_act: chance is not next");
    Json answer{{"event", *event}};
    answer.update(rpc_state_of(at.session));
    return answer;
}

Player player_of(RpcSession& at, Params& params) {
    const std::string name = lower_case(params.text("player"));
    const auto names = at.session.player_names();
    for (std::size_t i = 0; i < names.size(); ++i)
        if (lower_case(names[i]) == name) return static_cast<Player>(i);
    throw InputError("player", "there is no player " + in_quotes(name), any_of_text(names));
}

constexpr const char* name_of_text = "profile";

/// A profile that is given as its text may run nothing.
void require_no_program(const Profile& profile) {
    if (profile.program)
        throw InputError(name_of_text, "a profile that is given as text cannot run a program", "the path of a file");
}

void reserve_for(const RpcSession& at, const OpponentSpec& spec, const RpcRequest& request) {
    const GameKit& kit = at.session.game().kit;
    request.reserve(memory_of(kit.game, spec, kit.choosers));
}

/// Who is meant, and with which limits.
OpponentSpec opponent_of(RpcSession& at, Params& params, const RpcRequest& request) {
    const auto name = params.text_if("opponent");
    const auto profile = params.text_if("profile");
    if (name && profile) throw RpcError(InvalidParams, "opponent and profile are both given (expected one of the two)");
    OpponentSpec spec;
    if (profile) {
        Profile read = read_profile(*profile, name_of_text);
        require_no_program(read);
        spec = opponent_of_profile(std::move(read));
    } else {
        spec = request.options.read_opponent(name.value_or("standard"), at.session);
    }
    if (const auto level = params.integer_if("level", lowest_level, highest_level))
        spec.level = static_cast<int>(*level);
    if (const auto depth = params.integer_if("depth", 0, max_depth)) spec.depth = static_cast<int>(*depth);
    if (const auto nodes = params.integer_if("nodes", 1, INT64_MAX)) spec.nodes = static_cast<std::uint64_t>(*nodes);
    if (const auto playouts = params.integer_if("playouts", 1, INT64_MAX))
        spec.playouts = static_cast<std::uint64_t>(*playouts);
    if (const auto seconds = params.number_if("seconds", 0.001, 86'400)) spec.seconds = *seconds;
    if (const Json* options = params.object_if("options"))
        for (const auto& [key, value] : options->items()) {
            if (value.is_boolean())
                spec.options.set(key, value.get<bool>());
            else if (value.is_number_integer())
                spec.options.set(key, value.get<std::int64_t>());
            else if (value.is_number())
                spec.options.set(key, value.get<double>());
            else if (value.is_string())
                spec.options.set(key, value.get<std::string>());
            else
                throw RpcError(InvalidParams, "options." + key + " is " + kind_text(value) +
                                                  " (expected a boolean, a number or a string)");
        }
    reserve_for(at, spec, request);
    return spec;
}

Json seat(RpcSession& at, Params& params, const RpcRequest& request) {
    const Player player = player_of(at, params);
    const OpponentSpec spec = opponent_of(at, params, request);
    params.finish();
    at.session.take_seat(player, spec, {steady_seconds, {}});
    return rpc_state_of(at.session);
}
Json leave(RpcSession& at, Params& params, const RpcRequest&) {
    const Player player = player_of(at, params);
    params.finish();
    at.session.leave_seat(player);
    return rpc_state_of(at.session);
}

std::function<void(const Decision<AnyMove>&)> progress_of(RpcSession& at, const OpponentSpec& spec, bool wanted,
                                                          const RpcRequest& request) {
    if (!wanted) return {};
    return [&at, spec, &request](const Decision<AnyMove>& so_far) {
        constexpr std::size_t most_told = 12;
        Json report = Json::parse(decision_as_json(at.session.subject(), at.session.report_of(so_far, spec)));
        Json params = Json::object();
        for (const char* key : {"move", "stats"})
            if (report.contains(key)) params[key] = report[key];
        if (report.contains("ranked") && !report["ranked"].empty()) {
            Json& ranked = report["ranked"];
            params["score"] = ranked[0].value("score", Json(nullptr));
            params["line"] = ranked[0].value("line", Json(nullptr));
            if (ranked.size() > most_told) ranked.erase(ranked.begin() + most_told, ranked.end());
            params["ranked"] = std::move(ranked);
        }
        request.tell(std::move(params));
    };
}

Json answer_of_seat(RpcSession& at, Params& params, const RpcRequest& request) {
    const auto seed = params.integer_if("seed", 0, INT64_MAX);
    const bool tells = params.boolean_or("progress", false);
    params.finish();
    if (!at.session.awaits_answer()) throw RpcError(CannotBeDone, "answer: no opponent is to move");
    const OpponentSpec spec = *at.session.seated(at.session.player_to_move());
    reserve_for(at, spec, request);
    const auto told = progress_of(at, spec, tells, request);
    const Progress<AnyMove> progress(told);
    const Subject subject = at.session.subject();
    const DecisionReport report = at.session.ask_seated(seed ? static_cast<std::uint64_t>(*seed) : at.seed,
                                                        request.stop, tells ? &progress : nullptr);
    at.session.play_what_was_asked();
    return Json{{"decision", Json::parse(decision_as_json(subject, report))}, {"state", rpc_state_of(at.session)}};
}

Json decide(RpcSession& at, Params& params, const RpcRequest& request) {
    const OpponentSpec spec = opponent_of(at, params, request);
    const auto seed = params.integer_if("seed", 0, INT64_MAX);
    const bool tells = params.boolean_or("progress", false);
    Question question;
    question.only = params.texts("only");
    if (params.boolean_or("rank_all", false)) question.ranking = Ranking::All;
    const auto plies = params.integer_if("tree", 1, most_tree_plies);
    params.finish();
    std::optional<SearchedTree<AnyMove>> tree;
    if (plies) {
        const GameKit& kit = at.session.game().kit;
        const ChooserInfo* info = kit.choosers.find(kit.game, spec.chooser_name());
        if (info != nullptr && !info->looks_ahead)
            throw InputError("tree", in_quotes(spec.name) + " does not look ahead", "an opponent that does");
        tree.emplace(static_cast<int>(*plies));
        question.tree = &*tree;
    }
    const auto told = progress_of(at, spec, tells, request);
    const Progress<AnyMove> progress(told);
    question.stop = request.stop;
    question.progress = tells ? &progress : nullptr;
    const auto decision =
        at.session.decide(spec, seed ? static_cast<std::uint64_t>(*seed) : at.seed, {steady_seconds, {}}, question);
    if (tree)
        at.tree = Json::parse(tree_as_json(
            at.session.subject(),
            tree_report(at.session.game().kit.game, at.session.position(), *tree, decision, most_tree_nodes)));
    return Json::parse(decision_as_json(at.session.subject(), at.session.report_of(decision, spec)));
}

/// The position that those moves lead to in the tree of the last decision, and its children without theirs.
Json branch(RpcSession& at, Params& params, const RpcRequest&) {
    const auto path = params.texts("path");
    params.finish();
    if (at.tree.is_null() || at.tree["tree"].is_null())
        throw RpcError(CannotBeDone, "branch: no decision has kept its tree (expected decide with 'tree' before)");
    const Json* node = &at.tree["tree"];
    for (const std::string& move : path) {
        const Json& children = (*node)["children"];
        const auto child =
            std::find_if(children.begin(), children.end(), [&](const Json& each) { return each["move"] == move; });
        if (child == children.end())
            throw RpcError(CannotBeDone, "branch: " + in_quotes(move) + " is not in the tree (expected a move of it)");
        node = &*child;
    }
    const auto without_children = [](const Json& whole) {
        Json bare = Json::object();
        for (const auto& [key, value] : whole.items())
            if (key != "children") bare[key] = value;
        bare["children"] = whole["children"].size();
        return bare;
    };
    Json answer = without_children(*node);
    Json children = Json::array();
    for (const Json& child : (*node)["children"]) children.push_back(without_children(child));
    answer["children"] = std::move(children);
    for (const char* key : {"position", "depth", "plies", "scores_for"}) answer[key] = at.tree[key];
    return answer;
}

Json board(RpcSession& at, Params& params, const RpcRequest&) {
    const Session& session = at.session;
    const bool has_mover = !session.ending() && !session.chance_is_next();
    const Player viewer = params.has("player") ? player_of(at, params)
                          : has_mover          ? session.player_to_move()
                                               : Player::First;
    params.finish();
    Json answer = Json::parse(board_as_json(session.board(viewer)));
    answer["player"] = lower_case(session.player_name(viewer));
    answer["drawing"] = session.drawing_for(viewer);
    return answer;
}

Json go_to(RpcSession& at, Params& params, const RpcRequest&) {
    const auto moves = params.texts("moves");
    params.finish();
    const auto before = at.session.moves_played();
    std::size_t same = 0;
    while (same < moves.size() && same < before.size() && moves[same] == before[same]) ++same;
    const auto play_from_there = [&](const std::vector<std::string>& line) {
        while (at.session.plies() > same) at.session.take_back();
        for (std::size_t i = same; i < line.size(); ++i) at.session.play(line[i]);
    };
    try {
        play_from_there(moves);
    } catch (const InputError&) {
        play_from_there(before);
        throw;
    }
    return rpc_state_of(at.session);
}

/// The chances to win at every decision of the game so far, judged by an opponent that looks ahead.
Json judge(RpcSession& at, Params& params, const RpcRequest& request) {
    const OpponentSpec by = opponent_of(at, params, request);
    const bool tells = params.boolean_or("progress", false);
    params.finish();
    const auto moves = at.session.moves_played();
    const Session from = at.start ? Session(at.session.game(), *at.start) : Session(at.session.game());
    std::size_t done = 0;
    const auto judged = from.judge(moves, by, {steady_seconds, {}}, request.stop, [&] {
        ++done;
        if (tells) request.tell({{"done", done}, {"of", moves.size()}});
    });
    Json list = Json::array();
    for (const JudgedMove& move : judged)
        list.push_back({{"ply", move.ply},
                        {"player", lower_case(at.session.player_name(move.player))},
                        {"played", move.played},
                        {"better", move.better},
                        {"chance", move.chance},
                        {"chance_played", move.chance_played},
                        {"lost", move.lost()}});
    return Json{{"complete", !request.stop.stop_requested()}, {"decisions", std::move(list)}};
}

/// What is wrong with a profile's text in this game.
Json check_profile_text(RpcSession& at, Params& params, const RpcRequest&) {
    const std::string text = params.text("profile");
    params.finish();
    const CheckedProfile found = checked_profile(
        name_of_text, {},
        [&](std::vector<std::string>& problems) {
            return read_profile(text, name_of_text, {{}, &problems, {}});
        },
        [&](const Profile& profile, bool) {
            require_no_program(profile);
            const OpenGame& game = at.session.game();
            if (profile.game.name != game.name)
                throw InputError(name_of_text, "it is for the game " + in_quotes(profile.game.name),
                                 "game = \"" + game.name + "\"");
            return game.kit;
        });
    return Json::parse(profiles_as_json({found}))["profiles"][0];
}

/// Games of two opponents from the position, in pairs with the sides changed.
Json match(RpcSession& at, Params& params, const RpcRequest& request) {
    const auto side = [&](const char* name) {
        const Json* given = params.object_if(name);
        if (given == nullptr)
            throw RpcError(InvalidParams,
                           std::string("match: the param '") + name + "' is missing (expected an object)");
        Params own(std::string("match.") + name, *given);
        const OpponentSpec spec = opponent_of(at, own, request);
        own.finish();
        return spec;
    };
    const OpponentSpec a = side("a"), b = side("b");
    MatchReport report;
    MatchOptions options;
    constexpr int most = 100'000;
    options.games = report.games_asked = static_cast<int>(params.integer_if("games", 1, most).value_or(100));
    options.opening_plies = static_cast<int>(params.integer_if("opening_plies", 0, 100).value_or(0));
    options.seed = report.seed = static_cast<std::uint64_t>(params.integer_if("seed", 0, INT64_MAX).value_or(0));
    const bool tells = params.boolean_or("progress", false);
    params.finish();
    if (at.session.ending()) throw RpcError(CannotBeDone, "match: the game is over here");
    options.clock = steady_seconds;
    options.stop = request.stop;
    report.a = opponent_text(a);
    report.b = opponent_text(b);
    report.a_title = plain_line(opponent_title(a));
    report.b_title = plain_line(opponent_title(b));
    at.session.check_match(a, b, options, {});
    MatchResult so_far;
    so_far.players = at.session.players();
    report.result = at.session.match(a, b, options, {}, [&](const GameRecord& record) {
        so_far.add(record.counted);
        if (tells)
            request.tell({{"games", so_far.games},
                          {"of", options.games},
                          {"wins_a", so_far.wins_a},
                          {"draws", so_far.draws},
                          {"wins_b", so_far.wins_b}});
    });
    return Json::parse(match_as_json(at.session.subject(), report));
}

Json words(RpcSession& at, Params& params, const RpcRequest&) {
    params.finish();
    return Json::parse(vocabulary_as_json(at.session.subject(), at.session.vocabulary()));
}

}  // namespace

const std::map<std::string, RpcMethod>& rpc_methods() {
    static const std::map<std::string, RpcMethod> methods{{"answer", {answer_of_seat, true}},
                                                          {"board", {board}},
                                                          {"branch", {branch}},
                                                          {"check_profile", {check_profile_text}},
                                                          {"decide", {decide, true}},
                                                          {"drawing", {drawing}},
                                                          {"go_to", {go_to}},
                                                          {"judge", {judge, true}},
                                                          {"leave", {leave}},
                                                          {"let_chance_act", {let_chance_act}},
                                                          {"match", {match, true}},
                                                          {"play", {play}},
                                                          {"restart", {restart}},
                                                          {"seat", {seat}},
                                                          {"state", {state}},
                                                          {"take_back", {take_back}},
                                                          {"words", {words}}};
    return methods;
}

}  // namespace arvek::link::detail
