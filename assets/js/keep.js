// The form of an entry: sent in place, kept on the device where there is no network.
import { hold, send } from "./outbox.js";
import { look, post, queue, typed } from "./page.js";
import { fresh } from "./started.js";

const LATER_MS = 4000;

const freshId = () =>
  [...crypto.getRandomValues(new Uint8Array(8))].map((byte) => byte.toString(16).padStart(2, "0")).join("");

function today() {
  const now = new Date();
  return `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, "0")}-${String(now.getDate()).padStart(2, "0")}`;
}

export function startKeep() {
  const list = document.querySelector("[data-waiting]");
  if (!list || !fresh(list, "keep")) return;
  list.parentElement.addEventListener("submit", onSubmit);
  keepPages();
  sayStale();
  if (!/\/keep$/.test(window.location.pathname)) return;
  const [kind, about] = (new URLSearchParams(window.location.search).get("asked") ?? "").split(":");
  if (!document.getElementById("entry")) openForm(kind, about);
  toField();
}

// What keeps pages where there is no network has all of them to fetch: elsewhere than on the log's page the
// first seconds are the page's own.
function keepPages() {
  const register = () => navigator.serviceWorker?.register("/outdoors.js").catch(() => {});
  setTimeout(register, /\/keep$/.test(window.location.pathname) ? 0 : LATER_MS);
}

// A form that the page came with is opened at its field, with its button in view.
function toField() {
  const field = document.querySelector("#entry [data-lands]");
  field?.focus({ preventScroll: true });
  field?.form.scrollIntoView({ block: "nearest" });
}

async function onSubmit(event) {
  const form = event.target;
  if (!form.matches("#entry, [data-entry]")) return;
  if (form.enctype === "multipart/form-data") return; // a picture is too large to keep here
  event.preventDefault();
  if (form.dataset.busy) return; // pressed twice
  form.dataset.busy = "1";
  form.elements.entry.value ||= freshId();
  const garden = document.querySelector("[data-waiting]").dataset.waiting;
  const entry = Object.fromEntries(new FormData(form, event.submitter));
  const said = await send(garden, entry);
  delete form.dataset.busy;
  if (said?.at) follow(said.at);
  else if (said === null) waits(form, garden, entry);
  else if (onStation())
    queue(() => post(form.action, typed(form, event.submitter))); // the server says why, with what was typed in it
  else sayWhy(form, said.why);
}

const onStation = () => Boolean(document.querySelector("[data-station]"));

function follow(address) {
  if (onStation()) return queue(() => look(address, () => null, true));
  return window.location.assign(address);
}

// What was done stands on the device until there is a network, be it on another day.
function waits(form, garden, entry) {
  hold(garden, { ...entry, day: entry.day || today() });
  if (form.id === "entry") {
    form.remove();
    window.history.replaceState(null, "", `/g/${garden}/keep?view=log`);
    return;
  }
  const said = document.createElement("span");
  said.textContent = "Waits on this device.";
  form.replaceWith(said);
}

function sayWhy(form, why) {
  form.querySelector(".err")?.remove();
  const said = document.createElement("p");
  said.className = "err";
  said.setAttribute("role", "alert");
  said.textContent = why;
  form.append(said);
}

// A page that was kept says so where nobody answers.
async function sayStale() {
  const stale = /** @type {HTMLElement | null} */ (document.querySelector("[data-made-on]"));
  if (!stale || !navigator.serviceWorker?.controller) return;
  try {
    await fetch("/outdoors.json", { cache: "no-store", credentials: "same-origin" });
  } catch {
    stale.hidden = false;
  }
}

// The page that was kept was made for no form, or for another day.
function openForm(kind, about) {
  const made = kind && document.querySelector(`template[data-entry-of="${CSS.escape(kind)}"]`);
  if (!made) return;
  const form = made.content.firstElementChild.cloneNode(true);
  form.elements.day.value = form.elements.day.max = today();
  if (about && form.elements.about) form.elements.about.value = about;
  document.querySelector("[data-waiting]").before(form);
}
