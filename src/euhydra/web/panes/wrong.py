"""The pane of what is wrong: what one sees, what to read next, what it is, how it is cured."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from urllib.parse import urlencode

from euhydra.core.advise.diagnosing.case import cases_of, signs_at
from euhydra.core.advise.diagnosing.found import Reading, Suspects
from euhydra.core.advise.diagnosing.weighing import Weighed, Worth
from euhydra.core.advise.troubles import troubles_of
from euhydra.core.log.entries import LONGEST_NOTE
from euhydra.core.units import KINDS as UNITS
from euhydra.web.drawings.suspects import where_it_may_lie
from euhydra.web.panes.base import Fold, Folds, Form, Pane, Table
from euhydra.web.panes.keep import day_of
from euhydra.web.panes.practising import PRACTISED_AT, next_seed, practice
from euhydra.web.panes.wrong_words import asked, in_words, said, sentence
from euhydra.web.sheet import Sheet
from euhydra.web.wrong import Case, answered, opened, suspects_of

TOLD, LEAST_TOLD, OTHERS, WORKED = 4, 0.02, 6, 3
FEW_WORDS = 4
HOW = ("Each cause is put into this garden, at every place and from hardly to badly, and weighed "
       "by how well it gives what you saw and read (Bayes): a number is read within a tenth, a "
       "look is now and then wrong. One fault at a time is looked for. How common each cause is "
       "beforehand, and how long a reading takes, is from memory.")


@dataclass(frozen=True)
class Seen(Form):
    """What can be seen, of one zone or store: where to look as (address, name, chosen), the signs
    as (address, words), other troubles as (what, lines).
    """

    template = "_seen.html"
    things: Sequence[tuple[str, str, bool]]
    signs: Sequence[tuple[str, str]]
    practice: str
    others: Sequence[tuple[str, Sequence[str]]]


@dataclass(frozen=True)
class Ask:
    """A reading to be made. ``words`` are (place, word); ``hidden`` the fields of its form."""

    key: str
    ask: str
    why: str
    caution: str
    words: Sequence[tuple[int, str]]
    listed: bool
    example: str
    typed: str
    fault: str
    hidden: Sequence[tuple[str, str]]
    cannot: str


@dataclass(frozen=True)
class Cure:
    """What it most likely is, and what to do: ``note`` is what the log will say of it, ``no`` the
    address that rules it out.
    """

    head: str
    do: str
    parts: str
    caution: str
    kind: str
    about: str
    note: str
    no: str


@dataclass(frozen=True)
class Looking(Form):
    """A case under way: what was read as (ask, answer, take out), the likeliest as (words, share,
    width), what to read next, other readings as (address, words), the cure.
    """

    template = "_wrong.html"
    of: str
    sees: str
    anew: str
    read: Sequence[tuple[str, str, str]]
    likely: Sequence[tuple[str, str, float]]
    ask: Ask | None
    others: Sequence[tuple[str, str]]
    cure: Cure | None
    told: str
    how: str


def wrong(sheet: Sheet) -> list[Pane]:
    """What one sees; then what to read, until it is sure enough what is wrong."""
    a = sheet.assessment
    case = opened(sheet.case, a)
    if case is None:
        return [Pane(words="There are neither lines nor stores yet in which something could be "
                           "wrong."),
                Pane(form=Folds(tuple(Fold(what, lines=tuple(lines))
                                      for what, lines in _others(sheet))))]
    month = day_of(sheet).month - 1
    if case.play:
        return practice(sheet, case, a.suspects(case.of, PRACTISED_AT, month))
    if not case.sign:
        return _seen(sheet, case)
    pick = dict(sheet.answer)
    suspects = suspects_of(a, case, sheet.case, pick, month)
    return _looking(sheet, answered(case, sheet.case, pick, suspects, sheet.system), suspects, pick)


def _seen(sheet: Sheet, case: Case) -> list[Pane]:
    """Where, and what one sees there; what else may trouble one, as a list."""
    a, base = sheet.assessment, f"/g/{sheet.garden.id}/keep?"
    return [Pane(form=Seen(
        tuple((base + Case(key).query(), name, key == case.of)
              for key, name in cases_of(a).items()),
        tuple((base + Case(case.of, sign.key).query(), sign.words.show(sheet.system))
              for sign in signs_at(a, case.of)),
        base + Case(case.of, play=next_seed(0)).query(), _others(sheet)))]


def _others(sheet: Sheet) -> list[tuple[str, Sequence[str]]]:
    """What no reading of water tells apart."""
    return [(t.seen, (f"Most often {t.means}.", t.do)) for t in troubles_of(sheet.garden)]


def _looking(sheet: Sheet, case: Case, suspects: Suspects, pick: dict[str, str]) -> list[Pane]:
    base = f"/g/{sheet.garden.id}/keep?"
    weighed = Weighed(suspects, case.sign, case.answers, case.ruled_out)
    worth = weighed.worth(case.cannot)
    picked = case.key or ("" if pick.keys() & {"typed", "word"} else pick.get("key", ""))
    wanted = suspects.reading(picked)
    first = wanted or (worth[0].reading if worth else None)
    sure = weighed.sure or not worth
    sign = suspects.sign(case.sign)
    asks = first if first and (not sure or wanted) else None
    form = Looking(
        of=cases_of(sheet.assessment)[case.of],
        sees=sign.words.show(sheet.system) if sign else "", anew=base + Case(case.of).query(),
        read=[(asked(sheet, suspects, key), said(sheet, suspects, key, answer),
               base + case.query(without=key)) for key, answer in case.answers.items()],
        likely=_likely(sheet, weighed),
        ask=_ask(sheet, case, asks) if asks else None,
        others=[(f"{base}{case.query(key=w.reading.key)}", _short(sheet, w.reading))
                for w in worth if w.reading is not asks][:OTHERS],
        cure=_cure(sheet, case, weighed) if sure else None,
        told=_told(weighed, worth), how=HOW)
    panes = [] if not suspects.still else [Pane(
        words="As it is built no water comes here, with nothing wrong: Push says why.")]
    panes += [Pane(form=form), Pane(drawing=where_it_may_lie(
        sheet, weighed, asks))]
    if case.answers:
        panes.append(Pane(table=_working(sheet, weighed), twin=True))
    return panes


def _told(weighed: Weighed, worth: Sequence[Worth]) -> str:
    """How sure it is."""
    if weighed.sure:
        return "Sure enough to act on."
    if not worth:
        return ("No further reading would tell these apart. Cure the likeliest, or the cheapest, "
                "first and look again.")
    return ""


def _likely(sheet: Sheet, weighed: Weighed) -> list[tuple[str, str, float]]:
    """The likeliest causes with their shares; a width for the first is told against it."""
    told = [x for x in weighed.likely[:TOLD] if x.share >= LEAST_TOLD]
    return [(in_words(sheet, x.fault), sheet.show(x.share, "share"), round(100 * x.share, 1))
            for x in told]


def _ask(sheet: Sheet, case: Case, reading: Reading) -> Ask:
    minutes = sheet.show(reading.minutes, "minutes")
    usual = ("" if reading.words else
             f" With nothing wrong: {sheet.show(reading.usual, reading.kind)}.")
    return Ask(
        reading.key, reading.ask.show(sheet.system),
        f"{reading.tool.capitalize()}, about {minutes}.{usual}", reading.caution,
        list(enumerate(reading.words)), len(reading.words) > FEW_WORDS,
        UNITS[reading.kind].example if reading.kind else "",
        *((case.typed, case.fault) if reading.key == case.key else ("", "")), case.pairs(),
        f"/g/{sheet.garden.id}/keep?{case.query(skip=reading.key)}")


def _short(sheet: Sheet, reading: Reading) -> str:
    return f"{reading.ask.show(sheet.system)} ({sheet.show(reading.minutes, 'minutes')})"


def _cure(sheet: Sheet, case: Case, weighed: Weighed) -> Cure:
    fault, kind = weighed.likely[0].fault, weighed.likely[0].fault.what
    words = sentence(fault.words.show(sheet.system))
    found = "; ".join(f"{asked(sheet, weighed.suspects, k)} {said(sheet, weighed.suspects, k, v)}"
                      for k, v in case.answers.items())
    note = f"{words}. {kind.cure} Found by: {found}" if found else f"{words}. {kind.cure}"
    about = fault.about if kind.logs != "battery" else ""
    share = sheet.show(weighed.likely[0].share, "share")
    return Cure(f"{in_words(sheet, fault)}: {share}", kind.cure, fault.parts,
                " ".join(x for x in (kind.caution, fault.caution) if x), kind.logs, about,
                note[:LONGEST_NOTE],
                f"/g/{sheet.garden.id}/keep?{case.query()}&{urlencode({'not': fault.key})}")


def _working(sheet: Sheet, weighed: Weighed) -> Table:
    """What was read beside what each of the likeliest gives in this garden."""
    best = [x.fault for x in weighed.likely[:WORKED]]
    readings = [r for key in weighed.answers if (r := weighed.suspects.reading(key))]
    rows = []
    for r in readings:
        read = said(sheet, weighed.suspects, r.key, weighed.answers[r.key])
        usual = r.words[0] if r.words else sheet.show(r.usual, r.kind)
        rows.append((r.ask.show(sheet.system), read, usual, *(
            said(sheet, weighed.suspects, r.key, weighed.expected(r, f)) for f in best)))
    return Table("What was read, and what each cause gives here",
                 ("Reading", "Read", "Nothing wrong", *(in_words(sheet, f) for f in best)),
                 tuple(rows))
