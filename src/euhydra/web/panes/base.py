"""The pieces that a way of looking at a station is made of."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, ClassVar

from markupsafe import Markup

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
    """A row of choices for what the drawing shows: (address, label, chosen)."""

    label: str
    items: tuple[tuple[str, str, bool], ...]


@dataclass(frozen=True)
class Form:
    """What a pane with a template of its own gives it, as ``p.form``."""

    template: ClassVar[str]


@dataclass(frozen=True)
class Pane:
    """One thing on the left: a drawing, a chart with its table twin, a table, links, or fields.

    ``add`` and ``remove`` hold buttons that add a thing or take one away, as (what, words);
    ``words`` is a sentence; of a ``bar``
    the first ``few`` stand open, the others fold; ``form`` is what a template of its
    own is given.
    """

    drawing: Markup | None = None
    zoom: bool = False
    chart: Mapping[str, Any] | None = None
    table: Table | None = None
    twin: bool = False
    links: Links | None = None
    grid: tuple[tuple[str, tuple[Field, ...]], ...] = field(default=())
    heads: tuple[str, ...] = ()
    bar: tuple[Field, ...] = ()
    few: int = 4
    add: tuple[tuple[str, str], ...] = ()
    remove: tuple[tuple[str, str], ...] = ()
    words: str = ""
    form: Form | None = None
    live: bool = False


@dataclass(frozen=True)
class View:
    """A way of looking at a station.

    ``heavy`` where to draw it in a large garden is long work; ``needs`` names what it shows beside
    the garden, of ``pages.BESIDE``.
    """

    key: str
    label: str
    panes: Callable[[Sheet], list[Pane]]
    heavy: bool = False
    needs: tuple[str, ...] = ()


def bar(sheet: Sheet, *paths: tuple[str, str]) -> Pane:
    """Fields in a row over a drawing that has no place of its own for them."""
    return Pane(bar=tuple(sheet.fields.at(path, head) for path, head in paths))
