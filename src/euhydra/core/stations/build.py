"""Build: what to buy, and what to mind while putting it together."""

from __future__ import annotations

from typing import TYPE_CHECKING

from euhydra.core.construction import parts
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, say
from euhydra.core.statements.findings import Finding, StationReport, worst_first

if TYPE_CHECKING:
    from euhydra.core.results.results import Results


def report(r: Results) -> StationReport:
    """What Build says."""
    must = [p for p in r.parts if p.need == "must" and p.to_buy > 0]
    figures = _figures(r)
    verdict = (say("{n} kinds of part still to buy, about {c} by the prices here.",
                   n=Amount(len(must), "count"), c=Amount(parts.cost_of(r.parts), "money"))
               if must else Phrase("Everything you must have is there."))
    return StationReport("build", "Build", verdict,
                         say("{n} pieces", n=figures[0].amount), figures,
                         worst_first([*_backflow(r), *_threads(r), *_labels(r),
                                      _cleaning(r)]))


def _figures(r: Results) -> tuple[Figure, ...]:
    pieces = [p for p in r.parts if p.need == "must" and p.sold_by == "each"]
    pipes = [p for p in r.parts if p.key == "tube"]
    return (
        Figure("pieces", "Pieces you must have", Amount(sum(p.quantity for p in pieces), "count"),
               Working("counted from the lines as laid", tuple(
                   Term(p.name, Amount(p.quantity, "count")) for p in pieces),
                   "the lines as laid", "physics")),
        Figure("pipe", "Pipe to buy", Amount(sum(p.quantity for p in pipes), "length", 0),
               Working("lengths laid, a twentieth more for cuts, up to whole metres", tuple(
                   Term(p.name, Amount(p.quantity, "length", 0)) for p in pipes),
                   f"spare {parts.PIPE_SPARE - 1:.0%}, from memory", "from memory")),
        _cost("cost", "Must-haves still to buy", r, "must"),
        _cost("cost_optional", "Optional, still to buy", r, "optional"))


def _cost(key: str, name: str, r: Results, need: str) -> Figure:
    bought = sorted((p for p in r.parts if p.need == need and p.cost > 0), key=lambda p: -p.cost)
    return Figure(key, name, Amount(parts.cost_of(r.parts, need), "money"), Working(
        "what is needed, less what is there, pipe by the whole roll, × the price of one", tuple(
            Term(p.name, Amount(p.cost, "money"), "your price" if p.own_price else "")
            for p in bought), "made-up price book, or your own prices", "from memory"))


def _backflow(r: Results) -> list[Finding]:
    fed = len(r.garden.under_pressure)
    if not fed:
        return []
    back = " or ".join([*(["into the house"] if r.garden.taps else []),
                        *(["down the well"] if fed > len(r.garden.taps) else [])])
    return [Finding(
        "build.backflow", "note", Phrase("Fit the backflow preventer before anything else"),
        say("{n:supply|supplies} under pressure: a hose under water can draw garden water "
            f"back {back}. Local code decides the kind; a licensed plumber fits it where "
            "that is asked.", n=Amount(fed, "count")), caution=True)]


def _threads(r: Results) -> list[Finding]:
    """Ends that do not fit as they are; what joins them is on the list."""
    wanted = [p for p in r.parts if p.key in ("thread-adapter", "reducer")]
    if not wanted:
        return []
    return [Finding(
        "build.threads", "note",
        say("Joints that do not fit as they are: {n}", n=Amount(sum(p.quantity for p in wanted),
                                                          "count")),
        Phrase("On the list: " + "; ".join(f"{p.quantity:g} × {p.name}" for p in wanted)
               + ". Hose thread and pipe thread look alike and leak when forced."))]


def _labels(r: Results) -> list[Finding]:
    signed = sum(not r.garden.on_mains(zone.source) for zone in r.garden.zones)
    if not signed:
        return []
    return [Finding(
        "build.labels", "note", say("{n:label|labels}: not drinking water",
                                    n=Amount(signed, "count")),
        Phrase("One at every valve and tap that other water than the mains’ comes out of."),
        caution=True)]


def _cleaning(r: Results) -> Finding:
    filters = len(r.garden.zones)
    return Finding(
        "build.filters", "note", say("{n:filter|filters} to rinse", n=Amount(filters, "count")),
        Phrase((f"A clogged filter takes the little head that a {r.garden.vessel} has. "
                if r.garden.stores else "A clogged filter starves the last outlets. ")
               + "Rinse it after the first week, then monthly; open the flush ends at the same "
               "time."))
