// What every page has: fields that keep themselves, the go-to box, keys, charts.
import { startAlive } from "./alive/alive.js";
import { startAway } from "./away.js";
import { startBench } from "./bench.js";
import { drawCharts } from "./charts.js";
import { startDrag } from "./drag.js";
import { startFields } from "./fields.js";
import { startKeep } from "./keep.js";
import { startKeys } from "./keys.js";
import { startLeaving } from "./leaving.js";
import { startLater } from "./later.js";
import { onRefresh } from "./page.js";
import { showNear, startNear } from "./near.js";
import { startReach } from "./reach.js";
import { startPlan } from "./plan/plan.js";
import { startPour } from "./pour.js";
import { startSteps } from "./steps.js";
import { startStates } from "./states.js";
import { startVisits, toPlace } from "./visit.js";
import { startWater } from "./water.js";
import { startWeather } from "./weather.js";
import { startZones } from "./zones.js";
import { startZoom } from "./zoom.js";

function refresh() {
  startZoom(document);
  showNear(document);
  startWeather(document);
  startDrag(document);
  startPlan();
  startWater();
  startAway();
  startAlive();
  startZones();
  startBench();
  startLater();
  startSteps();
  startKeep();
  if (document.querySelector("[data-title]"))
    document.title = document.querySelector("[data-title]").dataset.title;
  middle();
}

// What one is at stands in the middle of its row, once one has come there: station, view, zone.
const stands = new Map();
function middle() {
  for (const row of document.querySelectorAll("nav.run, nav.tabs")) {
    const here = row.querySelector("[aria-current]");
    const name = row.getAttribute("aria-label");
    if (!here || stands.get(name) === here.pathname + here.textContent) continue;
    stands.set(name, here.pathname + here.textContent);
    const aside = here.getBoundingClientRect().left - row.getBoundingClientRect().left;
    row.scrollLeft += aside - row.clientWidth / 2 + here.clientWidth / 2;
  }
}

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) window.print();
  if (event.target.closest("[data-back]")) window.history.back();
});

const upload = document.querySelector("[data-upload]");
upload?.addEventListener("submit", (event) => {
  const file = upload.querySelector("input[type=file]").files[0];
  const most = file?.name.toLowerCase().endsWith(".zip") ? 64 : 4;
  if (file && file.size > most * 1024 * 1024) {
    event.preventDefault();
    const said = upload.querySelector(".err");
    said.textContent = `“${file.name}” is larger than ${most} MB, the most that can be opened here.`;
    said.hidden = false;
  }
});

let turned = 0;
let width = window.innerWidth;
window.addEventListener("resize", () => {
  clearTimeout(turned);
  if (window.innerWidth === width) return; // a phone's address bar that slides away
  turned = setTimeout(() => {
    width = window.innerWidth;
    drawCharts(document);
    stands.clear();
    middle();
  }, 150);
});

onRefresh(refresh);
startFields();
startKeys();
startVisits();
startNear();
startReach();
startLeaving();
startPour();
drawCharts(document);
refresh();
startStates();
toPlace(window.location.hash);
document.documentElement.dataset.awake = "1"; // from here on it hears what is pressed
