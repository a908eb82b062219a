// Stores: one size to many, the year in them, a watering, two gardens side by side.
import { Plot } from "/static/vendor/plot.js";
import {
  FONT,
  tall,
  wide,
  NUMBERS,
  key,
  withKey,
  BAR,
  LINE,
  STARTS,
  NAMES,
  monthName,
  monthsFrom,
} from "./parts.js";

export function sizing(s) {
  const percent = (v) => `${Math.round(v * 100)} %`;
  const own = s.points.filter((p) => p.barrels === s.own);
  const told = s.points.filter((p, i) => !i || p.barrels === s.own || i === s.points.length - 1);
  return withKey(
    [
      ["R  litres given by rain", LINE("var(--rain)")],
      ["days of the season not short", LINE("var(--leaf)", "6 3")],
      ["R  of the rain that spills", LINE("var(--care)", "2 3")],
    ],
    Plot.plot({
      width: wide(),
      height: tall(350),
      marginLeft: 46,
      marginTop: 26,
      marginBottom: 46,
      style: FONT,
      x: {
        label: `${s.vessel}s`,
        labelOffset: 42,
        ticks: s.points.map((p) => p.barrels).filter((n, i, all) => all.length < 9 || n % 2 === s.own % 2),
        tickFormat: "d",
        domain: [0.7, s.points.length + 0.3],
      },
      y: { domain: [0, 1], ticks: 5, tickFormat: percent, label: null, grid: true },
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
        Plot.text(told, {
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

export function tank(s) {
  const days = s.low.map((_, i) => i);
  return withKey(
    [
      ["eight years in ten", BAR("var(--rain-pale)")],
      [`middle of ${s.years} years`, LINE("var(--rain)")],
      ["a typical year", LINE("var(--ink)")],
      [s.tap ? "T  the tap fills in" : "days short, that year", BAR(s.tap ? "var(--tap)" : "var(--stop)")],
    ],
    Plot.plot({
      width: wide(),
      height: tall(400),
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
          insetTop: tall(400) - 66,
          insetBottom: -4,
        }),
        Plot.ruleY([0], { stroke: "var(--ink)" }),
      ],
    }),
  );
}

export function watering(s) {
  const most = Math.max(...s.points.map((p) => p.flow), 1e-9);
  const full = Math.max(...s.points.map((p) => p.left), 1e-9);
  const shared = { width: wide(), marginLeft: 52, marginRight: 20, style: FONT };
  const x = { label: null, domain: [0, s.points.at(-1).at] };
  const box = document.createElement("div");
  box.append(
    Plot.plot({
      ...shared,
      height: tall(190),
      marginTop: 26,
      marginBottom: 22,
      x: { ...x, ticks: 0 },
      y: {
        ...NUMBERS,
        ticks: 3,
        label: `${s.letter}  left in the ${s.vessel}s, ${s.unit}`,
        grid: true,
        domain: [0, full],
      },
      marks: [
        Plot.areaY(s.points, { x: "at", y: "left", fill: "var(--rain-pale)" }),
        Plot.lineY(s.points, { x: "at", y: "left", stroke: "var(--rain)", strokeWidth: 2.4 }),
        Plot.ruleY([0]),
      ],
    }),
    Plot.plot({
      ...shared,
      height: tall(170),
      marginTop: 30,
      marginBottom: 42,
      x: { ...x, ...NUMBERS, ticks: 5, label: "minutes from the first valve", labelOffset: 36 },
      y: { ...NUMBERS, ticks: 3, label: `all outlets, ${s.flow_unit}`, grid: true, domain: [0, most] },
      marks: [
        Plot.lineY(s.points, { x: "at", y: "flow", stroke: "var(--ink)", strokeWidth: 2, curve: "step" }),
        Plot.ruleX(s.ends, { x: "at", stroke: "var(--mute)", strokeDasharray: "4 4" }),
        ...s.ends.map((end, i) =>
          Plot.text([end], {
            x: "at",
            frameAnchor: "top",
            text: (e) => `${e.name.length > 16 ? `${e.name.slice(0, 14)}…` : e.name} ends`,
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

export function twoTanks(s) {
  const days = s.gardens[0].level.map((_, i) => i);
  const looks = [
    ["var(--rain)", ""],
    ["var(--ink)", "6 3"],
  ];
  const shared = { width: wide(), marginLeft: 52, marginRight: 20, style: FONT };
  const x = {
    domain: [0, 364],
    ticks: STARTS.map((d) => d + 15),
    tickFormat: (d) => monthName(NAMES[STARTS.indexOf(d - 15)]),
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
      height: tall(220),
      marginTop: 26,
      marginBottom: 26,
      x,
      y: { ...NUMBERS, label: s.unit, grid: true, nice: true },
      marks: [...lines("level"), Plot.ruleY([0], { stroke: "var(--ink)" })],
    }),
    Plot.plot({
      ...shared,
      height: tall(140),
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
