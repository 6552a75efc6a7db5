// How the chances went, move by move, and where they were lost.

import { $, draw, guarded, make } from "./dom.js";
import { Long, call } from "./rpc.js";
import { percent } from "./scores.js";

export class CoursePane {
  long = new Long();
  constructor(game) {
    this.game = game;
    $("course-ask").addEventListener("click", guarded(() => this.judge()));
    $("course-stop").addEventListener("click", guarded(() => this.long.cancel()));
  }
  onChange() {
    if (this.decisions && this.line && this.game.at.line.every((move, i) => this.line[i] === move)) this.#draw();
    else if (this.decisions) {
      this.decisions = null;
      $("course").replaceChildren();
      $("course-says").textContent = "The game went another way: judge it again.";
    }
  }
  async judge() {
    const { game } = this;
    let end = game.at;
    while (end.children.length) end = end.children[0];
    if (end.ply === 0) throw new Error("No move was played yet: there is nothing to judge.");
    const nodes = Number($("course-nodes").value);
    if (!(Number.isInteger(nodes) && nodes >= 100 && nodes <= 1e8)) throw new Error("Positions a move: expected an integer from 100 to 100000000");
    const bar = $("course-bar");
    const session = await game.aside(end.line);
    $("course-stop").disabled = false;
    bar.hidden = false;
    try {
      const judged = await this.long.run("judge", { session, ...game.opponent("standard", 10), nodes, progress: true }, ({ done, of }) => {
        bar.value = done / of;
        $("course-says").textContent = `${done} of ${of} moves judged`;
      });
      this.decisions = judged.decisions;
      this.line = end.line;
      $("course-says").textContent = judged.complete ? `${judged.decisions.length} decisions, each judged from ${nodes} positions.` : `Stopped after ${judged.decisions.length} decisions.`;
      this.#draw();
    } finally {
      $("course-stop").disabled = true;
      bar.hidden = true;
      call("close", { session }).catch(() => {});
    }
  }
  #nodeAt(ply) {
    let node = this.game.root;
    for (const move of this.line.slice(0, ply)) node = node.children.find((each) => each.move === move);
    return node;
  }
  #draw() {
    const first = this.game.playersLow[0];
    const points = this.decisions.map((each) => ({ ...each, first: each.player === first ? each.chance_played : 1 - each.chance_played }));
    const [width, height, left, top] = [640, 220, 44, 12];
    const x = (ply) => left + ((width - left - 12) * (ply + 1)) / Math.max(1, this.line.length);
    const y = (chance) => top + (height - top - 30) * (1 - chance);
    const svg = draw("svg", { class: "chart", viewBox: `0 0 ${width} ${height}`, role: "img",
      "aria-label": `Chances of ${this.game.players[0]} after each move` });
    for (const chance of [0, 0.5, 1])
      svg.append(draw("line", { class: "axis", x1: left, x2: width - 12, y1: y(chance), y2: y(chance) }),
        draw("text", { x: left - 6, y: y(chance) + 4, "text-anchor": "end" }, percent(chance)));
    svg.append(draw("text", { x: left, y: height - 6 }, "start"), draw("text", { x: width - 12, y: height - 6, "text-anchor": "end" }, `move ${this.line.length}`),
      draw("text", { x: left + 6, y: top + 10 }, `${this.game.players[0]} wins`), draw("text", { x: left + 6, y: y(0) - 5 }, `${this.game.players[1]} wins`));
    svg.append(draw("polyline", { class: "curve", points: [`${x(-1)},${y(points[0]?.player === first ? points[0].chance : 1 - (points[0]?.chance ?? 0.5))}`, ...points.map((each) => `${x(each.ply)},${y(each.first)}`)].join(" ") }));
    const worst = [...points].filter((each) => each.lost > 0.02).sort((a, b) => b.lost - a.lost).slice(0, 5);
    for (const each of points) {
      const isBad = worst.includes(each);
      svg.append(draw("circle", { class: isBad ? "bad" : "dot", cx: x(each.ply), cy: y(each.first), r: isBad ? 6 : 4,
        onclick: guarded(() => this.game.goTo(this.#nodeAt(each.ply))) }, draw("title", {}, `${each.ply + 1}. ${each.player} ${each.played}`)));
    }
    const here = this.game.at.ply - 1;
    const at = points.find((each) => each.ply === here);
    if (at) svg.append(draw("circle", { class: "here", cx: x(here), cy: y(at.first), r: 6 }));
    const rows = worst.map((each) => make("tr", {},
      make("td", {}, make("button", { type: "button", onclick: guarded(() => this.game.goTo(this.#nodeAt(each.ply))) }, `Move ${each.ply + 1}`)),
      make("td", {}, each.player), make("td", {}, each.played), make("td", {}, each.better),
      make("td", { class: "number" }, `${percent(each.chance)} → ${percent(each.chance_played)}`)));
    $("course").replaceChildren(svg, worst.length
      ? make("table", {}, make("caption", { class: "small" }, "Where most was lost; the button goes there"),
          make("thead", {}, make("tr", {}, ...["Move", "Player", "Played", "Better", "Chance"].map((each) => make("th", {}, each)))), make("tbody", {}, ...rows))
      : make("p", {}, "No move lost more than 2 % of the chances."));
  }
}
