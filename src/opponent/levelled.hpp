#pragma once
// What makes an opponent of a chooser: a level, and perhaps an opening book.

#include <memory>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/opponent/chooser.hpp"
#include "arvek/opponent/level.hpp"
#include "arvek/opponent/make_opponent.hpp"
#include "arvek/opponent/opponent.hpp"
#include "choosers.hpp"

namespace arvek::detail {

std::unique_ptr<Opponent<AnyGame>> levelled_opponent(const AnyGame& game, bool looks_ahead, const LevelSettings& level,
                                                     std::unique_ptr<Chooser<AnyGame>> chooser);
std::unique_ptr<Opponent<AnyGame>> book_opponent(const AnyGame& game, std::vector<BookLine> book,
                                                 std::shared_ptr<OpeningMemory> memory,
                                                 std::unique_ptr<Opponent<AnyGame>> other);

}  // namespace arvek::detail
