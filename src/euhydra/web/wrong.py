"""A case of something wrong, out of an address: what is seen, what was read, what cannot be."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from urllib.parse import urlencode

from euhydra.core.advise.diagnosing.case import cases_of, share_by_dip, signs_at
from euhydra.core.advise.diagnosing.found import Reading, Suspects
from euhydra.core.advise.diagnosing.practice import MadeUp
from euhydra.core.assessment.assess import Assessment
from euhydra.core.parsing import BadEntry, parse
from euhydra.core.units import System

MOST_READ, MOST = 30, 1e6
Pairs = tuple[tuple[str, str], ...]
BETWEEN = "~"  # between what a case is of and what is seen, between a reading and its answer
USUAL_SHARE = 0.5


@dataclass(frozen=True)
class Case:
    """What an address tells: ``of`` which zone or bank, the ``sign``, the answers by reading, and
    as the address keeps them.

    ``ruled_out`` are faults that it was not. ``play`` is the seed of a made-up fault, 0 where it is
    no practice; ``typed`` and ``fault`` what was typed to the reading ``key`` and why it cannot be.
    """

    of: str
    sign: str = ""
    answers: dict[str, float | str] = field(default_factory=dict)
    kept: dict[str, str] = field(default_factory=dict)
    cannot: tuple[str, ...] = ()
    ruled_out: tuple[str, ...] = ()
    play: int = 0
    guess: str = ""
    key: str = ""
    typed: str = ""
    fault: str = ""

    def query(self, *, without: str = "", skip: str = "", **more: str) -> str:
        """The part of an address that tells it again, an answer taken out or a reading skipped."""
        return urlencode(self.pairs(without=without, skip=skip, **more))

    def pairs(self, *, without: str = "", skip: str = "", **more: str) -> Pairs:
        """The same as names and values, of a form's hidden fields."""
        found = [("view", "trouble"), ("see", f"{self.of}{BETWEEN}{self.sign}")]
        found += [("r", f"{key}{BETWEEN}{kept}") for key, kept in self.kept.items()
                  if key != without]
        found += [("cannot", key) for key in (*self.cannot, skip) if key]
        found += [("not", key) for key in self.ruled_out]
        if self.play:
            found.append(("play", str(self.play)))
        return (*found, *more.items())


def case_seen(seen: str) -> str:
    """The part of an address that opens a case by what a finding has seen."""
    of, _, sign = seen.partition(BETWEEN)
    return Case(of, sign).query()


def opened(pairs: Pairs, a: Assessment) -> Case | None:
    """The case without its answers; None where the garden has nothing to look into."""
    there = cases_of(a)
    if not there:
        return None
    first = dict(reversed(pairs))
    of, _, sign = first.get("see", "").partition(BETWEEN)
    if of not in there:
        of, sign = next(iter(there)), ""
    play = first.get("play", "")
    return Case(of, sign if any(s.key == sign for s in signs_at(a, of)) else "",
                cannot=tuple(dict.fromkeys(v for k, v in pairs if k == "cannot"))[:MOST_READ],
                ruled_out=tuple(dict.fromkeys(v for k, v in pairs if k == "not"))[:MOST_READ],
                play=int(play) if play.isdecimal() and len(play) < 10 else 0,
                guess=first.get("guess", ""))


def share_of(a: Assessment, of: str, dip_m: float | None = None) -> float:
    """What share of its source's water is left: by the dip just made, else by the log."""
    if dip_m is not None and (found := share_by_dip(a, of, dip_m)) is not None:
        return found
    source = next((z.source for z in a.garden.zones if z.id == of), of)
    bank = a.banks.of_store.get(source)
    if bank is None:
        return 1.0 if a.garden.tap_of(source) else USUAL_SHARE
    usable = a.banks.banks[bank].usable_l
    return float(a.stands.level[bank]) / usable if usable > 0 else USUAL_SHARE


def suspects_of(a: Assessment, case: Case, pairs: Pairs, answer: dict[str, str], month: int
                ) -> Suspects:
    """What may be wrong, with so much water as the log or the case's own dip tells."""
    told = a.suspects(case.of, share_of(a, case.of), month)
    dip = answered(case, pairs, answer, told, a.garden.units).answers.get("dip")
    if not isinstance(dip, float):
        return told
    return a.suspects(case.of, share_of(a, case.of, dip), month)


def answered(case: Case, pairs: Pairs, answer: dict[str, str], suspects: Suspects,
             system: System) -> Case:
    """The case with its answers; what was just typed among them, or beside them with its fault."""
    kept = {name: text for key, value in pairs if key == "r"
            for name, _, text in [value.partition(BETWEEN)]}
    reading = suspects.reading(answer.get("key", ""))
    typed, why = answer.get("typed", "").strip(), ""
    if reading and "word" in answer:
        kept[reading.key] = answer["word"]
    elif reading and "typed" in answer:
        try:
            kept[reading.key] = f"{_typed(reading, typed, system):.6g}"
        except BadEntry as error:
            why = error.why
    found = {key: read for key, text in list(kept.items())[:MOST_READ]
             if (known := suspects.reading(key)) and (read := _read(known, text)) is not None}
    return replace(case, answers=found, kept={key: kept[key] for key in found},
                   key=reading.key if reading and why else "", typed=typed if why else "",
                   fault=why)


def practised(case: Case, made: MadeUp, asked: Iterable[str]) -> Case:
    """A case of practice, with what is read where it was asked for."""
    readings = [r for key in dict.fromkeys(asked) if (r := made.suspects.reading(key))][:MOST_READ]
    return replace(case, sign=made.sign, answers={r.key: made.answer(r) for r in readings},
                   kept={r.key: "" for r in readings})


def _read(reading: Reading, kept: str) -> float | str | None:
    """An answer as an address keeps it: a word by its place, a number in the unit inside."""
    if reading.words:
        at = int(kept) if kept.isdecimal() and len(kept) < 4 else len(reading.words)
        return reading.words[at] if at < len(reading.words) else None
    try:
        value = float(kept)
    except ValueError:
        return None
    return value if math.isfinite(value) and 0 <= value <= MOST else None


def _typed(reading: Reading, typed: str, system: System) -> float:
    value = parse(typed, reading.kind, system)
    if not 0 <= value <= MOST:
        raise BadEntry(typed, f"“{typed[:20]}” is out of reach: from 0 up.")
    return value

