"""Push: does the water reach every outlet, by its own weight or by pump; what would cure a lack."""

from __future__ import annotations

from typing import TYPE_CHECKING

from euhydra.core.garden.model import Zone
from euhydra.core.hydraulics.uniformity import uniformity_class
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import StationReport, worst_first
from euhydra.core.stations.lifts import pump_figures
from euhydra.core.units import head_m

if TYPE_CHECKING:
    from euhydra.core.results.results import Results
from euhydra.core.stations import push_findings
from euhydra.core.stations.worst import flow_by_level, losses, pushed_by, short_zones, worst_zone


def report(r: Results) -> StationReport:
    """What Push says."""
    low = r.flows[worst_zone(r).id]["low"]
    return StationReport(
        "push", "Push", _verdict(r), say("{h}", h=Amount(low.worst.head_m, "head", 2)),
        _figures(r), worst_first(push_findings.findings(r)))


def _verdict(r: Results) -> Phrase:
    short, garden = short_zones(r), r.garden
    asked = short or garden.zones
    what = pushed_by(garden, asked)
    if short and len(short) == len(garden.zones):
        return Phrase(f"{what} does not reach the plants as things stand.")
    if short:
        return Phrase(f"{what} falls short at {quoted(', '.join(z.name for z in short[:2]))}.")
    if not r.flows.valve.opens:
        return Phrase(f"{what} reaches every outlet, but this timer's valve will not open.")
    if all(garden.tap_of(zone.source) for zone in garden.zones):
        held = any(tap.regulator_kpa > 0 for tap in garden.standpipes
                   if any(z.source == tap.id for z in garden.zones))
        return Phrase(f"{what} reaches every outlet" + (
            " through its regulator." if held else "."))
    return Phrase(f"{what} reaches every outlet, until the {garden.vessel} is empty.")


def _figures(r: Results) -> tuple[Figure, ...]:
    zone = worst_zone(r)
    low = r.flows[zone.id]["low"]
    figures = [
        Figure("least_head", "Pressure at the weakest outlet" + (
            "" if r.garden.tap_of(zone.source) else
        f", {r.garden.vessel_of(zone.source)} nearly empty"),
               Amount(low.worst.head_m, "head"), Working(
            "water over the outlet, and what a pump adds, less what each part of the way takes",
            (Term("water over the outlet", Amount(low.standing_m, "head"),
                  r.garden.plot(low.worst.plot).name), *losses(r, low)),
            "Darcy–Weisbach, global gradient method (Todini and Pilati 1988), solved",
            "published")),
        Figure("head_to_spare", "Pressure to spare there",
               Amount(low.worst.head_m - low.worst.least_head_m, "head"), Working(
            "head less what the outlet needs to meter its water",
            (Term("head", Amount(low.worst.head_m, "head")),
             Term("outlet needs", Amount(low.worst.least_head_m, "head"), "from memory")),
            "outlet table", "from memory")),
        _half_blocked(r, zone)]
    if r.garden.timed_zones:
        figures.append(_at_the_valve(r))
    figures += pump_figures(r)
    for each in r.garden.zones:
        figures += _zone_figures(r, each)
    return tuple(figures)


def _at_the_valve(r: Results) -> Figure:
    tapped = r.garden.tap_of(r.flows.valve.source) is not None
    needs = Term("valve needs", Amount(r.flows.valve.needs_kpa, "pressure"),
                 next((r.schedule.row(z).name for z in r.garden.timed_zones
                       if z.id == r.flows.valve.zone), ""))
    gets = Amount(r.flows.valve.gets_kpa, "pressure")
    if tapped:
        return Figure("valve_gets", "At the timer's valve, nothing flowing", gets, Working(
            "the pressure where it comes out, shut", (Term("shut", gets), needs), "your entry",
            "your entry"))
    return Figure("valve_gets", f"At the timer's valve, {r.garden.vessel}s full", gets, Working(
        f"water over the {r.garden.vessel}'s outlet, where the timer hangs, and a pump's push",
        (Term("water over it, full", Amount(head_m(r.flows.valve.gets_kpa), "head")), needs),
        "weight of the water, ρ g h", "physics"))


def _zone_figures(r: Results, zone: Zone) -> list[Figure]:
    half = r.flows[zone.id]["half"]
    tapped = r.garden.tap_of(zone.source) is not None
    return [Figure(
        f"flow_{zone.id}",
        f"Drawn in its hottest hour, {zone.name}" if zone in r.garden.float_zones else
        f"Flow, {zone.name}",
        Amount(half.flow_l_h, "flow"),
        Working("q = k·hˣ at each outlet, all added" + (
            "" if tapped else f", with the {r.garden.vessel_of(zone.source)}s half full"),
                (*flow_by_level(r, zone),
                 Term("outlets", Amount(sum(
                     o.each for o in half.outlets if not o.open_end), "count")),
                 Term("imbalance at the worst node", Amount(half.solution.residual_l_h,
                                                            "flow", 4))),
                "outlet law; global gradient method, solved", "published")),
        Figure(
        f"evenness_{zone.id}", f"Evenness, {zone.name}", Amount(half.evenness, "share"), Working(
            "EU = (1 − 1.27 Cv) × least flow ÷ mean flow",
            (Term("Cv", Amount(half.worst.cv, "ratio"), "manufacturing variation"),
             Term("low-quarter DU", Amount(half.low_quarter, "share")),
             Term(f"class: {uniformity_class(half.evenness)}", Amount(half.evenness, "share"))),
            "Keller and Karmeli 1974; classes ASAE EP458, recalled", "published"))]


def _half_blocked(r: Results, zone: Zone) -> Figure:
    """The worst outlet's head once the zone's filter is half blocked."""
    low = r.flows[zone.id]["low"]
    dirty = r.flows[zone.id].dirty
    return Figure("half_blocked", "The same, filter half blocked",
                  Amount(dirty.worst.head_m, "head"), Working(
                      "a filter with half its mesh shut loses four times the head at a flow",
                      (Term("clean", Amount(low.worst.head_m, "head")),
                       Term("outlet needs", Amount(dirty.worst.least_head_m, "head"))),
                      "loss goes with the square of the speed through what is open", "physics"))
