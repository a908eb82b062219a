// On a narrow screen a drawing is seen whole. Its button brings it near, as does a field in it that is
// to be typed in.

const NARROW = window.matchMedia("(max-width: 900px)");
const near = new Set();

const nameOf = (box) => `${document.querySelector("[data-title]")?.dataset.title} ${box.dataset.near}`;

function stand(box, on) {
  if (on) near.add(nameOf(box));
  else near.delete(nameOf(box));
  show(box, on);
}

function show(box, on) {
  box.classList.toggle("near", on);
  const button = box.previousElementSibling?.querySelector("[data-nearer]");
  if (!button) return;
  button.textContent = on ? "Whole" : "Nearer";
  button.setAttribute("aria-pressed", String(on));
}

// What stood near stands so again once an answer is in place.
export function showNear(root) {
  for (const box of root.querySelectorAll("[data-near]")) show(box, near.has(nameOf(box)));
}

export function startNear() {
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-nearer]");
    if (!button) return;
    const box = button.parentElement.nextElementSibling;
    stand(box, !box.classList.contains("near"));
  });
  document.addEventListener("focusin", (event) => {
    const box = event.target.closest("[data-near]");
    if (!box || !NARROW.matches || !event.target.matches("input, select") || box.classList.contains("near"))
      return;
    stand(box, true);
    /** @type {Element} */ (/** @type {unknown} */ (event.target)).scrollIntoView({
      block: "nearest",
      inline: "center",
    });
  });
}
