// Days of a year of 365, from 0 for the first of January.

const MONTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

// "07-14" of a day of the year from 0.
export function monthDay(day) {
  let [month, left] = [0, day];
  while (left >= MONTHS[month]) left -= MONTHS[month++];
  return `${String(month + 1).padStart(2, "0")}-${String(left + 1).padStart(2, "0")}`;
}
