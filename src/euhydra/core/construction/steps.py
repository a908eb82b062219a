"""How to build this garden: steps in the order a careful person works, each with its measures."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator

from euhydra.core.construction.counting_lines import PEG_EVERY_M
from euhydra.core.construction.joining import joining
from euhydra.core.construction.joints import own_head
from euhydra.core.construction.step import Step
from euhydra.core.construction.store_steps import store_steps
from euhydra.core.garden.model import Bed, Drain, Garden, Lift, Wicking, Zone
from euhydra.core.hydraulics.balancing import CUP_L
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.layout.rows import counted
from euhydra.core.library import Library
from euhydra.core.schedule.calendar import clock
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.season.inputs import SeasonInputs
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

AIR_GAP_M = 0.05  # twice the bore of a 25 mm hose and never under 25 mm, common practice
RINSE_MIN = 5.0  # past the time that the pipes take to fill, from memory
STRIDE_M = {"metric": 1.0, "us": 0.9144}  # a metre, three feet


def steps(inputs: SeasonInputs) -> tuple[Step, ...]:
    """Every step, in order: water's way from the gutter to the last outlet, then proof of it."""
    garden = inputs.garden
    found = [*_before(garden)]
    for store in garden.stores:
        found += store_steps(garden, store)
    found += joining(garden)
    found += [step for drain in garden.drains for step in _drain(drain)]
    found += _taps(garden)
    found += [step for lift in garden.lifts for step in _pump(garden, inputs.library, lift)]
    for zone in garden.zones:
        found += _zone(garden, inputs.library, inputs.flows, zone)
    for plot in garden.plots:
        if isinstance(plot, Wicking):
            found.append(_wicking(plot))
    return (*found, *_proof(inputs))


def _before(garden: Garden) -> Iterator[Step]:
    yield Step("walk", "Before", Phrase("Walk the ground with the plan"),
               say("{m} of line will lie in {z}. Look for cables, gas and drains on the way, and "
                   "ask for leave where water is collected or used water led out.",
                   m=Amount(sum(x.length_m for x in garden.lines), "length", 0),
                   z=Amount(len(garden.zones), "zones")),
               caution="Call your locating service before you dig. Local code decides what may be "
                       "collected and where it may go.")


def _drain(drain: Drain) -> Iterator[Step]:
    name = quoted(drain.name)
    yield Step(
        f"three-way-{drain.id}", drain.name, Phrase(f"{name}: three-way valve, labelled"),
        say("On the drain, within reach, one way to the sewer: {v} a week comes.",
            v=Amount(drain.litres_a_use * sum(drain.uses), "volume")), "plumber's own",
        "Used water has its own rules: your local code and a licensed plumber decide.",
        Phrase("Both ways tried with a bucket."))
    if drain.school == "drum":
        yield Step(
            f"drum-{drain.id}", drain.name, Phrase(f"{name}: drum, shut tight, with an air gap"),
            say("{v} of drum, firm and level. The machine's hose goes into a pipe with a slight "
                "fall that ends {gap} above its rim, through air: nothing is sucked back. The "
                "outlet goes in {o} above its base; every other opening is shut or screened.",
                v=Amount(drain.drum_l, "volume"), gap=Amount(AIR_GAP_M, "small"),
                o=Amount(drain.drum_outlet_m, "small")), "drill, clamps",
            "Shut tight against flies and children; no link to any pipe of drinking water.",
            Phrase("A full load comes and the drum does not spill."))
        return
    for basin in drain.basins:
        yield Step(
            f"basin-{drain.id}-{basin.id}", drain.name,
            Phrase(f"{quoted(basin.name)}: dig the basin and fill it with chips"),
            say("{a} by {b}, {d} deep; the pipe ends under the chips, above the soil.",
                a=Amount(basin.length_m, "length"), b=Amount(basin.width_m, "length"),
                d=Amount(basin.depth_m, "length")), "spade, barrow",
            "Keep off wells, walls and boundaries; nothing ponds or runs off.",
            Phrase("A load goes in and no water shows."))


def _taps(garden: Garden) -> Iterator[Step]:
    for tap in garden.under_pressure:
        where = (f"On the tap, before all else. It fills "
                 f"{quoted(garden.store_of(tap.tops_up).name)} through an air gap: the pipe ends "
                 "above the rim." if tap.tops_up else
                 "It stands in each head assembly right behind the timer, which alone bears the "
                 "constant pressure. Nothing is joined without it.")
        never = ("Rain or used water is never piped to the mains." if garden.on_mains(tap.id) else
                 "What stands in the lines never runs back down the well.")
        yield Step(
            f"backflow-{tap.id}", tap.name, Phrase(f"{quoted(tap.name)}: backflow preventer"),
            Phrase(where), "hands",
            f"{never} Local code decides the kind; a licensed plumber fits it where that is "
            "asked.")


def _pump(garden: Garden, library: Library, lift: Lift) -> Iterator[Step]:
    kind = library.pumps[lift.kind]
    store = quoted(garden.store_of(lift.draws_from).name)
    prime = ("It stands in the water and primes itself." if kind.family == "submersible" else
             f"Open the {garden.vessel_of(lift.draws_from)} and fill pump and suction hose with "
             "water before you plug in.")
    yield Step(
        f"pump-{lift.id}", lift.name, Phrase(f"{quoted(lift.name)} at {store}: fit and prime"),
        say(prime + " The check valve's arrow points away from the pump. It stops with {h} of "
            "water left.", h=Amount(lift.reserve_m, "small")), "spanner, can of water",
        "Electricity near water: outdoor-rated, on residual-current protection, by a licensed "
        "electrician. A pump that runs dry is lost.",
        Phrase("It pushes within a minute, and starts again after an hour's rest without priming."))


def _zone(garden: Garden, library: Library, flows: Flows, zone: Zone) -> Iterator[Step]:
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
    fill = flows.fill_minutes(zone)
    minutes = RINSE_MIN + (math.ceil(fill) if math.isfinite(fill) else 0.0)
    yield Step(
        f"flush-{key}", zone.name, Phrase(f"{name}: rinse before the ends are shut"),
        say("All ends open, water on for {t}: until it runs clear. Then shut the farthest end "
            "last.", t=Amount(minutes, "minutes")), "hands",
        test=Phrase("Clear water from every end."))


def _wicking(plot: Wicking) -> Step:
    what = {"gutter": "buckets over the gutter", "chain": "bucket chain",
            "float-pots": "pots on their float valves"}[plot.kind]
    return Step(
        f"wicking-{plot.id}", plot.name, Phrase(f"{quoted(plot.name)}: {what}"),
        say("{n} of {v}, the gutter or tray level; the float keeps {h} of water. Potting mix only, "
            "its lower third lightly pressed; water once from above to start the wick.",
            n=Amount(plot.count, "count"), v=Amount(plot.bucket_l, "volume"),
            h=Amount(plot.water_m, "small")), "hole saw for net pots, level",
        test=Phrase("The float shuts by itself and the mix is damp at the top after a day."))


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
