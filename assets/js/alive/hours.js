// The hours of one day under the picture: what runs when, and a hand that is moved through them.
import { amount } from "./picture.js";
import { DAY_MIN, runsAt, runsThrough } from "./runs.js";

const LANE = 7;
const SVG = "http://www.w3.org/2000/svg";

const clock = (minute) => `${Math.floor(minute / 60)}:${String(minute % 60).padStart(2, "0")}`;

// Draws a day's runs, a lane for each that has any, and says what runs at the hand.
export function hours(main) {
  const place = main.querySelector("#hours");
  const hand = place.querySelector("input");
  const said = place.querySelector("[data-at]");
  const band = place.querySelector("svg");
  const line = document.createElementNS(SVG, "path");
  let drawn = -1;
  return {
    hand,
    open: (on) => {
      place.hidden = !on;
    },
    show: (year, day, minute) => {
      if (drawn !== day) band.replaceChildren(...bars(band, runsThrough(year, day)), line);
      drawn = day;
      line.setAttribute("d", `M${minute} 0V999`);
      const words = told(year, runsAt(year, day, minute));
      hand.value = String(minute);
      hand.setAttribute("aria-valuetext", `${clock(minute)}: ${words}`);
      said.textContent = `${clock(minute)} · ${words}`;
    },
  };
}

function told(year, runs) {
  if (!runs.length) return "nothing is opened";
  return runs.map((run) => `${year.names[run.zone] ?? run.zone}, ${amount(run.flow, year.flow)}`).join("; ");
}

function bars(band, runs) {
  const lanes = [...new Set(runs.map((run) => run.zone))];
  band.setAttribute("viewBox", `0 0 ${DAY_MIN} ${Math.max(lanes.length, 1) * LANE}`);
  return runs.map((run) => {
    const bar = document.createElementNS(SVG, "rect");
    const from = Math.max(run.from, 0);
    bar.setAttribute("x", String(from));
    bar.setAttribute("y", String(lanes.indexOf(run.zone) * LANE + 1));
    bar.setAttribute("width", String(Math.min(run.until, DAY_MIN) - from));
    bar.setAttribute("height", String(LANE - 2));
    return bar;
  });
}
