#pragma once
// What was found wrong with a game, each with moves that lead there, and the shortening of those moves.

#include <cstddef>
#include <exception>
#include <functional>
#include <initializer_list>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/lab/check_report.hpp"
#include "noted_game.hpp"

namespace arvek::detail {

/// Moves from the initial position.
using Path = std::vector<AnyMove>;

/// The position after the moves, which are legal.
AnyPosition position_after(const AnyGame& game, const Path& path);
/// Whether the moves can be played one after the other; the last, which may be the one that breaks, is not played.
bool is_line_of_play(const AnyGame& game, const Path& path);

class Findings {
   public:
    /// Looks at the end of a path, and at that of another where two positions are at odds and it is not null, and
    /// reports what it finds here.
    using Again = std::function<void(const Path& path, const Path* other)>;

    /// `note` says which function was asked last.
    Findings(const AnyGame& game, const CallNote& note) : game_(game), note_(note) {}

    /// From here to its end, what is found can be looked for once more by `again`.
    class Looking {
       public:
        Looking(Findings& findings, Again again)
            : findings_(findings), before_(std::exchange(findings.again_, std::move(again))) {}
        ~Looking() { findings_.again_ = std::move(before_); }
        Looking(const Looking&) = delete;
        Looking& operator=(const Looking&) = delete;

       private:
        Findings& findings_;
        Again before_;
    };

    /// A law that does not hold at the end of `path`; `function` is to blame.
    void fault(const std::string& law, const std::string& function, const std::string& what, const Path& path) {
        add({law, function, what, path, {}, false, again_});
    }
    /// The same of two positions; `again` is told both paths.
    void fault_of_two(const std::string& law, const std::string& function, const std::string& what, const Path& path,
                      const Path& other) {
        add({law, function, what, path, other, true, again_});
    }

    /// Runs `act`; what it throws is a fault of the game at the end of `path`, which `act` may lengthen.
    template <class Act>
    void guarded(const Path& path, const char* law, Act act, const char* when = "") {
        try {
            act();
        } catch (const std::exception& error) {
            threw(law, when + std::string("it threw: ") + error.what(), path);
        } catch (...) {
            threw(law, when + std::string("it threw what is no std::exception"), path);
        }
    }

    std::size_t size() const { return found_.size(); }
    bool none() const { return found_.empty(); }
    bool knows(const std::string& law) const;
    /// Whether each is of one of those laws.
    bool all_of(std::initializer_list<const char*> laws) const;

    /// Makes the moves that lead to each fault as few as they can be without one of them, until `enough` says so.
    void shorten(const std::function<bool()>& enough);
    /// As they are reported, those with the fewest moves first.
    std::vector<Fault> faults() const;

   private:
    struct Found {
        std::string law, function, what;
        Path path, other;
        bool of_two = false;
        Again again{};
        bool repeats = true;
    };

    void add(Found found);
    void threw(const char* law, const std::string& what, const Path& path);
    /// What is found of the same law and function at the end of a path, if it is.
    bool holds(const Found& like, const Path& path, const Path& other, Found& found);
    void shorten(Found& found, const std::function<bool()>& enough);
    bool leave_out(Found& found, bool of_other, const std::function<bool()>& enough);
    bool find_sooner(Found& found, bool of_other, const std::function<bool()>& enough);

    const AnyGame& game_;
    const CallNote& note_;
    Again again_{};
    std::vector<Found> found_;
    bool trying_ = false;  ///< what is found goes to `tried_`
    std::vector<Found> tried_;
};

}  // namespace arvek::detail
