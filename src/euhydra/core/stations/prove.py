"""Prove: the stores through many years of days."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from euhydra.core.advice import Finding, Remedy, StationReport, worst_first
from euhydra.core.figures import Amount, Figure, Phrase, Term, Working, say
from euhydra.core.garden.edits import Add, SetValue
from euhydra.core.reckoning import Reckoning
from euhydra.core.weather.generator import MONTH_OF_DAY

FEW_DAYS = 7


def level_percentiles(r: Reckoning) -> dict[str, NDArray[np.float64]]:
    """Usable water by day of the year (365,): dry, typical and wet tenth of the years."""
    low, middle, high = np.percentile(r.level_l, [10, 50, 90], axis=0)
    return {"low": low, "middle": middle, "high": high}


def first_short_day(r: Reckoning) -> float | None:
    """Median day of the year (from 0) on which a need is first unmet; None when seldom."""
    firsts = [int(np.argmax(row)) for row in r.short if row.any()]
    return float(np.median(firsts)) if len(firsts) > len(r.short) / 2 else None


def ledger(r: Reckoning) -> dict[str, float]:
    """All the years' litres: start + in = used + spilled + left, to rounding."""
    own, sizing = r.own, r.sizing
    return {"start": float(sizing.start_l[:, own].sum()), "in": float(sizing.inflow_l.sum()),
            "used": float(sizing.used_l[..., own].sum()),
            "spilled": float(sizing.spilled_l[..., own].sum()),
            "left": float(sizing.level_l[:, -1, -1, own].sum())}


@dataclass(frozen=True)
class MonthOfWater:
    """Means over the years for one month: litres, and days with a need unmet."""

    level_l: float
    inflow_l: float
    wanted_l: float
    unmet_l: float
    short_days: float


def months_of_water(r: Reckoning) -> tuple[MonthOfWater, ...]:
    """The store's year by month."""
    months = []
    for month in range(12):
        days = month == MONTH_OF_DAY
        sums = [float(series[:, days].sum(axis=1).mean())
                for series in (r.inflow_l, r.demand_l, r.unmet_l, r.short)]
        months.append(MonthOfWater(float(r.level_l[:, days].mean()), *sums))
    return tuple(months)


def report(r: Reckoning) -> StationReport:
    """What Prove says."""
    days = float(np.median(r.short_days))
    if not r.valve.opens:
        verdict = Phrase("As it is set, the timer never opens.")
    elif not r.garden.stores:
        verdict = Phrase("No store to run dry: the tap meets every watering.")
    elif days == 0:
        verdict = Phrase("In a typical year the barrels meet every watering.")
    elif r.garden.taps:
        verdict = say("In a typical year the barrels fall short on {d}, and the tap fills in.",
                      d=Amount(days, "days"))
    else:
        verdict = say("In a typical year the barrels fall short on {d}, and nothing fills in.",
                      d=Amount(days, "days"))
    return StationReport("prove", "Prove", verdict,
                         say("{d} short", d=Amount(days, "days")),
                         _figures(r, days), worst_first(
                             [*_never_opens(r), *_thirst(r, days), *_tap(r)]))


def _figures(r: Reckoning, days: float) -> tuple[Figure, ...]:
    book, first = ledger(r), first_short_day(r)
    balance = Working(
        f"start + in = used + spilled + left, over {r.years} years of days",
        (Term("start", Amount(book["start"], "volume")), Term("in", Amount(book["in"], "yearly")),
         Term("used", Amount(-book["used"], "yearly")),
         Term("spilled", Amount(-book["spilled"], "yearly")),
         Term("left", Amount(-book["left"], "volume"))),
        "yield after spillage, Fewkes and Butler 2000, recalled", "published")
    figures = [
        Figure("short_days", "Days short, typical year", Amount(days, "days"), balance),
        Figure("short_days_worst", f"Days short, worst of {r.years}",
               Amount(int(r.short_days.max()), "days"), balance),
        Figure("used_year", "Rain used in a year", Amount(book["used"] / r.years, "yearly"),
               balance),
        Figure("spilled_year", "Spilled in a year", Amount(book["spilled"] / r.years, "yearly"),
               balance),
        Figure("lasts", "Full barrels last, in the hottest month", Amount(_lasts(r), "days"),
               Working("usable water ÷ what the zones draw a day in the thirstiest month",
                       (Term("usable", Amount(r.usable_l, "volume")),
                        Term("drawn", Amount(float(r.demand_by_month.max()), "daily"))),
                       "plain division; rain on the way is left out", "common practice"))]
    if first is not None:
        figures.append(Figure(
            "first_short", "First falls short about", Amount(first, "date"), Working(
                "median over the years of the first day with a need unmet",
                (Term("years", Amount(r.years, "count")),),
                f"{r.years} years by day", "published")))
    return tuple(figures)


def _lasts(r: Reckoning) -> float:
    peak = float(r.demand_by_month.max())
    return r.usable_l / peak if peak > 0 else 365.0


def _never_opens(r: Reckoning) -> list[Finding]:
    if r.valve.opens:
        return []
    return [Finding(
        "prove.never-opens", "stop", Phrase("The timer's valve stays shut"),
        say("It needs {a} and gets {b}: plots get rain and what float valves let in, no more.",
            a=Amount(r.valve.needs_kpa, "pressure"), b=Amount(r.valve.gets_kpa, "pressure")),
        (Remedy("ball-valve", Phrase("Use a ball-valve timer"), Phrase("opens on a barrel"),
                SetValue("timer", r.library.timer_like(r.garden.timer, valve="ball"))),))]


def _thirst(r: Reckoning, days: float) -> list[Finding]:
    litres = r.backups.a_year(r.backups.lacking_l)
    if litres < 1 or days <= FEW_DAYS or r.garden.taps:
        return []
    return [Finding(
        "prove.thirst", "stop" if days > 30 else "care",
        say("{d} a year without enough water", d=Amount(days, "days")),
        say("{v} a year is lacking; the worst year lacks it on {w}. More barrels, less thirst, or "
            "a tap.", v=Amount(litres, "yearly"), w=Amount(int(r.short_days.max()), "days")),
        (Remedy("fit-tap", Phrase("Top up from a tap"), say("{v} a year", v=Amount(
            litres, "yearly")), Add("tap")),))]


def _tap(r: Reckoning) -> list[Finding]:
    tap = r.backups.a_year(r.backups.tap_l)
    if tap <= 0 or not r.valve.opens:
        return []
    return [Finding(
        "prove.tap", "note",
        say("The tap gives {v} a year", v=Amount(tap, "yearly")),
        say("That is {s} of what the garden drinks." + (
            " Without it the plots would lack water on {d} of a typical year."
            if r.garden.stores else ""),
            s=Amount(tap * r.years / max(float(r.demand_l.sum()), 1e-9), "share"),
            d=Amount(float(np.median(r.short_days)), "days")))]
