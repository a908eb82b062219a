"""A run watched: what the stand-in devices tell, and what the app makes of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core import units
from euhydra.core.advise import watching
from euhydra.core.garden.base import WEEK
from euhydra.core.garden.model import Garden
from euhydra.core.statements.findings import Finding
from euhydra.core.units import System
from euhydra.standins import FAULTS, Bench
from euhydra.web.drawings import bench as draw
from euhydra.web.panes.base import Form, Pane, bar, kinds_of_timers
from euhydra.web.sheet import Sheet
from euhydra.web.wrong import case_seen

RUNS_SHOWN = 8


@dataclass(frozen=True)
class Watched:
    """The stand-in devices: their drawing, runs that are over, faults given, what is suspected and
    where that is looked into.
    """

    drawing: Markup
    log: Sequence[tuple[str, str, str, str]]
    ended: bool
    faults: Sequence[tuple[str, str, bool]]
    found: Sequence[tuple[str, str, str, str]]
    open: Sequence[str]


@dataclass(frozen=True)
class Watch(Form):
    """The bench of devices."""

    template = "_watch.html"
    bench: Watched


def watched(bench: Bench, system: System) -> Watched:
    """The bench as its panel shows it."""
    r, now = bench.r, bench.reading()
    names = {zone.id: zone.name for zone in r.garden.zones}
    runs = watching.planned_runs(r, bench.source, bench.month, bench.day + 1)
    over = [run for run in runs if run.end <= bench.minute]
    at = {reading.minute: reading for reading in bench.readings}
    log = []
    for run in over[-RUNS_SHOWN:][::-1]:
        day, minute = divmod(run.start, 1440)
        brought = at[run.end].meter_l - at[run.start].meter_l
        log.append((f"{WEEK[day % 7]} {minute // 60}:{minute % 60:02d}", names[run.zone],
                    f"{run.end - run.start} min", units.show(brought, "drop", system)))
    found = watching.suspicions(r, over, bench.readings, bench.usable_l)
    return Watched(draw.devices(bench, system), log, bench.ended,
                   [(key, words, key in bench.faults) for key, words in FAULTS.items()],
                   [(f.level, f.title.show(system), f.why.show(system), _why(r.garden, f))
                    for f in found],
                   [names[z] for z in now.open_zone.split(",") if z])


def _why(garden: Garden, finding: Finding) -> str:
    """Where what is suspected is looked into; "" where there is nothing more to look into."""
    return f"/g/{garden.id}/keep?{case_seen(finding.seen)}" if finding.seen else ""


def watch(sheet: Sheet) -> list[Pane]:
    """The devices, with buttons to let time run and to give them faults."""
    if sheet.bench is None:
        return [Pane(words="Nothing here waits for a timer.")]
    return [bar(sheet, *kinds_of_timers(sheet.garden), ("rain_hold_mm", "Time")),
            Pane(words="Stand-ins for a timer, a meter, a gauge and a weather feed, on a clock of "
                 "their own. Let it run, give a fault, and see what is made of the readings."),
            Pane(form=Watch(watched(sheet.bench, sheet.system)))]
