// A roof's edge may be dragged; the server's sizing curve follows, and the length is kept on release.
import { drawChart } from "./charts.js";

export function startDrag(root) {
  for (const handle of root.querySelectorAll("[data-drag]")) {
    if (handle.dataset.dragging) continue;
    handle.dataset.dragging = "1";
    handle.addEventListener("pointerdown", (event) => begin(handle, event));
  }
}

function begin(handle, event) {
  event.preventDefault();
  const svg = handle.ownerSVGElement;
  const along = handle.dataset.axis === "x";
  const place = (e) => {
    const point = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return along ? point.x : -point.y;
  };
  const start = place(event);
  const scale = Number(handle.dataset.scale);
  const from = Number(handle.dataset.metres);
  const ask = follow(handle);
  let metres = from;
  const move = (e) => {
    const by = place(e) - start;
    metres = from + by / scale;
    handle.setAttribute("transform", along ? `translate(${by} 0)` : `translate(0 ${-by})`);
    ask(metres);
  };
  const end = () => {
    window.removeEventListener("pointermove", move);
    const input = document.getElementById(`f-${handle.dataset.drag.replaceAll("/", "-")}`);
    if (Math.abs(metres - from) < 0.005) return handle.removeAttribute("transform");
    input.value = `${Math.max(metres, 0.3).toFixed(2)} m`;
    input.dispatchEvent(new Event("change", { bubbles: true }));
  };
  window.addEventListener("pointermove", move);
  window.addEventListener("pointerup", end, { once: true });
}

// Asks for one curve at a time, always for the last place the edge was at.
function follow(handle) {
  const garden = document.querySelector("[data-garden]").dataset.garden;
  const figure = document.querySelector("[data-live]");
  const input = document.getElementById(`f-${handle.dataset.drag.replaceAll("/", "-")}`);
  let wanted = null;
  let asking = false;
  const next = async () => {
    asking = true;
    while (wanted !== null) {
      const metres = wanted;
      wanted = null;
      const query = new URLSearchParams({ path: handle.dataset.drag, metres });
      const answer = await fetch(`/g/${garden}/curve?${query}`);
      if (!answer.ok) break;
      const said = await answer.json();
      input.value = said.shown;
      if (figure && said.chart) drawChart(figure, said.chart);
      const caught = document.querySelector("[data-figure=caught_year] [data-value]");
      if (caught) caught.textContent = said.caught;
    }
    asking = false;
  };
  return (metres) => {
    wanted = metres;
    if (!asking) next();
  };
}
