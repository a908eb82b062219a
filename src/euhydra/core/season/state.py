"""What a season runs on, as arrays, and what it leaves behind.

P plots, B banks, Y years, side by side. Litres unless a name says otherwise.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from euhydra.core.weather.water_year import in_water_years

Array = NDArray[np.float64]
THIRSTY, WILTS = 0.8, 0.5  # share of what it would drink that a crop gets, from memory
SAME = 1e-9  # litres no farther apart are the same


@dataclass(frozen=True)
class World:
    """Everything that does not change while the days run.

    ``bank`` is each plot's bank (−1: a tap feeds it), ``flow_l_h`` (P, 3) its flow with the last
    water, half and all of it, ``works`` the share of its water that reaches its driest quarter,
    ``minutes`` and ``runs`` (Z, Y, 365, 4) of each zone and ``zone`` each plot's; ``refilled`` is
    what a plot gets of a run over its flow, as lines fill and drain (``hydraulics.refilling``);
    ``always_on``
    rows drink from ``reservoir`` litres of their own. Of the ground (``demand.soil``) ``hold`` and
    ``caught`` are (P, 365), ``full`` (P,), ``ready`` and ``bare`` (P, Y, 365), as are ``use``,
    ``rain`` and ``grey``, the used water that is led to a plot. ``drained`` (Y, 365) is all
    used water that comes. The ground that a laundry waters stands among the plots (``washed``),
    and so does what is watered with cans or a hose (``carried``).
    ``grows`` (P, 365) are the days on which something grows, ``stuck`` are plots whose valve stays
    shut, and ``begins`` is the day on which a water year begins. A person fills a bank up in the
    morning when it stands under ``filled_at`` (B,) litres; 0: nobody does.
    Wells give ``well_day`` (W,) litres a day at the most, to the banks of ``well_to`` (well, bank):
    of each draw the share ``well_share`` at first, then what the stores have not. The last
    ``shafts`` of the banks hold nothing: a well feeds their lines itself.
    ``out`` (B, 365) are the days on which it is emptied and out of use for frost; ``leak``
    (B, Y, 365) litres that it loses in a day.
    """

    plots: tuple[str, ...]
    names: tuple[str, ...]
    bank: NDArray[np.intp]
    zone: NDArray[np.intp]
    flow_l_h: Array
    works: Array
    minutes: Array
    runs: Array
    refilled: Array
    always_on: NDArray[np.bool_]
    reservoir: Array
    hold: Array
    full: Array
    ready: Array
    use: Array
    bare: Array
    rain: Array
    caught: Array
    grey: Array
    drained: Array
    size: Array
    inflow: Array
    over_to: tuple[int, ...]
    feeds: tuple[tuple[int, int], ...]
    well_day: Array
    well_to: tuple[tuple[int, int], ...]
    well_share: Array
    tapped: NDArray[np.bool_]
    filled_at: Array
    leak: Array
    out: NDArray[np.bool_]
    grows: NDArray[np.bool_]
    stuck: NDArray[np.bool_]
    washed: frozenset[str] = frozenset()
    carried: frozenset[str] = frozenset()
    begins: int = 0
    shafts: int = 0

    @property
    def stored(self) -> NDArray[np.bool_]:
        """Which plots a store feeds: neither a tap, nor a well that feeds lines itself, (P,)."""
        return np.asarray((self.bank >= 0) & (self.bank < len(self.size) - self.shafts))

    def name_of(self, plot: str) -> str:
        """What a plot is called."""
        return self.names[self.plots.index(plot)]


@dataclass(frozen=True)
class Season:
    """Every day of the garden as it was set.

    (P, Y, 365): ``given`` to each plot, ``wasted`` of it past its roots, ``drunk`` by its crop,
    ``fed`` the least share of its thirst that a crop got in the day, ``lacking`` what the run
    would have given and no source had (of a float valve, what its row would have drunk of it),
    ``depletion`` and ``reservoir`` at day's end. (B, Y, 365):
    ``level`` at day's end, ``beyond`` what was asked of a bank and neither its stores nor a well's
    share of it gave, ``poured`` what a person filled in. (Y, 365): ``by_hand``, what plots got of
    that, ``emptied`` before the frost, ``leaked``, ``spilled``, ``well``, ``tap``, ``used`` water.
    ``start`` and ``end`` (B,) are the banks' levels before the first and after the last of all
    days.

    Days stand in calendar years; they ran in water years (``World.begins``), of which the last
    ends with the first days of the first calendar year.
    """

    world: World
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
    start: Array
    end: Array

    @property
    def years(self) -> int:
        """How many years were run."""
        return int(self.given.shape[1])

    def by_year(self, daily: NDArray[Any]) -> NDArray[Any]:
        """Days in the order they ran: (…, Y, 365) by water year, each from its first day."""
        return in_water_years(daily, self.world.begins)

    def in_year(self, daily: NDArray[Any], year: int) -> NDArray[Any]:
        """One water year by day of the calendar year, the first of January first, (…, 365)."""
        return np.roll(self.by_year(daily)[..., year, :], self.world.begins, axis=-1)

    @cached_property
    def asked(self) -> Array:
        """Litres that timer and float valves opened for, (P, Y, 365)."""
        return np.asarray(self.given - self.world.grey + self.lacking)

    @cached_property
    def asked_by_plot(self) -> Array:
        """The same of all days together, (P,)."""
        return np.asarray(self.asked.sum(axis=(1, 2)))

    @cached_property
    def rain(self) -> Array:
        """Litres of rain that the stores gave, (Y, 365)."""
        given = (self.given - self.world.grey).sum(axis=0) - self.filled_in
        return np.asarray(np.maximum(given, 0.0))

    @cached_property
    def filled_in(self) -> Array:
        """Litres that wells, taps and whoever fills a store by hand gave, (Y, 365)."""
        return np.asarray(self.well + self.tap + self.by_hand)

    @cached_property
    def over(self) -> Array:
        """Rain that ran over the rims of all stores, (Y, 365)."""
        drum = self.used - self.world.grey.sum(axis=0)
        return np.asarray(np.maximum(self.spilled - drum, 0.0))

    @cached_property
    def thirsty(self) -> NDArray[np.bool_]:
        """Days on which a plot got less than THIRSTY of what it would drink, (P, Y, 365)."""
        return np.asarray(self.fed < THIRSTY)

    @cached_property
    def thirsty_days(self) -> Array:
        """Such days a year, by plot and water year, (P, Y)."""
        return np.asarray(self.by_year(self.thirsty).sum(axis=2), dtype=float)

    @cached_property
    def short(self) -> NDArray[np.bool_]:
        """Days of the growing season from a watering not given in full to the next that is.

        (Y, 365), of any plot. Within the season of the plot: out of it nothing is short. Where a
        valve stays shut no watering is given.
        """
        asked, lacking = (self.by_year(x).reshape(len(x), -1) for x in (self.asked, self.lacking))
        failed = lacking > SAME * asked + SAME
        out = ~self.by_year(np.broadcast_to(self.world.grows[:, None], self.given.shape)).reshape(
            asked.shape)
        days = np.arange(asked.shape[1])
        last = np.maximum.accumulate(np.where((asked > SAME) | out, days, 0), axis=1)
        held = (np.take_along_axis(failed, last, axis=1) | self.world.stuck[:, None]) & ~out
        return np.asarray(np.roll(held.any(axis=0), self.world.begins).reshape(self.years, 365))

    @cached_property
    def short_days(self) -> NDArray[np.int64]:
        """Short days by water year, (Y,)."""
        return np.asarray(self.by_year(self.short).sum(axis=1))

    @cached_property
    def longest_dry_run(self) -> int:
        """The longest stretch of short days in all years."""
        return self.dry_run[1]

    @cached_property
    def dry_run(self) -> tuple[int, int]:
        """That stretch, the first of its length: its first day of all that ran, and its days."""
        return longest_run(self.by_year(self.short).ravel())

    @property
    def days_met(self) -> float:
        """The share of the days on which something grows that are not short."""
        grows = int(self.world.grows.any(axis=0).sum()) * self.years
        return 1 - float(self.short.sum()) / grows if grows else 1.0

    @cached_property
    def first_short(self) -> float | None:
        """Middle of the first short days, as a day of the calendar year from 0; None when seldom.

        Of those years that have one, and only when they are more than half.
        """
        short = self.by_year(self.short)
        firsts = np.argmax(short, axis=1)[short.any(axis=1)]
        if 2 * len(firsts) <= self.years:
            return None
        return float((np.median(firsts) + self.world.begins) % 365)

    @cached_property
    def rain_share(self) -> float:
        """Share that rain gave of all that was opened for; 1 where nothing was."""
        asked = float(self.asked.sum())
        return float(self.rain.sum()) / asked if asked > SAME else 1.0

    @cached_property
    def over_share(self) -> float:
        """Share of the rain that came that ran over; 0 where none came."""
        came = float(self.world.inflow.sum())
        return float(self.over.sum()) / came if came else 0.0

    @cached_property
    def typical_year(self) -> int:
        """The water year whose thirsty days, all plots together, are nearest their median."""
        days = self.thirsty_days.sum(axis=0)
        return int(np.argmin(np.abs(days - np.median(days))))

    def a_year(self, daily: Array) -> float:
        """Litres of a mean year."""
        return float(daily.sum()) / self.years

    @cached_property
    def ledger(self) -> dict[str, float]:
        """Litres of all years: what came, and start, is what went, and end."""
        return {"start": float(self.start.sum()), "rain": float(self.world.inflow.sum()),
                "well": float(self.well.sum()), "tap": float(self.tap.sum()),
                "carried": float(self.poured.sum()), "used": float(self.used.sum()),
                "given": float(self.given.sum()), "spilled": float(self.spilled.sum()),
                "emptied": float(self.emptied.sum()), "leaked": float(self.leaked.sum()),
                "end": float(self.end.sum())}


def longest_run(days: NDArray[np.bool_]) -> tuple[int, int]:
    """Where the most days in a row of those marked begin, and how many they are."""
    at = np.arange(1, len(days) + 1)
    runs = at - np.maximum.accumulate(np.where(days, 0, at))
    last = int(np.argmax(runs))
    return last + 1 - int(runs[last]), int(runs[last])
