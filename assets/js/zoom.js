// Pan and zoom of a plan; where one stood stays when the page comes back from the server.
import { select, zoom, zoomIdentity } from "/static/vendor/plot.js";
import { planTakes } from "./plan/plan.js";

let stood = zoomIdentity;

// A plan that is to be put in place stands where the one before it did.
export function keepZoom(root) {
  if (stood !== zoomIdentity) inside(root)?.setAttribute("transform", stood.toString());
}

const inside = (root) => root.querySelector("[data-zoom] .zoomable");

export function startZoom(root) {
  const svg = inside(root)?.ownerSVGElement;
  if (!svg) return;
  const { width, height } = svg.viewBox.baseVal;
  const behave = zoom()
    .scaleExtent([0.5, 12])
    .translateExtent([
      [-width, -height],
      [2 * width, 2 * height],
    ])
    .filter((event) =>
      event.type === "wheel" ? event.ctrlKey || event.shiftKey : !event.button && !planTakes(event),
    )
    .on("zoom", ({ transform }) => {
      stood = transform;
      inside(root).setAttribute("transform", transform);
    });
  const drawing = select(svg).call(behave).on("dblclick.zoom", null);
  if (stood !== zoomIdentity) behave.transform(drawing, stood);
  const ways = {
    nearer: () => behave.scaleBy(drawing, 1.5),
    farther: () => behave.scaleBy(drawing, 1 / 1.5),
    whole: () => behave.transform(drawing, zoomIdentity),
  };
  for (const button of root.querySelectorAll("[data-zoom-to]")) {
    button.onclick = ways[button.dataset.zoomTo];
  }
}
