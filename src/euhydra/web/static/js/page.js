// Ask the server and put the page's inside in place, keeping what is open and where one stands.

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
  busy = busy.then(run).finally(() => {
    waiting -= 1;
    if (!waiting) page?.removeAttribute("aria-busy");
  });
  return busy;
}

// Posts a form's data. `focus(answered)` gives the element to focus once the page is in place. Answers
// "" when it was kept, else why not, which is said on the page.
export async function post(action, data, focus = () => null) {
  const page = document.getElementById("page");
  data.set("station", page.querySelector("[data-station]").dataset.station);
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
  const focused = document.activeElement?.id;
  const scroll = page.querySelector(".run")?.scrollLeft;
  page.innerHTML = html;
  for (const key of open) {
    const again = page.querySelector(key);
    if (again) again.open = true;
  }
  writeAddress(request.method === "GET" ? address : window.location.href);
  refresh();
  if (scroll !== undefined) page.querySelector(".run").scrollLeft = scroll;
  const target = focus(answer.ok) ?? document.getElementById(focused ?? "");
  target?.focus({ preventScroll: true });
  target?.select?.();
  return answer.ok ? "" : "refused";
}

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
