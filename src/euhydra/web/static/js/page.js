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
  busy = busy.catch(() => {}).then(run).finally(() => { // one that failed holds up no other
    waiting -= 1;
    if (!waiting) page?.removeAttribute("aria-busy");
  });
  return busy;
}

// Whether something was asked that has not come back yet.
export const underWay = () => waiting > 0;

// Waits until nothing is under way, what the last of it brought about included; answers "" when that
// was kept.
export async function settled() {
  let refused = "";
  while (waiting) refused = await busy.catch(() => "failed");
  return refused;
}

// Posts a form's data. `focus(answered)` gives the element to focus once the page is in place. Answers
// "" when it was kept, else why not, which is said on the page.
export async function post(action, data, focus = () => null) {
  const page = document.getElementById("page");
  const shown = page.querySelector("[data-station]").dataset;
  data.set("station", shown.station);
  data.set("on", shown.head);
  return swap(action + window.location.search, {
    method: "POST", body: data, keepalive: String(data).length < 60000 }, focus);
}

// Looks at the page by another address, without leaving it.
export async function look(address, focus = () => null) {
  return swap(address, { method: "GET" }, focus);
}

async function swap(address, request, focus) {
  const page = document.getElementById("page");
  let answer;
  try {
    answer = await fetch(address, { ...request, headers: { "X-Fragment": "1" }, credentials: "same-origin" });
  } catch {
    return said("The app did not answer; what you typed is still in its field. Is it running?");
  }
  if (!answer.headers.get("content-type")?.includes("text/html")) {
    return said((await answer.text()).slice(0, 300));
  }
  const html = await answer.text();
  if (!html.includes("data-station")) {
    return said(new DOMParser().parseFromString(html, "text/html")
      .querySelector("[role=alert]")?.textContent ?? "That was not kept.");
  }
  const open = opened(page);
  const stood = parts(page);
  const typing = halfTyped(page);
  const focused = document.activeElement?.id;
  const scroll = page.querySelector(".run")?.scrollLeft;
  taking = true;
  page.innerHTML = html;
  taking = false;
  for (const key of open) {
    const again = page.querySelector(key);
    if (again) again.open = true;
  }
  for (const [name, part] of parts(page, "[data-waits]")) part.append(...stood.get(name)?.childNodes ?? []);
  writeAddress(request.method === "GET" ? address : window.location.href);
  refresh();
  if (scroll !== undefined) page.querySelector(".run").scrollLeft = scroll;
  const half = typing.map(putBack).find((input) => input?.id === focused);
  const target = half ?? focus(answer.ok) ?? document.getElementById(focused ?? "");
  target?.focus({ preventScroll: true });
  if (!half) target?.select?.();
  return answer.ok ? "" : "refused";
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
const parts = (page, which = "") => new Map(
  [...page.querySelectorAll(`[data-part]${which}`)].map((part) => [part.dataset.part, part]));

function opened(page) {
  return [...page.querySelectorAll("details[open]")].map((d) => (
    d.dataset.figure ? `details[data-figure="${CSS.escape(d.dataset.figure)}"]`
      : d.id ? `#${CSS.escape(d.id)}` : "")).filter(Boolean);
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
