"""Every outlet on the plan, its flow against its wish told by the shape of its mark."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core.layout import wetted
from euhydra.web import svg
from euhydra.web.drawings import pieces, things
from euhydra.web.drawings.frame import MARGIN, WIDTH, Frame, frame_of, scale_bar
from euhydra.web.sheet import Sheet

WORDS = {"starved": "under its least head", "little": "less than its wish",
         "right": "as it wishes", "much": "more than its wish"}


def plan(sheet: Sheet) -> Markup:
    """The ground plan with every outlet's mark."""
    garden, frame = sheet.garden, frame_of(sheet.garden)
    lines = {line.id: line for line in garden.lines}
    all_wishes = sheet.every_wish
    marks: dict[str, list[tuple[float, float]]] = {key: [] for key in WORDS}
    for run in garden.outlets:
        for i, place in enumerate(wetted.places(lines[run.line], run)):
            wish = all_wishes.get(f"{run.id}:{i}")
            if wish is not None:
                marks[wish.verdict].append(frame.xy(*place))
    parts = [things.ground(garden, sheet.assessment.library, frame),
             *(svg.line([frame.at(p) for p in x.course], pieces.ROLES.get(x.role, "d-row"))
               for x in garden.lines),
             *(_marks(key, places, 4.0) for key, places in marks.items() if places)]
    return svg.svg(WIDTH, frame.height + 24, "Every outlet on the plan", [
        svg.el("g", *parts, class_="zoomable"), scale_bar(sheet, frame),
        *_key(frame, {k: len(v) for k, v in marks.items()})])


def _marks(key: str, places: list[tuple[float, float]], r: float) -> Markup:
    """One path for all marks of a kind: disc, ring, diamond or cross."""
    return svg.path("".join(_mark(key, x, y, r) for x, y in places), f"d-out-{key}")


def _mark(key: str, x: float, y: float, r: float) -> str:
    if key == "little":
        return (f"M{x - r:.1f} {y:.1f}a{r} {r} 0 1 0 {2 * r} 0a{r} {r} 0 1 0 {-2 * r} 0")
    if key == "much":
        return (f"M{x:.1f} {y - r - 1:.1f}l{r + 1} {r + 1}l{-r - 1} {r + 1}"
                f"l{-r - 1} {-r - 1}Z")
    if key == "starved":
        return f"M{x - r:.1f} {y - r:.1f}l{2 * r} {2 * r}m0 {-2 * r}l{-2 * r} {2 * r}"
    return f"M{x:.1f} {y:.1f}h0"


def _key(frame: Frame, counts: dict[str, int]) -> list[Markup]:
    x, y, parts = MARGIN + 6, frame.height + 8, []
    for key, words in WORDS.items():
        text = f"{words}: {counts[key]}"
        parts += [_marks(key, [(x, y)], 4.0), svg.text(x + 12, y + 4, text)]
        x += 26 + 7.3 * len(text)
    return parts
