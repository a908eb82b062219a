"""What one can read off barrels and tanks, and look at about them; minutes are from memory."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from euhydra.core.advise.diagnosing.found import Reading
from euhydra.core.advise.diagnosing.kinds import LADDER
from euhydra.core.advise.diagnosing.levels import STICK_FLOOR_M, litres_a_metre
from euhydra.core.garden.base import DAYS_BEFORE_MONTH
from euhydra.core.garden.model import Joint, Roof, Zone
from euhydra.core.results.draws import by_hand_l_day, taken_l_day, zone_l_day
from euhydra.core.results.results import Results
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.schedule.settings import Setting
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.storage import Bank
from euhydra.core.storage.top_up import shared_l
from euhydra.core.weather.generator import MONTH_LENGTHS

POURED_L, POUR_FLOOR_L = 10.0, 0.3
NIGHT_SHARE = 0.45  # of a day between the last look of an evening and the first of a morning
MOST_ROOFS, MOST_ZONES = 4, 6


@dataclass(frozen=True)
class Water:
    """What happens to a bank's water: litres a day it loses, what its zones take, what comes in.

    ``leak_l`` goes by day and night, ``daytime_l`` by day alone; ``draws`` is litres a day by
    zone; ``arrives`` the share of a roof's water that comes, by roof; ``apart_m`` how far levels
    stand from each other at a joint.
    """

    draws: Mapping[str, float]
    leak_l: float = 0.0
    daytime_l: float = 0.0
    arrives: Mapping[str, float] = field(default_factory=dict)
    apart_m: Mapping[str, float] = field(default_factory=dict)

    @property
    def day_l(self) -> float:
        """Litres a day that go in all, no rain."""
        return sum(self.draws.values()) + self.leak_l + self.daytime_l


class BankReadings:
    """The readings of one bank in a month."""

    def __init__(self, r: Results, bank: Bank, share: float, month: int) -> None:
        self.r, self.bank, self.share, self.month = r, bank, share, month
        self.ids = {store.id for store in bank.stores}
        self.name = quoted(bank.name)

    @cached_property
    def every(self) -> tuple[Reading, ...]:
        """All of them."""
        return (*self._falls(), *self._comes(), *self._joined(), *self._looks())

    @cached_property
    def zones(self) -> tuple[Zone, ...]:
        """The zones that draw from it, those that take most first; of very many those alone."""
        mine = [z for z in self.r.garden.zones if z.source in self.ids]
        return tuple(sorted(mine, key=lambda z: -self.draws[z.id]))[:MOST_ZONES]

    @cached_property
    def draws(self) -> Mapping[str, float]:
        """Litres a day that each zone takes in the month, as its timer is set."""
        return {z.id: self._own(zone_l_day(self.r, z, self.month))
                for z in self.r.garden.zones if z.source in self.ids}

    def setting_of(self, zone: Zone) -> Setting | None:
        """How the timer is set for a zone in the month, if one opens it."""
        return self.r.schedule.setting_in(zone.id, self.month) if zone.timed else None

    def _own(self, litres: float) -> float:
        """Of what is asked of it, what it gives itself, wells' shares left out."""
        asked = taken_l_day(self.r, self.ids, self.month)
        shared = shared_l(self.r.garden, self.bank, asked)
        return litres * (1 - shared / asked) if asked > 0 else 0.0

    @cached_property
    def usual(self) -> Water:
        """Its water with nothing wrong; what it was read to lose goes as ever."""
        by_hand = self._own(by_hand_l_day(self.r, self.ids, self.month))
        return Water({**self.draws, "": by_hand}, leak_l=self.bank.leak_l_day)

    @cached_property
    def roofs(self) -> tuple[Roof, ...]:
        """The roofs that are led to it, the largest first."""
        led = self.r.garden.roofs_to(self.ids)
        return tuple(sorted(led, key=lambda roof: -roof.area_m2))[:MOST_ROOFS]

    @cached_property
    def joints(self) -> tuple[Joint, ...]:
        """What levels its stores."""
        return tuple(j for j in self.r.garden.joints if j.kind in ("link", "siphon")
                     and j.a in self.ids)

    @cached_property
    def litres_a_m(self) -> float:
        """Litres that a metre of its level holds, about where it stands."""
        return litres_a_metre(self.bank, self.bank.level_z_m(
            max(self.share, 0.1) * self.bank.usable_l))

    @cached_property
    def evaporates_l(self) -> float:
        """What an open top of it would lose a day in the month: no more than a crop's own thirst
        on so small a surface (ETo).
        """
        first = DAYS_BEFORE_MONTH[self.month]
        eto = self.r.weather.eto_mm[:, first:first + MONTH_LENGTHS[self.month]]
        return float(np.mean(eto)) * self.litres_a_m / 1000

    def reads(self, water: Water) -> dict[str, float]:
        """What each number is where its water goes so."""
        deep = self.litres_a_m
        found = {
            "day": water.day_l / deep,
            "night": water.leak_l * NIGHT_SHARE / deep,
            "still": (water.leak_l + water.daytime_l) / deep}
        found |= {f"run-{z.id}": self._run_l(z, water) / deep
                  for z in self.zones if z.timed}
        found |= {f"pour-{roof.id}": POURED_L * water.arrives.get(roof.id, 1.0)
                  for roof in self.roofs}
        found |= {f"apart-{key}": water.apart_m.get(key, 0.0) for key in self.joined}
        return found

    def _run_l(self, zone: Zone, water: Water) -> float:
        """Litres of one run."""
        setting = self.setting_of(zone)
        return water.draws[zone.id] * 7 / setting.runs_a_week if setting else 0.0

    @cached_property
    def joined(self) -> dict[str, str]:
        """The names of what levels its stores, by key: joints, and links within one of several."""
        found = {j.id: quoted(j.name) for j in self.joints}
        return found | {s.id: f"the {s.linked} of {quoted(s.name)}"
                        for s in self.bank.stores if s.count > 1}

    def _falls(self) -> Iterator[Reading]:
        usual = self.reads(self.usual)
        ask = f"how far has {self.name} fallen, by a stick?"
        yield Reading("day", Phrase(f"Without rain, all as always: from one morning to the next, "
                      f"{ask}"), 6, "small", STICK_FLOOR_M, tool="stick", usual=usual["day"])
        yield Reading("night", Phrase(f"Everything shut, no run: from evening to morning, {ask}"),
                      8, "small", STICK_FLOOR_M, tool="stick", usual=usual["night"])
        yield Reading("still", Phrase(f"Everything shut for a whole day, no rain: {ask}"), 12,
                      "small", STICK_FLOOR_M, tool="stick", usual=usual["still"])
        for zone in self.zones:
            setting = self.setting_of(zone)
            if setting and usual[f"run-{zone.id}"] > STICK_FLOOR_M:
                yield Reading(f"run-{zone.id}", Phrase(
                    f"Over one run of {quoted(zone.name)}: {ask}"), 7, "small", STICK_FLOOR_M,
                    tool="stick", usual=usual[f"run-{zone.id}"])
                yield Reading(f"set-{zone.id}", say(
                    f"What stands on the timer for {quoted(zone.name)}? By its card {{m}}, "
                    f"{rhythm(setting)}.", m=Amount(setting.minutes, "minutes")), 1,
                    words=("as on the card", "more than that"), tool="eyes")

    def _comes(self) -> Iterator[Reading]:
        for roof in self.roofs:
            name = quoted(roof.name)
            yield Reading(f"pour-{roof.id}", say(
                f"Pour {{l}} into the far end of the gutter of {name}: how much runs into the "
                f"{self.r.garden.vessel}?", l=Amount(POURED_L, "drop")), 14, "drop", POUR_FLOOR_L,
                tool="bucket, jug", caution=LADDER, usual=POURED_L)
            yield Reading(f"gutter-{roof.id}", Phrase(
                f"From below, in rain or by what grows there: the gutter of {name}?"), 2,
                words=("clear", "full, or runs over its edge"), tool="eyes", caution=LADDER)
            yield Reading(f"diverter-{roof.id}", Phrase(
                f"The diverter and its hose from {name}?"), 3,
                words=("open", "capped, frozen or choked"), tool="eyes")

    def _joined(self) -> Iterator[Reading]:
        for key, name in self.joined.items():
            yield Reading(f"apart-{key}", Phrase(
                f"With a stick: how far apart stand the levels on either side of {name}?"), 3,
                "small", STICK_FLOOR_M + 0.01, tool="stick", usual=0.0)

    def _looks(self) -> Iterator[Reading]:
        yield Reading("ground", Phrase(f"Under {self.name} and at its spigot?"), 2,
                      words=("dry", "wet"), tool="eyes")
        yield Reading("lid", Phrase(f"Lid and screens of {self.name}?"), 1,
                      words=("on", "off, or open"), tool="eyes")
        yield Reading("tied", Phrase(f"Tie a thread about the spigot of {self.name} in the "
                      "evening; the next evening it is?"), 5, words=("whole", "torn"),
                      tool="thread")
        for zone in self.zones:
            yield Reading(f"shut-{zone.id}", Phrase(
                f"An hour after {quoted(zone.name)} has shut: does anything still drip?"
                if zone.timed else f"Does {quoted(zone.name)} run over?"), 3,
                words=("no", "yes"), tool="eyes")
            yield Reading(f"walk-{zone.id}", Phrase(
                f"Walk along the pipes of {quoted(zone.name)}: a wet place off the outlets?"), 5,
                words=("nothing", "wet"), tool="eyes")
        for n, (key, name) in enumerate(self._floats()):
            yield Reading(f"float-{key}", Phrase(f"Lift and press the float of {name}."),
                          2 + n, words=("it moves, shuts and opens", "it hangs shut",
                                        "it does not shut"), tool="hands")

    def _floats(self) -> list[tuple[str, str]]:
        """Float valves by which it is fed, or feeds."""
        return [(j.id, quoted(j.name)) for j in self.r.garden.joints
                if j.kind == "float" and self.ids & {j.a, j.b}]
