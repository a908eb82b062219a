"""Catch: what the roofs bring."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

import numpy as np

from euhydra.core.advise.bounds import WIDE_LINK_MM
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.learnt import source_of
from euhydra.core.garden.model import Downspout, Roof
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy, StationReport, worst_first
from euhydra.core.stations import drains, flush, supplies
from euhydra.core.stations.place import MONTHS
from euhydra.core.storage import storm
from euhydra.core.supply import runoff
from euhydra.core.supply.gutter_capacity import sharing
from euhydra.core.units import show_month_day
from euhydra.core.weather.frost import timer_in, timer_out
from euhydra.core.weather.generator import MONTH_OF_DAY

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

STORM_RATES_MM_H = (10.0, 25.0, 50.0, 75.0)
HEAVY_MM_H = 25.0
ROOM_LEFT = 0.8


def yearly_losses(r: Results) -> dict[str, float]:
    """Litres a year: what fell, what was lost on the way, and what was caught."""
    names = ("fell_l", "lost_l", "flushed_l", "over_l", "astray_l", "winter_l", "caught_l")
    return {name: float(sum(getattr(y, name).sum() for y in r.inflow.yields.values())) / r.years
            for name in names}


def monthly_catch_l(r: Results) -> list[float]:
    """Mean litres caught in each month."""
    daily = r.inflow.total_l.mean(axis=0)
    return [float(daily[MONTH_OF_DAY == m].sum()) for m in range(12)]


def _roofs(r: Results) -> str:
    return "The roof brings" if len(r.garden.roofs) == 1 else "The roofs bring"


def _verdict(r: Results, caught: float, wanted: float) -> Phrase:
    washed = r.season.a_year(r.season.used)
    others = r.garden.taps or r.garden.wells
    if not r.garden.roofs and not others and r.garden.drums:
        return say("The laundry brings {v} a year; the plots need {wanted} after rain.",
                   v=Amount(washed, "yearly"), wanted=Amount(wanted, "yearly"))
    if not r.garden.roofs and not others and r.season.world.filled_at.any():
        return say("No roof is caught from: {v} a year is carried by hand.",
                   v=Amount(r.season.a_year(r.season.poured.sum(axis=0)), "yearly"))
    if not r.garden.roofs and not others:
        return say("Nothing is caught yet; the plots need {v} a year after rain.",
                   v=Amount(wanted, "yearly"))
    if not caught and others:
        more = ", the laundry {v}." if r.garden.drums else "."
        who = supplies.beside_rain(r.garden)
        return say(f"No roof is caught from: {who[0].lower()}{who[1:]} {{tap}} a year" + more,
                   tap=Amount(r.season.a_year(r.season.tap + r.season.well), "yearly"),
                   v=Amount(washed, "yearly"))
    if wanted and caught >= wanted:
        return say(_roofs(r) + " {caught} a year, {times} times what the plots need after rain.",
                   caught=Amount(caught, "yearly"), times=Amount(caught / wanted, "ratio", 1))
    more = ", the laundry {v};" if r.garden.drums else ";"
    return say(_roofs(r) + " {caught} a year" + more + " the plots need {wanted} after rain.",
               caught=Amount(caught, "yearly"), wanted=Amount(wanted, "yearly"),
               v=Amount(washed, "yearly"))


def report(r: Results) -> StationReport:
    """What Catch says."""
    caught = yearly_losses(r)["caught_l"]
    wanted = float(r.demand.need_l.sum()) / r.years
    verdict = _verdict(r, caught, wanted)
    return StationReport("catch", "Catch", verdict, say("{v}", v=Amount(
        caught or r.season.a_year(
            r.season.tap + r.season.well + r.season.poured.sum(axis=0))
        or r.season.a_year(r.season.used), "yearly")),
                         _figures(r, wanted), worst_first([
                             *_over_edge(r), *flush.findings(r), *_winter(r),
                             *_too_little(r, caught, wanted), *_gives_first(r), *_thin_link(r),
                             *drains.findings(r), *supplies.findings(r), *_material(r),
                             *_drilling(r)]))


def _runoff(r: Results, roof: Roof) -> Term:
    """What comes of a roof's rain: by its material, or as it was read off."""
    if roof.own_runoff:
        return Term("comes of its rain", Amount(roof.own_runoff, "ratio"),
                    source_of(r.garden, f"roofs/{roof.id}/own_runoff"))
    row = r.library.roof_materials[roof.material]
    return Term("runoff coefficient", Amount(row.runoff, "ratio"), row.source)


def _figures(r: Results, wanted: float) -> tuple[Figure, ...]:
    loss = yearly_losses(r)
    area = sum(x.area_m2 for x in r.garden.roofs)
    roof_terms = tuple(t for x in r.garden.roofs for t in (
        Term(x.name, Amount(x.area_m2, "area"), "plan area"),
        _runoff(r, x),
        Term("first flush", Amount(x.first_flush_mm, "depth"), "each event")))
    own = (*supplies.figures(r),
           *(f for drain in r.garden.drains for f in drains.figures(r, drain)))
    needs = Figure(
        "wanted_year", "The plots need in a year, after rain", Amount(wanted, "yearly"),
               Working("each plot's need after rain, day by day",
            tuple(Term(r.garden.plot(plot).name, Amount(float(t.net_l.sum()) / r.years, "yearly"))
                  for plot, t in r.demand.thirsts.items()),
            "root-zone balance by day, FAO-56 eq. 85, recalled", "published"))
    if not r.garden.roofs:
        return needs, *own
    driest = int(np.argmin(monthly_catch_l(r)))
    return (
        Figure("caught_year", "Reaches the stores in a year", Amount(loss["caught_l"], "yearly"),
               Working("plan area × rain × runoff coefficient, less first flush per event",
                       (*roof_terms, Term("fell on the roof", Amount(loss["fell_l"], "yearly")),
                        Term("lost on the roof", Amount(-loss["lost_l"], "yearly")),
                        Term("first flush", Amount(-loss["flushed_l"], "yearly")),
                        *((Term("over the gutter's edge", Amount(-loss["over_l"], "yearly")),)
                          if loss["over_l"] > 0 else ()),
                        *((Term("runs by while the stores are in for frost",
                                Amount(-loss["winter_l"], "yearly")),)
                          if loss["winter_l"] > 0 else ()),
                        Term("led elsewhere", Amount(-loss["astray_l"], "yearly"))),
                       "rainwater manuals, recalled", "published")),
        needs,
        Figure("roof_area", "Roof in plan", Amount(area, "area"),
               Working("length × width as seen from above, whatever the slope", roof_terms[::3],
                       "your entry", "your entry")),
        Figure("driest_month", "Caught in the driest month",
               Amount(monthly_catch_l(r)[driest], "volume"),
               Working(f"the least of the twelve, mean over {r.years} years", tuple(
                   Term(MONTHS[m], Amount(litres, "volume"))
                   for m, litres in enumerate(monthly_catch_l(r))),
                       "behaviour of the roof by day", "published")),
        *_storm_figure(r, area), *own)


def _storm_figure(r: Results, area: float) -> tuple[Figure, ...]:
    if not r.garden.stores or not r.garden.roofs:
        return ()
    return (
        Figure("storm_fill_25", "Heavy rain fills the empty barrels in",
               Amount(r.storm_at(HEAVY_MM_H).minutes_to_spill, "minutes"),
               Working("Q = C·i·A through gutter, downspout and links, until the first one spills",
                       (Term("barrels", Amount(r.fullest_fed.capacity_l, "volume")),
                        Term("rain rate an hour", Amount(HEAVY_MM_H, "rain")),
                        Term("roof", Amount(area, "area"))),
                       "rational method, recalled; links as full short pipes, stepped in time",
                       "published")),)


def _gives_first(r: Results) -> list[Finding]:
    """A part that is full before the heaviest storm on the strip."""
    worst = next(iter(storm.limits(r.garden, r.library, r.banks)), None)
    if worst is None or worst.gives_at_mm_h >= STORM_RATES_MM_H[-1]:
        return []
    what = {"gutter": "the gutter runs over", "downspout": "the downspout is full",
            "diverter": "the diverter lets the rest run by",
            "merged pipe": "the pipe that the downspouts merge into is full",
            "link": "the links fall behind",
            "overflow": "the overflow cannot take it all"}[worst.part]
    return [Finding(
        "catch.gives-first", "care" if worst.part in ("gutter", "overflow") else "note",
        say(f"{quoted(worst.name)}: at " + "{rate} an hour " + what,
            rate=Amount(worst.gives_at_mm_h, "rain")),
        say("It carries {q}. A storm of {most} an hour comes in many places in most years (from "
            "memory).", q=Amount(worst.capacity_l_h, "flow", 0),
            most=Amount(STORM_RATES_MM_H[-1], "rain")))]


def _thin_link(r: Results) -> list[Finding]:
    """The first barrel spills while the last still has room."""
    if not r.garden.stores:
        return []
    heavy = r.storm_at(50.0)
    if heavy.minutes_to_spill == float("inf") or heavy.behind >= ROOM_LEFT:
        return []
    least, last = min(zip(heavy.shares, heavy.names, strict=True))
    bank = r.fullest_fed
    wide = next((s for s in bank.stores if s.count > 1 and s.link_mm < WIDE_LINK_MM), None)
    remedies: tuple[Remedy, ...] = ()
    if wide:
        edit = SetValue(f"stores/{wide.id}/link_mm", WIDE_LINK_MM)
        better = r.after(edit).storm_at(50.0).behind
        remedies = (Remedy("wide-link", say("Links of {d}", d=Amount(WIDE_LINK_MM, "bore")),
                           say("{s} as full as they could be", s=Amount(better, "share")),
                           edit),)
    return [Finding(
        "catch.thin-link", "care",
        say(f"{quoted(heavy.spills)} spills while {quoted(last)} is " + "{s} full",
            s=Amount(least, "share")),
        say("At {rate} of rain an hour the joints between them are too thin; they need {m} more to "
            "level.", rate=Amount(50.0, "rain"), m=Amount(heavy.minutes_to_level, "minutes")),
        remedies)]


def _too_little(r: Results, caught: float, wanted: float) -> list[Finding]:
    by_drum = {p for lines in r.drums.values() for p in lines.zone.plots}
    wanted -= sum(float(r.demand.thirsts[p].net_l.sum()) for p in by_drum) / r.years
    if caught >= wanted or not r.garden.stores or not r.garden.roofs:
        return []
    return [Finding(
        "catch.too-little", "care", Phrase("Rain cannot feed this garden, whatever the store"),
        say("The roofs bring {caught} a year and "
            + ("what the laundry does not water" if by_drum else "the garden")
            + " drinks {wanted}. Collect from more "
            "roof, " + ("keep the stores free of frost, " if yearly_losses(r)["winter_l"] > 1 else
                        "") + "water less ground, or count on the tap.",
            caught=Amount(caught, "yearly"), wanted=Amount(wanted, "yearly")))]


def _over_edge(r: Results) -> list[Finding]:
    """Gutters that run over since their downspouts cannot take what comes."""
    found = []
    for roofs in sharing(r.garden.roofs):
        litres = sum(float(r.inflow.yields[roof.id].over_l.sum()) for roof in roofs) / r.years
        if litres < 1:
            continue
        held = [(roof, s) for roof in roofs for s in roof.downspouts if s.restrictor_l_h > 0]
        let = ("A restrictor holds it back, and the gutter's other downspouts have no room for it."
               if held else "Its downspouts are too narrow for the heaviest days.")
        found.append(Finding(
            "catch.over-edge", "care",
            say(f"{quoted(roofs[0].name)}: " + "{v} a year run over the gutter's edge",
                v=Amount(litres, "yearly")),
            say(let + " A day's rain is taken to fall in {h}.",
                h=Amount(runoff.RAIN_HOURS, "hours")),
            Later(partial(_without_restrictors, r, held))))
    return found


def _without_restrictors(r: Results, held: list[tuple[Roof, Downspout]]) -> Iterator[Remedy]:
    for roof, spout in held:
        edit = SetValue(f"roofs/{roof.id}/downspouts/{spout.id}/restrictor_l_h", 0.0)
        litres = yearly_losses(r.after(edit))["over_l"]
        yield Remedy(f"free-{roof.id}-{spout.id}",
                     Phrase(f"Take the restrictor off {quoted(spout.name)}"),
                     say("{v} run over", v=Amount(litres, "yearly")), edit)


def _winter(r: Results) -> list[Finding]:
    """What it costs that stores and diverters are out from the first hard frost to the last."""
    litres = yearly_losses(r)["winter_l"]
    if litres < 1:
        return []
    return [Finding(
        "catch.winter", "note",
        say("{v} a year run by while the stores are in for frost", v=Amount(litres, "yearly")),
        say(f"From {show_month_day(timer_in(r.garden.site))} to "
            f"{show_month_day(timer_out(r.garden.site))} the diverters are closed. A store that "
            "stands indoors or is buried may stay full."))]


def _material(r: Results) -> list[Finding]:
    return [Finding(
        "catch.material", "note", Phrase(f"{quoted(roof.name)}: mind what the roof gives off"),
        say(material.caution.replace("{", "").replace("}", "")
            + " {area} of it drains to the barrels.",
            area=Amount(roof.area_m2, "area")), caution=True)
        for roof in r.garden.roofs
        if (material := r.library.roof_materials[roof.material]).caution]


def _drilling(r: Results) -> list[Finding]:
    led = {spout.to for roof in r.garden.roofs for spout in roof.downspouts}
    if led <= r.garden.merging:
        return []
    return [Finding(
        "catch.drilling", "note", Phrase("Cutting the downspout: eyes, edges, ladder"),
        say("The diverter's hole is drilled {below} under the mark level with the barrel's top, "
            "in the middle of the downspout. Wear glasses and gloves; the edges are sharp. Foot "
            "the ladder on firm ground.", below=Amount(0.05, "small")), caution=True)]
