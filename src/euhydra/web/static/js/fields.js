// Fields keep themselves: a change is posted, and the page's inside comes back with its figures.

let busy = Promise.resolve();

export function startFields(refresh) {
  const page = document.getElementById("page");
  if (!page) return;

  page.addEventListener("submit", (event) => {
    if (!event.target.matches("[data-edit]")) return;
    event.preventDefault();
    const input = event.target.querySelector(".field");
    queue(event.target, {}, nextField(page, input), refresh);
  });
  page.addEventListener("change", (event) => {
    const form = event.target.closest("[data-edit]");
    if (form) queue(form, {}, null, refresh);
  });
  page.addEventListener("keydown", (event) => {
    const input = event.target;
    if (!input.matches?.("input.field") || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
    if (["text", "monthday"].includes(input.dataset.kind)) return;
    event.preventDefault();
    queue(input.form, { step: event.key === "ArrowUp" ? "up" : "down" }, input.id, refresh);
  });
}

function nextField(page, input) {
  const all = [...page.querySelectorAll(".field")].filter((f) => f.offsetParent || f.getClientRects().length);
  return all[(all.indexOf(input) + 1) % all.length]?.id ?? null;
}

function queue(form, extra, focusId, refresh) {
  const data = new URLSearchParams(new FormData(form));
  for (const [key, value] of Object.entries(extra)) data.set(key, value);
  const input = form.querySelector(".field");
  if (!extra.step && input.dataset.sent === input.value) {
    if (focusId) document.getElementById(focusId)?.select?.();
    return;
  }
  input.dataset.sent = input.value;
  busy = busy.then(() => post(form.action, data, focusId, input.id, refresh));
}

async function post(action, data, focusId, ownId, refresh) {
  const page = document.getElementById("page");
  data.set("station", page.querySelector("[data-station]").dataset.station);
  let answer;
  try {
    answer = await fetch(action + window.location.search, {
      method: "POST", body: data, headers: { "X-Fragment": "1" }, credentials: "same-origin",
      keepalive: true });
  } catch {
    return said(page, "The app did not answer; what you typed is still in its field. Is it running?");
  }
  if (!answer.headers.get("content-type")?.includes("text/html")) {
    return said(page, (await answer.text()).slice(0, 300));
  }
  const html = await answer.text();
  if (!answer.ok && !html.includes("data-station")) {
    return said(page, new DOMParser().parseFromString(html, "text/html")
      .querySelector("[role=alert]")?.textContent ?? "That was not kept.");
  }
  const address = new URL(window.location.href);
  for (const passing of ["try", "since"]) address.searchParams.delete(passing);
  window.history.replaceState(null, "", address);
  const focused = document.activeElement?.id;
  const listOpen = page.querySelector("#measures")?.open;
  const open = [...page.querySelectorAll("details[data-figure][open]")].map((d) => d.dataset.figure);
  const scroll = page.querySelector(".run")?.scrollLeft;
  page.innerHTML = html;
  if (listOpen) page.querySelector("#measures").open = true;
  for (const key of open) {
    const again = page.querySelector(`details[data-figure="${CSS.escape(key)}"]`);
    if (again) again.open = true;
  }
  refresh();
  if (scroll !== undefined) page.querySelector(".run").scrollLeft = scroll;
  const target = document.getElementById(answer.ok ? focusId ?? focused ?? "" : ownId);
  target?.focus();
  target?.select?.();
}

function said(page, words) {
  page.querySelector(".said")?.remove();
  const note = document.createElement("p");
  note.className = "said";
  note.setAttribute("role", "alert");
  note.textContent = words;
  page.querySelector(".canvas").prepend(note);
}
