"""How to build this garden: steps in the order a careful person works, each with its measures."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence

from euhydra.core.construction import things
from euhydra.core.construction.counting_lines import PEG_EVERY_M
from euhydra.core.construction.facts import Built, kits_of
from euhydra.core.construction.joints import own_head
from euhydra.core.construction.step import Step
from euhydra.core.garden.model import Bed, Garden, Zone
from euhydra.core.hydraulics.balancing import CUP_L
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.layout.rows import counted
from euhydra.core.library import Library
from euhydra.core.schedule.calendar import clock
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.season.inputs import SeasonInputs
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

WITH_ROWS = 9  # a kit's steps up to this order go with its plot's rows, before they are rinsed
RINSE_MIN = 5.0  # past the time that the pipes take to fill, from memory
STRIDE_M = {"metric": 1.0, "us": 0.9144}  # a metre, three feet


def steps(inputs: SeasonInputs) -> tuple[Step, ...]:
    """Every step, in order: earthworks, water's way from the gutter to the last pot, its proof."""
    garden, library = inputs.garden, inputs.library
    found = [*_before(garden), *kit_steps(things.earthworks(garden, library), library)]
    found += of_water(garden, library)
    plots = things.plots(garden, library)
    with_rows = {plot.id: kit_steps([plot], library, until=WITH_ROWS) for plot in plots}
    for zone in garden.zones:
        found += _zone(garden, library, inputs.flows, zone, with_rows)
    return (*found, *kit_steps(plots, library, after=WITH_ROWS, mixed=False), *_proof(inputs))


def of_water(garden: Garden, library: Library) -> list[Step]:
    """The steps of what catches, stores, joins and lifts the water."""
    return [step for group in things.water(garden, library) for step in kit_steps(group, library)]


def kit_steps(group: Sequence[Built], library: Library, *, after: int = 0, until: int = 100,
              mixed: bool = True) -> list[Step]:
    """The steps of what is built, in the order that its kits put them in, thing by thing or mixed.

    Those that come ``after`` one order, ``until`` another.
    """
    found = [(step.order, Step(f"{step.id}-{thing.id}", thing.under, thing.say(step.title),
                               thing.say(step.how), step.tool, step.caution,
                               thing.say(step.test)))
             for thing in group for kit in kits_of(thing, library) for step in kit.steps
             if thing.number(step.only) > 0 and after < step.order <= until]
    return [step for _, step in (sorted(found, key=lambda pair: pair[0]) if mixed else found)]


def _before(garden: Garden) -> Iterator[Step]:
    yield Step("walk", "Before", Phrase("Walk the ground with the plan"),
               say("{m} of line will lie in {z}. Look for cables, gas and drains on the way, and "
                   "ask for leave where water is collected or used water led out.",
                   m=Amount(sum(x.length_m for x in garden.lines), "length", 0),
                   z=Amount(len(garden.zones), "zones")),
               caution="Call your locating service before you dig. Local code decides what may be "
                       "collected and where it may go.")


def _zone(garden: Garden, library: Library, flows: Flows, zone: Zone,
          with_rows: Mapping[str, list[Step]]) -> Iterator[Step]:
    name, key = quoted(zone.name), zone.id
    head = "; ".join(part.name[0].lower() + part.name[1:]
                     for part in own_head(garden, library, zone))
    yield Step(
        f"head-{key}", zone.name, Phrase(f"{name}: head assembly, in order"),
        Phrase(quoted(head[0].upper() + head[1:]) + ". Finger tight, then a quarter to half turn; "
               "no tape on hose thread. Every arrow points with the water."), "hands",
        test=Phrase("Water on, end shut with a thumb: no joint drips."))
    pipes = [x for x in garden.lines if x.zone == key and x.plot is None]
    yield Step(
        f"header-{key}", zone.name, Phrase(f"{name}: header"),
        say("{m} of " + quoted(library.tubes[zone.supply_tube].name) + " in "
            + ("one piece" if len(pipes) == 1 else f"{len(pipes)} pieces") + ", along the edges "
            "and straight over paths. Let it warm in the sun first; push each barb home.",
            m=Amount(sum(x.length_m for x in pipes), "length")),
        "pipe cutter, pegs", "Where it is buried: call before you dig.")
    for plot in (garden.plot(p) for p in zone.plots):
        laid = [x for x in garden.lines if x.zone == key and x.plot == plot.id]
        outlets = counted((o for o in garden.outlets if o.plot == plot.id), library)
        cuts = Counter((x.tube, round(x.length_m, 2)) for x in laid)
        words = "; ".join(f"{n} × {{c{i}}} of {quoted(library.tubes[tube].name)}"
                          for i, ((tube, _), n) in enumerate(cuts.items()))
        lengths = {f"c{i}": Amount(m, "length") for i, (_, m) in enumerate(cuts)}
        on = ("Drippers on stakes, off the soil, at the stem." if any(
            x.role == "quarter-inch" for x in laid) else "Pegs every {peg}; outlets up.")
        rows = " across the bed" if isinstance(plot, Bed) else ""
        yield Step(
            f"rows-{plot.id}", zone.name, Phrase(f"{quoted(plot.name)}: lines{rows}"),
            say(f"{words}. {on}" + (" {n} in all." if outlets else ""),
                n=Amount(outlets, "count"),
                peg=Amount(PEG_EVERY_M, "length", 1), **lengths),
            "pipe cutter, punch" if "stakes" in on else "pipe cutter")
        yield from with_rows[plot.id]
    fill = flows.fill_minutes(zone)
    minutes = RINSE_MIN + (math.ceil(fill) if math.isfinite(fill) else 0.0)
    yield Step(
        f"flush-{key}", zone.name, Phrase(f"{name}: rinse before the ends are shut"),
        say("All ends open, water on for {t}: until it runs clear. Then shut the farthest end "
            "last.", t=Amount(minutes, "minutes")), "hands",
        test=Phrase("Clear water from every end."))


def _jug_test(flows: Flows, zone: Zone) -> Iterator[Step]:
    """Outlets are caught one by one, a soaker hose by its length."""
    garden = flows.garden
    flow, cup = flows.run_flow_l_h(zone), CUP_L[garden.units]
    runs = [o for o in garden.outlets if o.plot in zone.plots]
    seeps = {o.line for o in runs if flows.library.outlets[o.kind].seeps == "yes"}
    if flow <= 1e-6 or not runs:
        return
    if all(o.line in seeps for o in runs):
        laid = sum(line.length_m for line in garden.lines if line.id in seeps)
        of, each = STRIDE_M[garden.units], flow / laid * STRIDE_M[garden.units]
        words = "{l} of the soaker hose over a tray fills {j} in {s}. Catch its first and its last"
    else:
        of, each = 0.0, flow / sum(o.each for o in flows[zone.id]["half"].outlets)
        words = "an outlet fills {j} in {s}. Catch the first and the last"
    words = words[0].upper() + words[1:] if garden.tap_of(zone.source) else (
        f"With the {garden.vessel_of(zone.source)}s half full {words}")
    yield Step(
        f"jug-{zone.id}", "Proof", Phrase(f"{quoted(zone.name)}: jug test"),
        say(f"{words}; the zone gives " + "{q}. Type what you read on Time.",
            l=Amount(of, "length"), j=Amount(cup, "cup"), s=Amount(3600 * cup / each, "seconds"),
            q=Amount(flow, "flow")), "jug, watch",
        test=Phrase("First and last within a tenth of each other."))


def _proof(inputs: SeasonInputs) -> Iterator[Step]:
    yield Step("leaks", "Proof", Phrase("Leak walk"),
               Phrase("Everything on, walk from the source to every end. At a barb that weeps push "
                      "the pipe further on; at a thread that drips see to its washer."), "hands",
               test=Phrase("Dry joints; no wet ground but at outlets."))
    schedule, month = inputs.schedule, inputs.demand.peak_month
    for zone in schedule.zones:
        yield from _jug_test(inputs.flows, zone)
        setting = schedule.setting_in(zone.id, month)
        if setting is not None:
            yield Step(
                f"timer-{zone.id}", "Proof", Phrase(f"{quoted(zone.name)}: set the timer"),
                Phrase(f"{rhythm(setting).capitalize()}, {setting.minutes} min, first at "
                       f"{clock(schedule.first_hours[zone.id, month])}: its cards say what "
                       "else in which month. The first two weeks after planting: daily."),
                "fresh batteries",
                test=Phrase("Feel the soil two days later: like moist cake."))
