// A touch on a plot, a store or a line of the picture opens its own year, under the same playhead.
import { withModifier } from "../page.js";
import { monthDay } from "./days.js";

export function startOwn(main, dayNow, signal) {
  const place = main.querySelector("#own-year");
  let opened = null;
  const close = () => {
    place.innerHTML = "";
    opened?.classList.remove("picked");
    opened?.focus();
    opened = null;
  };
  const open = async (thing) => {
    const drawn = thing.closest("[data-own-at]") ?? opened.closest("[data-own-at]"); // else by its plot's year
    const address = new URL(drawn.dataset.ownAt, window.location.href);
    address.searchParams.set("of", thing.dataset.own);
    address.searchParams.set("day", monthDay(dayNow()));
    const answer = await fetch(address, { credentials: "same-origin", signal });
    if (!answer.ok) return;
    if (!place.contains(thing)) {
      opened?.classList.remove("picked");
      opened = thing;
      thing.classList.add("picked");
    }
    place.innerHTML = await answer.text();
    place.querySelector("h2").focus({ preventScroll: true });
    place.scrollIntoView({ block: "nearest" });
  };
  const touched = (event) => {
    const thing = event.target.closest("[data-own]");
    if (thing) open(thing).catch(() => {});
    else if (event.target.closest("[data-close-own]")) close();
  };
  main.addEventListener("click", touched, { signal });
  main.addEventListener(
    "keydown",
    (event) => {
      if (event.key === "Escape" && opened) close();
      if ((event.key !== "Enter" && event.key !== " ") || withModifier(event)) return;
      if (!event.target.closest("[data-own][role=button]")) return;
      event.preventDefault();
      touched(event);
    },
    { signal },
  );
}
