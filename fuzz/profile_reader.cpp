// Whatever bytes a profile holds, reading it gives an opponent that plays legal moves, or an error that says where.

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
    for (const int level : {1, 6, 10}) {
        if (profile.kind == arvek::ChooserKind::Random && level < 10) continue;
        auto spec = arvek::opponent_of_profile(
            profile, profile.kind == arvek::ChooserKind::Random ? std::nullopt : std::optional<int>(level));
        spec.threads = 1;
        if (profile.kind == arvek::ChooserKind::Search) spec.nodes = 50;
        const auto opponent = arvek::make_opponent(game, spec, {[] { return 0.0; }, {}});
        auto position = game.initial_position();
        arvek::Random random(1);
        for (int move = 0; move < 3 && !game.outcome(position); ++move) {
            const auto decision = opponent->decide(position, 1);
            if (!arvek::legal_moves(game, position).contains(decision.move)) std::abort();
            game.play(position, decision.move);
            settle_chance(game, position, random);
        }
    }
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const waterway::Scuffle scuffle;
    static const waterway::Nightwatch nightwatch;
    static const waterway::Convoy convoy;
    static const waterway::Lanterns lanterns;
    try {
        arvek::Profile profile = arvek::read_profile({reinterpret_cast<const char*>(data), size}, "profile");
        profile.search.threads = 1;
        if (profile.game.name == "nightwatch")
            play_a_little(nightwatch, profile);
        else if (profile.game.name == "convoy")
            play_a_little(convoy, profile);
        else if (profile.game.name == "lanterns")
            play_a_little(lanterns, profile);
        else
            play_a_little(scuffle, profile);
    } catch (const arvek::InputError&) {
    }
    return 0;
}
