#include "arvek/mpi/mpi_pool.hpp"

#include <mpi.h>

#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <deque>
#include <exception>
#include <limits>
#include <mutex>
#include <stdexcept>
#include <thread>
#include <vector>

#include "../arena/game_line.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/search/worker_threads.hpp"

namespace arvek {

namespace {

using Json = RecordFile::Json;

/// What a message is.
enum Tag : int {
    Ready,    ///< to rank 0: for how many games there is room
    Task,     ///< from rank 0: a game to be played
    Played,   ///< to rank 0: a game
    Stopped,  ///< to rank 0: a game was stopped
    Failed,   ///< to rank 0: what went wrong, as text
    End       ///< from rank 0: there are no more games
};

void send_text(const std::string& text, int to, Tag tag) {
    if (text.size() > static_cast<std::size_t>(std::numeric_limits<int>::max()))
        throw InputError("mpi", "a game is too long for a message", "shorter games");
    MPI_Send(text.data(), static_cast<int>(text.size()), MPI_CHAR, to, tag, MPI_COMM_WORLD);
}

/// A message that is there already; nothing where none is.
struct Message {
    int from = 0;
    Tag tag = Ready;
    std::string text;
};

bool receive(Message& message) {
    int there = 0;
    MPI_Status status;
    MPI_Iprobe(MPI_ANY_SOURCE, MPI_ANY_TAG, MPI_COMM_WORLD, &there, &status);
    if (there == 0) return false;
    int size = 0;
    MPI_Get_count(&status, MPI_CHAR, &size);
    message.from = status.MPI_SOURCE;
    message.tag = static_cast<Tag>(status.MPI_TAG);
    message.text.resize(static_cast<std::size_t>(size));
    MPI_Recv(message.text.data(), size, MPI_CHAR, message.from, message.tag, MPI_COMM_WORLD, MPI_STATUS_IGNORE);
    return true;
}

std::string text_of(const GameTask& task) { return std::to_string(task.pairing) + " " + std::to_string(task.number); }

GameTask task_of(const std::string& text) {
    const std::size_t space = text.find(' ');
    return {static_cast<std::size_t>(std::stoull(text)), std::stoi(text.substr(space + 1))};
}

/// Threads that play what is put into a queue, while the thread that made them talks with the other processes.
class Players {
   public:
    struct Result {
        GameTask task;
        std::optional<GameRecord> game;  ///< nothing: it was stopped
    };

    Players(std::size_t threads, const PlayTask& play) : play_(play) {
        for (std::size_t i = 0; i < threads; ++i) threads_.emplace_back([this, i] { work(i); });
    }
    ~Players() {
        {
            const std::lock_guard lock(mutex_);
            over_ = true;
        }
        has_work_.notify_all();
        for (std::thread& thread : threads_) thread.join();
    }
    Players(const Players&) = delete;
    Players& operator=(const Players&) = delete;

    void put(const GameTask& task) {
        {
            const std::lock_guard lock(mutex_);
            tasks_.push_back(task);
            ++under_way_;
        }
        has_work_.notify_one();
    }
    std::size_t room() const { return threads_.size() + 1; }
    /// Put and not yet taken back.
    std::size_t under_way() {
        const std::lock_guard lock(mutex_);
        return under_way_;
    }
    /// A game that has ended; waits a moment for one. Throws what playing threw.
    std::optional<Result> take() {
        std::unique_lock lock(mutex_);
        constexpr std::chrono::microseconds moment(200);
        has_result_.wait_for(lock, moment, [&] { return !results_.empty() || failure_ != nullptr; });
        if (failure_) std::rethrow_exception(std::exchange(failure_, nullptr));
        if (results_.empty()) return std::nullopt;
        Result result = std::move(results_.front());
        results_.pop_front();
        --under_way_;
        return result;
    }

   private:
    void work(std::size_t worker) {
        for (;;) {
            GameTask task;
            {
                std::unique_lock lock(mutex_);
                has_work_.wait(lock, [&] { return over_ || !tasks_.empty(); });
                if (over_) return;
                task = tasks_.front();
                tasks_.pop_front();
            }
            Result result{task, std::nullopt};
            std::exception_ptr failure;
            try {
                result.game = play_(worker, task);
            } catch (...) {
                failure = std::current_exception();
            }
            {
                const std::lock_guard lock(mutex_);
                if (failure)
                    failure_ = failure;
                else
                    results_.push_back(std::move(result));
            }
            has_result_.notify_one();
            if (failure) return;
        }
    }

    const PlayTask& play_;
    std::mutex mutex_;
    std::condition_variable has_work_, has_result_;
    std::deque<GameTask> tasks_;
    std::deque<Result> results_;
    std::size_t under_way_ = 0;
    std::exception_ptr failure_;
    bool over_ = false;
    std::vector<std::thread> threads_;
};

}  // namespace

MpiPool::MpiPool(int& argc, char**& argv) {
    int level = 0;
    if (MPI_Init_thread(&argc, &argv, MPI_THREAD_FUNNELED, &level) != MPI_SUCCESS || level < MPI_THREAD_FUNNELED)
        throw std::runtime_error("MPI cannot be begun with threads");
    MPI_Comm_rank(MPI_COMM_WORLD, &rank_);
    MPI_Comm_size(MPI_COMM_WORLD, &ranks_);
}

MpiPool::~MpiPool() { MPI_Finalize(); }

void MpiPool::use_threads(int threads) {
    if (threads < 1 || threads > most_threads)
        throw InputError("threads", std::to_string(threads) + " is out of range",
                         "1 to " + std::to_string(most_threads));
    threads_ = static_cast<std::size_t>(threads);
}

void MpiPool::end_all(int status) {
    MPI_Abort(MPI_COMM_WORLD, status);
    std::abort();
}

std::string MpiPool::shared(const std::string& text) {
    auto size = static_cast<unsigned long long>(text.size());
    MPI_Bcast(&size, 1, MPI_UNSIGNED_LONG_LONG, 0, MPI_COMM_WORLD);
    if (size > static_cast<unsigned long long>(std::numeric_limits<int>::max()))
        throw InputError("mpi", "what is to be shared is too long", "less of it");
    std::string all = text;
    all.resize(size);
    MPI_Bcast(all.data(), static_cast<int>(size), MPI_CHAR, 0, MPI_COMM_WORLD);
    return all;
}

void MpiPool::play(GameSchedule& schedule, const PlayTask& play) {
    if (rank_ == 0)
        lead(schedule, play);
    else
        follow(play);
}

void MpiPool::lead(GameSchedule& schedule, const PlayTask& play) {
    Players players(threads_, play);
    std::vector<std::size_t> room(static_cast<std::size_t>(ranks_), 0);  // of each other rank, as far as it is known
    std::size_t elsewhere = 0;
    bool over = false;
    std::exception_ptr failure;
    const auto next = [&]() -> std::optional<GameTask> {
        if (over) return std::nullopt;
        auto task = schedule.next();
        over = !task;
        return task;
    };
    for (;;) {
        Message message;
        while (receive(message)) {
            const auto from = static_cast<std::size_t>(message.from);
            if (message.tag == Ready) {
                room[from] = std::stoull(message.text);
                continue;
            }
            --elsewhere;
            ++room[from];
            if (message.tag == Stopped || message.tag == Failed) {
                over = true;
                if (message.tag == Failed && !failure)
                    failure = std::make_exception_ptr(InputError("rank " + std::to_string(message.from), message.text));
                continue;
            }
            const Json line = Json::parse(message.text);
            schedule.add({line.at("pairing").get<std::size_t>(), line.at("number").get<int>()},
                         game_of_line(line, "", "", line.at("players").get<int>()));
        }
        try {
            while (auto result = players.take()) {
                if (result->game)
                    schedule.add(result->task, *result->game);
                else
                    over = true;
                if (players.under_way() == 0) break;
            }
        } catch (...) {
            over = true;
            failure = std::current_exception();
            break;  // who fails here ends all
        }
        // Games go first to whoever has the most room, one at a time, so that all begin soon.
        while (!over) {
            const auto most = std::max_element(room.begin(), room.end());
            const bool own = players.under_way() < players.room();
            if (!own && *most == 0) break;
            const auto task = next();
            if (!task) break;
            if (*most > 0 && (!own || *most >= players.room() - players.under_way())) {
                send_text(text_of(*task), static_cast<int>(most - room.begin()), Task);
                --*most;
                ++elsewhere;
            } else {
                players.put(*task);
            }
        }
        if (over && elsewhere == 0 && players.under_way() == 0) break;
    }
    // Some may not have said yet that they are ready; they are told so all the same, and their word must not be left for
    // the next time.
    for (int rank = 1; rank < ranks_; ++rank) {
        if (room[static_cast<std::size_t>(rank)] == 0 && failure == nullptr) {
            Message message;
            while (room[static_cast<std::size_t>(rank)] == 0)
                if (receive(message) && message.tag == Ready)
                    room[static_cast<std::size_t>(message.from)] = std::stoull(message.text);
        }
        send_text("", rank, End);
    }
    if (failure) std::rethrow_exception(failure);
}

void MpiPool::follow(const PlayTask& play) {
    Players players(threads_, play);
    send_text(std::to_string(players.room()), 0, Ready);
    for (bool over = false; !over || players.under_way() > 0;) {
        Message message;
        while (receive(message)) {
            if (message.tag == End)
                over = true;
            else
                players.put(task_of(message.text));
        }
        try {
            while (auto result = players.take()) {
                if (!result->game) {
                    send_text("", 0, Stopped);
                } else {
                    Json line{{"pairing", result->task.pairing},
                              {"players", std::max<std::size_t>(1, result->game->seats.size())}};
                    line.update(line_of_game(*result->game));
                    send_text(line.dump(-1, ' ', false, Json::error_handler_t::replace), 0, Played);
                }
                if (players.under_way() == 0) break;
            }
        } catch (const std::exception& error) {
            send_text(error.what(), 0, Failed);
            throw;
        }
    }
}

}  // namespace arvek
