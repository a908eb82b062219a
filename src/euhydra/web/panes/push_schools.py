"""Gravity and pump side by side."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from euhydra.core.advise.gravity_or_pump import Side, sides
from euhydra.core.garden.model import Store
from euhydra.core.hydraulics import pump_duty
from euhydra.core.stations.worst import pushed_by
from euhydra.web import charts
from euhydra.web.panes.base import Form, Pane, Table, bar
from euhydra.web.panes.push import chosen_store
from euhydra.web.sheet import Sheet


@dataclass(frozen=True)
class School:
    """Gravity or a pump: its figures, whether it ``works``, what can fail."""

    key: str
    title: str
    works: bool
    verdict: str
    rows: Sequence[tuple[str, str]]
    now: bool
    fails: Sequence[str]
    kind: str
    fit: bool


@dataclass(frozen=True)
class Schools(Form):
    """Gravity and pump side by side, for a store."""

    template = "_schools.html"
    sides: Sequence[School]
    store: Store


def schools(sheet: Sheet) -> list[Pane]:
    """Gravity and pump side by side, the pump's curve, and its fields."""
    store, links = chosen_store(sheet, f"/g/{sheet.garden.id}/push?view=schools")
    if store is None:
        zones = sheet.garden.zones
        if all(sheet.garden.drum_of(zone.source) for zone in zones):
            return [Pane(words="Here a drum alone feeds lines. Whether it empties fast enough by "
                               "gravity, or wants a float pump, stands on Catch with the drum.")]
        who = pushed_by(sheet.garden, zones)
        return [Pane(words=f"{who} feeds these lines straight: its own pressure pushes them. With "
                           "a store, gravity and pump would stand here side by side.")]
    both = sides(sheet.assessment, store)
    lift = sheet.garden.lift_on(store.id)
    panes = [*links, Pane(form=Schools([
        _card(sheet, side, store) for side in both], store))]
    pumped = next((s for s in both if s.key == "pump"), None)
    if pumped is None:
        panes.append(Pane(words="No pump in the table serves every zone of this store while it is "
                                "nearly empty. Split a zone, or type a stronger pump's own curve."))
    else:
        panes.append(Pane(chart=charts.duty_curves(sheet, pumped.after, store)))
        panes.append(Pane(twin=True, table=_duty_table(sheet, pumped, store)))
    if lift is not None:
        panes.append(bar(sheet, *((f"lifts/{lift.id}/{key}", lift.name) for key in (
            "kind", "over_outlet_m", "suction_m", "suction_mm", "reserve_m", "control", "power",
            "points"))))
        panes.append(Pane(remove=((f"lifts/{lift.id}", f"Take {lift.name.lower()} away"),)))
    else:
        panes.append(Pane(add=(("pump", "Add a pump"),)))
    return panes


def _card(sheet: Sheet, side: Side, store: Store) -> School:
    lift = side.after.garden.lift_on(store.id)
    show = sheet.show
    rows = [(f"weakest outlet, {sheet.garden.vessel} nearly empty", show(side.head_m, "head")),
            ("over its need", show(side.spare_m, "head")),
            (f"all zones, {sheet.garden.vessel} nearly empty", show(side.flow_l_h, "flow")),
            ("evenness, worst zone", show(side.evenness, "share")),
            ("a day's water runs", show(side.hours_day, "hours")),
            ("to buy, made-up prices", show(side.buys, "money"))]
    if side.energy is not None:
        rows += [("energy a day", show(side.energy.wh_day, "energy")),
                 ("power in a year", show(side.energy.cost_year, "money")),
                 ("battery for three days", show(side.energy.battery_wh, "energy")),
                 ("or a panel of", show(side.energy.panel_w, "power"))]
    else:
        rows += [("energy a day", "none"), ("power in a year", "none")]
    kind = side.after.library.pumps[lift.kind] if lift else None
    verdict = ("works" if side.works else "the timer's valve does not open" if side.reaches
               else "falls short")
    return School(side.key, kind.name if kind else "Gravity alone", side.works, verdict, rows,
                  now=side.edit is None, fails=[p.show(sheet.system) for p in side.fails],
                  kind=lift.kind if lift else "",
                  fit=side.key == "pump" and side.edit is not None)


def _duty_table(sheet: Sheet, side: Side, store: Store) -> Table:
    rows = []
    for zone in (z for z in side.after.garden.zones if z.source == store.id):
        at = pump_duty.duty(side.after.garden, side.after.library, zone,
                          side.after.flows[zone.id]["low"])
        if at is not None:
            rows.append((zone.name, sheet.show(at.flow_l_h, "flow"), sheet.show(at.head_m, "head"),
                         sheet.show(at.share, "share"), sheet.show(at.water_w, "power"),
                         sheet.show(at.lift_m, "length"), sheet.show(at.left_m, "head")))
    return Table(f"The pump's duty in each zone, {sheet.garden.vessel} nearly empty", (
        "Zone", "Flow", "Adds", "Of its most", "Into the water", "Inlet over water",
        "Left at its inlet"), tuple(rows), frozenset(range(1, 7)))
