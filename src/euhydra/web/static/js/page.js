// Ask the server and put the page's inside in place, keeping what is open and where one stands.

let refresh = () => {};
let busy = Promise.resolve();
let waiting = 0;
let taking = false;

// Whether the page's inside is being put in place: what loses focus then was not left by a person.
export const beingReplaced = () => taking;

export function onRefresh(run) {
  refresh = run;
}

// One request after another, so that edits land in the order they were made.
export function queue(run) {
  const page = document.getElementById("page");
  waiting += 1;
  page?.setAttribute("aria-busy", "true");
  busy = busy
    .catch(() => {})
    .then(run)
    .finally(() => {
      // one that failed holds up no other
      waiting -= 1;
      if (!waiting) page?.removeAttribute("aria-busy");
    });
  return busy;
}

// Whether something was asked that has not come back yet.
export const underWay = () => waiting > 0;

// Whether a key or a click is one of the browser's own.
export const withModifier = (event) => event.ctrlKey || event.metaKey || event.altKey;

// What a form holds, as it is posted.
export const typed = (form) => new URLSearchParams(/** @type {any} */ (new FormData(form)));

// Waits until nothing is under way, what the last of it brought about included; answers "" when that
// was kept.
export async function settled() {
  /** @type {string | void} */
  let refused = "";
  while (waiting) refused = await busy.catch(() => "failed");
  return refused;
}

// Posts a form's data. `focus(answered)` gives the element to focus once the page is in place. Answers
// "" when it was kept, else why not, which is said on the page.
/** @param {(answered?: boolean) => HTMLElement | null} focus */
export async function post(action, data, focus = () => null) {
  const page = document.getElementById("page");
  const shown = page.querySelector("[data-station]").dataset;
  data.set("station", shown.station);
  data.set("on", shown.head);
  return swap(
    action + window.location.search,
    {
      method: "POST",
      body: data,
      keepalive: String(data).length < 60000,
    },
    focus,
  );
}

// Looks at the page by another address, without leaving it.
export async function look(address, focus = () => null) {
  return swap(address, { method: "GET" }, focus);
}

/** @param {(answered?: boolean) => HTMLElement | null} focus what is to have it once the page is in place */
async function swap(address, request, focus) {
  const { html, words, ok } = await asked(address, request);
  if (!html) return said(words);
  const page = document.getElementById("page");
  const focused = document.activeElement?.id;
  const half = put(page, html, request.method === "GET" ? address : window.location.href, focused);
  toFocus(half ?? focus(ok) ?? document.getElementById(focused ?? ""), !half);
  return ok ? "" : "refused";
}

function toFocus(target, whole) {
  target?.focus({ preventScroll: true });
  if (whole) target?.select?.();
}

// The page's inside as the server answers it, else why there is none.
async function asked(address, request) {
  let answer;
  try {
    answer = await fetch(address, { ...request, headers: { "X-Fragment": "1" }, credentials: "same-origin" });
  } catch {
    return { words: "The app did not answer; what you typed is still in its field. Is it running?" };
  }
  const text = await answer.text();
  if (!answer.headers.get("content-type")?.includes("text/html")) return { words: text.slice(0, 300) };
  if (text.includes("data-station")) return { html: text, ok: answer.ok };
  const alert = new DOMParser().parseFromString(text, "text/html").querySelector("[role=alert]");
  return { words: alert?.textContent ?? "That was not kept." };
}

// Puts the page's inside in place, with what was open, waited for and half typed. Gives the field that
// one was typing in.
function put(page, html, address, focused) {
  const open = opened(page);
  const stood = parts(page);
  const typing = halfTyped(page);
  const scroll = page.querySelector(".run")?.scrollLeft;
  taking = true;
  page.innerHTML = html;
  taking = false;
  for (const key of open) {
    const again = page.querySelector(key);
    if (again) again.open = true;
  }
  for (const [name, part] of parts(page, "[data-waits]")) part.append(...(stood.get(name)?.childNodes ?? []));
  writeAddress(address);
  refresh();
  if (scroll !== undefined) page.querySelector(".run").scrollLeft = scroll;
  return typing.map(putBack).find((input) => input?.id === focused);
}

export const unsent = (field) => field.value !== field.defaultValue && field.dataset.sent !== field.value;

// What a person is still typing while an earlier edit comes back.
function halfTyped(page) {
  return [...page.querySelectorAll("input.field[id]")]
    .filter(unsent)
    .map(({ id, value, selectionStart, selectionEnd }) => ({ id, value, selectionStart, selectionEnd }));
}

function putBack({ id, value, selectionStart, selectionEnd }) {
  const input = document.getElementById(id);
  if (!input) return null;
  input.value = value;
  if (selectionStart !== null) input.setSelectionRange(selectionStart, selectionEnd);
  return input;
}

// The parts that may come later, by name. What stood in one stays until what is new has come.
const parts = (page, which = "") =>
  new Map([...page.querySelectorAll(`[data-part]${which}`)].map((part) => [part.dataset.part, part]));

function opened(page) {
  return [...page.querySelectorAll("details[open]")]
    .map((d) =>
      d.dataset.figure
        ? `details[data-figure="${CSS.escape(d.dataset.figure)}"]`
        : d.id
          ? `#${CSS.escape(d.id)}`
          : "",
    )
    .filter(Boolean);
}

// The address names what is looked at and picked, so that a reload shows the same.
function writeAddress(href) {
  const address = new URL(href, window.location.href);
  for (const passing of ["try", "since"]) address.searchParams.delete(passing);
  const plan = document.querySelector("[data-plan]");
  if (plan) {
    address.searchParams.delete("sel");
    if (plan.dataset.picked) address.searchParams.set("sel", plan.dataset.picked);
  }
  window.history.replaceState(null, "", address);
}

export function said(words) {
  const page = document.getElementById("page");
  page.querySelector(".said")?.remove();
  const note = document.createElement("p");
  note.className = "said";
  note.setAttribute("role", "alert");
  note.textContent = words;
  page.querySelector(".canvas").prepend(note);
  return words;
}
