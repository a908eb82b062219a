"""Grow, the self-watering rows: what starves, what runs dry, what does not wick."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Wicking
from euhydra.core.hydraulics import self_watering
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Remedy

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

LACKS_M = 0.005
HIGHEST_STAND_M = 3.0
WIDER_MM = (6.0, 9.0, 13.0, 16.0)
CHAINED = ("tomato", "cucumber", "pepper", "aubergine", "lettuce", "strawberry")
WICKS = ("potting-mix", "coir-mix", "compost-mix", "bark-mix")


def wicking_rows(r: Results) -> list[tuple[Wicking, self_watering.Reservoir]]:
    """Every self-watering row with how it fares in its hottest week."""
    thirsts, crops = r.demand.thirsts, r.library.crops
    return [(plot, self_watering.reservoir(plot, thirsts[plot.id], crops[plot.main.crop]))
            for plot in r.garden.plots if isinstance(plot, Wicking)]


def carried_by_crop(r: Results, row: Wicking) -> dict[str, tuple[float, self_watering.Chain]]:
    """By crop: litres a plant in the hottest week, and how many plants a float box carries."""
    found = {}
    for crop in dict.fromkeys((row.main.crop, *CHAINED)):
        other = row.model_copy(update={"plantings": (
            row.main.model_copy(update={"crop": crop, "share": 1.0}),)})
        need = r.thirst_of(other, crop)
        each = need.hottest_week_l / row.count
        found[crop] = each, self_watering.chain(row, each, r.library.crops[crop])
    return found


def wicking_findings(r: Results) -> list[Finding]:
    """All that is to be said of the self-watering rows."""
    found = []
    for row, state in wicking_rows(r):
        found += [*_starves(row, state, r), *_stands_low(r, row), *_too_many(row),
                  *_does_not_wick(row), _feed(row, state)]
    return found


def _starves(row: Wicking, state: self_watering.Reservoir, r: Results) -> list[Finding]:
    told, crop = state.chain, r.library.crops[row.main.crop]
    if row.kind != "chain" or row.count <= told.carries:
        return []
    wider = next((mm for mm in WIDER_MM if mm > row.tube_mm and self_watering.chain(
        row.model_copy(update={"tube_mm": mm}), state.each_l_day, crop).carries >= row.count), None)
    remedies = [Remedy(f"wider-{row.id}", say("Tube of {mm} between them",
                                              mm=Amount(wider, "bore")), Phrase("all are wetted"),
                       SetValue(f"plots/{row.id}/tube_mm", wider))] if wider else []
    if told.carries >= 1:
        remedies.append(Remedy(f"fewer-{row.id}", say("{n} to this float box", n=Amount(
            told.carries, "count")), Phrase("the rest on a box of their own"),
            SetValue(f"plots/{row.id}/count", told.carries)))
    why = (say(f"In the hottest hour {quoted(crop.name.lower())} at the end of the chain "
               "draw the water down by {d}; the float keeps {w}, and the wick needs {l} of it. Mix "
               "and roots are taken to narrow each tube to {s} of its bore.",
               d=Amount(told.drop_m, "small", 1), w=Amount(row.water_m, "small", 1),
               l=Amount(self_watering.LEAST_WATER_M, "small", 1),
               s=Amount(self_watering.NARROWED, "share"))
           if told.tube_decides else
           say("Buckets in a row pass water through each other: six thirsty plants or thirteen "
               "modest ones are the most to one float box, whatever the tube (common practice). "
               "The tubes alone would carry {t}.", t=Amount(told.by_tube, "count")))
    return [Finding(
        "grow.chain-starves", "stop",
        say(f"{quoted(row.name)}: the float box carries " + "{n} of {m}",
            n=Amount(told.carries, "count"), m=Amount(row.count, "count")), why, tuple(remedies))]


def _stands_low(r: Results, row: Wicking) -> list[Finding]:
    """A store whose last water stands less over the float valves than they want."""
    zone = next(z for z in r.garden.zones if row.id in z.plots)
    if r.garden.tap_of(zone.source) or r.garden.lift_on(zone.source):
        return []
    low = r.flows[zone.id]["low"]
    over = low.water_z_m - max(o.z_m for o in low.outlets if o.plot == row.id)
    lacks = self_watering.TANK_UP_M - over
    if lacks <= LACKS_M:
        return []
    store = r.garden.store_of(zone.source)
    stand = math.ceil((store.stand_m + lacks) * 100 - 1e-6) / 100
    return [Finding(
        "grow.tank-low", "care",
        say(f"{quoted(row.name)}: the last water of {quoted(store.name)} stands "
            + ("{h} over" if over >= 0 else "{h} under") + " its float valves",
            h=Amount(abs(over), "small")),
        say("A float valve wants {h} or more to close and to fill (common practice).",
            h=Amount(self_watering.TANK_UP_M, "small")),
        (Remedy(f"lift-{row.id}", say("Stand to {h}", h=Amount(stand, "small")),
                Phrase("fills"), SetValue(f"stores/{store.id}/stand_m", stand)),)
        if stand <= HIGHEST_STAND_M else ())]


def _too_many(row: Wicking) -> list[Finding]:
    if row.kind != "gutter" or row.count <= self_watering.BUCKETS_A_GUTTER:
        return []
    return [Finding(
        "grow.gutter-long", "care",
        say(f"{quoted(row.name)}: " + "{n} buckets on one gutter", n=Amount(row.count, "count")),
        say("Nine to a gutter is common; lead on to a second gutter from its end, on the same "
            "level."))]


def _does_not_wick(row: Wicking) -> list[Finding]:
    if row.soil in WICKS:
        return []
    return [Finding(
        "grow.does-not-wick", "stop", Phrase(f"{quoted(row.name)}: soil does not wick"),
        Phrase("Only potting mix draws water up from a reservoir; press its lower third lightly."),
        (Remedy(f"mix-{row.id}", Phrase("Potting mix"), Phrase("wicks"),
                SetValue(f"plots/{row.id}/soil", "potting-mix")),))]


def _feed(row: Wicking, state: self_watering.Reservoir) -> Finding:
    return Finding(
        "grow.feed", "note",
        say(f"{quoted(row.name)}: cut off, it lasts " + "{d} in the hottest week",
            d=Amount(state.days_cut_off, "days", 1)),
        say("{l} of free water stand in it. When fruit sets, {f} of feed for all of that (a "
            "tablespoon a gallon, common practice). Water once from above to start the wick.",
            l=Amount(state.held_l, "drop"), f=Amount(state.feed_ml, "dose")))
