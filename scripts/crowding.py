"""``make crowding``: what each view puts on its first screen at once: controls, numbers, words.

For which the frame counts as well: the top line, the Run's ten stations, the ways to look.
"""

from __future__ import annotations

import statistics
import sys

from playwright.sync_api import sync_playwright
from served import BENCH, CHROMIUM, FLAGS, served

from crowd import COUNT, MOST  # isort: skip

from euhydra.web.panes import VIEWS

MEDIAN = (20, 25, 150)


def main() -> int:
    """Count each view of a garden; 1 where one holds too much at once."""
    counts: dict[str, tuple[int, int, int]] = {}
    with served() as site, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport=BENCH, reduced_motion="reduce")
        for garden in sys.argv[1:] or ["kiln-yard"]:
            for station, views in {"garden": ("",), **VIEWS}.items():
                for key in (view and view.key for view in views):
                    page.goto(f"{site}/g/{garden}/{station}?view={key}{'&day=07-14' * (not key)}")
                    page.wait_for_load_state("networkidle")
                    counts[f"{garden} {station} {key}"] = tuple(page.evaluate(COUNT))
        browser.close()
    for name, count in counts.items():
        over = any(n > most for n, most in zip(count, MOST, strict=True))
        print(f"{name:34}" + "".join(f"{n:6}" for n in count) + ("  too much" if over else ""))
    middle = [statistics.median(column) for column in zip(*counts.values(), strict=True)]
    print(f"{'the middle one':34}" + "".join(f"{n:6.0f}" for n in middle))
    print(f"{'at most: the middle, any':34}" + "".join(
        f"{m:6}, {n}" for m, n in zip(MEDIAN, MOST, strict=True)))
    return int(any(n > most for count in counts.values()
                   for n, most in zip(count, MOST, strict=True)))


if __name__ == "__main__":
    sys.exit(main())
