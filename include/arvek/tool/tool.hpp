#pragma once
// Tool: the command-line tool as a library. Your own main gets every verb for your own games:
//
//     int main(int argc, char** argv) {
//         arvek::tool::Tool tool("harbour");
//         tool.add<Harbour>("harbour", "Loading ships before the tide")
//             .parameter("piers", &Harbour::Parameters::piers, 1, 9, "piers in the harbour");
//         return tool.run(argc, argv);
//     }
//
// Harbour is a TextGame (game/text.hpp), constructible from its nested type Parameters, a struct of plain members whose
// initialisers are the defaults; or, without parameters, default-constructible. Choosers and evaluators of your own are
// added in the same way (session/game_entry.hpp).

#include <iosfwd>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/session/game_entry.hpp"

namespace arvek {
class GamePool;
}

namespace arvek::tool {

/// Where a run of the tool reads and writes.
struct Console {
    std::istream& in;           ///< what a person types
    std::ostream& out;          ///< where results go
    std::ostream& err;          ///< where complaints and progress go
    bool colour = false;        ///< whether `out` may carry colours
    bool line_editing = false;  ///< whether a person types at a terminal; then lines are read from there, not from `in`
    bool reads_standard_input = false;  ///< whether `in` is the process's standard input
    bool shows_progress = false;        ///< whether `err` is a terminal, where a line may be written over
    /// Who plays the games of league, tune, levels and learn; null: the threads of this process. Verbs that play otherwise are
    /// refused where several processes work together.
    GamePool* pool = nullptr;
    bool draws_over = false;  ///< whether `out` is a terminal whose screen may be drawn over
};

/// The command-line tool, with games of the caller's.
class Tool {
   public:
    /// `program` is the name under which messages speak of the tool.
    explicit Tool(std::string program);
    ~Tool();
    Tool(const Tool&) = delete;
    Tool& operator=(const Tool&) = delete;

    /// Offers a game under a name of lower-case letters, digits and underscores, with a line that says what it is.
    template <class G>
    auto& add(std::string name, std::string summary) {
        if constexpr (arvek::game_is_complete<G>() && arvek::text_is_complete<G>()) {
#ifndef __OPTIMIZE__
            is_slow_ = true;
#endif
            auto entry = std::make_unique<OfferedGame<G>>(std::move(name), std::move(summary));
            auto& offered = *entry;
            add_entry(std::move(entry));
            return offered;
        } else {
            static NotOffered nothing;
            return nothing;
        }
    }

    /// On offer, in the order in which they were added.
    const std::vector<std::unique_ptr<GameEntry>>& games() const { return games_; }
    const std::string& program() const { return program_; }  ///< as messages name it

    /// Runs one command line. Returns the exit status: 0 done, 1 what was checked or played did not hold, 2 wrong use.
    int run(int argc, const char* const* argv) const;
    /// The same with the arguments after the program's name, on streams of the caller's.
    int run(const std::vector<std::string>& arguments, const Console& console) const;

   private:
    /// What a game that lacks something is: the compiler has said what, and says no more.
    struct NotOffered {
        template <class... What>
        NotOffered& parameter(What&&...) {
            return *this;
        }
        template <class Member>
        NotOffered& parameter(const char*, Member, std::vector<std::string>, const char*) {
            return *this;
        }
        template <class... What>
        NotOffered& instead(What&&...) {
            return *this;
        }
        template <class... What>
        NotOffered& choosers(What&&...) {
            return *this;
        }
        template <class... What>
        NotOffered& chooser(What&&...) {
            return *this;
        }
        template <class... What>
        NotOffered& evaluator(What&&...) {
            return *this;
        }
        template <class... What>
        NotOffered& games_in(What&&...) {
            return *this;
        }
    };

    void add_entry(std::unique_ptr<GameEntry> entry);

    std::string program_;
    std::vector<std::unique_ptr<GameEntry>> games_;
    bool is_slow_ = false;  ///< whether a game was compiled without optimisation
};

}  // namespace arvek::tool
