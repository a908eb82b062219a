// The plan's sheet: from the pointer to metres on the site's grid and back, and what is drawn over it
// while something is done. Geometry of the screen only.

const SVG = "http://www.w3.org/2000/svg";

export class Sheet {
  constructor(svg) {
    this.svg = svg;
  }

  // The sheet outlives an answer, which may draw it to another scale.
  get inner() {
    return this.svg.querySelector(".zoomable");
  }

  get rubber() {
    return this.svg.querySelector("[data-rubber]");
  }

  get scale() {
    return Number(this.svg.dataset.scale);
  }

  get x0() {
    return Number(this.svg.dataset.x0);
  }

  get y1() {
    return Number(this.svg.dataset.y1);
  }

  get margin() {
    return Number(this.svg.dataset.margin);
  }

  get perM() {
    return Number(this.svg.dataset.perM);
  }

  get unit() {
    return this.svg.dataset.unit;
  }

  get picked() {
    return this.svg.dataset.picked.split(",").filter(Boolean);
  }

  // Metres for so many pixels of the screen.
  metres(pixels) {
    return pixels / this.inner.getScreenCTM().a / this.scale;
  }

  at(event) {
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(this.inner.getScreenCTM().inverse());
    return { x: (p.x - this.margin) / this.scale + this.x0, y: this.y1 - (p.y - this.margin) / this.scale };
  }

  xy({ x, y }) {
    return [(x - this.x0) * this.scale + this.margin, (this.y1 - y) * this.scale + this.margin];
  }

  middle() {
    const box = this.svg.getBoundingClientRect();
    return this.at({ clientX: box.left + box.width / 2, clientY: box.top + box.height / 2 });
  }

  words(metres) {
    return (metres * this.perM).toFixed(2);
  }

  // The things drawn, by path, with their boxes in metres.
  boxes() {
    return new Map([...this.svg.querySelectorAll("[data-thing]")].map((g) => [g.dataset.thing, boxOf(g)]));
  }

  group(path) {
    const key = CSS.escape(path);
    return this.svg.querySelector(`[data-thing="${key}"]`) ?? this.svg.querySelector(`[data-piece="${key}"]`);
  }

  clear() {
    this.rubber.replaceChildren();
  }

  polygon(points, label = "") {
    this.clear();
    this.add("polygon", { points: points.map((p) => this.xy(p).join(",")).join(" "), class: "d-rubber" });
    if (label)
      this.label(
        points.reduce((a, b) => ({ x: a.x + b.x / points.length, y: a.y + b.y / points.length }), {
          x: 0,
          y: 0,
        }),
        label,
      );
  }

  line(a, b, class_ = "d-guide") {
    const [[x1, y1], [x2, y2]] = [this.xy(a), this.xy(b)];
    this.add("line", { x1, y1, x2, y2, class: class_ });
  }

  label(at, words) {
    const [x, y] = this.xy(at);
    this.add("text", { x, y: y - 8, class: "d-dim d-halo", "text-anchor": "middle" }).textContent = words;
  }

  add(name, attributes) {
    const made = document.createElementNS(SVG, name);
    for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value);
    this.rubber.append(made);
    return made;
  }
}

export function boxOf(group) {
  const [west, south, east, north] = group.dataset.box.split(",").map(Number);
  return { west, south, east, north };
}

export function union(boxes) {
  return boxes.reduce((a, b) => ({
    west: Math.min(a.west, b.west),
    south: Math.min(a.south, b.south),
    east: Math.max(a.east, b.east),
    north: Math.max(a.north, b.north),
  }));
}

export function corners({ west, south, east, north }) {
  return [
    { x: west, y: south },
    { x: east, y: south },
    { x: east, y: north },
    { x: west, y: north },
  ];
}
