"""Catch, the used water: what a laundry gives, and what its use asks for."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Drain
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Remedy
from euhydra.core.stations import drums
from euhydra.core.supply import greywater
from euhydra.core.weather.generator import MONTH_OF_DAY

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

CODE = "California Plumbing Code chapter 15, recalled; your own code may differ"
BAD_WASH = {
    "salty": ("care", "washed with salts or boron",
              "Sodium closes the soil and boron burns leaves. Use a liquid soap without either."),
    "bleach": ("stop", "washed with bleach",
               "Bleach kills the life in the soil. Send those loads to the sewer."),
    "nappies": ("stop", "nappies in the wash",
                "Water from nappies carries disease; no code lets it onto a garden. Send those "
                "loads to the sewer.")}

def ground_need_l(r: Results, drain: Drain) -> list[float]:
    """Litres a day that the plants on its ground need after rain, by month."""
    total = np.zeros(12)
    for bed in greywater.grounds(drain):
        total += r.demand.grey_thirsts[greywater.ground_key(drain, bed)].net_by_month
    if lines := r.drums.get(drain.id):
        for plot in lines.zone.plots:
            total += r.demand.thirsts[plot].net_by_month
    return [float(x) for x in total]


def ground_m2(r: Results, drain: Drain) -> float:
    """Ground that takes the drain's water: its basins, or what its drum's lines wet.

    Of a drum with some taps shut in part of the year, in the month in which least is open.
    """
    if drain.school == "basins":
        return greywater.basins_m2(drain)
    lines = r.drums.get(drain.id)
    return min((sum(r.demand.thirsts[p].area_m2 for p in month.shares)
                for month in lines.months if month.shares), default=0.0) if lines else 0.0


def figures(r: Results, drain: Drain) -> tuple[Figure, ...]:
    """A drain's figures."""
    week, peak = greywater.week_l(drain), greywater.peak_day_l(drain)
    need = greywater.area_needed_m2(peak, drain.soil, r.library)
    soil = r.library.soils[drain.soil]
    return (
        Figure(f"grey_week_{drain.id}", f"{drain.name} gives in a week", Amount(week, "volume"),
               Working("litres a use × uses, day by day",
                       (Term("a use", Amount(drain.litres_a_use, "volume")),
                        Term("uses in the week", Amount(sum(drain.uses), "count")),
                        Term("on the busiest day", Amount(peak, "volume")),
                        Term("the code's reckoning, a day",
                             Amount(greywater.code_day_l(drain), "volume"),
                             f"{drain.bedrooms + 1} people")),
                       f"your entry; {CODE}", "your entry")),
        Figure(f"grey_area_{drain.id}", f"Ground that {drain.name} needs", Amount(need, "area"),
               Working("litres of the busiest day ÷ what the soil takes a day",
                       (Term("busiest day", Amount(peak, "volume")),
                        Term(f"{soil.name} takes a day", Amount(soil.grey_mm_day, "rain")),
                        Term("there is", Amount(ground_m2(r, drain), "area"))),
                       CODE, "published")))


def findings(r: Results) -> list[Finding]:
    """Every rule on every drain."""
    found: list[Finding] = []
    for drain in r.garden.drains:
        found += [*_product(drain), *_way_back(drain), *_area(r, drain)]
        found += drums.findings(r, drain) if drain.school == "drum" else _ponding(drain)
        found += [*_ground_thirst(r, drain), _rules(drain)]
    return found


def _product(drain: Drain) -> list[Finding]:
    if drain.product not in BAD_WASH:
        return []
    level, title, why = BAD_WASH[drain.product]
    return [Finding(
        "catch.grey-product", "stop" if level == "stop" else "care",
        Phrase(f"{quoted(drain.name)}: {title}"),
        say(why + " {v} a week would carry it.", v=Amount(greywater.week_l(drain), "volume")),
        (Remedy(f"plain-{drain.id}", Phrase("Wash with plain soap"), Phrase("fit for soil"),
                SetValue(f"drains/{drain.id}/product", "plain")),), caution=True)]


def _way_back(drain: Drain) -> list[Finding]:
    if drain.way_back:
        return []
    return [Finding(
        "catch.grey-way-back", "stop",
        Phrase(f"{quoted(drain.name)} has no way back to the sewer"),
        say("A wet week, bleach or sick people's washing must go to the sewer: {v} a day with "
            "nowhere else to go. Fit a three-way valve, labelled, where you can reach it.",
            v=Amount(greywater.peak_day_l(drain), "volume")),
        (Remedy(f"way-back-{drain.id}", Phrase("Fit a three-way valve"), Phrase("both ways"),
                SetValue(f"drains/{drain.id}/way_back", True)),), caution=True)]


def _area(r: Results, drain: Drain) -> list[Finding]:
    peak = greywater.peak_day_l(drain)
    need = greywater.area_needed_m2(peak, drain.soil, r.library)
    given = ground_m2(r, drain)
    if given >= need - 1e-9 or (drain.school == "drum" and drain.id not in r.drums):
        return []
    remedies: tuple[Remedy, ...] = ()
    most = max(drain.basins, key=lambda b: b.length_m * b.width_m, default=None)
    if drain.school == "basins" and most and (
            longer := most.length_m + (need - given) / most.width_m + 0.01) <= 20:
        longer = round(longer, 2)
        remedies = (Remedy(f"basin-{drain.id}", say(
            f"{quoted(most.name)} " + "{length} long", length=Amount(longer, "length")),
            Phrase("the soil keeps up"),
            SetValue(f"drains/{drain.id}/basins/{most.id}/length_m", longer)),)
    return [Finding(
        "catch.grey-area", "care",
        say(f"{quoted(drain.name)}: " + "{given} of ground where {need} is needed",
            given=Amount(given, "area"), need=Amount(need, "area")),
        say("{v} comes on the busiest day, and this soil takes {mm} a day. The rest stands in "
            "puddles, which no code allows.", v=Amount(peak, "volume"),
            mm=Amount(r.library.soils[drain.soil].grey_mm_day, "rain")), remedies)]


def _ponding(drain: Drain) -> list[Finding]:
    """One use must fit between the chips of the basins together."""
    room = sum(greywater.basin_room_l(basin) for basin in drain.basins)
    if room >= drain.litres_a_use:
        return []
    return [Finding(
        "catch.grey-ponding", "care",
        say(f"{quoted(drain.name)}: a load of " + "{load} is more than the mulch holds",
            load=Amount(drain.litres_a_use, "volume")),
        say("The basins hold {room} between the chips before water shows. Dig them wider or "
            "deeper, or add one.", room=Amount(room, "volume")))]


def _ground_thirst(r: Results, drain: Drain) -> list[Finding]:
    """In the driest month the plants may want more than the washing gives."""
    need, comes = ground_need_l(r, drain), drums.comes_by_month_l(r, drain)
    month = int(np.argmax(need))
    gives = comes[month]
    if need[month] <= gives:
        return []
    day = float(np.flatnonzero(month == MONTH_OF_DAY)[14])
    return [Finding(
        "catch.grey-thirst", "note",
        say(f"{quoted(drain.name)} gives " + "{gives} where its plants drink {need}",
            gives=Amount(gives, "daily"), need=Amount(need[month], "daily")),
        say("About {day}. The rest is for you to bring, or for the plants to do without.",
            day=Amount(day, "date")))]


def _rules(drain: Drain) -> Finding:
    return Finding(
        "catch.grey-rules", "note", Phrase(f"{quoted(drain.name)}: used water has rules"),
        say("{v} a week goes below mulch or soil, never onto leaves or roots eaten raw, keeps off "
            "wells, walls and boundaries, and never ponds or runs off. Many places ask for a "
            "permit: your local code and a licensed plumber decide. Label every outlet "
            "non-potable.", v=Amount(greywater.week_l(drain), "volume")), caution=True)
