// Keys 1 to 9 and 0 jump to a station; "/" opens the go-to box, an Alpine component.
import Alpine from "/static/vendor/alpine.js";
import { settled, withModifier } from "./page.js";
import { search } from "./search.js";
import { toggleTheme } from "./theme.js";
import { toPlace, visit } from "./visit.js";

function typing(target) {
  return target.matches?.("input, select, textarea") || target.isContentEditable;
}

const button = (selector, name, more = "") => {
  const found = document.querySelector(selector);
  return found && !found.disabled ? [does(name, () => found.click(), more)] : [];
};

const does = (name, run, more = "") => ({ words: name, of: "do it", also: more, run });

const garden = () => document.querySelector("[data-garden]").dataset.garden;

const goes = (address) => () => window.location.assign(address);

// What can be done from here, whatever the garden.
function actions() {
  return [
    ...button("form[action*='/undo'] button", "Undo", "back take back"),
    ...button("form[action*='/redo'] button", "Redo", "again forward"),
    ...button("form[action*='/units'] button", "Change units", "gallons litres liters feet metres meters"),
    does("Print this page", () => window.print(), "paper"),
    does("The whole garden as a PDF", goes(`/g/${garden()}/export/garden.pdf`), "print paper"),
    does("Export this garden", goes(`/g/${garden()}/export/garden.json`), "save download file json"),
    does("Start a garden", goes("/first-pour"), "new first pour create"),
    does("All gardens", goes("/"), "home open switch delete remove copy"),
    does("Delete a garden", goes("/"), "remove throw away"),
    does("Day or dusk colours", toggleTheme, "dark light theme night"),
  ];
}

// What the garden's pages lead to, as the server last told it.
const told = { of: "", places: [] };

async function places() {
  const { head } = document.querySelector("[data-head]").dataset;
  const of = `${garden()} ${head}`;
  if (told.of === of) return told.places;
  const answer = await fetch(`/g/${garden()}/places.json`, { credentials: "same-origin" }).catch(() => null);
  if (!answer?.ok) return told.places;
  Object.assign(told, { of, places: await answer.json() });
  return told.places;
}

// The button is looked for once what is under way has come back: until then it speaks of the state
// before, and the first edit of a garden would find nothing to undo.
async function stepThrough(way) {
  if (await settled()) return;
  document.querySelector(`form[action*='/${way}'] button`)?.click();
}

// All measures of the station as a list, with a box that leaves those that answer to it.
function toggleList(event) {
  const list = document.getElementById("measures");
  if (!list) return;
  event.preventDefault(); // else the letter lands in the field that gets the focus
  list.open = !list.open;
  list.scrollIntoView({ block: "nearest" });
  if (list.open) list.querySelector("[data-sift]").focus();
}

function sift(box) {
  const list = box.closest("#measures");
  for (const group of list.querySelectorAll("[data-group]")) {
    const all = [...group.querySelectorAll("[data-measure]")];
    for (const one of all) {
      const text = `${group.dataset.group} ${one.dataset.measure}`.toLowerCase();
      one.hidden = !box.value
        .toLowerCase()
        .split(/\s+/)
        .every((word) => text.includes(word));
    }
    group.hidden = all.every((one) => one.hidden);
  }
  list.querySelector("[data-none]").hidden = Boolean(list.querySelector("[data-group]:not([hidden])"));
}

export function startGoto() {
  if (!document.getElementById("page")) return;
  const dialog = document.createElement("dialog");
  dialog.className = "goto";
  dialog.setAttribute("aria-label", "Go to or do");
  dialog.setAttribute("x-data", "goto");
  dialog.innerHTML = `
    <form method="dialog" x-on:submit.prevent="chosen">
      <label class="lab" for="goto-box">Go to anything, or do something</label>
      <input class="in" id="goto-box" x-model="sought" x-on:keydown="move" autocomplete="off" role="combobox"
        aria-expanded="true" aria-controls="goto-found" aria-autocomplete="list" x-bind:aria-activedescendant="marked">
    </form>
    <ul id="goto-found" role="listbox" aria-label="Found"><template x-for="(item, n) in found" x-bind:key="n"><li role="option"
      x-bind:id="idOf(n)" x-bind:aria-selected="isAt(n)" class="row" x-on:click="pick(item)"><span x-text="item.words"></span><small x-text="item.of"></small></li></template></ul>
    <p class="say" role="status" x-text="none"></p>`;
  document.body.append(dialog);
  Alpine.data("goto", () => ({
    sought: "",
    all: [],
    at: 0,
    early: null, // what was pressed before the places came, done once they are there
    get found() {
      return search(this.all, this.sought);
    },
    get marked() {
      return this.found.length ? this.idOf(this.at) : "";
    },
    get none() {
      const said = `Nothing here answers to “${this.sought}”. Try barrel, leak, price or holiday.`;
      return this.sought.trim() && this.all.length && !this.found.length ? said : "";
    },
    idOf: (n) => `goto-${n}`,
    isAt(n) {
      return String(n === this.at);
    },
    async open() {
      this.sought = "";
      this.at = 0;
      this.all = [...told.places, ...actions()];
      dialog.showModal();
      this.early = [];
      this.all = [...(await places().catch(() => told.places)), ...actions()];
      const pressed = dialog.open ? (this.early ?? []) : [];
      this.early = null;
      for (const press of pressed) press();
    },
    move(event) {
      const way = { ArrowDown: 1, ArrowUp: -1 }[event.key];
      if (!way) return;
      event.preventDefault();
      if (this.early) this.early.push(() => this.step(way));
      else this.step(way);
    },
    step(way) {
      const count = this.found.length;
      this.at = count ? (this.at + way + count) % count : 0;
      this.$nextTick(() => document.getElementById(this.idOf(this.at))?.scrollIntoView({ block: "nearest" }));
    },
    pick(item) {
      dialog.close();
      if (item.run) item.run();
      else visit(item.href);
    },
    chosen() {
      if (this.early) this.early.push(() => this.chosen());
      else if (this.found.length) this.pick(this.found[Math.min(this.at, this.found.length - 1)]);
    },
    init() {
      dialog.addEventListener("open-goto", () => this.open());
      this.$watch("sought", () => {
        this.at = 0;
      });
    },
  }));
  Alpine.start();

  document.addEventListener("input", (event) => {
    if (event.target.matches("[data-sift]")) sift(event.target);
  });
  toPlace(window.location.hash);
  const open = () => dialog.dispatchEvent(new CustomEvent("open-goto"));
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-goto]")) open();
  });
  document.addEventListener("keydown", (event) => {
    if (typing(event.target)) return;
    if (event.key === "z" && event.ctrlKey) {
      event.preventDefault();
      stepThrough(event.shiftKey ? "redo" : "undo");
    }
    if (withModifier(event) || dialog.open) return;
    if (event.key === "/") {
      event.preventDefault();
      open();
    } else plainKey(event);
  });
}

// A digit goes to a station, l lists its measures.
function plainKey(event) {
  if (/^[0-9]$/.test(event.key)) document.querySelectorAll(".run a")[(Number(event.key) + 9) % 10]?.click();
  if (event.key === "l") toggleList(event);
}
