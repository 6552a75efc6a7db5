// Matches and ladders, with their progress.

import { $, draw, guarded, make, options } from "./dom.js";
import { Long, call } from "./rpc.js";
import { duration, percent } from "./scores.js";

/** A share of points with bars for its interval: rows of { name, score, low, high, text }. */
function forest(rows, caption) {
  const [width, left, step] = [640, 150, 26], height = 30 + step * rows.length;
  const x = (share) => left + (width - left - 20) * share;
  const svg = draw("svg", { class: "chart", viewBox: `0 0 ${width} ${height}`, role: "img", "aria-label": caption });
  svg.append(draw("rect", { class: "band", x: x(0.6), y: 4, width: x(0.8) - x(0.6), height: step * rows.length }));
  for (const share of [0, 0.25, 0.5, 0.75, 1])
    svg.append(draw("line", { class: "axis", x1: x(share), x2: x(share), y1: 4, y2: height - 24 }),
      draw("text", { x: x(share), y: height - 8, "text-anchor": "middle" }, percent(share)));
  rows.forEach((row, i) => {
    const y = 4 + step * (i + 0.5);
    svg.append(draw("text", { x: left - 8, y: y + 4, "text-anchor": "end" }, row.name),
      draw("line", { class: "curve", x1: x(row.low), x2: x(row.high), y1: y, y2: y }),
      draw("circle", { class: "dot", cx: x(row.score), cy: y, r: 5 }, draw("title", {}, row.text)));
  });
  return svg;
}

export class MatchPane {
  long = new Long();
  constructor(game, opponents) {
    Object.assign(this, { game, opponents });
    $("match-form").addEventListener("submit", (event) => {
      event.preventDefault();
      guarded(() => this.match())();
    });
    $("ladder-ask").addEventListener("click", guarded(() => this.ladder()));
    $("match-stop").addEventListener("click", guarded(async () => {
      this.stopped = true;
      await this.long.cancel();
    }));
  }
  refresh() {
    options($("match-a"), this.opponents(), $("match-a").value || "standard");
    options($("match-b"), this.opponents(), $("match-b").value || "random");
  }
  onChange() {}
  #games() {
    const games = Number($("match-games").value);
    if (!(Number.isInteger(games) && games >= 2 && games <= 100_000)) throw new Error("Games: expected an integer from 2 to 100000");
    return games;
  }
  /** Plays while the page shows how far it is. */
  async #play(work) {
    const session = await this.game.aside();
    this.stopped = false;
    $("match-stop").disabled = false;
    $("match-bar").hidden = false;
    $("match-bar").value = 0;
    try {
      await work(session);
    } finally {
      $("match-stop").disabled = true;
      $("match-bar").hidden = true;
      call("close", { session }).catch(() => {});
    }
  }
  #run(session, a, b, games, told) {
    const opening_plies = this.game.state.chance_is_next || this.game.players.length === 1 ? 0 : 2;
    return this.long.run("match", { session, a, b, games, opening_plies, progress: true }, told);
  }
  async match() {
    const games = this.#games(), { game } = this;
    const a = game.opponent($("match-a").value, $("match-a-level").value), b = game.opponent($("match-b").value, $("match-b-level").value);
    await this.#play(async (session) => {
      const course = [];
      const result = await this.#run(session, a, b, games, (told) => {
        $("match-bar").value = told.games / told.of;
        course.push((told.wins_a + told.draws / 2) / Math.max(1, told.wins_a + told.draws + told.wins_b));
        $("match-says").textContent = `${told.games} of ${told.of} games`;
      });
      this.#showMatch(result, course);
    });
  }
  #showMatch(result, course) {
    const isForOne = result.mean_a !== undefined;
    $("match-says").textContent = `${result.games} games${this.stopped ? ", then stopped" : ""}.`;
    const row = (name, text) => make("tr", {}, make("th", { scope: "row" }, name), make("td", {}, text));
    const number = (value) => (value === undefined || value === null ? "–" : Number(value).toFixed(2));
    const rows = isForOne
      ? [row("A on average", number(result.mean_a)), row("B on average", number(result.mean_b)), row("A more than B", `${number(result.difference)} (${result.interval.map(number).join(" to ")})`)]
      : [row("A", result.a), row("B", result.b), row("Won, drawn, lost by A", `${result.wins_a}, ${result.draws}, ${result.wins_b}`),
          row("A's points", result.score_a >= 0 && result.score_a <= 1 ? `${percent(result.score_a)} (${result.interval.map(percent).join(" to ")})` : `${number(result.score_a)} a game (${result.interval.map(number).join(" to ")})`)];
    rows.push(row("Time a move", `A ${duration(result.seconds_per_move_a)}, B ${duration(result.seconds_per_move_b)}`));
    const children = [make("table", {}, make("tbody", {}, ...rows))];
    if (!isForOne && course.length > 1) {
      const [width, height] = [640, 150], x = (i) => 40 + ((width - 56) * i) / (course.length - 1), y = (share) => 10 + (height - 34) * (1 - share);
      const svg = draw("svg", { class: "chart", viewBox: `0 0 ${width} ${height}`, role: "img", "aria-label": "A's share of the points as games were played" });
      for (const share of [0, 0.5, 1]) svg.append(draw("line", { class: "axis", x1: 40, x2: width - 16, y1: y(share), y2: y(share) }), draw("text", { x: 34, y: y(share) + 4, "text-anchor": "end" }, percent(share)));
      svg.append(draw("polyline", { class: "curve", points: course.map((share, i) => `${x(i).toFixed(1)},${y(share).toFixed(1)}`).join(" ") }),
        draw("text", { x: width - 16, y: height - 6, "text-anchor": "end" }, `${course.length} games`));
      children.push(svg);
    }
    $("match-result").replaceChildren(...children);
  }
  async ladder() {
    const games = this.#games(), { game } = this, who = $("match-a").value;
    if (!game.info.opponents.find((each) => each.name === who)?.has_levels && who !== "profile") throw new Error(`${who} has no levels.`);
    if (game.players.length === 1) throw new Error("A ladder needs two sides: in a game for one, a match compares scores.");
    await this.#play(async (session) => {
      const rows = [];
      for (let level = 1; level <= 10 && !this.stopped; ++level) {
        const below = level > 2 ? game.opponent(who, level - 2) : { opponent: "random" };
        const result = await this.#run(session, game.opponent(who, level), below, games, (told) => {
          $("match-bar").value = (level - 1 + told.games / told.of) / 10;
          $("match-says").textContent = `Level ${level} against ${level > 2 ? `level ${level - 2}` : "random moves"}: ${told.games} of ${told.of}`;
        });
        if (result.games === 0) break;
        const [low, high] = result.interval;
        rows.push({ name: `${level} against ${level > 2 ? level - 2 : "random"}`, score: result.score_a, low, high, text: percent(result.score_a), result });
        $("match-result").replaceChildren(forest(rows, "Each level against the one two below; the band is 60 to 80 %"),
          make("table", {}, make("thead", {}, make("tr", {}, ...["Level", "Against", "Points", "95 % interval", "Time a move"].map((each) => make("th", {}, each)))),
            make("tbody", {}, ...rows.map((row, i) => make("tr", {}, make("td", {}, String(i + 1)), make("td", {}, i > 1 ? `level ${i - 1}` : "random moves"),
              make("td", {}, percent(row.score)), make("td", {}, `${percent(row.low)} to ${percent(row.high)}`), make("td", {}, duration(row.result.seconds_per_move_a)))))));
      }
      $("match-says").textContent = this.stopped ? `Stopped after ${rows.length} levels.` : "Steps are even where the points lie within the band.";
    });
  }
}
