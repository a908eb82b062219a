"""Labels for paper: each with a code that a phone reads and that leads to its page."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import quote

import segno
from markupsafe import Markup

from euhydra.core.construction.labels import Label, labels
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library


def page_of(garden: Garden, label: Label) -> str:
    """The address, below the app's own, of the page of what a label hangs on."""
    return f"/g/{garden.id}/keep?view=one&asked=about:{quote(label.about)}"


@dataclass(frozen=True)
class Printed:
    """A label as it is printed, with the page that its ``code`` leads to."""

    hangs_on: str
    title: str
    line: str
    sign: str
    page: str
    code: Markup


def printed(garden: Garden, library: Library, at: str) -> list[Printed]:
    """Every label with its code; ``at`` is where a phone reaches the app, no slash at its end."""
    return [Printed(x.hangs_on, x.title, x.line.show(garden.units), x.sign, page_of(garden, x),
                    code(at + page_of(garden, x))) for x in labels(garden, library)]


def code(address: str) -> Markup:
    """A QR code as SVG, of which a quarter may be smeared (level Q)."""
    made = segno.make(address, error="q", micro=False)
    return Markup(made.svg_inline(border=2, omitsize=True, svgclass="qr",  # noqa: S704
                                  lineclass=None, dark="#000", light="#fff"))
