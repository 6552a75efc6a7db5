#pragma once
// The command line, taken apart but not yet understood.

#include <optional>
#include <string>
#include <vector>

#include "arvek/tool/tool.hpp"

namespace arvek::tool {

/// One parsed command line; texts are as given.
struct Arguments {
    std::string verb;
    std::string game;
    std::vector<std::string> opponents;  ///< of match
    std::string tour;                    ///< of demo
    std::string what;                    ///< of opponents
    std::vector<std::string> files;      ///< the same

    std::vector<std::string> rules;  ///< a program that knows the game, and its arguments
    std::vector<std::string> settings;
    std::optional<std::string> position;
    std::optional<std::string> moves;
    std::optional<std::string> deal;
    std::optional<std::string> state;
    std::optional<std::string> seed;
    std::string format = "text";

    std::optional<std::string> opponent;
    std::optional<std::string> algorithm;
    std::optional<std::string> level;
    std::optional<std::string> depth;
    std::optional<std::string> nodes;
    std::optional<std::string> playouts;
    std::optional<std::string> time;
    std::vector<std::string> without;
    std::vector<std::string> with;
    std::optional<std::string> threads;
    std::vector<std::string> options;
    std::optional<std::string> show;
    std::optional<std::string> tree;
    std::optional<std::string> tree_plies;
    std::optional<std::string> tree_nodes;
    std::optional<std::string> as;
    std::optional<std::string> pace;
    std::optional<std::string> games;
    std::optional<std::string> facts;
    std::optional<std::string> watch;
    std::optional<std::string> memory;
    bool win_or_loss = false;
    bool no_hint = false;
    bool split = false;
    bool sampled = false;
    bool table = false;
    bool quick = false;
    bool against_first = false;
    std::vector<std::string> features;
    std::optional<std::string> ridge;
    std::optional<std::string> plies;
    std::optional<std::string> width;
    std::optional<std::string> most_lost;
    std::vector<std::string> sources;
    std::optional<std::string> least_games;
    bool solved = false;
    bool unjudged = false;
    std::optional<std::string> blunders_of;
    std::optional<std::string> check_book;
    std::optional<std::string> positions;
    std::optional<std::string> turning_points;
    bool fit = false;
    bool whole_range = false;
    std::optional<std::string> hidden;
    std::optional<std::string> second;
    bool no_prior = false;
    std::optional<std::string> outcome;
    std::optional<std::string> learning_step;
    std::optional<std::string> passes;
    std::optional<std::string> kept;
    std::optional<std::string> round;
    std::optional<std::string> stray;
    std::optional<std::string> against;
    std::optional<std::string> test_every;
    std::vector<std::string> numbers;
    std::optional<std::string> method;
    std::optional<std::string> steps;
    std::optional<std::string> test_games;
    std::optional<std::string> confirm;
    std::optional<std::string> out;
    bool records = false;
    std::optional<std::string> record;
    bool resume = false;
    bool until_sure = false;
    std::optional<std::string> opening_plies;
    std::optional<std::string> openings;
    std::optional<std::string> plot;
    std::optional<std::string> report;
    std::optional<std::string> levels;
    std::optional<std::string> log;
    std::optional<std::string> ply;
    std::optional<std::string> remember;
    bool scroll = false;
    std::optional<std::string> person;
    std::optional<std::string> key;
    std::optional<std::string> values;
    std::optional<std::string> port;
    std::string folder;  ///< of new
    std::optional<std::string> name;
    std::string shell;  ///< of completion
};

/// What came of reading a command line.
struct ParsedCommandLine {
    Arguments arguments;
    std::optional<std::string> help;  ///< asked for help or the version: print this and be done
};

/// Throws InputError when the command line is not one that the tool knows.
ParsedCommandLine parse_command_line(const std::string& program, const std::vector<std::string>& arguments);

}  // namespace arvek::tool
