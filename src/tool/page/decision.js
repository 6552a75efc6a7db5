// The ranked moves of a decision, live while it thinks.

import { $, guarded, make, draw, options } from "./dom.js";
import { duration, many, scoreText, shares } from "./scores.js";

/** A bar; paler where only a bound is known. */
export function gauge(share, interval, label, isBound = false) {
  const svg = draw("svg", { viewBox: "0 0 100 12", preserveAspectRatio: "none", role: "img", "aria-label": label });
  svg.append(draw("rect", { x: 0, y: 5, width: 100, height: 2, fill: "var(--line)" }));
  if (share !== null) svg.append(draw("rect", { x: 0, y: 1, width: Math.max(0.5, 100 * share), height: 10, fill: "var(--bar)", opacity: isBound ? 0.4 : 1 }));
  if (interval) {
    const [low, high] = interval.map((end) => 100 * end);
    svg.append(draw("rect", { x: low, y: 5, width: Math.max(0.6, high - low), height: 2, fill: "var(--ink)" }));
  }
  return svg;
}

/** A table of ranked moves; `hint` is called with a line to show, `play` with a move. */
export function rankedTable(ranked, { chosen, hint, play, most = 30 }) {
  const hasVisits = ranked.some((entry) => entry.visits !== undefined);
  const hasReasons = ranked.some((entry) => entry.reasons?.length);
  const share = shares(ranked);
  const body = make("tbody");
  // Intervals on one scale, from the lowest end to the highest.
  const ends = ranked.flatMap((entry) => entry.sampling ?? []);
  const [lowest, highest] = [Math.min(...ends), Math.max(...ends)];
  const scaled = (interval) => interval?.map((end) => (highest > lowest ? (end - lowest) / (highest - lowest) : 0.5));
  ranked.slice(0, most).forEach((entry, i) => {
    const line = entry.line?.length ? entry.line : [entry.move];
    const score = scoreText(entry);
    body.append(make("tr", { class: entry.move === chosen ? "chosen" : undefined,
        onmouseenter: () => hint(line), onmouseleave: () => hint([]), onfocusin: () => hint(line), onfocusout: () => hint([]) },
      make("td", { class: "number" }, String(i + 1)),
      make("td", {}, make("button", { type: "button", title: "Play it", onclick: () => play(entry.move) }, entry.move)),
      make("td", { class: "number" }, score || "–"),
      hasVisits ? make("td", { class: "number" }, many(entry.visits ?? 0)) : null,
      make("td", { class: "gauge" }, gauge(share[i], scaled(entry.sampling), `${entry.move}: ${score || "no score"}`, ["upper", "lower"].includes(entry.kind))),
      make("td", { class: "line" }, hasReasons ? (entry.reasons ?? []).join("; ") || "–" : line.slice(0, 8).join(" "))));
  });
  return make("table", {},
    make("thead", {}, make("tr", {}, make("th", { class: "number" }, "#"), make("th", {}, "Move"), make("th", { class: "number" }, "Score"),
      hasVisits ? make("th", { class: "number" }, "Playouts") : null,
      make("th", {}, hasVisits ? "Playouts, sampling" : "Compared"), make("th", {}, hasReasons ? "Why" : "Expected line"))),
    body);
}

/** What a decision says besides its ranking. */
export function saidBy(decision) {
  const said = [];
  if (decision.level !== undefined && decision.overlooked?.length)
    said.push(`At level ${decision.level} it overlooked ${decision.overlooked.length}: ${decision.overlooked.slice(0, 12).join(", ")}${decision.overlooked.length > 12 ? " …" : ""}.`);
  if (decision.rank > 1)
    said.push(`It played the move ranked ${decision.rank}` +
      (typeof decision.score_given_away === "number" ? `: ${Number(decision.score_given_away.toFixed(3))} given away.` : "."));
  if (decision.chosen_by) said.push(`Chosen by: ${decision.chosen_by}.`);
  if (decision.searched_by) said.push(`Searched by ${decision.searched_by}.`);
  return said;
}
/** " 4 million positions, depth 23, 2.0 s."; nothing where nothing was counted. */
export function statsText(stats) {
  const parts = [];
  if (stats.playouts) parts.push(`${many(stats.playouts)} playouts`);
  if (stats.nodes) parts.push(`${many(stats.nodes)} positions`, `depth ${stats.depth}`);
  if (stats.cutoffs) parts.push(`${many(stats.cutoffs)} cutoffs`);
  if (stats.seconds > 0) parts.push(duration(stats.seconds));
  return parts.length ? ` ${parts.join(", ")}.` : "";
}

export class DecisionPane {
  constructor(game, board, opponents) {
    Object.assign(this, { game, board, opponents });
    $("ask").addEventListener("click", guarded(() => this.think()));
    $("ask-stop").addEventListener("click", guarded(() => game.long.cancel()));
    $("ask-always").addEventListener("change", () => $("ask-always").checked && this.onChange());
  }
  refresh() {
    options($("ask-who"), this.opponents(), $("ask-who").value || "standard");
  }
  onChange() {
    this.shownAt = null;
    $("ranked").replaceChildren();
    $("more-said").replaceChildren();
    $("ask-says").textContent = "";
    if ($("ask-always").checked && !this.game.isAnswering) guarded(() => this.think())();
  }
  async think() {
    const { game } = this;
    if (game.state.result || game.toMove < 0) {
      $("ask-says").textContent = game.state.result ? "The game is over here." : "Chance is next: let it act first.";
      return;
    }
    if (game.isHidden) {
      $("ask-says").textContent = `What ${game.players[game.toMove]} holds is hidden from you.`;
      return;
    }
    const params = { session: game.session, ...game.opponent($("ask-who").value, $("ask-level").value), progress: true };
    const seconds = Number($("ask-seconds").value);
    if (!(seconds >= 0.05 && seconds <= 3600)) throw new Error("Seconds: expected 0.05 to 3600");
    if (this.opponents.looksAhead($("ask-who").value)) params.seconds = seconds;
    if ($("ask-all").checked) params.rank_all = true;
    $("ask-stop").disabled = false;
    $("ask-says").textContent = "It thinks…";
    const at = game.at;
    let decision;
    try {
      decision = await game.long.run("decide", params, (told) => at === game.at && this.show(told, true));
    } finally {
      $("ask-stop").disabled = true;
    }
    if (at === game.at) this.show(decision, false);
  }
  show(decision, isThinking) {
    const ranked = decision.ranked ?? [];
    const focus = document.activeElement?.closest?.("#ranked tr button")?.textContent;
    $("ranked").replaceChildren(rankedTable(ranked, { chosen: decision.move, hint: (line) => this.board.hint(line),
      play: guarded((move) => this.game.play(move)) }));
    if (focus) [...$("ranked").querySelectorAll("button")].find((each) => each.textContent === focus)?.focus();
    const what = isThinking ? "Thinking" : "Decided";
    $("ask-says").textContent = `${what}: ${decision.move}.${statsText(decision.stats)}`;
    $("more-said").replaceChildren(...(isThinking ? [] : saidBy(decision)).map((text) => make("p", {}, text)));
    const fired = (decision.rules ?? []).filter((rule) => rule.why);
    if (!isThinking && fired.length)
      $("more-said").append(make("h2", { class: "small" }, "Rules"), make("ul", {}, ...fired.map((rule) =>
        make("li", {}, `${rule.fired ? "✓" : "–"} ${rule.rule}: ${rule.why}`))));
  }
}

/** Who can be chosen, for lists. */
export function opponentList(game, extra) {
  const list = () => [...(game.info?.opponents ?? []).map((each) => [each.name]), ...extra(), ["profile", "the profile in the editor"]];
  list.looksAhead = (who) => game.info?.opponents.find((each) => each.name === who)?.looks_ahead ?? false;
  return list;
}
