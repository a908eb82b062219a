"""The gardens that tests go by: the two smallest of the demo, and Kiln Yard before it was mended.

Its timer's valve never opens on a barrel, and its hollow is too small: what stations say of that
is what is tested. None has a log.
"""

from pathlib import Path

from euhydra.core.editing.file import from_json
from euhydra.data import garden_text
from euhydra.store.gardens import DEMO_TITLE, Gardens

KILN_YARD = (Path(__file__).parent / "files" / "kiln-yard.json").read_text(encoding="utf-8")


def add_drawn(gardens: Gardens) -> None:
    """Keep the three, as the demo keeps its own."""
    for text in (garden_text("balcony"), garden_text("plot-27"), KILN_YARD):
        gardens.add(from_json(text, gardens.library), DEMO_TITLE)
