#pragma once
// Checking a profile: what is wrong with an opponent that is data, or probably not meant, before anyone plays it.
//
//     const arvek::Profile profile = arvek::read_profile(text, "keeper.toml");
//     const arvek::AnyGame any(game);
//     const auto choosers = arvek::Choosers<MyGame>::built_in();
//     for (const auto& finding : arvek::check_profile(any, profile, choosers.erased()).findings)
//         std::puts(finding.text().c_str());
//
// What the file itself gets wrong, read_profile() says; this looks at it in its game: names, conditions that can never
// hold, rules that are never asked, fallbacks that are not there for everyone. Which actors have which actions, and
// where the fallback is missing, it learns from random games, so it may miss what those do not meet.

#include <cstdint>
#include <map>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/opponent/registry.hpp"

namespace arvek {

/// One thing that is wrong, or probably not meant.
struct ProfileFinding {
    bool is_error = true;      ///< false: a warning; the profile plays all the same
    std::string file{};        ///< in which it is; empty: none
    int line = 0, column = 0;  ///< 0: of the whole file
    std::string problem{};     ///< what is wrong
    std::string advice{};      ///< what would be right, or how to say what was meant

    /// "keeper.toml, line 3, column 8: the problem (the advice)".
    std::string text() const;
};

/// What a profile is held against.
struct ProfileCheckOptions {
    int games = 0;            ///< also played by the profile, against itself and against random moves
    int random_games = 100;   ///< looked at to learn what occurs in the game
    std::uint64_t seed = 0;   ///< of all luck
    bool is_partial = false;  ///< parts of the file could not be read, so that what is not there may be in them
};

/// How often a rule was asked and fired, by seat.
struct RuleUse {
    std::string rule;                              ///< as the profile names it
    std::vector<std::uint64_t> asked, fired;       ///< how often, by seat
    std::map<std::string, std::uint64_t> instead;  ///< where it was not asked: what had chosen before
    std::string last_why;                          ///< why it did not fire, the last time
};

/// What the games of a check showed.
struct ProfileUse {
    int games = 0;                         ///< that were played
    std::vector<std::uint64_t> decisions;  ///< by seat
    std::vector<RuleUse> rules;            ///< in the order of the file; the fallback, care and the book too
};

/// What came of a check.
struct ProfileReport {
    std::vector<ProfileFinding> findings;  ///< by place
    ProfileUse use;                        ///< of the games, where some were asked for

    bool is_right() const;  ///< whether there is no error
};

/// Everything at once. Throws InputError for options out of range.
ProfileReport check_profile(const AnyGame& game, const Profile& profile, const ChooserSet& choosers,
                            const ProfileCheckOptions& options = {});

/// A complaint as InputError words it, taken apart.
ProfileFinding finding_of(const std::string& complaint);

}  // namespace arvek
