// Pan and zoom of the ground plan.
import { select, zoom } from "/static/vendor/plot.js";

export function startZoom(root) {
  for (const box of root.querySelectorAll("[data-zoom]")) {
    const svg = box.querySelector("svg");
    const inner = svg?.querySelector(".zoomable");
    if (!inner || box.dataset.zooming) continue;
    box.dataset.zooming = "1";
    const behave = zoom().scaleExtent([1, 8]).translateExtent([[0, 0], [850, 560]])
      .filter((event) => event.type !== "wheel" || event.ctrlKey || event.shiftKey)
      .on("zoom", ({ transform }) => inner.setAttribute("transform", transform));
    select(svg).call(behave);
    const by = (factor) => behave.scaleBy(select(svg), factor);
    const row = document.createElement("div");
    row.className = "tabs no-print";
    for (const [word, run] of [["Nearer", () => by(1.5)], ["Farther", () => by(1 / 1.5)],
                               ["Whole garden", () => behave.transform(select(svg), { k: 1, x: 0, y: 0, toString: () => "translate(0,0) scale(1)" })]]) {
      const button = document.createElement("button");
      button.type = "button";
      button.className = "pill";
      button.textContent = word;
      button.addEventListener("click", run);
      row.append(button);
    }
    box.before(row);
  }
}
