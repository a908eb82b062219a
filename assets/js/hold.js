// A hold: what a mouse, pen or finger takes, from there to where it lets go. Every drag is one.

const STILL_PX = 4;
let holding = false;

// A finger that holds something moves that, and not the page; else the browser takes the touch away.
const keepStill = (event) => {
  if (holding && event.cancelable) event.preventDefault();
};
document.addEventListener("touchmove", keepStill, { passive: false });

/**
 * Follows one pointer to its release. Escape, or a touch that the browser takes away, puts back.
 * @param {PointerEvent} event where it begins
 * @param {{ move: (e: PointerEvent) => void, end: (gone: boolean, e: PointerEvent) => void,
 *   cancel?: () => void }} on `end` is told whether it went anywhere
 */
export function hold(event, on, still = STILL_PX) {
  event.preventDefault();
  const { pointerId, clientX, clientY, target } = event;
  const ends = new AbortController();
  const mine = (run) => (e) => {
    if (e.pointerId === pointerId) run(e);
  };
  let gone = still < 0;
  const over = () => {
    holding = false;
    ends.abort();
  };
  const move = (e) => {
    gone ||= Math.hypot(e.clientX - clientX, e.clientY - clientY) > still;
    if (gone) on.move(e);
  };
  const release = (e) => {
    over();
    on.end(gone, e);
  };
  const cancel = () => {
    over();
    on.cancel?.();
  };
  const escape = (e) => {
    if (e.key !== "Escape") return;
    e.stopPropagation();
    cancel();
  };
  holding = true;
  const { signal } = ends;
  // What is drawn anew under a finger leaves the page, and its touches no longer come by it.
  target.addEventListener("touchmove", keepStill, { passive: false, signal });
  window.addEventListener("pointermove", mine(move), { signal });
  window.addEventListener("pointerup", mine(release), { signal });
  window.addEventListener("pointercancel", mine(cancel), { signal });
  window.addEventListener("keydown", escape, { capture: true, signal });
}
