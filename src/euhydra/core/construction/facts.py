"""What a kit's counts and words go by: the facts of each thing that is built."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from euhydra.core.library import Library
from euhydra.core.library.kits import Kit
from euhydra.core.statements.figures import NONE, Amount, Phrase, quoted


@dataclass(frozen=True)
class Built:
    """A thing that is built: its sort and kind, and its facts by name.

    ``amounts`` are numbers with their kinds (a yes is a count of 1), ``words`` what is put into a
    kit's sentences as it stands. ``under`` heads its steps, ``id`` ends their ids.
    """

    sort: str
    kind: str
    id: str
    name: str
    under: str
    amounts: Mapping[str, Amount]
    words: Mapping[str, Phrase] = field(default_factory=dict)

    def number(self, fact: str) -> float:
        """A fact's value. Raises KeyError for one that its sort does not have."""
        return 1.0 if fact == "one" else self.amounts[fact].value

    def say(self, template: str) -> Phrase:
        """A kit's sentence about this thing. Raises KeyError where it names what is no fact."""
        if not template:
            return NONE
        words = {"name": Phrase(quoted(self.name)), **self.words}
        used = {key: amount for key, amount in self.amounts.items()
                if f"{{{key}}}" in template or f"{{{key}:" in template}

        def put_in(found: re.Match[str]) -> str:
            phrase = words.get(found[1])
            if phrase is None:
                return found[0]
            used.update(phrase.amounts)
            return phrase.template

        # All at once: what is put in may hold braces of its own, as a gardener's names do.
        return Phrase(re.sub(r"\{(\w+)\}", put_in, template), used)


def kits_of(thing: Built, library: Library) -> Iterator[Kit]:
    """The kits that a thing takes."""
    for kit in library.kits.values():
        if kit.of == thing.sort and (not kit.kinds or thing.kind in kit.kinds):
            yield kit
