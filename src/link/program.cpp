#include "arvek/link/program.hpp"

#include <algorithm>
#include <filesystem>
#include <memory>
#include <utility>

#include "arvek/game/input_error.hpp"
#include "arvek/opponent/profile.hpp"
#include "uci_program.hpp"

namespace arvek::link {

namespace {

class ProgramChooser final : public Chooser<AnyGame> {
   public:
    ProgramChooser(const AnyGame& game, const Profile& profile) : game_(game), profile_(profile) {}

    Decision<AnyMove> choose(const Choice<AnyGame>& now) override {
        for (bool again = false;; again = true) {
            try {
                if (!program_) program_ = std::make_unique<UciProgram>(game_, profile_);
                Decision<AnyMove> decision = program_->decide(now.position, now.earlier, now.limits);
                const auto& only = now.request.only;
                if (!only.empty() && std::find(only.begin(), only.end(), decision.move) == only.end())
                    decision = among(std::move(decision), only);
                return decision;
            } catch (const ProgramError& error) {
                program_.reset();
                const bool would_help = error.trouble() != Trouble::NotStarted && error.trouble() != Trouble::Refused;
                if (again || !would_help || !profile_.program->restart) throw;
            }
        }
    }

   private:
    /// The protocol's way to say which moves are meant is seldom had; the first of them does.
    static Decision<AnyMove> among(Decision<AnyMove> decision, std::span<const AnyMove> only) {
        std::stable_partition(decision.ranked.begin(), decision.ranked.end(), [&](const auto& entry) {
            return std::find(only.begin(), only.end(), entry.move) != only.end();
        });
        decision.move = decision.ranked.front().move;
        return decision;
    }

    AnyGame game_;
    Profile profile_;
    std::unique_ptr<UciProgram> program_;
};

}  // namespace

ChooserInfo program_info() {
    ChooserInfo info;
    info.name = "program";
    info.about = "another program, asked over the open chess protocol";
    info.needs = {Ability::Text, Ability::Coordinates};
    info.looks_ahead = true;
    info.sees_all = true;
    info.has_levels = false;
    info.weighs_chance = false;
    info.least_players = info.most_players = 2;
    return info;
}

std::unique_ptr<Chooser<AnyGame>> make_program(const AnyGame& game, const ChooserSetup& setup) {
    if (setup.profile == nullptr || !setup.profile->program)
        throw InputError("opponent", "'program' needs to be told which", "a profile with a [program] table");
    const ProgramText& program = *setup.profile->program;
    if (!program.folder.empty() && !std::filesystem::is_directory(program.folder))
        fail_in_profile(*setup.profile, program.place, "there is no folder '" + program.folder + "'",
                        "the folder that the program is to work in");
    if (!is_runnable(program.command.front(), program.folder))
        fail_in_profile(*setup.profile, program.place,
                        "there is no program '" + program.command.front() + "' that could be run",
                        "its path; without a slash, a name that PATH has");
    return std::make_unique<ProgramChooser>(game, *setup.profile);
}

}  // namespace arvek::link
