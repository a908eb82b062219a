"""The stores as the log has them: rain that was logged, the timer as it is set, dips between."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from euhydra.core import storage
from euhydra.core.garden.model import Store
from euhydra.core.log.entries import Entry
from euhydra.core.results.draws import taken_l_day
from euhydra.core.schedule.by_hand import HandWatering
from euhydra.core.storage.top_up import Backups, back_up_of, shared_l

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

Days = NDArray[np.float64]


@dataclass(frozen=True)
class Followed:
    """A bank followed day by day from its first dip on; litres, an array a day long each.

    ``level_l`` is at the day's end. What the timer wanted is ``given_l`` out of the bank and what
    filled in for it (``backups``: wells, taps, nobody). ``dips`` are (day from the first, litres);
    the level is put right by each, and ``put_right_l`` is the sum of what that added (less what it
    took), so that the balance closes.
    """

    bank: storage.Bank
    first: dt.date
    level_l: Days
    caught_l: Days
    given_l: Days
    backups: Backups
    spilled_l: Days
    leaked_l: Days
    dips: tuple[tuple[int, float], ...]
    put_right_l: float


def followed(r: Results, bank: storage.Bank, entries: Sequence[Entry], first: dt.date,
             last: dt.date) -> Followed | None:
    """A bank from its first dip in a span of days to the last of them; None where none is dipped.

    The rain is what was logged, each on its day; the timer is as it is set now, month by month,
    and what its zones were given beside that counts too.
    """
    stores = {store.id: store for store in bank.stores}
    dips = [(e.day, bank_l(bank, stores[e.about], e.value or 0.0)) for e in entries
            if e.kind == "dip" and e.about in stores and first <= e.day <= last]
    if not dips:
        return None
    start = min(day for day, _ in dips)
    days = (last - start).days + 1
    at = {(day - start).days: litres for day, litres in dips}
    per_mm = caught_l_mm(r, bank.stores[0])
    drawn = [drawn_l_day(r, bank.stores[0], month) for month in range(12)]
    beside = beside_plan(r, bank, entries)
    shares = [asked_l_day(r, bank, month) - drawn[month] for month in range(12)]
    fell = np.zeros(days)
    for e in entries:
        if e.kind == "rain" and start < e.day <= last:
            fell[(e.day - start).days] += e.value or 0.0
    level = at[0]
    levels, caught, gave, unmet, spills, shared, leaked = np.zeros((7, days))
    put_right = 0.0
    for i in range(days):
        month = (start + dt.timedelta(days=i)).month - 1
        wants, shared[i] = (drawn[month], shares[month]) if i else (0.0, 0.0)
        wants += beside(start + dt.timedelta(days=i)) if i else 0.0
        leaked[i] = min(bank.leak_l_day, level) if i else 0.0
        full = level - leaked[i] + fell[i] * per_mm
        spilled = max(full - wants - bank.usable_l, 0.0)
        given = min(wants, full)
        reckoned = full - given - spilled
        level = at.get(i, reckoned)
        put_right += level - reckoned
        levels[i], caught[i], gave[i] = level, fell[i] * per_mm, given
        unmet[i], spills[i] = wants - given, spilled
    filled_in = back_up_of(r.garden, r.banks, r.banks.of_store[bank.id], unmet, shared)
    return Followed(bank, start, levels, caught, gave, filled_in, spills, leaked,
                    tuple(sorted(at.items())), put_right)


def beside_plan(r: Results, bank: storage.Bank, entries: Sequence[Entry]
                ) -> Callable[[dt.date], float]:
    """Litres that a bank gave on a day over what timers and hands ask of it as they are set."""
    by_log, hands = _given_by_log(r, bank, entries), _logged_hands(r, bank, entries)

    def on(day: dt.date) -> float:
        return by_log.get(day, 0.0) - sum(hand.a_day_l(day.month - 1) for hand, first in hands
                                          if day >= first)
    return on


def _given_by_log(r: Results, bank: storage.Bank, entries: Sequence[Entry]
                  ) -> dict[dt.date, float]:
    """Litres by day that a bank gave beside its timers: to their zones, and to plots by hand."""
    sources = watered_from(r)
    stores = {store.id for store in bank.stores}
    found: dict[dt.date, float] = {}
    for e in entries:
        if e.kind == "water" and sources.get(e.about) in stores:
            found[e.day] = found.get(e.day, 0.0) + (e.value or 0.0)
    return found


def watered_from(r: Results) -> dict[str, str]:
    """The sources of timed zones, and of plots that are watered by hand, by their ids."""
    return {z.id: z.source for z in r.garden.timed_zones} | {
        plot: hand.source for plot, hand in r.schedule.by_hand.items()}


def _logged_hands(r: Results, bank: storage.Bank, entries: Sequence[Entry]
                  ) -> list[tuple[HandWatering, dt.date]]:
    """Who is watered by hand out of a bank and has it logged, with the first day of that."""
    stores = {store.id for store in bank.stores}
    return [(r.schedule.by_hand[plot], first) for plot, first in first_logged(entries).items()
            if plot in r.schedule.by_hand and r.schedule.by_hand[plot].source in stores]


def first_logged(entries: Sequence[Entry]) -> dict[str, dt.date]:
    """The first day on which the log has each plot or zone watered.

    From then on a hand waters as it is logged, and no more as its schedule has it.
    """
    found: dict[str, dt.date] = {}
    for e in entries:
        if e.kind == "water":
            found[e.about] = min(found.get(e.about, e.day), e.day)
    return found


def rain_mm(entries: Sequence[Entry], after: dt.date, until: dt.date) -> float:
    """Rain that was logged after a day and up to another."""
    return sum(e.value or 0.0 for e in entries if e.kind == "rain" and after < e.day <= until)


def drawn_l_day(r: Results, store: Store, month: int) -> float:
    """What the timer, set as it is, takes a day from a store's bank, wells' shares left out."""
    bank = r.banks.holding(store.id)
    asked = asked_l_day(r, bank, month)
    return asked - shared_l(r.garden, bank, asked)


def asked_l_day(r: Results, bank: storage.Bank, month: int) -> float:
    """What the timer, set as it is, asks a bank for a day."""
    return taken_l_day(r, {store.id for store in bank.stores}, month)


def caught_l_mm(r: Results, store: Store) -> float:
    """Litres that reach a store's bank for each mm of rain while it is in use, mean of years."""
    bank = r.banks.of_store[store.id]
    rain = float(r.weather.rain_mm[:, ~r.inflow.winters[bank]].sum())
    return float(r.inflow.by_bank_l[bank].sum()) / max(rain, 1e-9)


def dip_m(bank: storage.Bank, store: Store, litres: float) -> float:
    """The depth at which one of a bank's stores is dipped where so much usable water is there."""
    levels, held = bank.curve
    return float(np.interp(litres, held, levels)) - storage.base_z_m(store)


def bank_l(bank: storage.Bank, store: Store, dip_m: float) -> float:
    """Usable water of a bank whose shared level stands at a dip of one of its stores."""
    levels, litres = bank.curve
    return float(np.interp(storage.base_z_m(store) + dip_m, levels, litres))
