// What the charts share: their type, their width, their keys, the months below them.

export const FONT = {
  fontSize: "12.5px",
  background: "transparent",
  color: "var(--ink)",
  overflow: "visible",
};

const WIDEST = 820;
const NARROW = 500;
const FRAME = 30; // a chart's own border and edge

// As wide as there is room for, so that its letters stay as large as they are.
export function wide() {
  const canvas = document.querySelector(".canvas");
  const style = canvas && getComputedStyle(canvas);
  const room = canvas ? canvas.clientWidth - parseFloat(style.paddingLeft) * 2 - FRAME : WIDEST;
  return Math.max(280, Math.min(WIDEST, room));
}

export const tall = (height) => (wide() < NARROW ? Math.min(height, 340) : height);

export const NUMBERS = {
  ticks: 5,
  tickFormat: (v) =>
    v.toLocaleString("en", { maximumFractionDigits: 3 }).replaceAll(",", "\u202f").replace("-", "\u2212"),
};

export function key(items) {
  const list = document.createElement("ul");
  list.className = "key";
  for (const [words, mark] of items) {
    const item = document.createElement("li");
    item.innerHTML = `<svg width="22" height="12" aria-hidden="true">${mark}</svg>`;
    item.append(words);
    list.append(item);
  }
  return list;
}

export function withKey(items, plot) {
  const box = document.createElement("div");
  box.append(key(items), plot);
  return box;
}

export const BAR = (fill) => `<rect y="1" width="22" height="10" fill="${fill}"/>`;

export const LINE = (stroke, dash = "") =>
  `<path d="M0 6h22" stroke="${stroke}" stroke-width="2.4" stroke-dasharray="${dash}"/>`;

// The theme's own, so that dusk has them too.
export const COLOURS = ["rain", "leaf", "tap", "grey", "well", "care", "ok", "soil"].map(
  (name) => `var(--${name})`,
);

export const STARTS = [0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334];

export const NAMES = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

// A month's name, or its letter where twelve names would touch.
export const monthName = (name) => (wide() < NARROW ? name.slice(0, 1) : name);

// Days of a year from the first of a month on, each month named at its middle.
export function monthsFrom(first) {
  const at = (m) => ((STARTS[m] - STARTS[first] + 365) % 365) + 15;
  const names = new Map(NAMES.map((name, m) => [at(m), name]));
  return {
    domain: [0, 364],
    ticks: [...names.keys()].sort((a, b) => a - b),
    tickFormat: (d) => monthName(names.get(d)),
    label: null,
    tickSize: 0,
  };
}
