#pragma once
// A game as a line of JSON, and back.

#include <string>

#include "arvek/arena/record.hpp"
#include "record_file.hpp"

namespace arvek {

RecordFile::Json line_of_game(const GameRecord& game);

/// Throws what is no InputError where the line is of no game.
GameRecord game_of_line(const RecordFile::Json& line, const std::string& a, const std::string& b, int players);

/// What cannot be about a game, as a sentence; empty where nothing is.
std::string what_cannot_be(const GameRecord& game, int players);

/// What all records say of what is played.
RecordFile::Json head_of_record(const GameIdentity& identity);

}  // namespace arvek
