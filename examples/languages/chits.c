/* Chits: a game with hidden hands in C, with views, chance, quantities, a board, and a character that goes by them.
 *
 *     cc chits.c -I include -L lib -larvek -o chits && ./chits
 *
 * Of eight tally chits, numbered 1 to 8, Teal and Amber get three each, unseen by the other, and two stay in the box.
 * One lays a chit, the other answers with one; the higher takes the round, and leads the next. Who takes two of the three
 * rounds has the berth.
 */
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#include "arvek/arvek.h"

/* Hands and what was laid are a bit for each chit. Of a view, the other hand is empty. */
typedef struct {
    uint8_t hand[2];
    uint8_t laid;
    uint8_t table; /* the chit that is to be answered; 0: none */
    uint8_t to_move;
    uint8_t rounds[2];
    uint8_t dealt; /* how many have a hand */
    uint8_t viewer; /* of a view: whose it is, from 1 */
} chits;

static int count_of(uint8_t set) {
    int count = 0;
    for (; set != 0; set &= (uint8_t)(set - 1)) ++count;
    return count;
}
static uint8_t in_box(const chits* p) { return (uint8_t)~(p->hand[0] | p->hand[1] | p->laid); }

static void initial_position(void* user, void* position) {
    (void)user;
    (void)position; /* all zero: nothing is dealt */
}
static int32_t player_to_move(void* user, const void* position) {
    (void)user;
    return ((const chits*)position)->to_move;
}
static int32_t chance_is_next(void* user, const void* position) {
    (void)user;
    return ((const chits*)position)->dealt < 2;
}
/* An event is a whole hand. */
static uint32_t generate_events(void* user, const void* position, uint32_t* events, double* probabilities,
                                uint32_t room) {
    const uint8_t box = in_box(position);
    uint32_t count = 0;
    (void)user;
    for (uint32_t hand = 1; hand < 256; ++hand)
        if ((hand & box) == hand && count_of((uint8_t)hand) == 3) {
            if (count < room) events[count] = hand;
            ++count;
        }
    for (uint32_t i = 0; i < count && i < room; ++i) probabilities[i] = 1.0 / count;
    return count;
}
static uint32_t generate_moves(void* user, const void* position, uint32_t* moves, uint32_t room) {
    const chits* p = position;
    uint32_t count = 0;
    (void)user;
    for (uint32_t chit = 1; chit <= 8; ++chit)
        if (p->hand[p->to_move] >> (chit - 1) & 1) {
            if (count < room) moves[count] = chit;
            ++count;
        }
    return count;
}
static void play(void* user, void* position, uint32_t move) {
    chits* p = position;
    (void)user;
    if (p->dealt < 2) {
        p->hand[p->dealt++] = (uint8_t)move;
        return;
    }
    p->hand[p->to_move] &= (uint8_t)~(1u << (move - 1));
    p->laid |= (uint8_t)(1u << (move - 1));
    if (p->table == 0) {
        p->table = (uint8_t)move;
        p->to_move = 1 - p->to_move;
        return;
    }
    if (move < p->table) p->to_move = 1 - p->to_move; /* the one who led takes it, and leads again */
    ++p->rounds[p->to_move];
    p->table = 0;
}
static int32_t outcome(void* user, const void* position, int32_t* payoffs) {
    const chits* p = position;
    (void)user;
    for (int player = 0; player < 2; ++player)
        if (p->rounds[player] == 2) {
            payoffs[player] = 1;
            payoffs[1 - player] = -1;
            return 1;
        }
    return 0;
}

static void view(void* user, const void* position, int32_t player, void* seen) {
    chits* v = seen;
    (void)user;
    *v = *(const chits*)position;
    v->hand[1 - player] = 0;
    v->viewer = (uint8_t)(player + 1);
}
static void sample(void* user, const void* seen, arvek_random* random, void* position) {
    chits* p = position;
    (void)user;
    *p = *(const chits*)seen;
    const int other = 2 - p->viewer;
    p->viewer = 0;
    if (p->dealt <= other) return;
    /* As many of the chits that nobody has shown as the other still holds. */
    const int led_and_open = p->table != 0;
    const int shown = count_of(p->laid), rounds = (shown - led_and_open) / 2;
    int holds = 3 - rounds - (led_and_open && p->to_move != other ? 1 : 0);
    uint8_t unseen = in_box(p);
    while (holds-- > 0) {
        uint32_t which = arvek_random_below(random, (uint32_t)count_of(unseen));
        uint8_t left = unseen;
        while (which-- > 0) left &= (uint8_t)(left - 1);
        p->hand[other] |= (uint8_t)(left & -left);
        unseen &= (uint8_t)~(left & -left);
    }
}

static void set_text(uint8_t set, char* text) {
    for (int chit = 1; chit <= 8; ++chit)
        if (set >> (chit - 1) & 1) *text++ = (char)('0' + chit);
    *text = '\0';
}
static void position_text(void* user, const void* position, char* text, uint32_t room) {
    const chits* p = position;
    char teal[9], amber[9], laid[9];
    (void)user;
    set_text(p->hand[0], teal);
    set_text(p->hand[1], amber);
    set_text(p->laid, laid);
    snprintf(text, room, "%d:%s/%s/%s/%d/%d/%d-%d", p->dealt, teal, amber, laid, p->table, p->to_move, p->rounds[0],
             p->rounds[1]);
}
static const char* read_set(const char* text, uint8_t* set) {
    for (*set = 0; *text >= '1' && *text <= '8'; ++text) *set |= (uint8_t)(1u << (*text - '1'));
    return text;
}
static int32_t read_position(void* user, const char* text, void* position, char* complaint, uint32_t room) {
    chits p;
    char again[64];
    memset(&p, 0, sizeof p);
    const char* at = text;
    if (*at >= '0' && *at <= '2' && at[1] == ':') {
        p.dealt = (uint8_t)(*at - '0');
        at = read_set(at + 2, &p.hand[0]);
        if (*at == '/') at = read_set(at + 1, &p.hand[1]);
        if (*at == '/') at = read_set(at + 1, &p.laid);
        unsigned table = 9, to_move = 9, first = 9, second = 9;
        if (sscanf(at, "/%1u/%1u/%1u-%1u", &table, &to_move, &first, &second) == 4 && table <= 8 && to_move <= 1 &&
            first <= 2 && second <= 2 && (p.hand[0] & p.hand[1]) == 0 && ((p.hand[0] | p.hand[1]) & p.laid) == 0) {
            p.table = (uint8_t)table;
            p.to_move = (uint8_t)to_move;
            p.rounds[0] = (uint8_t)first;
            p.rounds[1] = (uint8_t)second;
            position_text(user, &p, again, sizeof again);
            if (strcmp(again, text) == 0) {
                memcpy(position, &p, sizeof p);
                return 1;
            }
        }
    }
    snprintf(complaint, room, "it is no position (expected such as 2:148/267//0/0/0-0)");
    return 0;
}
static void move_text(void* user, const void* position, uint32_t move, char* text, uint32_t room) {
    const chits* p = position;
    char hand[9];
    (void)user;
    set_text((uint8_t)move, hand);
    if (p->dealt < 2)
        snprintf(text, room, "%s:%s", p->dealt == 0 ? "teal" : "amber", hand);
    else
        snprintf(text, room, "lay-%u", move);
}
static void player_name(void* user, int32_t player, char* text, uint32_t room) {
    (void)user;
    snprintf(text, room, "%s", player == 0 ? "Teal" : "Amber");
}

static double chit_laid(void* user, const void* position, uint32_t move) {
    (void)user;
    (void)position;
    return move;
}
static double takes_it(void* user, const void* position, uint32_t move) {
    (void)user;
    const chits* p = position;
    return p->table != 0 && move > p->table;
}
static double rounds_ahead(void* user, const void* position, uint32_t move) {
    const chits* p = position;
    (void)user;
    (void)move;
    return p->rounds[p->to_move] - p->rounds[1 - p->to_move];
}
static const arvek_quantity quantities[] = {
    {"chit", "", "the number of the chit that is laid", 2, 1, 8, chit_laid},
    {"takes the round", "0 or 1", "whether it is higher than the one that was led", 2, 0, 1, takes_it},
    {"rounds ahead", "rounds", "rounds taken less those of the other", 0, -2, 2, rounds_ahead},
};

/* The viewer's chits below, the other's face down above, what was led between. */
static void board(void* user, const void* position, int32_t viewer, arvek_board* shown) {
    const chits* p = position;
    (void)user;
    arvek_cell cell;
    for (int row = 0; row < 2; ++row) {
        const int owner = row == 0 ? 1 - viewer : viewer;
        int x = 0;
        for (int chit = 1; chit <= 8; ++chit)
            if (p->hand[owner] >> (chit - 1) & 1) {
                char name[8], text[8];
                memset(&cell, 0, sizeof cell);
                snprintf(name, sizeof name, "lay-%d", chit);
                snprintf(text, sizeof text, "%d", chit);
                cell.name = owner == viewer ? name : NULL;
                cell.text = owner == viewer ? text : "?";
                cell.spoken = owner == viewer ? NULL : "face down";
                cell.x = x++;
                cell.y = row == 0 ? 0 : 3;
                cell.player = owner;
                arvek_board_cell(shown, &cell);
            }
    }
    memset(&cell, 0, sizeof cell);
    char led[8];
    snprintf(led, sizeof led, "%d", p->table);
    cell.x = 1;
    cell.y = 1.5;
    cell.ground = ARVEK_SPECIAL;
    cell.text = p->table != 0 ? led : NULL;
    cell.player = p->table != 0 ? 1 - p->to_move : -1;
    arvek_board_cell(shown, &cell);
    char note[64];
    snprintf(note, sizeof note, "rounds: Teal %d, Amber %d", p->rounds[0], p->rounds[1]);
    arvek_board_note(shown, note);
}

static void need(arvek_status status) {
    if (status == ARVEK_OK) return;
    fprintf(stderr, "chits: %s\n", arvek_last_error());
    exit(1);
}
static void decide(arvek_session* session, const char* who, const char* opponent) {
    char* decision = NULL;
    need(arvek_decide(session, opponent, 0, 0.0, 0, &decision));
    const char* move = strstr(decision, "\"move\":");
    printf("why: %s: %.*s\n", who, (int)strcspn(move, ","), move);
    arvek_free(decision);
}

int main(void) {
    arvek_rules rules;
    memset(&rules, 0, sizeof rules);
    rules.interface = ARVEK_INTERFACE;
    rules.position_bytes = rules.view_bytes = sizeof(chits);
    rules.name = "chits";
    rules.initial_position = initial_position;
    rules.player_to_move = player_to_move;
    rules.generate_moves = generate_moves;
    rules.play = play;
    rules.outcome = outcome;
    rules.chance_is_next = chance_is_next;
    rules.generate_events = generate_events;
    rules.view = view;
    rules.sample = sample;
    rules.position_text = position_text;
    rules.read_position = read_position;
    rules.move_text = move_text;
    rules.player_name = player_name;
    rules.board = board;
    rules.quantities = quantities;
    rules.quantity_count = 3;

    arvek_game* game = NULL;
    need(arvek_game_from_rules(&rules, &game));
    int32_t faults = 0;
    char* report = NULL;
    need(arvek_check(game, 2.0, 0, &faults, &report));
    printf("faults in the rules: %d\n", faults);
    if (faults > 0) printf("%s\n", report);
    arvek_free(report);

    arvek_session* session = NULL;
    need(arvek_session_open(game, "2:148/27/6/6/0/0-0", &session));
    decide(session, "standard", "standard@8");
    decide(session, "by its equilibrium", "mixed");
    /* A character: it takes a round as cheaply as it can, and else gives its lowest chit away. */
    decide(session, "the miser",
           "name = \"The Miser\"\nchoose = \"features\"\n[features]\n\"takes the round\" = 10.0\nchit = -1.0\n");
    arvek_session_close(session);
    arvek_game_close(game);
    return faults == 0 ? 0 : 1;
}
