"""One picture of each main view, made from the demo garden: ``screenshots.py OUT``."""

import sys
from pathlib import Path

from playwright.sync_api import sync_playwright
from served import BENCH, CHROMIUM, FLAGS, PHONE, served

KILN, PLOT = "/g/kiln-yard", "/g/plot-27"
POURED = "/first-pour?has_roof=on&has_tap=on&w_beds=on&w_pots=on&today=can"
SHOTS = [
    ("home", "/?day=06-20", BENCH), ("garden", f"{KILN}/garden?day=06-20", BENCH),
    ("first-pour", POURED, BENCH), ("place", f"{KILN}/place", BENCH),
    ("catch", f"{KILN}/catch", BENCH), ("catch-storm", f"{PLOT}/catch?view=storm", BENCH),
    ("store", f"{PLOT}/store", BENCH),
    ("grow", f"{KILN}/grow", BENCH),
    ("lay", f"{KILN}/lay?sel=plots/bed-3", BENCH),
    ("push", f"{KILN}/push?zone=zone-bed-1", BENCH),
    ("push-schools", f"{PLOT}/push?view=schools", BENCH),
    ("time", f"{KILN}/time?month=7", BENCH), ("time-watch", f"{PLOT}/time?view=watch", BENCH),
    ("prove", f"{PLOT}/prove?view=thirst", BENCH),
    ("prove-away", f"{KILN}/prove?view=away&day=07-10", BENCH),
    ("build", f"{KILN}/build?view=kits&asked=wicking", BENCH),
    ("build-phone", f"{KILN}/build?view=steps", PHONE),
    ("keep-phone", f"{PLOT}/keep?asked=dip", PHONE),
    ("keep-season", "/g/quarry-steps/keep?view=season", BENCH),
]


def main(out: Path) -> None:
    """Serve the demo from a file of its own and take every picture."""
    out.mkdir(parents=True, exist_ok=True)
    with served() as site, sync_playwright() as play:
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
