// A plot dragged to another opens with it; dragged to free ground it opens with what is like it.
import { post, queue } from "./page.js";

export function startZones() {
  for (const plot of document.querySelectorAll("[data-zone-plot]")) {
    if (plot.dataset.started) continue;
    plot.dataset.started = "1";
    plot.addEventListener("pointerdown", (event) => begin(plot, event));
    plot.addEventListener("keydown", (event) => {
      if (event.key !== "Enter" && event.key !== " ") return;
      event.preventDefault();
      document.getElementById(`f-plots-${plot.dataset.zonePlot}-opens_with`)?.focus();
    });
  }
}

function begin(plot, event) {
  event.preventDefault();
  plot.focus();
  const svg = plot.ownerSVGElement;
  const at = (e) => new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
  const from = at(event);
  let moved = false;
  const under = (e) => {
    plot.style.pointerEvents = "none";
    const found = document.elementFromPoint(e.clientX, e.clientY)?.closest("[data-zone-plot]");
    plot.style.pointerEvents = "";
    return found;
  };
  const move = (e) => {
    const to = at(e);
    moved ||= Math.hypot(to.x - from.x, to.y - from.y) > 6;
    plot.setAttribute("transform", `translate(${to.x - from.x} ${to.y - from.y})`);
    for (const other of document.querySelectorAll(".d-zone-over")) other.classList.remove("d-zone-over");
    under(e)?.classList.add("d-zone-over");
  };
  const end = (e) => {
    window.removeEventListener("pointermove", move);
    plot.removeAttribute("transform");
    const other = under(e);
    for (const over of document.querySelectorAll(".d-zone-over")) over.classList.remove("d-zone-over");
    if (moved && e.type === "pointerup") keep(plot.dataset.zonePlot, other?.dataset.zonePlot ?? "");
  };
  window.addEventListener("pointermove", move);
  window.addEventListener("pointerup", end, { once: true });
  window.addEventListener("pointercancel", end, { once: true });
}

function keep(plot, other) {
  const garden = document.querySelector("[data-garden]").dataset.garden;
  const data = new URLSearchParams({ path: `plots/${plot}/opens_with`, typed: other });
  const again = () => document.querySelector(`[data-zone-plot="${CSS.escape(plot)}"]`);
  queue(() => post(`/g/${garden}/edit`, data, again));
}
