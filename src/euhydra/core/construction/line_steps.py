"""The steps that lay the lines: heads, headers, rows, and the rinsing before the ends are shut."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence

from euhydra.core.construction.counting_lines import PEG_EVERY_M
from euhydra.core.construction.joints import own_head
from euhydra.core.construction.step import Step
from euhydra.core.garden.model import AnyPlot, Garden, Line, Zone
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.layout.coupled import coupled
from euhydra.core.layout.rows import counted
from euhydra.core.library import Library
from euhydra.core.season.inputs import SeasonInputs
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

RINSE_MIN = 5.0  # past the time that the pipes take to fill, from memory


def line_steps(inputs: SeasonInputs, with_rows: Mapping[str, Sequence[Step]]) -> Iterator[Step]:
    """Each kind of work at every place, then the next; ``with_rows`` by plot follow the rows."""
    garden, library = inputs.garden, inputs.library
    for zone in garden.zones:
        yield _head(garden, library, zone)
    for zone in garden.zones:
        yield _header(garden, library, zone)
    rows = [(zone, garden.plot(p)) for zone in garden.zones for p in zone.plots]
    for zone, plot in rows:
        yield _rows(garden, library, zone, plot)
    for _, plot in rows:
        yield from with_rows[plot.id]
    for zone in garden.zones:
        yield _rinse(inputs.flows, zone)


def _head(garden: Garden, library: Library, zone: Zone) -> Step:
    head = "; ".join(part.name[0].lower() + part.name[1:]
                     for part in own_head(garden, library, zone))
    return Step(
        f"head-{zone.id}", "Heads", Phrase("Head assemblies, in order"),
        Phrase("Finger tight, then a quarter to half turn; no tape on hose thread. Every arrow "
               "points with the water."), "hands",
        test=Phrase("Water on, end shut with a thumb: no joint drips."), place=zone.name,
        own=Phrase(quoted(head[0].upper() + head[1:]) + "."))


def _header(garden: Garden, library: Library, zone: Zone) -> Step:
    pipes = [x for x in garden.lines if x.zone == zone.id and x.plot is None]
    pieces = "one piece" if len(pipes) == 1 else f"{len(pipes)} pieces"
    return Step(
        f"header-{zone.id}", "Headers", Phrase("Pipe to the plots"),
        Phrase("Along the edges and straight over paths. Let it warm in the sun first; push each "
               "barb home."), "pipe cutter, pegs", "Where it is buried: call before you dig.",
        place=zone.name,
        own=say("{m} of " + quoted(library.tubes[zone.supply_tube].name) + f", in {pieces}.",
                m=Amount(sum(x.length_m for x in pipes), "length")))


def _rows(garden: Garden, library: Library, zone: Zone, plot: AnyPlot) -> Step:
    laid = [x for x in garden.lines if x.zone == zone.id and x.plot == plot.id]
    outlets = counted((o for o in garden.outlets if o.plot == plot.id), library)
    small = any(x.role == "quarter-inch" for x in laid)
    how = (Phrase("Drippers on stakes, off the soil, at the stem.") if small else
           say("Pegs every {peg}; outlets up.", peg=Amount(PEG_EVERY_M, "length", 1)))
    return Step(f"rows-{plot.id}", "Rows", Phrase("Small tube and drippers" if small else
                                                  "Rows in the plots"),
                how, "pipe cutter, punch" if small else "pipe cutter", place=plot.name,
                own=_pieces(laid, outlets, library, _on_from(garden, library, zone, plot)))


def _on_from(garden: Garden, library: Library, zone: Zone, plot: AnyPlot) -> str:
    """The name of the bed that a bed's hose goes on from."""
    before = coupled(garden, library, zone).get(plot.id)
    return garden.plot(before).name if before else ""


def _pieces(laid: Sequence[Line], outlets: int, library: Library, on_from: str) -> Phrase:
    """The pieces to cut, by pipe, how many outlets they bring, what they are coupled on to."""
    cuts = Counter((x.tube, round(x.length_m, 2)) for x in laid)
    by_tube: dict[str, list[str]] = {}
    for i, ((tube, _), n) in enumerate(cuts.items()):
        by_tube.setdefault(tube, []).append(f"{n} × {{c{i}}}")
    words = "; ".join(f"{', '.join(said)} of {quoted(library.tubes[tube].name)}"
                      for tube, said in by_tube.items())
    lengths = {f"c{i}": Amount(m, "length") for i, (_, m) in enumerate(cuts)}
    on = f" Coupled on to the end of the hose in {quoted(on_from)}." if on_from else ""
    return say(words + (". {n:outlet|outlets} in all." if outlets else ".") + on,
               n=Amount(outlets, "count"), **lengths)


def _rinse(flows: Flows, zone: Zone) -> Step:
    fill = flows.fill_minutes(zone)
    minutes = RINSE_MIN + (math.ceil(fill) if math.isfinite(fill) else 0.0)
    left = [flows.garden.plot(p).name for p in zone.plots
            if any(o.plot == p and o.kind == "open-end" for o in flows.garden.outlets)]
    stay = f" The ends in {quoted(', '.join(left))} stay open." if left else ""
    return Step(
        f"flush-{zone.id}", "Rinse", Phrase("Rinse before the ends are shut"),
        Phrase("All ends open, water on until it runs clear. Then shut the farthest end last."),
        "hands", test=Phrase("Clear water from every end."), place=zone.name,
        own=say("{t}." + stay, t=Amount(minutes, "minutes")))
