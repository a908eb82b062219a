// Writes the day into the page's address, at once and then not oftener than a browser allows.

const APART_MS = 350; // some take no more than a hundred in half a minute

export function addressWriter(signal) {
  let wrote = 0;
  let later = 0;
  const write = (day) => {
    wrote = performance.now();
    const here = new URL(window.location.href);
    here.searchParams.set("day", day);
    window.history.replaceState(null, "", here);
  };
  signal.addEventListener("abort", () => clearTimeout(later));
  return (day) => {
    clearTimeout(later);
    const wait = wrote + APART_MS - performance.now();
    if (wait <= 0) write(day);
    else later = setTimeout(() => write(day), wait);
  };
}
