"""The long section: everything on the way from a source to an outlet, unrolled along the pipe."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from euhydra.core.garden.model import Garden, Line, Zone
from euhydra.core.hydraulics import zone_flow
from euhydra.core.hydraulics.network import Loss, Pipe, Pump, Regulator
from euhydra.core.hydraulics.zone_flow import OutletFlow, ZoneFlow
from euhydra.core.terrain import elevation, geometry

STEP_M = 0.5  # the ground is looked at so often along a pipe
FALLS_M = 0.3  # the pipe comes down from an outlet within so much of its length
EDGE_M = 0.45  # where no spot heights are, a terrace's edge lies so far before the plot


@dataclass(frozen=True)
class Station:
    """A place on the way: metres along the pipe, the pipe's level, the head there (level too).

    ``part`` is the id of the component that was passed to reach it, "" for pipe.
    """

    along_m: float
    z_m: float
    head_m: float
    part: str = ""


@dataclass(frozen=True)
class Stands:
    """A plot of the zone on the section: its id, where it begins and ends along the way."""

    plot: str
    start_m: float
    end_m: float
    on_the_way: bool


@dataclass(frozen=True)
class Section:
    """A way from a source to an outlet. ``ground`` and ``pipe`` are (along, level) courses."""

    outlet: str
    stations: tuple[Station, ...]
    ground: tuple[tuple[float, float], ...]
    pipe: tuple[tuple[float, float], ...]
    plots: tuple[Stands, ...]

    @property
    def length_m(self) -> float:
        """From the source to the end of what is drawn."""
        return max((p.end_m for p in self.plots), default=0.0)


def long_section(garden: Garden, zone: Zone, flow: ZoneFlow, plot: str = "") -> Section:
    """The way to a plot's worst outlet, to the zone's worst when no plot of it is named; and where
    the zone's plots stand along their own ways.
    """
    worst = _worst(flow, plot)
    return replace(way_section(garden, zone, flow, plot),
                   plots=tuple(_stands(garden, zone, flow, worst.plot)))


def _worst(flow: ZoneFlow, plot: str) -> OutletFlow:
    mine = [o for o in flow.outlets if o.plot == plot] or list(flow.outlets)
    return min(mine, key=lambda o: o.head_m - o.least_head_m)


def way_section(garden: Garden, zone: Zone, flow: ZoneFlow, plot: str = "") -> Section:
    """The way alone, with no plot beside it."""
    worst = _worst(flow, plot)
    stations = _stations(flow, f"{worst.emitter}-at")
    lines = _lines_on(garden, flow, f"{worst.emitter}-at")
    course = _ground(garden, zone, lines, worst.plot)
    return Section(worst.emitter, tuple(stations), tuple(course),
                   tuple(_pipe(course, stations, lines, garden)), ())


def _stations(flow: ZoneFlow, node: str) -> list[Station]:
    level = {n.id: n.z_m for n in flow.network.nodes}
    head = flow.solution.head_m
    way, along = zone_flow.way_to(flow, node), 0.0
    at = way[0].start if way else node
    stations = [Station(0.0, level[at], head[at])]
    for join in way:
        at = join.end if join.start == at else join.start
        part = ""
        if isinstance(join, Pipe):
            along += join.length_m if not join.id.endswith("-suction") else 0.0
        elif isinstance(join, (Loss, Pump, Regulator)):
            part = join.id
        stations.append(Station(along, level[at], head[at], part))
    return stations


def _lines_on(garden: Garden, flow: ZoneFlow, node: str) -> list[tuple[Line, float]]:
    """The garden's lines on a way, each with how much of its length is passed."""
    lines = {line.id: line for line in garden.lines}
    passed: dict[str, float] = {}
    for join in zone_flow.way_to(flow, node):
        line = join.id.rsplit(":", 1)[0]
        if isinstance(join, Pipe) and line in lines:
            passed[line] = passed.get(line, 0.0) + join.length_m
    return [(lines[key], length) for key, length in passed.items()]


def _ground(garden: Garden, zone: Zone, lines: list[tuple[Line, float]], plot: str
            ) -> list[tuple[float, float]]:
    """The ground's level along the way, in steps where it goes in steps."""
    source = garden.tap_of(zone.source) or garden.store_of(zone.source)
    here, along = source.ground_m, 0.0
    course = [(0.0, here)]
    level = {n.id: n.z_m for n in garden.nodes}
    for line, length in lines:
        if line.plot is not None:
            there = garden.plot(line.plot).ground_m
            course += _step(course[-1], (along, there))
            course.append((along + length, there))
        elif garden.site.spots:
            places = geometry.points_xy(line.course)
            n = max(2, int(length / STEP_M) + 1)
            levels = elevation.levels_m(garden.site, geometry.along(places, (
                geometry.course_m(places) * k / (n - 1) for k in range(n))))
            for i, z in enumerate(levels.tolist()):
                course += _step(course[-1], (along + length * i / (n - 1), z))
        else:
            there = level[line.end]
            course += [(max(along + length - EDGE_M, along), course[-1][1])]
            course += _step(course[-1], (course[-1][0], there))
            course.append((along + length, there))
        along += length
    end = garden.plot(plot).ground_m
    return [*course, *_step(course[-1], (along, end)), (along + 0.6, end)]


def _step(before: tuple[float, float], there: tuple[float, float]) -> list[tuple[float, float]]:
    """A level ground up to where it steps, then the step."""
    x, z = there
    return [(x, before[1]), (x, z)] if abs(before[1] - z) > 1e-6 else [(x, z)]


def _pipe(course: list[tuple[float, float]], stations: list[Station],
          lines: list[tuple[Line, float]], garden: Garden) -> list[tuple[float, float]]:
    """The pipe: down from the source to the ground, along it, and up to where it waters."""
    start, end = stations[0], stations[-1]
    level = {n.id: n.z_m for n in garden.nodes}
    along = sum(length for line, length in lines if line.plot is None)
    falls = min(FALLS_M, along / 2)
    laid = [(x, z) for x, z in course if falls < x <= along]
    pipe = [(0.0, start.z_m), (falls, laid[0][1] if laid else start.z_m), *laid]
    for line, length in lines:
        if line.plot is not None:
            pipe += [(along, level[line.start]), (along + length, level[line.end])]
            along += length
    return [*pipe[:-1], (end.along_m, end.z_m)]


def _stands(garden: Garden, zone: Zone, flow: ZoneFlow, plot: str) -> list[Stands]:
    """Where each plot of the zone stands along its own way."""
    found = []
    for each in zone.plots:
        first = [o for o in flow.outlets if o.plot == each]
        ways = [sum(j.length_m for j in zone_flow.way_to(flow, f"{o.emitter}-at")
                    if isinstance(j, Pipe) and not j.id.endswith("-suction"))
                for o in (first if len(first) < 3 else (first[0], first[len(first) // 2],
                                                        first[-1]))]
        start, end = min(ways), max(ways)
        wide = max(end - start, min(garden.plot(each).length_m, 3.0))
        found.append(Stands(each, start, start + wide, each == plot))
    return found


def lost_by(section: Section) -> list[tuple[str, float]]:
    """Head lost over each component and over the pipe between, in order: (part, m)."""
    lost: list[tuple[str, float]] = []
    for before, after in pairwise(section.stations):
        drop = before.head_m - after.head_m
        if lost and lost[-1][0] == after.part == "":
            lost[-1] = ("", lost[-1][1] + drop)
        else:
            lost.append((after.part, drop))
    return lost


def over_line_m(section: Section) -> float:
    """How far the pipe rises over the running water's line where it rises most; 0 where nowhere.

    Such a pipe is under less than the air's pressure, and gathers air.
    """
    laid = [s for s in section.stations if s.along_m > 0]
    if not laid:
        return 0.0
    along, heads = [s.along_m for s in laid], [s.head_m for s in laid]
    return max(max((z - float(np.interp(x, along, heads)) for x, z in section.pipe
                    if 0 < x < section.stations[-1].along_m), default=0.0), 0.0)
