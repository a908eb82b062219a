// Ticks: kept on the device at once, sent when there is a network. The latest word on a step stands.
import { keep, kept } from "./device.js";
import { fresh } from "./started.js";

const heldKey = (garden) => `euhydra ticks ${garden}`;

const held = (garden) => kept(heldKey(garden), {});
const hold = (garden, ticks) => keep(heldKey(garden), ticks);

// What the app last said is done: the page that was kept may be older.
const knownKey = (garden) => `euhydra done ${garden}`;

function known(garden) {
  const done = kept(knownKey(garden), null);
  return done && new Set(done);
}

let sending = Promise.resolve();

export function startSteps() {
  const list = document.querySelector("[data-steps]");
  if (!list || !fresh(list, "steps")) return;
  const garden = list.dataset.steps;
  const boxes = [...list.querySelectorAll("[data-step]")];
  const told = list.querySelector("[data-kept]");
  // The count, and what is next: the part that one goes on with stands open.
  const count = () => {
    list.querySelector("[data-done]").textContent = boxes.filter((box) => box.checked).length;
    const next = boxes.find((box) => !box.checked);
    for (let fold = next?.closest("details"); fold; fold = fold.parentElement.closest("details"))
      fold.open = true;
  };
  const show = (done) => {
    const waiting = held(garden);
    for (const box of boxes) {
      box.checked = waiting[box.dataset.step]?.done ?? (done ? done.has(box.dataset.step) : box.checked);
    }
    count();
  };
  const send = (asks = false) => {
    sending = sending.then(async () => {
      const waiting = held(garden);
      const ticks = Object.entries(waiting).map(([step, said]) => ({ step, ...said }));
      if (!ticks.length && !asks) return;
      let answer;
      try {
        answer = await fetch(`/g/${garden}/ticks.json`, {
          method: "POST",
          headers: { "Content-Type": "application/json" },
          body: JSON.stringify({ ticks, sent_ms: Date.now() }),
          credentials: "same-origin",
        });
      } catch {
        told.textContent = `No network: ${ticks.length} kept on this device, sent when there is one.`;
        show(known(garden));
        return;
      }
      if (!answer.ok) {
        told.textContent = "The app did not take the ticks; they stay on this device.";
        return;
      }
      const now = held(garden);
      for (const { step, said_ms } of ticks) if (now[step]?.said_ms === said_ms) delete now[step];
      hold(garden, now);
      if (ticks.length) told.textContent = "Kept.";
      const { done } = await answer.json();
      localStorage.setItem(knownKey(garden), JSON.stringify(done));
      show(new Set(done));
    });
    return sending;
  };
  list.addEventListener("change", (event) => {
    const box = event.target;
    if (!box.dataset.step) return;
    hold(garden, { ...held(garden), [box.dataset.step]: { done: box.checked, said_ms: Date.now() } });
    count();
    send();
  });
  window.addEventListener("online", () => {
    if (list.isConnected) send(true);
  });
  show(null);
  send(true);
  navigator.serviceWorker?.register("/outdoors.js").catch(() => {
    told.textContent = "Kept here. This browser keeps no page without a network.";
  });
}
