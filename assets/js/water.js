// The water's surface on the section: drawn down or up, the server's section and flow follow.
import { hold } from "./hold.js";
import { latest } from "./latest.js";
import { look, queue } from "./page.js";
import { fresh } from "./started.js";

const STEP = 5;

export function startWater() {
  const handle = document.querySelector("[data-water]");
  if (!handle || !fresh(handle, "water")) return;
  handle.addEventListener("pointerdown", (event) => begin(handle, event));
  handle.addEventListener("keydown", (event) => {
    const way = { ArrowUp: STEP, ArrowRight: STEP, ArrowDown: -STEP, ArrowLeft: -STEP, Home: -100, End: 100 }[
      event.key
    ];
    if (!way) return;
    event.preventDefault();
    settle(Number(handle.getAttribute("aria-valuenow")) + way);
  });
}

const within = (share) => Math.min(Math.max(Math.round(share), 0), 100);

function settle(share) {
  const address = new URL(window.location.href);
  address.searchParams.set("level", String(within(share)));
  queue(() => look(address.href, () => document.querySelector("[data-water]")));
}

function begin(handle, event) {
  const garden = document.querySelector("[data-garden]").dataset.garden;
  const svg = handle.ownerSVGElement;
  const box = svg.parentElement;
  const [full, low] = [Number(handle.dataset.full), Number(handle.dataset.low)];
  const shareAt = (e) => {
    const shown = box.querySelector("svg");
    const y = new DOMPoint(e.clientX, e.clientY).matrixTransform(shown.getScreenCTM().inverse()).y;
    return within((100 * (low - y)) / Math.max(low - full, 1));
  };
  let share = Number(handle.getAttribute("aria-valuenow"));
  const ask = latest(async (level) => {
    const query = new URLSearchParams(window.location.search);
    query.set("level", level);
    const answer = await fetch(`/g/${garden}/push/water?${query}`, { credentials: "same-origin" });
    if (!answer.ok) return;
    box.innerHTML = (await answer.json()).section;
  });
  const before = share;
  const settled = async (there) => {
    await ask();
    settle(there);
  };
  hold(event, {
    move: (e) => {
      const there = shareAt(e);
      if (there !== share) ask(String((share = there)));
    },
    end: () => settled(share),
    cancel: () => settled(before),
  });
}
