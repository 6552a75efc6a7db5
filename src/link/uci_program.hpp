#pragma once
// The asking side of the open chess protocol: a program that is told positions and asked for moves.

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/game/decision.hpp"
#include "arvek/link/child.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/search/limits.hpp"

namespace arvek::link {

class UciProgram {
   public:
    /// Starts the program and sets its options. Throws ProgramError, and InputError for an option that it does not have.
    UciProgram(const AnyGame& game, const Profile& profile);
    /// Tells it to end.
    ~UciProgram();
    UciProgram(const UciProgram&) = delete;
    UciProgram& operator=(const UciProgram&) = delete;

    /// What it plays where the game went through `earlier` to `position`. Throws ProgramError.
    Decision<AnyMove> decide(const AnyPosition& position, std::span<const AnyPosition> earlier, const Limits& limits);

   private:
    struct Option {
        std::string name, type, default_value;
        std::optional<long long> least, most;
        std::vector<std::string> choices;
    };
    struct Said {
        std::optional<int> hundredths, mate;
        int depth = 0;
        std::uint64_t nodes = 0;
        std::vector<std::string> line;
    };

    void greet();
    void set_options();
    void wait_until_ready(double seconds);
    void note_option(const std::vector<std::string>& words);
    void note_info(const std::vector<std::string>& words, Said& said) const;
    std::string position_line(const AnyPosition& position, std::span<const AnyPosition> earlier);
    std::optional<AnyMove> move_between(const AnyPosition& before, const AnyPosition& after) const;
    AnyMove move_of(const AnyPosition& position, const std::string& text);

    AnyGame game_;
    const Profile& profile_;
    const ProgramText& text_;
    Child child_;
    std::string program_name_;
    std::map<std::string, Option> options_;  ///< by the name in lower case
    std::vector<AnyPosition> told_;          ///< of the game in hand
    std::vector<std::string> told_moves_;    ///< between them
};

}  // namespace arvek::link
