"""A made-up fault in one's own garden, to find by the readings one asks for."""

from __future__ import annotations

import zlib
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from euhydra.core.advise.diagnosing.found import (
    MODEL_ERROR,
    READ_ERROR,
    Fault,
    Reading,
    State,
    Suspects,
)
from euhydra.core.advise.diagnosing.weighing import Weighed, looks

MOST_READINGS = 8


@dataclass(frozen=True, eq=False)
class MadeUp:
    """A fault drawn by a seed: common ones oftener, as bad as it comes, anywhere on its place."""

    suspects: Suspects
    seed: int

    def _dice(self, what: str) -> np.random.Generator:
        return np.random.default_rng([self.seed, zlib.crc32(what.encode())])

    @cached_property
    def fault(self) -> Fault:
        """What is wrong."""
        faults = [f for f in self.suspects.faults if f.kind != "fine"]
        weights = np.array([f.weight for f in faults])
        return faults[int(self._dice("fault").choice(len(faults), p=weights / weights.sum()))]

    @cached_property
    def state(self) -> State:
        """What is there to be found."""
        bad, along = self._dice("badness").uniform(size=2)
        return self.fault.made(float(bad), float(along))

    @cached_property
    def sign(self) -> str:
        """What is seen of it."""
        signs = list(self.state.signs)
        weights = np.array([self.state.signs[s] for s in signs])
        return signs[int(self._dice("sign").choice(len(signs), p=weights / weights.sum()))]

    def answer(self, reading: Reading) -> float | str:
        """What is read, with the error of reading."""
        dice = self._dice(reading.key)
        if reading.words:
            return str(dice.choice(reading.words, p=looks(reading, self.state)))
        true = self.state.reads.get(reading.key, reading.usual)
        differs, misread, off = dice.normal(size=3)
        return max(float(true * (1 + MODEL_ERROR * differs) * (1 + READ_ERROR * misread)
                         + reading.floor * off), 0.0)


def found_out(made: MadeUp, most: int = MOST_READINGS) -> tuple[Weighed, ...]:
    """How the tool finds it out: after what is seen, after each reading it asks for."""
    answers: dict[str, float | str] = {}
    way = [Weighed(made.suspects, made.sign, answers)]
    while len(answers) < most and not way[-1].sure:
        worth = way[-1].worth()
        if not worth:
            break
        reading = worth[0].reading
        answers = answers | {reading.key: made.answer(reading)}
        way.append(Weighed(made.suspects, made.sign, answers))
    return tuple(way)
