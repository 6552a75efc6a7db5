#pragma once
// A program as an opponent: a chooser that asks another program, which runs as a child, over the open chess protocol (UCI).
//
//   choosers.add(arvek::link::program_info(), &arvek::link::make_program);   // a ChooserSet; the tool does it
//
// and a profile says which program:
//
//   name = "The Lock Keeper's Cousin"
//   game = "chess"
//   choose = "program"
//   [program]
//   command = ["./cousin", "--quiet"]
//   [program.options]
//   Threads = 2
//   [limits]
//   seconds = 0.5
//
// The program is started when it is asked for the first time, and ended with the opponent. What goes wrong with it throws
// ProgramError (link/child.hpp), in a match the loss of the game; with `restart = true` it is first started once more. The
// game needs coordinates() (game/text.hpp). What the program says of a score is an estimate, also where it claims a mate.

#include <memory>

#include "arvek/link/child.hpp"
#include "arvek/opponent/registry.hpp"

namespace arvek::link {

/// The chooser "program".
ChooserInfo program_info();

/// Throws InputError where the setup has no profile with a program.
std::unique_ptr<Chooser<AnyGame>> make_program(const AnyGame& game, const ChooserSetup& setup);

}  // namespace arvek::link
