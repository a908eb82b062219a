// Days away: brushed over the year by mouse, finger or key; the server says who holds.
import { hold } from "./hold.js";
import { look, queue } from "./page.js";
import { fresh } from "./started.js";

const MOST_DAYS = 60;
const LENGTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

export function startAway() {
  const strip = document.querySelector("[data-away]");
  if (!strip || !fresh(strip, "away")) return;
  strip.addEventListener("pointerdown", (event) => brush(strip, event));
  strip.addEventListener("keydown", (event) => {
    const way = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageDown: -7, PageUp: 7 }[
      event.key
    ];
    if (!way) return;
    event.preventDefault();
    const [first, days] = [Number(strip.getAttribute("aria-valuenow")), Number(strip.dataset.days)];
    if (event.shiftKey) show(first, days + way);
    else show(first + way, days);
  });
}

function monthDay(day) {
  let left = ((day % 365) + 365) % 365;
  const month = LENGTHS.findIndex((length) => left < length || ((left -= length), false));
  return `${String(month + 1).padStart(2, "0")}-${String(left + 1).padStart(2, "0")}`;
}

function show(first, days) {
  const address = new URL(window.location.href);
  address.searchParams.set("day", monthDay(first));
  address.searchParams.set("away", String(Math.min(Math.max(days, 1), MOST_DAYS)));
  queue(() => look(address.href, () => document.querySelector("[data-away]")));
}

function brush(strip, event) {
  const svg = strip.ownerSVGElement;
  const { left, day, top, tall } = strip.dataset;
  const dayAt = (e) => {
    const x = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse()).x;
    return Math.min(Math.max(Math.floor((x - Number(left)) / Number(day)), 0), 364);
  };
  const from = dayAt(event);
  let to = from;
  for (const old of strip.querySelectorAll(".d-away")) old.remove();
  const band = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  band.setAttribute("class", "d-away");
  band.setAttribute("y", top);
  band.setAttribute("height", tall);
  strip.append(band);
  const draw = () => {
    band.setAttribute("x", String(Number(left) + Math.min(from, to) * Number(day)));
    band.setAttribute("width", String((Math.abs(to - from) + 1) * Number(day)));
  };
  draw();
  hold(event, {
    move: (e) => {
      to = dayAt(e);
      draw();
    },
    // A touch without a brush keeps the length and moves the first day.
    end: () => show(Math.min(from, to), to === from ? Number(strip.dataset.days) : Math.abs(to - from) + 1),
    cancel: () => queue(() => look(window.location.href)),
  });
}
