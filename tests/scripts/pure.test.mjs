// The scripts' pure parts, in Node's own runner.
import assert from "node:assert/strict";
import { test } from "node:test";
import { latest } from "../../assets/js/latest.js";
import { lines } from "../../assets/js/ndjson.js";
import { corners, union } from "../../assets/js/plan/sheet.js";
import { apart } from "../../assets/js/reach.js";
import { answers, search } from "../../assets/js/search.js";
import { changes } from "../../assets/js/told.js";
import { snapBox, snapPoint, snapRow } from "../../assets/js/plan/snap.js";

const sheet = { metres: (pixels) => pixels / 100 }; // 8 px are 8 cm
const bed = { west: 0, south: 0, east: 3, north: 1.2 };

test("one thing is asked at a time, always the last that was wanted", async () => {
  const asked = [];
  const answers = [];
  const ask = latest((what) => {
    asked.push(what);
    return new Promise((on) => answers.push(on));
  });
  const first = ask(1);
  const second = ask(2);
  const third = ask(3);
  assert.deepEqual(asked, [1]);
  answers[0]();
  await new Promise((on) => setImmediate(on));
  assert.deepEqual(asked, [1, 3], "what came between is passed over");
  answers[1]();
  await Promise.all([first, second, third, ask(null)]);
  assert.deepEqual(asked, [1, 3]);
});

test("lines come whole, however the stream is cut", async () => {
  const text = '{"share": 0.5}\n{"share": 1, "said": "½ inch"}\n';
  const bytes = new TextEncoder().encode(text);
  for (const size of [1, 3, 7, bytes.length]) {
    const stream = new ReadableStream({
      start(to) {
        for (let at = 0; at < bytes.length; at += size) to.enqueue(bytes.slice(at, at + size));
        to.close();
      },
    });
    const told = [];
    for await (const line of lines(stream)) told.push(line);
    assert.deepEqual(told, [{ share: 0.5 }, { share: 1, said: "½ inch" }], `${size} bytes at a time`);
  }
});

test("a box rests at another's edge where that is near, else on the grid, else where it is", () => {
  const near = snapBox(
    sheet,
    bed,
    { x: 1.03, y: 0.4 },
    [{ west: 4.1, south: 5, east: 6, north: 6 }],
    0.25,
    false,
  );
  assert.ok(Math.abs(near.by.x - 1.1) < 1e-9, "its east edge at the other's west");
  assert.deepEqual(near.guides, [{ way: "x", at: 4.1 }]);
  assert.equal(near.by.y, 0.5, "a quarter of a metre is the grid");
  const free = snapBox(
    sheet,
    bed,
    { x: 1.03, y: 0.4 },
    [{ west: 4.1, south: 5, east: 6, north: 6 }],
    0,
    true,
  );
  assert.deepEqual(free, { by: { x: 1.03, y: 0.4 }, guides: [] });
});

test("a thing rests half-way between two others", () => {
  const others = [
    { west: -5, south: 0, east: -1, north: 1.2 },
    { west: 6, south: 0, east: 9, north: 1.2 },
  ];
  const { by } = snapBox(sheet, bed, { x: 1.05, y: 0 }, others, 0, false);
  assert.ok(Math.abs(by.x - 1) < 1e-9, "2 m of ground on either side");
});

test("a point snaps as a box without size does", () => {
  const { point } = snapPoint(sheet, { x: 2.97, y: 0.61 }, [bed], 0, false);
  assert.deepEqual(
    [point.x, point.y].map((v) => Number(v.toFixed(6))),
    [3, 0.6],
  );
});

test("a row goes across its bed only", () => {
  const row = { nx: "0", ny: "1", across: "0.4", half: "0.3" };
  const by = snapRow(sheet, row, { x: 5, y: 0.18 }, 0, false);
  assert.equal(by.x, 0);
  assert.ok(Math.abs(by.y - 0.2) < 1e-9, "it rests at twice the half");
  assert.equal(snapRow(sheet, row, { x: 0, y: 0.18 }, 0, true).y.toFixed(6), "0.180000");
});

test("boxes are put together and taken apart", () => {
  assert.deepEqual(union([bed, { west: -1, south: 1, east: 2, north: 4 }]), {
    west: -1,
    south: 0,
    east: 3,
    north: 4,
  });
  assert.deepEqual(corners(bed)[2], { x: 3, y: 1.2 });
});

test("what begins with a word comes before what means it, parts to buy last", () => {
  const places = [
    { words: "Store", also: "barrel tank", off: 0 },
    { words: "Barrel, 210 L", also: "part", off: 1.5 },
    { words: "One barrel to many", also: "", off: 0 },
  ];
  const names = (sought) => search(places, sought).map((place) => place.words);
  assert.deepEqual(names("barrel"), ["One barrel to many", "Barrel, 210 L", "Store"]);
  assert.deepEqual(names("barrel many"), ["One barrel to many"]);
  assert.deepEqual(names("xylophone"), []);
  assert.equal(names(" ").length, 3);
});

test("the list of measures is sifted by parts of words, in any order", () => {
  assert.ok(answers("Bed 2 Length", "leng bed"));
  assert.ok(answers("Bed 2 Length", ""));
  assert.ok(!answers("Bed 2 Length", "bed 3"));
});

test("a change is said with both values, another system by its name", () => {
  const before = {
    units: "metric",
    verdict: "Falls short.",
    figures: new Map([
      ["Head", "0.03 m"],
      ["Flow", "4 L/h"],
    ]),
  };
  const after = {
    ...before,
    figures: new Map([
      ["Head", "−0.07 m"],
      ["Flow", "4 L/h"],
      ["New", "1"],
    ]),
  };
  assert.equal(changes(before, after), "Head 0.03 m, now −0.07 m");
  assert.equal(changes(before, before), "");
  assert.equal(changes(before, { ...after, verdict: "Reaches." }), "Head 0.03 m, now −0.07 m. Reaches.");
  assert.equal(changes(before, { ...after, units: "us" }), "Now in gallons and feet");
});

test("how far a finger is from a thing", () => {
  const box = { left: 10, right: 20, top: 10, bottom: 14 };
  assert.equal(apart(box, 15, 12), 0);
  assert.equal(apart(box, 23, 18), 5);
});
