"""Lay the lines: from each source along headers to the rows, pots and trees of every plot."""

from __future__ import annotations

from typing import cast

from euhydra.core import storage
from euhydra.core.garden.model import AnyPlot, Bed, Dripper, Garden, Line, Node, Zone
from euhydra.core.layout import beds, containers, routes
from euhydra.core.layout.containers import drippers_in
from euhydra.core.layout.coupled import coupled, in_turn
from euhydra.core.layout.heads import Hanging, hanging_on
from euhydra.core.layout.rows import (
    Run,
    dripper_spacing_m,
    joined_as,
    program_rows,
    rows_in,
    rows_of,
)
from euhydra.core.layout.work import LAST, Work, stem
from euhydra.core.layout.zoning import outlet_z_m, within_limits, zones_for
from euhydra.core.library import Library
from euhydra.core.terrain import elevation, geometry
from euhydra.core.terrain.geometry import XY

__all__ = ["dripper_spacing_m", "drippers_in", "gates_of", "lay", "pieces",
           "program_rows", "rows_in", "rows_of"]


def lay(garden: Garden, library: Library) -> Garden:
    """The garden with its zones made and every line laid anew. Laying twice changes nothing.

    What was laid by hand lies where the hand put it: rows and drippers of a plot, the places a
    zone is led through, fittings on a line.
    """
    laid = _laid(garden, library, zones_for(garden, library))
    zones = within_limits(garden, laid, library)
    return laid if len(zones) == len(laid.zones) else _laid(garden, library, zones)


def _laid(garden: Garden, library: Library, zones: tuple[Zone, ...]) -> Garden:
    """The garden with every line of these zones laid."""
    work = Work(garden, library)
    gates = {plot.id: gates_of(plot, library) for plot in garden.plots}
    land = routes.ground_of(garden, [
        *(p for places in gates.values() for p in places),
        *((v.at.x_m, v.at.y_m) for z in zones for v in z.vias),
        *(_source(garden, z)[0] for z in zones)])
    for zone in zones:
        _lay_zone(work, zone, land, {p: gates[p] for p in zone.plots},
                  hanging_on(garden, library, zone.source, zones))
    work.count_joints()
    work.keep_hand_fittings()
    return garden.model_copy(update={
        "zones": zones, "nodes": tuple(work.nodes), "lines": tuple(work.lines),
        "fittings": tuple(work.fittings), "outlets": tuple(work.outlets)})


def pieces(garden: Garden, library: Library) -> dict[str, str]:
    """The lines that a hand may move for themselves, by id, with the paths they are moved by.

    A row that is fed in the middle is two lines and one piece; the rows of a bed laid in an S are
    one line, which stands under none of them.
    """
    found = {}
    for plot in garden.plots:
        name = stem(plot.id)
        for dripper in plot.drippers:
            found[f"{name}-{dripper.id}"] = f"plots/{plot.id}/drippers/{dripper.id}"
        if isinstance(plot, Bed):
            rows = rows_of(plot, library)
            if joined_as(plot, rows, library) != "s-curve":
                found |= {f"{name}-{row.id}{half}": f"plots/{plot.id}/rows/{row.id}"
                          for row in rows for half in ("", "a", "b")}
    return found


def gates_of(plot: AnyPlot, library: Library) -> list[XY]:
    """Where a header may come up to a plot."""
    return beds.gates(plot, library) if isinstance(plot, Bed) else containers.gates(plot)


def _source(garden: Garden, zone: Zone) -> tuple[XY, float]:
    """Where a zone's pipe leaves its source, and at what level."""
    tap = garden.tap_of(zone.source)
    if tap is not None:
        return (tap.at.x_m, tap.at.y_m), tap.ground_m + tap.height_m
    store = garden.store_of(zone.source)
    return (store.at.x_m, store.at.y_m), storage.outlet_z_m(store)


def _lay_zone(work: Work, zone: Zone, land: routes.Ground, gates: dict[str, list[XY]],
              hanging: tuple[Hanging, ...]) -> None:
    """Head, supply, headers and rows of one zone."""
    name, (at, level) = stem(zone.id), _source(work.garden, zone)
    after = coupled(work.garden, work.library, zone)
    gates = {plot: places for plot, places in gates.items() if plot not in after}
    legs, taken = routes.lead(land, at, gates, [(v.at.x_m, v.at.y_m) for v in zone.vias])
    nodes = {"source": work.node(f"{name}-source", at, level)}
    reach: dict[str, float] = {}
    pipes: dict[str, Line] = {}
    for leg in legs:
        end_at = leg.course[-1]
        z = (work.garden.plot(leg.end).ground_m if leg.end in gates
             else _ground_m(work.garden, zone, end_at))
        key = f"{stem(leg.end)}-gate" if leg.end in gates else f"{name}-{leg.end}"
        nodes[leg.end] = work.node(key, end_at, z)
        first = leg.start == "source"
        line = work.line(f"{key}-pipe", zone, "supply" if first else "blank", zone.supply_tube,
                         nodes[leg.start], nodes[leg.end], course=leg.course[1:-1])
        reach[leg.end] = reach.get(leg.start, 0.0) + line.length_m
        pipes[leg.end] = line
        if first:
            _head(work, line, zone, hanging)
    if zone.more_to_come:
        work.fitting("plugged-tee", pipes[max(gates, key=reach.__getitem__)], LAST)
    for plot_id in in_turn(zone.plots, after):
        plot = work.garden.plot(plot_id)
        goes_on = plot_id in after.values()
        if isinstance(plot, Bed) and plot_id in after:
            before = cast(Bed, work.garden.plot(after[plot_id]))
            beds.lay_on(work, zone, plot, before, goes_on=goes_on)
        elif isinstance(plot, Bed):
            beds.lay_bed(work, zone, plot, nodes[plot_id], taken[plot_id], goes_on=goes_on)
        else:
            containers.lay_vessels(work, zone, plot, nodes[plot_id], taken[plot_id])
        if plot.open_in and work.garden.drum_of(zone.source):
            work.fitting("valve", next(x for x in work.lines if x.plot == plot_id), 0)
        joints = _joints(work, plot) if plot.drippers else []
        for dripper in plot.drippers:
            _dripper(work, zone, plot, dripper, joints)


def _ground_m(garden: Garden, zone: Zone, place: XY) -> float:
    """The ground's level at a joint: the site's, or that of the zone's plot nearest to it."""
    level = elevation.level_m(garden.site, geometry.point(place))
    if level is not None:
        return level
    nearest = min((garden.plot(p) for p in zone.plots), key=lambda p: sum(
        (a - b) ** 2 for a, b in zip(geometry.middle(p), place, strict=True)))
    return nearest.ground_m


def _head(work: Work, supply: Line, zone: Zone, hanging: tuple[Hanging, ...]) -> None:
    # From a tap only the timer stands constant pressure, so it is first: common practice.
    split = ["splitter"] if len(hanging) > 1 else []
    hoses = ["splitter"] if any(h.splits and zone in h.zones for h in hanging) else []
    tap, lift = work.garden.tap_of(zone.source), work.garden.lift_on(zone.source)
    opens = "timer" if zone.timed else "hose-valve"
    source = tap or lift
    held = ["regulator"] if source and source.regulator_kpa > 0 else []
    if tap is not None:
        kinds = [*split, opens, "backflow", zone.filter, *held, *hoses, "barb-coupling"]
    else:
        sunk = lift is not None and work.library.pumps[lift.kind].family == "submersible"
        kinds = [*([] if sunk else ["barrel-outlet"]), *(["check-valve"] if lift else []), *split,
                 opens, zone.filter, *held, *hoses, "barb-coupling"]
    for order, kind in enumerate(kinds):
        work.fitting(kind, supply, order)


def _joints(work: Work, plot: AnyPlot) -> list[Node]:
    """The joints of a plot's pipes, from which small tubes start."""
    ids = {n for line in work.lines if line.plot == plot.id and line.role != "quarter-inch"
           for n in (line.start, line.end)}
    return [n for n in work.nodes if n.id in ids]


def _dripper(work: Work, zone: Zone, plot: AnyPlot, dripper: Dripper, joints: list[Node]) -> None:
    """Drippers put in by hand, on a tube of their own from the nearest joint of the plot's lines.

    As many along the plot as it has room for; the way to the first is straight.
    """
    u = min(dripper.along_m, plot.length_m)
    v = min(dripper.across_m, plot.breadth_m)
    count = min(dripper.count, 1 + int((plot.length_m - u) / dripper.apart_m + 1e-6))
    at, last = geometry.to_site(plot, [(u, v), (u + (count - 1) * dripper.apart_m, v)])

    def far(node: Node) -> float:
        return (node.at.x_m - at[0]) ** 2 + (node.at.y_m - at[1]) ** 2

    start = min(joints, key=far)
    name = f"{stem(plot.id)}-{dripper.id}"
    end = work.node(f"{name}-at", last, outlet_z_m(plot))
    line = work.line(name, zone, "quarter-inch", "quarter-inch", start, end, plot=plot.id,
                     course=[at] if count > 1 else [], more_m=0.02)
    work.outlet(line, dripper.kind, plot.id, Run(
        line.length_m - (count - 1) * dripper.apart_m, dripper.apart_m, count))
    work.fitting("end-plug", line, LAST)
