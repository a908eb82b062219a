// Fields keep themselves: a change is posted, and the page's inside comes back with its figures.
import { post, queue, typed } from "./page.js";
import { beingReplaced, unsent } from "./put.js";

export function startFields() {
  const page = document.getElementById("page");
  if (!page) return;

  page.addEventListener("submit", (event) => {
    if (!event.target.matches("[data-edit]")) return;
    event.preventDefault();
    const input = event.target.querySelector(".field");
    keep(event.target, {}, nextField(page, input));
  });
  page.addEventListener("change", (event) => {
    const form = event.target.closest("[data-edit]");
    if (form && !beingReplaced()) keep(form, {}, event.target.type === "checkbox" ? event.target.id : null);
  });
  // Text put back after another edit came in fires no change of its own when it is left.
  page.addEventListener("focusout", (event) => {
    const input = event.target;
    if (input.matches?.("[data-edit] input.field") && !beingReplaced() && unsent(input))
      keep(input.form, {}, null);
  });
  page.addEventListener("keydown", (event) => {
    const input = event.target;
    if (!input.matches?.("input.field") || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
    if (["text", "monthday", "outline"].includes(input.dataset.kind)) return;
    event.preventDefault();
    keep(input.form, { step: event.key === "ArrowUp" ? "up" : "down" }, input.id);
  });
  for (const input of page.querySelectorAll("[data-edit] .field")) {
    if (input !== document.activeElement && changedBefore(input)) keep(input.form, {}, null);
  }
}

// What was set while the scripts were still on their way.
export function changedBefore(input) {
  if (input.options) {
    return (
      input.selectedIndex !==
      Math.max(
        0,
        [...input.options].findIndex((o) => o.defaultSelected),
      )
    );
  }
  return ["checkbox", "radio"].includes(input.type)
    ? input.checked !== input.defaultChecked
    : input.value !== input.defaultValue;
}

function nextField(page, input) {
  const all = [...page.querySelectorAll(".field")].filter((f) => f.offsetParent || f.getClientRects().length);
  return all[(all.indexOf(input) + 1) % all.length]?.id ?? null;
}

function keep(form, extra, focusId) {
  const data = typed(form);
  for (const [key, value] of Object.entries(extra)) data.set(key, value);
  const input = form.querySelector(".field");
  if (!extra.step && input.dataset.sent === input.value) {
    if (focusId) document.getElementById(focusId)?.select?.();
    return;
  }
  input.dataset.sent = input.value;
  queue(() =>
    post(form.action.split("?")[0], data, (answered) =>
      document.getElementById(answered ? (focusId ?? "") : input.id),
    ),
  );
}
