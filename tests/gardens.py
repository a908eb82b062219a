"""Small gardens for tests."""

from __future__ import annotations

import random

from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.editing import edits, trees
from euhydra.core.editing.answers import Answers, BedAnswer
from euhydra.core.editing.quick_start import pour
from euhydra.core.garden.model import Climate, Garden
from euhydra.core.library import Library
from euhydra.core.statements.findings import Finding
from euhydra.core.weather import hemispheres
from euhydra.core.weather.record import Record
from euhydra.store.gardens import Gardens


def climate_of(library: Library, key: str) -> Climate:
    return hemispheres.climate_of(library.climates[key])


def poured(library: Library, **changes: object) -> Garden:
    """A small First pour garden: two beds 2.4 × 1.2 m half a metre below two barrels.

    With ``tap=True`` one fills in for them.
    """
    if changes.pop("tap", False):
        changes["waters"] = ("roof", "tap")
    answers = {
        "name": "Test", "latitude_deg": 41.3, "climate": climate_of(library, "ostermere"),
        "roof_width_m": 5.0, "roof_depth_m": 3.0, "roof_material": "metal", "barrel_l": 210.0,
        "barrels": 2, "stand_m": 0.4, "fall_m": 0.5, "distance_m": 4.0, "method": "dripline",
        "beds": (BedAnswer(length_m=2.4, width_m=1.2, group="fruiting"),
                 BedAnswer(length_m=2.4, width_m=1.2, group="leafy")), "pots": 4}
    told = Answers.model_validate(answers | changes)
    if row := library.climates.get(told.climate.archetype):
        told = told.model_copy(update={"climate": hemispheres.climate_at(row, told.latitude_deg)})
    return pour(told, library, "test")


def made(library: Library, *steps: object, **changes: object) -> Garden:
    """A First pour garden with things added ("+what"), values set ((path, value)), edits made."""
    garden = poured(library, **changes)
    for step in steps:
        edit = (edits.Add(step[1:]) if isinstance(step, str) else
                edits.SetValue(*step) if isinstance(step, tuple) else step)
        garden = edit.apply(garden, library)
    return garden


def all_sorts(library: Library) -> Garden:
    """A garden with a thing of every sort and a plot of every kind."""
    return made(
        library, "+border", "+lawn", "+tree", "+shrub", "+bags", "+tower", "+gutter", "+chain",
        "+float-pots", "+store", "+joint", "+drum", "+drain", "+pump", "+well", "+rain-garden",
        "+wet-area", "+path", "+wall", ("site/first_frost", "10-19"),
        ("plots/border-3/method", "drilled"), ("plots/bed-1/method", "soaker"),
        ("plots/bed-2/method", "soaker"),
        ("wet_areas/wet-area-1/months", 3.0),
        ("wet_areas/wet-area-1/length_m", 20.0), ("wet_areas/wet-area-1/width_m", 10.0),
        ("lifts/pump-1/kind", "transfer"), tap=True)


def rules_of(garden: Garden, library: Library, record: Record | None = None
             ) -> dict[str, Finding]:
    """Every finding of every station by its rule."""
    a = assess(garden, library, record)
    return {f.rule: f for key in STATIONS for f in a.station(key).findings}


def any_garden(library: Library, seed: int) -> Garden:
    """A garden of any sort: beds, pots, a trickle or a flood of rain, with this and that added."""
    dice = random.Random(seed)
    garden = poured(
        library, units=dice.choice(["metric", "us"]), pots=dice.choice([0, 1, 12]),
        climate=climate_of(library, dice.choice(sorted(library.climates))),
        latitude_deg=dice.choice([-34.0, 0.0, 41.3, 72.0]), barrels=dice.choice([1, 3]),
        stand_m=dice.choice([0.0, 0.6]), fall_m=dice.choice([-1.0, 0.0, 2.0]),
        method=dice.choice(["soaker", "dripline", "drippers"]), tap=dice.random() < 0.5)
    for what in dice.sample(sorted(edits.MAKERS), 5):
        try:
            garden = edits.Add(what).apply(garden, library)
        except trees.EditRefused:
            continue
    for path, value in (*((f"plots/{p.id}/watered", dice.choice(["lines", "lines", "can", "hose"]))
                          for p in garden.plots),
                        *((f"timers/{t.id}/hoses", dice.choice([0, 0, 1, 2]))
                          for t in garden.timers),
                        *((f"zones/{z.id}/timer", dice.choice([t.id for t in garden.timers]))
                          for z in garden.timed_zones if garden.timers)):
        try:
            garden = edits.SetValue(path, value).apply(garden, library)
        except (trees.EditRefused, LookupError):
            continue
    for store in (s for s in garden.stores if s.hand_filled):
        fed = dice.choice(garden.plots).id
        garden = edits.SetValue(f"plots/{fed}/fed_by", store.id).apply(garden, library)
    for well in garden.wells:
        if dice.random() < 0.5:
            garden = edits.SetValue(f"wells/{well.id}/share", 0.5).apply(garden, library)
            continue
        fed = dice.choice(garden.plots).id
        for path, value in ((f"wells/{well.id}/tops_up", ""), (f"plots/{fed}/fed_by", well.id)):
            garden = edits.SetValue(path, value).apply(garden, library)
    return _drilled(library, garden, dice)


def _drilled(library: Library, garden: Garden, dice: random.Random) -> Garden:
    """Some of a garden's beds on drilled pipe, its ends shut or open."""
    for bed in (p for p in garden.plots if p.kind in ("bed", "border", "lawn")):
        if dice.random() < 0.2:
            for key, value in (("method", "drilled"), ("end", dice.choice(["shut", "open"]))):
                garden = edits.SetValue(f"plots/{bed.id}/{key}", value).apply(garden, library)
    return garden


def typed(gardens: Gardens, path: str, value: object, garden_id: str = "test") -> None:
    """Keep one value set in a garden, as its own change."""
    kept = gardens.load(garden_id)
    gardens.edit(edits.SetValue(path, value).apply(kept.garden, kept.library), f"{path} {value}",
                 kept)
