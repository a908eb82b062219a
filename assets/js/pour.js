// First pour: the drawings answer while one types; the server has every figure.
import { changedBefore } from "./fields.js";
import { typed } from "./page.js";

const WAIT_MS = 220;
const AGAIN_MS = 2000;

export function startPour() {
  const form = document.querySelector("[data-pour]");
  if (!form) return;
  form.querySelector("[aria-invalid]")?.focus();
  let timer = 0;
  let asked = 0;

  const ask = async () => {
    const mine = ++asked;
    let said;
    try {
      const answer = await fetch("/first-pour/preview", {
        method: "POST",
        body: typed(form),
        credentials: "same-origin",
      });
      said = answer.ok ? await answer.json() : null;
    } catch {
      said = null;
    }
    if (mine !== asked) return;
    if (said) show(form, said);
    else wait(AGAIN_MS);
  };
  const wait = (ms) => {
    clearTimeout(timer);
    timer = setTimeout(ask, ms);
  };
  form.addEventListener("input", (event) => {
    if (/^(rain_mm|wet_days|tmin_c|tmax_c)_/.test(event.target.name)) form.archetype.value = "own";
    if (event.target.name === "archetype" && event.target.value === "own") {
      form.querySelector("[data-months]").open = true;
    }
    if (event.target.name === "archetype" && event.target.value !== "own") form.latitude_deg.value = "";
    wait(WAIT_MS);
  });
  form.addEventListener("click", (event) => {
    const step = event.target.closest("[data-step]");
    if (!step) return;
    const field = form.elements[step.dataset.of];
    field.value = String(Math.max(1, (parseInt(field.value, 10) || 0) + Number(step.dataset.step)));
    field.dispatchEvent(new Event("input", { bubbles: true }));
  });
  // What was typed before this script came, or was put back by the browser, is answered too.
  if ([...form.querySelectorAll("input, select")].some(changedBefore)) wait(0);
}

function show(form, said) {
  for (const [key, { drawing, say }] of Object.entries(said.previews)) {
    form.querySelector(`[data-preview="${key}"]`).innerHTML = drawing;
    form.querySelector(`[data-say="${key}"]`).textContent = say;
  }
  form.querySelector("[data-panel]").innerHTML = said.panel;
  for (const place of form.querySelectorAll("[data-err]")) answer(form, place, said.errors);
  for (const [name, text] of Object.entries(said.months)) form.elements[name].value = text;
  if (!form.latitude_deg.value && document.activeElement !== form.latitude_deg) {
    form.latitude_deg.value = said.latitude;
  }
}

// What is wrong with a field, beside it; what is of no one field is told in the panel alone.
function answer(form, place, errors) {
  const inputs = form.querySelectorAll(`[name="${place.dataset.err}"]`);
  const words = inputs.length ? (errors[place.dataset.err] ?? "") : "";
  if (place.textContent !== words) place.textContent = words;
  place.hidden = !words;
  for (const input of inputs) {
    if (words) input.setAttribute("aria-invalid", "true");
    else input.removeAttribute("aria-invalid");
  }
}
