#pragma once
// The choosers that need nothing but AnyGame, and what a profile's names stand for in a game.

#include <memory>
#include <utility>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/opponent/chooser.hpp"
#include "arvek/opponent/opening_book.hpp"
#include "arvek/opponent/profile.hpp"

namespace arvek::detail {

std::unique_ptr<Chooser<AnyGame>> random_chooser(const AnyGame& game, const ChooserSetup& setup);
std::unique_ptr<Chooser<AnyGame>> rules_chooser(const AnyGame& game, const ChooserSetup& setup);
std::unique_ptr<Chooser<AnyGame>> suggestions_chooser(const AnyGame& game, const ChooserSetup& setup);
std::unique_ptr<Chooser<AnyGame>> features_chooser(const AnyGame& game, const ChooserSetup& setup);
/// Looks ahead by `search` from what is suggested.
std::unique_ptr<Chooser<AnyGame>> advised_chooser(const AnyGame& game, const ChooserSetup& setup,
                                                  std::unique_ptr<Chooser<AnyGame>> search);

/// Every name of the profile that the game does not have, and what else is wrong with it in that game.
void find_problems(const AnyGame& game, const Profile& profile, std::vector<std::string>& problems);

}  // namespace arvek::detail
