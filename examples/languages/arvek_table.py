"""The table of arvek/arvek.h for games in Python: what Stakes and Chits share.

    game = Game("stakes", position_bytes=4, generate_moves=..., ...)
    session = game.session()
    print(session.decide("standard@5"))

Each function is given by the name of its field, and gets what it gets in C without `user`. What one throws is told to
whoever asked, since no exception can cross the border.
"""

import ctypes as c
import json
import os

lib = c.CDLL(os.environ.get("ARVEK_LIBRARY", "libarvek.so"))
lib.arvek_last_error.restype = c.c_char_p
lib.arvek_random_below.argtypes = [c.c_void_p, c.c_uint32]
lib.arvek_random_below.restype = c.c_uint32

INTERFACE = 3
at, text, u32, i32, u64, f64 = c.POINTER(c.c_uint8), c.POINTER(c.c_char), c.c_uint32, c.c_int32, c.c_uint64, c.c_double
user = random = c.c_void_p
moves, payoffs = c.POINTER(u32), c.POINTER(i32)


class Quantity(c.Structure):  # struct arvek_quantity
    _fields_ = [("name", c.c_char_p), ("unit", c.c_char_p), ("doc", c.c_char_p), ("of", i32), ("least", f64),
                ("most", f64), ("value", c.CFUNCTYPE(f64, user, at, u32))]


FIELDS = [
    ("interface", u32), ("position_bytes", u32), ("players", i32), ("threads", i32), ("name", c.c_char_p), ("user", user),
    ("initial_position", (None, at)), ("player_to_move", (i32, at)), ("generate_moves", (u32, at, moves, u32)),
    ("play", (None, at, u32)), ("outcome", (i32, at, payoffs)), ("evaluate", (c.c_int64, at, i32)), ("hash", (u64, at)),
    ("order_hint", (i32, at, u32)), ("generate_forcing_moves", (u32, at, moves, u32)), ("chance_is_next", (i32, at)),
    ("generate_events", (u32, at, moves, c.POINTER(f64), u32)), ("position_text", (None, at, text, u32)),
    ("read_position", (i32, c.c_char_p, at, text, u32)), ("move_text", (None, at, u32, text, u32)),
    ("drawing", (None, at, text, u32)), ("player_name", (None, i32, text, u32)), ("draw_at_occurrence", i32),
    ("most_payoff", i32), ("units_per_doubling", f64), ("repetition_key", (u64, at)), ("equivalence_hash", (u64, at)),
    ("generate_quiet_moves", (u32, at, moves, u32)), ("generate_sufficient_moves", (u32, at, moves, u32)),
    ("count_moves", (i32, at)), ("play_nothing", (None, at)), ("nothing_is_sound", (i32, at)),
    ("payoff_bounds", (None, at, i32, payoffs, payoffs)), ("draw_event", (u32, at, random)),
    ("random_move", (u32, at, random)), ("play_out", (None, at, random, payoffs)), ("view_bytes", u32),
    ("view", (None, at, i32, at)), ("sample", (None, at, random, at)), ("view_text", (None, at, text, u32)),
    ("read_move", (i32, at, c.c_char_p, moves, text, u32)), ("coordinates", (None, at, u32, text, u32)),
    ("board", (None, at, i32, c.c_void_p)), ("preference", (i32, at, u32)), ("salience", (f64, at, u32)),
    ("level_change", (None, i32, c.c_void_p)), ("act_names", (None, c.c_void_p)), ("act", (None, at, u32, c.c_void_p)),
    ("read_patterns", (None, at, i32, c.POINTER(c.c_uint16))), ("patterns", c.c_void_p),
    ("quantities", c.POINTER(Quantity)), ("suggesters", c.c_void_p), ("pattern_count", u32), ("quantity_count", u32),
    ("suggester_count", u32)]
FUNCTIONS = {name: c.CFUNCTYPE(kind[0], user, *kind[1:]) for name, kind in FIELDS if isinstance(kind, tuple)}


class Rules(c.Structure):  # struct arvek_rules
    _fields_ = [(name, FUNCTIONS.get(name, kind)) for name, kind in FIELDS]


def write(words, to, room):
    """Writes a text for a function that is given room for one."""
    for i, byte in enumerate(words.encode()[:room - 1] + b"\0"):
        to[i] = byte


def told(function):
    """An exception cannot cross the border, so it is told."""
    def call(_, *arguments):
        try:
            return function(*arguments)
        except Exception as error:
            lib.arvek_rules_failed(f"{function.__name__}: {error!r}".encode())
            return 0
    return call


def need(status):
    if status != 0:
        raise SystemExit("arvek: " + lib.arvek_last_error().decode())


def answer(function, *arguments):
    """What a function gives out as JSON."""
    out = c.c_void_p()
    need(function(*arguments, c.byref(out)))
    words = c.string_at(out).decode()
    lib.arvek_free(out)
    return json.loads(words)


class Session:
    def __init__(self, game, position=None):
        self.handle = c.c_void_p()
        need(lib.arvek_session_open(game, position and position.encode(), c.byref(self.handle)))

    def play(self, move):
        need(lib.arvek_session_play(self.handle, move.encode()))

    def let_chance_act(self, seed):
        need(lib.arvek_session_let_chance_act(self.handle, u64(seed)))

    def state(self):
        return answer(lib.arvek_session_state, self.handle)

    def decide(self, opponent, plays=False):
        return answer(lib.arvek_decide, self.handle, opponent.encode(), u64(0), f64(0), i32(plays))


class Game:
    def __init__(self, name, quantities=(), **fields):
        """`quantities`: (name, unit, doc, of, least, most, function) each; `fields`: those of struct arvek_rules."""
        kept = {field: FUNCTIONS[field](told(value)) if field in FUNCTIONS else value for field, value in fields.items()}
        value_type = dict(Quantity._fields_)["value"]
        self.quantities = (Quantity * len(quantities))(
            *[Quantity(*[each.encode() for each in texts], of, least, most, value_type(told(function)))
              for *texts, of, least, most, function in quantities])
        self.rules = Rules(interface=INTERFACE, name=name.encode(), quantities=self.quantities,
                           quantity_count=len(quantities), **kept)
        self.handle = c.c_void_p()
        need(lib.arvek_game_from_rules(c.byref(self.rules), c.byref(self.handle)))

    def check(self, seconds):
        return answer(lib.arvek_check, self.handle, f64(seconds), u64(0), c.byref(i32()))

    def session(self, position=None):
        return Session(self.handle, position)
