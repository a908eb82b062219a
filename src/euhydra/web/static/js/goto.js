// Keys 1 to 9 and 0 jump to a station; "/" opens the go-to box, an Alpine component.
import Alpine from "/static/vendor/alpine.js";
import { settled, withModifier } from "./page.js";
import { toggleTheme } from "./theme.js";

function typing(target) {
  return target.matches?.("input, select, textarea") || target.isContentEditable;
}

function actions() {
  const links = [...document.querySelectorAll(".run a")].map((a, i) => ({
    name: a.querySelector("b").textContent,
    key: String((i + 1) % 10),
    run: () => a.click(),
  }));
  const button = (selector, name) => {
    const found = document.querySelector(selector);
    return found && !found.disabled ? [{ name, key: "", run: () => found.click() }] : [];
  };
  return [
    ...links,
    ...button("form[action*='/undo'] button", "Undo"),
    ...button("form[action*='/redo'] button", "Redo"),
    ...button("form[action*='/units'] button", "Change units"),
    { name: "Start a garden", key: "", run: () => window.location.assign("/first-pour") },
    { name: "All gardens", key: "", run: () => window.location.assign("/") },
    { name: "Day or dusk colours", key: "", run: toggleTheme },
    { name: "Print this page", key: "", run: () => window.print() },
    {
      name: "The whole garden as a PDF",
      key: "",
      run: () =>
        window.location.assign(
          `/g/${document.querySelector("[data-garden]").dataset.garden}/export/garden.pdf`,
        ),
    },
    {
      name: "Export this garden",
      key: "",
      run: () =>
        window.location.assign(
          `/g/${document.querySelector("[data-garden]").dataset.garden}/export/garden.json`,
        ),
    },
  ];
}

// The button is looked for once what is under way has come back: until then it speaks of the state
// before, and the first edit of a garden would find nothing to undo.
async function stepThrough(way) {
  if (await settled()) return;
  document.querySelector(`form[action*='/${way}'] button`)?.click();
}

function toggleList(event) {
  const list = document.getElementById("measures");
  if (!list) return;
  event.preventDefault(); // else the letter lands in the field that gets the focus
  list.open = !list.open;
  list.scrollIntoView({ block: "nearest" });
  if (list.open) list.querySelector(".field")?.focus();
}

export function startGoto() {
  if (!document.getElementById("page")) return;
  const dialog = document.createElement("dialog");
  dialog.className = "goto";
  dialog.setAttribute("aria-label", "Go to or do");
  dialog.setAttribute("x-data", "goto");
  dialog.innerHTML = `
    <form method="dialog" x-on:submit.prevent="first">
      <label class="lab" for="goto-box">Go to a station, or do something</label>
      <input class="in" id="goto-box" x-model="sought" autocomplete="off">
    </form>
    <ul><template x-for="item in found" x-bind:key="item.name"><li>
      <button class="row" type="button" x-on:click="pick(item)"><span x-text="item.name"></span><kbd x-show="item.key" x-text="item.key"></kbd></button>
    </li></template></ul>`;
  document.body.append(dialog);
  Alpine.data("goto", () => ({
    sought: "",
    all: [],
    get found() {
      const want = this.sought.trim().toLowerCase();
      return this.all.filter((item) => item.name.toLowerCase().includes(want));
    },
    open() {
      this.sought = "";
      this.all = actions();
      dialog.showModal();
    },
    pick(item) {
      dialog.close();
      item.run();
    },
    first() {
      if (this.found.length) this.pick(this.found[0]);
    },
    init() {
      dialog.addEventListener("open-goto", () => this.open());
    },
  }));
  Alpine.start();

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
