"""Feed put into a store: how much, from when, and when its water reaches the plants."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from euhydra.core.garden.base import day_of_year, month_day
from euhydra.core.garden.model import Garden, Store, Wicking, Zone
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.library import Library
from euhydra.core.storage import bank_of


@dataclass(frozen=True)
class Reaches:
    """When feed reaches a zone's last outlet: minutes of its run, or days as its rows drink.

    ``pipe_l`` is what stands in its pipes and has to pass first.
    """

    zone: Zone
    pipe_l: float
    minutes: float
    days: float


@dataclass(frozen=True)
class Feed:
    """Feed for a full store: its own ``litres`` take ``dose_ml``, from ``fruit_sets`` on, if any.

    ``reaches`` has a zone each that the store's bank feeds.
    """

    store: Store
    litres: float
    dose_ml: float
    fruit_sets: str
    reaches: tuple[Reaches, ...]


def feeds(garden: Garden, library: Library, flows: Flows, drunk_l_day: Mapping[str, float]
          ) -> tuple[Feed, ...]:
    """Every store and drum that takes feed. ``drunk_l_day`` is a summer's day by plot."""
    return tuple(Feed(
        store, litres := _held_l(garden, store), store.feed_ml_l * litres,
        fruit_sets(garden, library, store.id),
        tuple(_reaches(garden, flows, zone, drunk_l_day) for zone in _zones(garden, store.id)))
        for store in garden.vessels if store.feed_ml_l > 0)


def _held_l(garden: Garden, store: Store) -> float:
    """What a store holds at its bank's fullest."""
    bank = bank_of(garden, store.id)
    return next(litres for each, litres in zip(bank.stores, bank.held_l(bank.full_z_m), strict=True)
                if each.id == store.id)


def _zones(garden: Garden, store: str) -> list[Zone]:
    """The zones that a store's bank feeds: what stands in one of its stores is in all."""
    alike = {each.id for each in bank_of(garden, store).stores}
    return [zone for zone in garden.zones if zone.source in alike]


def _reaches(garden: Garden, flows: Flows, zone: Zone, drunk_l_day: Mapping[str, float]
             ) -> Reaches:
    litres = flows[zone.id].pipe_litres
    rows = [p for p in zone.plots if isinstance(garden.plot(p), Wicking)]
    drunk = sum(drunk_l_day[p] for p in rows)
    return Reaches(zone, litres, 0.0 if rows else flows.fill_minutes(zone),
                   litres / drunk if drunk > 0 else 0.0)


def fruit_sets(garden: Garden, library: Library, store: str) -> str:
    """The first month-day on which a fruiting crop that a store feeds is full grown; "" for none.

    By then, at the start of its middle stage, fruit sets: from memory.
    """
    days = [day_of_year(planting.planted) + crop.days_ini + crop.days_dev
            for zone in _zones(garden, store) for plot in zone.plots
            for planting in garden.plot(plot).plantings
            if (crop := library.crops.get(planting.crop)) and crop.thirst == "fruiting"]
    return month_day(int(min(days))) if days else ""
