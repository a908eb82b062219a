// What keeps a small state of its own on the page: each an Alpine component.
import Alpine from "/static/vendor/alpine.js";
import { gotoBox } from "./goto.js";
import { measureList } from "./measures.js";
import { outbox } from "./outbox.js";
import { longWork } from "./work.js";

export function startStates() {
  for (const component of [gotoBox, measureList, outbox, longWork]) component();
  Alpine.start();
}
