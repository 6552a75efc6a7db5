#pragma once
// MpiPool: games played by many processes, on one machine or on many, over MPI. A component of its own, arvek::mpi, so that
// nobody else needs that.
//
//   arvek::MpiPool pool(argc, argv);   // in main
//   pool.play(schedule, play);         // in every process; rank 0 has the result
//
// Every process runs the same program with the same arguments. Rank 0 asks the schedule, hands out games as others become
// free, so that a slow machine gets fewer, plays some itself, and alone prints and writes. Which games are played, and what
// comes of them, does not depend on how many processes there are.

#include "arvek/arena/game_pool.hpp"

namespace arvek {

/// Plays games in every process of an MPI run.
class MpiPool final : public GamePool {
   public:
    /// Begins MPI; at most one at a time. Throws std::runtime_error where that cannot be begun.
    MpiPool(int& argc, char**& argv);
    /// Ends MPI, when all processes have come so far.
    ~MpiPool() override;
    MpiPool(const MpiPool&) = delete;
    MpiPool& operator=(const MpiPool&) = delete;

    void use_threads(int threads) override;
    std::size_t workers() const override { return threads_; }
    std::size_t all_workers() const override { return threads_ * static_cast<std::size_t>(ranks_); }
    bool speaks() const override { return rank_ == 0; }
    void play(GameSchedule& schedule, const PlayTask& play) override;
    std::string shared(const std::string& text) override;

    int rank() const { return rank_; }    ///< of this process, from 0
    int ranks() const { return ranks_; }  ///< how many processes there are
    /// Ends all processes at once, with that status: what one cannot go on with, none can.
    [[noreturn]] void end_all(int status);

   private:
    void lead(GameSchedule& schedule, const PlayTask& play);
    void follow(const PlayTask& play);

    std::size_t threads_ = 1;
    int rank_ = 0, ranks_ = 1;
};

}  // namespace arvek
