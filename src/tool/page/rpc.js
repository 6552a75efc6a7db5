// Messages to the program: JSON-RPC 2.0, a line for each progress notification and one for the answer.

const tab = Array.from(crypto.getRandomValues(new Uint8Array(8)), (byte) => byte.toString(16).padStart(2, "0")).join("");
let count = 0;

export class Refused extends Error {
  constructor(error) {
    super(error.message);
    this.code = error.code;
  }
}

/** What the program answers; throws Refused for what it will not do, and Error where it is not there. */
export async function call(method, params = {}, { progress, started } = {}) {
  const id = `${tab}-${++count}`;
  started?.(id);
  let response;
  try {
    response = await fetch("rpc", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ jsonrpc: "2.0", id, method, params }),
    });
  } catch {
    throw new Error("The program does not answer any more. Start it again, and open the address that it prints.");
  }
  if (!response.ok) throw new Error(`The program refused the message: ${(await response.text()).trim()} (${response.status}).`);
  const reader = response.body.getReader();
  const decoder = new TextDecoder();
  let rest = "", answer = null;
  const take = (line) => {
    if (!line) return;
    const message = JSON.parse(line);
    if (message.method === "progress") progress?.(message.params);
    else answer = message;
  };
  for (;;) {
    const { done, value } = await reader.read();
    rest += decoder.decode(value ?? new Uint8Array(), { stream: !done });
    const lines = rest.split("\n");
    rest = lines.pop();
    lines.forEach(take);
    if (done) break;
  }
  take(rest);
  if (answer === null) throw new Error("The program ended before it answered.");
  if (answer.error) throw new Refused(answer.error);
  return answer.result;
}

/** Something that takes long and can be cancelled: at most one at a time. */
export class Long {
  #id = null;
  #running = null;

  get busy() {
    return this.#id !== null;
  }
  async run(method, params, progress) {
    await this.cancel();
    const mine = (this.#running = call(method, params, { progress, started: (id) => (this.#id = id) }));
    try {
      return await mine;
    } finally {
      if (this.#running === mine) this.#id = this.#running = null;
    }
  }
  async cancel() {
    if (this.#id === null) return;
    const running = this.#running;
    await call("cancel", { id: this.#id }).catch(() => {});
    await running.catch(() => {});
  }
}
