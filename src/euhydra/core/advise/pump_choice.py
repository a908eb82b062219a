"""Which pump of the trade would serve a store."""

from __future__ import annotations

from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.garden.model import Garden, Store
from euhydra.core.hydraulics import surfaces, zone_flow
from euhydra.core.hydraulics.pump_duty import FULLEST, HOLDS_KPA, MOST_HEAD_M, duty
from euhydra.core.hydraulics.zone_pipes import NOTHING, Drinks
from euhydra.core.library import Library
from euhydra.core.units import pressure_kpa


def suits(garden: Garden, library: Library, store: Store, drinks: Drinks = NOTHING
          ) -> FitPump | None:
    """The cheapest pump that serves every zone of a store with its last water; None if none does.

    A regulator goes with one that would burst the fittings.
    """
    for kind in sorted(library.pumps.values(), key=lambda p: p.price):
        for held in (0.0, HOLDS_KPA):
            fit = FitPump(store.id, kind.key, held)
            served = _served(fit.apply(garden, library), library, store, drinks)
            if served == "yes":
                return fit
            if served == "no":
                break
    return None


def _served(garden: Garden, library: Library, store: Store, drinks: Drinks) -> str:
    """Whether a pump serves all zones of its store: yes, no, or not without bursting something."""
    lift, burst = garden.lift_on(store.id), False
    for zone in (z for z in garden.zones if z.source == store.id):
        low = surfaces.zone_levels(garden, zone)["low"]
        flow = zone_flow.solve_zone(garden, library, zone, low, drinks)
        at = duty(garden, library, zone, flow)
        if lift is None or at is None or flow.short_m > 0 or at.share > FULLEST or (
                at.left_m < library.pumps[lift.kind].needs_m) or (
                zone.timed and pressure_kpa(at.head_m) < library.timers[
                    garden.timer_kind(zone)].opens_kpa):
            return "no"
        burst = burst or max(o.head_m for o in flow.outlets) > MOST_HEAD_M
    return "burst" if burst else "yes"
