"""Drilled pipes with open ends: what runs out there, and what shutting them brings."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Bed
from euhydra.core.layout.rows import ends_open
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy

if TYPE_CHECKING:
    from euhydra.core.hydraulics.zone_flow import OutletFlow, ZoneFlow
    from euhydra.core.results.results import Results

RUNS_L_H = 1e-6


def open_ends(r: Results) -> list[Finding]:
    """A finding for each bed whose pipes' open ends take water, the barrels half full."""
    return [_told(r, bed) for bed in r.garden.plots
            if isinstance(bed, Bed) and bed.watered == "lines" and ends_open(bed, r.library)
            and sum(o.flow_l_h for o in _outlets(r, bed) if o.open_end) > RUNS_L_H]


def _outlets(r: Results, bed: Bed) -> list[OutletFlow]:
    zone = next(z for z in r.garden.zones if bed.id in z.plots)
    return [o for o in r.flows[zone.id]["half"].outlets if o.plot == bed.id]


def _told(r: Results, bed: Bed) -> Finding:
    ends = sum(o.flow_l_h for o in _outlets(r, bed) if o.open_end)
    holes = [o.flow_l_h for o in _outlets(r, bed) if not o.open_end]
    zone = next(z for z in r.garden.zones if bed.id in z.plots)
    lift = r.garden.lift_on(r.garden.source_of(bed))
    where = ""
    weak = _weak_third(r, bed)
    amounts = {"e": Amount(ends, "flow"), "a": Amount(min(holes), "flow", 2),
               "b": Amount(max(holes), "flow", 2)}
    if lift is not None:
        half = r.flows[zone.id]["half"]
        where = f" {quoted(lift.name)} then runs at " + "{q} and lifts {h}."
        amounts |= {"q": Amount(half.flow_l_h, "flow"),
                    "h": Amount(_lifted_m(half, lift.id), "head")}
    return Finding(
        "push.open-end", "care",
        say(f"{quoted(bed.name)}: the open ends take " + "{s} of its water",
            s=Amount(ends / (ends + sum(holes)), "share")),
        say("{e} run out there; its holes give from {a} to {b}. Water that runs fast past a hole "
            f"hardly turns out of it: the {weak} ones are weakest." + where, **amounts),
        Later(partial(_shut, r, bed)))


def _weak_third(r: Results, bed: Bed) -> str:
    """Which third of the first row's holes gives least."""
    line = next(o.emitter.rpartition(":")[0] for o in _outlets(r, bed) if not o.open_end)
    row = [o.flow_l_h for o in _outlets(r, bed) if o.emitter.rpartition(":")[0] == line]
    third = max(len(row) // 3, 1)
    means = {"near": sum(row[:third]) / third, "far": sum(row[-third:]) / third}
    return min(means, key=lambda key: means[key])


def _lifted_m(half: ZoneFlow, lift: str) -> float:
    pump = next(p for p in half.network.pumps if p.id == lift)
    return half.solution.head_m[pump.end] - half.solution.head_m[pump.start]


def _shut(r: Results, bed: Bed) -> Iterator[Remedy]:
    """Its ends shut: the least hole over the mean, before and after."""
    edit = SetValue(f"plots/{bed.id}/end", "shut")
    after = r.after(edit)
    holes = [o.flow_l_h for o in _outlets(after, bed)]
    yield Remedy(f"shut-{bed.id}", Phrase("Shut the ends"), say(
        "holes {a} to {b}", a=Amount(min(holes), "flow", 2), b=Amount(max(holes), "flow", 2)), edit)
