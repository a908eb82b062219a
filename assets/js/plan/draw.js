// Draw a new thing by its rectangle, put a dripper, measure, or pick all within a box.
import { hold } from "../hold.js";
import { focusMeasure, keep, pick } from "./deeds.js";
import { corners } from "./sheet.js";
import { showGuides, snapPoint } from "./snap.js";

function rectangle(a, b) {
  return {
    west: Math.min(a.x, b.x),
    east: Math.max(a.x, b.x),
    south: Math.min(a.y, b.y),
    north: Math.max(a.y, b.y),
  };
}

export function drawThing(sheet, event, tools) {
  const others = [...sheet.boxes().values()];
  const resting = (e) => snapPoint(sheet, sheet.at(e), others, tools.step, e.altKey);
  const start = resting(event).point;
  let box = rectangle(start, start);
  const marks = [...sheet.svg.querySelectorAll(".handle, .dims, .d-picked")];
  for (const g of marks) g.setAttribute("visibility", "hidden");
  hold(event, {
    move: (e) => {
      const { point, guides } = resting(e);
      box = rectangle(start, point);
      sheet.polygon(
        corners(box),
        `${sheet.words(box.east - box.west)} × ${sheet.words(box.north - box.south)} ${sheet.unit}`,
      );
      showGuides(sheet, guides, box);
    },
    end: (gone) => {
      sheet.clear();
      const kind = tools.draws;
      tools.use("pick");
      const size = gone ? { length: box.east - box.west, width: box.north - box.south } : {};
      keep({ do: `draw:${kind}`, east: box.west, north: box.south, ...size }, focusMeasure);
    },
    cancel: () => {
      sheet.clear();
      for (const g of marks) g.removeAttribute("visibility");
    },
  });
}

export function putDripper(sheet, event) {
  const at = sheet.at(event);
  keep({ do: "dripper", east: at.x, north: at.y });
}

export function movePicture(sheet, event) {
  const picture = sheet.svg.querySelector("[data-picture]");
  const from = sheet.at(event);
  const lies = picture.getAttribute("transform");
  let by = { x: 0, y: 0 };
  hold(event, {
    move: (e) => {
      const to = sheet.at(e);
      by = { x: to.x - from.x, y: to.y - from.y };
      picture.setAttribute("transform", `translate(${by.x * sheet.scale} ${-by.y * sheet.scale}) ${lies}`);
    },
    end: (gone) => {
      if (gone) keep({ do: "picture", east: by.x, north: by.y }, () => null);
    },
    cancel: () => picture.setAttribute("transform", lies),
  });
}

// What was measured last, for the picture's scale.
function measured(a, b, words) {
  const form = document.querySelector("form[data-true]");
  if (!form) return;
  form.elements.a.value = `${a.x},${a.y}`;
  form.elements.b.value = `${b.x},${b.y}`;
  form.querySelector("[data-measured]").textContent = `, not ${words}`;
}

export function measure(sheet, event, tools) {
  const others = [...sheet.boxes().values()];
  const resting = (e) => snapPoint(sheet, sheet.at(e), others, 0, e.altKey).point;
  const start = resting(event);
  sheet.clear();
  hold(event, {
    move: (e) => {
      const end = resting(e);
      sheet.clear();
      sheet.line(start, end, "d-measure");
      const [dx, dy] = [Math.abs(end.x - start.x), Math.abs(end.y - start.y)];
      const words = `${sheet.words(Math.hypot(dx, dy))} ${sheet.unit}`;
      measured(start, end, words);
      sheet.label({ x: (start.x + end.x) / 2, y: (start.y + end.y) / 2 }, words);
      tools.tell(
        `${words}: ${sheet.words(dx)} ${sheet.unit} east–west, ${sheet.words(dy)} ${sheet.unit} north–south`,
      );
    },
    end: () => {},
    cancel: () => sheet.clear(),
  });
}

export function pickWithin(sheet, event) {
  const start = sheet.at(event);
  let box = null;
  hold(event, {
    move: (e) => {
      box = rectangle(start, sheet.at(e));
      sheet.polygon(corners(box));
    },
    end: (gone) => {
      sheet.clear();
      if (!gone) return;
      const inside = [...sheet.boxes()]
        .filter(
          ([, b]) => b.west >= box.west && b.east <= box.east && b.south >= box.south && b.north <= box.north,
        )
        .map(([path]) => path);
      pick([...new Set([...sheet.picked, ...inside])]);
    },
    cancel: () => sheet.clear(),
  });
}
