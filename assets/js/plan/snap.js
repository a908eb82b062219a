// Where a moving thing comes to rest: at another's edge or middle, half-way between two others, or on
// the grid. All in metres.

const NEAR_PX = 8;

export function snapBox(sheet, box, by, others, step, free) {
  const near = sheet.metres(NEAR_PX);
  const guides = [];
  const along = (low, high, way, move) => {
    const places = free ? [] : candidates(others, low, high, box[low] + move, box[high] + move, near);
    const found = places.reduce((a, b) => (!a || Math.abs(b.by) < Math.abs(a.by) ? b : a), null);
    if (found) {
      guides.push({ way, at: found.at });
      return move + found.by;
    }
    return step ? Math.round((box[low] + move) / step) * step - box[low] : move;
  };
  const moved = { x: along("west", "east", "x", by.x), y: along("south", "north", "y", by.y) };
  return { by: moved, guides };
}

function candidates(others, low, high, a, b, near) {
  const found = [];
  const offer = (at, from) => {
    if (Math.abs(at - from) < near) found.push({ at, by: at - from });
  };
  for (const other of others) {
    for (const edge of [other[low], other[high]]) {
      offer(edge, a);
      offer(edge, b);
    }
    offer((other[low] + other[high]) / 2, (a + b) / 2);
  }
  const before = others.filter((o) => o[high] <= a + near).sort((p, q) => q[high] - p[high])[0];
  const after = others.filter((o) => o[low] >= b - near).sort((p, q) => p[low] - q[low])[0];
  if (before && after) offer((before[high] + after[low]) / 2, (a + b) / 2);
  return found;
}

export function snapPoint(sheet, point, others, step, free) {
  const box = { west: point.x, east: point.x, south: point.y, north: point.y };
  const { by, guides } = snapBox(sheet, box, { x: 0, y: 0 }, others, step, free);
  return { point: { x: point.x + by.x, y: point.y + by.y }, guides };
}

// A row goes across its bed only, and rests at halves of the space between rows.
export function snapRow(sheet, data, by, step, free) {
  const [nx, ny, across, half] = [data.nx, data.ny, data.across, data.half].map(Number);
  const way = by.x * nx + by.y * ny;
  const there = across + way;
  const rest = Math.round(there / half) * half;
  const close = !free && Math.abs(rest - there) < sheet.metres(NEAR_PX);
  const moved = (close ? rest : step ? Math.round(there / step) * step : there) - across;
  return { x: moved * nx, y: moved * ny };
}

export function showGuides(sheet, guides, box) {
  for (const { way, at } of guides) {
    if (way === "x") sheet.line({ x: at, y: box.south - 3 }, { x: at, y: box.north + 3 });
    else sheet.line({ x: box.west - 3, y: at }, { x: box.east + 3, y: at });
  }
}
