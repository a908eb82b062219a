"""A list of beds as a gardener keeps one, pasted: name, length, width and crop a line."""

from __future__ import annotations

import difflib
import re
from dataclasses import dataclass

from euhydra.core.editing.fields import Measure, bounded, field_measure
from euhydra.core.editing.makers import free_at, free_number, new_plot
from euhydra.core.editing.placement import extent
from euhydra.core.editing.quick_plots import planting_of
from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.trees import EditRefused, checked
from euhydra.core.garden.model import Bed, Garden
from euhydra.core.library import Library
from euhydra.core.parsing import BadEntry, cells_of, parse
from euhydra.core.units import System

MOST_LINES, MOST_PLOTS = 60, 100
BEDS_A_COLUMN, PATH_M, AISLE_M = 6, 0.6, 1.0
NO_CROP = "lettuce"
BY = re.compile(r"\s*(?:×|x|by)\s*", re.IGNORECASE)
UNIT = re.compile(r"\b(m|cm|mm|ft|feet|in|inch|inches)\b", re.IGNORECASE)
NUMBER = re.compile(r"[-+]?[\d.,]+")
WANTED = ("Paste a line for each bed: name, length, width and crop, as in “Herbs, 2.4 m, 1.2 m, "
          "parsley”. A size may be one cell: “8 x 4 ft”.")


@dataclass(frozen=True)
class PastedBed:
    """One line: a bed's name, its size in m, and the key of its crop."""

    name: str
    length_m: float
    width_m: float
    crop: str


def beds_pasted(typed: str, system: System, library: Library) -> tuple[PastedBed, ...]:
    """The beds of a pasted list; a first line without any figures holds its heads.

    A bare number has the unit of its head, else that of ``system``. A bed without a crop gets
    lettuce. Raises :class:`BadEntry`.
    """
    lines = [(i, cells_of(line)) for i, line in enumerate(typed.splitlines(), start=1)
             if line.strip()]
    heads: list[str] = []
    if lines and not any(NUMBER.search(cell) for cell in lines[0][1]):
        heads = lines.pop(0)[1]
    if not lines:
        raise BadEntry(typed, f"Nothing pasted. {WANTED}")
    if len(lines) > MOST_LINES:
        raise BadEntry(typed, f"{len(lines)} lines are too many at once: up to {MOST_LINES}.")
    return tuple(_bed(i, _apart(cells), heads, system, library) for i, cells in lines)


@dataclass(frozen=True)
class AddBeds:
    """Put beds into a garden, in columns to the east of all that stands there."""

    beds: tuple[PastedBed, ...]

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with them, each raised and watered as the last bed that stands there."""
        if len(garden.plots) + len(self.beds) > MOST_PLOTS:
            raise EditRefused(f"{len(garden.plots) + len(self.beds)} plots are more than a garden "
                              f"holds: {MOST_PLOTS}.")
        like = next((p for p in reversed(garden.plots) if isinstance(p, Bed)), None)
        _, south, east, _ = extent(garden)
        x, y, widest, tree = east + AISLE_M, south, 0.0, garden.model_dump()
        number = free_number(garden.plots)
        for i, bed in enumerate(self.beds):
            if i and i % BEDS_A_COLUMN == 0:
                x, y, widest = x + widest + AISLE_M, south, 0.0
            plot = new_plot(garden, "bed", number + i, free_at(x, y)).model_copy(update={
                "name": bed.name, "length_m": bed.length_m, "width_m": bed.width_m,
                "plantings": (planting_of(library.crops[bed.crop], garden.site),),
                **({"rim_m": like.rim_m, "method": like.method, "soil": like.soil,
                    "fed_by": like.fed_by, "ground_m": like.ground_m} if like else {})})
            tree["plots"] = (*tree["plots"], plot.model_dump())
            y, widest = y + bed.width_m + PATH_M, max(widest, bed.length_m)
        return relaid(checked(tree), library, garden)


def _apart(cells: list[str]) -> list[str]:
    """A size in one cell as two, the unit of the second for both."""
    found: list[str] = []
    for cell in cells:
        sides = BY.split(cell)
        if len(sides) == 2 and all(re.match(r"[\d.,½¼¾]", side) for side in sides):
            unit = UNIT.search(sides[1])
            if unit and not UNIT.search(sides[0]):
                sides[0] += f" {unit[0]}"
            found += sides
        else:
            found.append(cell)
    return found


def _bed(line: int, cells: list[str], heads: list[str], system: System, library: Library
         ) -> PastedBed:
    if len(cells) < 3 or not cells[0]:
        raise BadEntry(" ".join(cells), f"Line {line} has {len(cells)} cells. {WANTED}")
    length, width = (_side(line, cells, at, key, heads, system)
                     for at, key in ((1, "length_m"), (2, "width_m")))
    crop = cells[3] if len(cells) > 3 else ""
    return PastedBed(cells[0][:80], length, width, _crop(line, crop, library))


def _side(line: int, cells: list[str], at: int, key: str, heads: list[str], system: System
          ) -> float:
    measure: Measure = field_measure(Bed, key)
    unit = UNIT.search(heads[at]) if at < len(heads) else None
    text = f"{cells[at]} {unit[0]}" if unit and NUMBER.fullmatch(cells[at]) else cells[at]
    try:
        return float(bounded(parse(text, "length", system), measure, text, system))
    except BadEntry as error:
        raise BadEntry(cells[at], f"Line {line}: {error.why}") from None


def _crop(line: int, typed: str, library: Library) -> str:
    """The crop of a name in any number, or of a word of its name; lettuce for none."""
    word = typed.strip().lower()
    if not word:
        return NO_CROP
    names = {key: key for key in library.crops}
    names |= {part: key for key, crop in reversed(list(library.crops.items()))
              for part in (*re.split(r",| and ", crop.name.lower()), crop.name.lower())}
    for form in (word, word.removesuffix("s"), word.removesuffix("es"), f"{word}s",
                 re.sub("ies$", "y", word)):
        if form in names:
            return names[form]
    near = difflib.get_close_matches(word, names, 3, 0.6)
    raise BadEntry(typed, f"Line {line}: “{typed[:40]}” is no crop known here. " + (
        f"Near it: {', '.join(dict.fromkeys(library.crops[names[n]].name for n in near))}." if near
        else "Leave it empty and pick one on What grows where."))
