"""Values that readings taught: taken over as the garden's own, and given back to the tables."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.editing.fields import NoSuchValue, measure_at
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue, set_all
from euhydra.core.garden.learnt import TABLE, Learnt
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library


@dataclass(frozen=True)
class TakeOver:
    """Put what was learnt into the garden, with where it comes from."""

    learnt: Learnt

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the values set."""
        pairs = zip(self.learnt.paths, self.learnt.values, strict=True)
        after = set_all(garden, library, [SetValue(path, value) for path, value in pairs])
        others = tuple(x for x in garden.learnt if x.key != self.learnt.key)
        return after.model_copy(update={"learnt": (*others, self.learnt)})


@dataclass(frozen=True)
class BackToTables:
    """Take out of the garden what was learnt under a key."""

    key: str

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the tables' values there again. Raises EditRefused where none is."""
        mine = next((x for x in garden.learnt if x.key == self.key), None)
        if mine is None:
            raise EditRefused("Nothing of the kind was taken over from readings.")
        after = set_all(garden, library, [
            SetValue(path, TABLE[path.split("/")[-1]]) for path in mine.paths
            if _there(garden, path)])
        return after.model_copy(update={
            "learnt": tuple(x for x in garden.learnt if x.key != self.key)})


def _there(garden: Garden, path: str) -> bool:
    """Whether a value's thing has not been taken away since."""
    try:
        measure_at(garden, path)
    except NoSuchValue:
        return False
    return True
