#!/usr/bin/env node
// Sandbags: the rules of a game in JavaScript, an opponent by Arvek over JSON-RPC.
//
//     ARVEK=build/bin/arvek node examples/languages/sandbags.js
//
// Two heaps of sandbags, seven and nine. In turn, Teal and Amber carry away one or two bags of one heap, or one of each;
// who carries the last one wins. A position is the heaps and the player to move: "7,9 T".
//
// This file is two programs: the game, which starts `arvek serve` and talks with it, and, with the word "rules", the rules
// that Arvek asks.
"use strict";
const { spawn } = require("child_process");
const readline = require("readline");

// ---- the rules ----

function read(position) {
  const match = /^(\d+),(\d+) ([TA])$/.exec(position);
  if (!match) throw new Error(`'${position}' is no position, such as '7,9 T'`);
  return { heaps: [Number(match[1]), Number(match[2])], player: match[3] };
}

function look(position) {
  const { heaps, player } = read(position);
  const [left, right] = heaps;
  if (left + right === 0) return { payoffs: player === "T" ? [-1, 1] : [1, -1] };
  const rival = player === "T" ? "A" : "T";
  const ways = { "left-1": [1, 0], "left-2": [2, 0], "right-1": [0, 1], "right-2": [0, 2], both: [1, 1] };
  const moves = [];
  for (const [move, [a, b]] of Object.entries(ways))
    if (a <= left && b <= right) moves.push({ move, after: `${left - a},${right - b} ${rival}` });
  return { to_move: player === "T" ? 0 : 1, moves, evaluation: 0 };
}

function answerAsRules() {
  const rules = { game: "sandbags", players: ["Teal", "Amber"], initial: "7,9 T" };
  readline.createInterface({ input: process.stdin }).on("line", (line) => {
    const request = JSON.parse(line);
    const reply = { jsonrpc: "2.0", id: request.id };
    try {
      reply.result = request.method === "rules" ? rules : look(request.params.position);
    } catch (error) {
      reply.error = { code: -32000, message: error.message };
    }
    console.log(JSON.stringify(reply));
  });
}

// ---- the game ----

async function playAgainstArvek() {
  const program = process.env.ARVEK || "arvek";
  const ownRules = [process.execPath, __filename, "rules"].flatMap((part) => ["--rules", part]);
  const arvek = spawn(program, ["serve", ...ownRules], { stdio: ["pipe", "pipe", "inherit"] });
  const waiting = new Map();
  readline.createInterface({ input: arvek.stdout }).on("line", (line) => {
    const message = JSON.parse(line);
    if (message.method === "progress") return; // nobody asked for it here
    const { resolve, reject } = waiting.get(message.id);
    waiting.delete(message.id);
    if (message.error) reject(new Error(message.error.message));
    else resolve(message.result);
  });
  let last = 0;
  const ask = (method, params) =>
    new Promise((resolve, reject) => {
      waiting.set(++last, { resolve, reject });
      arvek.stdin.write(JSON.stringify({ jsonrpc: "2.0", id: last, method, params }) + "\n");
    });

  const { session } = await ask("open", { game: "sandbags" });
  await ask("seat", { session, player: "Amber", opponent: "standard", level: 5 });
  let state = await ask("state", { session });
  while (!state.result) {
    if (state.to_move === "teal") {
      state = await ask("play", { session, move: state.legal_moves[0] });
      console.log(`teal plays ${state.moves.at(-1)}: ${state.position}`);
      continue;
    }
    const { decision, state: after } = await ask("answer", { session });
    const { score, line } = decision.ranked[decision.rank - 1];
    console.log(`amber plays ${decision.move}: score ${JSON.stringify(score)}, expects ${line.join(" ")}`);
    state = after;
  }
  console.log(state.result);
  arvek.stdin.end();
}

if (process.argv[2] === "rules") answerAsRules();
else playAgainstArvek().catch((error) => {
  console.error(`sandbags: ${error.message}`);
  process.exit(1);
});
