"""One picture of each main view, made from the demo garden: ``screenshots.py OUT``."""

import sys
from pathlib import Path

from playwright.sync_api import Browser, sync_playwright
from served import BENCH, CHROMIUM, FLAGS, PHONE, served

DAY = "2026-07-14"
KILN, PLOT = "/g/kiln-yard", "/g/plot-27"
POURED = "/first-pour?has_roof=on&has_tap=on&w_beds=on&w_pots=on&today=can"
SHOTS = [
    ("home", "/?day=06-20", BENCH), ("garden", f"{KILN}/garden?day=06-20", BENCH),
    ("first-pour", POURED, BENCH), ("place", f"{KILN}/place", BENCH),
    ("garden-today", f"{KILN}/garden", PHONE), ("garden-own", f"{KILN}/garden?day=06-20", BENCH),
    ("garden-two", f"{PLOT}/garden?day=06-20&other=plot-27-another-way", BENCH),
    ("neighbour", f"{PLOT}/neighbour?from=2026-07-10&away=14", PHONE),
    ("catch", f"{KILN}/catch", BENCH),
    ("store", f"{PLOT}/store", BENCH),
    ("grow", f"{KILN}/grow", BENCH),
    ("lay", f"{KILN}/lay?sel=plots/bed-3", BENCH),
    ("push", f"{KILN}/push?zone=zone-bed-1", BENCH),
    ("time", f"{KILN}/time?month=7", BENCH),
    ("prove", f"{PLOT}/prove?view=thirst", BENCH),
    ("prove-helps", f"{KILN}/prove?view=helps&goal=sure-8&no=carrying&now=1", BENCH),
    ("build", f"{KILN}/build?view=kits&asked=wicking", BENCH),
    ("keep-phone", f"{PLOT}/keep?asked=dip", PHONE),
    ("keep-wrong", f"{KILN}/keep?view=trouble&see=zone-bed-1~far-weak&key=jug-last", BENCH),
]


def _prepare(browser: Browser, site: str) -> None:
    """Dips of a made-up week, and a copy with a deeper roof to stand beside its model."""
    def post(address: str, **form: str) -> None:
        done = browser.contexts[0].request.post(site + address, headers={"Origin": site}, form=form)
        assert done.ok, f"{address}: {done.status}"

    browser.new_context()
    for day, barrels, tote in (("2026-07-08", "90 cm", "80 cm"), ("2026-07-13", "70 cm", "60 cm")):
        post(f"{KILN}/log", kind="dip", about="barrels", typed=barrels, day=day)
        post(f"{KILN}/log", kind="dip", about="tote", typed=tote, day=day)
    post(f"{PLOT}/copy")
    post("/g/plot-27-another-way/edit", path="roofs/shed/depth_m", typed="12 m",
         station="catch")


def main(out: Path) -> None:
    """Serve the demo from a file of its own and take every picture."""
    out.mkdir(parents=True, exist_ok=True)
    with served(DAY) as site, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        _prepare(browser, site)
        for name, path, size in SHOTS:
            page = browser.new_page(viewport=size, reduced_motion="reduce")
            page.goto(site + path)
            page.wait_for_load_state("networkidle")
            page.evaluate("document.fonts.ready")
            if name == "garden-own":
                page.locator("[data-plot=pots-1]").press("Enter")
                page.locator("#own-year h2").scroll_into_view_if_needed()
            page.screenshot(path=out / f"{name}.png")
            page.close()
        browser.close()


if __name__ == "__main__":
    main(Path(sys.argv[1]))
