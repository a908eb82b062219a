// Entries made where there is no network: kept on the device, sent when there is one, each of them once.
import { keep, kept } from "./device.js";
import { look, post, queue, typed } from "./page.js";
import { fresh } from "./started.js";

const waitingKey = (garden) => `euhydra log ${garden}`;

const waiting = (garden) => kept(waitingKey(garden), []);
const hold = (garden, entries) => keep(waitingKey(garden), entries);

const freshId = () =>
  [...crypto.getRandomValues(new Uint8Array(8))].map((byte) => byte.toString(16).padStart(2, "0")).join("");

function today() {
  const now = new Date();
  return `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, "0")}-${String(now.getDate()).padStart(2, "0")}`;
}

// Answers { at } (where it now stands) when it was kept, null when there is no network, else { why }.
async function send(garden, entry) {
  let answer;
  try {
    answer = await fetch(`/g/${garden}/log`, {
      method: "POST",
      body: new URLSearchParams(entry),
      credentials: "same-origin",
    });
  } catch {
    return null;
  }
  if (answer.ok) return { at: answer.url };
  const page = new DOMParser().parseFromString(await answer.text(), "text/html");
  return { why: page.querySelector("#log-err")?.textContent ?? "It was not taken." };
}

const refused = new Map();

export function startKeep() {
  const list = document.querySelector("[data-waiting]");
  if (!list) return;
  if (fresh(list, "keep")) {
    list.parentElement.addEventListener("submit", onSubmit);
    window.addEventListener("online", () => flush(list));
    navigator.serviceWorker?.register("/outdoors.js").catch(() => {});
    const [kind, about] = (new URLSearchParams(window.location.search).get("asked") ?? "").split(":");
    if (!document.getElementById("entry")) openForm(kind, about);
    toField();
    flush(list);
  }
  show(list);
}

// A form that the page came with is opened at its field, with its button in view.
function toField() {
  const field = document.querySelector("#entry [data-lands]");
  field?.focus({ preventScroll: true });
  field?.form.scrollIntoView({ block: "nearest" });
}

const gardenOf = (list) => list.dataset.waiting;

function show(list) {
  const entries = waiting(gardenOf(list));
  list.hidden = !entries.length;
  list.replaceChildren();
  if (!entries.length) return;
  const head = document.createElement("p");
  head.className = "say";
  head.textContent =
    entries.length === 1
      ? "1 entry waits on this device; it is sent when there is a network."
      : `${entries.length} entries wait on this device; they are sent when there is a network.`;
  const rows = document.createElement("ul");
  rows.append(...entries.map((entry) => rowOf(list, entry)));
  list.append(head, rows);
}

function rowOf(list, entry) {
  const row = document.createElement("li");
  const words = [entry.day, labelOf(entry.kind), entry.typed || entry.word, entry.note]
    .filter(Boolean)
    .join(", ");
  const why = refused.get(entry.entry);
  row.append(why ? `${words}. ${why} ` : `${words} `);
  const out = document.createElement("button");
  out.className = "pill";
  out.type = "button";
  out.textContent = "Take out";
  out.setAttribute("aria-label", `Take out: ${words}`);
  out.addEventListener("click", () => {
    letGo(gardenOf(list), entry);
    show(list);
  });
  row.append(out);
  return row;
}

function letGo(garden, entry) {
  hold(
    garden,
    waiting(garden).filter((other) => other.entry !== entry.entry),
  );
}

// Sends what waits, each of them once.
async function flush(list) {
  if (!list.isConnected) return;
  const garden = gardenOf(list);
  let sent = 0;
  for (const entry of waiting(garden)) {
    const said = await send(garden, entry);
    if (said === null) break;
    if (said.why) {
      refused.set(entry.entry, said.why);
      continue;
    }
    letGo(garden, entry);
    sent += 1;
  }
  show(list);
  if (!sent) return;
  if (!document.getElementById("entry")) queue(() => look(`/g/${garden}/keep?view=log`));
  else {
    list.hidden = false;
    list.prepend(
      Object.assign(document.createElement("p"), {
        className: "say",
        textContent: "What waited was sent; it shows once this entry is logged.",
      }),
    );
  }
}

async function onSubmit(event) {
  const form = event.target;
  if (form.id !== "entry") return;
  if (form.enctype === "multipart/form-data") return; // a picture is too large to keep here
  event.preventDefault();
  if (form.dataset.busy) return; // pressed twice
  form.dataset.busy = "1";
  form.elements.entry.value ||= freshId();
  const list = document.querySelector("[data-waiting]");
  const garden = gardenOf(list);
  const entry = Object.fromEntries(new FormData(form));
  const said = await send(garden, entry);
  delete form.dataset.busy;
  if (said?.at) queue(() => look(said.at, () => null, true));
  else if (said === null) {
    hold(garden, [...waiting(garden).filter((other) => other.entry !== entry.entry), entry]);
    form.remove();
    window.history.replaceState(null, "", `/g/${garden}/keep?view=log`);
    show(list);
  } else queue(() => post(form.action, typed(form))); // the server says why, with what was typed in it
}

const labelOf = (kind) =>
  document.querySelector(`template[data-entry-of="${CSS.escape(kind)}"]`)?.content.querySelector("h2")
    .textContent ?? kind;

// The page that was kept was made for no form, or for another day.
function openForm(kind, about) {
  const made = kind && document.querySelector(`template[data-entry-of="${CSS.escape(kind)}"]`);
  if (!made) return;
  const form = made.content.firstElementChild.cloneNode(true);
  form.elements.day.value = form.elements.day.max = today();
  if (about && form.elements.about) form.elements.about.value = about;
  document.querySelector("[data-waiting]").before(form);
}
