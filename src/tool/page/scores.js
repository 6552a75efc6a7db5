// Scores, chances and reasons in words.

export function scoreText(entry) {
  if (entry.proven) {
    const { outcome, payoff, plies } = entry.proven;
    const by = Math.abs(payoff) > 1 ? ` by ${Math.abs(payoff)}` : "";
    const how = outcome === "win" ? "wins" : "loses";
    return `${how}${by}${plies > 0 ? ` in ${plies}` : ""}`;
  }
  const limit = { upper: "≤ ", lower: "≥ " }[entry.kind] ?? "";
  if (entry.value !== undefined && entry.value !== null) return limit + signed(entry.value, 3);
  if (entry.score !== null && entry.score !== undefined) return limit + signed(entry.score, 0);
  if (entry.worth !== undefined) return entry.worth.toFixed(2);
  if (entry.probability !== undefined) return `${(100 * entry.probability).toFixed(1)} %`;
  return "";
}

export const signed = (number, digits) => (number > 0 ? "+" : "") + Number(number).toFixed(digits).replace("-", "−");

/** What a bar shows of each entry, 0 to 1; null where there is nothing to show. */
export function shares(ranked) {
  if (ranked.some((entry) => entry.visits !== undefined)) {
    const most = Math.max(1, ...ranked.map((entry) => entry.visits ?? 0));
    return ranked.map((entry) => (entry.visits ?? 0) / most);
  }
  if (ranked.some((entry) => entry.probability !== undefined)) return ranked.map((entry) => entry.probability ?? 0);
  const number = (entry) => entry.value ?? entry.score ?? entry.worth ?? null;
  const open = ranked.filter((entry) => !entry.proven && number(entry) !== null).map(number);
  const low = Math.min(...open), high = Math.max(...open);
  return ranked.map((entry) => {
    if (entry.proven) return entry.proven.outcome === "win" ? 1 : 0;
    if (number(entry) === null) return null;
    return high > low ? 0.08 + (0.84 * (number(entry) - low)) / (high - low) : 0.5;
  });
}

export function duration(seconds) {
  if (seconds < 1e-3) return `${Math.round(seconds * 1e6)} µs`;
  if (seconds < 1) return `${(seconds * 1e3).toFixed(seconds < 0.1 ? 1 : 0)} ms`;
  return `${seconds.toFixed(seconds < 10 ? 1 : 0)} s`;
}

export function many(number) {
  if (number < 1e4) return String(number);
  if (number < 1e6) return `${(number / 1e3).toFixed(number < 1e5 ? 1 : 0)} thousand`;
  return `${(number / 1e6).toFixed(number < 1e7 ? 1 : 0)} million`;
}

export const percent = (chance) => `${(100 * chance).toFixed(0)} %`;

/** The names of those cells that a text holds, from the left, as the program finds them. */
export function namesIn(text, names) {
  const isWord = (letter) => letter !== undefined && /[0-9A-Za-z\u0080-\uffff]/.test(letter);
  const found = [];
  for (let at = 0; at < text.length; ) {
    const begins = at === 0 || !isWord(text[at - 1]);
    const name = begins && names.find((each) => text.startsWith(each, at) &&
      !(isWord(text[at + each.length]) && isWord(text[at + each.length - 1])));
    if (name) {
      found.push(name);
      at += name.length;
    } else {
      at++;
    }
  }
  return found;
}
