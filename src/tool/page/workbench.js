// The page: what stands where, and what goes on when something is pressed.

import { BoardView } from "./board.js";
import { CoursePane } from "./course.js";
import { DecisionPane, opponentList, saidBy } from "./decision.js";
import { $, failed, guarded, make, options } from "./dom.js";
import { Game } from "./game.js";
import { MatchPane } from "./matches.js";
import { ProfilePane } from "./profile.js";
import { call } from "./rpc.js";
import { TreePane } from "./tree.js";

const tabs = ["decision", "tree", "course", "profile", "match"];
const levels = Array.from({ length: 10 }, (_, i) => [String(i + 1)]);

const catalogue = (await call("games").catch((error) => (failed(error), { games: [] }))).games;
const game = new Game(catalogue);
const named = []; // opponents that the address names
const opponents = opponentList(game, () => named.map((each) => [each]));
const board = new BoardView($("main-board"), $("choices"), {
  play: guarded((move) => game.play(move)),
  say: (text) => ($("turn").textContent = text),
});
const profile = new ProfilePane(game, board);
const panes = { decision: new DecisionPane(game, board, opponents), tree: new TreePane(game, board), course: new CoursePane(game), profile, match: new MatchPane(game, opponents) };

// ---- what the address says ----

function fromAddress() {
  const parts = new URLSearchParams(location.hash.slice(1));
  const name = catalogue.some((each) => each.game === parts.get("game")) ? parts.get("game") : catalogue[0].game;
  const info = catalogue.find((each) => each.game === name);
  const set = {};
  for (const each of parts.getAll("set")) {
    const at = each.indexOf("=");
    const parameter = info.parameters.find((one) => one.name === each.slice(0, at));
    const text = each.slice(at + 1);
    set[each.slice(0, at)] = parameter?.kind === "integer" ? Number(text) : parameter?.kind === "boolean" ? text === "true" : text;
  }
  const seats = parts.getAll("seat").map((each) => /^(.+)=(.+)@(\w+)$/.exec(each)).filter(Boolean);
  return { name, set, position: parts.get("position"), lines: parts.getAll("line").map((line) => line.split(" ").filter(Boolean)),
    ply: parts.has("ply") ? Number(parts.get("ply")) : null, seats, opponent: parts.get("opponent"), tab: parts.get("tab") };
}

async function start() {
  const wanted = fromAddress();
  await begin(wanted.name, wanted.set, wanted.position, wanted.lines, wanted.ply);
  if (wanted.opponent) {
    if (!opponents().some(([each]) => each === wanted.opponent.split("@")[0])) named.push(wanted.opponent);
    const [who, level] = named.includes(wanted.opponent) ? [wanted.opponent, ""] : wanted.opponent.split("@");
    refresh();
    await game.setSeat(game.players.length - 1, who, level ?? "10");
  }
  for (const [, player, who, level] of wanted.seats) {
    const at = game.players.indexOf(player);
    if (at >= 0) await game.setSeat(at, who, level);
  }
  refresh();
  if (wanted.lines.length) {
    game.paused = true;
    show();
  }
  choose(tabs.includes(wanted.tab) ? wanted.tab : "decision", false);
}

async function begin(name, set, position = null, lines = [], ply = null) {
  game.seats = [];
  await game.open(name, set, position, lines, ply);
  options($("game"), catalogue.map((each) => [each.game]), name);
  refresh();
  profile.refresh();
  show();
  if (game.problem) failed(game.problem);
}

function refresh() {
  for (const pane of Object.values(panes)) pane.refresh?.();
  $("seats").replaceChildren(...game.players.map((player, i) => {
    const who = make("select", { "aria-label": `${player}: who plays` }), level = make("select", { "aria-label": `${player}: level` });
    options(who, [["", "you"], ...opponents()], game.seats[i].who);
    options(level, levels, game.seats[i].level);
    const hasLevels = () => who.value && (game.info.opponents.find((each) => each.name === who.value)?.has_levels ?? who.value === "profile");
    level.hidden = !hasLevels();
    const change = guarded(async () => {
      level.hidden = !hasLevels();
      try {
        await game.setSeat(i, who.value, level.value);
      } catch (error) {
        who.value = game.seats[i].who;
        throw error;
      }
    });
    who.addEventListener("change", change);
    level.addEventListener("change", change);
    return make("span", { class: "seat" }, make("b", {}, player), who, level);
  }));
  if (!$("pace")) {
    const pace = make("select", { id: "pace" });
    options(pace, [["0", "at once"], ["0.6", "soon"], ["1.5", "unhurried"]], "0.6");
    $("seats").append(make("label", { class: "field" }, "answers ", pace));
  }
  for (const id of ["ask-level", "match-a-level", "match-b-level"]) options($(id), levels, $(id).value || "10");
}

// ---- how it stands ----

function standing() {
  const { state } = game;
  if (state.result) return `The game is over: ${state.result}.`;
  if (state.chance_is_next) return "Chance is next.";
  return `${game.players[game.toMove]} to move.`;
}

function show() {
  const { state, at } = game;
  const mine = game.toMove >= 0 && !game.seats[game.toMove].who;
  board.show(game.board, { players: game.players, last: game.last, mayMove: !state.result && (mine || game.paused || state.chance_is_next), drawing: game.board.drawing });
  const before = at.parent ? `${at.seat >= 0 ? game.players[at.seat] : "Chance"}: ${game.shown(at)}. ` : "";
  $("turn").textContent = before + standing();
  $("notes").replaceChildren(...game.board.notes.map((note) => make("li", {}, note)));
  $("first").disabled = $("back").disabled = !at.parent;
  $("forward").disabled = $("last").disabled = at.children.length === 0;
  $("chance").hidden = !state.chance_is_next || Boolean(state.result);
  $("go-on").hidden = state.result || game.toMove < 0 || mine || !game.paused;
  const legal = state.result || game.isHidden || (state.chance_is_next && state.has_views) ? [] : state.legal_moves;
  $("legal").replaceChildren(...legal.map((move) => make("button", { type: "button", onclick: guarded(() => game.play(move)) }, move)));
  $("move-list").replaceChildren(...legal.slice(0, 300).map((move) => make("option", { value: move })));
  // A game that is played by a list of moves shows the list.
  if (legal.length && game.board.moves.length < legal.length) $("all-moves").open = true;
  showMoves();
  for (const pane of Object.values(panes)) pane.onChange();
  history.replaceState(null, "", `#${game.address}&tab=${tabs.find((each) => !$(`pane-${each}`).hidden) ?? "decision"}`);
  goOn();
}

function showMoves() {
  const items = [];
  let end = game.at;
  while (end.children.length) end = end.children[0];
  let node = game.root;
  for (const move of end.line) {
    const others = node.children.filter((each) => each.move !== move);
    node = node.children.find((each) => each.move === move);
    const here = node;
    const button = (to, isOther) => make("button", { type: "button", class: isOther ? "other" : undefined, "aria-current": to === game.at ? "step" : undefined,
      "aria-label": `Move ${to.ply}: ${game.shown(to)}${isOther ? ", another way" : ""}`, onclick: guarded(() => game.goTo(to)) }, isOther ? `or ${game.shown(to)}` : game.shown(to));
    items.push(make("li", {}, make("span", { class: "number", "aria-hidden": "true" }, `${here.ply}.`), button(here, false), ...others.map((each) => button(each, true))));
  }
  $("moves").replaceChildren(...items);
  $("moves").querySelector("[aria-current]")?.scrollIntoView?.({ block: "nearest" });
}

// ---- opponents answer, chance acts ----

let waits = 0;
async function goOn() {
  const mine = ++waits;
  if (game.paused || game.state.result) return;
  const pace = Number($("pace")?.value ?? 0);
  const at = game.at;
  const wait = () => new Promise((done) => setTimeout(done, 1000 * pace));
  try {
    if (game.state.chance_is_next) {
      if (game.seats.some((seat) => seat.who)) {
        await wait();
        if (mine === waits && at === game.at) await game.letChanceAct();
      }
      return;
    }
    if (!game.isAnswering) return;
    $("turn").textContent = `${standing()} ${game.seats[game.toMove].who} thinks…`;
    if (pace > 0.3) await new Promise((done) => setTimeout(done, 300 * pace));
    if (mine !== waits) return;
    const decision = await game.answer();
    if (decision && !$("ask-always").checked) $("more-said").replaceChildren(...saidBy(decision).map((text) => make("p", {}, text)));
  } catch (error) {
    if (mine === waits) {
      game.paused = true;
      failed(error);
      show();
    }
  }
}

// ---- tabs, dialogs, buttons ----

document.querySelector(".skip").addEventListener("click", (event) => {
  event.preventDefault(); // the part behind the '#' is how the game stands
  $("main-board").focus();
});

function choose(tab, focus = true) {
  for (const each of tabs) {
    const isIt = each === tab, button = $(`tab-${each}`);
    button.setAttribute("aria-selected", String(isIt));
    button.setAttribute("tabindex", isIt ? "0" : "-1");
    $(`pane-${each}`).hidden = !isIt;
    if (isIt && focus) button.focus();
  }
  if (game.board) history.replaceState(null, "", `#${game.address}&tab=${tab}`);
  if (tab === "profile") profile.onChange();
}
tabs.forEach((tab, i) => {
  $(`tab-${tab}`).addEventListener("click", () => choose(tab));
  $(`tab-${tab}`).addEventListener("keydown", (event) => {
    const to = { ArrowRight: i + 1, ArrowLeft: i - 1, Home: 0, End: tabs.length - 1 }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    choose(tabs[(to + tabs.length) % tabs.length]);
  });
});

const step = (to) => guarded(() => game.goTo(to));
const last = (node) => {
  while (node.children.length) node = node.children[0];
  return node;
};
$("first").addEventListener("click", step(() => game.root));
$("back").addEventListener("click", step((at) => at.parent));
$("forward").addEventListener("click", step((at) => at.children[0]));
$("last").addEventListener("click", step(last));
$("chance").addEventListener("click", guarded(() => game.letChanceAct()));
$("go-on").addEventListener("click", () => {
  game.paused = false;
  show();
});
$("again").addEventListener("click", guarded(async () => {
  const seats = game.seats;
  await game.open(game.name, game.set, game.start);
  game.seats = seats;
  game.paused = false;
  show();
}));
$("move-form").addEventListener("submit", (event) => {
  event.preventDefault();
  guarded(async () => {
    await game.play($("move").value.trim());
    $("move").value = "";
  })();
});
$("game").addEventListener("change", guarded(() => begin($("game").value, {})));
$("link-copy").addEventListener("click", guarded(async () => {
  try {
    await navigator.clipboard.writeText(location.href);
    $("turn").textContent = `Copied: the address restores all of this. ${standing()}`;
  } catch {
    $("turn").textContent = `The address of this page restores all of this. ${standing()}`;
  }
}));

$("rules-open").addEventListener("click", () => {
  const { info } = game;
  $("rules-title").textContent = `Rules of ${info.game}`;
  $("rules-about").textContent = info.summary;
  $("rules-error").textContent = "";
  $("rules-fields").replaceChildren(...info.parameters.flatMap((each) => {
    const id = `rule-${each.name}`, now = game.set[each.name] ?? each.default;
    const field = each.kind === "boolean" ? make("input", { type: "checkbox", id, name: each.name, checked: now === true })
      : each.kind === "integer" ? make("input", { type: "number", id, name: each.name, min: each.least, max: each.most, value: now })
      : each.choices ? make("select", { id, name: each.name }, ...each.choices.map((value) => make("option", { value, selected: value === now }, value)))
      : make("input", { id, name: each.name, value: now, readonly: true, title: "A text may name a file: it is given on the command line" });
    return [make("label", { for: id }, each.name), field, make("small", {}, each.meaning + (each.kind === "integer" ? ` (${each.least} to ${each.most})` : ""))];
  }));
  if (!info.parameters.length) $("rules-fields").append(make("p", {}, "The game has no parameters."));
  $("rules").showModal();
});
$("rules-close").addEventListener("click", () => $("rules").close());
$("rules-form").addEventListener("submit", async (event) => {
  event.preventDefault();
  const set = {};
  for (const each of game.info.parameters) {
    const field = $(`rule-${each.name}`);
    set[each.name] = each.kind === "boolean" ? field.checked : each.kind === "integer" ? Number(field.value) : field.value;
  }
  try {
    await begin(game.name, set);
    $("rules").close();
  } catch (error) {
    $("rules-error").textContent = error.message;
  }
});
$("position-open").addEventListener("click", () => {
  $("position-text").value = game.state.position;
  $("position-error").textContent = "";
  $("position-box").showModal();
});
$("position-close").addEventListener("click", () => $("position-box").close());
$("position-form").addEventListener("submit", async (event) => {
  event.preventDefault();
  try {
    await begin(game.name, game.set, $("position-text").value.trim());
    $("position-box").close();
  } catch (error) {
    $("position-error").textContent = error.message;
  }
});

const look = (value) => {
  if (value) document.documentElement.dataset.look = value;
  else delete document.documentElement.dataset.look;
};
$("look").addEventListener("change", () => {
  look($("look").value);
  try {
    localStorage.setItem("look", $("look").value);
  } catch {
    // Without a store the look is chosen anew each time.
  }
});
try {
  $("look").value = localStorage.getItem("look") ?? "";
} catch {
  $("look").value = "";
}
look($("look").value);

game.addEventListener("change", show);
window.addEventListener("hashchange", guarded(start));
for (const tab of tabs) $(`pane-${tab}`).hidden = tab !== "decision";
if (catalogue.length) await guarded(start)();
