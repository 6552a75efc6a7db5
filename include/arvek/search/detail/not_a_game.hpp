#pragma once
// What stands in for a search of a type that is not a game.

#include "arvek/game/missing.hpp"
#include "arvek/search/limits.hpp"
#include "arvek/search/request.hpp"

namespace arvek::detail {

/// Says what the type lacks, and swallows its own use so that nothing else is reported.
template <class G>
class NotAGame {
   public:
    template <class... Arguments>
    explicit NotAGame(const Arguments&...) {
        [[maybe_unused]] constexpr bool complete = game_is_complete<G>();
    }

    struct Anything {
        template <class T>
        constexpr operator T() const;
    };
    struct Nothing {
        Anything move;
        Nothing* ranked = nullptr;
    };

    template <class Position, class Request = SearchRequest<int>>
    Nothing decide(const Position&, const Limits& = {}, const Request& = {}) {
        return {};
    }
};

}  // namespace arvek::detail
