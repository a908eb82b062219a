"""Where a fault may lie, on the plan: the likelier a place, the heavier it is marked."""

from __future__ import annotations

from collections.abc import Iterator

from markupsafe import Markup

from euhydra.core.advise.diagnosing.found import OF_A_PLOT, Fault, Reading
from euhydra.core.advise.diagnosing.weighing import Weighed
from euhydra.core.garden.model import Garden, Zone
from euhydra.core.layout import wetted
from euhydra.core.terrain import geometry
from euhydra.web import svg
from euhydra.web.drawings import pieces, things
from euhydra.web.drawings.frame import WIDTH, Frame, frame_of, scale_bar
from euhydra.web.sheet import Sheet

XY = tuple[float, float]
IN_LINES = ("kink", "leak", "split", "end-clogged", "all-clogged", "air")
OF_ROOFS = ("gutter", "diverter")
LEAST, MOST_WIDE, HEAD_R = 0.03, 16.0, 9.0


def where_it_may_lie(sheet: Sheet, weighed: Weighed, reading: Reading | None) -> Markup:
    """The plan with each place marked by how likely the fault lies there, and where to read."""
    garden, frame = sheet.garden, frame_of(sheet.garden)
    parts = [things.ground(garden, sheet.assessment.library, frame),
             *(svg.line([frame.at(p) for p in x.course], pieces.ROLES.get(x.role, "d-row"))
               for x in garden.lines), *_marks(garden, frame, weighed)]
    if reading and (at := _place(garden, frame, reading.at)):
        x, y = at
        parts += [svg.el("circle", cx=x, cy=y, r=11, class_="d-read-at"),
                  svg.text(x + 16, y + 5, "read here", "d-name d-halo")]
    return svg.svg(WIDTH, frame.height + 10, "Where it may lie: the heavier the mark, the likelier",
                   [*parts, scale_bar(sheet, frame)])


def _marks(garden: Garden, frame: Frame, weighed: Weighed) -> Iterator[Markup]:
    lines: dict[str, float] = {}
    spots: dict[str, float] = {}
    zone = next((z for z in garden.zones if z.id == weighed.suspects.of), None)
    for x in weighed.likely:
        kind = x.fault.kind
        if kind in IN_LINES and zone:
            for line_id in _lines(garden, zone, x.fault):
                lines[line_id] = lines.get(line_id, 0.0) + x.share
        elif kind != "fine":
            spot = _spot(x.fault, zone)
            spots[spot] = spots.get(spot, 0.0) + x.share
    for line in garden.lines:
        if lines.get(line.id, 0.0) >= LEAST:
            yield svg.line([frame.at(p) for p in line.course], "d-suspect-line",
                           stroke_width=3 + MOST_WIDE * lines[line.id])
    for spot, share in spots.items():
        if share >= LEAST:
            yield from _spotted(garden, frame, spot, share)


def _lines(garden: Garden, zone: Zone, fault: Fault) -> list[str]:
    """The lines of a zone in which a fault may lie."""
    mine = [line for line in garden.lines if line.zone == zone.id]
    if not fault.place:
        return [line.id for line in mine]
    return [line.id for line in mine if (line.plot or zone.id) == fault.place]


def _spot(fault: Fault, zone: Zone | None) -> str:
    """The id of the thing at which a fault lies; a zone's where it lies in the head assembly."""
    if fault.kind in OF_A_PLOT and zone:
        return fault.about
    if fault.kind in OF_ROOFS:
        return fault.place
    return zone.id if zone else fault.place or fault.about


def _spotted(garden: Garden, frame: Frame, spot: str, share: float) -> Iterator[Markup]:
    """A thing of the plan, marked."""
    plot = next((p for p in garden.plots if p.id == spot), None)
    if plot:
        yield svg.path(frame.outline(geometry.outline(plot)), "d-suspect-plot",
                       stroke_width=2 + MOST_WIDE / 2 * share)
        return
    at = _at(garden, frame, spot)
    if at:
        yield svg.el("circle", cx=at[0], cy=at[1], r=HEAD_R + MOST_WIDE * share,
                     class_="d-suspect")


def _at(garden: Garden, frame: Frame, spot: str) -> XY | None:
    """Where a thing stands: a zone's head where its first line begins, a roof in its middle."""
    zone = next((z for z in garden.zones if z.id == spot), None)
    if zone:
        lines = [line for line in garden.lines if line.zone == zone.id]
        ends = {line.end for line in lines}
        first = next((line for line in lines if line.start not in ends), None)
        return frame.at(first.course[0]) if first else None
    roof = next((r for r in garden.roofs if r.id == spot), None)
    if roof:
        return frame.xy(*geometry.roof_shape(roof).centroid.coords[0])
    joint = next((j for j in garden.joints if j.id == spot), None)
    store = next((s for s in garden.stores if s.id == (joint.b if joint else spot)), None)
    return frame.at(store.at) if store else None


def _place(garden: Garden, frame: Frame, emitter: str) -> XY | None:
    """Where an outlet stands."""
    run_id, _, number = emitter.rpartition(":")
    run = next((o for o in garden.outlets if o.id == run_id), None)
    line = next((x for x in garden.lines if run and x.id == run.line), None)
    if run is None or line is None:
        return None
    return frame.xy(*wetted.places(line, run)[int(number)])
