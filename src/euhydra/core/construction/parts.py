"""The counted parts list, from what was laid."""

from __future__ import annotations

import math
import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace

from euhydra.core.construction.joints import own_head, reducers
from euhydra.core.construction.setting_out import marks
from euhydra.core.demand.soil import mix_l
from euhydra.core.garden.model import (
    POTTED,
    Drain,
    Garden,
    Lift,
    Roof,
    Store,
    Tap,
    Wicking,
    Zone,
)
from euhydra.core.garden.stock import UNPRICED, Holding
from euhydra.core.layout.work import stem
from euhydra.core.library import Library
from euhydra.core.storage.shapes import SHAPES
from euhydra.core.storage.vessel import length_m, width_m
from euhydra.core.units import NNBSP, System, show

PIPE_SPARE = 1.05  # five in a hundred for cuts, from memory
PEG_EVERY_M = 1.0
NEEDS = ("must", "optional", "tool")
SACK_L, BAG_L, PEBBLES_M = 50.0, 10.0, 0.05  # common practice
OUTLETS_A_SPARE, LEAST_SPARE = 20, 2  # from memory
HOSE_VALVE = "Shut-off valve, hose thread"
SLAB_M = 0.4
SOLD_AS = {16: "16 mm (half-inch)", 20: "20 mm (three-quarter-inch)", 25: "25 mm (one-inch)"}
VESSEL_PRICE, LITRE_PRICE = 15.0, 0.14  # invented price book


@dataclass(frozen=True)
class PartLine:
    """So many of a thing. ``quantity`` is pieces, or metres when ``sold_by`` is "metre".

    ``price`` is a piece's or a metre's: the gardener's own where ``own_price`` says so, else from
    an invented price book; they ``have`` so many already. ``roll_m`` is the roll that a
    pipe is sold in (0: none); ``swap`` what may stand in its place, if anything.
    """

    id: str
    key: str
    name: str
    quantity: float
    sold_by: str
    need: str
    reason: str
    price: float
    have: float = 0.0
    own_price: bool = False
    roll_m: float = 0.0
    swap: str = ""

    @property
    def to_buy(self) -> float:
        """How much is still to be bought."""
        return max(self.quantity - self.have, 0.0)

    @property
    def rolls(self) -> int:
        """Rolls to buy; 0 where it is not sold in rolls."""
        return math.ceil(self.to_buy / self.roll_m - 1e-9) if self.roll_m > 0 else 0

    @property
    def offcut_m(self) -> float:
        """What is left over of the last roll."""
        return self.rolls * self.roll_m - self.to_buy if self.rolls else 0.0

    @property
    def cost(self) -> float:
        """What that costs, pipe by the whole roll."""
        return (self.to_buy + self.offcut_m) * self.price


def cost_of(parts: Sequence[PartLine], need: str = "must") -> float:
    """What is still to be bought of the must-haves, or of the optional parts, costs together."""
    return sum(part.cost for part in parts if part.need == need)


def part_id(key: str, variant: str = "") -> str:
    """What a line of the list goes by, whatever it is called: its part, and which of its kind."""
    slug = re.sub(r"[^a-z0-9]+", "-", f"{key} {variant}".lower()).strip("-")
    return stem(slug)


def parts_list(garden: Garden, library: Library) -> tuple[PartLine, ...]:
    """Must-haves first, then optional ones, each with its reason."""
    count = _Count(library, garden.units)
    _water_parts(count, garden)
    for zone in garden.zones:
        _head_parts(count, garden, zone)
    for lift in garden.lifts:
        _pump_parts(count, garden, lift)
    _line_parts(count, garden)
    _mix_parts(count, garden)
    _tools(count, garden)
    held = {holding.id: holding for holding in garden.holdings}
    return tuple(sorted((_noted(line, held.get(line.id)) for line in count.lines()),
                        key=lambda part: NEEDS.index(part.need)))


def _noted(line: PartLine, holding: Holding | None) -> PartLine:
    if holding is None:
        return line
    own = holding.price != UNPRICED
    return replace(line, have=holding.have, own_price=own,
                   price=holding.price if own else line.price)


@dataclass(frozen=True)
class Cut:
    """So many like pieces of a tube."""

    tube: str
    length_m: float
    pieces: int
    where: str


def cut_list(garden: Garden, library: Library) -> tuple[Cut, ...]:
    """Pieces of pipe to cut, those of like tube, length and place together, longest first."""
    names = {p.id: p.name for p in garden.plots} | {z.id: z.name for z in garden.zones}
    pieces = Counter((library.tubes[line.tube].name, round(line.length_m, 2),
                      names[line.plot or line.zone]) for line in garden.lines)
    return tuple(sorted((Cut(tube, length, n, where)
                         for (tube, length, where), n in pieces.items() if length > 0),
                        key=lambda cut: (cut.tube, -cut.length_m, cut.where)))


class _Count:
    def __init__(self, library: Library, system: System) -> None:
        self.library, self.system = library, system
        self.entries: dict[tuple[str, str], tuple[float, str, float, float]] = {}
        self.shown: dict[tuple[str, str], str] = {}

    def add(self, key: str, quantity: float = 1, detail: str = "", reason: str = "",
            price: float | None = None, roll_m: float = 0.0, *, size: float = 0.0,
            kind: str = "", sold: str = "", variant: str = "") -> None:
        """``detail`` and ``price`` replace the part's general ones; unlike ones stay apart.

        That is by their ``variant``, a key of a table, or by the detail where there is none. A
        detail's "{}" is filled with its ``size``, of a kind, in the garden's units; what is
        ``sold`` by a size is called by that too. The line goes by the same id in either system.
        """
        part = self.library.parts[key]
        name = detail.replace("{}", show(size, kind, "metric") if kind else "").replace(NNBSP, "")
        which = key, variant or name
        so_far, why, *_ = self.entries.get(which, (0.0, "", 0.0, 0.0))
        self.entries[which] = (so_far + quantity, reason or why,
                               part.price if price is None else price, roll_m)
        self.shown[which] = name or part.name
        if kind:
            own = show(size, kind, self.system)
            both = f"{sold} ({own})" if sold and self.system == "us" else own
            self.shown[which] = detail.replace("{}", both)

    def lines(self) -> list[PartLine]:
        out = []
        for (key, which), (quantity, reason, price, roll_m) in self.entries.items():
            part = self.library.parts[key]
            if part.sold_by == "metre":
                quantity = math.ceil(quantity * PIPE_SPARE)
            out.append(PartLine(part_id(key, which), key, self.shown[key, which], quantity,
                                part.sold_by, part.need, reason or part.reason, price,
                                roll_m=roll_m, swap=part.swap))
        return out


JOINT_PARTS = {"link": "link-hose", "siphon": "siphon", "overflow": "link-hose",
               "float": "float-valve"}


def _water_parts(count: _Count, garden: Garden) -> None:
    """Stores, what joins them, and what brings them water."""
    for store in garden.stores:
        _store_parts(count, store)
    for joint in garden.joints:
        count.add(JOINT_PARTS[joint.kind])
        if JOINT_PARTS[joint.kind] == "link-hose":
            count.add("bulkhead", 2 if joint.kind == "link" else 1)
            count.add("clamp", 2)
    for roof in garden.roofs:
        _roof_parts(count, roof)
    count.add("label", len(garden.zones))
    for tap in garden.taps:
        _tap_parts(count, tap, sum(zone.source == tap.id for zone in garden.zones))
    for drain in garden.drains:
        _drain_parts(count, drain)


def _store_parts(count: _Count, store: Store) -> None:
    count.add("barrel", store.count, _vessel(store) + ", {}, with lid and spigot",
              price=round(VESSEL_PRICE + LITRE_PRICE * store.volume_l),
              size=store.volume_l, kind="volume")
    if store.stand_m > 0:
        count.add("stand")
        count.add("footing", store.count * math.ceil(length_m(store) / SLAB_M)
                  * math.ceil(width_m(store) / SLAB_M))
    if store.count > 1:
        count.add("bottom-link", store.count - 1)
        count.add("clamp", 2 * (store.count - 1))
    count.add("bulkhead")  # the overflow's
    if store.hose_m > 0:
        count.add("second-spigot")
    count.add("overflow")
    count.add("clamp")
    count.add("screen", 1 + store.count)
    count.add("child-lock", store.count)


def _roof_parts(count: _Count, roof: Roof) -> None:
    led = [spout for spout in roof.downspouts if spout.to]
    if led:
        count.add("diverter", len(led))
    if led and roof.first_flush_mm > 0:
        count.add("first-flush")
    if roof.guard == "none":
        count.add("gutter-guard", max(roof.width_m, roof.depth_m))


def _tap_parts(count: _Count, tap: Tap, zones: int) -> None:
    if tap.tops_up:
        count.add("air-gap")
    # Behind each timer, so that none of them stands under constant pressure.
    count.add("backflow", max(1, zones))
    if not tap.tops_up and tap.regulator_kpa > 0:
        count.add("regulator", zones)


def _vessel(store: Store) -> str:
    return SHAPES[store.shape].sold_as


def _drain_parts(count: _Count, drain: Drain) -> None:
    count.add("three-way")
    if drain.school == "drum":
        count.add("drum", detail="Surge drum, {}, with a tight lid", size=drain.drum_l,
                  kind="volume")
        if drain.empties_by == "pump":
            count.add("float-pump")
        return
    chips = sum(b.length_m * b.width_m * b.depth_m for b in drain.basins) * 1000
    count.add("mulch", math.ceil(chips / 50))


def _head_parts(count: _Count, garden: Garden, zone: Zone) -> None:
    timer = count.library.timers[garden.timer]
    alike = [z for z in garden.zones if z.source == zone.source]
    if zone is alike[0] and len(alike) > 1:
        count.add("splitter", len(alike) - 1)
    if zone.timed and timer.style == "hand":
        count.add("valve", detail=HOSE_VALVE, variant="hose-thread",
                  reason="Opened and shut by hand; a kitchen timer in the pocket helps.")
    elif zone.timed:
        count.add("timer", detail=timer.name, price=timer.price, variant=garden.timer)
        count.add("battery", reason="Fresh batteries each spring: a flat one leaves the valve as "
                                    "it stood.")
    else:
        count.add("valve", detail=HOSE_VALVE, variant="hose-thread",
                  reason="Shuts the row off while it is mended; it stands open.")
    screen = count.library.fittings[zone.filter]
    count.add("filter", detail=screen.name, price=screen.price, variant=zone.filter)
    count.add("adapter")
    for part in own_head(garden, count.library, zone):
        if part.role == "thread":
            count.add("thread-adapter", detail=part.name)


def _pump_parts(count: _Count, garden: Garden, lift: Lift) -> None:
    kind = count.library.pumps[lift.kind]
    zones = sum(zone.source == lift.draws_from for zone in garden.zones)
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
        count.add("regulator", zones)
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


def _line_parts(count: _Count, garden: Garden) -> None:
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
    _outlet_parts(count, garden)
    count.add("peg", math.ceil(sum(metres_of.values()) / PEG_EVERY_M))
    for fitting in garden.fittings:
        if fitting.hand and fitting.kind in HAND_PARTS:
            count.add(HAND_PARTS[fitting.kind])
    count.add("spare", 3)
    count.add("plugged-tee", max(kinds["plugged-tee"], 1))
    for key in ("tee", "elbow", "flush-end"):
        count.entries = {k: v for k, v in count.entries.items() if k[0] != key or v[0] > 0}


def _outlet_parts(count: _Count, garden: Garden) -> None:
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


def _mix_parts(count: _Count, garden: Garden) -> None:
    """Mix for everything in pots, by volume, and the pebbles under float-valve pots."""
    litres: dict[str, float] = {}
    pebbles = 0.0
    for plot in garden.plots:
        if isinstance(plot, POTTED):
            litres[plot.soil] = litres.get(plot.soil, 0.0) + mix_l(plot)
        if isinstance(plot, Wicking) and plot.kind == "float-pots":
            pebbles += plot.count * math.pi / 4 * plot.diameter_m**2 * PEBBLES_M * 1000
    for soil, total in litres.items():
        count.add("mix", math.ceil(total / SACK_L),
                  count.library.soils[soil].name + ", sacks of {}", size=SACK_L, kind="volume",
                  sold=f"{SACK_L:.0f} L")
    if pebbles:
        count.add("pebbles", math.ceil(pebbles / BAG_L))


def _tools(count: _Count, garden: Garden) -> None:
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
    return "Carries the water from the barrels to the rows, and across paths."
