"""The parts list: what a garden takes, and what of it is there already."""

from __future__ import annotations

from dataclasses import replace

from euhydra.core.construction.counting import Count, kit_parts
from euhydra.core.construction.counting_lines import head_parts, line_parts, mix_parts, tools
from euhydra.core.construction.parts import NEEDS, PartLine
from euhydra.core.construction.things import things
from euhydra.core.garden.model import Garden
from euhydra.core.garden.stock import UNPRICED, Holding
from euhydra.core.library import Library


def parts_list(garden: Garden, library: Library) -> tuple[PartLine, ...]:
    """Must-haves first, then optional ones, each with its reason."""
    count = Count(library, garden.units)
    head_parts(count, garden)
    line_parts(count, garden)
    for thing in things(garden, library):
        kit_parts(count, thing)
    mix_parts(count, garden)
    tools(count, garden)
    lines = sorted(count.lines(), key=lambda part: NEEDS.index(part.need))
    held = {library.renamed_parts.get(h.id, h.id): h for h in garden.holdings}
    firsts: dict[str, str] = {}
    for line in lines:
        firsts.setdefault(line.key, line.id)
    # What was noted of a part before it was told apart by size counts for the first of them.
    return tuple(_noted(line, held.get(line.id) or (
        held.get(line.key) if firsts[line.key] == line.id else None)) for line in lines)


def _noted(line: PartLine, holding: Holding | None) -> PartLine:
    if holding is None:
        return line
    own = holding.price != UNPRICED
    return replace(line, have=holding.have, own_price=own,
                   price=holding.price if own else line.price)
