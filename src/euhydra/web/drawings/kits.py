"""Build: the kits of what stands in vessels, each cut through to scale."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from markupsafe import Markup

from euhydra.core.assessment.assess import Assessment
from euhydra.core.construction.facts import Built, kits_of
from euhydra.core.construction.facts_plots import OVER_RIM_M, OVERFLOW_OVER_M
from euhydra.core.construction.parts import PEBBLES_M
from euhydra.core.garden.model import Pots, Tower, Wicking
from euhydra.core.hydraulics.self_watering import TANK_UP_M
from euhydra.core.statements.figures import Amount
from euhydra.core.units import System
from euhydra.web.drawings import kits_ground, kits_joined
from euhydra.web.drawings.scene import Scene

RAIL_M, BLOCK_M = 0.05, 0.20
CLIPS = 3


def drawable(thing: Built) -> bool:
    """Whether a thing's kit has a drawing of its own."""
    return thing.kind in OF_PLOTS if thing.sort == "plot" else (
        kits_ground.drawable(thing) or kits_joined.drawable(thing))


def drawing(a: Assessment, thing: Built, system: System) -> Markup:
    """The kit of a thing that is drawable, cut through."""
    if kits_joined.drawable(thing):
        return kits_joined.drawing(a.garden, a.library, thing, system)
    if thing.sort != "plot":
        return kits_ground.drawing(a, thing, system)
    bores = {hole.what: hole.mm for kit in kits_of(thing, a.library) for hole in kit.holes}
    return OF_PLOTS[thing.kind](a.garden.plot(thing.id), system, bores)


def _gutter(row: Wicking, system: System, bores: Mapping[str, float]) -> Markup:
    """A bucket on its rails over the gutter, its net pot in the water."""
    wide = max(row.diameter_m + 0.2, row.gutter_mm / 1000 + 0.3)
    gutter, deep = row.gutter_mm / 1000, max(row.gutter_mm / 1000 * 0.7, row.water_m + 0.03)
    floor = BLOCK_M + RAIL_M
    low = floor - deep - 0.01
    s = Scene(system, wide, floor + row.height_m + 0.1)
    mid, net_pot = wide / 2, bores["net pot"] / 1000
    s.earth()
    for side in (-1, 1):
        at = mid + side * (gutter / 2 + 0.05) - (0.1 if side < 0 else 0.0)
        s.box(at, 0, 0.1, BLOCK_M, "d-wall")
        s.box(at + 0.02, BLOCK_M, 0.06, RAIL_M, "d-bed")
    s.box(mid - gutter / 2, low, gutter, deep, "d-panel")
    s.box(mid - gutter / 2, low, gutter, row.water_m, "d-water")
    s.line([(mid - gutter / 2, low + deep), (mid - gutter / 2, low), (mid + gutter / 2, low),
            (mid + gutter / 2, low + deep)], "d-thin")
    left = mid - row.diameter_m / 2
    s.box(left, floor, row.diameter_m, row.height_m, "d-barrel")
    s.box(left + 0.01, floor, row.diameter_m - 0.02, row.height_m * 0.92, "d-soil")
    s.box(mid - net_pot / 2, low + 0.01, net_pot, floor - low - 0.01, "d-soil")
    s.line([(mid - net_pot / 2, floor), (mid - net_pot / 2 + 0.008, low + 0.01),
            (mid + net_pot / 2 - 0.008, low + 0.01), (mid + net_pot / 2, floor)], "d-run")
    s.line([(left, floor + row.height_m / 3), (left + row.diameter_m, floor + row.height_m / 3)],
           "d-still")
    for k in range(3):
        s.dot(left + row.diameter_m * (k + 0.5) / 3, floor + 0.03, 2.4)
    s.plant(mid + row.diameter_m / 4, floor + row.height_m * 0.92, 44)
    s.high(-0.02, floor, floor + row.height_m)
    s.across(floor + row.height_m + 0.06, left, left + row.diameter_m)
    s.note(mid + row.diameter_m / 2, floor + row.height_m * 0.7, "bucket, mix to a finger under "
           "its rim")
    s.note(mid + row.diameter_m / 2, floor + row.height_m / 3, "lower third lightly pressed")
    s.note(left + row.diameter_m * 5 / 6, floor + 0.03, "air holes, {d}, a finger over the floor",
           d=Amount(bores["air holes"], "hole"))
    s.note(mid + net_pot / 2, floor - 0.02, "net pot through a hole of {d}",
           d=Amount(bores["net pot"], "hole"))
    s.note(mid + gutter / 2 + 0.1, BLOCK_M + RAIL_M / 2, "rails carry it, not the gutter")
    s.note(mid + gutter / 2, low + row.water_m, "gutter {w} wide: the float keeps {h}",
           w=Amount(row.gutter_mm, "hole"), h=Amount(row.water_m, "small"))
    return s.drawn(f"{row.name}: a bucket over the gutter, cut through")


def _chain(row: Wicking, system: System, bores: Mapping[str, float]) -> Markup:
    """The float box and the first two buckets, the tube between them."""
    box = min(row.diameter_m, 0.3)
    pitch = row.diameter_m + row.apart_m
    s = Scene(system, box + row.apart_m + 2 * row.diameter_m + row.apart_m,
              row.height_m + 0.2)
    s.earth()
    tube_z = row.water_m / 2
    s.box(0, 0, box, row.height_m * 0.7, "d-barrel")
    s.box(0, 0, box, row.water_m, "d-water")
    s.dot(box * 0.5, row.water_m, 6, "d-rain")
    for k in range(2):
        left = box + row.apart_m + k * pitch
        s.box(left, 0, row.diameter_m, row.height_m, "d-barrel")
        s.box(left, 0, row.diameter_m, row.water_m, "d-water")
        insert = row.water_m + OVERFLOW_OVER_M + 0.01
        s.box(left + 0.01, insert, row.diameter_m - 0.02, row.height_m * 0.92 - insert, "d-soil")
        s.box(left + row.diameter_m * 0.35, 0.005, row.diameter_m * 0.3, insert, "d-soil")
        s.line([(left, insert), (left + row.diameter_m * 0.35, insert)], "d-run")
        s.line([(left + row.diameter_m * 0.65, insert), (left + row.diameter_m, insert)], "d-run")
        s.line([(left - row.apart_m - 0.06, tube_z), (left + 0.08, tube_z)], "d-pipe")
        s.plant(left + row.diameter_m * 0.8, row.height_m * 0.92, 36)
    right = box + row.apart_m + pitch + row.diameter_m
    s.dot(right, row.water_m + OVERFLOW_OVER_M, 3.4)
    s.high(-0.04, 0, row.height_m)
    s.across(row.height_m + 0.12, box + row.apart_m, box + row.apart_m + row.diameter_m)
    s.note(right - 0.02, row.height_m * 0.7, "mix; guards in the corners")
    s.note(right - 0.05, row.water_m + OVERFLOW_OVER_M + 0.012, "folded insert: air under it, its "
           "foot of mix in the water")
    s.note(right, row.water_m + OVERFLOW_OVER_M, "overflow hole, {d}, {h} over the floor",
           d=Amount(bores["overflow"], "hole"), h=Amount(row.water_m + OVERFLOW_OVER_M, "small"))
    s.note(box + row.apart_m + row.diameter_m + row.apart_m / 2, tube_z,
           "tube of {d}, ends slotted, in grommets", d=Amount(row.tube_mm, "hole"))
    s.note(box * 0.5, row.water_m, "float box: a screen, then the valve; it keeps {h}",
           h=Amount(row.water_m, "small"))
    return s.drawn(f"{row.name}: float box and buckets, cut through")


def _float_pots(row: Wicking, system: System, _: Mapping[str, float]) -> Markup:
    """A pot in its tray, the float valve beside it, the height of the tank's last water."""
    tray = row.diameter_m + 0.14
    s = Scene(system, tray + 0.3, max(row.height_m, TANK_UP_M + row.water_m) + 0.15)
    s.earth()
    s.box(0.1, 0, tray, row.water_m + 0.05, "d-panel")
    s.box(0.1, 0, tray, row.water_m, "d-water")
    s.line([(0.1, row.water_m + 0.05), (0.1, 0), (0.1 + tray, 0), (0.1 + tray, row.water_m + 0.05)],
           "d-thin")
    left = 0.12
    s.box(left, 0.01, row.diameter_m, row.height_m, "d-barrel")
    s.box(left + 0.01, 0.01 + PEBBLES_M, row.diameter_m - 0.02, row.height_m * 0.9 - PEBBLES_M,
          "d-soil")
    s.box(left + 0.01, 0.01, row.diameter_m - 0.02, PEBBLES_M, "d-gravel")
    s.plant(left + row.diameter_m * 0.8, row.height_m * 0.9, 40)
    valve = 0.1 + tray - 0.05
    s.dot(valve, row.water_m, 6, "d-rain")
    feed = TANK_UP_M + row.water_m
    s.line([(valve, row.water_m + 0.02), (valve, 0.12), (tray + 0.28, 0.12)], "d-pipe")
    s.line([(0.02, feed), (tray + 0.28, feed)], "d-still")
    s.high(0.03, 0, row.height_m)
    s.across(row.height_m + 0.1, left, left + row.diameter_m)
    s.note(tray + 0.2, feed, "the tank's last water, {h} over the float or more",
           h=Amount(TANK_UP_M, "small"))
    s.note(left + row.diameter_m - 0.02, row.height_m * 0.55, "mix, its foot pressed down")
    s.note(tray + 0.2, 0.12, "tube of {d} from a tee, a filter before the row",
           d=Amount(row.tube_mm, "hole"))
    s.note(valve, row.water_m, "float valve behind a cover: it keeps {h}",
           h=Amount(row.water_m, "small"))
    s.note(left + row.diameter_m - 0.04, 0.03, "{p} of pebbles", p=Amount(PEBBLES_M, "small"))
    return s.drawn(f"{row.name}: a pot in its tray, cut through")


def _tower(row: Tower, system: System, _: Mapping[str, float]) -> Markup:
    """A tower with its riser, its valve at hand height, its clips and outlets."""
    s = Scene(system, row.diameter_m + 0.7, row.height_m + 0.3)
    left = 0.2
    s.earth()
    s.box(left, 0, row.diameter_m, row.height_m, "d-barrel")
    s.box(left + 0.01, 0.03, row.diameter_m - 0.02, row.height_m - 0.05, "d-soil")
    rows = max(2, min(8, row.plants // 3))
    for k in range(rows):
        z = row.height_m * (k + 0.7) / (rows + 0.4)
        s.plant(left + (0.0 if k % 2 else row.diameter_m), z, 22)
    up = left + row.diameter_m + 0.09
    s.line([(up + 0.3, 0.03), (up, 0.03), (up, row.height_m + OVER_RIM_M),
            (left + row.diameter_m / 2, row.height_m + OVER_RIM_M),
            (left + row.diameter_m / 2, row.height_m + 0.01)], "d-pipe")
    valve = min(0.9, row.height_m * 0.6)
    s.box(up - 0.03, valve - 0.02, 0.06, 0.04, "d-tap")
    clips = [row.height_m * (0.25 + 0.33 * k) for k in range(CLIPS)]
    for z in clips:
        s.line([(left + row.diameter_m, z), (up + 0.02, z)], "d-ink", stroke_width=3)
    s.high(0.12, 0, row.height_m)
    s.across(row.height_m + 0.2, left, left + row.diameter_m)
    s.note(left + row.diameter_m / 2, row.height_m + 0.02, "outlets on stakes in the top")
    s.note(up, clips[-1], "clips that open, for the weekly quarter turn")
    s.note(up + 0.03, valve, "a valve each, at hand height: the nearest least open")
    s.note(up, row.height_m * 0.2, "riser, {m} of small tube",
           m=Amount(row.height_m + OVER_RIM_M, "length"))
    s.note(up + 0.2, 0.03, "tee in the tube that goes on to the next")
    return s.drawn(f"{row.name}: a tower with its riser")


def _pots(row: Pots, system: System, _: Mapping[str, float]) -> Markup:
    """Two pots at a wall, the tube behind them, a riser and a dripper up each."""
    pitch = row.diameter_m + row.apart_m
    s = Scene(system, 2 * pitch + 0.3, row.height_m + 0.25)
    s.earth()
    low = 0.06
    for k in range(2):
        left = 0.2 + k * pitch
        s.box(left, 0.02, row.diameter_m, row.height_m, "d-barrel")
        s.box(left + 0.01, 0.03, row.diameter_m - 0.02, row.height_m * 0.9, "d-soil")
        s.plant(left + row.diameter_m * 0.78, row.height_m * 0.92, 36)
        s.line([(left - 0.03, low), (left - 0.03, row.height_m + OVER_RIM_M),
                (left + row.diameter_m * 0.35, row.height_m + OVER_RIM_M),
                (left + row.diameter_m * 0.35, row.height_m * 0.93)], "d-pipe")
        s.dot(left + row.diameter_m * 0.35, row.height_m * 0.93, 4.5, "d-rain")
        s.dot(left - 0.03, low, 4, "d-tap")
    end = 0.2 + 2 * pitch
    s.line([(0.02, low), (end, low)], "d-pipe")
    s.dot(end, low, 5, "d-stop")
    s.high(0.1, 0.02, 0.02 + row.height_m)
    s.across(row.height_m + 0.2, 0.2, 0.2 + row.diameter_m)
    last = 0.2 + pitch
    s.note(last + row.diameter_m * 0.35, row.height_m + OVER_RIM_M, "riser, {h} over the rim",
           h=Amount(OVER_RIM_M, "small"))
    s.note(last + row.diameter_m * 0.35, row.height_m * 0.93, "dripper on its stake, at the stem")
    s.note(last + row.diameter_m - 0.02, row.height_m * 0.5, "mix, drain holes under it")
    s.note(last - 0.03, low, "a tee at each pot; clamps hold the tube")
    s.note(end, low, "plugged end: more pots go on from here")
    return s.drawn(f"{row.name}: small tube, risers and drippers")


OF_PLOTS: dict[str, Callable[..., Markup]] = {
    "gutter": _gutter, "chain": _chain, "float-pots": _float_pots, "tower": _tower,
    "pots": _pots, "bags": _pots}
