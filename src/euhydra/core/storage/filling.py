"""How a bank of stores fills in steady rain, vessel by vessel, through links that can be too thin.

The steps are compiled loops over plain arrays.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Joint, Roof
from euhydra.core.library import Library
from euhydra.core.numerics.compiled import compiled, written_in
from euhydra.core.storage import Bank, base_z_m, full_z_m
from euhydra.core.storage.storm import inflow_l_h, link_l_h
from euhydra.core.storage.vessel import volume_at

Array = NDArray[np.float64]
Ints = NDArray[np.int64]
STEP_S = 5.0
LONGEST_H = 6.0
MOST_STEPS = 240
LINK_PASSES = 4  # of the links in each step, so that wide ones can level a row
LEVEL_M = 0.01  # levels no farther apart have met
DIPS = 65  # at which a vessel's litres are tabled


@dataclass(frozen=True)
class Filling:
    """How a bank fills from empty in steady rain.

    ``shares`` is how full each vessel is when the first of them spills, ``settled`` how full it
    would be had the levels met; minutes are infinite when nothing spills within six hours.
    """

    minutes_to_spill: float
    names: tuple[str, ...]
    shares: tuple[float, ...]
    settled: tuple[float, ...]
    spills: str
    minutes_to_level: float

    @property
    def behind(self) -> float:
        """The least share of what it should hold that any vessel has: 1 where all keep level."""
        return min((share / full for share, full in zip(self.shares, self.settled, strict=True)
                    if full > 0), default=1.0)


class Row(NamedTuple):
    """Single vessels and the links between them, as the loops take them.

    ``table`` (vessels, DIPS) is the litres of each at even dips up to ``tall``; link n leads from
    vessel ``a`` to ``b``, with its ends at levels ``end_a`` and ``end_b``, passes ``passes`` L/h
    under a metre of head, and levels the two by ``meets`` litres a metre.
    """

    table: Array
    tall: Array
    base: Array
    full: Array
    come: Array
    a: Ints
    b: Ints
    end_a: Array
    end_b: Array
    passes: Array
    meets: Array


def filling(roofs: Sequence[Roof], joints: Sequence[Joint], library: Library, bank: Bank,
            rain_mm_h: float) -> Filling:
    """Fill every vessel of a bank from its outlet level, through links that can be too thin.

    Like barrels of one store stand in a row, each linked to the next; steps of five seconds, or
    longer ones where the bank takes long to fill.
    """
    row, litres, names = _row(roofs, joints, library, bank, rain_mm_h)
    vessels = [store for store in bank.stores for _ in range(store.count)]
    settled = tuple(
        min(1.0, float(volume_at(v, max(bank.full_z_m - base_z_m(v), v.outlet_m))) / full)
        for v, full in zip(vessels, row.full.tolist(), strict=True))
    seconds = _step_s(row, litres)
    steps, spills = fill(row, litres, seconds)
    shares = tuple((litres / row.full).tolist())
    if spills < 0:
        return Filling(math.inf, names, shares, settled, "", 0.0)
    levelled = settle(row, litres) if row.a.size else 0
    return Filling(steps * seconds / 60, names, shares, settled, names[spills],
                   levelled * STEP_S / 60 if levelled >= 0 else math.inf)


def _step_s(row: Row, litres: Array) -> float:
    """Seconds a step so that a fill takes a few hundred of them, and six hours are reached."""
    coming, room = float(row.come.sum()), float((row.full - litres).sum())
    fill_s = min(room / coming, LONGEST_H) * 3600 if coming > 0 else LONGEST_H * 3600
    return max(STEP_S, 1.1 * fill_s / MOST_STEPS)


def _row(roofs: Sequence[Roof], joints: Sequence[Joint], library: Library, bank: Bank,
         rain_mm_h: float) -> tuple[Row, Array, tuple[str, ...]]:
    """The bank's vessels one by one, what stands in each at first, and what each is called."""
    vessels = [store for store in bank.stores for _ in range(store.count)]
    names = tuple(f"{s.name} {i + 1}" if s.count > 1 else s.name
                  for s in bank.stores for i in range(s.count))
    first = {s.id: vessels.index(s) for s in bank.stores}
    last = {s.id: first[s.id] + s.count - 1 for s in bank.stores}
    links = [(i, i + 1, s.link_mm, s.link_m, s.outlet_m, s.outlet_m)
             for s in bank.stores for i in range(first[s.id], last[s.id])]
    links += [(last[j.a], first[j.b], j.bore_mm, j.length_m, j.end_m, j.end_m)
              for j in joints
              if j.kind in ("link", "siphon") and j.a in first and j.b in first]
    come = np.zeros(len(vessels))
    for store in bank.stores:
        come[first[store.id]] += inflow_l_h(roofs, library, store, rain_mm_h)
    tall = np.array([v.height_m for v in vessels])
    base = np.array([base_z_m(v) for v in vessels])
    per_m = np.array([v.volume_l / v.height_m for v in vessels])
    a, b = (np.array([link[n] for link in links], dtype=np.int64) for n in (0, 1))
    return Row(
        table=np.array([volume_at(v, np.linspace(0, v.height_m, DIPS)) for v in vessels]),
        tall=tall, base=base,
        full=np.array([float(volume_at(v, full_z_m(v) - base_z_m(v))) for v in vessels]),
        come=come, a=a, b=b,
        end_a=base[a] + np.array([link[4] for link in links]),
        end_b=base[b] + np.array([link[5] for link in links]),
        passes=np.array([link_l_h(link[2], link[3], 1.0) for link in links]),
        meets=1 / (1 / per_m[a] + 1 / per_m[b])), np.array(
            [float(volume_at(v, v.outlet_m)) for v in vessels]), names


@compiled
def fill(row: Row, litres: Array, seconds: float) -> tuple[int, int]:
    """Steps until a vessel runs over and which one does, −1 where none; ``litres`` changes."""
    table, tall, base, full, come, a, b, end_a, end_b, passes, meets = row
    times = LINK_PASSES if len(a) else 1
    for step in range(MOST_STEPS):
        for _ in range(times):
            for i in range(len(litres)):
                litres[i] += come[i] * seconds / 3600 / times
            _level(litres, table, tall, base, a, b, end_a, end_b, passes, meets,
                   seconds / LINK_PASSES)
        spills = -1
        for i in range(len(litres)):
            if litres[i] > full[i] + 1e-9 and spills < 0:
                spills = i
            litres[i] = min(litres[i], full[i])
        if spills >= 0:
            return step + 1, spills
    return MOST_STEPS, -1


@compiled
def settle(row: Row, litres: Array) -> int:
    """Steps, the rain over, until joined levels have met; −1 where they do not for long."""
    table, tall, base, full, _, a, b, end_a, end_b, passes, meets = row
    for step in range(2 * MOST_STEPS):
        apart = 0.0
        for n in range(len(a)):
            head = _head(_level_of(a[n], litres[a[n]], table, tall, base),
                         _level_of(b[n], litres[b[n]], table, tall, base), end_a[n], end_b[n])
            apart = max(apart, abs(head))
        if apart < LEVEL_M:
            return step
        for _ in range(LINK_PASSES):
            _level(litres, table, tall, base, a, b, end_a, end_b, passes, meets,
                   STEP_S / LINK_PASSES)
        for i in range(len(litres)):
            litres[i] = min(litres[i], full[i])
    return -1


@written_in
def _level(litres: Array, table: Array, tall: Array, base: Array, a: Ints, b: Ints, end_a: Array,
           end_b: Array, passes: Array, meets: Array, seconds: float) -> None:
    """Let every link run for so long, one after another; none past the levels' meeting half way."""
    for n in range(len(a)):
        here = _level_of(a[n], litres[a[n]], table, tall, base)
        there = _level_of(b[n], litres[b[n]], table, tall, base)
        head = _head(here, there, end_a[n], end_b[n])
        flow = passes[n] * math.sqrt(abs(head)) * seconds / 3600
        flow = min(flow, 0.5 * abs(here - there) * meets[n])
        flow = min(flow, litres[a[n]]) if head >= 0 else -min(flow, litres[b[n]])
        litres[a[n]] -= flow
        litres[b[n]] += flow


@written_in
def _level_of(i: int, litres: float, table: Array, tall: Array, base: Array) -> float:
    """The water's level in a vessel, on straight lines between its tabled dips."""
    step = tall[i] / (DIPS - 1)
    return float(base[i] + step * np.interp(litres, table[i], np.arange(DIPS)))


@written_in
def _head(level_a: float, level_b: float, end_a: float, end_b: float) -> float:
    """Head that drives water from a to b: neither side draws from under its own end."""
    if level_a >= level_b:
        return max(level_a - max(level_b, end_a), 0.0)
    return -max(level_b - max(level_a, end_b), 0.0)
