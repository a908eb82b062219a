"""Counting along the lines: heads, pumps, pipe, outlets, mix, and the tools they take."""

from __future__ import annotations

import math
from collections import Counter

from euhydra.core.construction.counting import Count
from euhydra.core.construction.holes import LEAST_SAW_MM, holes
from euhydra.core.construction.joints import own_head, reducers
from euhydra.core.construction.parts import (
    BAG_L,
    LEAST_SPARE,
    OUTLETS_A_SPARE,
    PEBBLES_M,
    PIPE_SPARE,
    rolls_sold,
)
from euhydra.core.demand.soil import mix_l
from euhydra.core.garden.model import (
    Garden,
    Holder,
    Outlet,
    Wicking,
)
from euhydra.core.layout.heads import Hanging, hanging_on
from euhydra.core.layout.work import stem
from euhydra.core.library import Library

PEG_EVERY_M = 1.0
HOSE_VALVE = "Shut-off valve, hose thread"
SOLD_AS = {6: "6 mm (quarter-inch)", 16: "16 mm (half-inch)", 20: "20 mm (three-quarter-inch)",
           25: "25 mm (one-inch)"}
CUT_EVERY_M = 100.0  # of pipe to a cut that one is ready for, from memory


def head_parts(count: Count, garden: Garden) -> None:
    """The head assemblies: each timer with its batteries, and what stands behind its valves.

    Every valve that other water than the mains' comes out of is signed.
    """
    if signed := sum(not garden.on_mains(zone.source) for zone in garden.zones):
        count.add("label", signed)
    for source in garden.sources:
        hanging = hanging_on(garden, count.library, source.id)
        if (splitters := len(hanging) - 1 + sum(one.splits for one in hanging)) > 0:
            count.add("splitter", splitters)
        for one in hanging:
            _opening_parts(count, garden, one)
            for zone in one.zones[:one.heads]:
                screen = count.library.fittings[zone.filter]
                count.add("filter", detail=screen.name, price=screen.price, variant=zone.filter)
            count.add("adapter", len(one.zones))
            for part in (x for zone in one.zones for x in own_head(garden, count.library, zone)):
                if part.role == "thread":
                    count.add("thread-adapter", detail=part.name)


def _opening_parts(count: Count, garden: Garden, one: Hanging) -> None:
    """What opens it: a timer and its batteries, or a valve for the hand."""
    if one.timer:
        timer = count.library.timers[one.timer.kind]
        count.add("timer", detail=timer.name, price=timer.price, variant=one.timer.kind)
        count.add("battery", reason="Fresh batteries each spring: a flat one leaves the valve as "
                                    "it stood.")
        return
    count.add("valve", detail=HOSE_VALVE, variant="hose-thread", reason=(
        "Opened and shut by hand; a kitchen timer in the pocket helps." if one.zones[0].timed else
        "Shuts the row off while it is mended; it stands open."))


HAND_PARTS = {"valve": "valve", "inline-filter": "inline-filter", "splitter": "splitter"}


def line_parts(count: Count, garden: Garden) -> None:
    """Pipe by the metre, and every fitting on it."""
    kinds = Counter(f.kind for f in garden.fittings)
    metres_of: dict[str, float] = {}
    for line in garden.lines:
        metres_of[line.tube] = metres_of.get(line.tube, 0.0) + line.length_m
        count.add_tube(line.tube, line.length_m, _tube_reason(line.tube, count.library))
    for (wide, narrow), times in sorted(reducers(garden, count.library).items()):
        count.add("reducer", times, f"Reducing coupler, {SOLD_AS[wide]} to {SOLD_AS[narrow]}",
                  variant=f"{wide}-{narrow}")
    rolls = [math.ceil(math.ceil(metres * PIPE_SPARE) / roll_m - 1e-9)
             for key, metres in metres_of.items()
             if (roll_m := rolls_sold(count.library.tubes[key].roll_m, count.system)) > 0]
    if joins := sum(n - 1 for n in rolls if n > 1):
        count.add("coupling", joins)
    count.add("tee", kinds["barb-tee"])
    count.add("elbow", kinds["barb-elbow"])
    count.add("flush-end", kinds["flush-end"])
    if kinds["quick-coupler"]:
        count.add("quick-coupler", kinds["quick-coupler"])
    if kinds["end-plug"]:
        count.add("end-plug", kinds["end-plug"])
        count.add("punch-barb", kinds["end-plug"])
    outlet_parts(count, garden)
    count.add("peg", math.ceil(sum(metres_of.values()) / PEG_EVERY_M))
    for fitting in garden.fittings:
        if fitting.hand and fitting.kind in HAND_PARTS:
            count.add(HAND_PARTS[fitting.kind])
    _repair_parts(count, metres_of)
    count.add("plugged-tee", max(kinds["plugged-tee"], 1))


def _repair_parts(count: Count, metres_of: dict[str, float]) -> None:
    """Couplings to mend a cut with, of each size of pipe laid: two a cut."""
    by_size: dict[int, float] = {}
    for key, metres in metres_of.items():
        size = round(count.library.tubes[key].size_mm)
        by_size[size] = by_size.get(size, 0.0) + metres
    for size, metres in sorted(by_size.items()):
        count.add("spare", 2 * math.ceil(metres / CUT_EVERY_M),
                  f"Repair coupling, {SOLD_AS.get(size, f'{size} mm')}", variant=str(size))


def outlet_parts(count: Count, garden: Garden) -> None:
    """Outlets that are put in, and a few to spare; built-in ones come with their tube."""
    built_in = {tube.outlet for tube in count.library.tubes.values() if tube.outlet}
    lines = {line.id: line for line in garden.lines}
    for run in garden.outlets:
        tube = count.library.tubes[lines[run.line].tube]
        if tube.outlet and run.kind in built_in:
            continue
        kind = count.library.outlets[run.kind]
        if run.points > 1 and _by_hand(garden, run):
            count.add("small-tee", run.points - 1)
        own = run.kind in count.library.parts  # such as a float valve, which is no dripper
        count.add(run.kind if own else "dripper", run.points * run.each,
                  "" if own else kind.name, price=kind.price, variant="" if own else run.kind)
    loose_outlets = sum(run.points * run.each for run in garden.outlets
                if not count.library.tubes[lines[run.line].tube].outlet)
    if loose_outlets:
        count.add("spare-dripper", max(LEAST_SPARE, math.ceil(loose_outlets / OUTLETS_A_SPARE)))


def _by_hand(garden: Garden, run: Outlet) -> bool:
    """Whether drippers stand on a tube that was put in by hand: a tee to each but the last."""
    return any(run.line == f"{stem(run.plot)}-{d.id}" for d in garden.plot(run.plot).drippers)


def mix_parts(count: Count, garden: Garden) -> None:
    """Mix for everything in pots, by volume, and the pebbles under float-valve pots."""
    pebbles = 0.0
    for plot in garden.plots:
        if isinstance(plot, Holder):
            bought = mix_l(plot) * (1 - plot.compost)
            if bought > 0:
                count.add_sacks("mix", bought, count.library.soils[plot.soil].name)
            if plot.compost > 0:
                count.add_sacks("compost", mix_l(plot) * plot.compost, "Compost")
        if isinstance(plot, Wicking) and plot.kind == "float-pots":
            pebbles += plot.count * math.pi / 4 * plot.diameter_m**2 * PEBBLES_M * 1000
    if pebbles:
        count.add("pebbles", math.ceil(pebbles / BAG_L))


def tools(count: Count, garden: Garden) -> None:
    """What is used and may be borrowed, each saw and drill by its size."""
    bored = holes(garden, count.library)
    for mm in sorted({round(hole.mm) for hole in bored}):
        key, name = ("hole-saw", "Hole saw") if mm >= LEAST_SAW_MM else ("drill-bit", "Drill bit")
        count.add(key, 1, name + ", {}", size=mm, kind="hole")
    if any(hole.mm >= LEAST_SAW_MM for hole in bored):
        count.add("pilot-drill")
    if garden.stores or any(isinstance(plot, Wicking) for plot in garden.plots):
        count.add("spirit-level")
    count.add("pipe-cutter")
    if any(line.role == "quarter-inch" for line in garden.lines):
        count.add("punch")
    count.add("jug")


def _tube_reason(tube: str, library: Library) -> str:
    outlet = library.outlets.get(library.tubes[tube].outlet)
    if outlet and outlet.seeps != "yes":
        return "Rows in the beds; the outlets are built in."
    if outlet:
        return "Rows in the beds; it seeps along its whole length. One make throughout."
    if tube == "quarter-inch":
        return "From the header to each pot."
    return "Carries the water from the source to the rows, and across paths."
