"""A zone's flow and how fast it declines, by jug and meter since its lines were seen to."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from euhydra.core.garden.model import Zone
from euhydra.core.hydraulics.zone_flow import between
from euhydra.core.log.entries import Entry
from euhydra.core.log.levels import bank_l
from euhydra.core.results.results import Results

READ_ERROR = 0.1  # of a jug or a meter, one standard deviation, from memory
FLOW_SPREAD, FALL, FALL_SPREAD = 0.5, 0.02, 0.03  # of logarithms, before any reading
LEAST_READ, LEAST_DAYS = 3, 14  # readings, and days between them, before a decline is told
NEAR_DAYS, BETWEEN_DIPS = 10, 0.8  # a dip so near tells the level but for that share of it
Z90 = 1.645
Array = NDArray[np.float64]


@dataclass(frozen=True)
class FlowFit:
    """A zone's flow just after it was seen to, L/h with half the water, and what it loses a week.

    Each with its 90 % range; ``falls`` None where there is too little to tell. ``first`` and
    ``last`` are the days of its ``readings``.
    """

    zone: Zone
    flow: tuple[float, float, float]
    falls: tuple[float, float, float] | None
    readings: int
    first: dt.date
    last: dt.date


def fit_flow(r: Results, zone: Zone, entries: Sequence[Entry], today: dt.date) -> FlowFit | None:
    """Fit a zone's readings; None without any, or where nothing comes by reckoning.

    Linear least squares of ln(read / reckoned at that level) on weeks since the filter was rinsed
    or a line mended, with normal priors: exact, since errors of reading are taken to be so many
    per cent.
    """
    read = [e for e in entries if e.kind == "flow" and e.about == zone.id and e.value
            and e.day <= today]
    half = r.flows[zone.id]["half"].flow_l_h
    if not read or half <= 0:
        return None
    seen_to = sorted(e.day for e in entries if e.kind in ("filter", "repair")
                     and e.about in (zone.id, *zone.plots))
    weeks = np.array([_weeks(e.day, seen_to, read[0].day) for e in read])
    low, _, full = (r.flows[zone.id][x].flow_l_h for x in ("low", "half", "full"))
    levels, near = _levels(r, zone, entries, [e.day for e in read])
    off = np.log([(e.value or 0.0) / max(between(low, half, full, share), half / 20)
                  for e, share in zip(read, levels.tolist(), strict=True)])
    differs = np.log(max(full, 1e-9) / max(low, full / 20)) / np.sqrt(12)  # a level all unknown
    error = np.hypot(READ_ERROR, differs * np.where(near, BETWEEN_DIPS, 1.0))
    rows = np.column_stack([np.ones_like(weeks), -weeks]) / error[:, None]
    spread = np.linalg.inv(rows.T @ rows + np.diag([FLOW_SPREAD**-2, FALL_SPREAD**-2]))
    mean = spread @ (rows.T @ (off / error) + np.array([0.0, FALL / FALL_SPREAD**2]))
    sd = np.sqrt(np.diag(spread))
    sd[0] = np.hypot(sd[0], differs * float((~near).mean()))  # unknown alike in all of them
    days = (max(e.day for e in read) - min(e.day for e in read)).days
    tells = (len(read) >= LEAST_READ and days >= LEAST_DAYS and float(np.ptp(weeks)) > 1
             and sd[1] < FALL_SPREAD / 1.5)
    low, middle, high = (float(mean[1] + z * sd[1]) for z in (-Z90, 0, Z90))
    return FlowFit(
        zone, _three(half, float(mean[0]), float(sd[0])),
        (_share(middle), _share(low), _share(high)) if tells else None, len(read),
        min(e.day for e in read), max(e.day for e in read))


def _three(half: float, mean: float, sd: float) -> tuple[float, float, float]:
    middle, low, high = (half * float(np.exp(mean + z * sd)) for z in (0, -Z90, Z90))
    return middle, low, high


def _share(fall: float) -> float:
    """What a fall of a logarithm is in a share; nothing rises by itself."""
    return max(1 - float(np.exp(-fall)), 0.0)


def _weeks(day: dt.date, seen_to: Sequence[dt.date], first: dt.date) -> float:
    """Weeks since the lines were last seen to before a day, else since the first reading."""
    before = [d for d in seen_to if d <= day]
    return (day - (max(before) if before else min(first, day))).days / 7


def _levels(r: Results, zone: Zone, entries: Sequence[Entry], days: Sequence[dt.date]
            ) -> tuple[Array, NDArray[np.bool_]]:
    """What share of its water its store held on each day, between its dips, and whether a dip was
    near enough to tell; a half where none was.
    """
    half, none = np.full(len(days), 0.5), np.zeros(len(days), dtype=bool)
    if zone.source not in r.banks.of_store:
        return half, ~none
    bank = r.banks.holding(zone.source)
    stores = {store.id: store for store in bank.stores}
    dips = sorted((e.day.toordinal(), bank_l(bank, stores[e.about], e.value or 0.0))
                  for e in entries if e.kind == "dip" and e.about in stores)
    if not dips or bank.usable_l <= 0:
        return half, none
    at, litres = np.array(dips).T
    asked = np.array([day.toordinal() for day in days], dtype=float)
    near = np.abs(asked[:, None] - at[None]).min(axis=1) <= NEAR_DAYS
    told = np.clip(np.interp(asked, at, litres) / bank.usable_l, 0, 1)
    return np.where(near, told, 0.5), near
