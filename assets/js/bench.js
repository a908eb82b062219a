// The stand-in devices: time steps or runs at speed, faults are given and mended.
import { fresh } from "./started.js";

const PAUSE_MS = 350;

export function startBench() {
  const bench = document.querySelector("[data-bench]");
  if (!bench || !fresh(bench, "bench")) return;
  const [panel, run] = ["[data-bench-panel]", "[data-run]"].map((part) => bench.querySelector(part));
  let running = false;
  let asking = Promise.resolve();

  const tell = (where, data) => {
    asking = asking.then(async () => {
      const answer = await fetch(`${bench.dataset.address}/${where}`, {
        method: "POST",
        body: new URLSearchParams(data),
        credentials: "same-origin",
      });
      if (!answer.ok) return stop();
      const focused = document.activeElement?.dataset?.fault;
      const open = panel.querySelector("#faults")?.open;
      panel.innerHTML = await answer.text();
      if (open) panel.querySelector("#faults").open = true;
      if (focused !== undefined) panel.querySelector(`[data-fault="${focused}"]`)?.focus();
    });
    return asking;
  };
  const stop = () => {
    running = false;
    run.setAttribute("aria-pressed", "false");
    run.textContent = "Run at speed";
  };
  const go = async () => {
    while (running && bench.isConnected) {
      await tell("clock", { minutes: run.dataset.run });
      await new Promise((done) => setTimeout(done, PAUSE_MS));
    }
  };
  bench.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (!button) return;
    if (button.dataset.step) tell("clock", { minutes: button.dataset.step });
    else if (button.dataset.fault !== undefined) tell("faults", { fault: button.dataset.fault });
    else if (button.dataset.again !== undefined) tell("start", {});
    else if (button.dataset.run && running) stop();
    else if (button.dataset.run) {
      running = true;
      button.setAttribute("aria-pressed", "true");
      button.textContent = "Stop";
      go();
    }
  });
}
