// Long work: how far it is, and a way to stop it.
import { lines } from "./ndjson.js";
import { look, queue } from "./page.js";
import { fresh } from "./started.js";

let stop = () => {};
let held = false;
for (const [name, down] of Object.entries({ pointerdown: true, pointerup: false, pointercancel: false })) {
  document.addEventListener(
    name,
    () => {
      held = down;
    },
    true,
  );
}

// What a hand holds is not taken out of it.
async function lifted() {
  while (held)
    await new Promise((on) => {
      setTimeout(on, 100);
    });
}

export function startWork() {
  const box = document.querySelector("[data-work]");
  if (box && !fresh(box, "work")) return;
  stop(); // what was under way before the page's inside was put in anew
  if (!box) return;
  const said = box.querySelector("[data-said]");
  const [halt, on] = [box.querySelector("[data-stop]"), box.querySelector("[data-on]")];
  const stand = (running) => {
    halt.hidden = !running;
    on.hidden = running;
  };
  const run = async () => {
    const asked = new AbortController();
    stop = () => asked.abort();
    stand(true);
    said.hidden = true;
    try {
      const answer = await fetch(box.dataset.work, { signal: asked.signal, credentials: "same-origin" });
      if (!answer.ok) throw new Error((await answer.text()).slice(0, 300));
      for await (const step of lines(answer.body)) {
        if (step.said) throw new Error(step.said);
        box.querySelector("progress").value = step.share;
        box.querySelector("[data-share]").textContent = step.waits
          ? "waits its turn"
          : `${Math.round(100 * step.share)} %`;
      }
      await lifted();
      if (box.isConnected) await queue(() => look(window.location.href));
    } catch (error) {
      if (!box.isConnected) return;
      said.textContent = error.name === "AbortError" ? "Stopped. Nothing was changed." : error.message;
      said.hidden = false;
      stand(false);
      on.focus();
    }
  };
  halt.addEventListener("click", () => stop());
  on.addEventListener("click", run);
  run();
}
