// Whoever leaves the page while edits are on their way leaves once they have landed; a refused one
// keeps them here, where it says why.
import { settled, underWay, withModifier } from "./page.js";

export function startLeaving() {
  document.addEventListener("submit", (event) => {
    const form = /** @type {HTMLFormElement} */ (event.target);
    if (event.defaultPrevented || form.method === "dialog") return;
    const sent = new FormData(form, event.submitter);
    if ([...sent.values()].some((value) => value instanceof File)) return;
    whenLanded(event, () => copyOf(form, sent).submit());
  });
  document.addEventListener("click", (event) => {
    const link = event.target.closest?.("a[href]:not([target], [download], [href^='#'])");
    if (!link || event.defaultPrevented || event.button || event.shiftKey || withModifier(event)) return;
    whenLanded(event, () => window.location.assign(link.href));
  });
}

function whenLanded(event, go) {
  if (!underWay()) return;
  event.preventDefault();
  settled().then((refused) => {
    if (!refused) go();
  });
}

// The form itself is gone by then: the page's inside was put in anew.
function copyOf(form, sent) {
  const copy = document.createElement("form");
  copy.method = form.method;
  copy.action = form.action;
  copy.hidden = true;
  for (const [name, value] of sent) {
    const input = document.createElement("input");
    input.type = "hidden";
    input.name = name;
    input.value = value;
    copy.append(input);
  }
  document.body.append(copy);
  return copy;
}
