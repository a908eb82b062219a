"""Counting: what every thing of a garden takes, piece by piece."""

from __future__ import annotations

import math

from euhydra.core.construction.parts import (
    LITRE_PRICE,
    PIPE_SPARE,
    VESSEL_PRICE,
    PartLine,
    part_id,
)
from euhydra.core.garden.model import (
    Drain,
    Garden,
    Roof,
    Standpipe,
    Store,
)
from euhydra.core.layout.heads import hanging_on
from euhydra.core.library import Library
from euhydra.core.storage.shapes import SHAPES
from euhydra.core.storage.vessel import length_m, width_m
from euhydra.core.supply.runoff import flush_chamber_l
from euhydra.core.units import NNBSP, System, show

SLAB_M = 0.4


class Count:
    """Lines of the list as they are counted; like things add up to one line."""

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
        """What has been counted."""
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


def water_parts(count: Count, garden: Garden) -> None:
    """Stores, what joins them, and what brings them water."""
    for store in garden.stores:
        _store_parts(count, store)
    for joint in garden.joints:
        count.add(JOINT_PARTS[joint.kind])
        if JOINT_PARTS[joint.kind] == "link-hose":
            count.add("bulkhead", 2 if joint.kind == "link" else 1)
            count.add("clamp", 2)
    for roof in garden.roofs:
        _roof_parts(count, roof, garden.merging)
    for store in (s for s in garden.stores if s.merges):
        _merged_parts(count, garden, store)
    if signed := sum(not garden.on_mains(zone.source) for zone in garden.zones):
        count.add("label", signed)
    for tap in garden.under_pressure:
        _tap_parts(count, tap, sum(one.heads for one in hanging_on(
            garden, count.library, tap.id)))
    for drain in garden.drains:
        _drain_parts(count, drain)


def _store_parts(count: Count, store: Store) -> None:
    count.add("barrel", store.count, _vessel(store) + ", {}, with lid and spigot",
              price=round(VESSEL_PRICE + LITRE_PRICE * store.volume_l),
              size=store.volume_l, kind="volume")
    if store.stand_m > 0:
        count.add("stand")
        count.add("footing", store.count * math.ceil(length_m(store) / SLAB_M)
                  * math.ceil(width_m(store) / SLAB_M))
    if store.count > 1:
        between = store.count - 1
        if store.linked == "siphon":
            count.add("siphon", between)
        else:
            count.add("bottom-link", between)
            count.add("clamp", 2 * between)
    count.add("bulkhead")  # the overflow's
    if store.hose_m > 0:
        count.add("second-spigot")
    count.add("overflow")
    count.add("clamp")
    count.add("screen", 1 + store.count)
    count.add("child-lock", store.count)


def _merged_parts(count: Count, garden: Garden, store: Store) -> None:
    """One pipe with a branch for each further downspout, and one first flush for all of them."""
    led = sum(spout.to == store.id for roof in garden.roofs for spout in roof.downspouts)
    if not led:
        return
    count.add("merged-pipe", store.merged_m, size=store.merged_mm, kind="hole",
              detail="Rain pipe, {}, into the store")
    if led > 1:
        count.add("wye", led - 1)
    count.add("leaf-screen", led)
    if litres := flush_chamber_l(garden.roofs, store.id):
        count.add("first-flush", detail=(
            "Buried flush chamber, {}, with slow drip into gravel" if store.flush_buried else
            "First-flush chamber, {}, with slow drip"), size=litres, kind="volume",
            variant=store.id)


def _roof_parts(count: Count, roof: Roof, merging: frozenset[str]) -> None:
    led = [spout for spout in roof.downspouts if spout.to and spout.to not in merging]
    if led:
        count.add("diverter", len(led))
    if led and roof.first_flush_mm > 0:
        count.add("first-flush")
    if roof.guard == "none":
        count.add("gutter-guard", max(roof.width_m, roof.depth_m))


def _tap_parts(count: Count, tap: Standpipe, heads: int) -> None:
    if tap.tops_up:
        count.add("air-gap")
    # Behind each timer, so that none of them stands under constant pressure.
    count.add("backflow", max(1, heads))
    if not tap.tops_up and tap.regulator_kpa > 0:
        count.add("regulator", heads)


def _vessel(store: Store) -> str:
    return SHAPES[store.shape].sold_as


def _drain_parts(count: Count, drain: Drain) -> None:
    count.add("three-way")
    if drain.school == "drum":
        count.add("drum", detail="Surge drum, {}, with a tight lid", size=drain.drum_l,
                  kind="volume")
        count.add("drum-hose")
        count.add("screen")
        count.add("child-lock", reason="An open drum drowns a child.")
        if drain.stand_m > 0:
            count.add("stand")
        return
    chips = sum(b.length_m * b.width_m * b.depth_m for b in drain.basins) * 1000
    count.add("mulch", math.ceil(chips / 50))
