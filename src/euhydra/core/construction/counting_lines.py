"""Counting along the lines: heads, pumps, pipe, outlets, mix, and the tools they take."""

from __future__ import annotations

import math
from collections import Counter

from euhydra.core.construction.counting import Count
from euhydra.core.construction.joints import own_head, reducers
from euhydra.core.construction.parts import (
    BAG_L,
    LEAST_SPARE,
    OUTLETS_A_SPARE,
    PEBBLES_M,
    PIPE_SPARE,
    SACK_L,
)
from euhydra.core.construction.setting_out import marks
from euhydra.core.demand.soil import mix_l
from euhydra.core.garden.model import (
    Garden,
    Holder,
    Lift,
    Wicking,
)
from euhydra.core.layout.heads import Hanging, hanging_on
from euhydra.core.library import Library

PEG_EVERY_M = 1.0
HOSE_VALVE = "Shut-off valve, hose thread"
SOLD_AS = {16: "16 mm (half-inch)", 20: "20 mm (three-quarter-inch)", 25: "25 mm (one-inch)"}


def head_parts(count: Count, garden: Garden) -> None:
    """The head assemblies: each timer with its batteries, and what stands behind its valves."""
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


def pump_parts(count: Count, garden: Garden, lift: Lift) -> None:
    """A pump and what goes with it."""
    kind = count.library.pumps[lift.kind]
    heads = sum(one.heads for one in hanging_on(garden, count.library, lift.draws_from))
    count.add("pump", detail=kind.name, price=kind.price, variant=lift.kind)
    count.add("check-valve")
    if kind.family != "submersible":
        count.add("suction-hose", max(lift.suction_m, 0.5),
                  "Suction hose, {}, stiff", size=lift.suction_mm, kind="hole",
                  sold=f"{lift.suction_mm:.0f} mm")
        count.add("foot-valve")
        count.add("clamp", 2)
    if lift.control == "pressure-switch" and kind.family == "transfer":
        count.add("pressure-switch")
    if lift.control == "float" and kind.family != "submersible":
        count.add("float-switch")
    if lift.regulator_kpa > 0:
        count.add("regulator", heads)
    if lift.power == "mains":
        count.add("residual-current")
        return
    count.add("pump-battery", detail=f"Battery, 12 V, {lift.battery_wh:.0f} Wh"
              if lift.battery_wh > 0 else "")
    count.add("fuse")
    if lift.power == "panel":
        count.add("panel", detail=f"Panel, {lift.panel_w:.0f} W" if lift.panel_w > 0 else "")
        count.add("charge-controller")


HAND_PARTS = {"valve": "valve", "inline-filter": "inline-filter", "splitter": "splitter"}


def line_parts(count: Count, garden: Garden) -> None:
    """Pipe by the metre, and every fitting on it."""
    kinds = Counter(f.kind for f in garden.fittings)
    metres_of: dict[str, float] = {}
    for line in garden.lines:
        laid = count.library.tubes[line.tube]
        metres_of[line.tube] = metres_of.get(line.tube, 0.0) + line.length_m
        count.add("tube", line.length_m, laid.name, _tube_reason(line.tube, count.library),
                  laid.price, laid.roll_m, variant=line.tube)
    for (wide, narrow), times in sorted(reducers(garden, count.library).items()):
        count.add("reducer", times, f"Reducing coupler, {SOLD_AS[wide]} to {SOLD_AS[narrow]}",
                  variant=f"{wide}-{narrow}")
    rolls = {key: math.ceil(math.ceil(metres * PIPE_SPARE) / count.library.tubes[key].roll_m)
             for key, metres in metres_of.items() if count.library.tubes[key].roll_m > 0}
    if joins := sum(n - 1 for n in rolls.values() if n > 1):
        count.add("coupling", joins)
    count.add("tee", kinds["barb-tee"])
    count.add("elbow", kinds["barb-elbow"])
    count.add("flush-end", kinds["flush-end"])
    if kinds["end-plug"]:
        count.add("end-plug", kinds["end-plug"])
        count.add("punch-barb", kinds["end-plug"])
    outlet_parts(count, garden)
    count.add("peg", math.ceil(sum(metres_of.values()) / PEG_EVERY_M))
    for fitting in garden.fittings:
        if fitting.hand and fitting.kind in HAND_PARTS:
            count.add(HAND_PARTS[fitting.kind])
    count.add("spare", 3)
    count.add("plugged-tee", max(kinds["plugged-tee"], 1))
    for key in ("tee", "elbow", "flush-end"):
        count.entries = {k: v for k, v in count.entries.items() if k[0] != key or v[0] > 0}


def outlet_parts(count: Count, garden: Garden) -> None:
    """Outlets that are put in, and a few to spare; built-in ones come with their tube."""
    built_in = {tube.outlet for tube in count.library.tubes.values() if tube.outlet}
    lines = {line.id: line for line in garden.lines}
    for run in garden.outlets:
        tube = count.library.tubes[lines[run.line].tube]
        if tube.outlet and run.kind in built_in:
            continue
        kind = count.library.outlets[run.kind]
        count.add("dripper", run.points * run.each, kind.name, price=kind.price,
                  variant=run.kind)
    loose_outlets = sum(run.points * run.each for run in garden.outlets
                if not count.library.tubes[lines[run.line].tube].outlet)
    if loose_outlets:
        count.add("spare-dripper", max(LEAST_SPARE, math.ceil(loose_outlets / OUTLETS_A_SPARE)))


def mix_parts(count: Count, garden: Garden) -> None:
    """Mix for everything in pots, by volume, and the pebbles under float-valve pots."""
    litres: dict[str, float] = {}
    pebbles = 0.0
    for plot in garden.plots:
        if isinstance(plot, Holder):
            litres[plot.soil] = litres.get(plot.soil, 0.0) + mix_l(plot)
        if isinstance(plot, Wicking) and plot.kind == "float-pots":
            pebbles += plot.count * math.pi / 4 * plot.diameter_m**2 * PEBBLES_M * 1000
    for soil, total in litres.items():
        count.add("mix", math.ceil(total / SACK_L),
                  count.library.soils[soil].name + ", sacks of {}", size=SACK_L, kind="volume",
                  sold=f"{SACK_L:.0f} L")
    if pebbles:
        count.add("pebbles", math.ceil(pebbles / BAG_L))


def tools(count: Count, garden: Garden) -> None:
    """What is used and may be borrowed, each hole saw by its size."""
    bores = {round(m.drill_mm) for store in garden.stores for m in marks(garden, store)
             if m.drill_mm > 0}
    for bore in sorted(bores):
        count.add("hole-saw", 1, "Hole saw, {}", size=bore, kind="hole")
    if garden.stores:
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
