#!/usr/bin/env python3
"""Stakes: the rules of a game in Python, an opponent by Arvek through its C interface.

    ARVEK_LIBRARY=build/lib/libarvek.so python3 examples/languages/stakes.py

Three rows of mooring stakes, 3, 4 and 5. In turn, Teal and Amber pull up any number from one row; who pulls the last one
wins. A position is four bytes, the rows and whose turn it is; a move is the row times sixteen and how many.
"""

import ctypes as c
import json
import os
import sys

lib = c.CDLL(os.environ.get("ARVEK_LIBRARY", "libarvek.so"))
bytes_at, u32, i32, u64 = c.POINTER(c.c_uint8), c.c_uint32, c.c_int32, c.c_uint64

INITIAL = c.CFUNCTYPE(None, c.c_void_p, bytes_at)
TO_MOVE = c.CFUNCTYPE(i32, c.c_void_p, bytes_at)
MOVES = c.CFUNCTYPE(u32, c.c_void_p, bytes_at, c.POINTER(u32), u32)
PLAY = c.CFUNCTYPE(None, c.c_void_p, bytes_at, u32)
OUTCOME = c.CFUNCTYPE(i32, c.c_void_p, bytes_at, c.POINTER(i32))
MOVE_TEXT = c.CFUNCTYPE(None, c.c_void_p, bytes_at, u32, c.POINTER(c.c_char), u32)


class Rules(c.Structure):  # struct arvek_rules
    _fields_ = (
        [("interface", u32), ("position_bytes", u32), ("players", i32), ("threads", i32), ("name", c.c_char_p),
         ("user", c.c_void_p), ("initial_position", INITIAL), ("player_to_move", TO_MOVE), ("generate_moves", MOVES),
         ("play", PLAY), ("outcome", OUTCOME)]
        + [(name, c.c_void_p) for name in ("evaluate", "hash", "order_hint", "generate_forcing_moves", "chance_is_next",
                                           "generate_events", "position_text", "read_position")]
        + [("move_text", MOVE_TEXT), ("drawing", c.c_void_p), ("player_name", c.c_void_p), ("draw_at_occurrence", i32)])


def initial_position(_, position):
    for row, stakes in enumerate((3, 4, 5)):
        position[row] = stakes


def generate_moves(_, position, moves, room):
    legal = [16 * row + pulled for row in range(3) for pulled in range(1, position[row] + 1)]
    if "--throws" in sys.argv and position[2] == 2:
        raise LookupError("no row is left")
    if "--broken" in sys.argv and position[2] == 2:
        legal = legal[:-1]  # the last row can never be emptied at once
        legal = legal + legal[:1]  # and one move is there twice
    for i, move in enumerate(legal[:room]):
        moves[i] = move
    return len(legal)


def play(_, position, move):
    position[move // 16] -= move % 16
    position[3] = 1 - position[3]


def outcome(_, position, payoffs):
    if any(position[row] for row in range(3)):
        return 0
    payoffs[position[3]], payoffs[1 - position[3]] = -1, 1  # the other one pulled the last
    return 1


def move_text(_, position, move, text, room):
    for i, byte in enumerate(f"row{move // 16 + 1}-{move % 16}".encode()[:room - 1] + b"\0"):
        text[i] = byte


def told(function):
    """An exception cannot cross the border, so it is told."""
    def call(*arguments):
        try:
            return function(*arguments)
        except Exception as error:
            lib.arvek_rules_failed(f"{function.__name__}: {error!r}".encode())
            return 0
    return call


rules = Rules(interface=2, position_bytes=4, name=b"stakes", initial_position=INITIAL(told(initial_position)),
              player_to_move=TO_MOVE(lambda _, position: position[3]), generate_moves=MOVES(told(generate_moves)),
              play=PLAY(told(play)), outcome=OUTCOME(told(outcome)), move_text=MOVE_TEXT(told(move_text)))


def need(status):
    if status != 0:
        lib.arvek_last_error.restype = c.c_char_p
        raise SystemExit("stakes: " + lib.arvek_last_error().decode())


def text_of(function, *arguments):
    out = c.c_void_p()
    need(function(*arguments, c.byref(out)))
    text = c.string_at(out).decode()
    lib.arvek_free(out)
    return json.loads(text)


game, session, faults = c.c_void_p(), c.c_void_p(), i32()
need(lib.arvek_game_from_rules(c.byref(rules), c.byref(game)))
report = text_of(lib.arvek_check, game, c.c_double(1.0), u64(0), c.byref(faults))
print("faults in the rules:", faults.value)
for fault in report.get("faults", []):
    print("  ", fault["law"], "-", fault["what"], "after", " ".join(fault["moves"]) or "no move")
if faults.value:
    raise SystemExit(1)
need(lib.arvek_session_open(game, None, c.byref(session)))
need(lib.arvek_session_play(session, b"row3-1"))
decision = text_of(lib.arvek_decide, session, b"standard@5", u64(0), c.c_double(0), i32(1))
best = decision["ranked"][decision.get("rank", 1) - 1]
print("why:", decision["to_move"], "plays", decision["move"], "with a score of", best["score"], "and expects", " ".join(best["line"]))
lib.arvek_session_close(session)
lib.arvek_game_close(game)
