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

/** Grows with every change of what is declared here; the library refuses tables of a later one. */
#define ARVEK_INTERFACE 2

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
 * same. A move is a number of 32 bits, whatever it means to the game. Functions that may be NULL make an ability each,
 * and what they buy is in the table of arvek/game/abilities.hpp. `user` is passed on to each.
 */
#define ARVEK_MOST_POSITION_BYTES 1024 /**< of arvek_rules::position_bytes */
#define ARVEK_MOST_PLAYERS 4           /**< of arvek_rules::players */

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
