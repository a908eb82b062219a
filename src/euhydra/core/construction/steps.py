"""How to build this garden: steps in the order a careful person works, each with its measures."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from euhydra.core.construction import things
from euhydra.core.construction.facts import Built, kits_of
from euhydra.core.construction.line_steps import line_steps
from euhydra.core.construction.step import Step
from euhydra.core.garden.model import Garden, Zone
from euhydra.core.hydraulics.balancing import CUP_L
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.library import Library
from euhydra.core.schedule.calendar import clock
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.season.inputs import SeasonInputs
from euhydra.core.statements.figures import Amount, Phrase, say

WITH_ROWS = 9  # a kit's steps up to this order go with its plot's rows, before they are rinsed
STRIDE_M = {"metric": 1.0, "us": 0.9144}  # a metre, three feet


def steps(inputs: SeasonInputs) -> tuple[Step, ...]:
    """Every step, in order: earthworks, water's way from the gutter to the last pot, its proof."""
    garden, library = inputs.garden, inputs.library
    found = [*_before(garden), *kit_steps(things.earthworks(garden, library), library)]
    found += of_water(garden, library)
    plots = things.plots(garden, library)
    with_rows = {plot.id: kit_steps([plot], library, until=WITH_ROWS) for plot in plots}
    found += line_steps(inputs, with_rows)
    return (*found, *kit_steps(plots, library, after=WITH_ROWS, mixed=False), *_proof(inputs))


def of_water(garden: Garden, library: Library) -> list[Step]:
    """The steps of what catches, stores, joins and lifts the water."""
    return [step for group in things.water(garden, library) for step in kit_steps(group, library)]


def kit_steps(group: Sequence[Built], library: Library, *, after: int = 0, until: int = 100,
              mixed: bool = True) -> list[Step]:
    """The steps of what is built, in the order that its kits put them in, thing by thing or mixed.

    Those that come ``after`` one order, ``until`` another.
    """
    found = [(step.order, Step(f"{step.id}-{thing.id}", step.part or thing.under,
                               thing.say(step.title), thing.say(step.how), step.tool,
                               step.caution, thing.say(step.test),
                               thing.name if step.place else "", thing.say(step.place)))
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
        words = "{l} of the soaker hose over a tray fills {j} in {s}"
    else:
        of, each = 0.0, flow / sum(o.each for o in flows[zone.id]["half"].outlets)
        words = "an outlet fills {j} in {s}"
    words = words[0].upper() + words[1:] if garden.tap_of(zone.source) else (
        f"With the {garden.vessel_of(zone.source)}s half full {words}")
    yield Step(
        f"jug-{zone.id}", "Proof", Phrase("Jug test"),
        Phrase("Catch the first outlet and the last, or the first length of a soaker hose and its "
               "last. Type what you read on Time."), "jug, watch",
        test=Phrase("First and last within a tenth of each other."), place=zone.name,
        own=say(f"{words}; the zone gives " + "{q}.", l=Amount(of, "length"),
                j=Amount(cup, "cup"), s=Amount(3600 * cup / each, "seconds"),
                q=Amount(flow, "flow")))


def _proof(inputs: SeasonInputs) -> Iterator[Step]:
    yield Step("leaks", "Proof", Phrase("Leak walk"),
               Phrase("Everything on, walk from the source to every end. At a barb that weeps push "
                      "the pipe further on; at a thread that drips see to its washer."), "hands",
               test=Phrase("Dry joints; no wet ground but at outlets."))
    schedule, month = inputs.schedule, inputs.demand.peak_month
    for zone in schedule.zones:
        yield from _jug_test(inputs.flows, zone)
    for zone in schedule.zones:
        setting = schedule.setting_in(zone.id, month)
        if setting is not None:
            yield Step(
                f"timer-{zone.id}", "Proof", Phrase("Set the timer"),
                Phrase("As in the thirstiest month; its cards say what else in which month. The "
                       "first two weeks after planting: daily."), "fresh batteries",
                test=Phrase("Feel the soil two days later: like moist cake."), place=zone.name,
                own=Phrase(f"{rhythm(setting).capitalize()}, {setting.minutes} min, first at "
                           f"{clock(schedule.first_hours[zone.id, month])}."))
