// What an answer left out so as to be there at once: asked for when it has come, part by part.
import { drawChart } from "./charts.js";

export async function startLater() {
  const page = document.getElementById("page");
  const waiting = [...(page?.querySelectorAll("[data-waits]") ?? [])];
  if (!waiting.length) return;
  const { garden, station, head } = page.querySelector("[data-station]").dataset;
  const query = new URLSearchParams(window.location.search);
  query.set("parts", waiting.map((part) => part.dataset.part).join(","));
  const answer = await fetch(`/g/${garden}/${station}/later?${query}`, { credentials: "same-origin" }).catch(
    () => null,
  );
  const said = answer?.ok ? await answer.json() : null;
  if (said && said.head !== Number(head)) return; // the edit that came between asks for its own
  for (const part of waiting.filter((p) => p.isConnected)) fill(part, said?.parts[part.dataset.part]);
}

function fill(part, told) {
  if (typeof told === "string") part.innerHTML = told;
  else if (told) drawChart(part.closest("[data-chart]"), told);
  else part.replaceChildren();
  part.removeAttribute("data-waits");
  part.inert = false;
}
