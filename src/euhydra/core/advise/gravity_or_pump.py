"""Gravity alone against a pump, worked on the same garden: what each gives, costs and risks."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from euhydra.core.advise.pump_choice import suits
from euhydra.core.editing.edits import Edit, Remove, Together
from euhydra.core.garden.model import Lift, Store, Zone
from euhydra.core.hydraulics import pump_duty
from euhydra.core.hydraulics.pump_duty import Energy
from euhydra.core.schedule import timing
from euhydra.core.statements.figures import Amount, Phrase, say
from euhydra.core.supply.greywater import week_l
from euhydra.core.weather.eto import extraterrestrial_radiation, radiation_from_temperatures
from euhydra.core.weather.generator import MONTH_OF_DAY

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

CHECK_PRICE, DEVICE_PRICE = 5.0, 35.0  # made-up price book: check valve, residual-current device


@dataclass(frozen=True)
class Side:
    """One school on one store's zones, with the last water.

    ``head_m`` is at the worst outlet and ``spare_m`` what it has over its need; ``hours_day`` runs
    the zones one after another for the thirstiest month's day; ``buys`` from an invented price
    book; ``fails`` what can go wrong.
    """

    key: str
    after: Results
    edit: Edit | None
    reaches: bool
    opens: bool
    head_m: float
    spare_m: float
    flow_l_h: float
    evenness: float
    hours_day: float
    buys: float
    energy: Energy | None
    fails: tuple[Phrase, ...]

    @property
    def works(self) -> bool:
        """Whether every outlet gets its water through a valve that opens."""
        return self.reaches and self.opens


def sides(r: Results, store: Store) -> tuple[Side, ...]:
    """Gravity, and the garden's own pump or the cheapest that serves; pump alone if none does."""
    lift = r.garden.lift_on(store.id)
    if lift is not None:
        return (_side("gravity", r, store, Remove(f"lifts/{lift.id}")), _side("pump", r, store))
    fit = suits(r.garden, r.library, store, r.demand.drinks)
    found = [_side("gravity", r, store)]
    return (*found, _side("pump", r, store, fit)) if fit else tuple(found)


def _side(key: str, r: Results, store: Store, edit: Edit | None = None) -> Side:
    after = r.after(edit) if edit else r
    zones = [z for z in after.garden.zones if z.source == store.id]
    low = [after.flows[z.id]["low"] for z in zones]
    worst = min(low, key=lambda f: f.worst.head_m - f.worst.least_head_m)
    lift = after.garden.lift_on(store.id)
    return Side(key, after, edit, all(f.short_m <= 0 for f in low),
                not any(z.id in after.flows.shut for z in zones),
                worst.worst.head_m, worst.worst.head_m - worst.worst.least_head_m,
                sum(f.flow_l_h for f in low), min(f.evenness for f in low),
                hours_of(after, zones, after.demand.peak_month), _buys(after, lift),
                _energy(after, lift, zones) if lift else None,
                tuple(_fails(after, lift, zones)))


def hours_of(r: Results, zones: list[Zone], month: int) -> float:
    """Hours a day that the zones run, one after another, at the flow of half-full barrels.

    Of what a timer or a hand opens by what their plots need, of a drum's by what comes into it.
    """
    total = 0.0
    for lines in (r.drums[z.source] for z in zones if z.source in r.drums):
        rate = lines.months[month].leaves.half_l_h
        total += week_l(lines.drain) / 7 / rate if rate > 1e-6 else 0.0
    for zone in (z for z in zones if z.timed):
        half = r.flows[zone.id]["half"]
        need = sum(float(r.demand.thirsts[p].net_by_month[month]) for p in zone.plots)
        share = timing.efficiency(half)
        total += need / share / half.flow_l_h if half.flow_l_h > 1e-6 and share > 0 else (
            math.inf if need > 0 else 0.0)
    return total


def _buys(r: Results, lift: Lift | None) -> float:
    if lift is None:
        return 0.0
    held = r.library.fittings["regulator"].price if lift.regulator_kpa > 0 else 0.0
    device = DEVICE_PRICE if lift.power == "mains" else 0.0
    return r.library.pumps[lift.kind].price + CHECK_PRICE + device + held


def sun_hours(r: Results, month: int) -> float:
    """Hours of full sun (1 kW/m²) a day in a month, from its temperatures."""
    days, site = np.flatnonzero(month == MONTH_OF_DAY), r.garden.site
    ra = extraterrestrial_radiation(site.latitude_deg, days + 1).mean()
    rs = radiation_from_temperatures(site.climate.tmin_c[month], site.climate.tmax_c[month], ra,
                                     site.altitude_m)
    return float(rs) / 3.6


def _energy(r: Results, lift: Lift, zones: list[Zone]) -> Energy:
    month = r.demand.peak_month
    year = sum(hours_of(r, zones, m) * days for m, days in enumerate(
        (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)))
    return pump_duty.energy(lift, r.library.pumps[lift.kind], hours_of(r, zones, month), year,
                          sun_hours(r, month))


def _fails(r: Results, lift: Lift | None, zones: list[Zone]) -> list[Phrase]:
    if lift is None:
        halves = [r.flows[z.id]["half"] for z in zones]
        dirty = [r.flows[z.id].dirty.worst for z in zones]
        spare = min((o.head_m - o.least_head_m for o in dirty), default=0.0)
        found = [say("the filter: half blocked it leaves {h} to spare" if spare >= 0 else
                     "the filter: half blocked it leaves the weakest outlet {h} short",
                     h=Amount(abs(spare), "head", 2))]
        drop = min((r.flows[z.id]["low"].flow_l_h / f.flow_l_h for z, f in zip(
            zones, halves, strict=True) if f.flow_l_h > 0), default=1.0)
        if drop < 0.8:
            found.append(say(f"the flow, which fades to {{x}} as the {r.garden.vessel}s empty",
                             x=Amount(drop, "share")))
        return [*found, Phrase("nothing electric")]
    kind = r.library.pumps[lift.kind]
    return [Phrase(f"the pump: {kind.fails}"),
            Phrase("power, on the day you are away") if lift.power == "mains" else
            Phrase("a flat battery"), Phrase("a split hose, which it goes on feeding")]


def choose(edit: Edit | None, *more: Edit) -> Edit | None:
    """An edit with others after it."""
    edits = tuple(e for e in (edit, *more) if e is not None)
    return Together(edits) if len(edits) > 1 else next(iter(edits), None)
