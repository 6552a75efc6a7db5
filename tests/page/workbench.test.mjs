import assert from "node:assert/strict";
import { execFileSync } from "node:child_process";
import { createServer } from "node:http";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createRequire } from "node:module";
import { after, before, test } from "node:test";
import { bare, close, open, says, startBrowser, stopBrowser, workbench } from "./support.mjs";

const axe = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

before(startBrowser);
after(stopBrowser);

/** Random numbers that are the same each time. */
function numbers(seed) {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

/** Clicks something that can be clicked: a choice, chance, a cell, or a move of the list; what it shows may change meanwhile. */
async function clickOn(page, random) {
  for (const where of ["#choices:not([hidden]) button", "#chance:not([hidden])", ".square.can", "details[open] #legal button"]) {
    const found = page.locator(where);
    const count = await found.count();
    if (count > 0) return found.nth(random(count)).click({ timeout: 500 }).catch(() => {});
  }
}

/** Lets chance act until somebody is to move. */
async function chanceActs(page) {
  while (!/to move/.test(await page.locator("#turn").textContent())) await page.click("#chance", { timeout: 500 }).catch(() => {});
}

const games = [["lanterns"], ["lanterns", "--set", "drop=true"], ["windlass"], ["sluice"], ["downstream"], ["tolls"], ["stowage", "--set", "lots=2"], ["wager"]];
for (const args of games)
  test(`a game is played to its end by clicks: ${args.join(" ")}`, async () => {
    const at = await workbench(...args);
    const page = await open(at.address);
    const random = numbers(7);
    let before = "";
    for (let clicks = 0; clicks < 1500; ++clicks) {
      const text = await page.locator("#turn").textContent();
      if (text.includes("The game is over")) break;
      before = text;
      await clickOn(page, random);
    }
    assert.match(await page.locator("#turn").textContent(), /The game is over: /, before);
    assert.ok((await page.locator("#moves li").count()) > 2);
    await close(page);
    assert.deepEqual(await at.stop(), { code: 0, signal: null });
  });

test("the ranking lives while it thinks, and thinking can be stopped", async () => {
  const at = await workbench("nightwatch");
  const page = await open(at.address);
  await page.fill("#ask-seconds", "2");
  const seen = await page.evaluate(async () => {
    const lines = new Set();
    const look = new MutationObserver(() => {
      const text = document.getElementById("ask-says").textContent;
      const first = document.querySelector("#ranked tbody tr")?.textContent;
      if (text.startsWith("Thinking") && first) lines.add(text);
    });
    look.observe(document.body, { subtree: true, childList: true, characterData: true });
    document.getElementById("ask").click();
    const started = performance.now();
    while (!document.getElementById("ask-says").textContent.startsWith("Decided") && performance.now() - started < 15000) await new Promise((done) => setTimeout(done, 50));
    return lines.size;
  });
  assert.ok(seen >= 3, `only ${seen} rankings were seen while it thought`);
  assert.ok((await page.locator("#ranked tbody tr").count()) > 10);
  await page.fill("#ask-seconds", "600");
  await page.click("#ask");
  await page.locator("#ask-says").filter({ hasText: "Thinking" }).waitFor();
  await page.click("#ask-stop");
  await page.locator("#ask-says").filter({ hasText: "Decided" }).waitFor({ timeout: 5000 });
  // Whoever plays on does not wait for a decision that nobody wants any more.
  await page.click("#ask");
  await page.locator("#ranked tbody tr button").first().click();
  await says(page, "Amber to move", 5);
  await close(page);
  await at.stop();
});

test("the expected line is shown on the board when pointed at", async () => {
  const at = await workbench("lanterns");
  const page = await open(at.address);
  await page.fill("#ask-seconds", "0.3");
  await page.click("#ask");
  await page.locator("#ask-says").filter({ hasText: "Decided" }).waitFor();
  assert.equal(await page.locator(".hint-disc").count(), 0);
  await page.locator("#ranked tbody tr").first().hover();
  assert.ok((await page.locator(".hint-disc").count()) >= 3);
  await page.locator("h1").hover();
  assert.equal(await page.locator(".hint-disc").count(), 0);
  await close(page);
  await at.stop();
});

test("the tree is opened three levels deep, by mouse and by keys", async () => {
  const at = await workbench("sluice");
  const page = await open(at.address);
  await page.fill("#ask-seconds", "0.3");
  await page.click("#tab-tree");
  await page.click("#tree-ask");
  await page.locator("[role=treeitem]").first().waitFor();
  // How far a branch was followed depends on the time that there was, so the deepest one that opens is opened next.
  const deep = "[role=treeitem] [role=treeitem] [role=treeitem] [role=treeitem]";
  const closed = ["[role=treeitem] [role=treeitem] ", "[role=treeitem] ", ""].map((above) => `.tree ${above}[role=treeitem][aria-expanded=false]`);
  for (let opened = 0; opened < 40 && (await page.locator(deep).count()) === 0; ++opened) {
    const before = await page.locator("[role=treeitem]").count();
    for (const item of closed.map((path) => page.locator(path).first())) {
      if ((await item.count()) === 0) continue;
      await item.locator("> div").click();
      break;
    }
    await page.waitForFunction((count) => document.querySelectorAll("[role=treeitem]").length > count, before);
  }
  assert.ok((await page.locator(deep).count()) > 0);
  const first = page.locator("[role=treeitem]").first();
  await first.focus();
  await page.keyboard.press("End");
  const focused = () => page.evaluate(() => document.activeElement.getAttribute("aria-label"));
  const last = await focused();
  await page.keyboard.press("Home");
  assert.notEqual(await focused(), last);
  await close(page);
  await at.stop();
});

test("a profile with an error is mended, decides, and is saved", async () => {
  const at = await workbench("sluice");
  const page = await open(at.address);
  await page.click("#tab-profile");
  await page.selectOption("#profile-kind", "features");
  await page.locator("#profile-findings .good").waitFor();
  const text = await page.inputValue("#profile-text");
  await page.fill("#profile-text", text.replace(/^gained/m, "gaimed"));
  const finding = page.locator("#profile-findings button").first();
  await finding.waitFor();
  assert.match(await finding.textContent(), /line \d+, column \d+: .*gaimed.*gained/);
  await finding.click();
  const at_ = await page.evaluate(() => document.getElementById("profile-text").value.slice(document.getElementById("profile-text").selectionStart).slice(0, 6));
  assert.equal(at_, "gaimed");
  await page.fill("#profile-text", text);
  await page.locator("#profile-findings .good").waitFor();
  await page.locator("#profile-decides tbody tr").first().waitFor();
  // It weighs moves and searches nothing, so that there is nothing to count.
  assert.match(await page.locator("#profile-decides .says").first().textContent(), /^It plays \d\.$/);
  const ranking = () => page.locator("#profile-decides tbody").textContent();
  const before = await ranking();
  await page.locator("#profile-sliders input").first().focus();
  for (let i = 0; i < 20; ++i) await page.keyboard.press("ArrowLeft");
  await page.waitForFunction((old) => document.querySelector("#profile-decides tbody")?.textContent !== old, before);
  const [download] = await Promise.all([page.waitForEvent("download"), page.click("#profile-save")]);
  assert.equal(download.suggestedFilename(), "my_opponent.toml");
  assert.equal(readFileSync(await download.path(), "utf8"), await page.inputValue("#profile-text"));
  // It can sit down, too.
  await page.selectOption("#seats select", "profile");
  await says(page, "Amber to move");
  await close(page);
  await at.stop();
});

test("a match is run to its end, another is stopped, and a ladder begins", async () => {
  const at = await workbench("windlass");
  const page = await open(at.address);
  await page.click("#tab-match");
  await page.fill("#match-games", "20");
  await page.selectOption("#match-a-level", "3");
  await page.click("#match-form button[type=submit]");
  await page.locator("#match-says").filter({ hasText: "20 games." }).waitFor({ timeout: 60000 });
  assert.match(await page.locator("#match-result").textContent(), /standard@3.*random.*Won, drawn, lost by A\d+, \d+, \d+/s);
  await page.fill("#match-games", "100000");
  await page.selectOption("#match-b", "standard");
  await page.click("#match-form button[type=submit]");
  await page.locator("#match-says").filter({ hasText: "of 100000" }).waitFor();
  await page.click("#match-stop");
  await page.locator("#match-says").filter({ hasText: "then stopped" }).waitFor({ timeout: 10000 });
  await page.fill("#match-games", "10");
  await page.click("#ladder-ask");
  await page.locator("#match-result tbody tr").nth(2).waitFor({ timeout: 60000 });
  await page.click("#match-stop");
  await page.locator("#match-says").filter({ hasText: /Stopped|even/ }).waitFor();
  await close(page);
  await at.stop();
});

test("the course shows where most was lost and goes there", async () => {
  const at = await workbench("lanterns");
  const page = await open(`${at.address}&line=c3+a1+b3+e5+a2+d3`);
  await page.click("#tab-course");
  await page.fill("#course-nodes", "3000");
  await page.click("#course-ask");
  await page.locator("#course-says").filter({ hasText: "6 decisions" }).waitFor({ timeout: 60000 });
  assert.ok((await page.locator("#course circle").count()) >= 6);
  await page.locator("#course table button").first().click();
  await page.locator("#moves li:not(:last-child) [aria-current]").waitFor();
  assert.equal(await page.locator("#moves li:last-child [aria-current]").count(), 0);
  await close(page);
  await at.stop();
});

test("back, forward, another way, and an address that restores it all", async () => {
  const at = await workbench("lanterns");
  const page = await open(at.address);
  const click = (name) => page.locator(`.square[data-name=${name}]`).click();
  await click("c3");
  await says(page, "Amber to move");
  await click("b2");
  await says(page, "b2. Teal to move");
  await page.click("#back");
  await says(page, "Amber to move");
  await click("d4");
  await says(page, "d4. Teal to move");
  assert.match(await page.locator("#moves").textContent(), /d4.*or b2|b2.*or d4/);
  await page.click("#first");
  await page.click("#forward");
  await says(page, "c3. Amber to move");
  await page.selectOption("#seats select >> nth=0", "ruled");
  await page.waitForURL(/seat=Teal/);
  const board = () => page.locator("#main-board svg").getAttribute("aria-label").then(() => page.locator(".square").evaluateAll((all) => all.map((each) => each.getAttribute("aria-label")).join()));
  const [before, moves] = [await board(), await page.locator("#moves").textContent()];
  const again = await open(page.url());
  await says(again, "c3. Amber to move");
  assert.equal(await again.locator("#moves").textContent(), moves);
  assert.equal(await again.locator(".square").evaluateAll((all) => all.map((each) => each.getAttribute("aria-label")).join()), before);
  assert.equal(await again.locator("#seats select").first().inputValue(), "ruled");
  await close(again);
  // A line that cannot be played is played as far as it goes, and said.
  const broken = await open(`${at.root}#game=lanterns&line=c3+z9+a1`);
  await says(broken, "c3. Amber to move");
  await broken.locator("#failure").filter({ hasText: "z9" }).waitFor();
  await close(broken);
  await page.click("#position-open");
  await page.fill("#position-text", "nonsense");
  await page.click("#position-form button[type=submit]");
  await page.locator("#position-error").filter({ hasText: "position" }).waitFor();
  await page.fill("#position-text", "...../...../..T../...A./..... T");
  await page.click("#position-form button[type=submit]");
  await page.locator("#position-box").waitFor({ state: "hidden" });
  assert.equal(await page.locator(".token").count(), 2);
  await page.click("#rules-open");
  assert.equal(await page.inputValue("#rule-rows"), "5");
  await page.fill("#rule-rows", "3");
  await page.fill("#rule-columns", "3");
  await page.fill("#rule-line", "3");
  await page.click("#rules-form button[type=submit]");
  await page.locator("#rules").waitFor({ state: "hidden" });
  assert.equal(await page.locator(".square[data-name]").count(), 9);
  await close(page);
  await at.stop();
});

test("opponents answer, levels say what they overlooked, and hidden hands stay hidden", async () => {
  const at = await workbench("lanterns", "--opponent", "standard@2");
  const page = await open(at.address);
  await page.selectOption("#pace", "0");
  await page.locator(".square[data-name=c3]").click();
  await says(page, /Amber: \w+\. Teal to move/);
  assert.match(await page.locator("#more-said").textContent(), /overlooked|ranked|^$/);
  // Who changes things while it thinks finds the game as it was.
  await page.selectOption("#seats select >> nth=2", "montecarlo");
  await page.locator("#seats select >> nth=3").selectOption("10");
  for (const seat of ["random", "montecarlo"]) {
    const before = await page.locator(".token").count();
    await page.locator(".square.can").first().click();
    await page.selectOption("#seats select >> nth=2", seat);
    await page.waitForFunction((count) => document.querySelectorAll(".token").length === count, before + 2);
    await says(page, /Amber: \w+\. (Teal to move|The game is over)/);
  }
  await close(page);
  await at.stop();
  const hidden = await workbench("tolls", "--opponent", "random");
  const cards = await open(hidden.address);
  await cards.selectOption("#pace", "0");
  await chanceActs(cards);
  const all = await cards.locator("main").textContent();
  assert.ok(!/deal-/.test(all), all);
  assert.match(all, /unseen/);
  await close(cards);
  await hidden.stop();
});

test("a profile that is named on the command line plays, and no other file can be named", async () => {
  const file = `${process.env.ARVEK_SOURCE}/demo/opponents/lantern_tutor.toml`;
  const at = await workbench("lanterns", "--opponent", file);
  const page = await open(at.address);
  await page.selectOption("#pace", "0");
  await page.locator(".square[data-name=c3]").click();
  await says(page, /Amber: \w+\. Teal to move/);
  const ask = (method, params) => page.evaluate(async ([method, params]) => {
    const { call } = await import("./rpc.js");
    return call(method, params).then(JSON.stringify, (error) => `refused: ${error.message}`);
  }, [method, params]);
  const session = JSON.parse(await ask("open", { game: "lanterns" })).session;
  assert.match(await ask("decide", { session, opponent: "/etc/passwd.toml" }), /refused: .*cannot name files/);
  assert.match(await ask("decide", { session, opponent: "../frame_bookman.toml" }), /refused: .*cannot name files/);
  assert.match(await ask("open", { game: "nightwatch", set: { map: "/etc/passwd" } }), /refused: .*command line/);
  assert.match(await ask("open", { game: "scuffle", set: { teal: "/etc/passwd" } }), /refused: .*command line/);
  for (const text of ['based_on = "/etc/passwd"', 'model = "/etc/passwd"', '[program]\ncommand = ["/bin/true"]']) {
    const answer = await ask("decide", { session, profile: `name = "x"\ngame = "lanterns"\nchoose = "standard"\n${text}\n` });
    assert.match(answer, /^refused: /, text);
    assert.ok(!answer.includes("root:"), answer);
  }
  await close(page);
  await at.stop();
});

test("keys alone: a game is played to its end", async () => {
  const at = await workbench("lanterns", "--set", "rows=3", "--set", "columns=3", "--set", "line=3");
  const page = await open(at.address);
  const press = (key) => page.keyboard.press(key);
  await press("Tab");
  assert.equal(await page.evaluate(() => document.activeElement.className), "skip");
  await press("Enter");
  await press("Tab");
  const name = () => page.evaluate(() => document.activeElement.dataset.name);
  assert.ok(await name(), "the board is not the next to have the keys");
  const goTo = async (to) => {
    for (let i = 0; i < 8 && (await name()) !== to; ++i) {
      const here = await name();
      if (here[0] < to[0]) await press("ArrowRight");
      else if (here[0] > to[0]) await press("ArrowLeft");
      else await press(here[1] < to[1] ? "ArrowUp" : "ArrowDown");
    }
    assert.equal(await name(), to);
  };
  for (const to of ["a1", "b1", "a2", "b2", "a3"]) {
    await goTo(to);
    await press(to === "b2" ? " " : "Enter");
    await says(page, `: ${to}.`);
  }
  await says(page, "The game is over: Teal wins");
  // To the tabs and through them.
  await page.locator("#tab-decision").focus();
  for (const tab of ["tree", "course", "profile", "match", "decision"]) {
    await press("ArrowRight");
    assert.equal(await page.evaluate(() => document.activeElement.id), `tab-${tab}`);
    assert.ok(await page.locator(`#pane-${tab}`).isVisible());
  }
  await page.locator("#rules-open").focus();
  await press("Enter");
  await press("Escape");
  assert.equal(await page.evaluate(() => document.activeElement.id), "rules-open");
  await close(page);
  await at.stop();
});

for (const colorScheme of ["light", "dark"])
  test(`nobody is shut out: no violations, ${colorScheme}`, async () => {
    for (const game of ["nightwatch", "convoy", "scuffle", "tolls", "chess"]) {
      const at = await workbench(game);
      const page = await open(at.address, { colorScheme, bypassCSP: true });
      await page.evaluate(axe);
      const check = async (where) => {
        const found = await page.evaluate(() => window.axe.run(document, { runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "best-practice"] }));
        assert.deepEqual(found.violations.map((each) => `${each.id}: ${each.nodes.slice(0, 3).map((node) => node.html.slice(0, 160)).join(" | ")}`), [], `${game}, ${where}`);
      };
      await page.fill("#ask-seconds", "0.2");
      await chanceActs(page);
      await page.click("#ask");
      await page.locator("#ask-says").filter({ hasText: "Decided" }).waitFor();
      await check("decision");
      if (game === "nightwatch") {
        await page.click("#tab-tree");
        await page.click("#tree-ask");
        await page.locator("[role=treeitem]").first().waitFor();
        await page.locator("[role=treeitem][aria-expanded=false] > div").first().click();
        await page.locator("[role=treeitem] [role=treeitem]").first().waitFor();
        await check("tree");
        await page.click("#tab-profile");
        await page.selectOption("#profile-kind", "suggestions");
        await page.locator("#profile-decides tbody tr").first().waitFor();
        await check("profile");
        await page.fill("#profile-text", "name = 3");
        await page.locator("#profile-findings button").first().waitFor();
        await check("a wrong profile");
        await page.click("#tab-match");
        await page.fill("#match-games", "2");
        await page.selectOption("#match-a-level", "1");
        await page.click("#match-form button[type=submit]");
        await page.locator("#match-result table").waitFor({ timeout: 60000 });
        await check("match");
        await page.click("#rules-open");
        await check("rules");
        await page.click("#rules-close");
      }
      await page.close();
      await at.stop();
    }
  });

test("a page of another origin gets nothing", async () => {
  const at = await workbench("lanterns");
  const secret = at.root;
  const other = createServer((request, response) => {
    response.setHeader("Content-Type", "text/html");
    response.end(`<!doctype html><title>elsewhere</title><script>
      window.got = [];
      const note = (what) => (text) => window.got.push(what + ": " + String(text).slice(0, 60));
      const target = ${JSON.stringify(secret)};
      Promise.allSettled([
        fetch(target).then((r) => r.text()).then(note("page")),
        fetch(target + "rpc", { method: "POST", headers: { "Content-Type": "application/json" }, body: '{"jsonrpc":"2.0","id":1,"method":"games"}' }).then((r) => r.text()).then(note("rpc")),
        fetch(target + "rpc", { method: "POST", mode: "no-cors", body: '{"jsonrpc":"2.0","id":1,"method":"games"}' }).then((r) => r.text()).then((text) => text && note("opaque")(text)),
        new Promise((done) => { const s = document.createElement("script"); s.type = "module"; s.src = target + "rpc.js"; s.onload = () => { note("script")("loaded"); done(); }; s.onerror = done; document.head.append(s); }),
        new Promise((done) => { const f = document.createElement("iframe"); f.src = target; f.onload = () => { try { if (f.contentDocument && f.contentDocument.body.textContent.includes("workbench")) note("frame")("read"); } catch {} done(); }; document.documentElement.append(f); }),
        new Promise((done) => { const i = new Image(); i.onload = () => { note("image")("loaded"); done(); }; i.onerror = done; i.src = target + "mark.svg"; }),
      ]).then(() => (document.title = "done"));
    </script>`);
  });
  await new Promise((done) => other.listen(0, "127.0.0.1", done));
  const address = `http://127.0.0.1:${other.address().port}/`;
  const page = await bare();
  await page.goto(address);
  await page.waitForFunction(() => document.title === "done", null, { timeout: 20000 });
  assert.deepEqual(await page.evaluate(() => window.got), []);
  await page.close();
  other.close();
  await at.stop();
});

test("a report of a league opens from disk with the network off", async () => {
  const folder = mkdtempSync(join(tmpdir(), "arvek-page-"));
  const file = join(folder, "league.html");
  execFileSync(process.env.ARVEK, ["league", "lanterns", "standard@2", "ruled", "random", "--games", "8", "--report", file]);
  const page = await bare({ offline: true });
  const asked = [];
  page.on("request", (request) => asked.push(request.url()));
  await page.goto(`file://${file}`);
  assert.match(await page.locator("h1").textContent(), /League: lanterns/);
  assert.equal(await page.locator("table").first().locator("tbody tr").count(), 3);
  assert.ok((await page.locator("svg .dot").count()) >= 3);
  const names = () => page.locator("table").first().locator("tbody tr td:nth-child(2)").allTextContents();
  const before = await names();
  await page.locator("table").first().locator("th button", { hasText: "opponent" }).click();
  assert.deepEqual(await names(), [...before].sort());
  assert.deepEqual(asked, [`file://${file}`]);
  await page.evaluate(axe);
  const found = await page.evaluate(() => window.axe.run(document));
  assert.deepEqual(found.violations.map((each) => `${each.id}: ${each.nodes[0].html}`), []);
  await page.close();
  rmSync(folder, { recursive: true });
});
