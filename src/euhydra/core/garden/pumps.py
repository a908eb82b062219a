"""Pumps: what lifts the water of a store into the lines."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from euhydra.core.garden.base import Id, Part, Point, Thing, measure, pick, refer
from euhydra.core.garden.pump_curves import BadCurve, check_curve


class CurvePoint(Part):
    """A point of a pump's curve: the head it adds at a flow."""

    flow_l_h: float = measure("flow", "flow", 0, 50000)
    head_m: float = measure("head", "lift", 0, 120)


class Lift(Thing):
    """A pump that all lines of a store, or of a drain's drum, hang on.

    ``points`` is a curve of one's own; empty, the kind's counts. ``over_outlet_m`` is its inlet's
    height over the store's outlet, ``reserve_m`` the water it leaves over the intake.
    """

    at: Point
    draws_from: Id = refer("draws from", "vessels")
    kind: str = pick("pump", "pumps", "barrel")
    points: tuple[CurvePoint, ...] = Field((), max_length=12,
                                           title="its curve, or two bucket tests",
                                           json_schema_extra={"kind": "curve"})
    over_outlet_m: float = measure("inlet above the outlet", "length", -5, 9, 0.0)
    suction_m: float = measure("suction hose", "length", 0, 30, 1.0)
    suction_mm: float = measure("suction bore", "bore", 6, 60, 19.0)
    reserve_m: float = measure("water left over the intake", "small", 0.02, 1, 0.1)
    regulator_kpa: float = measure("regulator holds (0: none)", "pressure", 0, 600, 0.0)
    control: Literal["float", "timer", "pressure-switch", "hand"] = Field(
        "timer", title="started by")
    watts: float = measure("power it draws, measured (0: as its kind)", "power", 0, 5000, 0.0)
    power: Literal["mains", "battery", "panel"] = Field("mains", title="power")
    battery_wh: float = measure("battery", "energy", 0, 20000, 0.0)
    panel_w: float = measure("panel", "power", 0, 5000, 0.0)
    residual_current: bool = Field(True, title="behind a residual-current device")

    @model_validator(mode="after")
    def _curve_is_one(self) -> Lift:
        if self.points:
            try:
                check_curve([(p.flow_l_h, p.head_m) for p in self.points])
            except BadCurve as error:
                raise ValueError(f"{self.name}: {error}") from None
        return self
