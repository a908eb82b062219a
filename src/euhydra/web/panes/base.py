"""The pieces that a way of looking at a station is made of."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, ClassVar

from markupsafe import Markup

from euhydra.core.garden.model import Garden
from euhydra.web.fields import Field
from euhydra.web.sheet import Sheet


@dataclass(frozen=True)
class Table:
    """A table: caption, heads, rows. Text cells stand left, cells in ``numbers`` right."""

    caption: str
    heads: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    numbers: frozenset[int] = frozenset()


@dataclass(frozen=True)
class Links:
    """A row of choices for what the drawing shows: (address, label, chosen).

    Many are picked from a list, and so are few that are ``listed``.
    """

    label: str
    items: tuple[tuple[str, str, bool], ...]
    listed: bool = False


@dataclass(frozen=True)
class Form:
    """What a pane with a template of its own gives it, as ``p.form``."""

    template: ClassVar[str]


@dataclass(frozen=True)
class Paste(Form):
    """Where a list is pasted: what its address ends in, its head, what is wanted, its button."""

    template = "_paste.html"
    path: str
    head: str
    words: str
    button: str


@dataclass(frozen=True)
class Fold:
    """A part that is read once it is opened: what it is, a few words of it, what it holds."""

    title: str
    note: str = ""
    lines: tuple[str, ...] = ()
    table: Table | None = None
    open: bool = False


@dataclass(frozen=True)
class Folds(Form):
    """Parts one under another."""

    template = "_folds.html"
    items: tuple[Fold, ...]


def parted(rows: Iterable[tuple[str, tuple[str, ...]]], heads: tuple[str, ...],
           numbers: frozenset[int] = frozenset(), *, opens: str | None = None, words: str = ""
           ) -> Pane:
    """A long table in parts, each row given with the part it is of; the first stands open."""
    found: dict[str, list[tuple[str, ...]]] = {}
    for part, row in rows:
        found.setdefault(part, []).append(row)
    first = opens if opens is not None else next(iter(found), "")
    return Pane(words=words, form=Folds(tuple(
        Fold(part, str(len(mine)), table=Table(part, heads, tuple(mine), numbers),
             open=part == first) for part, mine in found.items())))


@dataclass(frozen=True)
class Pane:
    """One thing on the left: a drawing, a chart with its table twin, a table, links, or fields.

    ``add``, ``remove`` and ``turn`` hold buttons that add a thing, take one away or turn it round,
    as (what, words);
    ``words`` is a sentence; ``form`` is what a template of its own is given. Of a ``bar`` the first
    ``few`` fields stand open, the others fold. A row of a ``grid`` tells its first ``told`` values
    until it is touched. What ``stays`` does not fold though something stands before it.
    """

    drawing: Markup | None = None
    zoom: bool = False
    chart: Mapping[str, Any] | None = None
    table: Table | None = None
    twin: bool = False
    links: Links | None = None
    grid: tuple[tuple[str, tuple[Field, ...]], ...] = field(default=())
    heads: tuple[str, ...] = ()
    told: int = 3
    stays: bool = False
    bar: tuple[Field, ...] = ()
    few: int = 3
    add: tuple[tuple[str, str], ...] = ()
    remove: tuple[tuple[str, str], ...] = ()
    turn: tuple[tuple[str, str], ...] = ()
    words: str = ""
    form: Form | None = None
    live: bool = False

    @property
    def leads(self) -> bool:
        """Whether it is something to look at."""
        return bool(self.drawing or self.chart or self.table or self.form or self.grid)

    @property
    def faulty(self) -> bool:
        """Whether a field of its grid was refused."""
        return any(f.error for _, fields in self.grid for f in fields)


def folded(panes: Sequence[Pane]) -> set[int]:
    """The panes whose table or rows fold, counted from 1: all after the first to look at."""
    first = next((n for n, pane in enumerate(panes, start=1) if pane.leads), 0)
    return {n for n, pane in enumerate(panes, start=1)
            if pane.twin or (n > first and not pane.stays)}


@dataclass(frozen=True)
class View:
    """A way of looking at a station.

    ``heavy`` where to draw it in a large garden is long work; ``needs`` names what it shows beside
    the garden, of ``pages.BESIDE``; ``of`` the things that it is about, without which it is not
    offered; ``dry`` its label where there is no store.
    """

    key: str
    label: str
    panes: Callable[[Sheet], list[Pane]]
    heavy: bool = False
    needs: tuple[str, ...] = ()
    of: str = ""
    dry: str = ""


def bar(sheet: Sheet, *paths: tuple[str, str]) -> Pane:
    """Fields in a row over a drawing that has no place of its own for them."""
    return Pane(bar=tuple(sheet.fields.at(path, head) for path, head in paths))


def kinds_of_timers(garden: Garden) -> list[tuple[str, str]]:
    """The kind of each timer as a field of a bar; of many they stand in the list alone."""
    return [(f"timers/{timer.id}/kind", timer.name) for timer in garden.timers[:2]]
