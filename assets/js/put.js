// Puts a page's inside in place of the one that stands: only what differs is touched, so that scroll,
// focus and what is open stay as they were.
import { Idiomorph } from "/static/vendor/morph.js";
import { drawCharts } from "./charts.js";
import { keepZoom } from "./zoom.js";

let taking = false;

// Whether the page's inside is being put in place: what loses focus then was not left by a person.
export const beingReplaced = () => taking;

// What works on by itself (``data-anew``) ends with what it was made for and begins again. Answers
// what is to have the focus: the field that one was typing in, or what has just come up for it.
export function put(page, html) {
  const next = page.cloneNode(false);
  next.innerHTML = html;
  keepOpen(page, next);
  keepWaiting(page, next);
  keepZoom(next);
  drawCharts(next);
  const focused = document.activeElement?.id;
  const typing = halfTyped(page);
  const stood = landing(page)?.dataset.lands;
  taking = true;
  try {
    for (const gone of page.querySelectorAll("[data-anew]")) gone.remove();
    Idiomorph.morph(page, next.childNodes, {
      morphStyle: "innerHTML",
      callbacks: { beforeNodeMorphed: differs, beforeAttributeUpdated: answered },
    });
    document.dispatchEvent(new CustomEvent("placed"));
  } finally {
    taking = false;
  }
  const half = typing.map(putBack).find((input) => input?.id === focused);
  const lands = landing(page);
  return { half, lands: lands && lands.dataset.lands !== stood ? lands : null };
}

const landing = (page) => page.querySelector("[data-lands]");

const differs = (old, now) =>
  !(old instanceof SVGSVGElement && old.isEqualNode(now)) && !old.matches?.("[data-stays], [x-model]");

// What a component has made of an element is its own.
const answered = (name, element) => !["style", "x-cloak"].includes(name) || !element.hasAttribute("x-show");

function keepOpen(page, next) {
  for (const was of page.querySelectorAll("details[open]")) {
    const key = was.dataset.figure
      ? `details[data-figure="${CSS.escape(was.dataset.figure)}"]`
      : was.id && `#${CSS.escape(was.id)}`;
    const again = key && next.querySelector(key);
    if (again) again.open = true;
  }
}

// What stood in a part that comes later stays until what is new has come.
function keepWaiting(page, next) {
  for (const part of next.querySelectorAll("[data-part][data-waits]")) {
    const was = page.querySelector(`[data-part="${CSS.escape(part.dataset.part)}"]`);
    if (was) part.append(...[...was.childNodes].map((node) => node.cloneNode(true)));
  }
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
