// All measures of the station as a list, with a box that leaves those that answer to it.
import Alpine from "/static/vendor/alpine.js";
import { answers } from "./search.js";

// What an answer has just taken off the page is asked once more before it is let go: it has no group.
const all = (group) => [...(group?.querySelectorAll("[data-measure]") ?? [])];
const textOf = (one) => `${one.closest("[data-group]")?.dataset.group} ${one.dataset.measure}`;

export function measureList() {
  Alpine.data("measures", () => ({
    sought: "",
    puts: 0, // of the page's inside: after each, what the list shows is asked again
    again() {
      this.puts += 1;
    },
    meets(one) {
      return this.puts >= 0 && answers(textOf(one), this.sought);
    },
    get one() {
      return this.meets(this.$el);
    },
    get some() {
      return all(this.$el).some((one) => this.meets(one));
    },
    get none() {
      const some = all(this.$root).some((one) => this.meets(one));
      return some ? "" : "No measure of this station answers to that.";
    },
  }));
}
