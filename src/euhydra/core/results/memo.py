"""Results kept by what went into them, so that an edit redoes only what it changed."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

Made = TypeVar("Made")
KEPT_EDITS = 8  # what no state of a garden asked for in so many edits is let go


class Memo:
    """What was made of this state of a garden, and of those it came from.

    A result is kept under the function that made it, and, where one makes many alike, under a name.
    It is taken again for the same inputs alone: the very same, or equal. So it never is stale, if
    functions read nothing but what they are given. Inputs are frozen values, or results of this
    memo, which are compared by identity.
    """

    def __init__(self, before: Memo | None = None) -> None:
        self._found: dict[tuple[Any, str], tuple[tuple[Any, ...], Any]] = {}
        self._before: dict[tuple[Any, str], tuple[tuple[Any, ...], Any, int]] = {}
        if before is not None:
            self._before = {key: (inputs, made, age + 1)
                            for key, (inputs, made, age) in before._before.items()
                            if age < KEPT_EDITS}
            # A copy: another thread may still ask of that state.
            self._before |= {key: (*kept, 0) for key, kept in before._found.copy().items()}

    def __call__(self, make: Callable[..., Made], *inputs: Any, of: str = "") -> Made:
        """What ``make`` gives for some inputs; ``of`` names one of many alike, as a plot's id."""
        key = (make, of)
        for kept in (self._found.get(key), self._before.get(key)):
            if kept is not None and _same(kept[0], inputs):
                self._found[key] = kept[:2]
                return kept[1]  # type: ignore[no-any-return]
        made = make(*inputs)
        self._found[key] = (inputs, made)
        return made


def _same(these: tuple[Any, ...], those: tuple[Any, ...]) -> bool:
    return len(these) == len(those) and all(
        a is b or (type(a) is type(b) and bool(a == b))
        for a, b in zip(these, those, strict=True))
