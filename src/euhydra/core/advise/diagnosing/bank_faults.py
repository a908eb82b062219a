"""All that may be wrong with barrels and tanks: water that goes, water that does not come."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import partial

import numpy as np

from euhydra.core.advise.diagnosing.bank_readings import BankReadings, Water
from euhydra.core.advise.diagnosing.found import (
    AS_USUAL,
    Fault,
    Looks,
    Sign,
    State,
    Suspects,
    grid,
)
from euhydra.core.advise.diagnosing.kinds import KINDS
from euhydra.core.advise.diagnosing.signs import ASTRAY, over, under
from euhydra.core.garden.base import DAYS_BEFORE_MONTH
from euhydra.core.garden.model import Zone
from euhydra.core.results.results import Results
from euhydra.core.statements.figures import Phrase, quoted
from euhydra.core.storage import Bank

LEAKS_L, DRAWN_L = (6.0, 80.0), (15.0, 100.0)  # a day, from memory
LEAST_L = 5.0  # a day that goes, before anyone sees it
SPLITS = (0.9, 4.0)  # a split's flow against its zone's
OPEN_TOP_OFTEN, FROST_OFTEN, NO_FROST_OFTEN = 3.0, 3.0, 0.5
LEAST_DRAWN_L = 2.0
APART_M = (0.08, 0.5)
STOPPED = {"gutter": (0.6, "full, or runs over its edge"),
           "diverter": (0.2, "capped, frozen or choked")}


def bank_suspects(r: Results, bank: Bank, share: float, month: int) -> Suspects:
    """What may be wrong with a bank in a month (0 to 11), a share of its usable water left."""
    case = _Case(BankReadings(r, bank, share, month))
    return Suspects(bank.id, tuple(case.faults()), case.signs, case.readings.every)


def bank_signs(r: Results, bank: Bank) -> tuple[Sign, ...]:
    """What can be seen of a bank."""
    return _Case(BankReadings(r, bank, 1.0, 0)).signs


class _Case:
    def __init__(self, readings: BankReadings) -> None:
        self.readings, self.r, self.bank = readings, readings.r, readings.bank
        self.name = Phrase(readings.name)

    @property
    def signs(self) -> tuple[Sign, ...]:
        """What can be seen of it."""
        found = [Sign("falls", Phrase("Its water falls too fast"))]
        if self.readings.roofs:
            found.append(Sign("stays-low", Phrase("It stays low though it rained")))
        if self.readings.joined:
            found.append(Sign("apart", Phrase(
                f"One {self.r.garden.vessel} stays full, another is low")))
        if self._feeds():
            found += [Sign("spills", Phrase("It spills without rain")),
                      Sign("not-fed", Phrase("It is not filled as it is drawn"))]
        return tuple(found)

    def _feeds(self) -> list[tuple[str, str]]:
        """Float valves that let water into it: id and name."""
        return [(j.id, quoted(j.name)) for j in self.r.garden.joints
                if j.kind == "float" and j.b in self.readings.ids]

    def state(self, water: Water, *, spills: float = 0.0, unfed: float = 0.0,
              looks: Looks = AS_USUAL) -> State:
        """What is found where its water goes so."""
        usual = self.readings.usual
        more = water.day_l - usual.day_l
        comes = min(water.arrives.values(), default=1.0)
        shown = {"falls": over(more, max(LEAST_L, 0.3 * usual.day_l), LEAST_L / 3) + 0.05,
                 "stays-low": under(comes, 0.7, 0.1)
                 + 0.4 * over(more, max(LEAST_L, 0.4 * usual.day_l), LEAST_L / 2),
                 "apart": 1.5 * max((over(m, 0.1, 0.03) for m in water.apart_m.values()),
                                    default=0.0),
                 "spills": spills, "not-fed": unfed}
        return State(self.readings.reads(water), looks,
                     {sign.key: shown[sign.key] + ASTRAY for sign in self.signs})

    def fault(self, kind: str, made: Callable[[float, float], State], bad: int = 1, *,
              of: Phrase | None = None, often: float = 1.0, place: str = "") -> Fault:
        """A fault of the bank, or of what stands by it."""
        return Fault(kind, self.bank.id, of or self.name, KINDS[kind].often * often, made,
                     grid(bad), place)

    def faults(self) -> Iterator[Fault]:
        """Every fault that it can have."""
        usual = self.readings.usual
        yield self.fault("fine", lambda x, u: self.state(usual))
        yield self.fault("tank-leak", lambda x, u: self.state(
            replace(usual, leak_l=usual.leak_l + _between(LEAKS_L, x)), looks={"ground": "wet"}), 4)
        yield self.fault("neighbour", lambda x, u: self.state(
            replace(usual, daytime_l=_between(DRAWN_L, x)), looks={"tied": "torn"}), 4)
        shut = all(s.screened and s.lid_locked for s in self.bank.stores)
        yield self.fault("evaporation", lambda x, u: self.state(
            replace(usual, daytime_l=self.readings.evaporates_l * (0.5 + x)),
            looks={"lid": "off, or open"}), 2, often=1.0 if shut else OPEN_TOP_OFTEN)
        for zone in self.readings.zones:
            yield from self._of_zone(zone)
        yield from self._of_roofs()
        for key, name in self.readings.joined.items():
            yield self.fault("siphon", partial(self._apart, key), 3, of=Phrase(name),
                             often=1 / len(self.readings.joined), place=key)
        for key, name in self._feeds():
            yield self.fault("feed-shut", partial(self._fed, key, shut=True), of=Phrase(name),
                             place=key)
            yield self.fault("feed-open", partial(self._fed, key, shut=False), of=Phrase(name),
                             place=key)

    def _apart(self, key: str, x: float, u: float) -> State:
        return self.state(replace(self.readings.usual, apart_m={key: _between(APART_M, x)}))

    def _fed(self, key: str, x: float, u: float, *, shut: bool) -> State:
        looks = {f"float-{key}": "it hangs shut" if shut else "it does not shut"}
        return self.state(self.readings.usual, spills=1.5 * (not shut), unfed=1.5 * shut,
                          looks=looks)

    def _of_zone(self, zone: Zone) -> Iterator[Fault]:
        """What a zone takes too much by."""
        name, id_ = Phrase(quoted(zone.name)), zone.id
        share = 1 / len(self.readings.zones)
        if self.readings.draws[id_] < LEAST_DRAWN_L:
            return

        def taking(times: float, leak_l: float = 0.0, looks: Looks = AS_USUAL
                   ) -> State:
            usual = self.readings.usual
            draws = {**usual.draws, id_: usual.draws[id_] * times}
            return self.state(replace(usual, draws=draws, leak_l=usual.leak_l + leak_l),
                              looks=looks)

        if not zone.timed:
            yield self.fault("float-open", lambda x, u: taking(
                1.0, _between(LEAKS_L, x), looks={f"shut-{id_}": "yes"}), 3, of=name, often=share,
                place=id_)
            return
        yield self.fault("split", lambda x, u: taking(
            1 + _between(SPLITS, x), looks={f"walk-{id_}": "wet"}), 3, of=name, often=share,
            place=id_)
        yield self.fault("stuck-open", lambda x, u: taking(
            1.0, _between(LEAKS_L, x), looks={f"shut-{id_}": "yes"}), 3, of=name, often=share,
            place=id_)
        yield self.fault("set-long", lambda x, u: taking(
            1.5 + 2 * x, looks={f"set-{id_}": "more than that"}), 3, of=name, often=share,
            place=id_)

    def _of_roofs(self) -> Iterator[Fault]:
        often = FROST_OFTEN if self._frosty else NO_FROST_OFTEN
        for roof in self.readings.roofs:
            name, share = Phrase(quoted(roof.name)), 1 / len(self.readings.roofs)
            yield self.fault("gutter", partial(self._stopped, roof.id, "gutter"), 3, of=name,
                             often=share, place=roof.id)
            yield self.fault("diverter", partial(self._stopped, roof.id, "diverter"), 2, of=name,
                             often=share * often, place=roof.id)

    def _stopped(self, roof: str, look: str, x: float, u: float) -> State:
        """What is found where a roof's water does not come."""
        left, word = STOPPED[look]
        return self.state(replace(self.readings.usual, arrives={roof: left * (1 - x)}),
                          looks={f"{look}-{roof}": word})

    @property
    def _frosty(self) -> bool:
        """Whether stores stand out for frost in this month, or were lately."""
        bank = self.r.banks.of_store[self.bank.id]
        first = DAYS_BEFORE_MONTH[self.readings.month]
        days = (first + np.arange(-20, 30)) % 365
        return bool(self.r.inflow.winters[bank, days].any())


def _between(ends: tuple[float, float], x: float) -> float:
    """From hardly to badly, each step as much again."""
    return float(ends[0] * (ends[1] / ends[0]) ** x)
