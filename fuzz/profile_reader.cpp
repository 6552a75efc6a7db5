// Whatever bytes a profile holds, reading it gives an opponent that plays legal moves, or an error that says where; and
// checking it ends.

#include <arvek/lab/profile_check.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/opponent/profile.hpp>
#include <cstddef>
#include <cstdint>
#include <cstdlib>

#include "convoy/convoy.hpp"
#include "lanterns/lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "scuffle/scuffle.hpp"

namespace {

template <class G>
void play_a_little(const G& game, const arvek::Profile& profile) {
    const auto choosers = arvek::Choosers<G>::built_in();
    const arvek::ChooserInfo* info = arvek::find_chooser(choosers.infos(), profile.chooser.name);
    for (const int level : {1, 6, 10}) {
        auto spec = arvek::opponent_of_profile(profile, level);
        if (info != nullptr) {
            info = &choosers.erased().resolved(arvek::AnyGame(game), *info);
            if (info->looks_ahead) spec.nodes = 50;
            // Small and on one thread, whatever the file asks for.
            for (const arvek::OptionInfo& option : info->options)
                if (option.name == "memory" || option.name == "threads") spec.options.put(option.name, std::int64_t{1});
        }
        const auto opponent = arvek::make_opponent(game, spec, {[] { return 0.0; }, {}});
        std::vector<typename G::Position> positions{game.initial_position()};
        arvek::Random random(1);
        for (int move = 0; move < 4 && !game.outcome(positions.back()); ++move) {
            const auto decision = opponent->decide(positions.back(), 1, {positions.data(), positions.size() - 1});
            if (!arvek::legal_moves(game, positions.back()).contains(decision.move)) std::abort();
            auto next = positions.back();
            game.play(next, decision.move);
            settle_chance(game, next, random);
            positions.push_back(next);
        }
    }
}

template <class G>
void look_at(const G& game, std::string_view text) {
    std::vector<std::string> problems;
    arvek::ProfileReading reading;
    reading.problems = &problems;
    const arvek::Profile whole = arvek::read_profile(text, "profile", reading);
    arvek::ProfileCheckOptions options;
    options.random_games = 1;
    options.is_partial = !problems.empty();
    (void)arvek::check_profile(arvek::AnyGame(game), whole, arvek::Choosers<G>::built_in().erased(), options);
    play_a_little(game, arvek::read_profile(text, "profile"));
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const waterway::Scuffle scuffle;
    static const waterway::Nightwatch nightwatch;
    static const waterway::Convoy convoy;
    static const waterway::Lanterns lanterns;
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    try {
        if (text.find("nightwatch") != std::string_view::npos)
            look_at(nightwatch, text);
        else if (text.find("convoy") != std::string_view::npos)
            look_at(convoy, text);
        else if (text.find("lanterns") != std::string_view::npos)
            look_at(lanterns, text);
        else
            look_at(scuffle, text);
    } catch (const arvek::InputError&) {
    }
    return 0;
}
