// A finger is blunt: what it touches beside a small thing of a drawing is meant for that thing.

const REACH_PX = 22; // half of what a finger needs
const HANDLES = "[data-handle], [data-turn-of], [data-drag], [data-water]";
const THINGS = "[data-thing], [data-piece], [data-away], [data-zone-plot]";
let dragging = false;

// How far a point is from a box of the screen.
export function apart({ left, right, top, bottom }, x, y) {
  return Math.hypot(Math.max(left - x, 0, x - right), Math.max(top - y, 0, y - bottom));
}

function nearest(svg, which, x, y) {
  let found = null;
  let least = REACH_PX;
  for (const thing of svg.querySelectorAll(which)) {
    const far = apart(thing.getBoundingClientRect(), x, y);
    if (far < least) [found, least] = [thing, far];
  }
  return found;
}

export function startReach() {
  document.addEventListener("pointerdown", onDown, { capture: true });
  // A handle is dragged, and the page does not move with it; beside a mere thing it may.
  document.addEventListener(
    "touchstart",
    (event) => {
      if (dragging) event.preventDefault();
      dragging = false;
    },
    { capture: true, passive: false },
  );
}

function onDown(event) {
  if (!event.isTrusted) return;
  dragging = false;
  if (event.pointerType !== "touch" || !event.isPrimary) return;
  const svg = event.target.closest("svg.drawing");
  if (!svg || event.target.closest(`${HANDLES}, foreignObject`)) return;
  const { clientX: x, clientY: y } = event;
  if (event.target.closest(THINGS)) return; // what is touched itself is meant
  const handle = nearest(svg, HANDLES, x, y);
  const meant = handle ?? nearest(svg, THINGS, x, y);
  if (!meant) return;
  dragging = Boolean(handle);
  event.stopPropagation();
  redirect(event, meant);
}

function redirect(event, meant) {
  const { pointerId, pointerType, clientX, clientY, button } = event;
  const more = { bubbles: true, cancelable: true, pointerId, pointerType, clientX, clientY, button };
  const click = (touched) => {
    if (!touched.isTrusted) return;
    touched.stopPropagation();
    meant.dispatchEvent(new MouseEvent("click", { bubbles: true, clientX, clientY }));
  };
  document.addEventListener("click", click, { capture: true, once: true });
  // A touch that dragged ends without a click.
  const over = () => setTimeout(() => document.removeEventListener("click", click, { capture: true }), 400);
  window.addEventListener("pointerup", over, { once: true });
  meant.dispatchEvent(new PointerEvent("pointerdown", more));
}
