"""Findings: how things stand, why in numbers, and remedies that are real edits."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal, overload

from euhydra.core.statements.figures import Figure, Phrase

if TYPE_CHECKING:
    from euhydra.core.editing.edits import Edit

Level = Literal["stop", "care", "note"]
State = Literal["stop", "care", "ok"]


@dataclass(frozen=True)
class Remedy:
    """An edit that would help, with its effect worked out beforehand. ``key`` lasts.

    ``moves`` is the zone whose run it changes by what was read, if any.
    """

    key: str
    label: Phrase
    effect: Phrase
    edit: Edit
    moves: str = ""


class Later(Sequence[Remedy]):
    """Remedies worked out when first looked at: to say what one does is to lay a garden anew."""

    def __init__(self, make: Callable[[], Iterable[Remedy]]) -> None:
        self._make = make
        self._made: tuple[Remedy, ...] | None = None

    @property
    def pending(self) -> bool:
        """Whether they are still to be worked out."""
        return self._made is None

    def all(self) -> tuple[Remedy, ...]:
        """The remedies."""
        if self._made is None:
            self._made = tuple(self._make())
        return self._made

    @overload
    def __getitem__(self, index: int) -> Remedy: ...
    @overload
    def __getitem__(self, index: slice) -> Sequence[Remedy]: ...

    def __getitem__(self, index: int | slice) -> Remedy | Sequence[Remedy]:
        return self.all()[index]

    def __len__(self) -> int:
        return len(self.all())


@dataclass(frozen=True)
class Finding:
    """One judgement by one named rule. A caution is shown whether or not anything is wrong.

    ``seen`` is what one sees there, as "What is wrong" takes it up: a zone's or a bank's id, "~",
    and the sign.
    """

    rule: str
    level: Level
    title: Phrase
    why: Phrase
    remedies: Sequence[Remedy] = ()
    caution: bool = False
    seen: str = ""

    @property
    def pending(self) -> bool:
        """Whether its remedies are still to be worked out."""
        return isinstance(self.remedies, Later) and self.remedies.pending


@dataclass(frozen=True)
class StationReport:
    """What a station says: one sentence, its key figure, findings (worst first), figures.

    ``by_month`` is the sentence for each month, where that differs.
    """

    key: str
    name: str
    verdict: Phrase
    key_figure: Phrase
    figures: tuple[Figure, ...]
    findings: tuple[Finding, ...]
    by_month: tuple[Phrase, ...] = ()

    @property
    def state(self) -> State:
        """The worst that any finding says."""
        levels = {finding.level for finding in self.findings}
        return "stop" if "stop" in levels else "care" if "care" in levels else "ok"

    def figure(self, key: str) -> Figure:
        """The figure of that key. Raises KeyError."""
        for figure in self.figures:
            if figure.key == key:
                return figure
        raise KeyError(key)


def worst_first(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Stops, then cares, then notes; each in the order found."""
    return tuple(sorted(findings, key=lambda f: ("stop", "care", "note").index(f.level)))
