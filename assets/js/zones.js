// A plot dragged to another opens with it; dragged to free ground it opens with what is like it.
import { hold } from "./hold.js";
import { post, queue } from "./page.js";
import { fresh } from "./started.js";

export function startZones() {
  for (const plot of document.querySelectorAll("[data-zone-plot]")) {
    if (!fresh(plot, "zones")) continue;
    plot.addEventListener("pointerdown", (event) => begin(plot, event));
    plot.addEventListener("keydown", (event) => {
      if (event.key !== "Enter" && event.key !== " ") return;
      event.preventDefault();
      document.getElementById(`f-plots-${plot.dataset.zonePlot}-opens_with`)?.focus();
    });
  }
}

function begin(plot, event) {
  plot.focus();
  const svg = plot.ownerSVGElement;
  const at = (e) => new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
  const from = at(event);
  const under = (e) => {
    plot.style.pointerEvents = "none";
    const found = document.elementFromPoint(e.clientX, e.clientY)?.closest("[data-zone-plot]");
    plot.style.pointerEvents = "";
    return found;
  };
  const mark = (other) => {
    for (const over of document.querySelectorAll(".d-zone-over")) over.classList.remove("d-zone-over");
    other?.classList.add("d-zone-over");
  };
  const letGo = () => {
    plot.removeAttribute("transform");
    mark(null);
  };
  hold(event, {
    move: (e) => {
      const to = at(e);
      plot.setAttribute("transform", `translate(${to.x - from.x} ${to.y - from.y})`);
      mark(under(e));
    },
    end: (gone, e) => {
      letGo();
      if (gone) keep(plot.dataset.zonePlot, under(e)?.dataset.zonePlot ?? "");
    },
    cancel: letGo,
  });
}

function keep(plot, other) {
  const garden = document.querySelector("[data-garden]").dataset.garden;
  const data = new URLSearchParams({ path: `plots/${plot}/opens_with`, typed: other });
  const again = () => document.querySelector(`[data-zone-plot="${CSS.escape(plot)}"]`);
  queue(() => post(`/g/${garden}/edit`, data, again));
}
