"""What one can read off a zone with a jug, a watch, a stick, a gauge, and what one can look at.

The minutes that each takes are from memory.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property

from euhydra.core import storage, units
from euhydra.core.advise.diagnosing.found import HIDDEN, Reading
from euhydra.core.advise.diagnosing.kinds import GREY, MAINS, POWER
from euhydra.core.advise.diagnosing.levels import STICK_FLOOR_M, litres_a_metre
from euhydra.core.advise.diagnosing.pipework import Given, Pipework
from euhydra.core.construction.steps import STRIDE_M
from euhydra.core.garden.model import Wicking
from euhydra.core.hydraulics.network import Emitter
from euhydra.core.hydraulics.surfaces import level_at
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

JUG_MIN, LEAST_JUG_L, JUG_FLOOR_L = (1, 2, 5, 10), 0.05, 0.005
WATCH_MIN, LEAST_FALL_M = (10, 20, 30, 60), 0.03
TUBE_FLOOR_M, GAUGE_FLOOR_KPA, METER_FLOOR_L = 0.03, 5.0, 0.3
MOST_PLOTS, MOST_BUCKET_S, MOST_LOAD_MIN = 8, 900.0, 600.0
NOTHING = "nothing"


class ZoneReadings:
    """The readings of one zone in a month, and what they give by what comes out of it."""

    def __init__(self, pipes: Pipework, share: float, month: int) -> None:
        self.pipes, self.share, self.month = pipes, share, month
        self.r, self.zone = pipes.r, pipes.zone
        self.tap = self.r.garden.tap_of(self.zone.source)
        self.lift = self.r.garden.lift_on(self.zone.source)
        self.drum = self.r.garden.drum_of(self.zone.source)

    @cached_property
    def every(self) -> tuple[Reading, ...]:
        """All of them."""
        return (*self._looks(), *self._jugs(), *self._water(), *self._pressures())

    @property
    def grey(self) -> str:
        """What is said of water that comes from a laundry."""
        return GREY if self.drum else ""

    @cached_property
    def plots(self) -> tuple[str, ...]:
        """The plots that are looked at, not too many."""
        return self.zone.plots[:MOST_PLOTS]

    @cached_property
    def jugged(self) -> dict[str, tuple[Emitter, int]]:
        """The outlets under which a jug is held, by reading, with the minutes: the first, the
        last, and the first of each plot of not too many.
        """
        order = self.pipes.order
        if not order:
            return {}
        picked = {"jug-first": order[0], "jug-last": order[-1]}
        plots = list(dict.fromkeys(self.pipes.plot_of[e.id] for e in order))
        for plot in plots[:MOST_PLOTS]:
            mine = [e for e in order if self.pipes.plot_of[e.id] == plot]
            picked |= {f"jug-first-{plot}": mine[0], f"jug-last-{plot}": mine[-1]}
        found: dict[str, tuple[Emitter, int]] = {}
        for key, emitter in picked.items():
            if emitter.id not in {e.id for e, _ in found.values()}:
                usual = self._caught(self.pipes.given, emitter, 1)
                found[key] = emitter, next((m for m in JUG_MIN if usual * m >= LEAST_JUG_L),
                                           JUG_MIN[-1])
        return found

    def _caught(self, given: Given, emitter: Emitter, minutes: float) -> float:
        many = self.stride_m / self.apart_m[emitter.id.rsplit(":", 1)[0]] if (
            emitter.kind.seeps == "yes") else 1.0
        return given.each.get(emitter.id, 0.0) * many * minutes / 60

    @cached_property
    def apart_m(self) -> dict[str, float]:
        """How far outlets stand from each other, by run."""
        return {run.id: run.spacing_m for run in self.r.garden.outlets}

    @property
    def stride_m(self) -> float:
        """The length of a soaker hose that is caught over a tray."""
        return STRIDE_M[self.r.garden.units]

    def reads(self, given: Given, *, dip: float | None = None, bucket: float = 1.0,
              open_for: float = 1.0) -> dict[str, float]:
        """What each number is where so much comes; ``bucket`` is a tap's own flow against usual."""
        found = {key: self._caught(given, *jug) for key, jug in self.jugged.items()}
        found |= {"tube": given.head_m, "gauge-end": units.pressure_kpa(given.head_m),
                  "gauge-start": units.pressure_kpa(given.start_m)}
        if self.watch_min:
            found["fell"] = given.total_l_h * self.watch_min / 60 / self.litres_a_m
        if self.tap:
            found |= {"meter": given.total_l_h / 6,
                      "bucket": min(self.tap.bucket_s / max(bucket, 0.02), MOST_BUCKET_S)}
        if self.drum:
            found["load"] = min(60 * self.drum.litres_a_use / max(given.total_l_h, 1e-3),
                                MOST_LOAD_MIN)
        if self.stored:
            found["dip"] = self.level_m if dip is None else dip
        if self.zone.timed:
            found["open-for"] = open_for * self.minutes
        return found

    @cached_property
    def stored(self) -> bool:
        """Whether it draws from a store whose water a stick can reach."""
        return self.zone.source in self.r.banks.of_store

    @cached_property
    def level_m(self) -> float:
        """How deep the water stands over its store's outlet."""
        store = self.r.garden.store_of(self.zone.source)
        return (level_at(self.r.garden, self.zone.source, self.share)
                - storage.outlet_z_m(store))

    @cached_property
    def litres_a_m(self) -> float:
        """Litres that a metre of its store's level holds, about where it stands."""
        bank = self.r.banks.banks[self.r.banks.of_store[self.zone.source]]
        return litres_a_metre(bank, level_at(self.r.garden, self.zone.source,
                                             max(self.share, 0.1)))

    @cached_property
    def watch_min(self) -> int:
        """Minutes after which its store has fallen so far that a stick tells it; 0 for never."""
        if not self.stored:
            return 0
        a_min = self.pipes.given.total_l_h / 60 / self.litres_a_m
        return next((m for m in WATCH_MIN if a_min * m >= LEAST_FALL_M), 0)

    @cached_property
    def minutes(self) -> float:
        """Minutes of a run as the timer should be set; some, in a month that wants none."""
        setting = self.r.schedule.setting_in(self.zone.id, self.month)
        return float(setting.minutes) if setting else 30.0

    def _jugs(self) -> Iterator[Reading]:
        for key, (emitter, minutes) in self.jugged.items():
            plot = quoted(self.r.garden.plot(self.pipes.plot_of[emitter.id]).name)
            end = "last" if key.startswith("jug-last") else "first"
            wicks = isinstance(self.r.garden.plot(self.pipes.plot_of[emitter.id]), Wicking)
            ask = (f"Hold the float of {plot} down and catch what comes" if wicks else
                   f"Catch {{s}} of the soaker hose over a tray, at its {end} in {plot}"
                   if emitter.kind.seeps == "yes" else
                   f"Hold a jug under the {end} outlet of {plot}")
            yield Reading(key, say(
                ask + ", for {m}.", m=Amount(minutes, "minutes"),
                s=Amount(self.stride_m, "length", 0)),
                          2 + minutes, "cup", JUG_FLOOR_L, tool="jug, watch", at=emitter.id,
                          usual=self._caught(self.pipes.given, emitter, minutes))

    def _water(self) -> Iterator[Reading]:
        usual = self.reads(self.pipes.given)
        if self.stored:
            yield Reading("dip", Phrase("With a stick: how deep does the water stand over the "
                          "outlet?"), 2, "small", STICK_FLOOR_M + 0.02, tool="stick",
                          usual=usual["dip"])
        if self.watch_min:
            yield Reading("fell", say(
                f"Mark the water in the {self.r.garden.vessel_of(self.zone.source)}, open this "
                "zone alone: how far has it fallen after {m}?",
                m=Amount(self.watch_min, "minutes")), 4 + self.watch_min / 4, "small",
                STICK_FLOOR_M, tool="stick, watch", usual=usual["fell"])
        if self.tap:
            yield Reading("meter", Phrase("With this zone alone open: what does the meter count in "
                          "ten minutes?"), 8, "drop", METER_FLOOR_L, tool="water meter",
                          usual=usual["meter"])
            yield Reading("bucket", say(
                "At the tap, its hose off: how long does a bucket of {l} take to fill?",
                l=Amount(self.tap.bucket_l, "drop")), 5, "seconds", 1.0, tool="bucket, watch",
                caution=MAINS if self.r.garden.on_mains(self.tap.id) else "",
                usual=usual["bucket"])
        if self.drum:
            yield Reading("load", Phrase("How long does one load take to run out of the drum?"), 6,
                          "minutes", 2.0, tool="watch", usual=usual["load"])

    def _pressures(self) -> Iterator[Reading]:
        usual = self.reads(self.pipes.given)
        if self.tap or self.lift:
            yield Reading("gauge-start", Phrase("Behind the head assembly, the zone open: what "
                          "does a pressure gauge show?"), 7, "pressure", GAUGE_FLOOR_KPA,
                          tool="pressure gauge", usual=usual["gauge-start"])
            yield Reading("gauge-end", Phrase("At the flush end, the zone open: what does a "
                          "pressure gauge show?"), 7, "pressure", GAUGE_FLOOR_KPA,
                          tool="pressure gauge", usual=usual["gauge-end"])
        elif self.pipes.order:
            yield Reading("tube", Phrase(
                "Put a clear tube on the flush end and hold it up: how high over the outlets does "
                "the water stand, the zone open?"), 6, "length", TUBE_FLOOR_M, tool="clear tube",
                usual=usual["tube"])

    def _looks(self) -> Iterator[Reading]:
        yield from self._assembly()
        yield from self._pump()
        ways = [f"{what} {b.where.show('metric')}" for b in self.pipes.branches
                for what in ("wet", "pinched")]
        length = sum(line.length_m for line in self.r.garden.lines if line.zone == self.zone.id)
        if ways:
            yield Reading("walk", Phrase("Walk along the pipes: a wet place off the outlets, a "
                          "pipe bent or squashed?"), 4 + length / 10, words=(NOTHING, *ways),
                          tool="eyes", right=HIDDEN)
        yield Reading("open-end", Phrase("Open the flush end: how does the water come?"), 4,
                      words=("clear", "with air first", "brown or slimy"), tool="hands",
                      caution=self.grey)
        if self.pipes.order:
            yield Reading("outlets", Phrase("Take the last outlets out, or open one: how do they "
                          "look? And the first?"), 5, words=(
                              "clean", "the last ones clogged", "all of them clogged"),
                          tool="eyes")
        for plot in self.plots:
            name = quoted(self.r.garden.plot(plot).name)
            yield Reading(f"plants-{plot}", Phrase(f"Are the plants of {name} as Grow has them?"),
                          1, words=("as there", "more, or larger"), tool="eyes")

    def _assembly(self) -> Iterator[Reading]:
        kinds = {f.kind for line in self.r.garden.lines if line.zone == self.zone.id
                 for f in self.r.garden.fittings if f.line == line.id}
        if self.zone.filter in kinds:
            yield Reading("filter", Phrase("Take the filter's mesh out and hold it to the light."),
                          5, words=("clean", "clogged"), tool="hands", caution=self.grey)
        yield Reading("valve", Phrase("Turn each valve by hand, and the tap before them."), 2,
                      words=("all open, all move", "one part-way", "one will not move"),
                      tool="hands")
        if not self.zone.timed:
            return
        yield Reading("shut", Phrase("An hour after it has shut: does anything still drip?"), 2,
                      words=("dry", "drips on"), tool="eyes")
        if not self.r.garden.timer_of(self.zone):
            return
        yield Reading("timer", Phrase("Press a button of the timer: does it answer?"), 1,
                      words=("it answers", "dead, or blinks"), tool="eyes")
        setting = self.r.schedule.setting_in(self.zone.id, self.month)
        if setting:
            yield Reading("open-for", Phrase(
                "What stands on the timer: how many minutes is a run? By the card "
                f"{rhythm(setting)}."), 1, "minutes", 1.0, tool="eyes", usual=self.minutes)

    def _pump(self) -> Iterator[Reading]:
        if self.lift:
            yield Reading("pump", Phrase("Listen to the pump."), 1, words=(
                "as always", "hums, moves nothing", "silent", "does not stop"), tool="ears",
                caution=POWER)
        if self.drum:
            yield Reading("loads", Phrase("How many loads were washed on that day?"), 1,
                          words=("as Catch has it", "more"), tool="asking")
        for plot in self.plots:
            if isinstance(self.r.garden.plot(plot), Wicking):
                name = quoted(self.r.garden.plot(plot).name)
                yield Reading(f"float-{plot}", Phrase(f"Lift and press the float of {name}."), 2,
                              words=("it moves, shuts and opens", "it hangs shut",
                                     "it does not shut"), tool="hands")
