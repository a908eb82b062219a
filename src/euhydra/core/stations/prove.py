"""Prove: the garden through many years of days, the timer as it is set."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from euhydra.core.advise.other_timers import other_timers
from euhydra.core.editing.edits import Add
from euhydra.core.season.lasts import A_YEAR
from euhydra.core.season.state import SAME
from euhydra.core.season.thirsty import thirst_of
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Remedy, StationReport, worst_first
from euhydra.core.stations import season as thirst
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.store_findings import asked_for
from euhydra.core.weather.generator import MONTH_OF_DAY

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

FEW_DAYS = 7
HOW_SHORT = ("days from a watering that no source could give in full to the next that is, within "
             "the growing season")


def level_l(r: Results) -> NDArray[np.float64]:
    """Usable water that zones can draw, at each day's end, (years, 365)."""
    if not r.garden.stores:
        return np.zeros_like(r.weather.rain_mm)
    return np.asarray(r.season.level[drawn_banks(r)].sum(axis=0))


def drawn_banks(r: Results) -> list[int]:
    """The banks whose water is told together: those that zones draw from, else all."""
    return list(r.reached) or list(range(len(r.banks.banks)))


def level_percentiles(r: Results) -> dict[str, NDArray[np.float64]]:
    """Usable water by day of the year (365,): dry, typical and wet tenth of the years."""
    low, middle, high = np.percentile(level_l(r), [10, 50, 90], axis=0)
    return {"low": low, "middle": middle, "high": high}


@dataclass(frozen=True)
class MonthOfWater:
    """Means over the years for one month: litres, and short days.

    Opened for = rain + filled in (wells, taps, by hand) + lacking.
    """

    level_l: float
    inflow_l: float
    asked_l: float
    rain_l: float
    filled_in_l: float
    lacking_l: float
    short_days: float


def months_of_water(r: Results) -> tuple[MonthOfWater, ...]:
    """The garden's water by month."""
    season, level, months = r.season, level_l(r), []
    for month in range(12):
        days = month == MONTH_OF_DAY
        sums = [float(series[:, days].sum(axis=1).mean())
                for series in (r.inflow.total_l, season.asked.sum(axis=0), season.rain,
                               season.filled_in, season.lacking.sum(axis=0),
                               season.short)]
        months.append(MonthOfWater(float(level[:, days].mean()), *sums))
    return tuple(months)


def report(r: Results) -> StationReport:
    """What Prove says."""
    days = float(np.median(r.season.short_days))
    return StationReport("prove", "Prove", _verdict(r, days), _key_figure(r, days),
                         (*thirst.figures(r), *_figures(r, days)),
                         worst_first([*_never_opens(r), *thirst.thirsty(r), *_short(r, days),
                                      *_tap(r)]))


def _key_figure(r: Results, days: float) -> Phrase:
    """Short days where water lacks, else the thirsty days of the thirstiest plot."""
    _, thirsty = next(iter(thirst_of(r.season, r.demand)), ("", 0.0))
    if days or not thirsty:
        return say("{d} short", d=Amount(days, "days"))
    return say("{d} thirsty", d=Amount(thirsty, "days"))


def _verdict(r: Results, days: float) -> Phrase:
    if not r.flows.opens:
        return Phrase("As it is set, the timer never opens.")
    plot, thirsty = next(iter(thirst_of(r.season, r.demand)), ("", 0.0))
    name = quoted(r.garden.plot(plot).name) if plot else ""
    if days:
        more = f", and there is thirst in {name} on " + "{t}." if thirsty >= 1 else "."
        return say("In a typical year the water falls short on {d}" + more,
                   d=Amount(days, "days"), t=Amount(thirsty, "days"))
    as_set = "the timer set as it is" if r.garden.timed_zones else "as it stands"
    if not plot or thirsty < 1:
        return Phrase(f"In a typical year nothing goes thirsty, {as_set}.")
    return say(f"In a typical year there is thirst in {name} on " + f"{{t}}, {as_set}.",
               t=Amount(thirsty, "days"))


def _figures(r: Results, days: float) -> tuple[Figure, ...]:
    season, n = r.season, r.years
    short = season.short_days
    how = Working(HOW_SHORT + f"; by water year, {n} of them", (
        Term("fewest", Amount(int(short.min()), "days")), Term("middle", Amount(days, "days", 0)),
        Term("most", Amount(int(short.max()), "days"))), "season by day, the timer as it is set",
        "published")
    figures = [
        Figure("short_days", "Days short, typical year", Amount(days, "days"), how),
        Figure("short_days_worst", f"Days short, worst of {n}", Amount(int(short.max()), "days"),
               how)]
    if season.world.inflow.any():
        figures += _rain_figures(r)
    if r.garden.stores:
        figures.append(_lasts(r))
    if (first := season.first_short) is not None:
        figures.append(Figure(
            "first_short", "First falls short about", Amount(first, "date"), Working(
                "middle of the first short days of those water years that have one",
                (Term("years with one", Amount(int((short > 0).sum()), "count")),
                 Term("years", Amount(n, "count"))), f"{n} years by day", "published")))
    return tuple(figures)


def _rain_figures(r: Results) -> list[Figure]:
    """What of the rain was used and what spilled, where any comes to the stores."""
    season = r.season
    filled = [("wells", season.well), ("taps", season.tap), *(
        [("by hand", season.by_hand)] if season.world.filled_at.any() else [])]
    return [
        Figure("used_year", "Rain used in a year", Amount(season.a_year(season.rain), "yearly"),
               Working("what timer and float valves got − " + " − ".join(
                   name for name, _ in filled), (
                   Term("opened for", Amount(season.a_year(season.asked), "yearly")),
                   Term("lacking", Amount(-season.a_year(season.lacking), "yearly")),
                   *(Term(name, Amount(-season.a_year(litres), "yearly"))
                     for name, litres in filled)),
                   "season by day", "published")),
        Figure("spilled_year", "Spilled in a year", Amount(season.a_year(season.over), "yearly"),
               Working("what came + what the stores lost in all years ÷ years − rain used", (
                   Term("came", Amount(season.a_year(season.world.inflow), "yearly")),
                   Term("lost by the stores", Amount(
                       season.a_year(season.start) - season.a_year(season.end), "yearly")),
                   *((Term("emptied before the frost", Amount(
                       -season.a_year(season.emptied), "yearly")),)
                     if season.world.out.any() else ()),
                   *((Term("lost by leaks", Amount(-season.a_year(season.leaked), "yearly")),)
                     if season.leaked.any() else ()),
                   *((Term("carried in and not drawn yet", Amount(
                       season.a_year(season.poured) - season.a_year(season.by_hand), "yearly")),)
                     if season.world.filled_at.any() else ()),
                   Term("used", Amount(-season.a_year(season.rain), "yearly"))),
                   "season by day", "published"))]


def _lasts(r: Results) -> Figure:
    told, season = r.lasts, r.season
    days = MONTH_OF_DAY == told.month
    stored = season.world.stored
    a_day = float(season.asked[stored][..., days].sum(axis=0).mean())
    more = " or more" if told.dry == A_YEAR else ""
    return Figure("lasts", f"Full stores last, from 1 {MONTHS[told.month]} without rain{more}",
                  Amount(told.dry, "days"), Working(
        "days until a plot is first not given in full: full stores, the timer's own draw month by "
        "month, no rain on roofs or beds, nothing that fills in",
        (Term("water that zones can draw", Amount(r.usable_l, "volume")),
         Term(f"opened for a day in {MONTHS[told.month]}", Amount(a_day, "daily")),
         Term("with a typical year's rain", Amount(told.rained, "days"))),
        "season by day", "published"))


def _never_opens(r: Results) -> list[Finding]:
    shut = [zone for zone in r.garden.timed_zones if zone.id in r.flows.shut]
    if not shut:
        return []
    some = "" if not r.flows.opens else f" of {quoted(shut[0].name)}" if len(shut) == 1 else (
        f" of {quoted(shut[0].name)} and {len(shut) - 1} more zones")
    ball = other_timers(r.garden, r.library, r.flows.shut, valve="ball")
    return [Finding(
        "prove.never-opens", "stop", Phrase(f"The timer's valve{some} stays shut"),
        say("It needs {a} and gets {b}: plots get rain and what float valves let in, no more.",
            a=Amount(r.flows.valve.needs_kpa, "pressure"),
            b=Amount(r.flows.valve.gets_kpa, "pressure")),
        (Remedy("ball-valve", Phrase("Use a ball-valve timer"), Phrase("opens on a barrel"),
                ball),) if ball else ())]


def _short(r: Results, days: float) -> list[Finding]:
    litres = r.season.a_year(r.season.lacking)
    if litres < 1 or days <= FEW_DAYS:
        return []
    remedies = () if r.garden.taps else (
        Remedy("fit-tap", Phrase("Top up from a tap"), say("{v} a year", v=Amount(
            litres, "yearly")), Add("tap")),)
    return [Finding(
        "prove.thirst", "stop" if days > 30 else "care",
        say("{d} a year without enough water", d=Amount(days, "days")),
        say("{v} a year is lacking; the worst year lacks it on {w}. More barrels, less thirst, or "
            "a tap.", v=Amount(litres, "yearly"),
            w=Amount(int(r.season.short_days.max()), "days")), remedies)]


def _tap(r: Results) -> list[Finding]:
    season = r.season
    tap = season.a_year(season.tap)
    if tap <= 0:
        return []
    return [Finding(
        "prove.tap", "note",
        say("The tap gives {v} a year", v=Amount(tap, "yearly")),
        say(f"That is {{s}} of what {asked_for(r)}, on {{d}} of a typical year.",
            s=Amount(tap / max(season.a_year(season.asked), 1e-9), "share"),
            d=Amount(tap_days(r), "days")))]


def tap_days(r: Results) -> float:
    """Days on which a tap gives, in the middle water year."""
    return float(np.median(r.season.by_year(r.season.tap > SAME).sum(axis=1)))
