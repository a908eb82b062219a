// Sets the garden's picture to a day of a year's numbers: what the server drew for one day, by its names.
import { runsAt, runsOf, runsThrough } from "./runs.js";

const NARROW = "\u202f";
const NO_BREAK = "\u00a0";

// A number as the server writes it.
export function number(value, decimals) {
  const [whole, part] = Math.abs(value).toFixed(decimals).split(".");
  return whole.replace(/\B(?=(\d{3})+$)/g, NARROW) + (part ? `.${part}` : "");
}

const finer = (value, decimals) => (value && Math.abs(value) < 10 ** -decimals ? decimals + 1 : decimals);
export const amount = (value, [unit, decimals]) => number(value, finer(value, decimals)) + NO_BREAK + unit;

// What is set on the drawing, each thing only where it differs from the day before.
export function picture(drawing) {
  const was = new Map();
  const set = (element, name, value) => {
    if (!element) return;
    const key = `${name}`;
    const stood = was.get(element) ?? {};
    if (stood[key] === value) return;
    was.set(element, { ...stood, [key]: value });
    if (name === "text") element.textContent = value;
    else if (value === null) element.removeAttribute(name);
    else element.setAttribute(name, value);
  };
  const parts = found(drawing);
  return (year, day, minute = null) => {
    for (const plot of parts.plots) dressPlot(set, plot, year, day);
    for (const store of parts.stores) dressStore(set, store, year, day);
    for (const zone of parts.zones) dressZone(set, zone, year, day, minute);
    dressRain(set, parts, year, day);
    for (const [kind, text] of parts.gives) set(text, "text", gives(kind, year, day));
    set(parts.over, "text", year.over[day] ? `${amount(year.over[day], year.volume)} runs over` : "");
    for (const way of parts.wash) set(way, "display", shown(year.drain[day]));
  };
}

function found(drawing) {
  const all = (selector) => [...drawing.querySelectorAll(selector)];
  return {
    plots: all("[data-plot]").map((g) => ({
      g,
      plot: g.dataset.plot,
      bar: g.querySelector("[data-bar]"),
      ground: g.querySelector(".a-ground"),
      thirst: g.querySelector(".a-thirst"),
      grows: g.querySelector("[data-grows]"),
      text: drawing.querySelector(`[data-share="${g.dataset.plot}"]`),
    })),
    stores: all("[data-bank]").map((g) => ({
      g,
      bank: Number(g.dataset.bank),
      water: [...g.querySelectorAll("[data-stands]")],
      text: drawing.querySelector(`[data-level="${g.dataset.bank}"]`),
    })),
    zones: all("[data-zone]").map((g) => ({
      g,
      zone: g.dataset.zone,
      runs: g.querySelector(".a-runs"),
      text: drawing.querySelector(`[data-flow="${g.dataset.zone}"]`),
    })),
    rain: all("[data-rain]"),
    wetRoofs: all("[data-wet]"),
    gives: all("[data-gives]").map((text) => [text.dataset.gives, text]),
    over: drawing.querySelector("[data-over]"),
    wash: all("[data-wash]"),
  };
}

const shown = (on) => (on ? null : "none");

function dressPlot(set, { g, plot, bar, text, ground, thirst, grows }, year, day) {
  const left = year.left[plot][day];
  const tone = year.tones[Number(year.tone[plot][day])];
  set(g, "data-tone", tone);
  set(ground, "class", `a-ground a-root-${tone}`);
  set(thirst, "display", shown(tone === "thirsty"));
  set(grows, "display", shown(tone !== "bare"));
  set(bar, "width", ((Number(bar.dataset.bar) * left) / 100).toFixed(1));
  set(text, "text", tone === "bare" ? "" : `${left}${NO_BREAK}%`);
}

function dressStore(set, { bank, water, text }, year, day) {
  const level = year.level[bank][day];
  const share = year.size[bank] > 0 ? Math.min(level / year.size[bank], 1) : 0;
  for (const rect of water) {
    const [top, tall] = rect.dataset.stands.split(",").map(Number);
    set(rect, "y", (top + tall * (1 - share)).toFixed(1));
    set(rect, "height", (tall * share).toFixed(1));
  }
  const words = () => `${amount(level, year.volume)} of ${amount(year.size[bank], year.volume)}`;
  set(text, "text", level === null ? "" : words()); // of a day to come nothing is known
}

// Of a whole day what ran in it; of a minute what runs then, and what no timer opens.
function dressZone(set, { zone, runs, text }, year, day, minute) {
  const mine = (minute === null ? runsOf(year, day) : runsAt(year, day, minute)).filter(
    (r) => r.zone === zone,
  );
  const flow = mine.at(-1)?.flow;
  const untimed = minute === null || !runsThrough(year, day).some((r) => r.zone === zone);
  set(runs, "display", shown(untimed ? year.came[zone]?.[day] : mine.length));
  set(text, "text", flow === undefined ? "" : amount(flow, year.flow));
}

function dressRain(set, { rain, wetRoofs }, year, day) {
  const wet = year.wet[day] === "1";
  for (const roof of wetRoofs) set(roof, "display", shown(wet));
  const dry = `dry for ${year.dry[day]} day${year.dry[day] === 1 ? "" : "s"}`;
  for (const text of rain) set(text, "text", wet ? `${amount(year.rain[day], year.depth)} of rain` : dry);
}

function gives(kind, year, day) {
  const litres = year[kind][day];
  if (litres) return amount(litres, year.volume);
  return kind === "drain" ? "" : "shut";
}
