// One game: its session in the program, the tree of moves that were played, and who sits where.

import { Long, call } from "./rpc.js";

class Node {
  constructor(move, parent, seat) {
    this.move = move;
    this.parent = parent;
    this.seat = seat; // who made it, by number; -1 for chance
    this.children = [];
  }
  get ply() {
    return this.parent ? this.parent.ply + 1 : 0;
  }
  get line() {
    return this.parent ? [...this.parent.line, this.move] : [];
  }
  child(move, seat) {
    let found = this.children.find((each) => each.move === move);
    if (!found) this.children.push((found = new Node(move, this, seat)));
    return found;
  }
}

export class Game extends EventTarget {
  long = new Long(); // what the session is asked that takes long
  seats = []; // of each player: { who, level }
  profile = ""; // the text of the profile in the editor
  #turn = Promise.resolve();

  constructor(catalogue) {
    super();
    this.catalogue = catalogue;
  }

  get info() {
    return this.catalogue.find((each) => each.game === this.name);
  }
  get toMove() {
    return this.state.to_move === null ? -1 : this.playersLow.indexOf(this.state.to_move);
  }

  /** What is shown of a move: what chance deals to somebody is for nobody to read here. */
  shown(node) {
    return node.seat < 0 && this.state.has_views ? "dealt" : node.move;
  }
  /** Whether what is to move holds what the person here may not see. */
  get isHidden() {
    return this.state.has_views && this.toMove >= 0 && this.seats[this.toMove].who !== "" && this.seats.some((seat) => !seat.who);
  }

  /** One thing after another, and whatever takes long is given up for it. */
  #next(work) {
    const done = this.#turn.then(async () => {
      await this.long.cancel();
      if (this.answering) {
        // An answer that nobody waits for any more was played all the same when it was cut short.
        this.answering = false;
        await this.#ask("go_to", { moves: this.at.line }).catch(() => {});
      }
      return work();
    });
    this.#turn = done.catch(() => {});
    return done;
  }
  #ask(method, params = {}) {
    return call(method, { session: this.session, ...params });
  }

  async open(name, set, start, lines = [], ply = null) {
    return this.#next(async () => {
      const params = { game: name, set, seed: Math.floor(Math.random() * 2 ** 40) };
      if (start) params.position = start;
      const state = await call("open", params);
      if (this.session) call("close", { session: this.session }).catch(() => {});
      this.session = state.session;
      this.name = name;
      this.set = set;
      this.start = start || null;
      this.root = this.at = new Node(null, null, -1);
      this.playersLow = Object.keys(state.seats);
      this.players = this.playersLow.map((each) => each[0].toUpperCase() + each.slice(1));
      this.state = state;
      if (this.seats.length !== this.players.length) this.seats = this.players.map(() => ({ who: "", level: 5 }));
      this.problem = null;
      const ends = [];
      for (const line of lines) {
        let before = await this.#ask("go_to", { moves: [] });
        let node = this.root;
        for (const move of line) {
          try {
            const after = await this.#ask("play", { move });
            node = node.child(move, this.playersLow.indexOf(before.to_move));
            before = after;
          } catch (error) {
            this.problem ??= error; // what could be played is kept
            break;
          }
        }
        ends.push(node);
      }
      if (ends.length) {
        for (this.at = ends[0]; this.at.ply > (ply ?? Infinity); ) this.at = this.at.parent;
        this.state = await this.#ask("go_to", { moves: this.at.line });
      }
      for (let i = 0; i < this.seats.length; ++i) await this.#sit(i);
      this.paused = true;
      await this.#look([]);
    });
  }

  async #sit(player) {
    const { who, level } = this.seats[player];
    const seat = { player: this.players[player] };
    if (!who) await this.#ask("leave", seat);
    else await this.#ask("seat", { ...seat, ...this.opponent(who, level) });
  }
  /** How the program is told who is meant. */
  opponent(who, level) {
    const entry = this.info?.opponents.find((each) => each.name === who);
    const params = who === "profile" ? { profile: this.profile } : { opponent: who };
    return level && (!entry || entry.has_levels) && !(who === "profile" && level === "own") ? { ...params, level: Number(level) } : params;
  }
  async setSeat(player, who, level) {
    return this.#next(async () => {
      const before = this.seats[player];
      this.seats[player] = { who, level };
      try {
        await this.#sit(player);
      } catch (error) {
        this.seats[player] = before;
        throw error;
      } finally {
        this.paused = false;
        await this.#look([]);
      }
    });
  }

  async #look(last) {
    const people = this.seats.map((seat, i) => (seat.who ? -1 : i)).filter((i) => i >= 0);
    const params = people.length === 1 ? { player: this.players[people[0]] } : {};
    this.board = await this.#ask("board", params);
    this.last = last;
    this.dispatchEvent(new Event("change"));
  }
  #cellsOf(move) {
    return this.board.moves.find((each) => each.move === move)?.cells ?? [];
  }

  async play(move) {
    return this.#next(async () => {
      const seat = this.toMove, cells = this.#cellsOf(move);
      this.state = await this.#ask("play", { move });
      this.at = this.at.child(this.state.moves[this.state.moves.length - 1], seat);
      this.paused = false;
      await this.#look(cells);
    });
  }
  /** To a node, or where a function of the node that it stands on by then says. */
  async goTo(to) {
    return this.#next(async () => {
      const node = typeof to === "function" ? to(this.at) : to;
      if (!node) return;
      this.state = await this.#ask("go_to", { moves: node.line });
      this.at = node;
      this.paused = true;
      await this.#look([]);
    });
  }
  async letChanceAct() {
    return this.#next(async () => {
      if (!this.state.chance_is_next) return;
      const state = await this.#ask("let_chance_act");
      const cells = this.#cellsOf(state.event);
      this.state = state;
      this.at = this.at.child(state.event, -1);
      this.paused = false;
      await this.#look(cells);
    });
  }
  /** Has whoever sits there choose and play. */
  async answer(progress) {
    const cellsBefore = this.board;
    const mine = (this.answering = {});
    let answer;
    try {
      answer = await this.long.run("answer", { session: this.session, progress: true, seed: Math.floor(Math.random() * 2 ** 40) }, progress);
    } catch (error) {
      if (this.answering === mine) this.answering = false;
      else return null;
      throw error;
    }
    if (this.answering !== mine) return null; // somebody went elsewhere meanwhile
    this.answering = false;
    const { decision, state } = answer;
    return this.#next(async () => {
      const seat = this.toMove;
      this.state = state;
      this.at = this.at.child(decision.move, seat);
      await this.#look(cellsBefore.moves.find((each) => each.move === decision.move)?.cells ?? []);
      return decision;
    });
  }
  get isAnswering() {
    return !this.paused && !this.state.result && this.toMove >= 0 && this.seats[this.toMove].who !== "";
  }

  /** A session of its own for what should not disturb this one; the caller closes it. */
  async aside(moves = this.at.line) {
    const params = { game: this.name, set: this.set, moves };
    if (this.start) params.position = this.start;
    return (await call("open", params)).session;
  }

  /** Everything, as part of an address. */
  get address() {
    const parts = new URLSearchParams();
    parts.set("game", this.name);
    for (const [name, value] of Object.entries(this.set)) parts.append("set", `${name}=${value}`);
    if (this.start) parts.set("position", this.start);
    const lines = [];
    const leaves = (node) => (node.children.length ? node.children.forEach(leaves) : lines.push(node.line));
    leaves(this.root);
    // The line that it stands on comes first.
    const here = this.at.line;
    lines.sort((a, b) => here.every((move, i) => b[i] === move) - here.every((move, i) => a[i] === move));
    for (const line of lines) if (line.length) parts.append("line", line.join(" "));
    parts.set("ply", here.length);
    this.seats.forEach((seat, i) => seat.who && parts.append("seat", `${this.players[i]}=${seat.who}@${seat.level}`));
    return parts.toString();
  }
}
