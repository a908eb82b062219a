// What answers to some words, best first: those that stand in it, then those that mean it.

export const MOST_FOUND = 12;

const words = (text) =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

// 0 begins with it, 1 a word of it does, 2 another word for it does, 3 it stands somewhere inside.
function rank({ words: name, also = "" }, want) {
  const own = name.toLowerCase();
  if (own.startsWith(want)) return 0;
  if (words(name).some((word) => word.startsWith(want))) return 1;
  if (words(also).some((word) => word.startsWith(want))) return 2;
  return own.includes(want) ? 3 : Infinity;
}

export function search(places, sought) {
  const wanted = words(sought);
  if (!wanted.length) return places.slice(0, MOST_FOUND);
  return places
    .map((place, at) => ({
      place,
      at,
      far: wanted.reduce((sum, want) => sum + rank(place, want), place.off ?? 0),
    }))
    .filter(({ far }) => far < Infinity)
    .sort((a, b) => a.far - b.far || a.at - b.at)
    .slice(0, MOST_FOUND)
    .map(({ place }) => place);
}

// Whether every word, or part of one, stands in a text.
export const answers = (text, sought) =>
  sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.toLowerCase().includes(word));
