// The plan by keyboard: pick, move by the snap, turn, copy, pin, take away.
import { keep, pick } from "./deeds.js";
import { pathOf, toggled } from "./drag.js";

const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
const PAUSE_MS = 350;
const FREE_STEP_M = 0.05;
let waiting = null;

export function onKey(sheet, event, tools) {
  const path = event.target.matches?.("[data-thing], [data-piece]") ? pathOf(event.target) : null;
  if (event.ctrlKey || event.metaKey || !path) return;
  const of = sheet.picked.includes(path) ? sheet.picked : [path];
  const picks = () => pick(event.shiftKey || tools.several ? toggled(sheet, path) : [path]);
  const does = {
    Enter: picks,
    " ": picks,
    Escape: () => pick([], () => null),
    Delete: () => keep({ do: "remove", of }),
    Backspace: () => keep({ do: "remove", of }),
    "[": () => keep({ do: "turn:15", of }),
    "]": () => keep({ do: "turn:-15", of }),
    d: () => keep({ do: "copy", of }),
    p: () => keep({ do: sheet.group(path).dataset.pinned ? "unpin" : "pin", of }),
  }[event.key];
  if (does) {
    event.preventDefault();
    event.stopPropagation();
    does();
  } else if (ARROWS[event.key]) {
    event.preventDefault();
    nudge(sheet, of, ARROWS[event.key], stepOf(tools, event));
  }
}

const stepOf = (tools, event) => (tools.step || FREE_STEP_M) * (event.shiftKey ? 0.1 : 1);

// Presses that follow each other quickly are one move, and one change to undo.
function nudge(sheet, of, [x, y], step) {
  if (waiting && waiting.of.join() !== of.join()) flush();
  waiting ??= { of, east: 0, north: 0 };
  waiting.east += x * step;
  waiting.north += y * step;
  for (const g of of.map((p) => sheet.group(p)).filter((g) => g?.dataset.thing)) {
    g.setAttribute("transform", `translate(${waiting.east * sheet.scale} ${-waiting.north * sheet.scale})`);
  }
  clearTimeout(waiting.timer);
  waiting.timer = setTimeout(flush, PAUSE_MS);
}

function flush() {
  if (!waiting) return;
  const { of, east, north, timer } = waiting;
  clearTimeout(timer);
  waiting = null;
  const address = new URL(window.location.href);
  address.searchParams.set("sel", of.join(","));
  window.history.replaceState(null, "", address);
  keep({ do: "move", of, east, north });
}

window.addEventListener("pagehide", flush);
