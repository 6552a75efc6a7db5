#pragma once
// What the verbs that play many games have in common. Each function throws InputError for what is wrong.

#include <atomic>
#include <exception>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "arguments.hpp"
#include "arvek/arena/files.hpp"
#include "arvek/arena/game_pool.hpp"
#include "arvek/arena/record.hpp"
#include "arvek/session/session.hpp"
#include "pages.hpp"

namespace arvek::tool {

/// The file of --report: opened before the work, written after it.
class PageFile {
   public:
    /// Nothing where no page is wanted. Throws InputError for a name that is none, and a file that cannot be written.
    explicit PageFile(const std::optional<std::string>& path) {
        if (!path) return;
        require_page_name(*path);
        file_ = std::make_unique<OutputFile>(*path);
    }
    /// `page` is asked only where one is wanted.
    template <class Page>
    void write(Page page) {
        if (file_ == nullptr) return;
        file_->write(page());
        file_->commit();
    }

   private:
    std::unique_ptr<OutputFile> file_;
};

/// --threads, or one for each core.
int threads_of(const Arguments& arguments);

/// The console's pool, or threads of this process.
class Pool {
   public:
    Pool(const Arguments& arguments, const Console& console);
    GamePool& operator*() { return *pool_; }
    GamePool* operator->() { return pool_; }

   private:
    std::optional<ThreadPool> own_;
    GamePool* pool_;
};

/// The openings of a file, and where each stands.
struct Openings {
    std::vector<std::vector<std::string>> moves;
    std::vector<std::size_t> lines;  ///< from 1

    /// Says the file and the line of an opening, for an error that names the opening by its place.
    std::string place(const std::string& path, std::size_t opening) const;
};

/// Those of the --openings file, a line of moves each; '#' begins a comment.
Openings openings_of(const Arguments& arguments);
/// --opening-plies, or `otherwise`.
int opening_plies_of(const Arguments& arguments, int otherwise);

/// The same for opponents that are compared: where neither luck nor deals make games differ, two.
int opening_plies_of_comparison(const Arguments& arguments, const Session& session);

/// All that games come from besides who plays; `names`: of the opponents, for what is said of a file that has changed.
GameIdentity identity_of(const Session& session, const MatchOptions& options, const Openings& openings,
                         std::span<const OpponentSpec> specs, const std::vector<std::string>& names);

/// --time: for those that look ahead, and as what all are held to.
void hold_to_time(const Arguments& arguments, const Session& session, std::span<OpponentSpec> specs,
                  MatchOptions& options);

/// Throws InputError unless a profile may be written to that path: a new one, beside the one that it comes from, since
/// what that names by paths stays where it is.
void check_out(const std::string& out, const std::string& profile);

/// For each of the two searches by which a decision that a level weakened is looked at once more.
constexpr double seconds_of_a_longer_look = 0.3;

/// A stop that Ctrl-C asks for, or the command itself.
struct Stopping {
    std::atomic<bool> asked = false;
    StopToken token() const;
};

/// Writes while games are played. What cannot be written stops the games, so that what was played is told all the same, and
/// is thrown after that.
class Writing {
   public:
    explicit Writing(Stopping& stopping) : stopping_(stopping) {}

    template <class Write>
    void operator()(Write write) {
        if (problem_) return;
        try {
            write();
        } catch (const InputError&) {
            problem_ = std::current_exception();
            stopping_.asked = true;
        }
    }
    /// Throws what could not be written.
    void done() const {
        if (problem_) std::rethrow_exception(problem_);
    }

   private:
    Stopping& stopping_;
    std::exception_ptr problem_;
};

}  // namespace arvek::tool
