// Says what an answer changed, in a place that lasts, for who cannot see it.

const MOST = 4;

// What a page says: its verdict, and its figures by name.
export function standing(page) {
  const figures = new Map();
  for (const figure of page.querySelectorAll("[data-figure]")) {
    const name = figure.querySelector("summary span").textContent;
    figures.set(name, figure.querySelector("[data-value]").textContent);
  }
  const { units } = page.querySelector("[data-units]").dataset;
  return { units, verdict: page.querySelector(".verdict")?.textContent ?? "", figures };
}

// "Days short 4, now 0", and the verdict where it is another; "" where nothing is.
export function changes(before, after) {
  if (after.units !== before.units)
    return after.units === "us" ? "Now in gallons and feet" : "Now in litres and metres";
  const found = [...after.figures]
    .filter(([name, now]) => before.figures.has(name) && before.figures.get(name) !== now)
    .map(([name, now]) => `${name} ${before.figures.get(name)}, now ${now}`);
  const more = found.length > MOST ? [`and ${found.length - MOST} more`] : [];
  const verdict = after.verdict === before.verdict ? [] : [after.verdict];
  return [...found.slice(0, MOST), ...more, ...verdict].join(". ");
}

export function tell(before, after) {
  const words = changes(before, after);
  if (words) document.getElementById("told").textContent = words;
}
