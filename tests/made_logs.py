"""Logs as a gardener would keep them of a garden that is not as the tables have it."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass, replace

import numpy as np

from euhydra.core.assessment.assess import Assessment, assess
from euhydra.core.editing.edits import Together
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.base import day_of_year
from euhydra.core.hydraulics.zone_flow import between
from euhydra.core.log.entries import Entry
from euhydra.core.log.levels import dip_m
from euhydra.core.season.inputs import world_of
from euhydra.core.season.simulate import run_season
from euhydra.core.supply.runoff import table_runoff

RINSED_EVERY = 70
FIRST, LAST = dt.date(2026, 4, 20), dt.date(2026, 9, 20)


@dataclass(frozen=True)
class Truth:
    """How a garden differs from its tables: runoff against the table's, thirst, flows, leak."""

    runoff: float
    thirst: float
    flow: float
    leak_l: float
    falls_a_week: float = 0.0


def any_truth(dice: np.random.Generator) -> Truth:
    """Some garden."""
    return Truth(float(np.exp(dice.normal(0, 0.25))), float(np.exp(dice.normal(0, 0.15))),
                 float(np.exp(dice.normal(0, 0.1))),
                 float(dice.choice([0.0, dice.uniform(4, 30)])), float(dice.uniform(0.0, 0.06)))


def true_season(planned: Assessment, truth: Truth):
    """The season of the true garden, its timer set as the planned one has it."""
    garden, library = planned.garden, planned.tables
    edits = [SetValue("thirst", truth.thirst),
             *(SetValue(f"stores/{s.id}/leak_l_day", truth.leak_l) for s in garden.stores[:1]),
             *(SetValue(f"roofs/{roof.id}/own_runoff",
                        min(truth.runoff * table_runoff(roof, library), 1.0))
               for roof in garden.roofs)]
    edits += [SetValue(f"zones/{z.id}/read_l_h", truth.flow * planned.flows[z.id]["half"].flow_l_h)
              for z in garden.timed_zones]
    true = assess(Together(tuple(edits)).apply(garden, library), library)
    world = replace(world_of(true.season_inputs), minutes=planned.season.world.minutes,
                    runs=planned.season.world.runs)
    return run_season(world)


def log_of(planned: Assessment, truth: Truth, dice: np.random.Generator, *, dips: float = 1.0,
           soil: float = 1.0, jugs: bool = True) -> list[Entry]:
    """Rain by gauge, a dip a week, soil by hand, a jug each fortnight: a tenth off, and with gaps.

    ``dips`` and ``soil`` are the shares that were not forgotten.
    """
    season, year = true_season(planned, truth), int(dice.integers(planned.years))
    found: list[Entry] = []

    def put(day: dt.date, kind: str, about: str = "", value: float | None = None, word: str = ""
            ) -> None:
        found.append(Entry(f"entry-{len(found):05d}", day, kind, about, value, word))

    bank = planned.banks.banks[0] if planned.banks.banks else None
    for n in range((LAST - FIRST).days + 1):
        day = FIRST + dt.timedelta(days=n)
        at = day_of_year(day.isoformat()[5:])
        rain = float(planned.weather.rain_mm[year, at])
        if rain > 0.6 and dice.random() < 0.97:
            put(day, "rain", value=max(rain * (1 + 0.08 * dice.normal()), 0.1))
        if bank and n % 7 == 0 and dice.random() < 0.85 * dips:
            litres = float(season.level[0, year, at])
            deep = dip_m(bank, bank.stores[0], litres) + 0.01 * dice.normal()
            put(day, "dip", bank.stores[0].id, max(deep, 0.0))
        for p, plot in enumerate(season.world.plots):
            if n % 7 == 3 and season.world.grows[p, at] and dice.random() < 0.5 * soil:
                had = season.depletion[p, year, at - 1] / season.world.ready[p, year, at]
                had += 0.12 * dice.normal()
                word = "dry" if had > 1 else "muddy" if had < 0.12 else "right"
                put(day, "soil", plot, word=word if dice.random() < 0.95 else
                    str(dice.choice(["dry", "right", "muddy"])))
        for zone in planned.garden.timed_zones if n % RINSED_EVERY == 0 else ():
            put(day, "filter", zone.id)
        for zone in planned.garden.timed_zones if jugs and n % 14 == 5 else ():
            weeks = n % RINSED_EVERY / 7
            low, half, full = (planned.flows[zone.id][level].flow_l_h
                               for level in ("low", "half", "full"))
            share = float(season.level[0, year, at]) / bank.usable_l if bank else 0.5
            flow = (truth.flow * between(low, half, full, share)
                    * (1 - truth.falls_a_week) ** weeks)
            put(day, "flow", zone.id, flow * (1 + 0.1 * dice.normal()))
    return found
