// The ground plan: which tool a touch on it uses, and what each button over it does.
import { keep, pick } from "./deeds.js";
import { dragCorner, dragThing, dragTurn, meant, pathOf } from "./drag.js";
import { drawThing, measure, movePicture, pickWithin, putDripper } from "./draw.js";
import { onKey } from "./keys.js";
import { Sheet } from "./sheet.js";
import { fresh } from "../started.js";

const tools = {
  mode: "pick",
  draws: "",
  several: false,
  step: null,
  use(mode, draws = "") {
    this.mode = mode;
    this.draws = draws;
    show();
  },
  tell(words) {
    const note = document.querySelector("[data-plan-told]");
    if (note) note.textContent = words;
  },
};

// Whether a drag on the plan's ground is the plan's own, so that it must not pan.
export function planTakes(event) {
  const target = event.target;
  if (event.type === "wheel" || event.touches?.length > 1) return false;
  return (
    Boolean(target.closest("[data-thing], [data-piece], [data-handle], [data-turn-of], foreignObject")) ||
    (Boolean(target.closest("[data-plan]")) && (tools.mode !== "pick" || tools.several || event.shiftKey))
  );
}

function show() {
  const box = document.querySelector("[data-plan-tools]");
  if (!box) return;
  for (const button of box.querySelectorAll("[data-mode]")) {
    const on = button.dataset.mode === tools.mode && (button.dataset.draw ?? "") === tools.draws;
    button.setAttribute("aria-pressed", String(on));
  }
  box.querySelector("[data-several]").setAttribute("aria-pressed", String(tools.several));
  const plan = document.querySelector("[data-plan]");
  plan.dataset.tool = tools.mode;
  plan.classList.toggle("several", tools.several);
}

export function startPlan() {
  const svg = document.querySelector("[data-plan]");
  if (!svg) return;
  const sheet = new Sheet(svg);
  if (fresh(svg, "plan")) {
    svg.addEventListener("pointerdown", (event) => begin(sheet, event));
    svg.addEventListener("keydown", (event) => onKey(sheet, event, tools));
  }
  startTools(sheet);
  show();
}

function begin(sheet, event) {
  if (event.button !== 0 || event.target.closest("foreignObject")) return;
  const over = (selector) => event.target.closest(selector);
  const start = { draw: drawThing, dripper: putDripper, measure, picture: movePicture }[tools.mode];
  if (start) {
    event.preventDefault();
    return start(sheet, event, tools);
  }
  if (over("[data-handle]")) return held(event, () => dragCorner(sheet, event, tools));
  if (over("[data-turn-of]")) return held(event, () => dragTurn(sheet, event));
  if (pathOf(event.target) && meant(sheet, event.target).drags) return onThing(sheet, event);
  if (tools.several || event.shiftKey) return held(event, () => pickWithin(sheet, event));
  return emptied(sheet, event);
}

// A mouse drags what it is over, a finger what is picked already; else a touch picks.
function onThing(sheet, event) {
  const { drags, picks } = meant(sheet, event.target);
  if (event.pointerType === "mouse" || sheet.picked.includes(drags)) {
    return held(event, () => dragThing(sheet, event, tools));
  }
  const taken = () => pick(tools.several ? [...sheet.picked, picks] : [picks]);
  return event.target.addEventListener("click", taken, { once: true });
}

function held(event, run) {
  event.preventDefault();
  run();
}

// A click on bare ground lets go of what is picked; a drag there pans.
function emptied(sheet, event) {
  if (!sheet.picked.length) return;
  const from = [event.clientX, event.clientY];
  sheet.svg.addEventListener(
    "click",
    (e) => {
      if (Math.hypot(e.clientX - from[0], e.clientY - from[1]) < 4) pick([], () => null);
    },
    { once: true },
  );
}

function startTools(sheet) {
  const box = document.querySelector("[data-plan-tools]");
  const snap = box.querySelector("[data-snap]");
  if (tools.step !== null) snap.value = String(tools.step);
  if (snap.selectedIndex < 0) snap.selectedIndex = 3;
  tools.step = Number(snap.value);
  if (!fresh(box, "tools")) return;
  snap.addEventListener("change", () => {
    tools.step = Number(snap.value);
  });
  box.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (button?.matches("[data-several]")) {
      tools.several = !tools.several;
      show();
    } else if (button?.matches("[data-mode]")) {
      choose(sheet, button, event.detail === 0);
    }
  });
  box.addEventListener("submit", (event) => {
    if (!event.target.matches("[data-deeds]")) return;
    event.preventDefault();
    event.submitter.closest("details")?.removeAttribute("open");
    keep({ do: event.submitter.value, of: sheet.picked });
  });
}

// By keyboard a thing to draw is put in the middle of what is seen, at its usual size.
function choose(sheet, button, byKeyboard) {
  const { mode, draw = "" } = button.dataset;
  if (mode === "draw" && byKeyboard) {
    const at = sheet.middle();
    tools.use("pick");
    keep({ do: `draw:${draw}`, east: at.x, north: at.y });
  } else {
    tools.use(tools.mode === mode && tools.draws === draw ? "pick" : mode, draw);
  }
}
