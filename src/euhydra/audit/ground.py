"""What is said of things: lines, outlets, pieces, costs, backflow preventers."""

from __future__ import annotations

from collections.abc import Iterator

from euhydra.audit.statements import Said, Statement, exactly, of_amount, shown
from euhydra.core.advise.comparison import measured
from euhydra.core.construction.parts import cost_of
from euhydra.core.garden.model import Fitting, Garden
from euhydra.exports.tables import TABLES


def lines(said: Said) -> Iterator[Statement]:
    """Line to lay, and outlets on it."""
    a, system = said.a, said.system
    yield from said.figure("line to lay", "lay", "line_total")
    columns = TABLES["lines"].columns
    yield exactly("line to lay", "CSV, lines added", sum(
        float(row[columns.index("length_m")]) for row in TABLES["lines"].rows(a)))
    table = said.table("lay", "pieces", "Tube")
    if table is not None:
        at = table.heads.index("Length")
        cells = [shown("", "", row[at], "length", system) for row in table.rows]
        yield Statement("line to lay", "Lay, every line", sum(float(c.value) for c in cells),
                        sum(c.slack for c in cells), "added up")
    yield from (of_amount("line to lay", f"another way, {m.label}", m.amount, system)
                for m in measured(a) if m.key == "line")
    yield from said.figure("outlets", "lay", "outlets")
    heads = TABLES["outlets"].columns
    places, each = heads.index("places"), heads.index("outlets_a_place")
    seeps = {o.id for o in a.garden.outlets if a.library.outlets[o.kind].seeps != "no"}
    yield exactly("outlets", "CSV, runs added", sum(
        int(row[places]) * int(row[each]) for row in TABLES["outlets"].rows(a)
        if row[0] not in seeps))
    for plot in a.garden.plots:
        runs = [o for o in a.garden.outlets if o.plot == plot.id]
        outlets = sum(o.points * o.each for o in runs)
        solved = sum(o.each for z in a.garden.zones for o in a.flows[z.id]["half"].outlets
                     if o.plot == plot.id)
        yield exactly(f"outlets of {plot.name}", "as laid", outlets)
        yield exactly(f"outlets of {plot.name}", "as solved", solved)


def pieces(said: Said) -> Iterator[Statement]:
    """What to buy, in number and money."""
    a, system = said.a, said.system
    yield from said.figure("pieces to have", "build", "pieces")
    yield of_amount("pieces to have", "Build, on the Run",
                    a.station("build").key_figure.amounts["n"], system)
    columns = TABLES["parts"].columns
    rows = [dict(zip(columns, row, strict=True)) for row in TABLES["parts"].rows(a)]
    yield exactly("pieces to have", "CSV, must-haves added", sum(
        float(row["quantity"]) for row in rows
        if row["need"] == "must" and row["unit"] == "pieces"))
    yield from (of_amount("pieces to have", f"another way, {m.label}", m.amount, system)
                for m in measured(a) if m.key == "pieces")
    yield from said.figure("cost of must-haves", "build", "cost")
    verdict = a.station("build").verdict
    if "c" in verdict.amounts:
        yield of_amount("cost of must-haves", "Build, verdict", verdict.amounts["c"], system)
    yield exactly("cost of must-haves", "the parts list", cost_of(a.parts))
    yield Statement("cost of must-haves", "CSV, added", sum(
        float(row["cost"]) for row in rows if row["need"] == "must"), 0.01 * len(rows), "added up")


def backflow(said: Said) -> Iterator[Statement]:
    """Backflow preventers: one behind each valve on a tap, one on a tap that tops a store up.

    Hoses that are moved share that of their timer.
    """
    a, taps = said.a, said.a.garden.under_pressure
    feeding = {zone.source for zone in a.garden.zones if a.garden.tap_of(zone.source)}
    if not any(f.hand and f.kind == "backflow" for f in a.garden.fittings):
        yield exactly("backflow preventers", "heads as laid, and taps that feed none",
                      len({_head_of(a.garden, f) for f in a.garden.fittings
                           if f.kind == "backflow"})
                      + sum(tap.id not in feeding for tap in taps))
        yield exactly("backflow preventers", "the parts list", sum(
            p.quantity for p in a.parts if p.key == "backflow"))
    yield exactly("taps", "the garden", len(taps))
    yield from said.finding("taps", "build", "build.backflow", "n")
    yield exactly("taps without a preventer", "the taps", sum(not tap.backflow for tap in taps))
    yield exactly("taps without a preventer", "Catch, findings", sum(
        f.rule == "catch.backflow" for f in a.station("catch").findings))


HARVESTS = (lines, pieces, backflow)


def _head_of(garden: Garden, fitting: Fitting) -> tuple[str, str]:
    """The head that a fitting stands in: its zone's, or one that moved hoses share at a source."""
    line = next(x for x in garden.lines if x.id == fitting.line)
    zone = next(z for z in garden.zones if z.id == line.zone)
    timer = garden.timer_of(zone)
    return (zone.source, timer.id) if timer and timer.moved else ("", zone.id)
