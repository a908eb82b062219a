"""Findings: how things stand, why in numbers, and remedies that are real edits."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from euhydra.core.figures import Figure, Phrase
from euhydra.core.garden.edits import Edit

Level = Literal["stop", "care", "note"]
State = Literal["stop", "care", "ok"]


@dataclass(frozen=True)
class Remedy:
    """An edit that would help, with its effect worked out beforehand. ``key`` lasts."""

    key: str
    label: Phrase
    effect: Phrase
    edit: Edit


@dataclass(frozen=True)
class Finding:
    """One judgement by one named rule. A caution is shown whether or not anything is wrong."""

    rule: str
    level: Level
    title: Phrase
    why: Phrase
    remedies: tuple[Remedy, ...] = ()
    caution: bool = False


@dataclass(frozen=True)
class StationReport:
    """What a station says: one sentence, its key figure, findings (worst first), figures."""

    key: str
    name: str
    verdict: Phrase
    key_figure: Phrase
    figures: tuple[Figure, ...]
    findings: tuple[Finding, ...]

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
