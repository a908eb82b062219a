// The runs of a year that bring water, by day and minute.

export const DAY_MIN = 1440;

// Those of a day, from its midnight, minutes and flow; what began the evening before and goes on is left out.
export const runsOf = (year, day) =>
  (year.runs[(day + 365) % 365] ?? [])
    .filter(([, , , came]) => came)
    .map(([zone, start, minutes, , flow]) => ({
      zone,
      from: Math.round(start * 60),
      until: Math.round(start * 60) + minutes,
      flow,
    }));

// Those and what goes on from the evening before.
export function runsThrough(year, day) {
  const late = runsOf(year, day - 1)
    .filter((run) => run.until > DAY_MIN)
    .map((run) => ({ ...run, from: run.from - DAY_MIN, until: run.until - DAY_MIN }));
  return [...late, ...runsOf(year, day)];
}

export const runsAt = (year, day, minute) =>
  runsThrough(year, day).filter((run) => run.from <= minute && minute < run.until);
