// The theme a person chose, set before the page is painted a second time.
const KEY = "euhydra-theme";

export function applyTheme() {
  let theme = null;
  try {
    theme = localStorage.getItem(KEY);
  } catch {
    /* storage may be shut off */
  }
  if (theme) document.documentElement.dataset.theme = theme;
}

export function toggleTheme() {
  const dusk = document.documentElement.dataset.theme === "dusk";
  document.documentElement.dataset.theme = dusk ? "day" : "dusk";
  try {
    localStorage.setItem(KEY, dusk ? "day" : "dusk");
  } catch {
    /* as above */
  }
}

applyTheme();
