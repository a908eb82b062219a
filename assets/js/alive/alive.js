// The garden on a day: played, stepped and drawn through a year, whose numbers come in one answer.
import { latest } from "../latest.js";
import { typing } from "../keys.js";
import { withModifier } from "../page.js";
import { visit } from "../visit.js";
import { addressWriter } from "./address.js";
import { monthDay } from "./days.js";
import { hours } from "./hours.js";
import { startOwn } from "./own.js";
import { picture } from "./picture.js";
import { DAY_MIN, runsOf } from "./runs.js";

const YEAR = 365;
const MORNING = 360;
const PLAYED_WORDS_MS = 400; // words that change oftener are not read
let stop = () => {};

export function startAlive() {
  const main = document.querySelector("[data-alive]");
  stop(); // an answer may have drawn another day or year into what stood there
  stop = main ? begin(main) : () => {};
}

function begin(main) {
  const gone = new AbortController();
  const range = main.querySelector("#day");
  const { left, dayWide } = main.querySelector("[data-strip]").dataset;
  const gardens = [...main.querySelectorAll("[data-numbers]")];
  const begins = Number(main.dataset.begins);
  const now = { day: Number(main.dataset.day), minute: null, year: null, playing: false };
  const clock = hours(main);
  const write = addressWriter(gone.signal);
  const words = latest(async (day) => {
    await tellDay(main, day, gone.signal, write);
    if (now.playing) await new Promise((done) => setTimeout(done, PLAYED_WORDS_MS));
  });
  const dress = [];

  const show = (day) => {
    now.day = (day + YEAR) % YEAR;
    delete main.dataset.thisMorning;
    const at = (now.day - begins + YEAR) % YEAR;
    range.value = String(at);
    const moved = `translate(${(Number(left) + at * Number(dayWide)).toFixed(2)} 0)`;
    for (const head of main.querySelectorAll("[data-playhead]")) head.setAttribute("transform", moved);
    for (const set of dress) set(now.day, now.minute);
    markDifferences(gardens);
    words(now.day);
  };
  const showMinute = (minute) => {
    const at = minute === null ? null : ((minute % DAY_MIN) + DAY_MIN) % DAY_MIN;
    const turned = minute === null ? 0 : Math.floor(minute / DAY_MIN);
    now.minute = at;
    if (turned || main.dataset.thisMorning) return show(now.day + turned);
    for (const set of dress) set(now.day, at);
  };
  const load = async (garden) => {
    const answer = await fetch(garden.dataset.numbers, { credentials: "same-origin", signal: gone.signal });
    if (!answer.ok) return;
    const year = await answer.json();
    const set = picture(garden.querySelector("[data-picture]"));
    if (garden === gardens[0]) now.year = year;
    dress.push((day, minute) => {
      set(year, day, minute);
      if (year === now.year && minute !== null) clock.show(year, day, minute);
    });
    if (!main.dataset.thisMorning) set(year, now.day); // this morning is as the log has it
    markDifferences(gardens);
    if (dress.length === gardens.length) main.dataset.ready = "1";
  };
  for (const garden of gardens) load(garden).catch(() => {}); // without it the day stands as it came

  const play = player(main, now, show, showMinute);
  const dated = () => {
    const on = speedOf(main) === "hour";
    clock.open(on);
    if (on) showMinute(now.minute ?? firstMinute(now));
    else if (now.minute !== null) showMinute(null);
  };
  for (const speed of main.querySelectorAll("[name=speed]"))
    speed.addEventListener("change", dated, { signal: gone.signal });
  clock.hand.addEventListener("input", () => showMinute(Number(clock.hand.value)), { signal: gone.signal });
  startOwn(main, () => now.day, gone.signal);
  range.addEventListener("input", () => show(Number(range.value) + begins), { signal: gone.signal });
  range.addEventListener("keydown", (event) => stepped(event, now, show), { signal: gone.signal });
  document.addEventListener("keydown", (event) => keyed(event, now, show, play), { signal: gone.signal });
  main.querySelector("[data-play]").addEventListener("click", play.turn, { signal: gone.signal });
  return () => {
    play.halt();
    gone.abort();
  };
}

// Of two gardens, the plots that both have and that stand otherwise.
/** @param {any[]} gardens one, or two */
function markDifferences(gardens) {
  const [mine, theirs] = gardens;
  if (!theirs) return;
  for (const plot of mine.querySelectorAll("[data-plot]")) {
    const other = theirs.querySelector(`[data-plot="${plot.dataset.plot}"]`);
    if (!other) continue;
    for (const each of [plot, other])
      each.classList.toggle("differs", plot.dataset.tone !== other.dataset.tone);
  }
}

// Where the day's first water runs.
const firstMinute = ({ year, day }) => {
  const starts = year ? runsOf(year, day).map((run) => run.from) : [];
  return starts.length ? Math.min(...starts) : MORNING;
};

const speedOf = (main) => main.querySelector("[name=speed]:checked").value;

// Plays at so many days a second, or at an hour; each frame shows what is then.
function player(main, now, show, showMinute) {
  const button = main.querySelector("[data-play]");
  let frame = 0;
  const halt = () => {
    cancelAnimationFrame(frame);
    now.playing = false;
    button.setAttribute("aria-pressed", "false");
  };
  const go = () => {
    let was = performance.now();
    let gone = 0;
    const tick = (time) => {
      const hourly = speedOf(main) === "hour";
      gone += ((time - was) / 1000) * (hourly ? 60 : Number(speedOf(main)));
      was = time;
      const whole = Math.floor(gone);
      gone -= whole;
      if (whole && hourly) showMinute(now.minute + whole);
      else if (whole) show(now.day + whole);
      frame = requestAnimationFrame(tick);
    };
    now.playing = true;
    button.setAttribute("aria-pressed", "true");
    frame = requestAnimationFrame(tick);
  };
  return { halt, turn: () => (now.playing ? halt() : go()) };
}

const STEPS = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 };

function stepped(event, now, show) {
  const step = STEPS[event.key];
  if (!step) return;
  event.preventDefault();
  event.stopPropagation();
  show(now.day + step * (event.shiftKey ? 7 : 1));
}

function keyed(event, now, show, play) {
  if (typing(event.target) || withModifier(event) || document.querySelector("dialog[open]")) return;
  if (event.key === "t") return visit(window.location.pathname); // as it stands this morning
  if (event.key === " " && !event.target.closest("button, a, summary, input, [role=button]")) {
    event.preventDefault();
    return play.turn();
  }
  if (event.target.matches("input")) return; // which has its own arrows
  if (event.target === document.body || event.target.closest("[data-alive]")) stepped(event, now, show);
}

// The day in words, as the server tells them; the address names the day.
async function tellDay(main, day, signal, write) {
  const at = monthDay(day);
  const address = new URL(main.dataset.words, window.location.href);
  address.searchParams.set("day", at);
  try {
    const answer = await fetch(address, { credentials: "same-origin", signal });
    if (!answer.ok) return;
    put(main, await answer.text(), at);
    write(at);
  } catch {
    // one that was left, or no network: the words stay as they are
  }
}

function put(main, html, at) {
  const place = main.querySelector("#day-words");
  const open = [...place.querySelectorAll("details[open]")].map((fold) => fold.id);
  place.innerHTML = html;
  for (const id of open) place.querySelector(`#${id}`)?.setAttribute("open", "");
  for (const file of main.querySelectorAll("[data-of-day]")) {
    const to = new URL(file.href);
    to.searchParams.set("day", at);
    file.href = to.href;
  }
  const link = document.querySelector(".run [aria-current]");
  const date = place.querySelector("[data-told-date]").textContent;
  link.querySelector("[data-date]").textContent = date;
  main.querySelector("#day").setAttribute("aria-valuetext", date);
  const here = new URL(window.location.href);
  here.searchParams.set("day", at);
  link.href = here.pathname + here.search;
}
