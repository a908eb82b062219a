// Long work: how far it is, and a way to stop it. It ends with the part of the page that shows it.
import Alpine from "/static/vendor/alpine.js";
import { lines } from "./ndjson.js";
import { look, queue } from "./page.js";

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

const shareOf = (step) => (step.waits ? "waits its turn" : `${Math.round(100 * step.share)} %`);

export function longWork() {
  Alpine.data("work", () => ({
    running: true,
    share: 0,
    far: "0 %",
    said: "",
    asked: null,
    init() {
      this.run();
    },
    destroy() {
      this.asked.abort();
    },
    stop() {
      this.asked.abort();
    },
    get halted() {
      return !this.running;
    },
    async run() {
      const box = this.$root;
      this.asked = new AbortController();
      Object.assign(this, { running: true, said: "" });
      try {
        await this.follow(box.dataset.work);
        await lifted();
        if (box.isConnected) await queue(() => look(window.location.href));
      } catch (error) {
        if (!box.isConnected) return;
        const said = error.name === "AbortError" ? "Stopped. Nothing was changed." : error.message;
        Object.assign(this, { running: false, said });
        this.$nextTick(() => this.$refs.on.focus());
      }
    },
    async follow(address) {
      const answer = await fetch(address, { signal: this.asked.signal, credentials: "same-origin" });
      if (!answer.ok) throw new Error((await answer.text()).slice(0, 300));
      for await (const step of lines(answer.body)) {
        if (step.said) throw new Error(step.said);
        Object.assign(this, { share: step.share ?? this.share, far: shareOf(step) });
      }
    },
  }));
}
