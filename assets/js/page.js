// Ask the server and put the page's inside in place, keeping what is open and where one stands.
import { put } from "./put.js";
import { standing, tell } from "./told.js";

let refresh = () => {};
let busy = Promise.resolve();
let waiting = 0;

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
export const typed = (form, submitter) =>
  new URLSearchParams(/** @type {any} */ (new FormData(form, submitter)));

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
  const address = new URL(action, window.location.href);
  if (!address.search) address.search = window.location.search;
  return swap(
    address.href,
    {
      method: "POST",
      body: data,
      keepalive: String(data).length < 60000,
    },
    focus,
  );
}

// Looks at the page by another address, without leaving it. `step` makes it one to go back from.
export async function look(address, focus = () => null, step = false) {
  return swap(address, { method: "GET" }, focus, step);
}

/** @param {(answered?: boolean) => HTMLElement | null} focus what is to have it once the page is in place */
async function swap(address, request, focus, step = false) {
  const answer = await asked(address, request);
  if (answer.elsewhere) return leave(answer.elsewhere);
  if (!answer.html) return said(answer.words);
  const stays = request.method === "GET" ? address : window.location.pathname + new URL(address).search;
  place(answer, answer.at ?? stays, focus, step || Boolean(answer.at));
  return answer.ok ? "" : "refused";
}

// Puts what was answered in place; the focus stays where it was, unless something is to have it.
function place({ html = "", ok = false }, address, focus, step) {
  const page = document.getElementById("page");
  const before = standing(page);
  const focused = document.activeElement?.id ?? "";
  const { half, lands } = put(page, html);
  writeAddress(address, step);
  refresh();
  toFocus(half ?? focus(ok) ?? lands ?? document.getElementById(focused), !half);
  tell(before, standing(page));
}

function toFocus(target, whole) {
  if (!target) return stayed();
  target.focus({ preventScroll: true });
  if (whole) target.select?.();
  if (target.dataset.lands) (target.form ?? target).scrollIntoView({ block: "nearest" });
}

// What was used is gone, or is of no use any more: one stands at what is left beside it, else at what the
// page says.
function stayed() {
  const used = /** @type {HTMLButtonElement} */ (document.activeElement);
  if (used !== document.body && !used.disabled) return;
  const beside = used.closest("header")?.querySelector("[data-move] button:enabled");
  (beside ?? document.querySelector("#page .verdict"))?.focus({ preventScroll: true });
}

function leave(address) {
  window.location.assign(address);
  return "";
}

// Whether a page is kept on this device, for a garden without a network.
const keptOutdoors = (address) =>
  Boolean(navigator.serviceWorker?.controller) && /\/(keep|build)\?|\/garden$/.test(address);

// The page's inside as the server answers it, else why there is none, or where else it leads.
async function asked(address, request) {
  try {
    const answer = await fetch(address, {
      ...request,
      headers: { "X-Fragment": "1" },
      credentials: "same-origin",
    });
    const said = await read(answer);
    // a page of another kind stands by itself
    return request.method === "GET" && answer.ok && !said.html ? { elsewhere: answer.url } : said;
  } catch {
    if (request.method === "GET" && keptOutdoors(address)) return { elsewhere: address };
    return { words: "The app did not answer; what you typed is still in its field. Is it running?" };
  }
}

async function read(answer) {
  const text = await answer.text();
  const at = answer.redirected ? answer.url : null;
  if (!answer.headers.get("content-type")?.includes("text/html")) return { words: text.slice(0, 300) };
  if (text.includes("data-station")) return { html: text, ok: answer.ok, at };
  if (at && answer.ok) return { elsewhere: at };
  const alert = new DOMParser().parseFromString(text, "text/html").querySelector("[role=alert]");
  return { words: alert?.textContent ?? "That was not kept." };
}

// The address names what is looked at and picked, so that a reload shows the same.
function writeAddress(href, step) {
  const address = new URL(href, window.location.href);
  const asked = (key, value) => {
    // set only where it differs, as that writes the whole of it anew
    if ((address.searchParams.get(key) ?? "") === value) return;
    if (value) address.searchParams.set(key, value);
    else address.searchParams.delete(key);
  };
  asked("since", "");
  if (!document.querySelector(".trying")) asked("try", "");
  const { sel, store } = document.querySelector("[data-sel]").dataset;
  asked("sel", document.querySelector("[data-plan]")?.dataset.picked ?? sel);
  asked("store", store);
  if (step && address.href !== window.location.href) window.history.pushState(null, "", address);
  else window.history.replaceState(null, "", address);
}

export function said(words) {
  const page = document.getElementById("page");
  page.querySelector(".notices > .said")?.remove();
  const note = document.createElement("p");
  note.className = "said";
  note.setAttribute("role", "alert");
  note.textContent = words;
  page.querySelector(".notices").prepend(note);
  return words;
}
