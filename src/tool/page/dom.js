// Small helpers to build the page. Texts of games and profiles are only ever set as text.

export const $ = (id) => document.getElementById(id);

/** make("td", { class: "number" }, "text", child, ...) */
export function make(name, attributes = {}, ...children) {
  return fill(document.createElement(name), attributes, children);
}
export function draw(name, attributes = {}, ...children) {
  return fill(document.createElementNS("http://www.w3.org/2000/svg", name), attributes, children);
}
function fill(element, attributes, children) {
  for (const [key, value] of Object.entries(attributes)) {
    if (value === undefined || value === null || value === false) continue;
    if (key.startsWith("on")) element.addEventListener(key.slice(2), value);
    else element.setAttribute(key, value === true ? "" : value);
  }
  element.append(...children.flat().filter((child) => child !== null && child !== undefined));
  return element;
}

export function options(select, entries, chosen) {
  select.replaceChildren(...entries.map(([value, text]) => make("option", { value }, text ?? value)));
  if (chosen !== undefined && entries.some(([value]) => value === String(chosen))) select.value = String(chosen);
}

export function failed(error) {
  const box = $("failure");
  box.textContent = error.message;
  box.hidden = false;
  clearTimeout(failed.timer);
  failed.timer = setTimeout(() => (box.hidden = true), 8000);
}

/** Runs what an event asks for and says what went wrong. */
export const guarded = (work) => async (...event) => {
  try {
    await work(...event);
  } catch (error) {
    failed(error);
  }
};
