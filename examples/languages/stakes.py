#!/usr/bin/env python3
"""Stakes: the rules of a game in Python, an opponent by Arvek through its C interface.

    ARVEK_LIBRARY=build/lib/libarvek.so python3 examples/languages/stakes.py

Three rows of mooring stakes, 3, 4 and 5. In turn, Teal and Amber pull up any number from one row; who pulls the last one
wins. A position is four bytes, the rows and whose turn it is; a move is the row times sixteen and how many.
"""

import sys

from arvek_table import Game, write


def initial_position(position):
    for row, stakes in enumerate((3, 4, 5)):
        position[row] = stakes


def player_to_move(position):
    return position[3]


def generate_moves(position, moves, room):
    legal = [16 * row + pulled for row in range(3) for pulled in range(1, position[row] + 1)]
    if "--throws" in sys.argv and position[2] == 2:
        raise LookupError("no row is left")
    if "--broken" in sys.argv and position[2] == 2:
        legal = legal[:-1]  # the last row can never be emptied at once
        legal = legal + legal[:1]  # and one move is there twice
    for i, move in enumerate(legal[:room]):
        moves[i] = move
    return len(legal)


def play(position, move):
    position[move // 16] -= move % 16
    position[3] = 1 - position[3]


def outcome(position, payoffs):
    if any(position[row] for row in range(3)):
        return 0
    payoffs[position[3]], payoffs[1 - position[3]] = -1, 1  # the other one pulled the last
    return 1


def move_text(position, move, text, room):
    write(f"row{move // 16 + 1}-{move % 16}", text, room)


game = Game("stakes", position_bytes=4, initial_position=initial_position, player_to_move=player_to_move,
            generate_moves=generate_moves, play=play, outcome=outcome, move_text=move_text)
faults = game.check(1.0).get("faults", [])
print("faults in the rules:", len(faults))
for fault in faults:
    print("  ", fault["law"], "-", fault["what"], "after", " ".join(fault["moves"]) or "no move")
if faults:
    raise SystemExit(1)
session = game.session()
session.play("row3-1")
decision = session.decide("standard@5", plays=True)
best = decision["ranked"][decision.get("rank", 1) - 1]
print("why:", decision["to_move"], "plays", decision["move"], "with a score of", best["score"], "and expects", " ".join(best["line"]))
