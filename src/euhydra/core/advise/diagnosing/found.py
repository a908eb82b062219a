"""What a fault is, what would be found with it, and what one can read to find out."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from functools import cached_property

from euhydra.core.advise.diagnosing.kinds import KINDS, FaultKind
from euhydra.core.statements.figures import Phrase

RIGHT, HIDDEN = 0.93, 0.85  # of looks are right, of those under mulch and leaves; from memory
OF_A_PLOT = ("grown", "float-shut", "float-open")
READ_ERROR = 0.1  # of a number, one standard deviation
MODEL_ERROR = 0.08  # of what was reckoned: outlets and pipes differ from their tables

Looks = Mapping[str, str]  # what is seen, by look; one that is not told is as usual
AS_USUAL: Looks = {}


@dataclass(frozen=True)
class State:
    """What would be found: numbers by reading, words by look, and how strongly each sign shows.

    A number is in the unit inside of its reading's kind.
    """

    reads: Mapping[str, float]
    looks: Looks = field(default_factory=dict)
    signs: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class Sign:
    """What a person sees."""

    key: str
    words: Phrase


@dataclass(frozen=True)
class Reading:
    """What one can measure or look at. ``minutes`` is the trouble of it, from memory.

    A number has a ``kind`` of unit and cannot be read closer than ``floor``; a look has ``words``,
    the first as usual, and is ``right`` so often. ``tool`` is what it takes, ``at`` the outlet at
    which it is made, ``usual`` what it gives when nothing is wrong.
    """

    key: str
    ask: Phrase
    minutes: float
    kind: str = ""
    floor: float = 0.0
    words: tuple[str, ...] = ()
    tool: str = ""
    at: str = ""
    caution: str = ""
    usual: float = 0.0
    right: float = RIGHT

    def spread(self, expected: float) -> float:
        """Standard deviation of what is read where so much is there."""
        return float(((READ_ERROR * expected) ** 2 + (MODEL_ERROR * expected) ** 2
                      + self.floor**2) ** 0.5)


@dataclass(frozen=True)
class Fault:
    """One thing that may be wrong, at one place.

    ``made`` tells what is found with it as bad as ``x`` (0: hardly, 1: as bad as it gets), at ``u``
    of the way along its place. ``weight`` is how likely it is before anything is known, against
    other faults of the garden; ``caution`` is said beside its kind's own.
    """

    kind: str
    about: str
    of: Phrase
    weight: float
    made: Callable[[float, float], State]
    grid: tuple[tuple[float, float], ...] = ((0.5, 0.5),)
    place: str = ""
    size: str = ""
    caution: str = ""

    @property
    def key(self) -> str:
        """It, among all of a garden's."""
        return f"{self.kind}:{self.place or self.about}"

    @property
    def what(self) -> FaultKind:
        """Its kind's words, cure and parts."""
        return KINDS[self.kind]

    @property
    def words(self) -> Phrase:
        """What is wrong, in words."""
        return Phrase(self.what.words.replace("{of}", self.of.template), self.of.amounts)

    @property
    def brief(self) -> Phrase:
        """The same where it is told already of which zone or bank it is."""
        if self.place or self.kind in OF_A_PLOT:
            return self.words
        return Phrase(self.what.words.replace(" of {of}", "").replace(" for {of}", "")
                      .replace(" with {of}", "").replace("{of}", "it"))

    @property
    def parts(self) -> str:
        """What its cure takes, of the size at its place; "" where it takes none."""
        return self.what.parts.replace("{size}", self.size)

    @cached_property
    def states(self) -> tuple[State, ...]:
        """What is found with it, from hardly to as bad as it gets, each as likely."""
        return tuple(self.made(x, u) for x, u in self.grid)


@dataclass(frozen=True, eq=False)
class Suspects:
    """All that may be wrong with a zone or a bank, all that can be seen and read there.

    One that is ``still`` gives nothing as it is built, with nothing wrong.
    """

    of: str
    faults: tuple[Fault, ...]
    signs: tuple[Sign, ...]
    readings: tuple[Reading, ...]
    still: bool = False

    def reading(self, key: str) -> Reading | None:
        """The reading of that key."""
        return next((r for r in self.readings if r.key == key), None)

    def minutes(self, keys: Iterable[str]) -> float:
        """The trouble of some readings."""
        return sum(r.minutes for key in keys if (r := self.reading(key)))

    def sign(self, key: str) -> Sign | None:
        """The sign of that key."""
        return next((s for s in self.signs if s.key == key), None)

    def fault(self, key: str) -> Fault | None:
        """The fault of that key."""
        return next((f for f in self.faults if f.key == key), None)


def grid(bad: int, along: int = 1) -> tuple[tuple[float, float], ...]:
    """Midpoints: so many degrees of badness, at so many places along."""
    return tuple(((i + 0.5) / bad, (j + 0.5) / along) for i in range(bad) for j in range(along))
