"""A made-up fault in one's own garden, to be found by the readings that one asks for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from euhydra.core.advise.diagnosing.case import cases_of
from euhydra.core.advise.diagnosing.found import Fault, Suspects
from euhydra.core.advise.diagnosing.practice import MadeUp, found_out
from euhydra.web.panes.base import Form, Pane
from euhydra.web.panes.wrong_words import asked, in_words, said
from euhydra.web.sheet import Sheet
from euhydra.web.wrong import BETWEEN, Case, practised

PRACTISED_AT, LAST_SEED = 0.6, 997  # a share of the water; made-up faults, round and round


@dataclass(frozen=True)
class Practising(Form):
    """A made-up fault: what was read, what can be, the causes to choose from, and how it ended."""

    template = "_practice.html"
    of: str
    sees: str
    anew: str
    leave: str
    read: Sequence[tuple[str, str]]
    minutes: str
    readings: Sequence[tuple[str, str, str]]
    guesses: Sequence[tuple[str, str]]
    hidden: Sequence[tuple[str, str]]
    told: str
    way: Sequence[str]


def practice(sheet: Sheet, case: Case, suspects: Suspects) -> list[Pane]:
    """A made-up fault to find by the readings that one asks for."""
    made, base = MadeUp(suspects, case.play), f"/g/{sheet.garden.id}/keep?"
    case = practised(case, made, (v.partition(BETWEEN)[0] for k, v in sheet.case if k == "r"))
    sign = suspects.sign(made.sign)
    minutes = suspects.minutes(case.answers)
    guess = suspects.fault(case.guess)
    order = sorted((f for f in suspects.faults if f.kind != "fine"), key=lambda f: f.key)
    told, way = _ended(sheet, made, guess, minutes) if guess else ("", [])
    return [Pane(form=Practising(
        of=cases_of(sheet.assessment)[case.of],
        sees=sign.words.show(sheet.system) if sign else "",
        anew=base + Case(case.of, play=next_seed(case.play)).query(),
        leave=base + Case(case.of).query(),
        read=[(asked(sheet, suspects, key), said(sheet, suspects, key, answer))
              for key, answer in case.answers.items()],
        minutes=sheet.show(minutes, "minutes"),
        readings=[] if guess else [
            (f"{base}{case.query()}&r={r.key}~", r.ask.show(sheet.system),
             sheet.show(r.minutes, "minutes"))
            for r in suspects.readings if r.key not in case.answers],
        guesses=[(f.key, in_words(sheet, f)) for f in order], hidden=case.pairs(),
        told=told, way=way))]


def _ended(sheet: Sheet, made: MadeUp, guess: Fault, minutes: float) -> tuple[str, list[str]]:
    """Whether it was found, and how the tool would have gone about it."""
    there = made.fault.brief.show(sheet.system)
    told = f"{'Found' if made.fault is guess else 'No'}: {there}."
    way = found_out(made)
    read = [f"{asked(sheet, made.suspects, key)} {said(sheet, made.suspects, key, answer)}"
            for key, answer in way[-1].answers.items()]
    spent = made.suspects.minutes(way[-1].answers)
    last = way[-1].likely[0]
    return (f"{told} {made.fault.what.cure} You took {sheet.show(minutes, 'minutes')} of readings; "
            f"the tool takes {sheet.show(spent, 'minutes')}, as here:",
            [*read, f"{in_words(sheet, last.fault)}: {sheet.show(last.share, 'share')}"])


def next_seed(seed: int) -> int:
    """The next made-up fault, round and round."""
    return seed % LAST_SEED + 1
