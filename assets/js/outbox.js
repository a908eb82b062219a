// Entries made where there is no network: kept on the device, sent when there is one, each of them once.
import Alpine from "/static/vendor/alpine.js";
import { keep, kept } from "./device.js";
import { look, queue } from "./page.js";

const waitingKey = (garden) => `euhydra log ${garden}`;

const waiting = (garden) => kept(waitingKey(garden), []);
const others = (garden, entry) => waiting(garden).filter((other) => other.entry !== entry.entry);

// Keeps an entry on the device, in place of what waited under the same name.
export function hold(garden, entry) {
  keep(waitingKey(garden), [...others(garden, entry), entry]);
  document.dispatchEvent(new CustomEvent("outbox"));
}

// Answers { at } (where it now stands) when it was kept, null when there is no network, else { why }.
export async function send(garden, entry) {
  let answer;
  try {
    answer = await fetch(`/g/${garden}/log`, {
      method: "POST",
      body: new URLSearchParams(entry),
      credentials: "same-origin",
    });
  } catch {
    return null;
  }
  if (answer.ok) return { at: answer.url };
  const page = new DOMParser().parseFromString(await answer.text(), "text/html");
  return { why: page.querySelector("#log-err")?.textContent ?? "It was not taken." };
}

// The log without what was asked of it; any other page as it is.
const here = (garden) =>
  /\/keep$/.test(window.location.pathname) ? `/g/${garden}/keep?view=log` : window.location.href;

const labelOf = (kind) =>
  document.querySelector(`template[data-entry-of="${CSS.escape(kind)}"]`)?.content.querySelector("h2")
    .textContent ?? kind;

const told = (entry) =>
  [entry.day, labelOf(entry.kind), entry.typed || entry.word, entry.note].filter(Boolean).join(", ");

function wait(count) {
  if (!count) return "";
  return count === 1
    ? "1 entry waits on this device; it is sent when there is a network."
    : `${count} entries wait on this device; they are sent when there is a network.`;
}

export function outbox() {
  Alpine.data("outbox", () => ({
    entries: [],
    refused: {},
    sent: false, // while one is at another entry
    get garden() {
      return this.$root.dataset.waiting;
    },
    get shown() {
      return Boolean(this.words);
    },
    get words() {
      const sent = this.sent ? "What waited was sent; it shows once this entry is logged. " : "";
      return sent + wait(this.entries.length);
    },
    init() {
      this.read();
      this.flush();
    },
    read() {
      this.entries = waiting(this.garden);
    },
    wordsOf(entry) {
      return [`${told(entry)}.`, this.refused[entry.entry]].filter(Boolean).join(" ");
    },
    takesOut: (entry) => `Take out: ${told(entry)}`,
    takeOut(entry) {
      keep(waitingKey(this.garden), others(this.garden, entry));
      this.read();
    },
    async flush() {
      let sent = 0;
      for (const entry of waiting(this.garden)) {
        const said = await send(this.garden, entry);
        if (said === null) break;
        if (said.why) this.refused[entry.entry] = said.why;
        else {
          this.takeOut(entry);
          sent += 1;
        }
      }
      if (!sent || !this.$root.isConnected) return;
      if (document.getElementById("entry")) this.sent = true;
      else if (!document.querySelector("[data-station]")) window.location.reload();
      else queue(() => look(here(this.garden)));
    },
  }));
}
