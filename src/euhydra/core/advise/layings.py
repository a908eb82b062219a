"""Different layings of the same bed, side by side: litres, evenness, parts, cost; which suits."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

from euhydra.core.demand.plants import spacing_m
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Bed, Garden
from euhydra.core.layout.rows import counted
from euhydra.core.library import Library
from euhydra.core.schedule import timing
from euhydra.core.statements.figures import Amount, Phrase, say

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

FAR_APART_M = 0.45  # plants this far apart each want a dripper of their own, common practice
EVEN = 0.8  # less is under “good”, ASAE EP458, recalled
PEG_PRICE, PEG_EVERY_M = 0.25, 1.0  # invented price book
LONG_H = 3.0  # a run of more hours a day than this holds up every other zone, from memory


@dataclass(frozen=True)
class Laying:
    """One laying of a bed, with its barrels half full.

    ``minutes_a_day`` is the run that gives the peak month's need; ``short_m`` the head that the
    worst outlet lacks with the last water; ``cost`` that of the bed's own pieces, from an invented
    price book; ``against`` what speaks against it, heaviest first; ``weight`` how much of it.
    """

    method: str
    after: Results
    flow_l_h: float
    minutes_a_day: float
    evenness: float
    line_m: float
    outlets: int
    pieces: int
    cost: float
    dry_plants: int
    plants: int
    short_m: float
    against: tuple[Phrase, ...]
    weight: float


def layings(r: Results, bed: Bed) -> tuple[Laying, ...]:
    """The bed laid each way that is compared, everything else in the garden as it is."""
    return tuple(_laying(r, bed, method.key) for method in r.library.methods.values()
                 if method.compared == "yes")


def suits(laid: tuple[Laying, ...]) -> Laying:
    """The laying that least speaks against; of equals the cheaper."""
    return min(laid, key=lambda x: (round(x.weight, 2), x.cost))


def pieces_cost(garden: Garden, library: Library, plot_id: str) -> tuple[float, int]:
    """What a plot's own lines cost by the price book, and how many pieces they are."""
    lines = {x.id: x for x in garden.lines if x.plot == plot_id}
    metres = sum(x.length_m for x in lines.values())
    cost = sum(library.tubes[x.tube].price * x.length_m for x in lines.values())
    pegs = math.ceil(metres / PEG_EVERY_M)
    count, cost = len(lines) + pegs, cost + pegs * PEG_PRICE
    for fitting in garden.fittings:
        if fitting.line in lines and fitting.kind in library.fittings:
            cost, count = cost + library.fittings[fitting.kind].price, count + 1
    for run in garden.outlets:
        if run.line in lines and run.kind != library.tubes[lines[run.line].tube].outlet:
            n = run.points * run.each
            cost, count = cost + n * library.outlets[run.kind].price, count + n
    return cost, count


def reason(laid: tuple[Laying, ...], best: Laying) -> Phrase:
    """Why one suits, in its own numbers and against the others."""
    cheaper = sum(best.cost <= x.cost for x in laid) == len(laid)
    wet = best.plants - best.dry_plants
    return say("It wets {w} of {n} plants, {e} even, in {m} a day at the height of summer" + (
        ", and costs least." if cheaper else ", for {c}."), w=Amount(wet, "count"),
        n=Amount(best.plants, "count"), e=Amount(best.evenness, "share"),
        m=Amount(best.minutes_a_day, "minutes"), c=Amount(best.cost, "money"))


def _laying(r: Results, bed: Bed, method: str) -> Laying:
    after = r if bed.method == method else r.after(SetValue(f"plots/{bed.id}/method", method))
    zone = next(z for z in after.garden.zones if bed.id in z.plots)
    half, low = after.flows[zone.id]["half"], after.flows[zone.id]["low"]
    flow = half.plot_flow_l_h(bed.id)
    need = float(max(after.demand.thirsts[bed.id].net_by_month))
    minutes = 60 * need / timing.efficiency(half) / flow if flow > 1e-6 else math.inf
    mine = [o for o in low.outlets if o.plot == bed.id]
    short = max(0.0, max(o.least_head_m - o.head_m for o in mine))
    lines = [x for x in after.garden.lines if x.plot == bed.id]
    runs = [o for o in after.garden.outlets if o.plot == bed.id]
    cost, pieces = pieces_cost(after.garden, after.library, bed.id)
    wet = after.wetted[bed.id]
    against, weight = _against(after, bed, method, minutes, half.evenness, short,
                               len(wet.thirsty) / max(wet.plants, 1))
    return Laying(method, after, flow, minutes, half.evenness, sum(x.length_m for x in lines),
                  counted(runs, after.library), pieces, cost,
                  len(wet.thirsty), wet.plants, short, against, weight)


def _against(r: Results, bed: Bed, method: str, minutes: float, evenness: float, short: float,
             dry: float) -> tuple[tuple[Phrase, ...], float]:
    """What speaks against a laying, and how heavily."""
    found: list[tuple[float, Phrase]] = []
    if short > 0:
        found.append((3.0, say(f"its weakest outlet lacks {{h}} with the {r.garden.vessel} "
                               "nearly empty", h=Amount(short, "head"))))
    if dry > 0:
        found.append((4 * dry, say("{x} of the plants stand outside what it wets",
                                   x=Amount(dry, "share"))))
    if evenness < EVEN and short <= 0:
        found.append((2 * (EVEN - evenness) + 0.2, say("evenness is only {e}",
                                                       e=Amount(evenness, "share"))))
    if minutes > LONG_H * 60:
        found.append((0.5, say("it runs {h} a day at the height of summer",
                               h=Amount(minutes / 60, "hours")) if math.isfinite(minutes) else
                      Phrase("nothing comes out of it")))
    gap, way = spacing_m(bed.main, r.library), r.library.methods[method]
    if gap >= FAR_APART_M and not way.at_plants:
        found.append((0.35, say("plants {g} apart leave ground between them watered for nothing",
                                g=Amount(gap, "small"))))
    if gap < 0.2 and way.at_plants:
        found.append((0.6, say("plants {g} apart are more than drippers can serve one by one",
                               g=Amount(gap, "small"))))
    if way.indoors == "yes":
        found.append((0.15, Phrase("it comes indoors for winter, and makes differ")))
    found.sort(key=lambda pair: -pair[0])
    return tuple(phrase for _, phrase in found), sum(weight for weight, _ in found)

