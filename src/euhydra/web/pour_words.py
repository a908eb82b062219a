"""First pour in words: what is there, what it drinks, what it spares, how it stands."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from euhydra.core import units
from euhydra.core.assessment.assess import Assessment
from euhydra.core.editing.answers import Answers
from euhydra.core.season.spared import litres_before, minutes_after, minutes_before
from euhydra.web.drawings import first_pour
from euhydra.web.drawings.first_pour import Answer

NUMBERS = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten",
           "eleven", "twelve")
TIMES = 1.5  # from there on shares are told as times
MATCH = 0.1  # of the need: closer than that is as much


@dataclass(frozen=True)
class Stands:
    """The answers by question; ``title`` and ``says`` of all together, or what it ``lacks``."""

    answers: Mapping[str, Answer]
    title: str
    says: Sequence[str]
    lacks: str


def stands(a: Assessment, given: Answers, lacks: str) -> Stands:
    """How a garden that was answered stands; where something lacks, its place alone."""
    found = first_pour.answers(a, given)
    if lacks:
        return Stands({"place": found["place"]}, "", (), lacks)
    return Stands(found, whole(given), tuple(_says(a)), "")


def whole(given: Answers) -> str:
    """All that is there and all that is watered, in a sentence."""
    there = {"roof": "a roof" if not given.roofs else f"{_many(1 + len(given.roofs))} roofs",
             "well": "a well", "tank": "a tank filled by hand",
             "tap": "a tap to fill in" if given.tap_fills else "a tap",
             "laundry": f"a {given.fixture}"}
    beds = sum(bed.count for bed in given.beds)
    plants = [_counted(beds, "bed"), "a border" if given.border else "",
              _counted(given.trees, "tree or shrub", "trees or shrubs"),
              _counted(given.pots, "pot"), _counted(given.towers, "tower"),
              _counted(given.gutters, "gutter of buckets", "gutters of buckets"),
              f"a chain of {_counted(given.chain, 'bucket')}" if given.chain else "",
              _counted(given.float_pots, "float-valve pot"),
              "a lawn strip" if given.lawn else ""]
    words = _joined([there[w] for w in there if w in given.waters])
    return f"{words[0].upper()}{words[1:]}; {_joined([p for p in plants if p])}."


def _says(a: Assessment) -> Iterator[str]:
    system, today = a.garden.units, a.garden.today
    need = a.station("grow").figure("need_peak").amount
    before = litres_before(a.garden)
    line = f"{need.show(system)} in the hottest month, after rain."
    if before is not None and need.value > 0:
        share = before / need.value
        line += f" You give {units.show(before, 'volume', system)}: " + (
            "about that." if abs(share - 1) <= MATCH else
            f"about {share:.0f} times as much." if share >= TIMES else
            f"{units.show(share, 'share', system)} of it.")
    yield line
    if minutes_before(today):
        yield (f"By hand until now {units.show(minutes_before(today), 'minutes', system)} a day, "
               f"as planned {units.show(minutes_after(a.season, a.schedule), 'minutes', system)}.")
    yield a.station("push").verdict.show(system)
    yield a.station("prove").verdict.show(system)


def _many(number: int) -> str:
    return NUMBERS[number] if number < len(NUMBERS) else str(number)


def _counted(number: int, one: str, more: str = "") -> str:
    if not number:
        return ""
    return f"{'a' if number == 1 else _many(number)} {one if number == 1 else more or one + 's'}"


def _joined(words: Sequence[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
