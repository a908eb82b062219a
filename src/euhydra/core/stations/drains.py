"""Catch, the used water: what a laundry gives, and what its use asks for."""

from __future__ import annotations

from functools import cache
from typing import TYPE_CHECKING

import numpy as np

from euhydra.core.editing.edits import SetValue
from euhydra.core.garden.model import Drain
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Remedy
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

drum_day = cache(greywater.drum_day)


def ground_need_l(r: Results, drain: Drain) -> list[float]:
    """Litres a day that the plants on its ground need after rain, by month."""
    total = np.zeros(12)
    for bed in greywater.grounds(drain):
        total += r.demand.grey_thirsts[greywater.ground_key(drain, bed)].net_by_month
    return [float(x) for x in total]


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
                        Term("there is", Amount(greywater.area_given_m2(drain), "area"))),
                       CODE, "published")))


def findings(r: Results) -> list[Finding]:
    """Every rule on every drain."""
    found: list[Finding] = []
    for drain in r.garden.drains:
        found += [*_product(drain), *_way_back(drain), *_area(r, drain)]
        found += _drum(drain) if drain.school == "drum" else _ponding(drain)
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
    given = greywater.area_given_m2(drain)
    if given >= need - 1e-9:
        return []
    remedies: tuple[Remedy, ...] = ()
    most = max(drain.basins, key=lambda b: b.length_m * b.width_m, default=None)
    if drain.school == "drum":
        wide = min(500.0, round(need + 0.05, 1))
        remedies = (Remedy(f"drip-area-{drain.id}",
                           say("Water {a}", a=Amount(wide, "area")), Phrase("the soil keeps up"),
                           SetValue(f"drains/{drain.id}/drip_m2", wide)),)
    elif most and (longer := most.length_m + (need - given) / most.width_m + 0.01) <= 20:
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
    need = ground_need_l(r, drain)
    month, gives = int(np.argmax(need)), greywater.week_l(drain) / 7
    if need[month] <= gives:
        return []
    day = float(np.flatnonzero(month == MONTH_OF_DAY)[14])
    return [Finding(
        "catch.grey-thirst", "note",
        say(f"{quoted(drain.name)} gives " + "{gives} where its plants drink {need}",
            gives=Amount(gives, "daily"), need=Amount(need[month], "daily")),
        say("About {day}. The rest is for you to bring, or for the plants to do without.",
            day=Amount(day, "date")))]


def _drum(drain: Drain) -> list[Finding]:
    day = drum_day(drain)
    found: list[Finding] = []
    copes = greywater.pump_that_copes_l_h(drain)
    if day.spilled_l > 0.05 or day.held_h > greywater.HELD_H:
        edit = SetValue(f"drains/{drain.id}/empties_l_h", copes)
        remedies = [Remedy(f"pump-{drain.id}", say("A float pump of {q}", q=Amount(copes, "flow")),
                           Phrase("nothing spills"), edit)] if drain.empties_by == "pump" else [
            Remedy(f"pump-{drain.id}", Phrase("Empty it by a float pump"), Phrase("nothing spills"),
                   SetValue(f"drains/{drain.id}/empties_by", "pump"))] if (
            copes <= drain.empties_l_h) else []
    if day.spilled_l > 0.05:
        found.append(Finding(
            "catch.grey-overflow", "stop",
            say(f"{quoted(drain.name)}: the drum overflows by " + "{v} on washing day",
                v=Amount(day.spilled_l, "drop")),
            say("{came} comes in on the busiest day, the drum holds {drum} and empties at {q}. A "
                "pump with a float switch of {copes} keeps up; so does spreading the washing.",
                came=Amount(day.came_l, "volume"), drum=Amount(drain.drum_l, "volume"),
                q=Amount(drain.empties_l_h, "flow", 0), copes=Amount(copes, "flow", 0)),
            tuple(remedies)))
    if day.held_h > greywater.HELD_H:
        held = (say("Water stays in it past two days.") if day.held_h == float("inf") else
                say("Water stays in it for {h}.", h=Amount(day.held_h, "hours")))
        found.append(Finding(
            "catch.grey-held", "stop",
            Phrase(f"{quoted(drain.name)}: the drum is not empty within 24 hours"),
            say(held.template + " Past {most} it turns septic and stinks, and codes forbid it.",
                **held.amounts, most=Amount(greywater.HELD_H, "hours", 0)), tuple(remedies)))
    if not drain.drum_lid:
        found.append(Finding(
            "catch.grey-lid", "stop", Phrase(f"{quoted(drain.name)}: the drum stands open"),
            say("Flies and mosquitoes breed in {v} of used water, and a child can drown in it. "
                "Shut it tight; the hose ends well above its highest water.",
                v=Amount(drain.drum_l, "volume")),
            (Remedy(f"shut-{drain.id}", Phrase("Shut it tight"), Phrase("shut"),
                    SetValue(f"drains/{drain.id}/drum_lid", True)),), caution=True))
    if drain.empties_by == "pump":
        found.append(Finding(
            "catch.grey-pump", "note", Phrase("A pump in water: power and the last of it"),
            say("{left} stays under the float after washing day: tip it out, or choose a pump "
                "that sucks low. Outdoor-rated, on residual-current protection; a licensed "
                "electrician fits the supply.", left=Amount(day.left_l, "volume")), caution=True))
    return found


def _rules(drain: Drain) -> Finding:
    return Finding(
        "catch.grey-rules", "note", Phrase(f"{quoted(drain.name)}: used water has rules"),
        say("{v} a week goes below mulch or soil, never onto leaves or roots eaten raw, keeps off "
            "wells, walls and boundaries, and never ponds or runs off. Many places ask for a "
            "permit: your local code and a licensed plumber decide. Label every outlet "
            "non-potable.", v=Amount(greywater.week_l(drain), "volume")), caution=True)
