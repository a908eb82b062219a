// Drag what is on the plan: things, pieces of the laying, corners, and the grip that turns.
import { hold } from "../hold.js";
import { follower, focusPicked, keep, pick } from "./deeds.js";
import { corners, union } from "./sheet.js";
import { showGuides, snapBox, snapPoint, snapRow } from "./snap.js";

const putBack = () => pick(document.querySelector("[data-plan]").dataset.picked.split(",").filter(Boolean));

// A drag that the server's own lines follow; what it says once the hold is over comes too late.
function followed(event, sheet, { move, end }) {
  const { ask, drop } = follower(sheet);
  hold(event, {
    move: (e) => move(e, ask),
    end: (gone) => {
      drop();
      return end(gone);
    },
    cancel: () => {
      drop();
      return putBack();
    },
  });
}

export function pathOf(target) {
  const group = target.closest("[data-piece], [data-thing]");
  return group ? (group.dataset.piece ?? group.dataset.thing) : null;
}

// What a touch is meant for: a piece inside a plot stands for the plot until that, or a piece of it, is
// picked; and it is only dragged once it is picked itself.
export function meant(sheet, target) {
  const path = pathOf(target);
  const plot = target.closest("[data-plot]")?.dataset.plot;
  if (!plot || sheet.picked.includes(path)) return { drags: path, picks: path };
  const inside = sheet.picked.some(
    (p) => p === plot || p.startsWith(`${plot}/`) || sheet.group(p)?.dataset.plot === plot,
  );
  return { drags: plot, picks: inside ? path : plot };
}

export function toggled(sheet, path) {
  return sheet.picked.includes(path) ? sheet.picked.filter((p) => p !== path) : [...sheet.picked, path];
}

export function dragThing(sheet, event, tools) {
  const { drags: path, picks } = meant(sheet, event.target);
  const several = tools.several || event.shiftKey;
  const of = sheet.picked.includes(path) ? sheet.picked : [path];
  const groups = of.map((p) => sheet.group(p)).filter((g) => g?.dataset.thing);
  const row = sheet.group(path)?.dataset.across ? sheet.group(path).dataset : null;
  const start = sheet.at(event);
  const boxes = sheet.boxes();
  const own = of.filter((p) => boxes.has(p)).map((p) => boxes.get(p));
  const others = [...boxes].filter(([p]) => !of.includes(p)).map(([, box]) => box);
  const box = own.length ? union(own) : null;
  let by = { x: 0, y: 0 };
  followed(event, sheet, {
    move: (e, ask) => {
      const at = sheet.at(e);
      const raw = { x: at.x - start.x, y: at.y - start.y };
      sheet.clear();
      if (row) {
        by = snapRow(sheet, row, raw, tools.step, e.altKey);
      } else if (box) {
        const snapped = snapBox(sheet, box, raw, others, tools.step, e.altKey);
        by = snapped.by;
        showGuides(sheet, snapped.guides, box);
      } else {
        by = tools.step
          ? { x: Math.round(raw.x / tools.step) * tools.step, y: Math.round(raw.y / tools.step) * tools.step }
          : raw;
      }
      for (const g of groups)
        g.setAttribute("transform", `translate(${by.x * sheet.scale} ${-by.y * sheet.scale})`);
      for (const g of sheet.svg.querySelectorAll(".handle, .dims, .d-picked"))
        g.setAttribute("visibility", "hidden");
      ask({ do: "move", of, east: by.x, north: by.y });
    },
    end: (gone) => {
      sheet.clear();
      if (!gone) return pick(several ? toggled(sheet, picks) : [picks]);
      if (!sheet.picked.includes(path)) sheet.svg.dataset.picked = path;
      selected(of);
      return keep({ do: "move", of, east: by.x, north: by.y });
    },
  });
}

// What is moved is picked when the page comes back.
function selected(paths) {
  const address = new URL(window.location.href);
  address.searchParams.set("sel", paths.join(","));
  window.history.replaceState(null, "", address);
}

export function dragCorner(sheet, event, tools) {
  const { of, fx, fy, sx, sy, turn } = event.target.closest("[data-handle]").dataset;
  const fixed = { x: Number(fx), y: Number(fy) };
  const signs = [Number(sx), Number(sy)];
  const angle = (Number(turn) * Math.PI) / 180;
  const others = [...sheet.boxes()].filter(([p]) => p !== of).map(([, box]) => box);
  let deed = null;
  followed(event, sheet, {
    move: (e, ask) => {
      const { point, guides } = angle
        ? { point: sheet.at(e), guides: [] }
        : snapPoint(sheet, sheet.at(e), others, tools.step, e.altKey);
      const out = turned({ x: point.x - fixed.x, y: point.y - fixed.y }, -angle);
      const rounded = (v) => (angle && tools.step && !e.altKey ? Math.round(v / tools.step) * tools.step : v);
      const length = Math.max(rounded(out.x * signs[0]), 0.05);
      const width = Math.max(rounded(out.y * signs[1]), 0.05);
      const far = turned({ x: (signs[0] * length) / 2, y: (signs[1] * width) / 2 }, angle);
      const middle = { x: fixed.x + far.x, y: fixed.y + far.y };
      const box = {
        west: middle.x - length / 2,
        east: middle.x + length / 2,
        south: middle.y - width / 2,
        north: middle.y + width / 2,
      };
      sheet.polygon(
        corners(box).map((c) => {
          const d = turned({ x: c.x - middle.x, y: c.y - middle.y }, angle);
          return { x: middle.x + d.x, y: middle.y + d.y };
        }),
        `${sheet.words(length)} × ${sheet.words(width)} ${sheet.unit}`,
      );
      showGuides(sheet, guides, box);
      deed = { do: "size", of: [of], east: box.west, north: box.south, length, width };
      ask(deed);
    },
    end: (gone) => {
      sheet.clear();
      if (gone && deed) keep(deed, focusPicked);
    },
  });
}

function turned({ x, y }, angle) {
  return { x: x * Math.cos(angle) - y * Math.sin(angle), y: x * Math.sin(angle) + y * Math.cos(angle) };
}

export function dragTurn(sheet, event) {
  const { turnOf: of, cx, cy } = event.target.closest("[data-turn-of]").dataset;
  const middle = { x: Number(cx), y: Number(cy) };
  const angleOf = (e) => {
    const p = sheet.at(e);
    return (Math.atan2(p.y - middle.y, p.x - middle.x) * 180) / Math.PI;
  };
  const start = angleOf(event);
  let by = 0;
  followed(event, sheet, {
    move: (e, ask) => {
      const raw = ((angleOf(e) - start + 540) % 360) - 180;
      by = e.altKey ? Math.round(raw) : Math.round(raw / 5) * 5;
      sheet.clear();
      sheet.label(middle, `${by}°`);
      ask({ do: `turn:${by}`, of: [of] });
    },
    end: (gone) => {
      sheet.clear();
      if (gone && by) keep({ do: `turn:${by}`, of: [of] });
      else if (gone) putBack();
    },
  });
}
