"""The pipe graph: nodes, lines, fittings, outlets and the zones that open together."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from euhydra.core.garden.base import (
    Id,
    Level,
    OptionalId,
    Part,
    Point,
    Thing,
    Weekday,
    measure,
    pick,
    refer,
)

MOST_LINES = 4000  # that can be reckoned
MOST_FITTINGS = 3 * MOST_LINES


class Node(Part):
    """A joint of the pipe graph with its level."""

    id: Id
    at: Point
    z_m: Level


class Line(Part):
    """A pipe between two nodes. ``length_m`` is the true length, rise and fall included."""

    id: Id
    zone: Id
    role: Literal["supply", "header", "lateral", "dripline", "soaker", "drilled", "quarter-inch",
                  "blank"]
    tube: str = pick("tube", "tubes")
    start: Id
    end: Id
    course: tuple[Point, ...] = Field(min_length=2, max_length=500)
    length_m: float = Field(ge=0, le=2000)
    plot: Id | None = None


class Fitting(Part):
    """A component at the start of a line; those of one line stand in ``order`` from its start.

    One put in by hand stays through every edit, and through a laying anew when it is pinned.
    """

    id: Id
    kind: str = Field(max_length=64)
    line: Id
    order: int = Field(0, ge=0, le=50)
    hand: bool = Field(False, title="put in by hand")
    pinned: bool = Field(False, title="pinned")


class Outlet(Part):
    """A run of like outlets along a line: ``points`` places, ``each`` outlets at a place.

    The first stands ``first_m`` from the line's start, the others ``spacing_m`` on.
    """

    id: Id
    kind: str = pick("outlet", "outlets")
    line: Id
    plot: Id
    first_m: float = Field(ge=0, le=2000)
    spacing_m: float = Field(gt=0, le=100)
    points: int = Field(ge=1, le=5000)
    each: int = Field(1, ge=1, le=20)


class Via(Part):
    """A place that a zone's pipe is led through by hand."""

    id: Id
    at: Point
    pinned: bool = Field(False, title="pinned")


class Zone(Thing):
    """What opens together: its plots, the store or tap that feeds them, and the pipe there.

    One that is not ``timed`` is always open: its float valves shut it; else its ``timer`` opens
    it, or the hand where that is empty. A hose that is moved hangs on the timer on its ``days``,
    () for those that spread the moves best. Where there is
    ``more_to_come`` its pipe ends in a plugged tee. ``read_l_h`` is what all its outlets gave
    together by jug or meter (0: never read), with the source's usable water at ``read_at``.
    """

    source: Id
    plots: tuple[Id, ...] = Field(min_length=1, max_length=100)
    supply_tube: str = pick("supply pipe", "tubes", "poly-16", only="poly-")
    filter: str = pick("filter", "fittings", "filter-screen", only="filter-")
    filter_blocked: float = measure("filter blocked", "share", 0, 0.95, 0.0)
    timed: bool = Field(True, title="opens by a timer or by hand")
    timer: OptionalId = refer("opened by", "timers", "")
    days: tuple[Weekday, ...] = Field((), max_length=7, title="days of its hose",
                                      json_schema_extra={"kind": "weekdays"})
    longer: float = measure("runs longer by", "share", -0.5, 1, 0.0)
    read_l_h: float = measure("flow read off", "flow", 0, 20000, 0.0)
    read_at: float = measure("store full when read", "share", 0, 1, 0.5)
    falls_a_week: float = measure("flow falls a week", "share", 0, 0.5, 0.0)
    more_to_come: bool = Field(False, title="more will come here")
    vias: tuple[Via, ...] = Field((), max_length=20)
