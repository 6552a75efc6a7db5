#pragma once
// Session: one game in progress, whose type is not known: seats, history, take-back, chance, decisions. What faces
// people or programs (the command line, a server, another language) is a thin client of it.
//
//     arvek::Session session(entry.open({"rows=4"}));
//     session.take_seat(arvek::Player::Second, spec);   // an opponent; the other player's moves are played by text
//     session.play("c2");
//     const arvek::DecisionReport answer = session.answer(seed);
//     std::puts(arvek::session_as_json(session).c_str());
//
// Texts that come out of it can be shown: what a game puts into them that a terminal would obey is replaced.

#include <array>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "arvek/arena/league.hpp"
#include "arvek/arena/match.hpp"
#include "arvek/game/seen_so_far.hpp"
#include "arvek/lab/book.hpp"
#include "arvek/lab/check.hpp"
#include "arvek/lab/count.hpp"
#include "arvek/lab/facts.hpp"
#include "arvek/lab/learning.hpp"
#include "arvek/lab/watched.hpp"
#include "arvek/lab/weight_fit.hpp"
#include "arvek/opponent/game_kit.hpp"
#include "arvek/session/report.hpp"
#include "arvek/session/vocabulary.hpp"

namespace arvek {

/// A game with its parameters set.
struct OpenGame {
    std::string name;               ///< by name
    std::vector<Setting> settings;  ///< every parameter
    GameKit kit;                    ///< itself, and what opponents of it can choose by
};

/// What is wrong with one of several openings.
class OpeningError : public InputError {
   public:
    /// Of the opening in that place, from 0.
    OpeningError(std::size_t opening, const std::string& what) : InputError("", what), opening_(opening) {}

    std::size_t opening() const { return opening_; }  ///< its place, from 0

   private:
    std::size_t opening_;
};

/// How an opponent plays against itself to learn from it.
struct SelfPlayOptions {
    int from = 0, games = 200;  ///< numbers of games; each has luck of its own
    int opening_plies = 8;      ///< random moves before the opponent begins, at the most; each game has its own number
    double stray = 0.05;        ///< how often another move is played than the one that was found best, 0 to 1
};

/// What a decision is asked besides who decides.
struct Question {
    StopToken stop{};                             ///< asked now and then
    SearchedTree<AnyMove>* tree = nullptr;        ///< what is to be filled with the searched tree; null: nothing
    const Progress<AnyMove>* progress = nullptr;  ///< who is told how it goes; null: nobody
    std::vector<std::string> only{};              ///< the moves to choose among, as texts; empty: all
    Ranking ranking = Ranking::Equals;            ///< how many of the first moves get a score of their own
};

/// One game in progress, whose type is not known.
class Session {
   public:
    /// From the initial position.
    explicit Session(OpenGame game);
    /// From a position given as text. Throws InputError for a text that is none.
    Session(OpenGame game, std::string_view position);
    ~Session();
    Session(Session&&) noexcept;
    Session& operator=(Session&&) noexcept;

    const OpenGame& game() const { return game_; }  ///< that it is of
    Subject subject() const;                        ///< the game, its parameters and the position it stands at

    int players() const;                            ///< how many there are
    std::string player_name(Player player) const;   ///< as people call the seat
    std::vector<std::string> player_names() const;  ///< in the order of the seats

    // How it stands.
    const AnyPosition& position() const { return positions_.back(); }  ///< how it stands
    std::string position_text() const;                                 ///< the same as text
    std::string drawing() const;                                       ///< ends with a new line
    /// What the player sees: the drawing, or, where the game has views, the text of the player's.
    std::string drawing_for(Player player) const;
    /// The board as the player sees it, with the cells of every legal move or event that has some; without any cells where
    /// the game has no board. Requires that the game has that player.
    Board board(Player viewer) const;
    /// Requires that play goes on and a player is next.
    Player player_to_move() const;
    bool chance_is_next() const;                         ///< whether dice or cards are next
    std::optional<Ending> ending() const;                ///< nothing while play goes on
    std::vector<std::string> legal_moves() const;        ///< or events; none when the game is over
    std::vector<std::string> moves_played() const;       ///< and events, from where it began
    std::size_t plies() const { return moves_.size(); }  ///< how many they are

    /// Plays a move given as text. Throws InputError, and changes nothing, when it is not legal.
    void play(std::string_view move);
    /// Draws and plays one event where chance is next; its text, or nothing where a player is to move or play is over.
    /// The text is empty for an event that one of the viewers cannot see, such as the card that another is dealt.
    std::optional<std::string> let_chance_act(Random& random, std::span<const Player> viewers = {});
    /// Takes the last move, or event, back; false when there is none.
    bool take_back();
    /// Takes everything back, and begins another game: a level that follows the player may change.
    void restart();

    // Who sits where.
    /// Puts an opponent on a seat. Throws InputError, and changes nothing, when the game cannot have it. A level that
    /// is named is kept; where none is, that of a profile may follow the player.
    void take_seat(Player player, const OpponentSpec& spec, const OpponentMeans& means = {});
    /// The player's moves come by play() again.
    void leave_seat(Player player);
    /// The opponent on a seat, at the level that it plays at now; nullptr where none sits.
    const OpponentSpec* seated(Player player) const;
    /// Whether an opponent is to move.
    bool awaits_answer() const;
    /// What the opponent whose turn it is plays, and why; it is played. Throws InputError, and nothing is played, when
    /// it cannot choose (rules of which none applies), and RulesError when the game breaks its contract.
    DecisionReport answer(std::uint64_t seed, StopToken stop = {});
    /// The same in two steps, for whoever lets time pass in between: what it would play, and playing that. Requires,
    /// for the second, that nothing was played or taken back since.
    DecisionReport ask_seated(std::uint64_t seed, StopToken stop = {}, const Progress<AnyMove>* progress = nullptr);
    /// Plays what ask_seated() said.
    void play_what_was_asked();

    // Questions about the position.
    /// Throws InputError when the game cannot have such an opponent.
    void check_opponent(const OpponentSpec& spec) const;
    /// MiB that the tables and trees of its opponents may take, of those that are seated and of the one that was asked.
    std::size_t memory_mebibytes() const;
    /// Gives all of that back. What those opponents had learned by looking ahead they find out anew.
    void release_memory();
    /// One decision here. An opponent that is asked again is the same one, so that it remembers what it did.
    Decision<AnyMove> decide(const OpponentSpec& spec, std::uint64_t seed, const OpponentMeans& means,
                             const Question& question = {});
    /// Of a decision in this game that a level weakened by a search: what the same search says without the level, with four
    /// times the positions (20,000 at the least) in at most `seconds` for either of two searches, from the position alone.
    /// Nothing for other decisions, with views, and where the time was not enough.
    std::optional<DeeperLook> look_deeper(const DecisionReport& report, const OpponentSpec& spec, double seconds,
                                          const OpponentMeans& means, StopToken stop = {}) const;
    /// Asks the opponent, at every earlier turn of the player to move, what it would have done there, so that its rules
    /// remember the game: a move that is what they chose counts as theirs. Throws what decide() does.
    void ask_about_the_game(const OpponentSpec& spec, std::uint64_t seed, const OpponentMeans& means);
    /// Where chance is next: every event with its probability, and what the opponent expects and answers after it; its
    /// limits are shared out among them. Throws InputError where chance is not next, events cannot be listed or are
    /// hidden, and for an opponent whose decisions have no scores.
    OutlookReport outlook(const OpponentSpec& spec, std::uint64_t seed, const OpponentMeans& means,
                          StopToken stop = {}) const;
    /// The decision as texts. Requires that it was taken here.
    DecisionReport report_of(const Decision<AnyMove>& decision, const OpponentSpec& spec) const;
    /// Everything that a profile may name, with its value here.
    VocabularyReport vocabulary() const;
    /// How many sequences of moves there are from here, by length up to `depth`. Throws InputError when a table is
    /// asked for and the game has no hash.
    std::vector<SequenceCount> count(int depth, const CountOptions& options = {}) const;
    /// `sampled`: with views, on drawn games rather than the whole tree. Throws InputError for a game that cannot be
    /// solved.
    SolutionReport solve(const SolveOptions& options, bool sampled = false) const;
    /// With `watch`, in a process of its own.
    CheckReport check(const CheckOptions& options, const WatchOptions* watch = nullptr) const;
    /// One line of play held to the laws, from the initial position.
    CheckReport check_line(const std::vector<std::string>& moves, const CheckOptions& options) const;
    /// Facts against the rules; see lab/facts.hpp.
    FactsReport check_facts(std::string_view text, std::string_view source) const;
    /// Throws what match() would throw for wrong use, and plays nothing.
    void check_match(const OpponentSpec& a, const OpponentSpec& b, const MatchOptions& options,
                     const std::vector<std::vector<std::string>>& openings) const;
    /// `openings`: sequences of moves as text, by which the pairs of games begin. Throws OpeningError for one that
    /// cannot be played, and InputError for other wrong use. `seen` is called as games end, never twice at once, and
    /// `log` with every decision of the game.
    MatchResult match(const OpponentSpec& a, const OpponentSpec& b, const MatchOptions& options,
                      const std::vector<std::vector<std::string>>& openings,
                      const std::function<void(const GameRecord&)>& seen,
                      const std::function<void(const GameLog&)>& log = {}) const;

    /// Every decision of a game for two that goes on from here, judged by an opponent that looks ahead. `seen` is called
    /// after each. Throws InputError for a game of another number of players, moves that are not legal, and a judge that
    /// does not rank by scores.
    std::vector<JudgedMove> judge(const std::vector<std::string>& moves, const OpponentSpec& by,
                                  const OpponentMeans& means, StopToken stop, const std::function<void()>& seen) const;

    /// An opening book from here on, judged by an opponent that looks ahead, with its limit of nodes or time for the
    /// second look at each position. Throws InputError as build_book(), and for a judge without such a limit.
    Book book(const OpponentSpec& by, const OpponentMeans& means, const BookOptions& options,
              const std::function<void(std::size_t)>& seen) const;
    /// The same judged by solving each position exactly: win, draw or loss. Throws InputError for a game that cannot be
    /// solved, and where a position was not, within the time and memory of `solving`.
    Book solved_book(const SolveOptions& solving, const BookOptions& options,
                     const std::function<void(std::size_t)>& seen) const;
    /// The same without any judge: as it was played, or as other books have it.
    Book unjudged_book(const BookOptions& options, const std::function<void(std::size_t)>& seen) const;

    /// What is replied where in those games from here on, for a book. Games in which somebody was at fault are left out.
    /// Throws InputError for moves that are not legal, with the number of the game.
    PlayedReplies played_in(std::span<const GameRecord> games) const;
    /// Positions of those games, at most so many and each once, in which what `player` would play, or what it played there in
    /// the games, loses more than `most_lost` of its chance to win, as the judge sees it. One that leaves something to chance is
    /// asked several times. `seen(looked at)` is called after each. Throws as judge() does.
    std::vector<BookRoot> blunders(std::span<const GameRecord> games, const OpponentSpec& player,
                                   const OpponentSpec& by, const OpponentMeans& means, double most_lost,
                                   std::size_t most_positions, StopToken stop,
                                   const std::function<void(std::size_t)>& seen) const;

    /// Every position of those games from here on, with what the features are worth there: quantities of positions by
    /// name, or all that the game has. Throws InputError for a game that is not for two, without such quantities, and for
    /// moves that are not legal, with the number of the game.
    std::vector<WeightSample> samples(std::span<const GameRecord> games, std::vector<std::string>& features) const;

    /// Throws what league() would throw for wrong use, and plays nothing.
    void check_league(std::span<const OpponentSpec> specs, const LeagueOptions& league, const MatchOptions& games,
                      const std::vector<std::vector<std::string>>& openings) const;
    /// A league of these opponents; how many they are, and the seats, need not be in `league`. Of `games`: seed,
    /// openings, lengths and times; how many there are says `league`. `played` need not be played again. `seen` is
    /// called as games end, never twice at once. Throws as match() does.
    LeagueResult league(std::span<const OpponentSpec> specs, const LeagueOptions& league, const MatchOptions& games,
                        const std::vector<std::vector<std::string>>& openings, GamePool& pool,
                        std::span<const std::pair<GameTask, GameRecord>> played,
                        const std::function<void(const GameTask&, const GameRecord&)>& seen) const;

    /// Games of two whose habits are counted, each with luck of its own and from here on; of one against itself where both
    /// are the same. `seen` is called as games end, never twice at once and in any order. Throws InputError for wrong use.
    void play_for_habits(const OpponentSpec& a, const OpponentSpec& b, const MatchOptions& games, GamePool& pool,
                         const std::function<void(const GameRecord&)>& seen) const;

    /// Games of the opponent against itself to learn from, with the chances that it saw (GameRecord::chances); those in
    /// `known` need not be played again. `seen` is called as games end, never twice at once and in any order. Of `games`:
    /// seed, lengths and clock. Throws InputError for wrong use and an opponent whose decisions have no scores.
    void self_play(const OpponentSpec& spec, const SelfPlayOptions& options, const MatchOptions& games, GamePool& pool,
                   const std::function<bool(int number)>& known,
                   const std::function<void(const GameRecord&)>& seen) const;

    /// Games of the opponent against itself, and by how many units of the game's evaluation the odds of winning double
    /// in them; without the opponent's and the seed's names. `seen` is called as games end. Throws InputError for wrong
    /// use, for a game without an evaluation and one that is not for two.
    OddsReport odds(const OpponentSpec& spec, const MatchOptions& options, const std::function<void()>& seen) const;

   private:
    /// A game that was played by those two, as text.
    GameRecord record_of(const PlayedGame<AnyGame>& played, const OpponentSpec& a, const OpponentSpec& b) const;

    struct Seat;

    DecisionReport report_at(const AnyPosition& at, const Decision<AnyMove>& decision, const OpponentSpec& spec) const;
    std::string drawing_at(const AnyPosition& at, Player player) const;

    void play_move(const AnyMove& move);
    bool is_seen(const AnyMove& event, Player viewer) const;
    double expected_at(const AnyPosition& at, Opponent<AnyGame>& opponent, const OpponentSpec& spec, std::uint64_t seed,
                       StopToken stop, OutlookReport::Event* entry, OutlookReport& report) const;
    SolutionReport solve_luck(const SolveOptions& options) const;
    SolutionReport solve_views(const SolveOptions& options, bool sampled) const;
    Decision<AnyMove> decide_seated(std::uint64_t seed, StopToken stop, const Progress<AnyMove>* progress = nullptr);
    Opponent<AnyGame>& kept_opponent(const OpponentSpec& spec, const OpponentMeans& means);
    MatchStart<AnyGame> start_with(const std::vector<std::vector<std::string>>& openings) const;
    std::vector<AnyMove> moves_of(const std::vector<std::string>& texts) const;
    void tell_seats_of_the_end();

    OpenGame game_;
    std::vector<AnyPosition> positions_;
    std::vector<AnyMove> moves_;
    SeenSoFar seen_so_far_;
    std::array<std::unique_ptr<Seat>, max_players> seats_;
    std::unique_ptr<Seat> asked_;  ///< the opponent that was asked last without a seat
    bool end_was_told_ = false;
    std::optional<AnyMove> answer_;  ///< to ask_seated()
    std::size_t answered_at_ = 0;    ///< after so many plies
};

/// The session for programs: game, position, moves, whose turn, legal moves, seats, ending. One JSON document.
std::string session_as_json(const Session& session);

}  // namespace arvek
