// What is done on the plan goes to the server as a deed: followed while it lasts, kept at its end.
import { latest } from "../latest.js";
import { look, post, queue, said } from "../page.js";

const garden = () => document.querySelector("[data-garden]").dataset.garden;

function filled(deed) {
  const data = new URLSearchParams();
  for (const [key, value] of Object.entries({ ...deed, of: (deed.of ?? []).join(",") })) {
    data.set(key, typeof value === "number" ? value.toFixed(4) : value);
  }
  return data;
}

export function keep(deed, focus = focusPicked) {
  return queue(async () => {
    const refused = await post(`/g/${garden()}/plan`, filled(deed), focus);
    if (refused) {
      await look(window.location.href);
      said(refused);
    }
    return refused;
  });
}

// Follows a deed with the server's own lines and figures; nothing is kept. Once dropped, what is still
// on its way is let go by.
export function follower(sheet) {
  let dropped = false;
  const ask = latest(async (deed) => {
    if (dropped) return;
    const answer = await fetch(`/g/${garden()}/plan/live?${filled(deed)}`, { credentials: "same-origin" });
    const told = answer.ok && (await answer.json());
    if (!told || dropped) return;
    drawn(sheet, told);
  });
  return { ask, drop: () => (dropped = true) };
}

// Puts what the server said of a deed on the plan.
function drawn(sheet, told) {
  const note = document.querySelector("[data-plan-said]");
  if (note) {
    note.hidden = !told.refused;
    note.textContent = told.refused ?? "";
  }
  if (told.refused) return;
  sheet.svg.querySelector("[data-lines]").innerHTML = told.lines;
  for (const [path, drawn] of Object.entries(told.things)) {
    const group = sheet.group(path);
    if (group) {
      group.innerHTML = drawn;
      group.removeAttribute("transform");
    }
  }
  for (const [key, words] of Object.entries(told.figures)) {
    const place = document.querySelector(`[data-live-${key}]`);
    if (place) place.textContent = words;
  }
}

export function pick(paths, focus = focusPicked) {
  const address = new URL(window.location.href);
  address.searchParams.set("view", "plan");
  address.searchParams.delete("sel");
  if (paths.length) address.searchParams.set("sel", paths.join(","));
  return queue(() => look(address.href, focus));
}

export function focusPicked() {
  const plan = document.querySelector("[data-plan]");
  const first = plan?.dataset.picked.split(",")[0];
  if (!first) return null;
  const key = CSS.escape(first);
  return plan.querySelector(`[data-thing="${key}"]`) ?? plan.querySelector(`[data-piece="${key}"]`);
}

export function focusMeasure() {
  return document.querySelector("[data-plan] .dims .field") ?? focusPicked();
}
