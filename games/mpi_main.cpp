// The tool over MPI: mpirun -n 8 arvek-mpi league lanterns standard@5 standard@4 ...

#include <arvek/mpi/mpi_pool.hpp>
#include <arvek/tool/tool.hpp>

#include <chrono>
#include <iostream>
#include <sstream>
#include <thread>

#include "every_offer.hpp"

int main(int argc, char** argv) {
    arvek::MpiPool pool(argc, argv);
    arvek::tool::Tool tool("arvek-mpi");
    waterway::offer_every_game(tool);
    std::ostringstream unheard, wrong;
    const bool speaks = pool.speaks();
    const arvek::tool::Console console{
        std::cin, speaks ? std::cout : unheard, speaks ? std::cerr : wrong, false, false, false, false, &pool};
    const int status = tool.run(std::vector<std::string>(argv + 1, argv + argc), console);
    std::cout.flush();
    if (status != 2) return speaks ? status : 0;
    if (!speaks) {
        // What is wrong everywhere, the first says; what is wrong here alone, nobody else does.
        std::this_thread::sleep_for(std::chrono::seconds(1));
        std::cerr << "rank " << pool.rank() << ": " << wrong.str();
    }
    std::cerr.flush();
    pool.end_all(status);
}
