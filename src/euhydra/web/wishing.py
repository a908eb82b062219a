"""What a person wants of a garden and will not do for it, read out of an address."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field

from euhydra.core import units
from euhydra.core.advise.helping.moves import Need
from euhydra.core.advise.helping.wishes import GOALS, Wish
from euhydra.core.assessment.assess import Assessment
from euhydra.core.garden.model import Garden
from euhydra.core.parsing import BadEntry, parse
from euhydra.core.units import System

NEEDS: dict[Need, str] = {"mains": "no mains water", "power": "no electricity",
                          "digging": "no digging", "carrying": "nothing more by hand"}
MOST_WEEKS, MOST = 26, 1e6
TYPED = ("goal", "most", "hours", "weeks")


@dataclass(frozen=True)
class Asked:
    """A wish as typed; ``wish`` is None where nothing was asked for or something cannot be.

    ``typed`` is what stood in the fields, ``faults`` what is wrong with them.
    """

    wish: Wish | None
    typed: dict[str, str] = field(default_factory=dict)
    faults: dict[str, str] = field(default_factory=dict)
    refused: frozenset[Need] = frozenset({"carrying"})
    alone: frozenset[str] = frozenset()
    picked: tuple[str, ...] = ()


def asked_of(pairs: Iterable[tuple[str, str]], garden: Garden) -> Asked:
    """The wish of an address's pairs, those of things that are gone left out."""
    pairs = tuple(pairs)
    typed = {key: value.strip() for key, value in pairs if key in TYPED}
    goal = typed.get("goal", "")
    if goal != "weeks" and goal not in GOALS:
        return Asked(None)
    faults: dict[str, str] = {}
    most = _number(typed, "most", "money", garden.units, faults)
    hours = _number(typed, "hours", "hours", garden.units, faults)
    weeks = _weeks(typed, faults) if goal == "weeks" else 3
    refused = frozenset(need for need in NEEDS if ("no", need) in pairs)
    there = {x.id for x in (*garden.plots, *garden.stores)}
    alone = frozenset(value for key, value in pairs if key == "leave" and value in there)
    picked = next((tuple(v.split(".")) for k, v in pairs if k == "set" and v), ())
    wish = Wish(goal, refused, most, hours, alone, weeks)
    return Asked(None if faults else wish, typed, faults, refused, alone, picked)


def goals_of(a: Assessment, weeks: int = 3) -> dict[str, str]:
    """The aims that this garden can have, in words."""
    tap = bool(a.season.tap.any())
    there = {"tap": tap, "money": tap, "work": bool(a.season.poured.any() or a.garden.hand_plots)}
    found = {key: goal.words for key, goal in GOALS.items() if there.get(key, True)}
    if a.garden.stores:
        found["weeks"] = Wish("weeks", weeks=weeks).aim.words
    return found


def _number(typed: dict[str, str], key: str, kind: str, system: System,
            faults: dict[str, str]) -> float:
    """What was typed as the most of something; without end where nothing was."""
    if not typed.get(key):
        return math.inf
    try:
        value = parse(typed[key], kind, system)
    except BadEntry as error:
        faults[key] = error.why
        return math.inf
    if not 0 <= value <= MOST:
        most = units.show(MOST, kind, system)
        faults[key] = f"“{typed[key][:20]}” is out of reach: from 0 to {most}."
    return value


def _weeks(typed: dict[str, str], faults: dict[str, str]) -> int:
    text = typed.get("weeks") or "3"
    if not text.isdecimal() or not 1 <= int(text[:6]) <= MOST_WEEKS:
        faults["weeks"] = f"“{text[:20]}” is no number of weeks: from 1 to {MOST_WEEKS}."
        return 3
    return int(text)
