"""One picture of each main view, made from the demo garden: ``screenshots.py OUT``."""

import datetime as dt
import random
import sys
from pathlib import Path

from playwright.sync_api import sync_playwright
from served import BENCH, CHROMIUM, FLAGS, PHONE, served

from euhydra.core.log import Entry
from euhydra.store.database import Database
from euhydra.store.log import Log

KILN, PLOT = "/g/kiln-yard", "/g/plot-27"
POURED = "/first-pour?has_roof=on&has_tap=on&w_beds=on&w_pots=on&today=can"
SHOTS = [
    ("home", "/", BENCH), ("first-pour", POURED, BENCH), ("place", f"{KILN}/place", BENCH),
    ("catch", f"{KILN}/catch", BENCH), ("catch-storm", f"{PLOT}/catch?view=storm", BENCH),
    ("store", f"{PLOT}/store", BENCH),
    ("grow", f"{KILN}/grow", BENCH),
    ("lay", f"{KILN}/lay?sel=plots/bed-3", BENCH),
    ("lay-layings", f"{KILN}/lay?view=layings&plot=border", BENCH),
    ("push", f"{KILN}/push?zone=zone-bed-1", BENCH),
    ("push-schools", f"{PLOT}/push?view=schools", BENCH),
    ("time", f"{KILN}/time?month=7", BENCH), ("time-watch", f"{PLOT}/time?view=watch", BENCH),
    ("prove", f"{PLOT}/prove?view=thirst", BENCH),
    ("prove-away", f"{KILN}/prove?view=away&day=07-10", BENCH),
    ("build", f"{KILN}/build", BENCH), ("build-phone", f"{KILN}/build?view=steps", PHONE),
    ("keep-phone", f"{PLOT}/keep?asked=dip", PHONE),
    ("keep-season", f"{PLOT}/keep?view=season", BENCH),
]


def made_up_log(path: Path) -> None:
    """A summer of entries for Plot 27, the same every time."""
    chance, entries = random.Random(4), []
    day, last = dt.date.today() - dt.timedelta(days=150), dt.date.today()

    def add(when: dt.date, kind: str, about: str = "", value: float | None = None,
            word: str = "", note: str = "") -> None:
        entries.append(Entry(f"made-up-{len(entries):04d}", when, kind, about, value, word, note))

    while day < last:
        if chance.random() < 0.3:
            add(day, "rain", value=round(chance.expovariate(1 / 5), 1))
        if chance.random() < 0.07:
            add(day, "dip", "blue", round(chance.uniform(0.3, 0.8), 2))
        if chance.random() < 0.12:
            add(day, "soil", chance.choice(["bed-1", "bed-2", "bed-3"]),
                word=chance.choice(["dry", "right", "right", "muddy"]))
        if chance.random() < 0.05:
            add(day, "harvest", "bed-1", round(chance.uniform(0.4, 2.5), 1))
        day += dt.timedelta(days=1)
    for ago, flow in ((140, 30.0), (110, 28.5), (75, 26.0), (40, 23.5)):
        add(last - dt.timedelta(days=ago), "flow", "zone-bed-1", flow)
    for ago, words in ((95, "runs longer by −10 %"), (50, "runs longer by 0 %")):
        add(last - dt.timedelta(days=ago), "changed", "zone-bed-1", note=words)
    add(last - dt.timedelta(days=60), "filter", "zone-bed-1")
    add(last - dt.timedelta(days=20), "lesson", note="Net the barrels before the leaves fall")
    Log(Database(path)).put("plot-27", entries)


def main(out: Path) -> None:
    """Serve the demo from a file of its own and take every picture."""
    out.mkdir(parents=True, exist_ok=True)
    with served(made_up_log) as site, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for name, path, size in SHOTS:
            page = browser.new_page(viewport=size, reduced_motion="reduce")
            page.goto(site + path)
            page.wait_for_load_state("networkidle")
            page.evaluate("document.fonts.ready")
            for step in page.locator("[data-step='1440']").all():
                step.click()
                page.get_by_text("The last runs that were due").wait_for()
            page.screenshot(path=out / f"{name}.png")
            page.close()
        browser.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]))
