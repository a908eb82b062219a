"""How likely each fault is by what was seen and read, and which reading tells most for its trouble.

Bayes' rule over every fault at each place and degree. A number is read with a normal error of a
tenth, a little for what was reckoned, and now and then quite wrongly; a look is now and then wrong.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from euhydra.core.advise.diagnosing.found import Fault, Reading, State, Suspects

Array = NDArray[np.float64]
Answers = Mapping[str, float | str]  # what was read, by reading: a number or a look's word
SURE = 0.78
STILL_IT = 0.02  # how likely it still is what was found not to be it, from memory
TELLS_NOTHING = 0.05  # bits
ASTRAY = 0.03  # of numbers are quite wrong, from memory
POINTS = 48
SET_OUT_MIN = 10.0  # trouble of reading anything at all


@dataclass(frozen=True)
class Likely:
    """A fault with its probability."""

    fault: Fault
    share: float


@dataclass(frozen=True)
class Worth:
    """A reading with the bits it is expected to tell, and those for its trouble."""

    reading: Reading
    bits: float
    each: float


class Weighed:
    """The suspects weighed by a sign and some readings. Answers to readings not there are left.

    ``ruled_out`` are the keys of faults that were mended or looked at, and were not it.
    """

    def __init__(self, suspects: Suspects, sign: str, answers: Answers,
                 ruled_out: Collection[str] = ()) -> None:
        self.suspects, self.sign = suspects, sign
        self.answers = {k: v for k, v in answers.items() if suspects.reading(k) is not None}
        self.states: list[State] = [s for f in suspects.faults for s in f.states]
        self.of = np.concatenate([np.full(len(f.states), i) for i, f in enumerate(suspects.faults)])
        self.before = np.concatenate([
            np.full(len(f.states), f.weight / len(f.states)
                    * (STILL_IT if f.key in ruled_out else 1.0)) for f in suspects.faults])

    @cached_property
    def belief(self) -> Array:
        """Probability of each state, (S,)."""
        told = np.log(self.before / self.before.sum())
        if self.sign:
            told += np.log([s.signs.get(self.sign, 0.0) / sum(s.signs.values()) + 1e-9
                            for s in self.states])
        for key, answer in self.answers.items():
            reading = self.suspects.reading(key)
            if reading:
                told += np.log(self._chance(reading, answer))
        found = np.exp(told - told.max())
        return np.asarray(found / found.sum())

    def _chance(self, reading: Reading, answer: float | str) -> Array:
        """How likely an answer is in each state."""
        if isinstance(answer, str):
            return np.array([looks(reading, s)[reading.words.index(answer)] for s in self.states])
        expected = self._expected(reading)
        return _density(np.array([answer]), expected, reading)[:, 0]

    def _expected(self, reading: Reading) -> Array:
        return np.array([s.reads.get(reading.key, reading.usual) for s in self.states])

    @cached_property
    def likely(self) -> tuple[Likely, ...]:
        """Every fault with its probability, the likeliest first."""
        shares = np.bincount(self.of, self.belief, len(self.suspects.faults))
        order = np.argsort(-shares, kind="stable").tolist()
        return tuple(Likely(self.suspects.faults[i], float(shares[i])) for i in order)

    @property
    def sure(self) -> bool:
        """Whether the likeliest is likely enough to act on."""
        return self.likely[0].share >= SURE

    def worth(self, cannot: Sequence[str] = ()) -> tuple[Worth, ...]:
        """What is still to be read, what tells most for its trouble first; what tells nothing
        is not among it.
        """
        found = []
        for reading in self.suspects.readings:
            if reading.key in self.answers or reading.key in cannot:
                continue
            bits = self._bits(reading)
            if bits >= TELLS_NOTHING:
                found.append(Worth(reading, bits, bits / (SET_OUT_MIN + reading.minutes)))
        return tuple(sorted(found, key=lambda w: (-w.each, w.reading.key)))

    def _bits(self, reading: Reading) -> float:
        """Mutual information of a reading with the fault, bits."""
        chances = (np.array([looks(reading, s) for s in self.states]) if reading.words
                   else self._chances(reading))
        weighed = chances * self.belief[:, None]
        by_fault = np.zeros((len(self.suspects.faults), chances.shape[1]))
        np.add.at(by_fault, self.of, weighed)
        each, answer = by_fault.sum(axis=1), by_fault.sum(axis=0)
        apart = np.outer(each, answer)
        there = by_fault > 1e-12
        return float((by_fault[there] * np.log2(by_fault[there] / apart[there])).sum())

    def _chances(self, reading: Reading) -> Array:
        """How likely each of some spans of a number is in each state, (S, POINTS)."""
        expected = self._expected(reading)
        most = float(expected.max() + 3 * reading.spread(float(expected.max())))
        points = most * ((np.arange(POINTS) + 0.5) / POINTS) ** 2  # closer where little is read
        width = most * np.diff((np.arange(POINTS + 1) / POINTS) ** 2)
        found = _density(points, expected, reading) * width
        return np.asarray(found / found.sum(axis=1, keepdims=True))

    def expected(self, reading: Reading, fault: Fault) -> float | str:
        """What a reading gives with a fault, as bad as it is by all that was read."""
        at = np.flatnonzero(self.of == self.suspects.faults.index(fault))
        if reading.words:
            return self.states[int(at[0])].looks.get(reading.key, reading.words[0])
        weights = self.belief[at] / max(self.belief[at].sum(), 1e-300)
        return float(self._expected(reading)[at] @ weights)


def looks(reading: Reading, state: State) -> list[float]:
    """How likely each word is in a state."""
    there = state.looks.get(reading.key, reading.words[0])
    wrong = (1 - reading.right) / (len(reading.words) - 1)
    return [reading.right if word == there else wrong for word in reading.words]


def _density(read: Array, expected: Array, reading: Reading) -> Array:
    """Probability density of each number read (N,) in each state (S,): (S, N)."""
    spread = np.array([reading.spread(float(x)) for x in expected])[:, None]
    off = (read[None, :] - expected[:, None]) / spread
    wide = max(float(expected.max()), reading.usual, reading.floor)
    normal = np.exp(-0.5 * off**2) / (spread * np.sqrt(2 * np.pi))
    return np.asarray((1 - ASTRAY) * normal + ASTRAY / (2 * wide))
