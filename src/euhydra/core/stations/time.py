"""Time: how long each zone runs, and what to set on the timer in hand."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from euhydra.core.garden.model import Zone
from euhydra.core.layout.heads import nothing_waits
from euhydra.core.schedule import timing
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.schedule.settings import Setting
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, say
from euhydra.core.statements.findings import StationReport, worst_first
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.worst import flow_by_level

if TYPE_CHECKING:
    from euhydra.core.results.results import Results
from euhydra.core.stations import time_findings
from euhydra.core.stations.time_findings import bridged_h


def peak_month(r: Results) -> int:
    """The month in which the zones run longest; where none is timed, that of the largest need."""
    needs, zones = r.schedule.needs, r.garden.timed_zones
    if not zones:
        return r.demand.peak_month
    totals = np.array([[n.minutes_a_day for n in needs[z.id]] for z in zones])
    return int(np.argmax(np.nan_to_num(totals, posinf=1e6).sum(axis=0)))


def report(r: Results) -> StationReport:
    """What Time says."""
    month = peak_month(r)
    hours = _hours_a_day(r, month)
    verdict = _verdict(r, month, hours)
    return StationReport("time", "Time", verdict, _key(r), _figures(r, month),
                         worst_first(time_findings.findings(r, month, hours)),
                         tuple(_verdict_in(r, m, verdict) for m in range(12)))


def _verdict_in(r: Results, month: int, at_most: Phrase) -> Phrase:
    """The sentence for a month; where none runs in it, also that for the longest."""
    hours = _hours_a_day(r, month)
    if hours > 0 or not r.garden.timed_zones:
        return _verdict(r, month, hours)
    return Phrase(f"In {MONTHS[month]} nothing runs. {at_most.template}", at_most.amounts)


def _verdict(r: Results, month: int, hours: float) -> Phrase:
    zones = Amount(len(r.garden.timed_zones), "zones")
    if not r.garden.timed_zones:
        return Phrase(nothing_waits(r.garden))
    if not math.isfinite(hours):
        return Phrase("Some plots get no water, so no run is long enough.")
    between = ("{z} run {h} a day between them." if len(r.garden.timed_zones) > 1 else
               "{z} runs {h} a day.")
    return say(f"In {MONTHS[month]}, " + between, z=zones, h=Amount(hours, "hours"))


def _key(r: Results) -> Phrase:
    if not r.garden.timed_zones:
        return Phrase("always on")
    return say("{z}", z=Amount(len(r.garden.timed_zones), "zones"))


def _hours_a_day(r: Results, month: int) -> float:
    total = 0.0
    for zone in r.garden.timed_zones:
        setting = r.schedule.setting_in(zone.id, month)
        if setting:
            total += setting.exact_min * setting.runs_a_week / 7
    return total / 60


def _figures(r: Results, month: int) -> tuple[Figure, ...]:
    if not r.garden.timed_zones:
        return ()
    hours = _hours_a_day(r, month)
    figures = [Figure("zones", "Zones", Amount(len(r.garden.timed_zones), "count"), Working(
        "plots that share their outlets, their thirst and a band of level open together",
        tuple(Term(z.name, Amount(len(z.plots), "count"), "plots") for z in r.garden.timed_zones),
        "what belongs together waters together", "common practice"))]
    if math.isfinite(hours):
        figures.append(Figure(
            "hours_peak", f"Running a day, {MONTHS[month]}", Amount(hours, "hours"), Working(
                "minutes × runs a week ÷ 7, all zones added",
                tuple(Term(z.name, Amount(s.exact_min * s.runs_a_week / 7, "minutes"))
                      for z in r.garden.timed_zones if (s := r.schedule.setting_in(z.id, month))),
                "zones under gravity take turns", "common practice")))
    for zone in r.garden.timed_zones:
        setting, need = r.schedule.setting_in(zone.id, month), r.schedule.needs[zone.id][month]
        flow = r.flows[zone.id]["half"]
        if setting is None or not math.isfinite(setting.exact_min):
            continue
        figures.append(Figure(
            f"minutes_{zone.id}", f"{zone.name}, {rhythm(setting)}",
            Amount(setting.exact_min, "minutes"), Working(
                "litres for the thirstiest plot ÷ efficiency ÷ its solved flow, for the days "
                "between runs; what drained after the last run is filled first, and lands on the "
                "lowest plots when this one ends",
                (Term("zone needs", Amount(need.wanted_l_day, "daily"), MONTHS[month]),
                 Term("flow" if r.garden.tap_of(zone.source) else
                      f"flow, {r.garden.vessel}s half full",
                      Amount(flow.flow_l_h, "flow")), *flow_by_level(r, zone),
                 Term("efficiency", Amount(timing.efficiency(flow), "share"),
                      "low-quarter uniformity"),
                 Term("drains after a run", Amount(r.flows.refills[zone.id].litres, "drop"),
                      "part of the lines above the lowest outlet"),
                 *_depths(r, zone, setting, need),
                 Term("roots bridge", Amount(bridged_h(r, zone, month), "hours"), "RAW ÷ ETc"),
                 Term("timer set to", Amount(setting.minutes, "minutes")),
                 Term("left over in a week", Amount(setting.left_over_l_week, "drop"))),
                "net depth within RAW, FAO-56 chapter 8, recalled", "published")))
    return tuple(figures)


def _depths(r: Results, zone: Zone, setting: Setting, need: timing.MonthNeed
            ) -> tuple[Term, ...]:
    """What a run gives, as a depth over the zone's ground."""
    area = sum(r.demand.thirsts[p].area_m2 for p in zone.plots)
    if area <= 0:
        return ()
    gross = need.wanted_l_day * 7 / setting.runs_a_week / area
    net = gross * timing.efficiency(r.flows[zone.id]["half"])
    return (Term("net depth a run", Amount(net, "depth"), "over the leaf area"),
            Term("gross depth a run", Amount(gross, "depth"), "net ÷ efficiency"))
