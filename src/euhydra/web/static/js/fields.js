// Fields keep themselves: a change is posted, and the page's inside comes back with its figures.
import { post, queue } from "./page.js";

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
    if (form) keep(form, {}, null);
  });
  page.addEventListener("keydown", (event) => {
    const input = event.target;
    if (!input.matches?.("input.field") || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
    if (["text", "monthday", "outline"].includes(input.dataset.kind)) return;
    event.preventDefault();
    keep(input.form, { step: event.key === "ArrowUp" ? "up" : "down" }, input.id);
  });
}

function nextField(page, input) {
  const all = [...page.querySelectorAll(".field")].filter((f) => f.offsetParent || f.getClientRects().length);
  return all[(all.indexOf(input) + 1) % all.length]?.id ?? null;
}

function keep(form, extra, focusId) {
  const data = new URLSearchParams(new FormData(form));
  for (const [key, value] of Object.entries(extra)) data.set(key, value);
  const input = form.querySelector(".field");
  if (!extra.step && input.dataset.sent === input.value) {
    if (focusId) document.getElementById(focusId)?.select?.();
    return;
  }
  input.dataset.sent = input.value;
  queue(() => post(form.action, data, (answered) => document.getElementById(
    answered ? focusId ?? "" : input.id)));
}
