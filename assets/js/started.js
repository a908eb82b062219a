// What was started on an element: it outlives an answer, and is not to be started twice.

const begun = new WeakMap();

export function fresh(element, what) {
  element.dataset.started = "1"; // an answer takes it off what stays
  const already = begun.get(element) ?? new Set();
  if (already.has(what)) return false;
  begun.set(element, already.add(what));
  return true;
}
