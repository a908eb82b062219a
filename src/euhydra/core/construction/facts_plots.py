"""The facts of pots, towers, self-watering rows and wet ground, for their kits."""

from __future__ import annotations

import math
from dataclasses import replace

from euhydra.core.construction.facts import Built
from euhydra.core.construction.facts_water import count, yes
from euhydra.core.demand.soil import mix_l
from euhydra.core.demand.wicking import free_water_l
from euhydra.core.garden.model import (
    AnyPlot,
    Bed,
    Garden,
    Pots,
    RainGarden,
    Tower,
    Tree,
    WetArea,
    Wicking,
)
from euhydra.core.hydraulics import drainage
from euhydra.core.hydraulics.self_watering import BUCKETS_A_GUTTER
from euhydra.core.layout.rows import openings_apart_m, tube_of
from euhydra.core.library import Library
from euhydra.core.statements.figures import Amount, Phrase, say
from euhydra.core.terrain.geometry import area_m2

InVessels = Pots | Tower | Wicking
SMALL = "quarter-inch"
OVER_RIM_M = 0.1  # of tube over a pot's rim, to the dripper's stake, from memory
CLAMP_EVERY_M = 0.6  # along a wall or rail, from memory
BRACKET_EVERY_M = 0.6  # under a full gutter, from memory
BEAM_EVERY_M = 1.2  # between the blocks that rails lie on, from memory
IN_BUCKET_M = 0.12  # of tube with slots within a bucket, on each side, from memory
LEAD_M = 0.3  # of small tube from a wide main to a float valve, from memory
SMALL_MM, WALL_MM = 6.0, 4.0  # outside of the small tube; what a tube's walls and grommet add
OVERFLOW_OVER_M = 0.02  # over the water that the float keeps, from memory
WIDE_MM = 12.0  # from this bore a main is punched with barbs, as one of 16 mm is
STONES_SACK_M2 = 4.0  # of rain garden to a sack of stones at its inlet, from memory
MULCH_M = {"chips": 0.07, "straw": 0.10}  # how deep it lies, from memory
BOARD_M = 0.2  # how wide a board of a frame is, common practice
PLANTS_M2 = 4.0  # in a rain garden, from memory
TRENCH_M2 = 0.09  # of gravel about a perforated drain: 30 by 30 cm, common practice
WRAP_M = 1.2  # of fabric round that


def plot_facts(garden: Garden, library: Library, plot: AnyPlot) -> Built:
    """A plot: what covers it, and where it is one of vessels what they take."""
    area = ground_m2(plot)
    found = Built("plot", plot.kind, plot.id, plot.name, plot.name, {
        "chips": Amount(area * MULCH_M["chips"] if plot.mulch == "chips" else 0.0, "bulk"),
        "straw": Amount(area * MULCH_M["straw"] if plot.mulch == "straw" else 0.0, "bulk"),
        "film": Amount(area if plot.mulch == "plastic" else 0.0, "area"),
        "cloth": Amount(area if plot.shade == "cloth" else 0.0, "area"),
        "hose_tail": yes(plot.watered == "hose"), "cans": yes(plot.watered == "can")})
    if isinstance(plot, Bed):
        return replace(found, amounts={**found.amounts, **_drilled(garden, library, plot)})
    if isinstance(plot, Tree):
        return replace(found, amounts={**found.amounts, **_undrilled()})
    vessels = _vessels(garden, plot)
    mixed = say("mix, {share} of it own compost", share=Amount(plot.compost, "share")
                ) if plot.compost > 0 else Phrase("mix")
    return replace(found, amounts={**found.amounts, **_undrilled(), **vessels},
                   words={**found.words, "mixed": mixed})


def raised_bed(bed: Bed, library: Library) -> Built:
    """The frame of a raised bed and what fills it."""
    around = 2 * (bed.length_m + bed.width_m)
    return Built("raised-bed", "", bed.id, bed.name, bed.name, {
        "boards": Amount(around * math.ceil(bed.rim_m / BOARD_M - 1e-6), "length"),
        "rim": Amount(bed.rim_m, "small"), "long": Amount(bed.length_m, "length"),
        "wide": Amount(bed.width_m, "length"),
        "fill": Amount(area_m2(bed) * bed.rim_m, "bulk"),
    }, {"soil": Phrase(library.soils[bed.soil].name)})


def _undrilled() -> dict[str, Amount]:
    return {"drilled": count(0), "hole_bore": Amount(0.0, "hole"),
            "openings": Amount(0.0, "small"), "open_ends": count(0)}


def _drilled(garden: Garden, library: Library, bed: Bed) -> dict[str, Amount]:
    """The holes of a bed's drilled pipe."""
    if bed.watered != "lines" or tube_of(bed, library).outlet != "hole":
        return _undrilled()
    mine = [o for o in garden.outlets if o.plot == bed.id]
    return {"drilled": count(sum(o.points * o.each for o in mine if o.kind == "hole")),
            "open_ends": count(sum(o.kind == "open-end" for o in mine)),
            "hole_bore": Amount(bed.hole_mm, "hole"),
            "openings": Amount(openings_apart_m(bed, library), "small")}


def ground_m2(plot: AnyPlot) -> float:
    """The ground that a bed covers, or that lies under a row of canopies or in a row of pots."""
    if isinstance(plot, Bed):
        return area_m2(plot)
    across = plot.canopy_m if isinstance(plot, Tree) else plot.diameter_m
    deep = plot.breadth_m if isinstance(plot, Tree) else plot.diameter_m
    return math.pi / 4 * across * deep * plot.count


def _vessels(garden: Garden, plot: InVessels) -> dict[str, Amount]:
    small = [x for x in garden.lines if x.plot == plot.id and x.tube == SMALL]
    outlets = sum(o.points * o.each for o in garden.outlets if o.plot == plot.id)
    amounts = {
        "vessels": count(plot.count), "across": Amount(plot.diameter_m, "small"),
        "high": Amount(plot.height_m, "small"), "outlets": count(outlets),
        "further": count(max(outlets - plot.count, 0)),
        "stakes": count(outlets if on_stakes(plot) else 0),
        "tubes": count(len(small)), "lines": count(sum(
            x.plot == plot.id and any(o.line == x.id for o in garden.outlets)
            for x in garden.lines)),
        "clamps": count(sum(math.ceil(x.length_m / CLAMP_EVERY_M) for x in small)),
        "mix": Amount(mix_l(plot), "volume"), "each_mix": Amount(mix_l(plot) / plot.count,
                                                                "volume"),
        "watered": yes(outlets > 0), "freezes": yes(bool(garden.site.first_frost)),
        "pots": count(plot.count if plot.kind == "pots" else 0),
        "bags": count(plot.count if plot.kind == "bags" else 0),
        "small_bore": Amount(SMALL_MM, "hole"),
        "risers": Amount(outlets * (plot.height_m + OVER_RIM_M), "length")}
    if isinstance(plot, Tower):
        amounts |= {"risers": Amount(plot.count * (plot.height_m + OVER_RIM_M), "length"),
                    "riser": Amount(plot.height_m + OVER_RIM_M, "length"),
                    "pockets": count(plot.plants)}
    if isinstance(plot, Wicking):
        amounts |= _wicking(plot, outlets, amounts["lines"].value)
    return amounts


def on_stakes(plot: InVessels) -> bool:
    """Whether its drippers are held by stakes; sprays and spouts hold themselves."""
    return not isinstance(plot, Wicking) and plot.dripper.startswith(("plain-", "compensating-"))


def _wicking(row: Wicking, outlets: float, lines: float) -> dict[str, Amount]:
    gutters = math.ceil(row.count / BUCKETS_A_GUTTER)
    wide = row.tube_mm >= WIDE_MM
    return {
        "bucket": Amount(row.bucket_l, "volume"), "water": Amount(row.water_m, "small"),
        "held": Amount(free_water_l(row), "volume"), "fed": yes(row.feed_ml_l > 0),
        "dose": Amount(free_water_l(row) * row.feed_ml_l, "dose"),
        "gutters": count(gutters), "joined": count(gutters - 1),
        "gutter": Amount(row.length_m, "length"), "gutter_bore": Amount(row.gutter_mm, "hole"),
        "brackets": count(math.ceil(row.length_m / BRACKET_EVERY_M) + gutters),
        "rails": Amount(2 * row.length_m, "length"),
        "blocks": count(2 * (math.ceil(row.length_m / BEAM_EVERY_M) + 1)),
        "tube_bore": Amount(row.tube_mm, "hole"), "gap": Amount(row.apart_m, "small"),
        "tube": Amount(row.count * (row.apart_m + 2 * IN_BUCKET_M), "length"),
        "grommets": count(2 * row.count), "grommet_bore": Amount(row.tube_mm + WALL_MM, "hole"),
        "overflow_up": Amount(row.water_m + OVERFLOW_OVER_M, "small"),
        "wide": count(outlets if wide else 0), "main_lines": count(lines if wide else 0),
        "mains": yes(wide), "thin_outlets": count(0 if wide else outlets),
        "leads": Amount(row.count * LEAD_M if wide else 0.0, "length")}


def rain_garden(hollow: RainGarden, library: Library) -> Built:
    """A planted hollow that takes an overflow."""
    area = hollow.length_m * hollow.width_m
    return Built("rain-garden", "", hollow.id, hollow.name, hollow.name, {
        "long": Amount(hollow.length_m, "length"), "wide": Amount(hollow.width_m, "length"),
        "deep": Amount(hollow.depth_m, "small"), "area": Amount(area, "area"),
        "dug": Amount(area * hollow.depth_m, "bulk"),
        "holds": Amount(1000 * area * hollow.depth_m, "volume"),
        "hours": Amount(drainage.soaks_away_h(hollow, library), "hours"),
        "stones": count(math.ceil(area / STONES_SACK_M2)),
        "plants": count(math.ceil(area * PLANTS_M2)),
        "chips": Amount(area * MULCH_M["chips"], "bulk")})


def wet_area(area: WetArea, library: Library) -> Built:
    """Wet ground, by its plan: left to soak, drained by its fall, or pumped from a sump."""
    plan = drainage.wet_plan(area, library)
    drained = plan.way != "soaks"
    perforated = area.length_m if drained else 0.0
    gravel = plan.gravel_m3 if plan.way == "pump" else perforated * TRENCH_M2
    return Built("wet-area", plan.way, area.id, area.name, area.name, {
        "area": Amount(area.length_m * area.width_m, "area"),
        "gravel": Amount(gravel, "bulk"), "perforated": Amount(perforated, "length"),
        "fabric": Amount(area.length_m * area.width_m if plan.way == "pump" else
                            perforated * WRAP_M, "area"),
        "bore": Amount(plan.drain_mm or DRAIN_MM, "hole"),
        "outfall": Amount(area.outfall_m, "length"),
        "pipe_bore": Amount(drainage.PUMP_PIPE_MM, "hole"),
        "sump": Amount(plan.sump_l, "volume"), "sump_deep": Amount(drainage.SUMP_DEPTH_M, "length"),
        "flow": Amount(plan.flow_l_h, "flow"), "head": Amount(plan.head_m, "lift"),
        "slope": Amount(plan.slope, "share"), "days": Amount(area.drain_days, "days"),
    }, {"to": Phrase(OUTFALL_WORDS[area.outfall])})


DRAIN_MM = 100.0  # the perforated drain that leads to a sump, from memory
OUTFALL_WORDS = {"unknown": "where it may lawfully go: not settled yet", "own-ground": "own ground",
                 "ditch": "the ditch", "storm-drain": "the storm drain", "sewer": "the sewer",
                 "neighbour": "a neighbour's ground"}
