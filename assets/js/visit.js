// Links and forms of a garden's pages, answered within the page: nothing else of it moves.
import { look, post, queue, settled, typed, underWay, withModifier } from "./page.js";

const STATION = /^\/g\/[^/]+\/[a-z]+$/;

export function startVisits() {
  const page = document.getElementById("page");
  if (!page) return;
  page.addEventListener("click", (event) => {
    const link = event.target.closest("a[href]:not([target], [download])");
    if (!link || event.defaultPrevented || event.button || event.shiftKey || withModifier(event)) return;
    // What is drawn has no address of its own kind: it is read from what is written.
    const to = new URL(link.getAttribute("href"), window.location.href);
    if (!within(to) || !STATION.test(to.pathname)) return;
    event.preventDefault();
    landed(() => look(to.href, () => null, true));
  });
  page.addEventListener("submit", (event) => {
    const form = event.target;
    if (event.defaultPrevented || !form.matches("form[method=post]")) return;
    if (form.enctype === "multipart/form-data" || !within(new URL(form.action))) return;
    event.preventDefault();
    if (form.dataset.busy) return; // pressed twice
    form.dataset.busy = "1";
    const data = typed(form, event.submitter);
    landed(() => post(form.action, data)).finally(() => {
      delete form.dataset.busy;
    });
  });
  page.addEventListener("change", (event) => {
    if (!event.target.matches("[data-goes]")) return;
    const address = event.target.value; // now: an answer under way may put the list back
    landed(() => look(address, () => null, true));
  });
  window.addEventListener("popstate", () => queue(() => look(window.location.href)));
}

// Goes to an address, within the page where it is of this garden; then to the place on it.
export function visit(href) {
  const to = new URL(href, window.location.href);
  if (!within({ origin: to.origin, pathname: to.pathname, hash: "" }) || !STATION.test(to.pathname))
    return window.location.assign(to.href);
  const { hash } = to;
  to.hash = "";
  return landed(async () => {
    const said = await look(to.href, () => null, true);
    toPlace(hash);
    return said;
  });
}

// A place on the page: a measure of the list, or a field; what it is folded in opens.
export function toPlace(hash) {
  const place = hash.length > 1 && document.getElementById(hash.slice(1));
  if (!place) return;
  for (let fold = place.closest("details"); fold; fold = fold.parentElement.closest("details"))
    fold.open = true;
  place.scrollIntoView({ block: "center" });
  place.focus?.({ preventScroll: true });
}

// Once what was asked before has come; an edit that was refused keeps one here, where it says why.
async function landed(run) {
  if (underWay() && (await settled())) return;
  await queue(run);
}

// Whether an address is of the garden that is shown, and not merely a place on its page.
function within({ origin, pathname, hash }) {
  const garden = document.querySelector("[data-garden]")?.dataset.garden;
  return origin === window.location.origin && !hash && pathname.startsWith(`/g/${garden}/`);
}
