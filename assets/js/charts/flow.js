// What taps and pumps give against what the lines ask.
import { Plot } from "/static/vendor/plot.js";
import { FONT, tall, wide, NUMBERS, withKey, LINE, COLOURS } from "./parts.js";

export function supply(s) {
  const [colour, dash] = s.letter === "W" ? ["var(--well)", "2 3"] : ["var(--tap)", "7 4"];
  const at = s.points.reduce((a, b) => (Math.abs(b.flow - s.plan) < Math.abs(a.flow - s.plan) ? b : a));
  return withKey(
    [
      [`${s.letter}  pressure left`, LINE(colour, dash)],
      ["most to plan for", LINE("var(--ink)", "4 4")],
    ],
    Plot.plot({
      width: wide(),
      height: tall(260),
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
          stroke: colour,
          strokeWidth: 2.6,
          strokeDasharray: dash,
        }),
        Plot.ruleX([s.plan], { stroke: "var(--ink)", strokeDasharray: "4 4" }),
        Plot.dot([at], { x: "flow", y: "left", fill: colour, r: 5 }),
        Plot.ruleY([0], { stroke: "var(--ink)" }),
      ],
    }),
  );
}

const DASHES = ["", "7 4", "2 3", "10 3 2 3", "4 2", "1 3"];

export function pump(s) {
  return withKey(
    [
      ["the pump", LINE("var(--ink)")],
      ...s.systems.map((z, i) => [z.name, LINE(COLOURS[i % 6], DASHES[i % 6])]),
      ["where they meet", `<circle cx="11" cy="6" r="4.5" fill="var(--stop)"/>`],
    ],
    Plot.plot({
      width: wide(),
      height: tall(320),
      marginLeft: 52,
      marginTop: 26,
      marginBottom: 44,
      style: FONT,
      x: { ...NUMBERS, ticks: 5, label: s.flow_unit, labelOffset: 40, nice: true, grid: true },
      y: {
        ...NUMBERS,
        ticks: 4,
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
