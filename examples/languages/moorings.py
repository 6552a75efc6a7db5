#!/usr/bin/env python3
"""Moorings: the rules of a game in Python, for Arvek to play, explain and check.

    arvek play moorings --rules python3 --rules examples/languages/moorings.py

A quay has nine rings. In turn, Teal and Amber tie a boat to one free ring, or a barge to two free rings side by side.
Who ties the last one wins. A position is the rings, "." free and "x" taken, and the player to move: "....x.... T".

A message a line: {"jsonrpc": "2.0", "id": 1, "method": "look", "params": {"position": "......... T"}}.
"""

import json
import sys

RINGS = 9


def read(position):
    rings, _, player = position.partition(" ")
    if len(rings) != RINGS or set(rings) - {".", "x"} or player not in ("T", "A"):
        raise ValueError(f"'{position}' is no quay of {RINGS} rings, such as '{'.' * RINGS} T'")
    return rings, player


def moves(rings):
    for first in range(RINGS):
        if rings[first] == ".":
            yield f"boat-{first + 1}", rings[:first] + "x" + rings[first + 1:]
            if first + 1 < RINGS and rings[first + 1] == ".":
                yield f"barge-{first + 1}", rings[:first] + "xx" + rings[first + 2:]


def look(position):
    rings, player = read(position)
    if "." not in rings:  # whoever moved before has won
        return {"payoffs": [-1, 1] if player == "T" else [1, -1]}
    rival = "A" if player == "T" else "T"
    return {
        "to_move": 0 if player == "T" else 1,
        "moves": [{"move": name, "after": f"{after} {rival}"} for name, after in moves(rings)],
    }


def answer(method, params):
    if method == "rules":
        return {"game": "moorings", "players": ["Teal", "Amber"], "initial": "." * RINGS + " T"}
    if method == "look":
        return look(params["position"])
    raise ValueError(f"there is no method '{method}'")


for line in sys.stdin:
    request = json.loads(line)
    reply = {"jsonrpc": "2.0", "id": request["id"]}
    try:
        reply["result"] = answer(request["method"], request.get("params", {}))
    except ValueError as error:
        reply["error"] = {"code": -32000, "message": str(error)}
    print(json.dumps(reply), flush=True)
