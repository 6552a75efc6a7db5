// An opponent as data: edited, checked as it is typed, and asked beside it.

import { $, guarded, make, options } from "./dom.js";
import { Long, call } from "./rpc.js";
import { rankedTable, saidBy, statsText } from "./decision.js";

const quoted = (text) => JSON.stringify(text);
/** A key as TOML writes it. */
const key = (name) => (/^[A-Za-z0-9_-]+$/.test(name) ? name : quoted(name));

export class ProfilePane {
  long = new Long();
  constructor(game, board) {
    Object.assign(this, { game, board });
    const text = $("profile-text");
    options($("profile-kind"), [["", "…"], ["search", "a search"], ["features", "features with weights"], ["suggestions", "suggestions and a temperament"], ["rules", "rules in order"]]);
    $("profile-kind").addEventListener("change", guarded(() => this.begin($("profile-kind").value)));
    $("profile-open").addEventListener("click", () => $("profile-file").click());
    $("profile-file").addEventListener("change", guarded(async () => {
      const [file] = $("profile-file").files;
      if (!file) return;
      if (file.size > 500_000) throw new Error(`${file.name} is larger than any profile: ${file.size} bytes (expected at most 500000)`);
      this.set(await file.text());
    }));
    $("profile-save").addEventListener("click", () => this.save());
    text.addEventListener("input", () => this.#soon(true));
    text.addEventListener("keydown", (event) => {
      if (event.key !== "Escape") return;
      $("profile-save").focus();
    });
  }
  refresh() {
    this.set(`name = "My opponent"\ngame = ${quoted(this.game.name)}\nchoose = "standard"\nlevel = 6\n`);
  }
  onChange() {
    if (!$("pane-profile").hidden) this.#soon(false);
  }
  async begin(kind) {
    const { game } = this;
    if (!kind) return;
    const head = `name = "My opponent"\nabout = "What it is like, in a sentence."\ngame = ${quoted(game.name)}\n`;
    const words = await call("words", { session: game.session });
    const texts = {
      search: () => `${head}choose = "standard"\nlevel = 6\n`,
      features: () => `${head}choose = "features"\n\n[features]\n` + words.quantities.filter((each) => each.of !== "position").slice(0, 12).map((each) => `${key(each.name)} = 1.0  # ${each.meaning}\n`).join(""),
      suggestions: () => {
        const reasons = words.suggestions.map((each) => each.reason);
        if (!reasons.length) throw new Error("The game makes no suggestions.");
        return `${head}choose = "suggestions"\n\n[temperament.hunger]\nvalue = 0.5\npulls = { ${reasons.slice(0, 2).map((each) => `${key(each)} = 2.0`).join(", ")} }\n\n[preferences]\n` + reasons.map((each) => `${key(each)} = 1.0\n`).join("");
      },
      rules: () => `${head}choose = "rules"\n\n[[rule]]\nuse = "win now"\n\n[[rule]]\nuse = "stop the rival"\n\n[[fallback]]\n`,
    };
    this.set(texts[kind]());
  }
  set(text) {
    $("profile-text").value = text;
    this.#soon(true);
  }
  save() {
    const name = /^\s*name\s*=\s*"([^"]*)"/m.exec($("profile-text").value)?.[1] ?? "opponent";
    const link = make("a", { href: URL.createObjectURL(new Blob([$("profile-text").value], { type: "application/toml" })),
      download: `${name.toLowerCase().replace(/[^a-z0-9]+/g, "_")}.toml` });
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 1000);
  }
  #soon(rebuild) {
    this.rebuild ||= rebuild;
    clearTimeout(this.timer);
    this.timer = setTimeout(guarded(() => this.check()), 250);
  }
  async check() {
    const { game } = this;
    if (!game.session) return;
    const text = (game.profile = $("profile-text").value);
    const checked = await call("check_profile", { session: game.session, profile: text });
    if (text !== $("profile-text").value) return;
    const list = make("ul", { class: "findings" }, ...checked.findings.map((each) =>
      make("li", {}, make("button", { type: "button", onclick: () => this.#goTo(each.line, each.column) },
        `${each.severity === "error" ? "" : "Warning: "}${each.line ? `line ${each.line}, column ${each.column}: ` : ""}${each.problem}${each.advice ? ` (${each.advice})` : ""}`))));
    $("profile-findings").replaceChildren(checked.right ? make("p", { class: "good" }, `✓ ${checked.name} is right${checked.findings.length ? ", with warnings" : ""}.`) : "", list);
    if (this.rebuild) this.#sliders(text);
    this.rebuild = false;
    if (!checked.right) return $("profile-decides").replaceChildren(make("p", { class: "says" }, "Once it is right, what it decides stands here."));
    await this.#decide(text);
  }
  async #decide(text) {
    const { game } = this;
    if (game.state.result || game.toMove < 0) return $("profile-decides").replaceChildren(make("p", { class: "says" }, "Nobody is to move here."));
    if (game.isHidden) return $("profile-decides").replaceChildren(make("p", { class: "says" }, `What ${game.players[game.toMove]} holds is hidden from you.`));
    const at = game.at;
    // A session of its own: typing disturbs neither the game nor what thinks about it.
    const session = await game.aside();
    try {
      const decision = await this.long.run("decide", { session, profile: text });
      if (at !== game.at || text !== $("profile-text").value) return;
      $("profile-decides").replaceChildren(
        make("p", { class: "says" }, `It plays ${decision.move}.${statsText(decision.stats)}`),
        rankedTable(decision.ranked, { chosen: decision.move, most: 8, hint: (line) => this.board.hint(line), play: guarded((move) => game.play(move)) }),
        ...saidBy(decision).map((each) => make("p", {}, each)));
    } catch (error) {
      $("profile-decides").replaceChildren(make("p", { class: "error" }, error.message));
    } finally {
      call("close", { session }).catch(() => {});
    }
  }
  #goTo(line, column) {
    const text = $("profile-text");
    if (!line) return text.focus();
    const lines = text.value.split("\n");
    const at = lines.slice(0, line - 1).reduce((sum, each) => sum + each.length + 1, 0) + Math.max(0, column - 1);
    text.focus();
    text.setSelectionRange(at, Math.min(at + 1, text.value.length));
  }
  /** A slider for each number of the text that stands alone behind a key. */
  #sliders(text) {
    const box = $("profile-sliders");
    const rows = [];
    let table = "", offset = 0;
    for (const line of text.split("\n")) {
      const head = /^\s*\[+([^\]]+)\]/.exec(line);
      if (head) table = head[1].trim();
      const found = /^(\s*("[^"]+"|[A-Za-z0-9_-]+)\s*=\s*)(-?\d+(?:\.\d+)?)\s*(?:#.*)?$/.exec(line);
      if (found) {
        const name = `${table ? `${table}: ` : ""}${found[2].replace(/"/g, "")}`;
        const isWhole = !found[3].includes("."), value = Number(found[3]);
        const isAxis = table.startsWith("temperament") && found[2] === "value";
        const isLevel = !table && found[2] === "level";
        const reach = Math.max(isWhole ? 10 : 4, 2 ** Math.ceil(Math.log2(Math.abs(value) + 1) + 1));
        rows.push({ name, value, at: offset + found[1].length, length: found[3].length, isWhole,
          least: isAxis ? -1 : isLevel ? 1 : isWhole && value >= 0 ? 0 : -reach, most: isAxis ? 1 : isLevel ? 10 : reach });
      }
      offset += line.length + 1;
    }
    box.replaceChildren(...rows.flatMap((row) => {
      const shown = make("output", {}, String(row.value));
      const slider = make("input", { type: "range", min: row.least, max: row.most, step: row.isWhole ? 1 : (row.most - row.least) / 200, value: row.value, "aria-label": row.name,
        oninput: () => {
          const number = row.isWhole ? slider.value : Number(slider.value).toFixed(2);
          const area = $("profile-text");
          area.value = area.value.slice(0, row.at) + number + area.value.slice(row.at + row.length);
          const change = number.length - row.length;
          row.length = number.length;
          for (const other of rows) if (other.at > row.at) other.at += change;
          shown.textContent = number;
          this.#soon(false);
        } });
      return [make("span", {}, row.name), slider, shown];
    }));
  }
}
