// The go-to box: what answers to some words is gone to, or done.
import Alpine from "/static/vendor/alpine.js";
import { search } from "./search.js";
import { toggleTheme } from "./theme.js";
import { visit } from "./visit.js";

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

export function gotoBox() {
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
      const dialog = this.$root;
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
      this.$root.close();
      if (item.run) item.run();
      else visit(item.href);
    },
    chosen() {
      if (this.early) this.early.push(() => this.chosen());
      else if (this.found.length) this.pick(this.found[Math.min(this.at, this.found.length - 1)]);
    },
    init() {
      this.$watch("sought", () => {
        this.at = 0;
      });
    },
  }));
}
