#pragma once
// Building an opening book: which replies are good enough that a game may begin with any of them.
//
//   arvek::Book book = arvek::build_book(game, *judge, {.plies = 6});
//   for (const auto& position : book.positions) ...
//
// The judge is an opponent that looks ahead. It looks twice: at all moves of a position, and then longer at those that came
// close to the best, so that no reply is in the book that a longer look takes for a mistake. Replies may come from
// recorded games or from other books instead of all moves (PlayedReplies); they are judged all the same.

#include <cstdint>
#include <functional>
#include <map>
#include <optional>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/opponent/opponent.hpp"
#include "arvek/search/limits.hpp"

namespace arvek {

/// What is replied where, and how often: from recorded games, or from books that are to be joined. Mirror images and the like
/// count as one where the game knows them.
class PlayedReplies {
   public:
    /// With nothing known yet.
    explicit PlayedReplies(const AnyGame& game) : game_(game) {}

    /// `points` that the mover got, 0 to 1, a game.
    void add(const AnyPosition& at, const AnyMove& move, double points, int games = 1);
    /// The replies there with their weights, the best 1; those of fewer games are left out. None where nothing is known.
    std::vector<std::pair<AnyMove, double>> at(const AnyPosition& position, int least_games) const;
    std::size_t positions() const { return replies_.size(); }  ///< in which something is known

   private:
    struct Reply {
        int games = 0;
        double points = 0.0;
    };
    std::uint64_t key_of(const AnyPosition& position) const;
    std::uint64_t key_after(AnyPosition position, const AnyMove& move) const;

    AnyGame game_;
    std::unordered_map<std::uint64_t, std::map<std::uint64_t, Reply>> replies_;
};

/// A position that a book goes on from.
struct BookRoot {
    std::vector<AnyMove> line{};  ///< that leads to it from where the book begins; none: it is given as a position
    AnyPosition position{};       ///< where no line leads to it
};

/// The most replies to a position that a book can have.
inline constexpr int most_book_width = 1'000;

/// How a book is built.
struct BookOptions {
    int plies = 6;                          ///< how far it goes, 1 to 60
    int width = 3;                          ///< replies to a position at the most, 1 to most_book_width
    double most_lost = 0.03;                ///< what a reply may lose against the best, as a chance to win, 0 to 1
    std::size_t most_positions = 500;       ///< 1 to 100,000; those after likelier replies come first
    std::uint64_t seed = 0;                 ///< of what the judge leaves to chance
    const PlayedReplies* played = nullptr;  ///< what replies are looked at; null: all moves
    int least_games = 2;                    ///< of a reply there, 1 or more
    std::vector<BookRoot> roots{};          ///< where it begins; none: where it is built from
    /// By how many units of the judge's scores the odds to win double; none: as the game says.
    std::optional<double> units_per_doubling{};
    StopToken stop{};  ///< asked after each position; what was found counts
};

/// A reply of a book.
struct BookReply {
    AnyMove move{};       ///< which
    double lost = 0.0;    ///< of the chance to win, against the best move known
    double weight = 1.0;  ///< how likely it is to be drawn, more than 0, the best 1
};

/// A position of a book.
struct BookPosition {
    std::vector<AnyMove> line;       ///< that leads to it from where the book begins
    AnyPosition position{};          ///< where it is played
    std::vector<BookReply> replies;  ///< the best first
    bool is_given = false;           ///< as a position: no line leads to it
};

/// What was built.
struct Book {
    std::vector<BookPosition> positions;  ///< those nearest to the start first
    std::size_t searched = 0;             ///< positions looked at
    std::size_t folded = 0;               ///< not looked at, as they are mirror images or the like of others
    bool complete = true;                 ///< false: stopped, or as many positions as there may be
    /// How many different ways there are through it, to the end of each line.
    std::size_t openings() const;
};

/// A decision among those moves alone that gives each a score of its own, with so large a share, 0 to 1, of the positions or
/// the time that a look may take.
using BookJudge =
    std::function<Decision<AnyMove>(const AnyPosition& position, const std::vector<AnyMove>& only, double share)>;

/// Without a judge every reply is taken as it is. `seen(positions so far)` is called after each. Throws InputError for options out of range, a game that is not for two, one
/// of chance or with views, and where the game is over.
Book build_book(const AnyGame& game, const AnyPosition& from, const BookJudge& judge, const BookOptions& options,
                const std::function<void(std::size_t)>& seen);

/// The chance to win of the player to move that a score stands for; `units`: see search/scale_of.hpp. A draw counts half.
double chance_of_score(Score score, double scores_per_point, double units, Payoff most_payoff);

}  // namespace arvek
