"""Build: the kits of what brings water from one thing to another, each cut through to scale."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core import storage
from euhydra.core.construction.facts import Built
from euhydra.core.construction.setting_out import spouts_into
from euhydra.core.garden.model import Garden, Joint, Lift, Store
from euhydra.core.library import Library
from euhydra.core.statements.figures import Amount
from euhydra.core.storage.shapes import SHAPES
from euhydra.core.supply.runoff import flush_chamber_l
from euhydra.core.units import System
from euhydra.web.drawings.scene import Scene

WIDEST_M = 2.0  # of a vessel as it is drawn
EAVE_M = 2.4
APART_M = 0.9
FLOAT_PX, VALVE_PX = 8.0, 6.0


def drawable(thing: Built) -> bool:
    """Whether it is a pump, a joint, or a pipe that downspouts merge into."""
    return thing.sort in ("lift", "joint", "merged")


def drawing(garden: Garden, library: Library, thing: Built, system: System) -> Markup:
    """The kit of a thing that is drawable, cut through."""
    if thing.sort == "joint":
        return _joint(garden, next(j for j in garden.joints if j.id == thing.id), system)
    if thing.sort == "lift":
        return _pump(garden, library, next(p for p in garden.lifts if p.id == thing.id), system)
    return _merged(garden, garden.store_of(thing.id), system)


def _vessel(s: Scene, store: Store, left: float, base: float, full: float) -> float:
    """A store with its water up to a share of its full; its width."""
    wide = min(storage.width_m(store), WIDEST_M)
    if base > 0:
        s.box(left, 0, wide, base, "d-wall")
    s.box(left, base, wide, store.height_m, "d-barrel",
          rx=min(SHAPES[store.shape].corner_px, store.height_m * s.scale / 2))
    s.box(left + 0.01, base + 0.01, wide - 0.02, storage.full_dip_m(store) * full, "d-water")
    return wide


def _merged(garden: Garden, store: Store, system: System) -> Markup:
    """Downspouts under their screens, one sloping pipe, its flush, the store's rim."""
    spouts = len(spouts_into(garden, store))
    wide = min(storage.width_m(store), WIDEST_M)
    along = APART_M * spouts
    top = store.stand_m + store.height_m
    chamber = flush_chamber_l(garden.roofs, store.id)
    under = 0.6 if store.flush_buried and chamber > 0 else 0.0
    s = Scene(system, along + 1.0 + wide, max(EAVE_M, top + 0.5) + 0.2, under)
    s.earth(((along + 0.05, along + 0.55, under),) if under else ())
    high = max(EAVE_M, top + 0.5)
    s.line([(0, high), (along - 0.3, high)], "d-run", stroke_width=5)
    first, last = top + 0.3, top + 0.06
    for i in range(spouts):
        x = 0.2 + i * APART_M
        at = first + (last - first) * x / (along + 0.6)
        s.line([(x, high), (x, at + 0.12), (x + 0.12, at)], "d-pipe")
        s.box(x - 0.05, high - 0.22, 0.1, 0.07, "d-panel")
    s.note(0.2, high - 0.18, "a leaf screen on the downspout" if spouts == 1 else
           "a leaf screen on each of {n} downspouts", n=Amount(spouts, "count"))
    s.line([(0.2, first), (along + 0.6, last)], "d-pipe", stroke_width=7)
    s.note(0.3 + APART_M * (spouts - 1), first, "slanting branches into one pipe of {d}, {m}, "
           "that falls all the way", d=Amount(store.merged_mm, "hole"),
           m=Amount(store.merged_m, "length"))
    if chamber > 0:
        x, foot, head = along + 0.25, -under + 0.05, (0.0 if under else last - 0.05)
        s.box(x, foot, 0.14, head - foot, "d-barrel")
        s.box(x + 0.01, foot, 0.12, (head - foot) * 0.7, "d-grey-fill")
        s.line([(x + 0.07, last), (x + 0.07, head)], "d-pipe")
        s.dot(x + 0.07, foot, 3)
        s.note(x + 0.07, foot, "first flush of {v}, its drip into gravel",
               v=Amount(chamber, "volume", 0))
    left = along + 0.7
    _vessel(s, store, left, store.stand_m, 0.6)
    s.line([(along + 0.6, last), (left + 0.06, last), (left + 0.06, top - 0.05)], "d-pipe")
    s.note(left + 0.06, top - 0.05, "into the store under its rim; what is too much leaves by "
           "its overflow")
    return s.drawn(f"{store.name}: its downspouts merged, cut through")


def _joint(garden: Garden, joint: Joint, system: System) -> Markup:
    """Two stores as high as they stand to each other, and what joins them."""
    a, b = garden.store_of(joint.a), garden.store_of(joint.b)
    low = min(storage.base_z_m(a) - a.stand_m, storage.base_z_m(b) - b.stand_m)
    base_a, base_b = storage.base_z_m(a) - low, storage.base_z_m(b) - low
    wide_a, wide_b = (min(storage.width_m(x), WIDEST_M) for x in (a, b))
    apart = max(min(joint.length_m, 1.2), 0.3)
    top = max(base_a + a.height_m, base_b + b.height_m)
    s = Scene(system, wide_a + apart + wide_b + 0.5, top + 0.35)
    s.earth()
    left_b = 0.3 + wide_a + apart
    _vessel(s, a, 0.3, base_a, 0.85)
    _vessel(s, b, left_b, base_b, 0.6 if joint.kind == "float" else 0.85)
    out, into = 0.3 + wide_a, left_b
    pipe = {"d": Amount(joint.bore_mm, "hole"), "m": Amount(joint.length_m, "length")}
    way = "d-hose"
    end_a, end_b = base_a + joint.end_m, base_b + joint.end_m
    if joint.kind == "siphon":
        over = top + 0.12
        s.line([(out - 0.1, end_a), (out - 0.1, over), (into + 0.1, over), (into + 0.1, end_b)],
               way)
        s.note(out - 0.1, over, "siphon of {d}, {m}: full of water, no bubble in its crest", **pipe)
        s.note(out - 0.1, end_a, "both ends under water, {h} over the base",
               h=Amount(joint.end_m, "small"))
    elif joint.kind == "link":
        s.line([(out, end_a), (into, end_b)], way)
        s.dot(out, end_a, 4)
        s.dot(into, end_b, 4)
        s.note(into, end_b, "link of {d}, {m}: a gasketed bulkhead at each end", **pipe)
        s.note(out, end_a, "{h} over the base", h=Amount(joint.end_m, "small"))
    elif joint.kind == "overflow":
        full, rim = base_a + storage.full_dip_m(a), base_b + b.height_m
        s.line([(out, full), (into + 0.08, max(rim, 0)), (into + 0.08, rim - 0.08)], way)
        s.dot(out, full, 4)
        s.note(out, full, "overflow of {d} where it is full, falling all the way", **pipe)
        s.note(into + 0.08, rim - 0.04, "through the lid, a screen over its end")
    else:
        rim = base_b + b.height_m
        s.line([(out, end_a), (into - 0.06, end_a), (into - 0.06, rim - 0.12),
                (into + 0.1, rim - 0.12)], way)
        s.dot(out, end_a, 4)
        s.dot(into + 0.16, rim - 0.16, FLOAT_PX, "d-tap")
        s.note(into + 0.16, rim - 0.16, "float valve under the rim: it shuts when full")
        s.note(out, end_a, "hose of {d}, {m}, from {h} over the base", **pipe,
               h=Amount(joint.end_m, "small"))
    s.high(0.18, base_a, base_a + a.height_m)
    return s.drawn(f"{joint.name}: cut through")


def _pump(garden: Garden, library: Library, pump: Lift, system: System) -> Markup:
    """A pump in its vessel or beside it: suction, check valve, power."""
    store, kind = garden.store_of(pump.draws_from), library.pumps[pump.kind]
    hangs = kind.family == "submersible"
    beside = 1.4
    inlet = max(store.stand_m + store.outlet_m + pump.over_outlet_m, 0.0)
    top = store.stand_m + store.height_m
    s = Scene(system, min(storage.width_m(store), WIDEST_M) + beside + 0.4,
              max(top, inlet + 0.4) + 0.3)
    s.earth()
    base = store.stand_m
    wide = _vessel(s, store, 0.3, base, 0.8)
    right = 0.3 + wide
    foot = base + store.outlet_m
    if hangs:
        x, z = 0.3 + wide / 2, base + 0.04
        s.box(x - 0.08, z, 0.16, 0.18, "d-pump")
        s.line([(x, z + 0.18), (x, top + 0.12), (right + 0.5, top + 0.12)], "d-hose")
        s.dot(x + 0.14, z + 0.3, FLOAT_PX, "d-tap")
        s.note(x + 0.14, z + 0.3, "its float stops it with {h} of water left",
               h=Amount(pump.reserve_m, "small"))
        s.note(x, z + 0.1, kind.name)
        valve = (right + 0.3, top + 0.12)
    else:
        x = right + 0.5
        s.box(x, inlet, 0.26, 0.18, "d-pump")
        s.line([(right - 0.12, foot), (right + 0.2, foot + 0.02), (x, inlet + 0.09)], "d-hose")
        s.dot(right - 0.12, foot, 5)
        s.note(right - 0.12, foot, "foot valve and strainer, {h} of water left over it",
               h=Amount(pump.reserve_m, "small"))
        s.note(right + 0.2, foot + 0.02, "stiff suction hose of {d}, {m}, no dip in it",
               d=Amount(pump.suction_mm, "hole"), m=Amount(pump.suction_m, "length"))
        s.line([(x + 0.26, inlet + 0.12), (x + 0.7, inlet + 0.12)], "d-hose")
        s.note(x + 0.13, inlet + 0.18, f"{kind.name}, filled with water before it is plugged in")
        valve = (x + 0.45, inlet + 0.12)
    s.dot(*valve, VALVE_PX)
    s.note(*valve, "check valve, its arrow away from the pump")
    box = (right + 1.0, max(top - 0.16, inlet + 0.3))
    s.box(box[0] + 0.07, 0, 0.06, box[1], "d-wall")
    s.box(*box, 0.2, 0.16, "d-wall")
    cable = [(box[0], box[1] + 0.08), (x + 0.05, box[1] + 0.08),
             (x + 0.05, base + 0.22 if hangs else inlet + 0.18)]
    if hangs:
        cable[1:1] = [(right + 0.1, box[1] + 0.08), (right + 0.1, top + 0.06)]
        cable[3] = (x + 0.05, top + 0.06)
    s.line(cable, "d-ink")
    s.note(box[0] + 0.1, box[1] + 0.16, "residual-current protection, by a licensed electrician"
           if pump.power == "mains" else "battery in a shut box, its fuse at the pole")
    return s.drawn(f"{pump.name}: cut through")

