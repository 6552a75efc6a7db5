// The board: cells to click, drag between or walk over by keys.

import { draw, make } from "./dom.js";
import { namesIn } from "./scores.js";

const round = (number) => Math.round(number * 1000) / 1000;

export class BoardView {
  /** `play(text)` is called with a move, `choose(moves)` where several remain, `say(text)` with what is to be heard. */
  constructor(root, choices, { play, say }) {
    this.root = root;
    this.choices = choices;
    this.play = play;
    this.say = say;
    this.picked = [];
    this.focused = null;
  }

  show(board, { players, last = [], mayMove = true, drawing = "" }) {
    this.board = board;
    this.players = players;
    this.mayMove = mayMove;
    this.picked = [];
    this.last = last;
    this.choices.hidden = true;
    this.byName = new Map(board.cells.filter((cell) => cell.name).map((cell) => [cell.name, cell]));
    this.names = [...this.byName.keys()].sort((a, b) => b.length - a.length);
    if (board.cells.length === 0) {
      this.svg = null;
      this.root.replaceChildren(make("pre", { tabindex: 0, "aria-label": "Board" }, drawing));
      return;
    }
    this.#draw();
  }

  cellsOf(move, isNext) {
    const known = isNext && this.board.moves.find((each) => each.move === move);
    return known ? known.cells : namesIn(move, this.names ?? []);
  }

  /** Shows a line of moves: numbers where they go. */
  hint(line) {
    if (!this.svg) return;
    this.hints.replaceChildren();
    line.slice(0, 9).forEach((move, ply) => {
      const cells = this.cellsOf(move, ply === 0).map((name) => this.byName.get(name)).filter(Boolean);
      if (cells.length === 0) return;
      const to = cells[cells.length - 1];
      if (cells.length > 1) {
        const from = cells[0];
        this.hints.append(draw("line", { class: "hint", x1: from.x, y1: from.y, x2: to.x, y2: to.y }));
      }
      const [x, y] = [to.x + to.width / 2 - 0.22, to.y - to.height / 2 + 0.22];
      this.hints.append(
        draw("circle", { class: "hint-disc", cx: x, cy: y, r: 0.2 }),
        draw("text", { class: "hint-text", x, y: y + 0.1, "font-size": 0.28, "text-anchor": "middle" }, String(ply + 1)));
    });
  }

  #draw() {
    const cells = this.board.cells;
    const left = Math.min(...cells.map((cell) => cell.x - cell.width / 2)) - 0.15;
    const right = Math.max(...cells.map((cell) => cell.x + cell.width / 2)) + 0.15;
    const top = Math.min(...cells.map((cell) => cell.y - cell.height / 2)) - 0.15;
    const bottom = Math.max(...cells.map((cell) => cell.y + cell.height / 2)) + 0.15;
    const svg = draw("svg", {
      viewBox: [left, top, right - left, bottom - top].map(round).join(" "), role: "group", "aria-label": "Board",
      onkeydown: (event) => this.#key(event), onpointerdown: (event) => this.#down(event), onpointerup: (event) => this.#up(event),
    });
    const had = this.root.contains(document.activeElement) ? this.focused : null;
    for (const [one, other] of this.board.paths)
      svg.append(draw("line", { class: "path", x1: cells[one].x, y1: cells[one].y, x2: cells[other].x, y2: cells[other].y }));
    this.groups = new Map();
    for (const cell of cells) {
      const group = this.#cell(cell);
      if (cell.name) this.groups.set(cell.name, group);
      svg.append(group);
    }
    this.hints = draw("g", { "aria-hidden": "true" });
    svg.append(this.hints);
    this.svg = svg;
    this.root.replaceChildren(svg);
    if (!this.byName.has(this.focused)) this.focused = this.names.length ? this.#firstName() : null;
    this.#mark();
    if (had && this.groups.has(this.focused)) this.groups.get(this.focused).focus({ preventScroll: true });
  }

  #firstName() {
    return this.board.moves[0]?.cells[0] ?? this.board.cells.find((cell) => cell.name).name;
  }

  #cell(cell) {
    const group = draw("g", { class: "square" });
    if (cell.name) {
      group.dataset.name = cell.name;
      group.setAttribute("role", "button");
    }
    const shape = { class: `cell ${cell.ground}` };
    if (cell.ground !== "none") {
      if (cell.round) group.append(draw("ellipse", { ...shape, cx: cell.x, cy: cell.y, rx: cell.width * 0.46, ry: cell.height * 0.46 }));
      else group.append(draw("rect", { ...shape, x: round(cell.x - cell.width / 2 + 0.02), y: round(cell.y - cell.height / 2 + 0.02),
        width: cell.width - 0.04, height: cell.height - 0.04, rx: 0.06 }));
    }
    const isCard = cell.width > 1.7 && cell.ground !== "none";
    const hasToken = cell.player >= 0 && cell.text && cell.ground !== "none";
    if (hasToken) group.append(this.#token(cell, isCard));
    if (cell.text) {
      const kind = cell.ground === "none" ? "label" : hasToken && !isCard ? `on-token ${this.#tone(cell.player)}` : "plain-text";
      const room = (isCard ? cell.width - 0.8 : hasToken ? 0.72 : cell.width) / Math.max(1, [...cell.text].length);
      const size = Math.min(cell.ground === "none" ? 0.34 : 0.5, room / (isCard ? 0.66 : 0.58));
      group.append(draw("text", { class: kind, x: isCard ? round(cell.x - cell.width / 2 + 0.75) : cell.x, y: round(cell.y + size * 0.35),
        "font-size": round(size), "text-anchor": isCard ? "start" : "middle", "aria-hidden": "true" }, cell.text));
    }
    const owner = cell.player >= 0 ? this.players[cell.player] : "";
    const words = [cell.name, [owner, cell.spoken].filter(Boolean).join(" ") || (cell.name ? "empty" : "")].filter(Boolean).join(", ");
    if (cell.name) group.setAttribute("aria-label", words);
    else if (cell.ground !== "none" && words) {
      group.setAttribute("role", "img");
      group.setAttribute("aria-label", words);
    } else group.setAttribute("aria-hidden", "true");
    return group;
  }

  /** The colour of a player: its own where it is called by one. */
  #tone(player) {
    return { white: "pw", black: "pb" }[this.players[player]?.toLowerCase()] ?? `p${player}`;
  }

  /** Players differ by shape as well as by colour. */
  #token(cell, isCard) {
    const [x, y] = isCard ? [cell.x - cell.width / 2 + 0.36, cell.y] : [cell.x, cell.y];
    const size = isCard ? 0.24 : 0.38;
    const paint = { class: `token ${this.#tone(cell.player)}` };
    if (cell.player === 0) return draw("circle", { ...paint, cx: x, cy: y, r: size });
    if (cell.player === 1) return draw("rect", { ...paint, x: round(x - size * 0.92), y: round(y - size * 0.92), width: round(size * 1.84), height: round(size * 1.84), rx: 0.05 });
    const corners = cell.player === 2 ? 4 : 6;
    const points = Array.from({ length: corners }, (_, i) => {
      const angle = (2 * Math.PI * i) / corners;
      return `${round(x + size * 1.12 * Math.sin(angle))},${round(y - size * 1.12 * Math.cos(angle))}`;
    });
    return draw("polygon", { ...paint, points: points.join(" ") });
  }

  #possible(picked) {
    if (!this.mayMove) return [];
    return this.board.moves.filter((move) => picked.every((name, i) => move.cells[i] === name));
  }

  #mark() {
    const next = new Set(this.#possible(this.picked).map((move) => move.cells[this.picked.length]));
    for (const [name, group] of this.groups) {
      const isPicked = this.picked.includes(name), isLast = this.last.includes(name), can = next.has(name);
      group.setAttribute("class", ["square", can && "can", isPicked && "picked", isLast && "last"].filter(Boolean).join(" "));
      group.setAttribute("tabindex", name === this.focused ? "0" : "-1");
      group.setAttribute("aria-pressed", String(isPicked));
      group.setAttribute("aria-disabled", String(!can && !isPicked));
    }
  }

  #click(name) {
    this.focused = name;
    this.choices.hidden = true;
    let picked = [...this.picked, name];
    let moves = this.#possible(picked);
    if (moves.length === 0 || (this.picked.length > 0 && this.picked[this.picked.length - 1] === name)) {
      const again = this.picked.includes(name) ? [] : [name];
      picked = again;
      moves = again.length ? this.#possible(again) : [];
      if (moves.length === 0) picked = [];
    }
    this.picked = picked;
    this.#mark();
    if (picked.length === 0) return;
    const whole = moves.filter((move) => move.cells.length === picked.length);
    if (whole.length === 1 && moves.length === 1) return this.play(whole[0].move);
    if (whole.length > 0) return this.#ask(moves);
    this.say(`${name} chosen; ${moves.length} ${moves.length === 1 ? "move goes" : "moves go"} from here`);
  }

  #ask(moves) {
    this.choices.replaceChildren(...moves.map((each) =>
      make("button", { type: "button", onclick: () => this.play(each.move) }, each.move)));
    this.choices.hidden = false;
    this.choices.querySelector("button").focus();
  }

  #nameAt(event) {
    return document.elementFromPoint(event.clientX, event.clientY)?.closest(".square")?.dataset.name ?? null;
  }
  #down(event) {
    if (event.button !== 0) return;
    this.from = this.#nameAt(event);
  }
  #up(event) {
    const to = this.#nameAt(event), from = this.from;
    this.from = null;
    if (!from || !to) return;
    if (from === to) return this.#click(to);
    if (!this.picked.includes(from)) this.#click(from);
    if (this.picked.includes(from)) this.#click(to);
  }

  #key(event) {
    const name = event.target.closest?.(".square")?.dataset.name;
    if (!name) return;
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      return this.#click(name);
    }
    if (event.key === "Escape") {
      this.picked = [];
      this.choices.hidden = true;
      return this.#mark();
    }
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way) return;
    event.preventDefault();
    const here = this.byName.get(name);
    let best = null, least = Infinity;
    for (const cell of this.byName.values()) {
      const [x, y] = [cell.x - here.x, cell.y - here.y];
      const along = x * way[0] + y * way[1], aside = Math.abs(x * way[1]) + Math.abs(y * way[0]);
      if (along < 0.2) continue;
      const far = along + 2.5 * aside;
      if (far < least) [best, least] = [cell, far];
    }
    if (!best) return;
    this.focused = best.name;
    this.#mark();
    this.groups.get(best.name).focus();
  }
}
