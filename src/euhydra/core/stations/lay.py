"""Lay: metres of line, outlets, and the limits of each kind of pipe."""

from __future__ import annotations

from collections import defaultdict

from euhydra.core.advice import Finding, Remedy, StationReport, worst_first
from euhydra.core.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.garden.edits import SetValue
from euhydra.core.garden.model import Bed
from euhydra.core.hydraulics.friction import velocity
from euhydra.core.laying import rows_in
from euhydra.core.reckoning import Reckoning

HALF_INCH_FLOW_L_H = 750.0
FASTEST_M_S = 1.5


def tube_lengths(r: Reckoning) -> dict[str, float]:
    """Metres laid of each tube, by its key."""
    lengths: dict[str, float] = defaultdict(float)
    for line in r.garden.lines:
        lengths[line.tube] += line.length_m
    return dict(lengths)


def outlet_count(r: Reckoning) -> int:
    """Single emitters and drippers; a soaker hose has none."""
    return sum(run.points * run.each for run in r.garden.outlets if run.kind != "soaker")


def report(r: Reckoning) -> StationReport:
    """What Lay says."""
    total, outlets = sum(tube_lengths(r).values()), outlet_count(r)
    verdict = (say("{m} of line in {z}, with {n} outlets.", m=Amount(total, "length", 0),
                   z=_zones(r), n=Amount(outlets, "count")) if outlets else
               say("{m} of line in {z}, seeping along its length.", m=Amount(total, "length", 0),
                   z=_zones(r)))
    return StationReport("lay", "Lay", verdict, say("{m}", m=Amount(total, "length", 0)),
                         _figures(r), worst_first([*_runs(r), *_flow_limit(r), *_fast(r),
                                                   _digging(r)]))


def _zones(r: Reckoning) -> Amount:
    return Amount(len(r.garden.zones), "zones")


def _figures(r: Reckoning) -> tuple[Figure, ...]:
    lengths = tube_lengths(r)
    figures = [Figure("line_total", "Line in all", Amount(sum(lengths.values()), "length"),
                      Working("true lengths added up, rise and fall included", tuple(
                          Term(r.library.tubes[k].name, Amount(v, "length"))
                          for k, v in lengths.items()), "the lines as laid", "physics")),
               Figure("outlets", "Outlets", Amount(outlet_count(r), "count"), Working(
                   "runs of outlets along the lines, counted", tuple(
                       Term(p.name, Amount(sum(
                           o.points * o.each for o in r.garden.outlets
                           if o.plot == p.id and o.kind != "soaker"), "count"))
                       for p in r.garden.plots), "the lines as laid", "physics"))]
    for plot in r.garden.plots:
        if isinstance(plot, Bed):
            rows = rows_in(plot, r.library)
            figures.append(Figure(
                f"rows_{plot.id}", f"Rows, {plot.name}", Amount(rows, "count"), Working(
                    "bed width ÷ spread of water to both sides, rounded",
                    (Term("bed width", Amount(plot.width_m, "length")),
                     Term("between rows", Amount(plot.width_m / rows, "length"))),
                    "three soakers or two driplines in a 90 cm bed", "common practice")))
    return tuple(figures)


def _runs(r: Reckoning) -> list[Finding]:
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


def _flow_limit(r: Reckoning) -> list[Finding]:
    found = []
    for zone in r.garden.zones:
        flow = r.flows[zone.id]["full"].flow_l_h
        if zone.supply_tube == "poly-16" and flow > HALF_INCH_FLOW_L_H:
            edit = SetValue(f"zones/{zone.id}/supply_tube", "poly-20")
            found.append(Finding(
                "lay.flow-limit", "care",
                say(f"{quoted(zone.name)}: " + "{q} in half-inch pipe", q=Amount(flow, "flow")),
                say("Half-inch pipe carries about {most} before its losses take over.",
                    most=Amount(HALF_INCH_FLOW_L_H, "flow")),
                (Remedy(f"supply-20-{zone.id}", Phrase("Lay 20 mm supply pipe"),
                        say("{q}", q=Amount(r.after(edit).flows[zone.id]["full"].flow_l_h,
                                            "flow")), edit),)))
    return found


def _fast(r: Reckoning) -> list[Finding]:
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


def _digging(r: Reckoning) -> Finding:
    supply = sum(line.length_m for line in r.garden.lines if line.role == "supply")
    return Finding(
        "lay.digging", "note", Phrase("Call before you dig"),
        say("{m} of supply pipe may want burying. Cables, gas and water lie under gardens: ask "
            "your locating service first.", m=Amount(supply, "length")), caution=True)
