// A roof's edge may be dragged; the server's sizing curve follows, and the length is kept on release.
import { drawChart } from "./charts.js";
import { hold } from "./hold.js";
import { latest } from "./latest.js";
import { look, queue } from "./page.js";
import { fresh } from "./started.js";

export function startDrag(root) {
  for (const handle of root.querySelectorAll("[data-drag]")) {
    if (fresh(handle, "drag")) handle.addEventListener("pointerdown", (event) => begin(handle, event));
  }
}

function begin(handle, event) {
  const svg = handle.ownerSVGElement;
  const along = handle.dataset.axis === "x";
  const place = (e) => {
    const point = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return along ? point.x : -point.y;
  };
  const start = place(event);
  const scale = Number(handle.dataset.scale);
  const from = Number(handle.dataset.metres);
  const input = document.getElementById(`f-${handle.dataset.drag.replaceAll("/", "-")}`);
  const ask = follow(handle, input);
  hold(event, {
    move: (e) => {
      const by = place(e) - start;
      handle.setAttribute("transform", along ? `translate(${by} 0)` : `translate(0 ${-by})`);
      ask(from + by / scale);
    },
    // In the queue, so that an undo pressed meanwhile waits for the edit that this becomes.
    end: () =>
      queue(async () => {
        const length = await ask(null);
        if (length === null) return handle.removeAttribute("transform");
        input.value = `${length.toFixed(2)} m`;
        input.dispatchEvent(new Event("change", { bubbles: true }));
      }),
    cancel: () =>
      queue(async () => {
        await ask(null);
        input.value = input.defaultValue;
        await look(window.location.href);
      }),
  });
}

// Asks for the curve at the last place the edge was at. Asked for null it waits for what is under way
// and gives the length the server took, which is within bounds; null if none was.
function follow(handle, input) {
  const garden = document.querySelector("[data-garden]").dataset.garden;
  const figure = document.querySelector("[data-live]");
  let taken = null;
  const ask = latest(async (metres) => {
    const query = new URLSearchParams({ path: handle.dataset.drag, metres });
    const answer = await fetch(`/g/${garden}/curve?${query}`).catch(() => null);
    if (!answer?.ok) return;
    const said = await answer.json();
    taken = said.metres;
    input.value = said.shown;
    if (figure && said.chart) drawChart(figure, said.chart);
    const caught = document.querySelector("[data-figure=caught_year] [data-value]");
    if (caught) caught.textContent = said.caught;
  });
  return async (metres) => {
    await ask(metres);
    return taken;
  };
}
