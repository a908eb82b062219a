"""One picture of each main view, made from the demo garden: ``screenshots.py OUT``."""

import socket
import subprocess
import sys
import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright

sys.path.insert(0, str(Path(__file__).parent.parent / "tests" / "browser"))
from conftest import CHROMIUM, FLAGS

BENCH, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
KILN, PLOT = "/g/kiln-yard", "/g/plot-27"
SHOTS = [
    ("home", "/", BENCH), ("first-pour", "/first-pour", BENCH), ("place", f"{KILN}/place", BENCH),
    ("catch", f"{KILN}/catch", BENCH), ("catch-storm", f"{PLOT}/catch?view=storm", BENCH),
    ("store", f"{PLOT}/store", BENCH),
    ("grow", f"{KILN}/grow", BENCH),
    ("grow-wicking", f"{KILN}/grow?view=wicking", BENCH),
    ("lay", f"{KILN}/lay?sel=plots/bed-3", BENCH),
    ("lay-layings", f"{KILN}/lay?view=layings&plot=border", BENCH),
    ("push", f"{KILN}/push?zone=zone-bed-1", BENCH),
    ("push-schools", f"{PLOT}/push?view=schools", BENCH),
    ("time", f"{KILN}/time", BENCH), ("time-watch", f"{PLOT}/time?view=watch", BENCH),
    ("prove", f"{PLOT}/prove?view=thirst", BENCH),
    ("prove-away", f"{KILN}/prove?view=away&day=07-10", BENCH),
    ("build", f"{KILN}/build", BENCH), ("build-phone", f"{KILN}/build?view=steps", PHONE),
    ("keep-phone", f"{PLOT}/keep?asked=dip", PHONE),
]


def free_port() -> int:
    """A port that nothing listens on."""
    with socket.socket() as sock:
        sock.bind(("127.0.0.1", 0))
        return sock.getsockname()[1]


def main(out: Path) -> None:
    """Serve the demo from a file of its own and take every picture."""
    out.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        port = free_port()
        server = subprocess.Popen(
            [sys.executable, "-m", "euhydra", "demo", "--port", str(port), "--db",
             f"{folder}/g.sqlite3"], stdout=subprocess.PIPE, text=True)
        server.stdout.readline()
        try:
            with sync_playwright() as play:
                browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
                for name, path, size in SHOTS:
                    page = browser.new_page(viewport=size, reduced_motion="reduce")
                    page.goto(f"http://localhost:{port}{path}")
                    page.wait_for_load_state("networkidle")
                    page.evaluate("document.fonts.ready")
                    for step in page.locator("[data-step='1440']").all():
                        step.click()
                        page.get_by_text("The last runs that were due").wait_for()
                    page.screenshot(path=out / f"{name}.png")
                    page.close()
                browser.close()
        finally:
            server.terminate()


if __name__ == "__main__":
    main(Path(sys.argv[1]))
