/* Punts: the rules of a game in C, an opponent by Arvek.
 *
 *     cc punts.c -I include -L lib -larvek -o punts && ./punts
 *
 * Fifteen punts lie in a row. In turn, Teal and Amber hire one, two or three of them; who must take the last one pays for
 * all. A position is how many are left and whose turn it is; a move is how many are taken.
 */
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#include "arvek/arvek.h"

typedef struct {
    int32_t left;
    int32_t to_move;
} punts;

static void initial_position(void* user, void* position) {
    punts* p = position;
    (void)user;
    p->left = 15;
    p->to_move = 0;
}

static int32_t player_to_move(void* user, const void* position) {
    (void)user;
    return ((const punts*)position)->to_move;
}

static uint32_t generate_moves(void* user, const void* position, uint32_t* moves, uint32_t room) {
    const punts* p = position;
    uint32_t count = 0;
    (void)user;
    for (int32_t taken = 1; taken <= 3 && taken <= p->left; ++taken, ++count)
        if (count < room) moves[count] = (uint32_t)taken;
    return count;
}

static void play(void* user, void* position, uint32_t move) {
    punts* p = position;
    (void)user;
    p->left -= (int32_t)move;
    p->to_move = 1 - p->to_move;
}

static int32_t outcome(void* user, const void* position, int32_t* payoffs) {
    const punts* p = position;
    (void)user;
    if (p->left > 0) return 0;
    /* The other one took the last. */
    payoffs[p->to_move] = 1;
    payoffs[1 - p->to_move] = -1;
    return 1;
}

static void move_text(void* user, const void* position, uint32_t move, char* text, uint32_t room) {
    (void)user;
    (void)position;
    snprintf(text, room, "take-%u", move);
}

static void player_name(void* user, int32_t player, char* text, uint32_t room) {
    (void)user;
    snprintf(text, room, "%s", player == 0 ? "Teal" : "Amber");
}

static void need(arvek_status status) {
    if (status == ARVEK_OK) return;
    fprintf(stderr, "punts: %s\n", arvek_last_error());
    exit(1);
}

int main(void) {
    arvek_rules rules;
    memset(&rules, 0, sizeof rules);
    rules.interface = ARVEK_INTERFACE;
    rules.position_bytes = sizeof(punts);
    rules.name = "punts";
    rules.initial_position = initial_position;
    rules.player_to_move = player_to_move;
    rules.generate_moves = generate_moves;
    rules.play = play;
    rules.outcome = outcome;
    rules.move_text = move_text;
    rules.player_name = player_name;

    arvek_game* game = NULL;
    need(arvek_game_from_rules(&rules, &game));

    int32_t faults = 0;
    need(arvek_check(game, 1.0, 0, &faults, NULL));
    printf("faults in the rules: %d\n", faults);

    arvek_session* session = NULL;
    need(arvek_session_open(game, NULL, &session));
    need(arvek_session_play(session, "take-2"));
    char* decision = NULL;
    need(arvek_decide(session, "standard@5", 0, 0.0, 1, &decision));
    printf("why: %s\n", decision);
    arvek_free(decision);
    arvek_session_close(session);
    arvek_game_close(game);
    return faults == 0 ? 0 : 1;
}
