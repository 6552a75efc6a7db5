/** @file
 * Arvek for other languages: computer players of games, through functions of C.
 *
 *     arvek_game* game = NULL;
 *     arvek_session* session = NULL;
 *     char* decision = NULL;
 *     if (arvek_game_open("lanterns", "rows=4 columns=4", &game) != ARVEK_OK ||
 *         arvek_session_open(game, NULL, &session) != ARVEK_OK ||
 *         arvek_decide(session, "standard@5", 0, 0.5, 1, &decision) != ARVEK_OK)
 *         puts(arvek_last_error());
 *     else
 *         puts(decision);
 *     arvek_free(decision);
 *     arvek_session_close(session);
 *     arvek_game_close(game);
 *
 * A game is one that is compiled in, or a table of functions of yours (struct arvek_rules): all opponents, levels,
 * matches and checks work on both.
 *
 * Every function that can fail returns a code, and arvek_last_error() then says in one line what was wrong. Texts are
 * UTF-8 and end with a zero. A text that is given out is the caller's, to be freed with arvek_free(); after a failure there
 * is none, and where it would be is NULL. Nothing is ever thrown across this border; a function of yours must not throw
 * either: it calls arvek_rules_failed() and returns anything.
 *
 * Threads: a handle is used by one thread at a time, different handles by different threads at once. The functions of a
 * table are called in the thread that asks, and by several threads at once only where `threads` says so.
 */
#ifndef ARVEK_H
#define ARVEK_H

#include <stddef.h>
#include <stdint.h>

#ifdef __cplusplus
extern "C" {
#endif

/** How a function of the library is declared. */
#if defined(__GNUC__)
#define ARVEK_API __attribute__((visibility("default")))
#else
#define ARVEK_API
#endif

/** Grows with every change of what is declared here; the library refuses tables of another one, whose fields lie
 * elsewhere. */
#define ARVEK_INTERFACE 3

/** What a function returns. */
typedef enum arvek_status {
    ARVEK_OK = 0,           /**< done */
    ARVEK_WRONG_USE = 1,    /**< a text, a number or a handle that is not what it should be */
    ARVEK_BROKEN_RULES = 2, /**< the game breaks its own contract */
    ARVEK_FAILED = 3        /**< anything else: no memory, a program that died */
} arvek_status;

typedef struct arvek_game arvek_game;       /**< rules, and what opponents of them choose by */
typedef struct arvek_session arvek_session; /**< one game in progress */

/** "0.1.0". */
ARVEK_API const char* arvek_version(void);
/** ARVEK_INTERFACE of the library itself. */
ARVEK_API int arvek_interface(void);
/** What was wrong with the last call of this thread that did not return ARVEK_OK; valid until the next one. */
ARVEK_API const char* arvek_last_error(void);
/** Frees a text that was given out; NULL is nothing. */
ARVEK_API void arvek_free(char* text);

/* ---- a game as a table of functions ----
 *
 * A position is a block of bytes, always of the same size, compared byte by byte: what is not used must always be the
 * same. So is a view, what a player sees of it. A move is a number of 32 bits, whatever it means to the game. Functions
 * that may be NULL make an ability each, and what they buy is in the table of arvek/game/abilities.hpp; all are here but
 * two: positions are copied and never taken back, and moves are given in lists and never one at a time, since both would
 * take longer across this border than what they save. `user` is passed on to each.
 */
#define ARVEK_MOST_POSITION_BYTES 1024 /**< of arvek_rules::position_bytes, and of views */
#define ARVEK_MOST_PLAYERS 4           /**< of arvek_rules::players */

typedef struct arvek_random arvek_random;       /**< where a function of a table draws its random numbers */
typedef struct arvek_proposals arvek_proposals; /**< where it puts what it suggests */
typedef struct arvek_names arvek_names;         /**< where it puts names */
typedef struct arvek_board arvek_board;         /**< where it puts what is shown of a position */

/** Any 64 bits. */
ARVEK_API uint64_t arvek_random_next(arvek_random* random);
/** 0 to n - 1, each as likely; `n` is more than 0. */
ARVEK_API uint32_t arvek_random_below(arvek_random* random, uint32_t n);

/** Suggests a move; `note` says why, in a few words, or is NULL. */
ARVEK_API void arvek_propose(arvek_proposals* proposals, uint32_t move, double urgency, const char* note);

/** What arvek_name() adds to. */
typedef enum arvek_kind_of_name { ARVEK_ACTOR = 0, ARVEK_ACTION = 1, ARVEK_KIND = 2, ARVEK_TARGET = 3 } arvek_kind_of_name;
/** Adds a name; acts are told by the places of names, from 0. */
ARVEK_API void arvek_name(arvek_names* names, int32_t kind, const char* name);

/** How the ground of a cell looks. */
typedef enum arvek_ground {
    ARVEK_PLAIN = 0,   /**< like most */
    ARVEK_DARKER = 1,  /**< every other square, water, a store */
    ARVEK_BLOCKED = 2, /**< nothing can stand there */
    ARVEK_SPECIAL = 3, /**< a goal, a last move */
    ARVEK_NO_GROUND = 4 /**< a label */
} arvek_ground;
/** A cell of a board. Texts may be NULL. */
typedef struct arvek_cell {
    const char* name;     /**< as the moves' texts say it, unique; NULL: only to look at */
    double x;             /**< of the middle, in cells */
    double y;             /**< of the middle; grows downwards */
    double width;         /**< in cells; 0: one */
    double height;        /**< in cells; 0: one */
    int32_t round;        /**< not 0: an ellipse */
    int32_t ground;       /**< an arvek_ground */
    const char* text;     /**< what stands there, a few letters */
    int32_t player;       /**< whose it is; -1: nobody's */
    const char* spoken;   /**< the same in words, without whose it is */
} arvek_cell;
/** Squares from the lower left, "a1", "b1", and so on, with labels along two edges. */
ARVEK_API void arvek_board_squares(arvek_board* board, int32_t columns, int32_t rows, int32_t chequered);
/** Adds a cell. */
ARVEK_API void arvek_board_cell(arvek_board* board, const arvek_cell* cell);
/** Puts something onto the cell of that name; `spoken` may be NULL. */
ARVEK_API void arvek_board_put(arvek_board* board, const char* cell, const char* text, int32_t player,
                               const char* spoken);
/** A line between two cells, by their places. */
ARVEK_API void arvek_board_path(arvek_board* board, uint32_t one, uint32_t other);
/** A line below the board. */
ARVEK_API void arvek_board_note(arvek_board* board, const char* text);
/** By which cells, with spaces between, the move of that text goes, where the text does not say so. */
ARVEK_API void arvek_board_move(arvek_board* board, const char* move, const char* cells);

/** A number that rules and evaluations in profiles can name. */
typedef struct arvek_quantity {
    const char* name; /**< in lower case, unique in the game */
    const char* unit; /**< "points"; NULL for a plain number; "0 or 1" for yes and no */
    const char* doc;  /**< what it is */
    int32_t of;       /**< 0: of the position; of a move 1: who acts, 2: what is done, 3: at whom */
    double least;     /**< what it can be */
    double most;      /**< the other end; the same as `least`: not known */
    /** The number, as the player to move sees it. */
    double (*value)(void* user, const void* position, uint32_t move);
} arvek_quantity;

/** What suggests moves for one reason. */
typedef struct arvek_suggester {
    const char* reason; /**< in a word */
    const char* doc;    /**< what it means */
    /** Proposes a few moves. */
    void (*suggest)(void* user, const void* position, arvek_proposals* proposals);
} arvek_suggester;

/** A part of a position that can look in a number of ways, for what learns. */
typedef struct arvek_pattern {
    const char* name;           /**< unique in the game */
    int32_t ways;               /**< 1 to 65,536 */
    const uint16_t* rival_ways; /**< so many: how the rival sees each; NULL: not known */
    int32_t rival_place;        /**< among the patterns; -1: this one */
} arvek_pattern;

/** A move as rules see it: places of names. */
typedef struct arvek_act {
    uint32_t actor;         /**< who */
    uint32_t action;        /**< what */
    uint32_t target;        /**< at whom; ARVEK_NO_TARGET: at nobody */
    uint32_t individual;    /**< tells apart actors of one name; 0xffffffff: no single one */
    uint64_t kinds;         /**< a bit for each kind that the action is of */
} arvek_act;
#define ARVEK_NO_TARGET 0xffffu /**< of arvek_act::target */

/** What a level changes in this game. All are given as they mean "as it is", and may be left so. */
typedef struct arvek_level_change {
    int32_t depth;         /**< plies; 0: as it is */
    uint64_t nodes;        /**< 0: as it is */
    double overlooks;      /**< 0 to 1; less than 0, here and below: as it is */
    double noise;          /**< 0 or more */
    double most_lost;      /**< 0 or more */
    double sees_wins;      /**< 0 to 1 */
    double sees_losses;    /**< 0 to 1 */
    double deeper;         /**< 0 to 1 */
    double variety;        /**< 0 or more */
} arvek_level_change;

/** The table. Its functions get `user` as it stands here. */
typedef struct arvek_rules {
    uint32_t interface;      /**< ARVEK_INTERFACE */
    uint32_t position_bytes; /**< 1 to ARVEK_MOST_POSITION_BYTES */
    int32_t players;         /**< 1 to ARVEK_MOST_PLAYERS; 0: two */
    int32_t threads;         /**< not 0: the functions may be called by several threads at once */
    const char* name;        /**< lower-case letters, digits and underscores */
    void* user;              /**< is passed on to each function; may be NULL */

    /** Fills the position, all of whose bytes are 0. */
    void (*initial_position)(void* user, void* position);
    /** 0 to players - 1. */
    int32_t (*player_to_move)(void* user, const void* position);
    /** Writes the legal moves, `room` at the most, and returns how many there are; it is asked once more, with that much
       room, where it did not do. */
    uint32_t (*generate_moves)(void* user, const void* position, uint32_t* moves, uint32_t room);
    /** Plays a legal move. */
    void (*play)(void* user, void* position, uint32_t move);
    /** 0 while play goes on; else 1, and what each player gets. */
    int32_t (*outcome)(void* user, const void* position, int32_t* payoffs);

    /** From here on each may be NULL. */

    /** The worth for that player; a larger one is better. */
    int64_t (*evaluate)(void* user, const void* position, int32_t player);
    /** Equal for equal positions, and hardly ever for others. */
    uint64_t (*hash)(void* user, const void* position);
    /** Likely better moves get larger numbers. */
    int32_t (*order_hint)(void* user, const void* position, uint32_t move);
    /** As generate_moves, of those that change the evaluation much. */
    uint32_t (*generate_forcing_moves)(void* user, const void* position, uint32_t* moves, uint32_t room);
    /** Not 0 where chance is next; then events are asked for, with probabilities that sum to 1. */
    int32_t (*chance_is_next)(void* user, const void* position);
    /** As generate_moves, with the probability of each. */
    uint32_t (*generate_events)(void* user, const void* position, uint32_t* events, double* probabilities,
                                uint32_t room);
    /** Each writes a text with its zero into `room` bytes. Without them positions are written as bytes in hexadecimal
       digits, and moves as numbers. */
    void (*position_text)(void* user, const void* position, char* text, uint32_t room);
    /** Not 0 if the text is a position, which is then written; else a complaint may be. */
    int32_t (*read_position)(void* user, const char* text, void* position, char* complaint, uint32_t room);
    /** The move as people write it; texts of legal moves differ. */
    void (*move_text)(void* user, const void* position, uint32_t move, char* text, uint32_t room);
    /** The position as people see it, in lines. */
    void (*drawing)(void* user, const void* position, char* text, uint32_t room);
    /** What a seat is called. */
    void (*player_name)(void* user, int32_t player, char* text, uint32_t room);
    /** At which occurrence of a position the game is a draw; 0: there is no such rule. */
    int32_t draw_at_occurrence;

    /** The most that an end pays anybody; 0: not said. */
    int32_t most_payoff;
    /** By how many units of evaluate() the odds to win double; 0: not said. */
    double units_per_doubling;
    /** Alike for positions that are the same for that rule. */
    uint64_t (*repetition_key)(void* user, const void* position);
    /** Alike for positions that play alike, turned or mirrored. */
    uint64_t (*equivalence_hash)(void* user, const void* position);
    /** As generate_moves, of all others than the forcing ones. */
    uint32_t (*generate_quiet_moves)(void* user, const void* position, uint32_t* moves, uint32_t room);
    /** As generate_moves, of so many that the best is among them. */
    uint32_t (*generate_sufficient_moves)(void* user, const void* position, uint32_t* moves, uint32_t room);
    /** How many legal moves there are. */
    int32_t (*count_moves)(void* user, const void* position);
    /** Passes the turn, though the rules may know no such move. */
    void (*play_nothing)(void* user, void* position);
    /** Not 0 where that loses nothing by itself; goes with play_nothing. */
    int32_t (*nothing_is_sound)(void* user, const void* position);
    /** What the player gets at the least and at the most from here on. */
    void (*payoff_bounds)(void* user, const void* position, int32_t player, int32_t* least, int32_t* most);
    /** One of the events, as likely as it is; without a list of them, chance_is_next does. */
    uint32_t (*draw_event)(void* user, const void* position, arvek_random* random);
    /** Any legal move, each as likely. */
    uint32_t (*random_move)(void* user, const void* position, arvek_random* random);
    /** Random moves and events to the end, and what each player gets; the position may be left as it is then. */
    void (*play_out)(void* user, void* position, arvek_random* random, int32_t* payoffs);

    /** Of hidden hands: bytes of what a player sees, 0 where all is in sight; then the two functions below. */
    uint32_t view_bytes;
    /** Fills the view, all of whose bytes are 0, with all that the player sees and remembers. */
    void (*view)(void* user, const void* position, int32_t player, void* view);
    /** Fills a position, all of whose bytes are 0, that agrees with the view. */
    void (*sample)(void* user, const void* view, arvek_random* random, void* position);
    /** The view in a line. */
    void (*view_text)(void* user, const void* view, char* text, uint32_t room);

    /** Reads other forms of a move than move_text writes: not 0 if it is one, as read_position. */
    int32_t (*read_move)(void* user, const void* position, const char* text, uint32_t* move, char* complaint,
                         uint32_t room);
    /** The move as open protocols write it. */
    void (*coordinates)(void* user, const void* position, uint32_t move, char* text, uint32_t room);
    /** What is shown to that player, by the functions above. */
    void (*board)(void* user, const void* position, int32_t viewer, arvek_board* board);
    /** Where moves are equally good, those with larger numbers come first. */
    int32_t (*preference)(void* user, const void* position, uint32_t move);
    /** How much the move stands out to people, 0 to 1. */
    double (*salience)(void* user, const void* position, uint32_t move);
    /** What is different at that level. */
    void (*level_change)(void* user, int32_t level, arvek_level_change* change);
    /** Adds every name that can occur, by arvek_name(). */
    void (*act_names)(void* user, arvek_names* names);
    /** The move as rules see it; goes with act_names. */
    void (*act)(void* user, const void* position, uint32_t move, arvek_act* act);
    /** Writes how each pattern looks to the player; goes with `patterns`. */
    void (*read_patterns)(void* user, const void* position, int32_t player, uint16_t* ways);
    const arvek_pattern* patterns;     /**< so many as below */
    const arvek_quantity* quantities;  /**< so many as below */
    const arvek_suggester* suggesters; /**< so many as below */
    uint32_t pattern_count;            /**< up to 4,096 */
    uint32_t quantity_count;           /**< up to 1,000 */
    uint32_t suggester_count;          /**< up to 1,000 */
} arvek_rules;

/* ---- games ---- */

/** A game that is compiled in. `settings`: "name=value" with spaces between, or NULL. */
ARVEK_API arvek_status arvek_game_open(const char* name, const char* settings, arvek_game** game);
/** From a function of a table, in the thread in which it was called: it failed, and whatever it returns means nothing. What
 * was asked of the library returns ARVEK_BROKEN_RULES with this message; in a match or a check the game at hand is broken. */
ARVEK_API void arvek_rules_failed(const char* message);
/** A game of your own. The table is copied; what `user` points to must live as long as the game and its sessions. */
ARVEK_API arvek_status arvek_game_from_rules(const arvek_rules* rules, arvek_game** game);
/** Sessions of the game stay. NULL is nothing. */
ARVEK_API void arvek_game_close(arvek_game* game);
/** All games that are compiled in, as JSON. */
ARVEK_API arvek_status arvek_games(char** json);

/** Whether the rules are sound: `faults` of them are not, and `json` says which. `seconds` 0: 10. */
ARVEK_API arvek_status arvek_check(arvek_game* game, double seconds, uint64_t seed, int32_t* faults, char** json);
/** Two opponents over so many games, by turns the first. */
ARVEK_API arvek_status arvek_match(arvek_game* game, const char* a, const char* b, int32_t games, uint64_t seed,
                                   char** json);

/* ---- sessions ---- */

/** One game in progress, from a position's text or, with NULL, from its start. */
ARVEK_API arvek_status arvek_session_open(arvek_game* game, const char* position, arvek_session** session);
/** Ends it. NULL is nothing. */
ARVEK_API void arvek_session_close(arvek_session* session);
/** How it stands: position, legal moves, whose turn, the result. */
ARVEK_API arvek_status arvek_session_state(arvek_session* session, char** json);
/** The position as people see it, in lines. */
ARVEK_API arvek_status arvek_session_drawing(arvek_session* session, char** text);
/** A move, or an event where chance is next, by its text. */
ARVEK_API arvek_status arvek_session_play(arvek_session* session, const char* move);
/** By chance, where it is next. */
ARVEK_API arvek_status arvek_session_let_chance_act(arvek_session* session, uint64_t seed);
/** Takes the last move, or event, back. */
ARVEK_API arvek_status arvek_session_take_back(arvek_session* session);

/** What an opponent ("standard@5", or the text of a profile) would play here, and why. It may look at so many
 * `nodes` and think for so many `seconds`; 0: as its level says. `plays`: not 0: the move is played. */
ARVEK_API arvek_status arvek_decide(arvek_session* session, const char* opponent, uint64_t nodes, double seconds,
                                    int32_t plays, char** json);
/** The seed of the session, 0 at first: another one makes another game. */
ARVEK_API arvek_status arvek_session_seed(arvek_session* session, uint64_t seed);
/** From another thread: a decision of the session in hand ends soon, with the best so far. */
ARVEK_API void arvek_session_stop(arvek_session* session);

#ifdef __cplusplus
}
#endif

#endif
