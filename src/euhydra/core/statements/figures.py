"""Values that can show how they came about: Amount, Phrase, Working, Figure."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from euhydra.core import units
from euhydra.core.units import System

Standing = Literal["published", "common practice", "from memory", "physics", "your entry"]


@dataclass(frozen=True)
class Amount:
    """A number in the unit that its kind has inside the core (see :data:`units.KINDS`)."""

    value: float
    kind: str
    decimals: int | None = None

    def show(self, system: System) -> str:
        """The number with its unit in the system asked for."""
        if self.kind == "date":
            return units.show_date(self.value)
        if self.kind == "head" and self.decimals is None:
            return units.head_and_pressure(self.value, system)
        return units.show(self.value, self.kind, system, self.decimals)


@dataclass(frozen=True)
class Phrase:
    """A sentence with amounts in it, so that it reads in either system of units.

    ``{n:filter|filters}`` is a number with the word that suits it.
    """

    template: str
    amounts: Mapping[str, Amount] = field(default_factory=dict)

    def show(self, system: System) -> str:
        """The sentence with each ``{name}`` written out."""
        return self.template.format(**{k: _Shown(a.show(system)) for k, a in self.amounts.items()})


class _Shown(str):
    """An amount as it is shown; ``{n:filter|filters}`` puts the word that suits it behind."""

    __slots__ = ()

    def __format__(self, words: str) -> str:
        if not words:
            return str(self)
        one, many = words.split("|")
        return f"{self}\u00a0{one if self == '1' else many}"


NONE = Phrase("")


def say(template: str, **amounts: Amount) -> Phrase:
    """``say("Barrels hold {v}.", v=Amount(630, "volume"))``."""
    return Phrase(template, amounts)


def quoted(name: str) -> str:
    """A name safe to put in a template: a person may call a bed ``{x}``."""
    return name.replace("{", "{{").replace("}", "}}")


@dataclass(frozen=True)
class Term:
    """One line of a sum: what it is, its amount, and where it comes from."""

    name: str
    amount: Amount
    note: str = ""


@dataclass(frozen=True)
class Working:
    """How a figure was reached: the formula in words, what was put in, and its source."""

    formula: str
    terms: tuple[Term, ...]
    source: str
    standing: Standing

    def text(self, system: System) -> list[str]:
        """Plain lines, for the report."""
        lines = [self.formula]
        lines += [f"{t.name}: {t.amount.show(system)}{' (' + t.note + ')' if t.note else ''}"
                  for t in self.terms]
        return [*lines, f"{self.standing}: {self.source}"]


@dataclass(frozen=True)
class Figure:
    """A headline number with its working. ``key`` is stable across versions."""

    key: str
    name: str
    amount: Amount
    working: Working
