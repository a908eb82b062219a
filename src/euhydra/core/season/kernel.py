"""The days of the season as compiled loops: one year after another, a day in four parts.

What each function changes is its state and the season's own arrays, as plain numbers in a fixed
order; nothing here knows of gardens. ``y`` is the year and ``i`` the day in it.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from euhydra.core.compiled import compiled, written_in
from euhydra.core.season.programme import PARTS
from euhydra.core.season.world import Array

Ints = NDArray[np.int64]
Flags = NDArray[np.bool_]


class Fixed(NamedTuple):
    """A world's arrays, as the loops take them; ``low``, ``rise`` and ``more`` are its flows.

    Years and days come first in each, so that what a day needs lies together.
    """

    bank: Ints
    zone: Ints
    low: Array
    rise: Array
    more: Array
    works: Array
    minutes: Array
    always_on: Flags
    reservoir: Array
    total: Array
    spread: Array
    use: Array
    rain: Array
    grey: Array
    drained: Array
    size: Array
    inflow: Array
    over_to: Ints
    feeds: Ints
    well: Array
    tapped: Flags
    drinks: Array


class Now(NamedTuple):
    """What carries over from day to day, and room for a day's own sums."""

    level: Array
    depletion: Array
    reservoir: Array
    there: Array
    well_left: Array
    want: Array
    got: Array
    asked: Array
    spilt: Array


class Told(NamedTuple):
    """The season's arrays that are filled."""

    given: Array
    wasted: Array
    drunk: Array
    fed: Array
    lacking: Array
    depletion: Array
    reservoir: Array
    level: Array
    beyond: Array
    spilled: Array
    well: Array
    tap: Array
    used: Array


@compiled
def run_year(w: Fixed, s: Now, told: Told, y: int, days: Ints) -> None:
    """The days of one year, in order, from the state as it stands."""
    for i in days:
        run_day(w, s, told, y, i)


@written_in
def run_day(w: Fixed, s: Now, told: Told, y: int, i: int) -> None:
    """One day: what is drawn comes from what stood there before; then the rain fills."""
    for b in range(len(w.size)):
        s.there[b] = s.level[b]
        s.well_left[b] = w.well[b]
    for part in range(PARTS):
        if _ask(w, s, y, i, part):
            _draw(w, s, told, y, i)
        if w.drinks[part] > 0:
            _wash(w, s, told, y, i, w.drinks[part])
            if _let_in(w, s, y, i, w.drinks[part]):
                _draw(w, s, told, y, i)
            _drink(w, s, told, y, i, w.drinks[part])
    for p in range(len(w.bank)):
        s.depletion[p] = max(s.depletion[p] - w.rain[y, i, p], 0.0)
        told.depletion[y, i, p] = s.depletion[p]
        told.reservoir[y, i, p] = s.reservoir[p]
    _fill(w, s, told, y, i)
    for b in range(len(w.size)):
        told.level[y, i, b] = s.level[b]


@written_in
def _ask(w: Fixed, s: Now, y: int, i: int, part: int) -> bool:
    """What the timer's minutes would give each plot at the flow of its bank's level."""
    opens = False
    for p in range(len(w.bank)):
        minutes, b = w.minutes[y, i, part, w.zone[p]], w.bank[p]
        s.asked[p] = 0.0
        if w.always_on[p] or minutes <= 0:
            continue
        share = 1.0 if b < 0 else min(max(s.there[b] / max(w.size[b], 1e-9), 0.0), 1.0)
        flow = w.low[p] + w.rise[p] * share + w.more[p] * max(share - 0.5, 0.0)
        s.asked[p] = flow * minutes / 60
        opens = True
    return opens


@written_in
def _let_in(w: Fixed, s: Now, y: int, i: int, part: float) -> bool:
    """What float valves let in: all that the row drinks, and what its mix and water lack."""
    any_on = False
    for p in range(len(w.bank)):
        s.asked[p] = 0.0
        if w.always_on[p]:
            s.asked[p] = (w.reservoir[p] - s.reservoir[p] + s.depletion[p]
                          + w.use[y, i, p] * part)
            any_on = True
    return any_on


@written_in
def _draw(w: Fixed, s: Now, told: Told, y: int, i: int) -> None:
    """Give what is asked from the banks, their feeders, wells and taps, in that order.

    It goes to a plot's roots, into its own reservoir, or past them.
    """
    for b in range(len(w.size)):
        s.want[b] = 0.0
    for p in range(len(w.bank)):
        if w.bank[p] >= 0:
            s.want[w.bank[p]] += s.asked[p]
        else:
            told.tap[y, i] += s.asked[p]
    for b in range(len(w.size)):
        s.got[b] = min(s.want[b], s.there[b])
        s.there[b] -= s.got[b]
    for f in range(len(w.feeds)):
        a, b = w.feeds[f]
        fed = min(s.want[b] - s.got[b], s.there[a])
        s.got[b] += fed
        s.there[a] -= fed
    for b in range(len(w.size)):
        told.beyond[y, i, b] += s.want[b] - s.got[b]
        well = min(s.want[b] - s.got[b], s.well_left[b])
        s.well_left[b] -= well
        s.got[b] += well
        told.well[y, i] += well
        if w.tapped[b]:
            told.tap[y, i] += s.want[b] - s.got[b]
            s.got[b] = s.want[b]
    for p in range(len(w.bank)):
        b, given = w.bank[p], s.asked[p]
        if b >= 0 and s.want[b] > 1e-12:
            given *= s.got[b] / s.want[b]
        useful = min(given * w.works[p], s.depletion[p])
        s.depletion[p] -= useful
        told.given[y, i, p] += given
        told.lacking[y, i, p] += s.asked[p] - given
        if w.always_on[p]:
            s.reservoir[p] += given - useful
        else:
            told.wasted[y, i, p] += given - useful


@written_in
def _wash(w: Fixed, s: Now, told: Told, y: int, i: int, part: float) -> None:
    """Used water to the ground it is led to; what a drum spills is lost."""
    all_came = 0.0
    for p in range(len(w.bank)):
        came = w.grey[y, i, p] * part
        useful = min(came, s.depletion[p])
        s.depletion[p] -= useful
        told.given[y, i, p] += came
        told.wasted[y, i, p] += came - useful
        all_came += came
    told.used[y, i] += w.drained[y, i] * part
    told.spilled[y, i] += w.drained[y, i] * part - all_came


@written_in
def _drink(w: Fixed, s: Now, told: Told, y: int, i: int, part: float) -> None:
    """FAO-56 eq. 84: a crop drinks less once its roots are drawn past what is ready."""
    for p in range(len(w.bank)):
        use = w.use[y, i, p] * part
        own = min(s.reservoir[p], use)
        s.reservoir[p] -= own
        left = min(max((w.total[p] - s.depletion[p]) / w.spread[p], 0.0), 1.0)
        drawn = min((use - own) * left, w.total[p] - s.depletion[p])
        s.depletion[p] += drawn
        told.drunk[y, i, p] += own + drawn
        if use > 1e-9:
            told.fed[y, i, p] = min(told.fed[y, i, p], (own + drawn) / use)


@written_in
def _fill(w: Fixed, s: Now, told: Told, y: int, i: int) -> None:
    """The day's rain into the banks that the day's draws have left, over their rims and on."""
    for b in range(len(w.size)):
        s.spilt[b] = 0.0
    for b in range(len(w.size)):
        comes = s.there[b] + w.inflow[y, i, b] + s.spilt[b]
        held = min(comes, w.size[b])
        s.level[b] = held
        if w.over_to[b] >= 0:
            s.spilt[w.over_to[b]] += comes - held
        else:
            told.spilled[y, i] += comes - held
