// The form of an entry: sent in place, kept on the device where there is no network.
import { hold, send } from "./outbox.js";
import { look, post, queue, typed } from "./page.js";
import { fresh } from "./started.js";

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
  navigator.serviceWorker?.register("/outdoors.js").catch(() => {});
  const [kind, about] = (new URLSearchParams(window.location.search).get("asked") ?? "").split(":");
  if (!document.getElementById("entry")) openForm(kind, about);
  toField();
}

// A form that the page came with is opened at its field, with its button in view.
function toField() {
  const field = document.querySelector("#entry [data-lands]");
  field?.focus({ preventScroll: true });
  field?.form.scrollIntoView({ block: "nearest" });
}

async function onSubmit(event) {
  const form = event.target;
  if (form.id !== "entry") return;
  if (form.enctype === "multipart/form-data") return; // a picture is too large to keep here
  event.preventDefault();
  if (form.dataset.busy) return; // pressed twice
  form.dataset.busy = "1";
  form.elements.entry.value ||= freshId();
  const garden = document.querySelector("[data-waiting]").dataset.waiting;
  const entry = Object.fromEntries(new FormData(form));
  const said = await send(garden, entry);
  delete form.dataset.busy;
  if (said?.at) queue(() => look(said.at, () => null, true));
  else if (said === null) {
    hold(garden, entry);
    form.remove();
    window.history.replaceState(null, "", `/g/${garden}/keep?view=log`);
  } else queue(() => post(form.action, typed(form))); // the server says why, with what was typed in it
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
