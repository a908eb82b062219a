"""One step of building."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.statements.figures import NONE, Phrase


@dataclass(frozen=True)
class Step:
    """One thing to do. ``id`` lasts while the thing that it is about does."""

    id: str
    part: str
    title: Phrase
    how: Phrase
    tool: str = ""
    caution: str = ""
    test: Phrase = NONE
