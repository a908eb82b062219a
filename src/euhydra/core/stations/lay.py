"""Lay: metres of line, outlets, and the limits of each kind of pipe."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from shapely.geometry import LineString

from euhydra.core.editing.hand_laying import AddRow, LayAnew
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Bed, Holder, Zone
from euhydra.core.hydraulics.friction import velocity
from euhydra.core.layout.capacity import FASTEST_M_S, HALF_INCH_L_H
from euhydra.core.layout.laying import rows_of
from euhydra.core.layout.rows import counted
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy, StationReport, worst_first
from euhydra.core.stations import openings
from euhydra.core.stations.couplings import coupling_findings
from euhydra.core.terrain import geometry

if TYPE_CHECKING:
    from euhydra.core.results.results import Results


def tube_lengths(r: Results) -> dict[str, float]:
    """Metres laid of each tube, by its key."""
    lengths: dict[str, float] = defaultdict(float)
    for line in r.garden.lines:
        lengths[line.tube] += line.length_m
    return dict(lengths)


def outlet_count(r: Results) -> int:
    """Single emitters and drippers; a soaker hose has none."""
    return counted(r.garden.outlets, r.library)


def report(r: Results) -> StationReport:
    """What Lay says."""
    total, outlets = sum(tube_lengths(r).values()), outlet_count(r)
    verdict = (say("{m} of line in {z}, with {n:outlet|outlets}.", m=Amount(total, "length", 0),
                   z=_zones(r), n=Amount(outlets, "count")) if outlets else
               say("{m} of line in {z}, seeping along its length.", m=Amount(total, "length", 0),
                   z=_zones(r)))
    return StationReport("lay", "Lay", verdict, say("{m}", m=Amount(total, "length", 0)),
                         _figures(r), worst_first([
                             *_through_buildings(r), *_dry_plants(r), *_overlaps(r), *_runs(r),
                             *coupling_findings(r),
                             *_flow_limit(r), *_fast(r), *_crossings(r), *_by_hand(r),
                             *openings.as_sold(r), *_digging(r)]))


def _zones(r: Results) -> Amount:
    return Amount(len(r.garden.zones), "zones")


def _figures(r: Results) -> tuple[Figure, ...]:
    lengths = tube_lengths(r)
    figures = [Figure("line_total", "Line in all", Amount(sum(lengths.values()), "length"),
                      Working("true lengths added up, rise and fall included", tuple(
                          Term(r.library.tubes[k].name, Amount(v, "length"))
                          for k, v in lengths.items()), "the lines as laid", "physics")),
               Figure("outlets", "Outlets", Amount(outlet_count(r), "count"), Working(
                   "runs of outlets along the lines, counted", tuple(
                       Term(p.name, Amount(counted(
                           (o for o in r.garden.outlets if o.plot == p.id), r.library), "count"))
                       for p in r.garden.plots), "the lines as laid", "physics"))]
    for plot in r.garden.plots:
        if isinstance(plot, Bed) and plot.watered == "lines":
            figures.append(_rows_figure(r, plot))
    return tuple(figures)


def _rows_figure(r: Results, bed: Bed) -> Figure:
    rows, wet = rows_of(bed, r.library), r.wetted[bed.id]
    short = min(bed.length_m, bed.width_m)
    return Figure(f"rows_{bed.id}", f"Rows, {bed.name}", Amount(len(rows), "count"), Working(
        "laid by your hand" if bed.laid == "hand" and bed.rows else
        "bed width ÷ spread of water to both sides, rounded; drippers over the plants",
        (Term("across", Amount(short, "length")),
         Term("between rows", Amount(short / len(rows), "length")),
         Term("ground wetted", Amount(1 - wet.dry_share, "share"), "at root depth"),
         Term("wetted twice", Amount(wet.twice_share, "share")),
         Term("plants outside", Amount(len(wet.thirsty), "count"),
              f"of {wet.plants}")),
        "three soakers or two driplines in a bed that one reaches across", "common practice"))


def _through_buildings(r: Results) -> list[Finding]:
    """A line that goes through a building: no way round was left."""
    solids = [s.buffer(-0.02) for s in geometry.solid_shapes(r.garden)]
    for line in r.garden.lines:
        course = LineString(geometry.points_xy(line.course))
        if any(course.intersects(solid) for solid in solids):
            zone = next(z for z in r.garden.zones if z.id == line.zone)
            return [Finding(
                "lay.through-building", "stop",
                Phrase(f"{quoted(zone.name)}: a pipe goes through a building"),
                Phrase("No way round was found: something it joins stands inside or is shut in. "
                       "Move it, or say on Catch that the roof stands over posts."))]
    return []


def _dry_plants(r: Results) -> list[Finding]:
    found: list[Finding] = []
    for plot_id, wet in r.wetted.items():
        if not wet.thirsty:
            continue
        plot = r.garden.plot(plot_id)
        found.append(Finding(
            "lay.dry-plants", "care",
            say(f"{quoted(plot.name)}: " + "{n} of {m} plants stand outside the wetted ground",
                n=Amount(len(wet.thirsty), "count"), m=Amount(wet.plants, "count")),
            say("The lines leave {x} of it dry at root depth.", x=Amount(wet.dry_share, "share")),
            Later(partial(_wetter, r, plot)) if isinstance(plot, Bed) and not found else ()))
    return found


def _wetter(r: Results, bed: Bed) -> tuple[Remedy, ...]:
    """One row more, and drippers at the plants, where they help."""
    now = len(r.wetted[bed.id].thirsty)
    remedies = []
    for key, label, edit in (("row", "One row more", AddRow(bed.id)),
                             ("drippers", "Drippers at the plants",
                              SetValue(f"plots/{bed.id}/method", "drippers"))):
        left = len(r.after(edit).wetted[bed.id].thirsty)
        if left < now:
            remedies.append(Remedy(f"{key}-{bed.id}", Phrase(label),
                                   say("{n} outside", n=Amount(left, "count")), edit))
    return tuple(remedies)


def _overlaps(r: Results) -> list[Finding]:
    """Two plots on the same ground, or a plot under a wall."""
    shapes = [(p.name, geometry.outline(p).buffer(-0.02)) for p in r.garden.plots]
    walls = [(b.name, geometry.building_shape(b)) for b in r.garden.buildings]
    for i, (name, shape) in enumerate(shapes):
        for other, there in (*shapes[i + 1:], *walls):
            if shape.intersects(there):
                return [Finding(
                    "lay.overlap", "care",
                    Phrase(f"{quoted(name)} and {quoted(other)} stand on the same ground"),
                    say("They share {a}. Move one of them.",
                        a=Amount(float(shape.intersection(there).area), "area", 2)))]
    return []


def _crossings(r: Results) -> list[Finding]:
    """Pipe under paths, in a sleeve."""
    times, metres = 0, 0.0
    for path in r.garden.paths:
        ground = geometry.path_shape(path)
        for line in r.garden.lines:
            if line.role in ("supply", "blank"):
                under = LineString(geometry.points_xy(line.course)).intersection(ground).length
                times, metres = times + (under > 0.05), metres + under
    if not times:
        return []
    return [Finding(
        "lay.crossings", "note",
        say("Blank pipe goes under paths {n:time|times}, {m} in all", n=Amount(times, "count"),
            m=Amount(metres, "length")),
        Phrase("Lay it in a sleeve a size larger, so that it can be drawn out again."))]


def _by_hand(r: Results) -> list[Finding]:
    """What the hand laid, and what of it a laying anew would leave."""
    pieces: list[bool] = []
    for plot in r.garden.plots:
        pieces += [d.pinned for d in plot.drippers]
        if isinstance(plot, Bed) and plot.laid == "hand" and plot.watered == "lines":
            pieces += [row.pinned for row in plot.rows]
    pieces += [v.pinned for z in r.garden.zones for v in z.vias]
    pieces += [f.pinned for f in r.garden.fittings if f.hand]
    if not pieces:
        return []
    return [Finding(
        "lay.by-hand", "note",
        say("{n} pieces lie as your hand put them, {m} of them pinned",
            n=Amount(len(pieces), "count"), m=Amount(sum(pieces), "count")),
        Phrase("Laid anew, what is not pinned goes back to the program's own laying."),
        Later(partial(_anew, r)))]


def _anew(r: Results) -> Iterator[Remedy]:
    edit = LayAnew()
    yield Remedy("anew", Phrase("Lay it for me"), say("{m} of line", m=Amount(
        sum(tube_lengths(r.after(edit)).values()), "length", 0)), edit)


def _runs(r: Results) -> list[Finding]:
    found = []
    for line in r.garden.lines:
        longest = r.library.tubes[line.tube].longest_run_m
        if line.role in ("dripline", "soaker", "quarter-inch") and line.length_m > longest:
            plot = quoted(r.garden.plot(line.plot or "").name)
            found.append(Finding(
                "lay.long-run", "care",
                say(f"{plot}: a run of " + "{m}", m=Amount(line.length_m, "length")),
                say("Past {most} the end of this line is starved. Feed it from the middle or "
                    "split the bed.", most=Amount(longest, "length"))))
            break
    return found


def _flow_limit(r: Results) -> list[Finding]:
    found = []
    for zone in r.garden.zones:
        flow = r.flows[zone.id]["full"].flow_l_h
        if zone.supply_tube == "poly-16" and flow > HALF_INCH_L_H:
            found.append(Finding(
                "lay.flow-limit", "care",
                say(f"{quoted(zone.name)}: " + "{q} in half-inch pipe", q=Amount(flow, "flow")),
                say("Half-inch pipe carries about {most} before its losses take over.",
                    most=Amount(HALF_INCH_L_H, "flow")),
                Later(partial(_wider_supply, r, zone))))
    return found


def _wider_supply(r: Results, zone: Zone) -> Iterator[Remedy]:
    edit = SetValue(f"zones/{zone.id}/supply_tube", "poly-20")
    yield Remedy(f"supply-20-{zone.id}", Phrase("Lay 20 mm supply pipe"), say(
        "{q}", q=Amount(r.after(edit).flows[zone.id]["full"].flow_l_h, "flow")), edit)


def _fast(r: Results) -> list[Finding]:
    for zone in r.garden.zones:
        flow = r.flows[zone.id]["full"]
        for pipe in flow.network.pipes:
            speed = float(velocity(flow.solution.flow_l_h[pipe.id], pipe.bore_mm))
            if speed > FASTEST_M_S:
                return [Finding(
                    "lay.fast-water", "care",
                    say(f"{quoted(zone.name)}: water runs at " + "{v}", v=Amount(speed, "speed")),
                    say("Above {most} pipes hammer and lose head. Use a larger bore.",
                        most=Amount(FASTEST_M_S, "speed")))]
    return []


def _digging(r: Results) -> list[Finding]:
    """For gardens in the ground; on a balcony nothing is buried."""
    if all(isinstance(plot, Holder) for plot in r.garden.plots):
        return []
    supply = sum(line.length_m for line in r.garden.lines if line.role == "supply")
    return [Finding(
        "lay.digging", "note", Phrase("Call before you dig"),
        say("{m} of supply pipe may want burying. Cables, gas and water lie under gardens: ask "
            "your locating service first.", m=Amount(supply, "length")), caution=True)]
