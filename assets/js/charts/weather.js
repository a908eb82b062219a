// Rain against thirst, thirst by plot, the years of a record.
import { Plot } from "/static/vendor/plot.js";
import { FONT, tall, wide, NUMBERS, withKey, BAR, LINE, COLOURS, monthName, monthsFrom } from "./parts.js";

export function rainAndThirst(s) {
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
      width: wide(),
      height: tall(470),
      marginLeft: 46,
      marginTop: 26,
      style: FONT,
      x: {
        domain: [0, 12],
        ticks: s.months.map((m) => m.at),
        tickFormat: (t) => monthName(s.months[Math.floor(t)]?.month ?? ""),
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

export function thirst(s) {
  const colour = (name) => COLOURS[s.plots.indexOf(name) % COLOURS.length];
  return withKey(
    s.plots.map((name) => [name, BAR(colour(name))]),
    Plot.plot({
      width: wide(),
      height: tall(400),
      marginLeft: 52,
      marginTop: 26,
      style: FONT,
      x: {
        type: "band",
        domain: s.rows.slice(0, 12).map((r) => r.month),
        tickFormat: monthName,
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

const YEAR_LINES = { dry: ["var(--stop)", "6 3"], typical: ["var(--ink)", ""], wet: ["var(--rain)", "2 3"] };

export function years(s) {
  const points = (values) => values.map((v, i) => [i * 7, v]);
  return withKey(
    [
      ...s.named.map((y) => [`a ${y.name} year`, LINE(...YEAR_LINES[y.name])]),
      ["every other year", LINE("var(--rule)")],
    ],
    Plot.plot({
      width: wide(),
      height: tall(380),
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
