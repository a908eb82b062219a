"""A year of the garden as one drawing that plays by itself: the same picture, a day after a day.

Animated by the drawing's own means (SMIL), so that it plays in any browser without a script.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from itertools import groupby

import numpy as np
from markupsafe import Markup

from euhydra.core.daily.year import LEAST_L, TONES, WET_MM, Year
from euhydra.web import svg
from euhydra.web.drawings import alive as draw
from euhydra.web.drawings.prove import DAY, LEFT, STARTS
from euhydra.web.drawings.standalone import GROUND, standing_alone
from euhydra.web.drawings.year_strip import strip
from euhydra.web.sheet import Sheet

SECONDS = 40
TONE_FILLS = {"full": "#5b7f86", "enough": "#8aa39a", "low": "#c0b38a", "thirsty": "#d9b483",
              "bare": "#fbfaf4"}
DAYS = 365


def film(sheet: Sheet, year: Year) -> str:
    """The picture over the year's strip, both moving, as a document of its own."""
    begins = STARTS[sheet.assessment.demand.shown_from]
    days = [(begins + i) % DAYS for i in range(DAYS)]
    both = [str(d) for d in (draw.picture(sheet, year, begins), strip(sheet, year, begins))]
    tall, low = (float(re.search(r'viewBox="0 0 \S+ (\S+)"', drawn)[1])  # type: ignore[index]
                 for drawn in both)
    top, under = map(_inner, both)
    moved = _animated(top, sheet, year, days)
    head = ('<animateTransform attributeName="transform" type="translate" '
            f'from="{LEFT:g} 0" to="{LEFT + DAYS * DAY:.1f} 0" dur="{SECONDS}s" '
            'repeatCount="indefinite"/>')
    under = re.sub(r'(<g [^>]*data-playhead="1"[^>]*>)', rf"\1{head}", under)
    whole = svg.el("svg", svg.el("title", f"A year of {sheet.garden.name}"), Markup(moved),  # noqa: S704
                   svg.el("g", Markup(under), transform=f"translate(0 {tall:.0f})"),  # noqa: S704
                   viewBox=f"0 0 850 {tall + low:.0f}", role="img")
    return standing_alone(str(whole), GROUND)


def _inner(drawing: str) -> str:
    """A drawing without its outermost element and its title."""
    return re.sub(r"<title>.*?</title>", "", drawing[drawing.index(">") + 1:
                                                     drawing.rindex("</svg>")], count=1)


def _animated(drawing: str, sheet: Sheet, year: Year, days: Sequence[int]) -> str:
    """The picture with each thing's year put into it; figures, which cannot change, left out."""
    for mark in ("share", "level", "flow", "gives", "rain", "over"):
        drawing = re.sub(rf'<text [^>]*data-{mark}="[^"]*"[^>]*>[^<]*</text>', "", drawing)
    for p, plot in enumerate(year.plots):
        tones = [TONES[year.tone[p, d]] for d in days]
        drawing = _within(drawing, f'data-plot="{plot}"', {
            "a-ground": _values("fill", (TONE_FILLS[t] for t in tones)),
            "a-left": _values("width", (f"{year.left[p, d]:.2f}" for d in days)),
            "a-thirst": _shown(t == "thirsty" for t in tones)})
        drawing = _grown(drawing, f'data-plot="{plot}"', _shown(t != "bare" for t in tones))
    for n in range(len(sheet.assessment.banks.banks)):
        drawing = _levels(drawing, sheet, year, n, days)
    for zone in sheet.garden.zones:
        on = year.came_to(zone) >= LEAST_L
        drawing = _within(drawing, f'data-zone="{zone.id}"', {
            "a-runs": _shown(on[d] for d in days)})
    for mark, on in (("wash", year.used >= LEAST_L), ("wet", year.rain_mm >= WET_MM)):
        shown = _shown(on[d] for d in days)
        drawing = re.sub(rf'(<path [^>]*data-{mark}="1"[^>]*)></path>', rf"\1>{shown}</path>",
                         drawing)
    return drawing


def _within(drawing: str, mark: str, moves: dict[str, str]) -> str:
    """The first element of each class after a mark gets its animation."""
    at = drawing.find(mark)
    if at < 0:
        return drawing
    head, rest = drawing[:at], drawing[at:]
    for name, move in moves.items():
        rest = re.sub(rf'(<(\w+) [^>]*class="{name}[ "][^>]*)></\2>', rf"\1>{move}</\2>", rest,
                      count=1)
    return head + rest


def _grown(drawing: str, mark: str, shown: str) -> str:
    """The leaves and the bar of a plot, there while something grows; the bar is scaled."""
    at = drawing.find(mark)
    end = drawing.find("<g class=\"a-plot\"", at)
    part = drawing[at:end if end > 0 else None]
    moved = re.sub(r'(<g [^>]*data-grows="1"[^>]*>)', rf"\1{shown}", part, count=1)
    moved = re.sub(r'<rect x="([^"]*)" ([^>]*)width="[^"]*" ([^>]*)data-bar="([^"]*)"',
                   r'<rect x="0" \2width="1" \3transform="translate(\1 0) scale(\4 1)"', moved,
                   count=1)
    return drawing[:at] + moved + (drawing[end:] if end > 0 else "")


def _levels(drawing: str, sheet: Sheet, year: Year, n: int, days: Sequence[int]) -> str:
    """The water of every vessel of a bank."""
    size = max(sheet.assessment.banks.banks[n].usable_l, 1e-9)
    shares = np.clip(year.level[n, list(days)] / size, 0, 1)

    def moved(found: re.Match[str]) -> str:
        top, tall = (float(x) for x in found[2].split(","))
        return (f"{found[1]}>" + _values("y", (f"{top + tall * (1 - s):.1f}" for s in shares))
                + _values("height", (f"{tall * s:.1f}" for s in shares)) + "</rect>")

    parts = re.split(r'(?=<g class="a-store")', drawing)
    return "".join(re.sub(r'(<rect [^>]*data-stands="([^"]*)"[^>]*)></rect>', moved, part)
                   if f'data-bank="{n}"' in part[:200] else part for part in parts)


def _shown(on: Iterable[object]) -> str:
    return _values("display", ("inline" if x else "none" for x in on))


def _values(name: str, values: Iterable[str]) -> str:
    """What an attribute is on each day; days alike told once."""
    told, times, at = [], [], 0
    for value, same in groupby(values):
        told.append(value)
        times.append(f"{at / DAYS:.4f}".rstrip("0").rstrip("."))
        at += len(list(same))
    return (f'<animate attributeName="{name}" calcMode="discrete" dur="{SECONDS}s" '
            f'repeatCount="indefinite" values="{";".join(told)}" keyTimes="{";".join(times)}"/>')
