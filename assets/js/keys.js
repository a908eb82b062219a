// Keys 1 to 9 and 0 jump to a station, g to the garden, l lists its measures, "/" opens the go-to box, and what was done
// last is taken back.
import { settled, withModifier } from "./page.js";

export function typing(target) {
  const keyless = ":not([type=range], [type=radio], [type=checkbox])"; // into these no letter goes
  return target.matches?.(`input${keyless}, select, textarea`) || target.isContentEditable;
}

// The button is looked for once what is under way has come back: until then it speaks of the state
// before, and the first edit of a garden would find nothing to undo.
async function stepThrough(way) {
  if (await settled()) return;
  document.querySelector(`form[action*='/${way}'] button`)?.click();
}

function listMeasures(event) {
  const list = document.getElementById("measures");
  if (!list) return;
  event.preventDefault(); // else the letter lands in the field that gets the focus
  list.open = !list.open;
  list.scrollIntoView({ block: "nearest" });
  if (list.open) list.querySelector("[data-sift]").focus();
}

const openGoto = () => document.dispatchEvent(new CustomEvent("goto"));

export function startKeys() {
  if (!document.getElementById("page")) return;
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-goto]")) openGoto();
  });
  document.addEventListener("keydown", (event) => {
    if (typing(event.target)) return;
    if (event.key === "z" && event.ctrlKey) {
      event.preventDefault();
      stepThrough(event.shiftKey ? "redo" : "undo");
    }
    if (withModifier(event) || document.querySelector("dialog[open]")) return;
    plainKey(event);
  });
}

function plainKey(event) {
  const stop = event.key === "g" ? 0 : /^[0-9]$/.test(event.key) ? Number(event.key) || 10 : -1;
  document.querySelectorAll(".run a")[stop]?.click();
  if (event.key === "l") listMeasures(event);
  if (event.key === "/") {
    event.preventDefault();
    openGoto();
  }
}
