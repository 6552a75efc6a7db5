// A program that speaks the open chess protocol, well or in one of many wrong ways:  stand_in WAY [FILE]

#include <fcntl.h>
#include <signal.h>
#include <unistd.h>

#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <iostream>
#include <sstream>
#include <string>
#include <thread>

#include <arvek/game/text.hpp>

#include "chess/chess.hpp"

namespace {

using waterway::Chess;

void say(const std::string& line) { std::cout << line << "\n" << std::flush; }

void sleep_for_ever() {
    for (;;) ::pause();
}

void flood(const std::string& part) {
    for (;;)
        if (!(std::cout << part << std::flush)) std::exit(9);
}

}  // namespace

int main(int argc, char** argv) {
    const std::string way = argc > 1 ? argv[1] : "good";
    const auto is = [&](const char* name) { return way == name; };
    if (is("ignores_quit")) {
        for (const int signal : {SIGTERM, SIGINT, SIGHUP}) ::signal(signal, SIG_IGN);
    }
    if (is("slow_start")) std::this_thread::sleep_for(std::chrono::milliseconds(150));
    if (is("slower_start")) std::this_thread::sleep_for(std::chrono::seconds(30));
    if (is("crashes_at_start")) std::abort();
    if (is("exits_at_start")) {
        std::cerr << "no licence for this weir" << std::endl;
        return 3;
    }
    if (is("closes_output_at_start")) {
        ::close(STDOUT_FILENO);
        sleep_for_ever();
    }
    if (is("floods_at_start")) flood("id name a brook\n");
    if (is("floods_errors")) {
        for (int i = 0; i < 100'000; ++i) std::cerr << "a leak, and another, and another one\n";
    }
    if (is("forks") || is("forks_and_dies")) {
        if (const pid_t child = ::fork(); child == 0) {
            ::signal(SIGTERM, SIG_IGN);
            sleep_for_ever();
        } else if (argc > 2) {
            if (std::FILE* file = std::fopen(argv[2], "w")) {
                std::fprintf(file, "%d", static_cast<int>(child));
                std::fclose(file);
            }
        }
    }
    const Chess game;
    Chess::Position position = game.initial_position();
    for (std::string line; std::getline(std::cin, line);) {
        std::istringstream in(line);
        std::string word;
        in >> word;
        if (word == "uci") {
            if (is("silent_start")) continue;
            say("id name Stand-in " + way);
            say("option name Threads type spin default 1 min 1 max 8");
            say("option name Style type combo default calm var calm var wild");
            say("uciok");
        } else if (word == "isready") {
            if (is("never_ready")) continue;
            say("readyok");
            if (is("stops_reading")) sleep_for_ever();
        } else if (word == "position") {
            in >> word;
            std::string fen;
            if (word == "startpos") {
                position = game.initial_position();
                in >> word;
            } else {
                while (in >> word && word != "moves") fen += (fen.empty() ? "" : " ") + word;
                position = game.read_position(fen);
            }
            while (in >> word) game.play(position, game.read_move(position, word));
        } else if (word == "go") {
            if (is("silent")) continue;
            if (is("half_a_line")) {
                std::cout << "bestmove e2" << std::flush;
                continue;
            }
            if (is("illegal_move")) say("bestmove e2e5");
            if (is("null_move")) say("bestmove 0000");
            if (is("no_move")) say("bestmove");
            if (is("crashes")) {
                std::cerr << "the sluice gate is stuck" << std::endl;
                ::signal(SIGSEGV, SIG_DFL);  // whatever else listens
                ::raise(SIGSEGV);
            }
            if (is("exits")) return 4;
            if (is("forks_and_dies")) return 5;
            if (is("floods")) flood("info depth 1 score cp 1 pv e2e4\n");
            if (is("floods_one_line")) flood("info string and so on and so on ");
            if (is("nonsense")) flood("the water is high today\n");
            if (is("closes_output")) {
                ::close(STDOUT_FILENO);
                sleep_for_ever();
            }
            const auto moves = arvek::legal_moves(game, position);
            say("info depth 3 score cp 17 nodes 42 pv " + game.coordinates(position, moves[0]));
            say("bestmove " + game.coordinates(position, moves[0]));
            if (is("exits_between")) return 6;
        } else if (word == "quit") {
            if (is("ignores_quit")) continue;
            return 0;
        }
    }
    if (is("ignores_quit")) sleep_for_ever();
}
