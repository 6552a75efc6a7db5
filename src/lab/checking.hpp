#pragma once
// The check of a game's rules, as one that watches it from another process sees it.

#include <string>

#include "arvek/lab/check.hpp"
#include "findings.hpp"
#include "noted_game.hpp"

namespace arvek::detail {

/// Told what is in hand.
class CheckWatcher {
   public:
    virtual ~CheckWatcher() = default;
    virtual void stage(const char* name) = 0;
    /// The moves that lead to the position that is looked at now.
    virtual void path(const Path& path) = 0;
};

/// `note` says which function is asked; `watcher` may be null. Options are in range.
CheckReport check_noted(const GameKit& kit, const CheckOptions& options, CallNote& note, CheckWatcher* watcher);

/// Looks at the end of one path alone, as it is done in that stage.
void examine_path(const GameKit& kit, const CheckOptions& options, const Path& path, const std::string& stage,
                  CallNote& note, CheckWatcher* watcher);

}  // namespace arvek::detail
