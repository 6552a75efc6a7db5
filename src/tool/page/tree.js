// The searched tree, opened branch by branch.

import { $, guarded, make } from "./dom.js";
import { call } from "./rpc.js";
import { gauge } from "./decision.js";
import { many, scoreText } from "./scores.js";

const fates = { searched: "", end: "the game ends", horizon: "not looked farther", repetition: "repeats a position", table: "known from the table" };

export class TreePane {
  constructor(game, board) {
    Object.assign(this, { game, board });
    $("tree-ask").addEventListener("click", guarded(() => this.search()));
  }
  onChange() {
    if (this.at && this.at !== this.game.at) {
      $("tree").replaceChildren();
      $("tree-says").textContent = "The game went on: search again for the tree here.";
      this.at = null;
    }
  }
  async search() {
    const { game } = this;
    if (game.state.result || game.toMove < 0) throw new Error("There is nothing to decide here.");
    if (game.isHidden) throw new Error(`What ${game.players[game.toMove]} holds is hidden from you.`);
    const plies = Number($("tree-plies").value);
    if (!(Number.isInteger(plies) && plies >= 1 && plies <= 12)) throw new Error("Plies kept: expected an integer from 1 to 12");
    const at = game.at;
    $("tree-says").textContent = "It searches…";
    await game.long.run("decide", { session: game.session, ...game.opponent($("ask-who").value, $("ask-level").value),
      seconds: Number($("ask-seconds").value), tree: plies });
    if (at !== game.at) return;
    this.at = at;
    const root = await this.#branch([]);
    $("tree-says").textContent = `Depth ${root.depth}, ${root.plies} plies kept, ${many(root.positions)} positions. Scores are for ${root.scores_for === "decider" ? "the player to move here" : "whoever moved"}.`;
    const list = make("ul", { role: "group" });
    const tree = make("div", { class: "tree", role: "tree", "aria-label": "The searched tree" }, list);
    this.#children(list, root, []);
    tree.addEventListener("keydown", (event) => this.#key(event));
    $("tree").replaceChildren(tree);
    tree.querySelector("[role=treeitem]")?.setAttribute("tabindex", "0");
  }
  #branch(path) {
    return call("branch", { session: this.game.session, path });
  }
  #children(list, node, path) {
    const most = Math.max(1, ...node.children.map((child) => child.positions));
    list.replaceChildren(...node.children.map((child) => this.#item(child, [...path, child.move], child.positions / most)));
    if (node.more > 0) list.append(make("li", { role: "none" }, make("small", {}, `and ${node.more} more with ${many(node.more_positions)} positions`)));
  }
  #item(node, path, share) {
    const opens = node.children > 0;
    const words = [fates[node.fate] ?? node.fate];
    if (node.spared_count) words.push(`${node.spared_count} ${node.spared_count === 1 ? "move" : "moves"} spared${node.spared.length ? `: ${node.spared.slice(0, 6).join(" ")}${node.spared.length > 6 ? " …" : ""}` : ""}`);
    const knob = make("button", { type: "button", class: "knob", tabindex: -1, "aria-hidden": "true", disabled: !opens }, opens ? "▸" : "·");
    const item = make("li", { role: "treeitem", tabindex: -1, "aria-expanded": opens ? "false" : undefined, class: node.on_line ? "on-line" : undefined,
        "aria-label": `${node.player} ${node.move}, ${scoreText(node)}, ${node.positions} positions${node.on_line ? ", on the chosen line" : ""}` },
      make("div", {}, knob, make("b", {}, node.move), make("small", {}, node.player),
        make("span", {}, scoreText(node)), node.proven ? make("span", { class: "badge" }, "proven") : null,
        make("span", { class: "gauge" }, gauge(share, null, `${many(node.positions)} positions`)),
        make("small", {}, `${many(node.positions)}`), make("small", {}, words.filter(Boolean).join("; "))));
    item.addEventListener("mouseenter", () => this.board.hint(path));
    item.addEventListener("mouseleave", () => this.board.hint([]));
    item.addEventListener("focus", () => this.board.hint(path));
    const toggle = guarded(async () => {
      const open = item.getAttribute("aria-expanded") === "true";
      if (!opens) return;
      if (!open && !item.querySelector("ul")) {
        const list = make("ul", { role: "group" });
        this.#children(list, await this.#branch(path), path);
        item.append(list);
      }
      item.setAttribute("aria-expanded", String(!open));
      knob.textContent = open ? "▸" : "▾";
      const list = item.querySelector("ul");
      if (list) list.hidden = open;
    });
    item.toggle = toggle;
    item.firstChild.addEventListener("click", toggle);
    return item;
  }
  #key(event) {
    const item = event.target.closest("[role=treeitem]");
    if (!item) return;
    const all = [...$("tree").querySelectorAll("[role=treeitem]")].filter((each) => each.offsetParent !== null);
    const at = all.indexOf(item), isOpen = item.getAttribute("aria-expanded") === "true";
    const go = (to) => {
      if (!to) return;
      all.forEach((each) => each.setAttribute("tabindex", "-1"));
      to.setAttribute("tabindex", "0");
      to.focus();
    };
    const acts = {
      ArrowDown: () => go(all[at + 1]), ArrowUp: () => go(all[at - 1]), Home: () => go(all[0]), End: () => go(all[all.length - 1]),
      ArrowRight: () => (item.hasAttribute("aria-expanded") && !isOpen ? item.toggle() : go(isOpen ? all[at + 1] : null)),
      ArrowLeft: () => (isOpen ? item.toggle() : go(item.parentElement.closest("[role=treeitem]"))),
      Enter: () => item.toggle(), " ": () => item.toggle(),
    };
    if (!acts[event.key]) return;
    event.preventDefault();
    acts[event.key]();
  }
}
