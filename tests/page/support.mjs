// The workbench in a browser: a program started for a test, and a page that looks at it.

import assert from "node:assert/strict";
import { spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { chromium } from "playwright-core";

const program = process.env.ARVEK;
const browserAt = process.env.ARVEK_BROWSER ?? ["/usr/bin/chromium", "/usr/bin/chromium-browser"].find(existsSync);

const running = new Set();

/** The program with those arguments; { address, stop }. */
export async function workbench(...args) {
  const child = spawn(program, ["workbench", ...args], { stdio: ["ignore", "pipe", "inherit"] });
  running.add(child);
  child.on("exit", () => running.delete(child));
  const address = await new Promise((resolve, reject) => {
    let said = "";
    child.stdout.on("data", (data) => {
      said += data;
      const found = /http:\S+/.exec(said);
      if (found) resolve(found[0]);
    });
    child.on("exit", () => reject(new Error(`it ended: ${said}`)));
  });
  const ended = new Promise((resolve) => child.on("exit", (code, signal) => resolve({ code, signal })));
  return {
    address,
    root: address.slice(0, address.indexOf("#")),
    async stop() {
      child.kill("SIGINT");
      return ended;
    },
  };
}

let browser;
export async function startBrowser() {
  browser = await chromium.launch({ executablePath: browserAt, args: ["--no-sandbox"] });
}
/** Ends what a test that failed left running too, as nobody else would. */
export function stopBrowser() {
  for (const child of running) child.kill();
  return browser.close();
}

/** A page on the workbench that fails the test for any error and any request to elsewhere. */
export async function open(address, options = {}) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, ...options });
  const root = new URL(address).origin;
  page.troubles = [];
  page.on("pageerror", (error) => page.troubles.push(error.message));
  page.on("console", (message) => message.type() === "error" && page.troubles.push(message.text()));
  page.on("request", (request) => {
    const { protocol, origin } = new URL(request.url());
    if (origin !== root && protocol !== "data:" && protocol !== "blob:") page.troubles.push(`asked for ${request.url()}`);
  });
  await page.goto(address);
  await page.locator("#turn").filter({ hasText: /\S/ }).waitFor();
  return page;
}
export async function close(page) {
  assert.deepEqual(page.troubles, []);
  await page.close();
}

/** Waits until the status line says something like that. */
export const says = (page, text, seconds = 20) =>
  page.locator("#turn").filter({ hasText: text }).waitFor({ timeout: 1000 * seconds });

/** A page of any origin, with no questions asked. */
export const bare = (options = {}) => browser.newPage(options);
