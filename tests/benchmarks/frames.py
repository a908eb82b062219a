"""How smoothly a year plays in the browser: frames a second, and the longest wait between two."""

from __future__ import annotations

import statistics
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import uvicorn
from playwright.sync_api import sync_playwright

sys.path.insert(0, str(Path(__file__).parent.parent / "browser"))
from conftest import CHROMIUM, FLAGS
from drawn import add_drawn
from euhydra.core.library import Library
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.web.app import create_app
from plans import sixty_beds

BENCH, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
SECONDS = 4
COUNT = """(seconds) => new Promise((done) => {
    const gaps = [], began = performance.now()
    let was = began
    const tick = (now) => {
        gaps.push(now - was)
        was = now
        if (now - began < seconds * 1000) requestAnimationFrame(tick)
        else done(gaps.slice(1))
    }
    requestAnimationFrame(tick)
})"""


def frames(tables: Library) -> dict[str, tuple[float, float]]:
    """Of each garden the frames a second and the longest gap, ms, at a month a second."""
    found = {}
    with _served(tables) as site, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for name, garden, size in (("Kiln Yard", "kiln-yard", BENCH), ("60 beds", "sixty", BENCH),
                                   ("60 beds on a phone's screen", "sixty", PHONE)):
            page = browser.new_page(viewport=size)
            page.goto(f"{site}/g/{garden}/garden?day=05-01")
            page.locator("[data-ready]").wait_for()
            page.get_by_label("a month", exact=True).check()
            page.get_by_role("button", name="Play the year").click()
            gaps = page.evaluate(COUNT, SECONDS)
            found[name] = (1000 / statistics.mean(gaps), max(gaps))
            page.close()
        browser.close()
    return found


@contextmanager
def _served(tables: Library) -> Iterator[str]:
    with tempfile.TemporaryDirectory() as folder:
        gardens = Gardens(Database(Path(folder) / "g.sqlite3"), tables)
        add_drawn(gardens)
        gardens.add(sixty_beds(tables).model_copy(update={"id": "sixty"}), "bench")
        server = uvicorn.Server(uvicorn.Config(create_app(gardens), host="127.0.0.1", port=0,
                                               log_level="warning"))
        thread = threading.Thread(target=server.run)
        thread.start()
        while not server.started:
            time.sleep(0.02)
        try:
            yield f"http://localhost:{server.servers[0].sockets[0].getsockname()[1]}"
        finally:
            server.force_exit = server.should_exit = True
            thread.join()
