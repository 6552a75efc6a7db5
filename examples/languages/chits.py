#!/usr/bin/env python3
"""Chits: a game with hidden hands in Python, with views, chance, quantities, a board, and a character that goes by them.

    ARVEK_LIBRARY=build/lib/libarvek.so python3 examples/languages/chits.py

Of eight tally chits, numbered 1 to 8, Teal and Amber get three each, unseen by the other, and two stay in the box. One
lays a chit, the other answers with one; the higher takes the round, and leads the next. Who takes two of the three rounds
has the berth. chits.c is the same in C.
"""

import ctypes as c
from itertools import combinations

from arvek_table import Game, lib, write

# A position is nine bytes: two hands and what was laid, a bit for each chit; the chit that is to be answered, whose turn it
# is, the rounds of each, how many have a hand, and, of a view, whose it is, from 1.
TEAL, AMBER, LAID, TABLE, TO_MOVE, ROUNDS, DEALT, VIEWER = 0, 1, 2, 3, 4, 5, 7, 8


def chits_of(hand):
    return [chit for chit in range(1, 9) if hand >> (chit - 1) & 1]


def hand_of(chits):
    return sum(1 << (chit - 1) for chit in chits)


def in_box(p):
    return chits_of(255 & ~(p[TEAL] | p[AMBER] | p[LAID]))


def initial_position(p):
    pass  # all zero: nothing is dealt


def player_to_move(p):
    return p[TO_MOVE]


def chance_is_next(p):
    return p[DEALT] < 2


def generate_events(p, events, probabilities, room):
    hands = [hand_of(chits) for chits in combinations(in_box(p), 3)]  # an event is a whole hand
    for i, hand in enumerate(hands[:room]):
        events[i], probabilities[i] = hand, 1 / len(hands)
    return len(hands)


def generate_moves(p, moves, room):
    chits = chits_of(p[p[TO_MOVE]])
    for i, chit in enumerate(chits[:room]):
        moves[i] = chit
    return len(chits)


def play(p, move):
    if p[DEALT] < 2:
        p[p[DEALT]] = move
        p[DEALT] += 1
        return
    p[p[TO_MOVE]] &= 255 & ~hand_of([move])
    p[LAID] |= hand_of([move])
    if p[TABLE] == 0:
        p[TABLE] = move
        p[TO_MOVE] = 1 - p[TO_MOVE]
        return
    if move < p[TABLE]:
        p[TO_MOVE] = 1 - p[TO_MOVE]  # the one who led takes it, and leads again
    p[ROUNDS + p[TO_MOVE]] += 1
    p[TABLE] = 0


def outcome(p, payoffs):
    for player in range(2):
        if p[ROUNDS + player] == 2:
            payoffs[player], payoffs[1 - player] = 1, -1
            return 1
    return 0


def view(p, player, seen):
    for i in range(9):
        seen[i] = p[i]
    seen[1 - player] = 0
    seen[VIEWER] = player + 1


def sample(seen, random, p):
    for i in range(9):
        p[i] = seen[i]
    other, p[VIEWER] = 2 - seen[VIEWER], 0
    if p[DEALT] <= other:
        return
    open_chit = p[TABLE] != 0
    holds = 3 - (len(chits_of(p[LAID])) - open_chit) // 2 - (open_chit and p[TO_MOVE] != other)
    unseen = in_box(p)
    for _ in range(holds):
        p[other] |= hand_of([unseen.pop(lib.arvek_random_below(random, len(unseen)))])


def words_of(hand):
    return "".join(map(str, chits_of(hand)))


def text_of(p):
    return (f"{p[DEALT]}:{words_of(p[TEAL])}/{words_of(p[AMBER])}/{words_of(p[LAID])}/{p[TABLE]}/{p[TO_MOVE]}/"
            f"{p[ROUNDS]}-{p[ROUNDS + 1]}")


def position_text(p, text, room):
    write(text_of(p), text, room)


def read_position(words, p, complaint, room):
    try:
        dealt, rest = words.decode().split(":")
        teal, amber, laid, table, to_move, rounds = rest.split("/")
        first, second = rounds.split("-")
        for i, number in enumerate([hand_of(map(int, teal)), hand_of(map(int, amber)), hand_of(map(int, laid)), int(table),
                                    int(to_move), int(first), int(second), int(dealt), 0]):
            p[i] = number
        if text_of(p) == words.decode():
            return 1
    except ValueError:
        pass
    write("it is no position (expected such as 2:148/267//0/0/0-0)", complaint, room)
    return 0


def move_text(p, move, text, room):
    write(f"{('teal', 'amber')[p[DEALT]]}:{words_of(move)}" if p[DEALT] < 2 else f"lay-{move}", text, room)


def player_name(player, text, room):
    write(("Teal", "Amber")[player], text, room)


class Cell(c.Structure):  # struct arvek_cell
    _fields_ = [("name", c.c_char_p), ("x", c.c_double), ("y", c.c_double), ("width", c.c_double), ("height", c.c_double),
                ("round", c.c_int32), ("ground", c.c_int32), ("text", c.c_char_p), ("player", c.c_int32),
                ("spoken", c.c_char_p)]


def board(p, viewer, shown):
    """The viewer's chits below, the other's face down above, what was led between."""
    for y, owner in ((0, 1 - viewer), (3, viewer)):
        for x, chit in enumerate(chits_of(p[owner])):
            own = owner == viewer
            lib.arvek_board_cell(c.c_void_p(shown), c.byref(Cell(
                name=f"lay-{chit}".encode() if own else None, x=x, y=y, text=str(chit).encode() if own else b"?",
                player=owner, spoken=None if own else b"face down")))
    led = p[TABLE]
    lib.arvek_board_cell(c.c_void_p(shown), c.byref(Cell(
        x=1, y=1.5, ground=3, text=str(led).encode() if led else None, player=1 - p[TO_MOVE] if led else -1)))
    lib.arvek_board_note(c.c_void_p(shown), f"rounds: Teal {p[ROUNDS]}, Amber {p[ROUNDS + 1]}".encode())


game = Game(
    "chits", position_bytes=9, view_bytes=9, initial_position=initial_position, player_to_move=player_to_move,
    generate_moves=generate_moves, play=play, outcome=outcome, chance_is_next=chance_is_next,
    generate_events=generate_events, view=view, sample=sample, position_text=position_text, read_position=read_position,
    move_text=move_text, player_name=player_name, board=board,
    quantities=[
        ("chit", "", "the number of the chit that is laid", 2, 1, 8, lambda p, move: move),
        ("takes the round", "0 or 1", "whether it is higher than the one that was led", 2, 0, 1,
         lambda p, move: p[TABLE] != 0 and move > p[TABLE]),
        ("rounds ahead", "rounds", "rounds taken less those of the other", 0, -2, 2,
         lambda p, move: p[ROUNDS + p[TO_MOVE]] - p[ROUNDS + 1 - p[TO_MOVE]])])
faults = game.check(3.0).get("faults", [])
print("faults in the rules:", len(faults))
for fault in faults:
    print("  ", fault["law"], "-", fault["what"], "after", " ".join(fault["moves"]) or "no move")
if faults:
    raise SystemExit(1)
session = game.session("2:148/27/6/6/0/0-0")
print("why: standard lays", session.decide("standard@8")["move"])
MISER = '''name = "The Miser"
about = "takes a round as cheaply as it can, and else gives its lowest chit away"
choose = "features"
[features]
"takes the round" = 10.0
chit = -1.0
'''
print("why: the miser lays", session.decide(MISER)["move"])
