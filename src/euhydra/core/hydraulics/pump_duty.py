"""Pumps at work: where one meets the lines, what its inlet has left, what it draws and needs."""

from __future__ import annotations

import math
from dataclasses import dataclass

from euhydra.core import storage
from euhydra.core.garden.model import Garden, Lift, Zone
from euhydra.core.hydraulics import surfaces, zone_flow
from euhydra.core.hydraulics.assemble import curve_points
from euhydra.core.hydraulics.pumps import (
    WATER_C,
    curve_of,
    most_flow_l_h,
    suction_left_m,
    water_power_w,
)
from euhydra.core.hydraulics.zone_flow import ZoneFlow
from euhydra.core.hydraulics.zone_pipes import NOTHING, Drinks, pipes_of
from euhydra.core.library import Library, PumpKind

MOST_HEAD_M = 35.0  # barbed drip fittings hold this without clamps, from memory
HOLDS_KPA = 170.0  # 25 psi, common practice
FULLEST = 0.95  # a pump run past this share of its greatest flow overheats, from memory
USABLE_BATTERY = 0.5  # of a battery's energy, so that it lasts; from memory
PANEL_WORKS = 0.7  # of a panel's rating, heat and wires off; from memory
SMALL_SHARE = 0.2  # a zone that draws less than this of a pump's flow makes its switch chatter
PRICE_KWH = 0.30  # made-up price book


@dataclass(frozen=True)
class Duty:
    """Where a pump meets a zone's lines, with its store at the last water.

    ``left_m`` is the head over vapour at its inlet (NPSH available), ``lift_m`` how high the inlet
    stands over the water, ``share`` the flow as a part of the most it can pass.
    """

    zone: str
    flow_l_h: float
    head_m: float
    lift_m: float
    suction_lost_m: float
    left_m: float
    share: float
    water_w: float


def duty(garden: Garden, library: Library, zone: Zone, flow: ZoneFlow) -> Duty | None:
    """The duty point in one zone; None where no pump stands at its head."""
    lift = garden.lift_on(zone.source)
    if lift is None:
        return None
    q, head = flow.solution.flow_l_h[lift.id], flow.solution.head_m
    gain = head[f"{lift.id}-outlet"] - head[f"{lift.id}-inlet"]
    inlet_z = storage.outlet_z_m(garden.store_of(zone.source)) + lift.over_outlet_m
    lost = flow.water_z_m - head[f"{lift.id}-inlet"]
    above = inlet_z - flow.water_z_m
    most = most_flow_l_h(curve_points(lift, library))
    return Duty(zone.id, q, gain, above, lost,
                suction_left_m(garden.site.altitude_m, WATER_C, above, lost), q / most,
                water_power_w(q, gain))


@dataclass(frozen=True)
class CurvePoints:
    """A pump's curve and what the lines ask of it, as (L/h, m) points."""

    pump: tuple[tuple[float, float], ...]
    system: tuple[tuple[float, float], ...]


def curves(garden: Garden, library: Library, zone: Zone, drinks: Drinks = NOTHING,
           steps: int = 9) -> CurvePoints:
    """The pump's curve, and the lines' with the store at its last water.

    The lines' curve is found by pushing them with water as high as each head.
    """
    lift = garden.lift_on(zone.source)
    if lift is None:
        return CurvePoints((), ())
    points = curve_points(lift, library)
    curve, most = curve_of(points), most_flow_l_h(points)
    pump = tuple((q, max(curve.gain_and_fall(q)[0], 0.0))
                 for q in (most * i / 24 for i in range(25)))
    bare = garden.model_copy(update={"lifts": tuple(x for x in garden.lifts if x is not lift)})
    low = surfaces.zone_levels(garden, zone)["low"]
    heads = [pump[0][1] * i / (steps - 1) for i in range(steps)]
    pushed = zone_flow.solve_levels(pipes_of(bare, zone, drinks), library,
                                    [low + head for head in heads])
    return CurvePoints(pump, tuple((flow.flow_l_h, head)
                                   for flow, head in zip(pushed, heads, strict=True)))


def needed_m(garden: Garden, library: Library, zone: Zone, wanted_m: float = 10.0,
             drinks: Drinks = NOTHING) -> tuple[float, float]:
    """Head in m that a pump must add for outlets at ``wanted_m``, and the flow in L/h at that.

    Reckoned by lifting the water: the zone at its lowest level with so much more.
    """
    bare = garden.model_copy(update={"lifts": ()})
    low, added = surfaces.zone_levels(bare, zone)["low"], wanted_m
    for _ in range(4):
        flow = zone_flow.solve_zone(bare, library, zone, low + added, drinks)
        added += wanted_m - min(o.head_m for o in flow.outlets)
    return added, flow.flow_l_h


def priming(lift: Lift, kind: PumpKind, vessel: str = "barrel") -> tuple[str, ...]:
    """The steps that start a pump of this kind, in order; ``vessel`` is what it draws from."""
    if kind.family == "submersible":
        return (f"Hang it a hand above the floor of the {vessel}, where silt does not reach it.",
                "See that its float swings free of the wall.",
                "Tip it under water until no bubble comes, then plug it in.")
    if lift.over_outlet_m < 0 and kind.family != "diaphragm":
        return (f"Open the {vessel} and let water run down into the pump until it comes out above.",
                "Close what you opened, then plug it in.")
    if kind.self_primes == "yes":
        return (f"Open the {vessel} and the farthest outlet.",
                "Switch it on: it draws the water up by itself within a minute.",
                "If it does not, a joint of the suction hose lets in air.")
    return (f"Open the {vessel}.", "Fill the pump and its suction hose with water to the brim.",
            "Close the filling plug, open an outlet, then plug it in.",
            "Switch off at once if no water comes: it must never run dry.")


@dataclass(frozen=True)
class Energy:
    """What a pump draws on the thirstiest day, and what keeps it going.

    ``battery_wh`` is the battery for ``days`` without sun or mains, ``panel_w`` the panel that
    makes up the day's draw; ``lasts_days`` how long the battery there is would last.
    """

    hours: float
    wh_day: float
    cost_year: float
    battery_wh: float
    panel_w: float
    lasts_days: float


def watts_of(lift: Lift, kind: PumpKind) -> float:
    """What a pump draws, W: as it was measured, else as its kind does."""
    return lift.watts or kind.watts


def energy(lift: Lift, kind: PumpKind, hours_day: float, hours_year: float, sun_h: float,
           days: float = 3.0) -> Energy:
    """A pump's energy from its running hours and the hours of full sun on such a day."""
    watts = watts_of(lift, kind)
    wh = watts * hours_day
    return Energy(hours_day, wh, watts * hours_year / 1000 * PRICE_KWH,
                  wh * days / USABLE_BATTERY, wh / max(sun_h, 0.1) / PANEL_WORKS,
                  lift.battery_wh * USABLE_BATTERY / wh if wh > 0 else math.inf)
