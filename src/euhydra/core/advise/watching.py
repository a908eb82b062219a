"""What readings say: runs as planned against what meter, gauge and weather feed told of them.

Only readings are looked at, so that a real timer, meter and gauge can take the stand-ins' place.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from euhydra.core.garden.base import DAYS_BEFORE_MONTH
from euhydra.core.garden.model import Zone
from euhydra.core.hydraulics import zone_flow
from euhydra.core.season.programme import start_hours
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

NO_FLOW, LITTLE, MUCH = 0.05, 0.75, 1.25  # of what a run should give, from memory
GAUGE_MOVES = 0.25  # of what was metered, that a working gauge tells at least
GAUGE_STEP_L = 4.0  # a gauge tells no less, from memory
LEAST_MIN = 3  # a shorter run says nothing


@dataclass(frozen=True)
class Reading:
    """What the devices tell at a minute from Monday midnight.

    ``meter_l`` counts up; ``gauge_l`` is usable water; ``rain_mm`` fell in the last two days.
    """

    minute: int
    open_zone: str
    meter_l: float
    gauge_l: float
    rain_mm: float


@dataclass(frozen=True)
class Run:
    """A run of a zone as the timer is set, in minutes from Monday midnight."""

    zone: str
    start: int
    end: int


def planned_runs(r: Results, source: str, month: int, days: int) -> list[Run]:
    """Every run of a source's zones in so many days from the first of a month, a Monday.

    None on days on which nothing grows in the zone, or the timer is in for frost.
    """
    starts, found = r.schedule.first_hours, []
    for zone in r.garden.timed_zones:
        setting = r.schedule.setting_in(zone.id, month)
        if zone.source != source or setting is None:
            continue
        for hour in start_hours(setting, starts[zone.id, month], days):
            begin = round(hour * 60)
            if not r.schedule.timer_days[zone.id][(DAYS_BEFORE_MONTH[month] + begin // 1440) % 365]:
                continue
            found.append(Run(zone.id, begin, begin + int(setting.minutes)))
    return sorted(found, key=lambda run: run.start)


def flow_at(r: Results, zone: Zone, share: float) -> float:
    """The zone's flow with a share of its source's usable water, L/h, between the solved levels."""
    low, half, full = (r.flows[zone.id][level].flow_l_h for level in ("low", "half", "full"))
    return zone_flow.between(low, half, full, share) * r.flows.read_share(zone)


def suspicions(r: Results, runs: Sequence[Run], readings: Sequence[Reading], usable_l: float
               ) -> list[Finding]:
    """What is amiss by the last run of each zone that is over; nothing twice."""
    by_minute = {reading.minute: reading for reading in readings}
    last = {run.zone: run for run in runs if run.start in by_minute and run.end in by_minute
            and run.end - run.start >= LEAST_MIN}
    found: dict[str, Finding] = {}
    for zone in r.garden.timed_zones:
        if zone.id not in last:
            continue
        run = last[zone.id]
        before, after = by_minute[run.start], by_minute[run.end]
        hold = r.garden.rain_hold_mm
        if 0 < hold <= before.rain_mm:
            found.setdefault("held", Finding(
                "watch.held", "note", Phrase("Held after rain"),
                say("{m} fell in two days; it stays shut from {h} on.", m=Amount(
                    before.rain_mm, "rain"), h=Amount(hold, "rain"))))
            continue
        finding = _of_run(r, zone, run, before, after, usable_l)
        if finding is not None:
            found.setdefault(finding.rule, finding)
    return list(found.values())


def _of_run(r: Results, zone: Zone, run: Run, before: Reading, after: Reading,
            usable_l: float) -> Finding | None:
    metered = after.meter_l - before.meter_l
    share = (before.gauge_l + after.gauge_l) / 2 / usable_l if usable_l > 0 else 1.0
    wanted = flow_at(r, zone, share) * (run.end - run.start) / 60
    name = quoted(zone.name)
    if wanted <= 0 or (usable_l > 0 and before.gauge_l < GAUGE_STEP_L):
        return None
    if metered < NO_FLOW * wanted:
        return Finding(
            "watch.not-opened", "stop", Phrase(f"{name} did not open"),
            Phrase("The meter counted nothing in a run that was due. " + (
                "A flat battery leaves the valve as it stood: put a fresh one in."
                if zone.id not in r.flows.shut else
                "This valve has too little pressure to lift; see Push. Or its battery is flat.")),
            seen=f"{zone.id}~nothing")
    fell = before.gauge_l - after.gauge_l
    if usable_l > 0 and metered > 2 * GAUGE_STEP_L and fell < GAUGE_MOVES * metered:
        return Finding(
            "watch.gauge-stuck", "care", Phrase("The gauge's float is stuck"),
            say("The meter counted {l} and the gauge fell by {g}. Free the float.",
                l=Amount(metered, "drop"), g=Amount(max(fell, 0.0), "drop")))
    told = {"l": Amount(metered, "drop"), "w": Amount(wanted, "drop")}
    if metered < LITTLE * wanted:
        return Finding(
            "watch.little", "care", Phrase(f"{name} gives too little"),
            say("{l} in a run that should bring {w}: a blocked filter, most often. Rinse it.",
                **told), seen=f"{zone.id}~weak")
    if metered > MUCH * wanted:
        return Finding(
            "watch.much", "care", Phrase(f"{name} gives too much"),
            say("{l} in a run that should bring {w}: a split hose or a lost end plug. Shut it and "
                "walk along the line.", **told), seen=f"{zone.id}~puddle")
    return None
