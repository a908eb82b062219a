"""Banks: stores whose levels meet through links and siphons, and so behave as one.

Water in a bank stands at one level wherever it is above a joint's ends. It rises to the lowest
overflow among its stores; what stands in a store under the joint's ends, or under the outlet that
the lines draw from, does not come out.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from euhydra.core.garden.model import Garden, Joint, Store
from euhydra.core.garden.store_links import onward, shared
from euhydra.core.storage.vessel import (
    base_z_m,
    full_z_m,
    outlet_z_m,
    total_l,
    volume_at,
)

CURVE_POINTS = 241


@dataclass(frozen=True)
class Bank:
    """Stores that share a level. ``ends_m`` is the height of the joint's end over each base.

    ``outlet_z_m`` is the level of the lowest outlet that lines draw from.
    """

    stores: tuple[Store, ...]
    ends_m: tuple[float, ...]
    outlet_z_m: float

    @property
    def id(self) -> str:
        """That of its first store."""
        return self.stores[0].id

    @property
    def name(self) -> str:
        """The names of its stores, joined."""
        names = [store.name for store in self.stores]
        return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"

    @cached_property
    def full_z_m(self) -> float:
        """The level at which the bank overflows: the lowest overflow of its stores.

        A store whose base stands above that only ever holds what the others let it.
        """
        return min(full_z_m(store) for store in self.stores)

    def held_l(self, z_m: float) -> tuple[float, ...]:
        """Litres in each store when the bank has settled at a level.

        A store drains through its joint no lower than the joint's end; under that it keeps its
        water. At the bank's lowest the joints' ends, or the bases, are what is left.
        """
        return tuple(store.count * float(volume_at(store, max(z_m - base_z_m(store), end)))
                     for store, end in zip(self.stores, self.ends_m, strict=True))

    @property
    def capacity_l(self) -> float:
        """All the water the bank holds at its fullest."""
        return sum(self.held_l(self.full_z_m))

    @cached_property
    def usable_l(self) -> float:
        """What comes out at the outlet between the fullest level and the lowest."""
        return max(self.capacity_l - sum(self.held_l(self.outlet_z_m)), 0.0)

    @property
    def frost_proof(self) -> bool:
        """Whether it may stay full through the winter: one of its stores is buried or indoors."""
        return any(store.buried or store.indoors for store in self.stores)

    @property
    def filled_at_l(self) -> float:
        """Usable litres left at which a person fills it up; 0 where nobody does."""
        return max((s.refill_at for s in self.stores if s.hand_filled), default=0.0) * self.usable_l

    @property
    def leak_l_day(self) -> float:
        """What its stores lose a day."""
        return sum(store.leak_l_day for store in self.stores)

    @property
    def idle_l(self) -> float:
        """Room in its stores that never fills, since another overflows first."""
        return max(sum(total_l(store) for store in self.stores) - self.capacity_l, 0.0)

    def level_z_m(self, usable_l: float) -> float:
        """The shared level when so much usable water is left."""
        levels, litres = self.curve
        return float(np.interp(usable_l, litres, levels))

    @cached_property
    def curve(self) -> tuple[np.ndarray, np.ndarray]:
        """Shared levels, m, and the usable water left at each, L; both rising."""
        low, high = min(self.outlet_z_m, self.full_z_m), self.full_z_m
        bends = [z for store, end in zip(self.stores, self.ends_m, strict=True)
                 for z in (base_z_m(store) + end, full_z_m(store)) if low < z < high]
        levels = np.unique(np.concatenate([np.linspace(low, high, CURVE_POINTS), bends]))
        litres = np.zeros_like(levels)
        for store, end in zip(self.stores, self.ends_m, strict=True):
            litres += store.count * volume_at(store, np.maximum(levels - base_z_m(store), end))
        return levels, litres - litres[0]


@dataclass(frozen=True)
class Banks:
    """All banks of a garden in the order water runs: those that spill come before those below.

    ``over_to`` is the bank that each spills into (−1: out of the garden's stores); ``feeds`` are
    (from, to) pairs of banks with a float valve between.
    """

    banks: tuple[Bank, ...]
    of_store: dict[str, int]
    over_to: tuple[int, ...]
    feeds: tuple[tuple[int, int], ...]

    def holding(self, store_id: str) -> Bank:
        """The bank that a store belongs to."""
        return self.banks[self.of_store[store_id]]


def banks_of(garden: Garden) -> Banks:
    """The garden's stores as banks, with where each overflows and what feeds what."""
    return _banks(garden.stores, garden.joints, frozenset(drawn_from(garden)))


@lru_cache(maxsize=64)
def _banks(stores: tuple[Store, ...], joints: tuple[Joint, ...], drawn: frozenset[str]) -> Banks:
    first = shared([store.id for store in stores], joints)
    over, fed = (onward(first, joints, kind) for kind in ("overflow", "float"))
    order = _downstream(list(dict.fromkeys(first.values())), over)
    at = {bank: i for i, bank in enumerate(order)}
    return Banks(
        banks=tuple(_bank([s for s in stores if first[s.id] == bank], joints, drawn)
                    for bank in order),
        of_store={store: at[bank] for store, bank in first.items()},
        over_to=tuple(at[over[bank][0]] if bank in over else -1 for bank in order),
        feeds=tuple((at[a], at[b]) for a, to in fed.items() for b in to))


def drawn_from(garden: Garden) -> set[str]:
    """Ids of the stores that a plot draws from."""
    return {garden.source_of(plot) for plot in garden.plots} & {s.id for s in garden.stores}


def _bank(stores: list[Store], joints: tuple[Joint, ...], drawn: frozenset[str]) -> Bank:
    ids = {store.id for store in stores}
    ends = []
    for store in stores:
        own = [joint.end_m for joint in joints if joint.kind in ("link", "siphon")
               and store.id in (joint.a, joint.b) and {joint.a, joint.b} <= ids]
        ends.append(min(own, default=0.0))
    used = [store for store in stores if store.id in drawn]
    lowest = min(outlet_z_m(store) for store in used or stores)
    # A store that lines draw from gives all above its own outlet, whatever its joints leave.
    ends = [min(end, store.outlet_m) if store in used else end
            for store, end in zip(stores, ends, strict=True)]
    return Bank(tuple(stores), tuple(ends), lowest)


def _downstream(banks: list[str], over: dict[str, list[str]]) -> list[str]:
    """Banks so that each comes before the one it spills into; else in the order of the stores."""
    order: list[str] = []
    waiting = list(banks)
    while waiting:
        below = {over[bank][0] for bank in waiting if bank in over}
        ready = next(bank for bank in waiting if bank not in below)
        order.append(ready)
        waiting.remove(ready)
    return order
