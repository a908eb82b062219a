"""The pipe graph: nodes, lines, fittings, outlets and the zones that open together."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from euhydra.core.garden.base import Id, Level, Part, Point, Thing, pick


class Node(Part):
    """A joint of the pipe graph with its level."""

    id: Id
    at: Point
    z_m: Level


class Line(Part):
    """A pipe between two nodes. ``length_m`` is the true length, rise and fall included."""

    id: Id
    zone: Id
    role: Literal["supply", "header", "lateral", "dripline", "soaker", "quarter-inch", "blank"]
    tube: str = pick("tube", "tubes")
    start: Id
    end: Id
    course: tuple[Point, ...] = Field(min_length=2)
    length_m: float = Field(ge=0, le=2000)
    plot: Id | None = None


class Fitting(Part):
    """A component at the start of a line; those of one line stand in ``order`` from its start."""

    id: Id
    kind: str = Field(max_length=64)
    line: Id
    order: int = Field(0, ge=0, le=50)


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


class Zone(Thing):
    """What opens together: its plots, the store or tap that feeds them, and the pipe there."""

    source: Id
    plots: tuple[Id, ...] = Field(min_length=1)
    supply_tube: str = pick("supply pipe", "tubes", "poly-16", only="poly-")
    filter: str = Field("filter-screen", max_length=64)
