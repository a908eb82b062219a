// Charts from the server's numbers, by Observable Plot. No figure is worked out here.
import { rainAndThirst, thirst, years } from "./charts/weather.js";
import { sizing, tank, watering, twoTanks } from "./charts/stores.js";
import { supply, pump } from "./charts/flow.js";

export function drawCharts(root) {
  for (const figure of root.querySelectorAll("[data-chart]")) {
    drawChart(figure, JSON.parse(figure.querySelector("script").textContent));
  }
}

export function drawChart(figure, spec) {
  if (spec.waits) return;
  const place = figure.querySelector(".plot");
  place.replaceChildren(KINDS[spec.kind](spec));
  for (const svg of place.querySelectorAll("svg")) svg.setAttribute("aria-hidden", "true");
}

const KINDS = {
  "two-tanks": twoTanks,
  pump,
  watering,
  supply,
  years,
  "rain-and-thirst": rainAndThirst,
  sizing,
  thirst,
  tank,
};
