"""Data for the charts that the browser draws: numbers in the units shown, and words."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from euhydra.core import units
from euhydra.core.daily.year import named_years
from euhydra.core.garden.base import DAYS_BEFORE_MONTH
from euhydra.core.garden.model import Standpipe, Store, day_of_year
from euhydra.core.hydraulics import pump_duty
from euhydra.core.results.results import Results
from euhydra.core.season.drawdown import Watering
from euhydra.core.season.state import SAME
from euhydra.core.stations.place import MONTHS, eto_both_mm, monthly_eto_mm
from euhydra.core.stations.prove import level_l, level_percentiles
from euhydra.core.supply import mains
from euhydra.core.weather.water_year import in_water_years
from euhydra.web.sheet import Sheet
from euhydra.web.words import held

Spec = dict[str, Any]

MOST_CURVES = 6  # that a chart can tell apart


def rain_and_thirst(sheet: Sheet) -> Spec:
    """Rain bars against the thirst line by month, with frost ends as fractional months."""
    site, eto = sheet.garden.site, monthly_eto_mm(sheet.assessment)
    frosts = [{"month": day_of_year(day) / 365 * 12, "name": name}
              for day, name in ((site.last_frost, "last frost"), (site.first_frost, "first frost"))
              if day]
    both = eto_both_mm(sheet.assessment)
    other = next((name for name in both or () if sheet.assessment.record
                  and name != (sheet.assessment.record.method if sheet.assessment.measured
                               else "Hargreaves")), None)
    return {"kind": "rain-and-thirst", "other": other,
            "title": "Rain against the thirst of the air",
            "unit": units.unit_label("rain", sheet.system), "frosts": frosts,
            "months": [{"month": MONTHS[m][:3], "at": m + 0.5,
                        "rain": _to(sheet, site.climate.rain_mm[m], "rain"),
                        "eto": _to(sheet, float(eto[m]), "rain"),
                        "other": _to(sheet, float(both[other][m]), "rain")
                        if both and other else None} for m in range(12)]}


def years_apart(sheet: Sheet) -> Spec:
    """Rain added up through a dry, a typical and a wet year, and every other year faintly."""
    a = sheet.assessment
    added = np.cumsum(in_water_years(a.weather.rain_mm, a.demand.year_begins), axis=1)[:, ::7]
    return {"kind": "years", "title": "Rain added up through the year, every year a line",
            "unit": units.unit_label("rain", sheet.system),
            "first_month": a.demand.year_begins_in,
            "all": [[round(_to(sheet, float(v), "rain"), 2) for v in row] for row in added[:60]],
            "named": [{"name": name, "values": [round(_to(sheet, float(v), "rain"), 2)
                                                for v in added[i]]}
                      for name, i in sorted(named_years(a).items())]}


RULE_WORDS = {"five-percent": "5 % rule", "dry-spell": "dry-spell rule",
              "never-fails": "never fails"}


def sizing_curve(sheet: Sheet) -> Spec:
    """Share given by rain, share of days met and share spilled, a tick per barrel."""
    as_set = sheet.assessment.flows.opens
    vessel = sheet.garden.vessel
    title = f"What each {vessel} buys" if as_set else (
        f"What each {vessel} would buy, if every plot were given just what it drinks")
    if sheet.quick and sheet.assessment.curve_waits:
        return {"kind": "sizing", "title": title, "waits": True}
    sizes = sheet.assessment.sizes
    most = len(sizes.counts)
    rules = [{"at": min(max(rule.barrels, 0.75), most + 0.25), "left": rule.barrels > most - 1,
              "name": ("← " if rule.barrels < 0.75 else "") + RULE_WORDS[rule.key]
              + (" →" if rule.barrels > most + 0.25 else "")} for rule in sizes.rules
             if math.isfinite(rule.barrels)]
    return {"kind": "sizing", "title": title, "vessel": vessel,
            "own": int(sizes.counts[sizes.own]), "rules": rules,
            "points": [{"barrels": int(n), "given": size.given, "days": size.days_met,
                        "spilled": size.spilled}
                       for n, size in zip(sizes.counts, sizes.curve, strict=True)]}


def supply_curve(sheet: Sheet, tap: Standpipe) -> Spec:
    """Pressure left at the tap against its flow, with the flow to plan for."""
    tested = mains.tested_l_h(tap)
    return {"kind": "supply", "title": f"{tap.name}: pressure left at each flow",
            "letter": "T" if sheet.garden.on_mains(tap.id) else "W",
            "flow_unit": units.unit_label("flow", sheet.system),
            "unit": units.unit_label("pressure", sheet.system),
            "points": [{"flow": _to(sheet, q, "flow"),
                        "left": _to(sheet, mains.pressure_kpa(tap, q), "pressure")}
                       for q in np.linspace(0, tested, 41).tolist()],
            "plan": _to(sheet, mains.design_l_h(tap), "flow")}


def thirst_by_month(sheet: Sheet) -> Spec:
    """Litres a day by plot and month, after rain."""
    thirsts = sheet.assessment.demand.thirsts
    rows = [{"month": MONTHS[m][:3], "at": m, "plot": p.name,
             "need": _to(sheet, float(thirsts[p.id].net_by_month[m]), "daily")}
            for p in sheet.garden.plots for m in range(12)]
    return {"kind": "thirst", "title": "What the plots drink, after rain",
            "unit": units.unit_label("daily", sheet.system), "rows": rows,
            "plots": [p.name for p in sheet.garden.plots]}


def tank_year(sheet: Sheet) -> Spec:
    """Level by day: the middle eight tenths of the years, the median, and a typical year."""
    a, bands = sheet.assessment, level_percentiles(sheet.assessment)
    season, year = a.season, a.season.typical_year
    marked = season.tap > SAME if sheet.garden.taps else season.short
    first = DAYS_BEFORE_MONTH[a.demand.shown_from]

    def shown(litres: NDArray[np.float64]) -> list[float]:
        return _series(sheet, np.roll(litres, -first))

    return {"kind": "tank", "title": f"Usable water in the {sheet.garden.vessel}s, day by day",
            "unit": units.unit_label("volume", sheet.system),
            "full": _to(sheet, a.usable_l, "volume"),
            "first_month": a.demand.shown_from,
            "low": shown(bands["low"]), "middle": shown(bands["middle"]),
            "high": shown(bands["high"]), "typical": shown(season.in_year(level_l(a), year)),
            "short": np.flatnonzero(np.roll(season.in_year(marked, year), -first)).tolist(),
            "winter": _spans(np.roll(a.inflow.winters.all(axis=0), -first)),
            "tap": bool(sheet.garden.taps), "years": a.years}


def _spans(days: NDArray[np.bool_]) -> list[list[int]]:
    """First and last of each stretch of the days marked."""
    edges = np.diff(np.concatenate([[0], days.astype(int), [0]]))
    return [[int(a), int(b) - 1] for a, b in zip(
        np.flatnonzero(edges == 1), np.flatnonzero(edges == -1), strict=True)]


def two_tanks(sheet: Sheet, other: Results) -> Spec:
    """The stores of two gardens through a middle year, and the days on which a plot is thirsty."""
    def one(r: Results) -> dict[str, Any]:
        level = np.median(level_l(r), axis=0)
        thirsty = r.season.thirsty.any(axis=0).mean(axis=0)
        return {"name": r.garden.name, "level": _series(sheet, level),
                "thirsty": [round(float(x), 3) for x in thirsty]}

    return {"kind": "two-tanks", "title": "Usable water in the stores, middle of the years; under "
            "it how often a plot is thirsty on that day", "unit": units.unit_label(
                "volume", sheet.system), "gardens": [one(sheet.assessment), one(other)]}


def duty_curves(sheet: Sheet, after: Results, store: Store) -> Spec:
    """A pump's curve against what the lines of each zone ask, last water; of many, the worst."""
    every = [z for z in after.garden.zones if z.source == store.id]
    worst = sorted(every, key=lambda z: (lambda o: o.head_m - o.least_head_m)(
        after.flows[z.id]["low"].worst))[:MOST_CURVES]
    zones = [z for z in every if z in worst]
    few = "" if len(every) == len(zones) else f", the {len(zones)} zones with least to spare"
    curves = {z.id: pump_duty.curves(after.garden, after.library, z, after.demand.drinks)
              for z in zones}
    lift = after.garden.lift_on(store.id)

    def points(pairs: tuple[tuple[float, float], ...]) -> list[dict[str, float]]:
        return [{"flow": _to(sheet, q, "flow"), "head": _to(sheet, h, "lift")} for q, h in pairs]

    meets = [(z, pump_duty.duty(after.garden, after.library, z, after.flows[z.id]["low"]))
             for z in zones]
    return {"kind": "pump", "title": f"{lift.name if lift else 'Pump'}: its curve, and what the "
            f"lines ask of it with the {sheet.garden.vessel} nearly empty{few}",
            "unit": units.unit_label("lift", sheet.system),
            "flow_unit": units.unit_label("flow", sheet.system),
            "pump": points(curves[zones[0].id].pump) if zones else [],
            "systems": [{"name": z.name, "points": points(curves[z.id].system)} for z in zones],
            "duties": [{"flow": _to(sheet, at.flow_l_h, "flow"), "head": _to(
                sheet, at.head_m, "lift"), "name": z.name} for z, at in meets if at]}


def watering(sheet: Sheet, run: Watering) -> Spec:
    """Usable water left and the flow, minute by minute through one watering."""
    every = max(1, len(run.minutes) // 240)
    names = {z.id: z.name for z in sheet.garden.zones}
    vessel = sheet.garden.vessel
    return {"kind": "watering", "title": f"One watering, from full {vessel}s", "vessel": vessel,
            "letter": held(sheet.garden.stores),
            "unit": units.unit_label("volume", sheet.system),
            "flow_unit": units.unit_label("flow", sheet.system),
            "points": [{"at": float(t), "left": _to(sheet, float(v), "volume"),
                        "flow": _to(sheet, float(q), "flow")} for t, v, q in zip(
                            run.minutes[::every], run.left_l[::every], run.flow_l_h[::every],
                            strict=True)],
            "ends": [{"at": end, "name": names[zone]} for zone, end in run.ends]}


def _series(sheet: Sheet, litres: np.ndarray[Any, Any]) -> list[float]:
    return [round(_to(sheet, float(v), "volume"), 1) for v in litres]


def _to(sheet: Sheet, value: float, kind: str) -> float:
    return units.convert(value, kind, sheet.system)
