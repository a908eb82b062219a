"""Catch, the drums: whether they keep up on washing day, what they feed, and what lint does."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np

from euhydra.core.editing.edits import Edit, Together
from euhydra.core.editing.makers import FLOAT_PUMP
from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Drain
from euhydra.core.hydraulics.drum_lines import DrumMonth, dead_l
from euhydra.core.hydraulics.lint import Clogging, cloggings
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Remedy
from euhydra.core.stations import feeding
from euhydra.core.supply import greywater
from euhydra.core.supply.greywater import DrumDay, Leaves
from euhydra.core.weather.generator import MONTH_OF_DAY

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

DRUM_STEP_L, MOST_DRUM_L = 50, 1000
SOON_WEEKS = 8.0  # outlets that lint blocks within this are spoken of


def slowest(r: Results, drain: Drain) -> DrumMonth | None:
    """The month in which a drum empties slowest, of those in which it is led anywhere.

    None where no lines hang on it.
    """
    lines = r.drums.get(drain.id)
    return min((m for m in lines.months if m.shares), key=lambda m: m.leaves.half_l_h,
               default=None) if lines else None


def leaves_of(r: Results, drain: Drain) -> Leaves:
    """How fast a drum empties in that month; not at all without lines."""
    month = slowest(r, drain)
    return month.leaves if month else Leaves(0.0, 0.0, 0.0, dead_l(r.garden, drain),
                                             r.garden.lift_on(drain.id) is not None)


def busiest_day(r: Results, drain: Drain) -> DrumDay:
    """The drum on its busiest day, in the month in which it empties slowest."""
    return greywater.drum_day(drain, leaves_of(r, drain))


def comes_by_month_l(r: Results, drain: Drain) -> list[float]:
    """Litres a day that the ground of a drain gets of its water, by month, frosts left out."""
    world = r.season.world
    plots = (list(r.drums[drain.id].zone.plots) if drain.id in r.drums else
             [greywater.ground_key(drain, bed) for bed in greywater.grounds(drain)])
    daily = sum((world.grey[world.plots.index(p)].mean(axis=0) for p in plots), np.zeros(365))
    return [float(daily[MONTH_OF_DAY == m].mean()) for m in range(12)]


def findings(r: Results, drain: Drain) -> list[Finding]:
    """Every rule on a drum."""
    return [*_unled(r, drain), *_keeps_up(r, drain), *_raw(r, drain), *_lint(r, drain),
            *_lid(drain), *_power(r, drain),
            *feeding.findings(r, "catch.grey-feed", (drain.id,))]


def _unled(r: Results, drain: Drain) -> list[Finding]:
    if drain.id in r.drums:
        return []
    return [Finding(
        "catch.grey-unled", "stop", Phrase(f"{quoted(drain.name)}: nothing draws from the drum"),
        say("{v} a week comes into it and no line leads out. Let a plot have its water from this "
            "drum on Grow, or lead the drain to basins.",
            v=Amount(greywater.week_l(drain), "volume")),
        (Remedy(f"basins-{drain.id}", Phrase("Lead it to mulch basins"), Phrase("no drum"),
                SetValue(f"drains/{drain.id}/school", "basins")),) if (
                    len(r.garden.sources) > 1 and drain.basins) else ())]


def _keeps_up(r: Results, drain: Drain) -> list[Finding]:
    if drain.id not in r.drums:
        return []
    day, leaves = busiest_day(r, drain), leaves_of(r, drain)
    copes = greywater.rate_that_copes_l_h(drain, leaves)
    remedies = _remedies(r, drain, day)
    found = []
    if day.spilled_l > 0.05:
        found.append(Finding(
            "catch.grey-overflow", "stop",
            say(f"{quoted(drain.name)}: the drum overflows by " + "{v} on washing day",
                v=Amount(day.spilled_l, "drop")),
            say("{came} comes in on the busiest day, the drum holds {drum} and its lines let {q} "
                "through when it is half full. {copes} would keep up; so does spreading the "
                "washing over the week.",
                came=Amount(day.came_l, "volume"), drum=Amount(drain.drum_l, "volume"),
                q=Amount(leaves.half_l_h, "flow", 0), copes=Amount(copes, "flow", 0)), remedies))
    if day.held_h > greywater.HELD_H:
        held = (say("Water stays in it past two days.") if day.held_h == float("inf") else
                say("Water stays in it for {h}.", h=Amount(day.held_h, "hours")))
        found.append(Finding(
            "catch.grey-held", "stop",
            Phrase(f"{quoted(drain.name)}: the drum is not empty within 24 hours"),
            say(held.template + " Past {most} it turns septic and stinks, and codes forbid it.",
                **held.amounts, most=Amount(greywater.HELD_H, "hours", 0)), remedies))
    return found


def _remedies(r: Results, drain: Drain, was: DrumDay) -> tuple[Remedy, ...]:
    """What would do: a float pump, a larger drum. Each is tried, and offered where it is enough."""
    if was.spilled_l <= 0.05 and was.held_h <= greywater.HELD_H:
        return ()
    pump = FitPump(drain.id, FLOAT_PUMP)
    larger = [_drum_of(drain, litres) for litres in _larger_l(drain, leaves_of(r, drain))]
    tried: list[tuple[str, Phrase, Edit]] = [(f"drum-{drain.id}", *each) for each in larger]
    if r.garden.lift_on(drain.id) is None:
        words = Phrase("Put a float pump in it")
        tried.insert(0, (f"pump-{drain.id}", words, pump))
        after = r.after(pump)
        for litres in _larger_l(drain, leaves_of(after, drain)):
            wider, edit = _drum_of(drain, litres)
            tried.append((f"both-{drain.id}", say(
                f"{wider.template}, and a float pump in it", **wider.amounts),
                Together((edit, pump))))
    return tuple(Remedy(key, words, Phrase("empty in time, nothing spills"), edit)
                 for key, words, edit in tried if _enough(r, drain, edit))


def _drum_of(drain: Drain, litres: float) -> tuple[Phrase, Edit]:
    return (say("A drum of {v}", v=Amount(litres, "volume")),
            SetValue(f"drains/{drain.id}/drum_l", litres))


def _larger_l(drain: Drain, leaves: Leaves) -> list[float]:
    """The smallest larger drum that keeps up at the rates there are; none where none does."""
    for litres in range(DRUM_STEP_L, MOST_DRUM_L + 1, DRUM_STEP_L):
        if litres > drain.drum_l:
            larger = drain.model_copy(update={"drum_l": float(litres)})
            day = greywater.drum_day(larger, replace(
                leaves, dead_l=leaves.dead_l * litres / drain.drum_l))
            if day.spilled_l <= 0.05 and day.held_h <= greywater.HELD_H:
                return [float(litres)]
    return []


def _enough(r: Results, drain: Drain, edit: Edit) -> bool:
    after = r.after(edit)
    now = after.garden.drum_of(drain.id)
    if now is None:
        return False
    day = busiest_day(after, now)
    return day.spilled_l <= 0.05 and day.held_h <= greywater.HELD_H


def _raw(r: Results, drain: Drain) -> list[Finding]:
    """Roots and leaves that are eaten raw are not for this water."""
    lines = r.drums.get(drain.id)
    raw = [plot.name for plot in r.garden.plots if lines and plot.id in lines.zone.plots
           and any(r.library.crops[p.crop].edible_raw in ("root", "leaf")
                   for p in plot.plantings)]
    if not raw:
        return []
    names = ", ".join(quoted(name) for name in raw)
    return [Finding(
        "catch.grey-raw", "stop", Phrase(f"{quoted(drain.name)} waters what is eaten raw: {names}"),
        say("{v} a week of used water carries what washes off clothes and bodies. No code lets it "
            "onto roots or onto leaves eaten raw: give those plots other water, or grow there what "
            "is cooked, or fruit well above the soil.",
            v=Amount(greywater.week_l(drain), "volume")), caution=True)]


def clogging_of(r: Results, drain: Drain) -> tuple[Clogging, ...]:
    """What lint does to each kind of outlet on its lines, the first to block first."""
    lines = r.drums.get(drain.id)
    return cloggings(r.garden, r.library, lines.zone) if lines else ()


def _lint(r: Results, drain: Drain) -> list[Finding]:
    found = clogging_of(r, drain)
    if not found or found[0].weeks > SOON_WEEKS:
        return []
    first = found[0]
    zone = r.drums[drain.id].zone
    others = {key: row for key, row in r.library.fittings.items() if row.role == "filter"
              and key.startswith("filter-")
              and row.lint_times > r.library.fittings[zone.filter].lint_times}
    best = max(others, key=lambda key: others[key].lint_times, default="")
    longer = replace(first, weeks=first.weeks * others[best].lint_times
                     / r.library.fittings[zone.filter].lint_times) if best else first
    remedies = (Remedy(
        f"lint-filter-{drain.id}", Phrase(f"{quoted(others[best].name)} before them"),
        say("blocked after {w} without care", w=Amount(longer.weeks * 7, "days")),
        SetValue(f"zones/{zone.id}/filter", best)),) if best else ()
    return [Finding(
        "catch.grey-lint", "care",
        say(f"{quoted(drain.name)}: lint blocks {quoted(r.library.outlets[first.outlet].name)} in "
            "{w}", w=Amount(first.weeks * 7, "days")),
        say("Behind {f} a quarter of the flow is gone after {q} if nobody rinses the ends. Drilled "
            "pipe lasts a season, a mulch basin never blocks.".replace(
                "{f}", quoted(r.library.fittings[zone.filter].name)),
            q=Amount(first.noticed_weeks * 7, "days")), remedies)]


def _lid(drain: Drain) -> list[Finding]:
    if drain.drum_lid:
        return []
    return [Finding(
        "catch.grey-lid", "stop", Phrase(f"{quoted(drain.name)}: the drum stands open"),
        say("Flies and mosquitoes breed in {v} of used water, and a child can drown in it. "
            "Shut it tight; the hose ends well above its highest water.",
            v=Amount(drain.drum_l, "volume")),
        (Remedy(f"shut-{drain.id}", Phrase("Shut it tight"), Phrase("shut"),
                SetValue(f"drains/{drain.id}/drum_lid", True)),), caution=True)]


def _power(r: Results, drain: Drain) -> list[Finding]:
    if r.garden.lift_on(drain.id) is None:
        return []
    return [Finding(
        "catch.grey-pump", "note", Phrase("A pump in water: power and the last of it"),
        say("{left} stays under the float after washing day: tip it out, or choose a pump "
            "that sucks low. Outdoor-rated, on residual-current protection; a licensed "
            "electrician fits the supply.", left=Amount(dead_l(r.garden, drain), "volume")),
        caution=True)]
