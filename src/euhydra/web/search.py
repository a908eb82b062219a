"""What can be gone to from a garden's pages, by its words and by others that mean it."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from urllib.parse import quote

from euhydra.core.advise.diagnosing.case import cases_of, signs_at
from euhydra.core.advise.troubles import troubles_of
from euhydra.core.assessment.assess import STATIONS, Assessment
from euhydra.core.log.entries import KINDS, things_of
from euhydra.web import measures
from euhydra.web.fields import Fields
from euhydra.web.panes import views_of
from euhydra.web.wrong import Case

HELP = Path(__file__).parent / "help"


@dataclass(frozen=True)
class Place:
    """Somewhere to go: its ``words``, what it is ``of``, and ``also`` what it may be asked by.

    What is ``off`` more stands after what answers as well.
    """

    words: str
    of: str
    href: str
    also: str = ""
    off: float = 0.0


@cache
def table(name: str) -> tuple[tuple[str, str], ...]:
    """The rows of a table of help: a word, and what is said of it."""
    with (HELP / name).open(encoding="utf-8", newline="") as file:
        return tuple((word, said) for word, said in csv.reader(file))[1:]


def places(a: Assessment) -> list[Place]:
    """All that a garden's pages lead to: what is shown first where several answer."""
    return [*_stations(a), *_findings(a), *_things(a), *_measures(a), *_parts(a), *_entries(a),
            *_troubles(a), *_terms()]


def _stations(a: Assessment) -> Iterator[Place]:
    also = dict(table("also.csv"))
    yield Place("The garden", "on a day", f"/g/{a.garden.id}/garden", also["garden"])
    for key in STATIONS:
        base = f"/g/{a.garden.id}/{key}"
        name = a.station(key).name
        yield Place(name, "station", base, also.get(key, ""))
        for view in views_of(key, a.garden):
            yield Place(view.label, name, f"{base}?view={view.key}",
                        also.get(f"{key}/{view.key}", ""))


def _findings(a: Assessment) -> Iterator[Place]:
    for key in STATIONS:
        for finding in a.station(key).findings:
            yield Place(finding.title.show(a.garden.units), f"{a.station(key).name} says",
                        f"/g/{a.garden.id}/{key}", finding.rule.replace(".", " "))


def _things(a: Assessment) -> Iterator[Place]:
    for key, name in things_of(a.garden, "any").items():
        if key:
            yield Place(name, "its log", f"/g/{a.garden.id}/keep?view=one&asked="
                        + quote(f"about:{key}"))
    for timer in a.garden.timers:
        yield Place(timer.name, "on Time", f"/g/{a.garden.id}/time?view=timers&sel="
                    + quote(f"timers/{timer.id}"), "timer dial valve hose program")
    for plot in a.garden.plots:
        crops = [a.library.crops[p.crop].name for p in plot.plantings]
        yield Place(plot.name, "on the plan", f"/g/{a.garden.id}/lay?view=plan&sel="
                    + quote(f"plots/{plot.id}"), f"plot {plot.kind} {' '.join(crops)}")
        for crop in crops:
            yield Place(f"{crop} in {plot.name}", "what grows where",
                        f"/g/{a.garden.id}/grow?view=plantings", "crop plant")


def _measures(a: Assessment) -> Iterator[Place]:
    fields, there = Fields(a.garden, a.library), set[str]()
    # What stands on Push too has its home elsewhere.
    for key in sorted(STATIONS, key="push".__eq__):
        for group in measures.listed(key, fields):
            for field in (f for f in group.fields if f.path not in there):
                there.add(field.path)
                yield Place(f"{group.head}: {field.label}", a.station(key).name,
                            f"/g/{a.garden.id}/{key}#{field.id}", off=0.5)


def _parts(a: Assessment) -> Iterator[Place]:
    for part in a.parts:
        yield Place(part.name, "to buy", f"/g/{a.garden.id}/build?view=parts#f-there-{part.id}",
                    "part price", off=1.5)


def _entries(a: Assessment) -> Iterator[Place]:
    for key, kind in KINDS.items():
        if kind.by_hand:
            yield Place(f"Log: {kind.label.lower()}", "the log",
                        f"/g/{a.garden.id}/keep?view=log&asked={key}", "enter record note")


def _troubles(a: Assessment) -> Iterator[Place]:
    base = f"/g/{a.garden.id}/keep?"
    for of, name in cases_of(a).items():
        for sign in signs_at(a, of):
            yield Place(sign.words.show(a.garden.units), f"what is wrong, {name}",
                        base + Case(of, sign.key).query(), "leak broken fault", off=1.0)
    for trouble in troubles_of(a.garden):
        yield Place(trouble.seen, "what is wrong", f"{base}view=trouble",
                    f"{trouble.means} broken")


def _terms() -> Iterator[Place]:
    yield Place("Help: what each station is for, keys, words", "help", "/help",
                "help how manual guide question glossary meaning keyboard keys shortcut")
    for term, _ in table("glossary.csv"):
        yield Place(term, "what it means", f"/help#{anchor(term)}", "glossary meaning")


def anchor(term: str) -> str:
    """A term's own place on the page of help."""
    return "term-" + "".join(c if c.isalnum() else "-" for c in term.lower())


def glossed(*texts: str) -> list[tuple[str, str]]:
    """The words of the glossary that texts use, each with its place on the page of help."""
    said = " ".join(texts).lower()
    return [(term, anchor(term)) for term, _ in table("glossary.csv")
            if re.search(rf"\b{re.escape(term.lower())}s?\b", said)]
