"""One step of building."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from euhydra.core.statements.figures import NONE, Phrase


@dataclass(frozen=True)
class Step:
    """One thing to do. ``id`` lasts while the thing that it is about does.

    What is done alike at several places has the same words everywhere; ``place`` then names the
    place, and ``own`` says what differs there.
    """

    id: str
    part: str
    title: Phrase
    how: Phrase
    tool: str = ""
    caution: str = ""
    test: Phrase = NONE
    place: str = ""
    own: Phrase = NONE


def together(steps: Iterable[Step]) -> list[tuple[Step, list[Step]]]:
    """Each step once, with all the places at which it is done alike, where its first one stood."""
    found: dict[tuple[str, ...], list[Step]] = {}
    for step in steps:
        alike = (step.part, step.title.template, step.how.template, step.caution
                 ) if step.place else (step.id,)
        found.setdefault(alike, []).append(step)
    return [(places[0], places) for places in found.values()]
