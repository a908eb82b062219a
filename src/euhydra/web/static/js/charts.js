// Charts from the server's numbers, by Observable Plot. No figure is worked out here.
import { Plot } from "/static/vendor/plot.js";

const FONT = { fontSize: "12.5px", background: "transparent", color: "var(--ink)", overflow: "visible" };
const WIDTH = 820;
const NUMBERS = {
  tickFormat: (v) =>
    v.toLocaleString("en", { maximumFractionDigits: 3 }).replaceAll(",", "\u202f").replace("-", "\u2212"),
};

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

function key(items) {
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

function withKey(items, plot) {
  const box = document.createElement("div");
  box.append(key(items), plot);
  return box;
}

const BAR = (fill) => `<rect y="1" width="22" height="10" fill="${fill}"/>`;
const LINE = (stroke, dash = "") =>
  `<path d="M0 6h22" stroke="${stroke}" stroke-width="2.4" stroke-dasharray="${dash}"/>`;

function rainAndThirst(s) {
  const gap = s.months.filter((m) => m.eto > m.rain);
  return withKey(
    [
      ["R  rain", BAR("var(--rain)")],
      ["what the air takes (ETo)", LINE("var(--stop)")],
      ["the dry gap", BAR("var(--care-bg)")],
      ...(s.other ? [[`by ${s.other}`, LINE("var(--mute)", "5 3")]] : []),
      ...(s.frosts.length ? [["last and first frost", LINE("var(--well)", "3 3")]] : []),
    ],
    Plot.plot({
      width: WIDTH,
      height: 470,
      marginLeft: 46,
      marginTop: 26,
      style: FONT,
      x: {
        domain: [0, 12],
        ticks: s.months.map((m) => m.at),
        tickFormat: (t) => s.months[Math.floor(t)]?.month ?? "",
        label: null,
        tickSize: 0,
      },
      y: { ...NUMBERS, label: `${s.unit} a month`, grid: true, nice: true },
      marks: [
        Plot.rect(gap, {
          x1: (m) => m.at - 0.38,
          x2: (m) => m.at + 0.38,
          y1: "rain",
          y2: "eto",
          fill: "var(--care-bg)",
        }),
        Plot.rect(s.months, {
          x1: (m) => m.at - 0.38,
          x2: (m) => m.at + 0.38,
          y1: 0,
          y2: "rain",
          fill: "var(--rain)",
        }),
        Plot.line(s.months, { x: "at", y: "eto", stroke: "var(--stop)", strokeWidth: 2.4, marker: "dot" }),
        ...(s.other
          ? [
              Plot.line(s.months, {
                x: "at",
                y: "other",
                stroke: "var(--mute)",
                strokeWidth: 1.6,
                strokeDasharray: "5 3",
              }),
            ]
          : []),
        Plot.ruleX(s.frosts, { x: "month", stroke: "var(--well)", strokeWidth: 1.6, strokeDasharray: "3 3" }),
        Plot.text(s.frosts, { x: "month", frameAnchor: "top", text: "name", dy: -14, fill: "var(--ink)" }),
        Plot.ruleY([0], { stroke: "var(--ink)" }),
      ],
    }),
  );
}

function sizing(s) {
  const percent = (v) => `${Math.round(v * 100)} %`;
  const own = s.points.filter((p) => p.barrels === s.own);
  return withKey(
    [
      ["R  litres given by rain", LINE("var(--rain)")],
      ["days of the season not short", LINE("var(--leaf)", "6 3")],
      ["R  of the rain that spills", LINE("var(--care)", "2 3")],
    ],
    Plot.plot({
      width: WIDTH,
      height: 350,
      marginLeft: 46,
      marginTop: 26,
      marginBottom: 46,
      style: FONT,
      x: {
        label: "barrels",
        labelOffset: 42,
        ticks: s.points.map((p) => p.barrels),
        tickFormat: "d",
        domain: [0.7, s.points.length + 0.3],
      },
      y: { domain: [0, 1], tickFormat: percent, label: null, grid: true },
      marks: [
        Plot.ruleX(own, { x: "barrels", stroke: "var(--rain-pale)", strokeWidth: 22 }),
        Plot.text(own, {
          x: "barrels",
          frameAnchor: "top",
          text: () => "yours",
          dy: -14,
          fill: "var(--ink)",
        }),
        Plot.ruleX(s.rules, { x: "at", stroke: "var(--mute)", strokeDasharray: "4 4" }),
        ...s.rules.map((rule, i) =>
          Plot.text([rule], {
            x: "at",
            frameAnchor: "top",
            text: "name",
            dx: rule.left ? -5 : 5,
            dy: 6 + 15 * i,
            textAnchor: rule.left ? "end" : "start",
            fill: "var(--ink)",
            stroke: "var(--panel)",
            strokeWidth: 4,
          }),
        ),
        Plot.line(s.points, {
          x: "barrels",
          y: "spilled",
          stroke: "var(--care)",
          strokeWidth: 2,
          strokeDasharray: "2 3",
        }),
        Plot.line(s.points, {
          x: "barrels",
          y: "days",
          stroke: "var(--leaf)",
          strokeWidth: 2,
          strokeDasharray: "6 3",
        }),
        Plot.line(s.points, {
          x: "barrels",
          y: "given",
          stroke: "var(--rain)",
          strokeWidth: 2.6,
          marker: "dot",
        }),
        Plot.text(s.points, {
          x: "barrels",
          y: "given",
          text: (p) => percent(p.given),
          dy: -12,
          fill: "var(--ink)",
        }),
        Plot.ruleY([0], { stroke: "var(--ink)" }),
      ],
    }),
  );
}

// The theme's own, so that dusk has them too.
const COLOURS = ["rain", "leaf", "tap", "grey", "well", "care", "ok", "soil"].map((name) => `var(--${name})`);

function thirst(s) {
  const colour = (name) => COLOURS[s.plots.indexOf(name) % COLOURS.length];
  return withKey(
    s.plots.map((name) => [name, BAR(colour(name))]),
    Plot.plot({
      width: WIDTH,
      height: 400,
      marginLeft: 52,
      marginTop: 26,
      style: FONT,
      x: {
        type: "band",
        domain: s.rows.slice(0, 12).map((r) => r.month),
        label: null,
        tickSize: 0,
        padding: 0.18,
      },
      y: { ...NUMBERS, label: s.unit, grid: true, nice: true },
      marks: [
        Plot.barY(s.rows, {
          x: "month",
          y: "need",
          fill: (r) => colour(r.plot),
          z: "plot",
          order: s.plots,
          stroke: "var(--panel)",
        }),
        Plot.ruleY([0], { stroke: "var(--ink)" }),
      ],
    }),
  );
}

function tank(s) {
  const days = s.low.map((_, i) => i);
  return withKey(
    [
      ["eight years in ten lie in this band", BAR("var(--rain-pale)")],
      [`middle of ${s.years} years`, LINE("var(--rain)")],
      ["a typical year", LINE("var(--ink)")],
      [
        s.tap ? "T  days the tap fills in, that year" : "days short, that year",
        BAR(s.tap ? "var(--tap)" : "var(--stop)"),
      ],
    ],
    Plot.plot({
      width: WIDTH,
      height: 400,
      marginLeft: 52,
      marginTop: 26,
      marginBottom: 30,
      style: FONT,
      x: monthsFrom(s.first_month),
      y: { ...NUMBERS, label: s.unit, domain: [0, s.full * 1.02], grid: true },
      marks: [
        Plot.rect(s.winter, {
          x1: (w) => w[0],
          x2: (w) => w[1],
          y1: 0,
          y2: s.full,
          fill: "var(--rule)",
          fillOpacity: 0.45,
        }),
        Plot.text(
          s.winter.filter((w) => w[1] - w[0] > 45),
          { x: (w) => (w[0] + w[1]) / 2, y: s.full / 2, text: () => "in for\nthe frost", fill: "var(--ink)" },
        ),
        Plot.areaY(days, {
          x: (d) => d,
          y1: (d) => s.low[d],
          y2: (d) => s.high[d],
          fill: "var(--rain-pale)",
        }),
        Plot.lineY(days, { x: (d) => d, y: (d) => s.middle[d], stroke: "var(--rain)", strokeWidth: 2.6 }),
        Plot.lineY(days, { x: (d) => d, y: (d) => s.typical[d], stroke: "var(--ink)", strokeWidth: 1 }),
        Plot.ruleY([s.full], { stroke: "var(--rain)", strokeDasharray: "2 5" }),
        Plot.text(["full"], { frameAnchor: "top-right", dy: -12, text: (d) => d, fill: "var(--ink)" }),
        Plot.tickX(s.short, {
          x: (d) => d,
          stroke: s.tap ? "var(--tap)" : "var(--stop)",
          strokeWidth: 1.6,
          insetTop: 334,
          insetBottom: -4,
        }),
        Plot.ruleY([0], { stroke: "var(--ink)" }),
      ],
    }),
  );
}

const STARTS = [0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334];
const NAMES = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
// Days of a year from the first of a month on, each month named at its middle.
function monthsFrom(first) {
  const at = (m) => ((STARTS[m] - STARTS[first] + 365) % 365) + 15;
  const names = new Map(NAMES.map((name, m) => [at(m), name]));
  return {
    domain: [0, 364],
    ticks: [...names.keys()].sort((a, b) => a - b),
    tickFormat: (d) => names.get(d),
    label: null,
    tickSize: 0,
  };
}

const YEAR_LINES = { dry: ["var(--stop)", "6 3"], typical: ["var(--ink)", ""], wet: ["var(--rain)", "2 3"] };

function years(s) {
  const points = (values) => values.map((v, i) => [i * 7, v]);
  return withKey(
    [
      ...s.named.map((y) => [`a ${y.name} year`, LINE(...YEAR_LINES[y.name])]),
      ["every other year", LINE("var(--rule)")],
    ],
    Plot.plot({
      width: WIDTH,
      height: 380,
      marginLeft: 52,
      marginTop: 26,
      marginRight: 60,
      style: FONT,
      x: monthsFrom(s.first_month),
      y: { ...NUMBERS, label: s.unit, grid: true, nice: true },
      marks: [
        ...s.all.map((year) => Plot.line(points(year), { stroke: "var(--rule)", strokeWidth: 1 })),
        ...s.named.map((y) =>
          Plot.line(points(y.values), {
            stroke: YEAR_LINES[y.name][0],
            strokeWidth: 2.6,
            strokeDasharray: YEAR_LINES[y.name][1],
          }),
        ),
        Plot.text(s.named, {
          x: 364,
          y: (y) => y.values.at(-1),
          text: "name",
          dx: 6,
          textAnchor: "start",
          fill: "var(--ink)",
        }),
        Plot.ruleY([0], { stroke: "var(--ink)" }),
      ],
    }),
  );
}

function supply(s) {
  const at = s.points.reduce((a, b) => (Math.abs(b.flow - s.plan) < Math.abs(a.flow - s.plan) ? b : a));
  return withKey(
    [
      ["T  pressure left", LINE("var(--tap)", "7 4")],
      ["most to plan for", LINE("var(--ink)", "4 4")],
    ],
    Plot.plot({
      width: WIDTH,
      height: 260,
      marginLeft: 52,
      marginTop: 26,
      marginBottom: 44,
      style: FONT,
      x: { ...NUMBERS, label: s.flow_unit, labelOffset: 40, nice: true },
      y: { ...NUMBERS, label: s.unit, grid: true, nice: true },
      marks: [
        Plot.line(s.points, {
          x: "flow",
          y: "left",
          stroke: "var(--tap)",
          strokeWidth: 2.6,
          strokeDasharray: "7 4",
        }),
        Plot.ruleX([s.plan], { stroke: "var(--ink)", strokeDasharray: "4 4" }),
        Plot.dot([at], { x: "flow", y: "left", fill: "var(--tap)", r: 5 }),
        Plot.ruleY([0], { stroke: "var(--ink)" }),
      ],
    }),
  );
}

const DASHES = ["", "7 4", "2 3", "10 3 2 3", "4 2", "1 3"];

function pump(s) {
  return withKey(
    [
      ["the pump's curve", LINE("var(--ink)")],
      ...s.systems.map((z, i) => [`asked by ${z.name}`, LINE(COLOURS[i % 6], DASHES[i % 6])]),
      ["where they meet", `<circle cx="11" cy="6" r="4.5" fill="var(--stop)"/>`],
    ],
    Plot.plot({
      width: WIDTH,
      height: 320,
      marginLeft: 52,
      marginTop: 26,
      marginBottom: 44,
      style: FONT,
      x: { ...NUMBERS, label: s.flow_unit, labelOffset: 40, nice: true, grid: true },
      y: {
        ...NUMBERS,
        label: s.unit,
        grid: true,
        nice: true,
        domain: [0, Math.max(...s.pump.map((p) => p.head))],
      },
      marks: [
        Plot.line(s.pump, { x: "flow", y: "head", stroke: "var(--ink)", strokeWidth: 2.6 }),
        ...s.systems.map((z, i) =>
          Plot.line(z.points, {
            x: "flow",
            y: "head",
            stroke: COLOURS[i % 6],
            strokeDasharray: DASHES[i % 6],
            strokeWidth: 2,
          }),
        ),
        Plot.dot(s.duties, { x: "flow", y: "head", r: 5, fill: "var(--stop)" }),
        Plot.ruleY([0], { stroke: "var(--ink)" }),
      ],
    }),
  );
}

function watering(s) {
  const most = Math.max(...s.points.map((p) => p.flow), 1e-9);
  const full = Math.max(...s.points.map((p) => p.left), 1e-9);
  const shared = { width: WIDTH, marginLeft: 52, marginRight: 20, style: FONT };
  const x = { label: null, domain: [0, s.points.at(-1).at] };
  const box = document.createElement("div");
  box.append(
    Plot.plot({
      ...shared,
      height: 190,
      marginTop: 26,
      marginBottom: 22,
      x,
      y: { ...NUMBERS, label: `R  left in the barrels, ${s.unit}`, grid: true, domain: [0, full] },
      marks: [
        Plot.areaY(s.points, { x: "at", y: "left", fill: "var(--rain-pale)" }),
        Plot.lineY(s.points, { x: "at", y: "left", stroke: "var(--rain)", strokeWidth: 2.4 }),
        Plot.ruleY([0]),
      ],
    }),
    Plot.plot({
      ...shared,
      height: 170,
      marginTop: 30,
      marginBottom: 42,
      x: { ...x, ...NUMBERS, label: "minutes from the first valve", labelOffset: 36 },
      y: { ...NUMBERS, label: `all outlets, ${s.flow_unit}`, grid: true, domain: [0, most] },
      marks: [
        Plot.lineY(s.points, { x: "at", y: "flow", stroke: "var(--ink)", strokeWidth: 2, curve: "step" }),
        Plot.ruleX(s.ends, { x: "at", stroke: "var(--mute)", strokeDasharray: "4 4" }),
        ...s.ends.map((end, i) =>
          Plot.text([end], {
            x: "at",
            frameAnchor: "top",
            text: (e) => `${e.name.slice(0, 22)} ends`,
            dy: 4 + 14 * (i % 4),
            dx: -5,
            textAnchor: "end",
            fill: "var(--ink)",
            stroke: "var(--panel)",
            strokeWidth: 3,
          }),
        ),
        Plot.ruleY([0]),
      ],
    }),
  );
  return box;
}

function twoTanks(s) {
  const days = s.gardens[0].level.map((_, i) => i);
  const looks = [
    ["var(--rain)", ""],
    ["var(--ink)", "6 3"],
  ];
  const shared = { width: WIDTH, marginLeft: 52, marginRight: 20, style: FONT };
  const x = {
    domain: [0, 364],
    ticks: STARTS.map((d) => d + 15),
    tickFormat: (d) => NAMES[STARTS.indexOf(d - 15)],
    label: null,
    tickSize: 0,
  };
  const lines = (key) =>
    s.gardens.map((g, i) =>
      Plot.lineY(days, {
        x: (d) => d,
        y: (d) => g[key][d],
        stroke: looks[i][0],
        strokeDasharray: looks[i][1],
        strokeWidth: 2.2,
      }),
    );
  const box = document.createElement("div");
  box.append(
    key(s.gardens.map((g, i) => [g.name, LINE(...looks[i])])),
    Plot.plot({
      ...shared,
      height: 220,
      marginTop: 26,
      marginBottom: 26,
      x,
      y: { ...NUMBERS, label: s.unit, grid: true, nice: true },
      marks: [...lines("level"), Plot.ruleY([0], { stroke: "var(--ink)" })],
    }),
    Plot.plot({
      ...shared,
      height: 140,
      marginTop: 26,
      marginBottom: 26,
      x,
      y: {
        domain: [0, 1],
        ticks: [0, 0.5, 1],
        tickFormat: (v) => `${Math.round(v * 100)} %`,
        label: "years with a thirsty plot",
        grid: true,
      },
      marks: [...lines("thirsty"), Plot.ruleY([0], { stroke: "var(--ink)" })],
    }),
  );
  return box;
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
