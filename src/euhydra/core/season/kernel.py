"""The days of the season as compiled loops: one year after another, a day in four parts.

Nothing here knows of gardens: arrays come as plain numbers in a fixed order, years and days first,
so that what a day needs lies together. ``y`` is the year, ``i`` the day in it, ``p`` a plot, ``b``
a bank. Parts are written into the loop, and take their arrays one by one and whole: looked up in
a tuple, or cut to a day, each would be counted in and out again.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from euhydra.core.demand.roots import effective_rain, grown, stress
from euhydra.core.numerics.compiled import compiled, written_in
from euhydra.core.season.programme import PARTS
from euhydra.core.season.state import Array

Ints = NDArray[np.int64]
Flags = NDArray[np.bool_]


class Fixed(NamedTuple):
    """A world's arrays, as the loops take them; ``low``, ``rise`` and ``more`` are its flows.

    ``takes`` is what crops use and what the air takes of bare soil.
    """

    bank: Ints
    zone: Ints
    low: Array
    rise: Array
    more: Array
    works: Array
    minutes: Array
    runs: Array
    refilled: Array
    always_on: Flags
    reservoir: Array
    hold: Array
    full: Array
    ready: Array
    grows: Flags
    takes: Array
    rain: Array
    caught: Array
    grey: Array
    drained: Array
    size: Array
    inflow: Array
    over_to: Ints
    feeds: Ints
    well_day: Array
    well_to: Ints
    well_share: Array
    tapped: Flags
    filled_at: Array
    leak: Array
    out: Flags
    drinks: Array


class Now(NamedTuple):
    """What carries over from day to day, and room for a day's own sums."""

    level: Array
    depletion: Array
    below: Array
    reservoir: Array
    there: Array
    well_left: Array
    carried: Array
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
    poured: Array
    by_hand: Array
    emptied: Array
    leaked: Array
    spilled: Array
    well: Array
    tap: Array
    used: Array


@compiled
def run_year(w: Fixed, s: Now, told: Told, y: int, days: Ints) -> None:
    """The days of one year, in order, from the state as it stands.

    A day: what is drawn comes from what stood there before; then the rain fills.
    """
    (bank, zone, low, rise, more, works, minutes, runs, refilled, always_on, holds, hold, full,
     ready, grows, takes, rain, caught, grey, drained, size, inflow, over_to, feeds, well_day,
     well_to, well_share, tapped, filled_at, leak, out, drinks) = w
    (level, depletion, below, reservoir, there, well_left, carried, want, got, asked, spilt) = s
    (given, wasted, drunk, fed, lacking, depletions, reservoirs, levels, beyond, poured, by_hand,
     emptied, leaked, spilled, wells, taps, used) = told
    plots, banks = len(bank), len(size)
    for i in days:
        for n in range(len(well_day)):
            well_left[n] = well_day[n]
        emptied[y, i] += _begin(y, i, banks, level, there, out, filled_at, size, carried, poured)
        leaked[y, i] += _lose(y, i, banks, leak, there, carried)
        for p in range(plots):
            depletion[p], below[p] = grown(depletion[p], below[p], hold[i - 1, p], hold[i, p],
                                           full[p])
        for part in range(PARTS):
            opens = _ask(y, i, part, plots, minutes, runs, refilled, bank, zone, low, rise, more,
                         always_on, there, size, asked, want, got)
            if opens:
                taps[y, i] += _share_out(plots, bank, asked, want)
                wells[y, i] += _draw(banks, want, got, there, carried, feeds, well_to, well_share,
                                     well_left, beyond, by_hand, y, i)
                taps[y, i] += _top_up(banks, want, got, tapped)
                _give(plots, bank, asked, want, got, works, depletion, below, always_on, reservoir,
                      given, lacking, wasted, y, i)
            if drinks[part] > 0:
                came = _wash(y, i, plots, grey, drinks[part], depletion, given, wasted)
                used[y, i] += drained[y, i] * drinks[part]
                spilled[y, i] += drained[y, i] * drinks[part] - came
                if _let_in(y, i, plots, bank, low, rise, more, there, size, out, always_on, grows,
                           holds, reservoir, depletion, takes, drinks[part], asked):
                    taps[y, i] += _share_out(plots, bank, asked, want)
                    wells[y, i] += _draw(banks, want, got, there, carried, feeds, well_to,
                                         well_share, well_left, beyond, by_hand, y, i)
                    taps[y, i] += _top_up(banks, want, got, tapped)
                    _give(plots, bank, asked, want, got, works, depletion, below, always_on,
                          reservoir, given, lacking, wasted, y, i)
                _drink(y, i, plots, takes, drinks[part], hold, ready, grows, depletion, reservoir,
                       asked, lacking, drunk, fed)
        for p in range(plots):
            stays = effective_rain(rain[y, i, p], caught[i, p], depletion[p])
            below[p] = max(below[p] - max(rain[y, i, p] - caught[i, p] - stays, 0.0), 0.0)
            depletion[p] -= stays
            depletions[y, i, p] = depletion[p]
            reservoirs[y, i, p] = reservoir[p]
        spilled[y, i] += _fill(y, i, banks, there, level, inflow, size, out, over_to, spilt)
        for b in range(banks):
            levels[y, i, b] = level[b]


@written_in
def _begin(y: int, i: int, banks: int, level: Array, there: Array, out: Flags, filled_at: Array,
           size: Array, carried: Array, poured: Array) -> float:
    """What stands in each bank in the morning: none in winter, all where a person has filled it.

    Gives what was let out before the frost, L.
    """
    let_out = 0.0
    for b in range(banks):
        there[b] = level[b]
        if out[i, b]:
            let_out += there[b]
            there[b] = carried[b] = 0.0
        elif there[b] < filled_at[b]:
            poured[y, i, b] = size[b] - there[b]
            carried[b] += poured[y, i, b]
            there[b] = size[b]
    return let_out


@written_in
def _lose(y: int, i: int, banks: int, leak: Array, there: Array, carried: Array) -> float:
    """What leaks out of each bank in the day, as far as it is there; gives all of it, L."""
    lost = 0.0
    for b in range(banks):
        litres = min(leak[y, i, b], there[b])
        there[b] -= litres
        carried[b] = min(carried[b], there[b])
        lost += litres
    return lost


@written_in
def _ask(y: int, i: int, part: int, plots: int, minutes: Array, runs: Array, refilled: Array,
         bank: Ints, zone: Ints, low: Array, rise: Array, more: Array, always_on: Flags,
         there: Array, size: Array, asked: Array, want: Array, half_way: Array) -> bool:
    """What the timer's minutes would give each plot, its bank falling meanwhile.

    At the flow of the level half way through, found by what the flow at first would draw (the
    midpoint rule). Lines that drained after the last run fill first, and drain again onto the low
    plots.
    """
    opens = False
    for b in range(len(want)):
        want[b] = 0.0
    for p in range(plots):
        asked[p] = 0.0
        if always_on[p] or minutes[y, i, part, zone[p]] <= 0:
            continue
        opens = True
        if bank[p] >= 0:
            flow = _flow(p, bank[p], low, rise, more, there, size)
            want[bank[p]] += flow * minutes[y, i, part, zone[p]] / 60
    if not opens:
        return False
    for b in range(len(want)):
        half_way[b] = there[b] - min(want[b], there[b]) / 2
    for p in range(plots):
        if always_on[p] or minutes[y, i, part, zone[p]] <= 0:
            continue
        flow = _flow(p, bank[p], low, rise, more, half_way, size)
        asked[p] = max(flow * minutes[y, i, part, zone[p]] / 60
                       + refilled[p] * runs[y, i, part, zone[p]], 0.0)
    return True


@written_in
def _flow(p: int, b: int, low: Array, rise: Array, more: Array, there: Array, size: Array
          ) -> float:
    """A plot's flow in L/h at the level of its bank; a tap's is the same all day."""
    share = 1.0 if b < 0 else min(max(there[b] / max(size[b], 1e-9), 0.0), 1.0)
    return float(low[p] + rise[p] * share + more[p] * max(share - 0.5, 0.0))


@written_in
def _let_in(y: int, i: int, plots: int, bank: Ints, low: Array, rise: Array, more: Array,
            there: Array, size: Array, out: Flags, always_on: Flags, grows: Flags, holds: Array,
            reservoir: Array, depletion: Array, takes: Array, part: float, asked: Array) -> bool:
    """What float valves let in: all that the row drinks, and what its mix and water lack.

    No more than passes them in those hours at the flow of the hottest one, and nothing while their
    bank is out for frost.
    """
    any_on = False
    for p in range(plots):
        asked[p] = 0.0
        if always_on[p] and grows[i, p] and not (bank[p] >= 0 and out[i, bank[p]]):
            flow = _flow(p, bank[p], low, rise, more, there, size)
            asked[p] = min(holds[p] - reservoir[p] + depletion[p] + takes[y, i, p] * part,
                           flow * part * 24)
            any_on = True
    return any_on


@written_in
def _share_out(plots: int, bank: Ints, asked: Array, want: Array) -> float:
    """Add up what is asked of each bank; gives what is asked of taps that feed lines themselves."""
    tap = 0.0
    for b in range(len(want)):
        want[b] = 0.0
    for p in range(plots):
        if bank[p] >= 0:
            want[bank[p]] += asked[p]
        else:
            tap += asked[p]
    return tap


@written_in
def _draw(banks: int, want: Array, got: Array, there: Array, carried: Array, feeds: Ints,
          well_to: Ints, well_share: Array, well_left: Array, beyond: Array, by_hand: Array, y: int,
          i: int) -> float:
    """Draw on the banks, on those that feed them, and on wells, in that order; gives the wells'.

    A well that gives a share of each draw gives that first. Of a bank that a person fills, what
    was carried there is drawn first.
    """
    wells = 0.0
    for b in range(banks):
        got[b] = 0.0
    for n in range(len(well_to)):
        if well_share[n] > 0:
            b = well_to[n, 1]
            wells += _drawn_up(well_to[n, 0], b, min(want[b] - got[b], want[b] * well_share[n]),
                               well_left, got)
    for b in range(banks):
        own = min(want[b] - got[b], there[b])
        got[b] += own
        by_hand[y, i] += _taken(b, own, there, carried)
    for f in range(len(feeds)):
        a, b = feeds[f, 0], feeds[f, 1]
        fed = min(want[b] - got[b], there[a])
        got[b] += fed
        by_hand[y, i] += _taken(a, fed, there, carried)
    for b in range(banks):
        beyond[y, i, b] += want[b] - got[b]
    for n in range(len(well_to)):
        b = well_to[n, 1]
        wells += _drawn_up(well_to[n, 0], b, want[b] - got[b], well_left, got)
    return wells


@written_in
def _drawn_up(n: int, b: int, litres: float, well_left: Array, got: Array) -> float:
    """What a well gives a bank's lines of so many litres, out of what it has left that day."""
    gives: float = min(litres, well_left[n])
    well_left[n] -= gives
    got[b] += gives
    return gives


@written_in
def _taken(b: int, litres: float, there: Array, carried: Array) -> float:
    """Take litres out of a bank; gives how many of them were carried there."""
    there[b] -= litres
    own: float = min(carried[b], litres)
    carried[b] -= own
    return own


@written_in
def _top_up(banks: int, want: Array, got: Array, tapped: Flags) -> float:
    """What taps give through their air gap, where the rest did not do."""
    tap = 0.0
    for b in range(banks):
        if tapped[b]:
            tap += want[b] - got[b]
            got[b] = want[b]
    return tap


@written_in
def _give(plots: int, bank: Ints, asked: Array, want: Array, got: Array, works: Array,
          depletion: Array, below: Array, always_on: Flags, reservoir: Array, given: Array,
          lacking: Array, wasted: Array, y: int, i: int) -> None:
    """What came goes to a plot's roots, into its own reservoir, to the soil below, or past it.

    What did not come through a float valve stays in ``asked``: the valve stands open and asks for
    it again, so that it lacks only once it would have been drunk (``_drink``).
    """
    for p in range(plots):
        if asked[p] <= 0:
            continue
        gets = asked[p]
        if bank[p] >= 0 and want[bank[p]] > 1e-12:
            gets *= got[bank[p]] / want[bank[p]]
        useful = min(gets * works[p], depletion[p])
        depletion[p] -= useful
        given[y, i, p] += gets
        if always_on[p]:
            asked[p] -= gets
            reservoir[p] += gets - useful
        else:
            lacking[y, i, p] += asked[p] - gets
            deeper = min(gets * works[p] - useful, below[p])
            below[p] -= deeper
            wasted[y, i, p] += gets - useful - deeper


@written_in
def _wash(y: int, i: int, plots: int, grey: Array, part: float, depletion: Array, given: Array,
          wasted: Array) -> float:
    """Used water to the ground it is led to; gives what came there."""
    all_came = 0.0
    for p in range(plots):
        came = grey[y, i, p] * part
        if came > 0:
            useful = min(came, depletion[p])
            depletion[p] -= useful
            given[y, i, p] += came
            wasted[y, i, p] += came - useful
            all_came += came
    return all_came


@written_in
def _drink(y: int, i: int, plots: int, takes: Array, part: float, hold: Array, ready: Array,
           grows: Flags, depletion: Array, reservoir: Array, asked: Array, lacking: Array,
           drunk: Array, fed: Array) -> None:
    """FAO-56 eq. 84: a crop drinks less once its roots are drawn past what is ready.

    Bare soil dries alike. What a row would have drunk and its float valve asked for in vain lacks.
    """
    for p in range(plots):
        use = takes[y, i, p] * part
        if use <= 0:
            continue
        own = min(reservoir[p], use)
        reservoir[p] -= own
        left = stress(depletion[p], hold[i, p], ready[y, i, p])
        drawn = min((use - own) * left, max(hold[i, p] - depletion[p], 0.0))
        depletion[p] += drawn
        lacking[y, i, p] += max(min(asked[p], use - own - drawn), 0.0)
        if grows[i, p]:
            drunk[y, i, p] += own + drawn
            if use > 1e-9:
                fed[y, i, p] = min(fed[y, i, p], (own + drawn) / use)


@written_in
def _fill(y: int, i: int, banks: int, there: Array, level: Array, inflow: Array, size: Array,
          out: Flags, over_to: Ints, spilt: Array) -> float:
    """The day's rain into the banks that the day's draws have left, over their rims and on.

    One that is out for frost takes nothing. Gives what leaves all of them.
    """
    leaves = 0.0
    for b in range(banks):
        spilt[b] = 0.0
    for b in range(banks):
        comes = there[b] + inflow[y, i, b] + spilt[b]
        level[b] = 0.0 if out[i, b] else min(comes, size[b])
        if over_to[b] >= 0:
            spilt[over_to[b]] += comes - level[b]
        else:
            leaves += comes - level[b]
    return leaves
