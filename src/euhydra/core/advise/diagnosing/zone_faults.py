"""All that may be wrong with a zone, each put into its network, its timer or its plants."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

import numpy as np

from euhydra.core.advise.diagnosing.found import (
    AS_USUAL,
    Fault,
    Looks,
    State,
    Suspects,
    grid,
)
from euhydra.core.advise.diagnosing.kinds import KINDS
from euhydra.core.advise.diagnosing.levels import STICK_FLOOR_M
from euhydra.core.advise.diagnosing.pipework import LEAST_FLOW_L_H, Branch, Given, Pipework
from euhydra.core.advise.diagnosing.signs import Timed, seen, signs_of
from euhydra.core.advise.diagnosing.zone_readings import ZoneReadings
from euhydra.core.garden.model import Wicking, Zone
from euhydra.core.results.results import Results
from euhydra.core.statements.figures import Phrase, quoted

HARDLY, BADLY = 0.6, 30.0  # head that a constriction takes, against what is left behind it
DRIPS, GUSHES = (0.12, 0.6), (0.8, 8.0)  # a leak's, a split's flow against the zone's
BENDS_AT = 0.25  # pipes fold at their beginning, oftener than elsewhere; from memory
FINE_BRANCHES = 6  # of more, each fault is tried at fewer degrees: every one is a solve
RISES_M = 0.15  # a rise on the way in which air gathers, from memory
HUMP_OFTEN = 2.0
ON_TIME = Timed()


def zone_suspects(r: Results, zone: Zone, share: float, month: int) -> Suspects:
    """What may be wrong with a zone in a month (0 to 11), a share of its source's water left."""
    case = _Case(r, zone, share, month)
    return Suspects(zone.id, tuple(case.faults()), signs_of(case.pipes),
                    case.readings.every, case.pipes.given.total_l_h < LEAST_FLOW_L_H)


class _Case:
    def __init__(self, r: Results, zone: Zone, share: float, month: int) -> None:
        self.r, self.zone = r, zone
        self.pipes = Pipework(r, zone, share)
        self.readings = ZoneReadings(self.pipes, share, month)
        self.tap, self.lift, self.drum = (self.readings.tap, self.readings.lift,
                                          self.readings.drum)
        self.name = Phrase(quoted(zone.name))

    def state(self, given: Given, timed: Timed = ON_TIME, *, dip: float | None = None,
              bucket: float = 1.0, looks: Looks = AS_USUAL) -> State:
        """What is found where the network gives so much and the timer does that."""
        reads = self.readings.reads(given, dip=dip, bucket=bucket, open_for=timed.open_for)
        if timed.drips_on:
            looks = {**looks, "shut": "drips on"}
        return State(reads, looks, seen(self.pipes, given, timed))

    def fault(self, kind: str, made: Callable[[float, float], State], bad: int = 1, *,
              about: str = "", of: Phrase | None = None, often: float = 1.0) -> Fault:
        """A fault of the zone, or of one of its plots."""
        return Fault(kind, about or self.zone.id, of or self.name, KINDS[kind].often * often, made,
                     grid(bad), caution=self.readings.grey)

    def faults(self) -> Iterator[Fault]:
        """Every fault that this zone can have."""
        whole = self.pipes.given
        yield self.fault("fine", lambda x, u: self.state(whole))
        if self.pipes.order:
            yield from self._assembly()
            yield from self._outlets()
            yield from self._places()
        yield from self._source()
        if self.zone.timed:
            yield from self._timer()
        if self.lift:
            yield from self._pump()
        for plot in self.readings.plots:
            yield from self._plot(plot)

    def _assembly(self) -> Iterator[Fault]:
        losses = {x.id: x for x in self.pipes.whole.losses}
        fittings = {f.id: f for f in self.r.garden.fittings if f.id in losses}
        blocks = next((i for i, f in fittings.items() if f.kind == self.zone.filter), "")
        turns = next((i for i, f in fittings.items() if f.kind != self.zone.filter
                      and (f.kind == "timer" or "valve" in f.kind)), "")
        if blocks:
            yield self.fault("filter", lambda x, u: self.state(
                self.pipes.gives(self.pipes.squeezed(blocks, _lost(x))),
                looks={"filter": "clogged"}), 5)
        if turns:
            yield self.fault("half-open", lambda x, u: self.state(
                self.pipes.gives(self.pipes.squeezed(turns, _lost(x))),
                looks={"valve": "one part-way"}), 5)
            yield self.fault("stuck-shut", lambda x, u: self.state(
                _nothing(self.pipes.given), Timed(0.0), looks={"valve": "one will not move"}))
        if self.zone.timed:
            yield self.fault("stuck-open", lambda x, u: self.state(
                self.pipes.given, Timed(1.5 + 3 * x, drips_on=True),
                looks={"valve": "one will not move"}), 3)

    def _outlets(self) -> Iterator[Fault]:
        order = self.pipes.order
        if len(order) > 2:
            yield self.fault("end-clogged", self._clogged_at_end, 4)
        yield self.fault("all-clogged", self._clogged, 4)

    def _clogged_at_end(self, x: float, u: float) -> State:
        order = self.pipes.order
        first = len(order) - max(len(order) // 3, 1)
        return self.state(self.pipes.gives(self.pipes.clogged(
            {e.id: 0.6 - 0.55 * x for e in order[first:]})), looks={
            "outlets": "the last ones clogged", "open-end": "brown or slimy"})

    def _clogged(self, x: float, u: float) -> State:
        return self.state(self.pipes.gives(self.pipes.clogged(
            {e.id: 0.65 - 0.5 * x for e in self.pipes.order})), looks={
            "outlets": "all of them clogged", "open-end": "brown or slimy"})

    def _places(self) -> Iterator[Fault]:
        branches = self.pipes.branches
        coarser = len(branches) > FINE_BRANCHES
        for branch in branches:
            for kind, bad, made in (("kink", 4, self._kinked), ("leak", 3, self._leaking),
                                    ("split", 3, self._splitting)):
                yield Fault(kind, self.zone.id, branch.where,
                            KINDS[kind].often / len(branches), partial(made, branch),
                            grid(bad - coarser, 2 if len(branch.pipes) > 2 else 1), branch.id,
                            branch.size, self.readings.grey)

    def _kinked(self, branch: Branch, x: float, u: float) -> State:
        pipe = self.pipes.pipe_at(branch, max(u - BENDS_AT, 0.0))
        return self.state(self.pipes.gives(self.pipes.squeezed(pipe.id, _lost(x))),
                          looks={"walk": f"pinched {branch.where.show('metric')}"})

    def _leaking(self, branch: Branch, x: float, u: float, flow: tuple[float, float] = DRIPS
                 ) -> State:
        times = flow[0] * (flow[1] / flow[0]) ** x
        return self.state(self.pipes.gives(self.pipes.leaking(
            self.pipes.pipe_at(branch, u), times)),
            looks={"walk": f"wet {branch.where.show('metric')}"})

    def _splitting(self, branch: Branch, x: float, u: float) -> State:
        return self._leaking(branch, x, u, GUSHES)

    def _source(self) -> Iterator[Fault]:
        if self.readings.stored or self.r.garden.well_of(self.zone.source):
            yield self.fault("empty", self._emptied, 3)
        if not (self.tap or self.lift) and self.pipes.order:
            yield self.fault("air", self._airlocked, 3, often=HUMP_OFTEN if self._rises else 1.0)
        if (self.tap or self.lift) and self.pipes.order:
            yield self.fault("low-pressure", partial(self._pushed, 0.65, 0.04), 4)
        if self.tap and self.tap.regulator_kpa > 0:
            yield self.fault("high-pressure", partial(self._pushed, 1.4, 2.5), 3)
        if self.drum:
            yield self.fault("loads", lambda x, u: self.state(
                self.pipes.given, Timed(loads=1.5 + 1.5 * x), looks={"loads": "more"}), 2)

    @property
    def _rises(self) -> bool:
        """Whether its pipe climbs on the way."""
        levels = {n.id: n.z_m for n in self.pipes.whole.nodes}
        return any(levels[p.end] - levels[p.start] > RISES_M for p in self.pipes.whole.pipes)

    def _emptied(self, x: float, u: float) -> State:
        left = 0.15 * (1 - x)
        return self.state(_scaled(self.pipes.given, left), Timed(spits=True),
                          dip=STICK_FLOOR_M * (1 - x))

    def _airlocked(self, x: float, u: float) -> State:
        return self.state(_scaled(self.pipes.given, 0.5 * (1 - x) ** 2), Timed(spits=True),
                          looks={"open-end": "with air first"})

    def _pushed(self, hardly: float, badly: float, x: float, u: float) -> State:
        times = hardly * (badly / hardly) ** x
        return self.state(self.pipes.gives(self.pipes.pushed(times)), bucket=times**0.5)

    def _timer(self) -> Iterator[Fault]:
        whole = self.pipes.given
        if self.r.garden.timer_of(self.zone):
            yield self.fault("battery", lambda x, u: self.state(
                whole, Timed(0.0), looks={"timer": "dead, or blinks"}))
            yield self.fault("set-short", lambda x, u: self.state(
                whole, Timed(max(0.6 - 0.7 * x, 0.0))), 3)
            yield self.fault("set-long", lambda x, u: self.state(whole, Timed(1.5 + 2.5 * x)), 3)

    def _pump(self) -> Iterator[Fault]:
        dry = _nothing(self.pipes.given)
        primes = self.r.library.pumps[self.lift.kind].self_primes == "yes" if self.lift else False
        yield self.fault("prime", lambda x, u: self.state(
            dry, Timed(hums=True), looks={"pump": "hums, moves nothing"}),
            often=0.3 if primes else 1.0)
        yield self.fault("pump-dead", lambda x, u: self.state(dry, looks={"pump": "silent"}))
        yield self.fault("pump-on", lambda x, u: self.state(
            self.pipes.given, Timed(runs_on=True), looks={"pump": "does not stop"}))

    def _plot(self, plot: str) -> Iterator[Fault]:
        named = Phrase(quoted(self.r.garden.plot(plot).name))
        whole = self.pipes.given
        yield self.fault("grown", lambda x, u: self.state(
            whole, Timed(grown={plot: 1.3 + 0.7 * x}),
            looks={f"plants-{plot}": "more, or larger"}), 2, about=plot, of=named,
            often=1 / len(self.readings.plots))
        if not isinstance(self.r.garden.plot(plot), Wicking):
            return
        yield self.fault("float-shut", lambda x, u: self.state(
            self.pipes.gives(self.pipes.clogged({e.id: 0.1 * (1 - x) for e in self.pipes.order
                                                 if self.pipes.plot_of[e.id] == plot})),
            looks={f"float-{plot}": "it hangs shut"}), 2, about=plot, of=named)
        yield self.fault("float-open", lambda x, u: self.state(
            whole, Timed(runs_over=plot), looks={f"float-{plot}": "it does not shut"}),
            about=plot, of=named)


def _lost(x: float) -> float:
    """Head that a constriction takes, from hardly to badly, against what is left behind it."""
    return float(np.exp(np.log(HARDLY) + (np.log(BADLY) - np.log(HARDLY)) * x))


def _scaled(given: Given, share: float) -> Given:
    """So much less of everything, by the root law of outlets."""
    return Given({e: q * share for e, q in given.each.items()}, given.total_l_h * share, 0.0,
                 given.head_m * share**2, given.start_m * share**2)


def _nothing(given: Given) -> Given:
    return _scaled(given, 0.0)
