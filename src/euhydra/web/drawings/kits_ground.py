"""Build: the kits of what stores water and of what is dug, each cut through to scale."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core import storage
from euhydra.core.assessment.assess import Assessment
from euhydra.core.construction.facts import Built
from euhydra.core.construction.facts_plots import DRAIN_MM
from euhydra.core.construction.facts_water import AIR_GAP_M
from euhydra.core.construction.setting_out import BELOW_MARK_M, spouts_into
from euhydra.core.garden.model import Drain, Garden, RainGarden, Store, WetArea
from euhydra.core.hydraulics import drainage
from euhydra.core.library import Library
from euhydra.core.statements.figures import Amount
from euhydra.core.storage.shapes import SHAPES
from euhydra.core.units import System
from euhydra.web.drawings.scene import Scene

UNDER_SURFACE_M = 0.11  # a floating intake draws from 10 to 13 cm down, common practice
SUMP_WIDE_M = 0.6


def drawable(thing: Built) -> bool:
    """Whether it is a store, a drum, a rain garden, or wet ground that is drained or pumped."""
    return thing.sort in ("store", "rain-garden") or (thing.sort, thing.kind) in (
        ("drain", "drum"), ("wet-area", "drain"), ("wet-area", "pump"))


def drawing(a: Assessment, thing: Built, system: System) -> Markup:
    """The kit of a thing that is drawable, cut through."""
    garden = a.garden
    if thing.sort == "store":
        return _store(garden, garden.store_of(thing.id), system)
    if thing.sort == "drain":
        return _drum(next(d for d in garden.drains if d.id == thing.id), system)
    if thing.sort == "rain-garden":
        return _hollow(next(g for g in garden.rain_gardens if g.id == thing.id), system)
    return _wet_ground(next(w for w in garden.wet_areas if w.id == thing.id), a.library, system)


def _store(garden: Garden, store: Store, system: System) -> Markup:
    """A vessel on its stand: its holes, its screens, its intake."""
    wide = min(storage.width_m(store), 2.0)
    base, top = store.stand_m, store.stand_m + store.height_m
    s = Scene(system, wide + 0.7, top + 0.12)
    left = 0.3
    s.earth()
    if store.stand_m > 0:
        s.box(left - 0.03, base - min(0.05, base), wide + 0.06, min(0.05, base), "d-bed")
        for x in (left, left + wide - 0.07):
            s.box(x, 0, 0.07, max(base - 0.05, 0), "d-wall")
    shape = SHAPES[store.shape]
    s.box(left, base, wide, store.height_m, "d-barrel",
          rx=min(shape.corner_px, store.height_m * s.scale / 2))
    full = storage.full_dip_m(store)
    water = base + full * 0.75
    s.box(left + 0.01, base + 0.01, wide - 0.02, water - base - 0.01, "d-water")
    out = base + store.outlet_m
    if store.intake == "floating":
        deep = max(water - UNDER_SURFACE_M, out)
        s.line([(left + wide - 0.02, out), (left + wide * 0.55, out + 0.02),
                (left + wide * 0.4, deep)], "d-hose")
        s.dot(left + wide * 0.4, water, 7, "d-tap")
        s.note(left + wide * 0.4, deep, "strainer {h} under the surface, hung from its float",
               h=Amount(UNDER_SURFACE_M, "small"))
    if spouts_into(garden, store):
        s.line([(0.0, top - BELOW_MARK_M + 0.06), (left + 0.01, top - BELOW_MARK_M)], "d-pipe")
        s.note(left + 0.02, top - BELOW_MARK_M, "inlet {h} under the rim, falling all the way",
               h=Amount(BELOW_MARK_M, "small"))
    s.line([(left + wide, base + full), (left + wide + 0.2, base + full),
            (left + wide + 0.26, base + full - 0.3)], "d-pipe")
    s.dot(left + wide, base + full, 4)
    s.note(left + wide, base + full, "overflow, {d}, at {h} over the base",
           d=Amount(store.overflow_mm, "hole"), h=Amount(full, "small"))
    if store.hose_m > 0:
        s.dot(left + wide, base + store.hose_m, 4)
        s.note(left + wide, base + store.hose_m, "upper outlet, for a hose: {h}",
               h=Amount(store.hose_m, "small"))
    s.dot(left + wide, out, 4)
    s.line([(left + wide, out), (left + wide + 0.14, out)], "d-ink", stroke_width=5)
    s.note(left + wide + 0.1, out, "gasket soaped, spigot hand tight: {h} over the base",
           h=Amount(store.outlet_m, "small"))
    if store.lid == "planter":
        s.box(left, top, wide, 0.1, "d-bed")
        s.plant(left + wide / 2, top + 0.1, 34)
        s.note(left + wide / 2, top + 0.1, "planted lid, its drain screened")
    s.high(0.18, base, top)
    if base > 0:
        s.high(0.18, 0, base)
    return s.drawn(f"{store.name}: holes and fittings, cut through")


def _drum(drain: Drain, system: System) -> Markup:
    """A drum shut tight, the machine's pipe ending in air over its rim."""
    drum = drain.drum
    wide, base = storage.width_m(drum), drain.stand_m
    top = base + drum.height_m
    s = Scene(system, wide + 0.9, top + 0.25)
    left = 0.35
    s.earth()
    if base > 0:
        s.box(left, 0, wide, base, "d-wall")
    s.box(left, base, wide, drum.height_m, "d-barrel", rx=6)
    s.box(left + 0.01, base + 0.01, wide - 0.02, drum.height_m * 0.4, "d-grey-fill")
    s.box(left - 0.02, top, wide + 0.04, 0.03, "d-wall")
    gap = AIR_GAP_M + 0.03
    s.line([(0.0, top + gap + 0.14), (left + wide * 0.4, top + gap + 0.08),
            (left + wide * 0.4, top + gap)], "d-pipe-grey")
    out = base + drain.drum_outlet_m
    s.line([(left + wide, out), (left + wide + 0.35, out)], "d-pipe-grey")
    s.dot(left + wide, out, 4)
    s.high(0.2, base, top)
    s.note(left + wide * 0.4, top + gap, "the pipe ends {h} over the rim, through air",
           h=Amount(AIR_GAP_M, "small"))
    s.note(left + wide, top + 0.015, "lid that locks; a screen round every opening")
    s.note(left + wide, out, "outlet {h} over the base, gasket soaped",
           h=Amount(drain.drum_outlet_m, "small"))
    s.note(left + wide + 0.3, out, "then filter and header; lint out of it every week or two")
    return s.drawn(f"{drain.name}: the drum, cut through")


def _hollow(hollow: RainGarden, system: System) -> Markup:
    """A level hollow: stones where water comes in, a low place where too much leaves."""
    wide, deep = min(hollow.length_m, 3.0), hollow.depth_m
    s = Scene(system, wide + 1.0, 0.45, deep + 0.25)
    s.earth(((0.5, 0.5 + wide, deep),))
    s.box(0.5, -deep, wide, deep * 0.8, "d-water")
    for k in range(5):
        s.dot(0.52 + 0.07 * k, -deep + 0.02 + 0.02 * (k % 2), 6, "d-wall")
    s.line([(0.0, 0.12), (0.5, 0.02)], "d-pipe")
    for k in range(4):
        s.plant(0.5 + wide * (0.3 + 0.2 * k), -deep, 40)
    s.high(0.42, -deep, 0)
    s.note(0.4, 0.04, "overflow comes in over stones")
    s.note(0.5 + wide * 0.7, -deep * 0.3, "it holds {v} to its rim",
           v=Amount(1000 * hollow.length_m * hollow.width_m * deep, "volume"))
    s.note(0.5 + wide * 0.9, -deep, "floor level, {a} by {b}",
           a=Amount(hollow.length_m, "length"), b=Amount(hollow.width_m, "length"))
    s.note(0.5 + wide, -0.02, "the one low place of its rim: too much leaves here")
    return s.drawn(f"{hollow.name}: the hollow, cut through")


def _wet_ground(area: WetArea, library: Library, system: System) -> Markup:
    """Gravel, drain and sump of wet ground."""
    plan = drainage.wet_plan(area, library)
    gravel = drainage.GRAVEL_M if plan.way == "pump" else 0.3
    deep = gravel + (drainage.SUMP_DEPTH_M if plan.way == "pump" else 0.1)
    wide = 3.0
    s = Scene(system, wide + 1.2, 0.55, deep + 0.2)
    dug = ((0.2, 0.2 + wide, gravel), *(((0.2 + wide, 0.2 + wide + SUMP_WIDE_M, deep),)
                                        if plan.way == "pump" else ()))
    s.earth(dug)
    s.box(0.2, -gravel, wide, gravel, "d-gravel")
    s.line([(0.2, -gravel + 0.03), (0.2 + wide, -gravel + 0.01)], "d-still")
    s.note(0.2 + wide * 0.4, -gravel * 0.4, "{g} of washed gravel on filter fabric",
           g=Amount(gravel, "small"))
    s.note(0.2 + wide * 0.7, -gravel + 0.02, "perforated drain of {d}, its fall towards the end",
           d=Amount(plan.drain_mm or DRAIN_MM, "hole"))
    right = 0.2 + wide
    if plan.way == "pump":
        s.box(right, -deep, SUMP_WIDE_M, deep, "d-panel")
        s.line([(right, 0), (right, -deep), (right + SUMP_WIDE_M, -deep),
                (right + SUMP_WIDE_M, 0)], "d-ink", stroke_width=3)
        s.box(right - 0.02, 0, SUMP_WIDE_M + 0.04, 0.04, "d-wall")
        s.box(right + 0.15, -deep + 0.08, 0.18, 0.22, "d-pump")
        s.line([(right + 0.24, -deep + 0.3), (right + 0.24, 0.2), (right + 0.9, 0.2)], "d-pipe")
        s.high(right + SUMP_WIDE_M + 0.14, -deep, -gravel)
        s.note(right + SUMP_WIDE_M, 0.02, "lid that locks and carries a person")
        s.note(right + 0.5, 0.2, "discharge pipe, {m}, check valve at the pump",
               m=Amount(area.outfall_m, "length", 0))
        s.note(right + 0.3, -deep + 0.2, "pump on a brick, its float free")
        s.note(right + SUMP_WIDE_M, -deep + 0.05, "a shell: a bare pit caves in")
    else:
        s.line([(right, -gravel + 0.01), (right + 0.8, -gravel - 0.05)], "d-pipe")
        s.note(right + 0.5, -gravel - 0.03, "closed pipe, {m}, to where it may go",
               m=Amount(area.outfall_m, "length", 0))
    return s.drawn(f"{area.name}: gravel, drain and what takes it away")
