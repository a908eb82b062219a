"""Shape what a page shows, and render it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any
from urllib.parse import urlencode

from fastapi import Request
from fastapi.responses import HTMLResponse
from fastapi.templating import Jinja2Templates
from jinja2 import Environment, FileSystemLoader

from euhydra.core import units
from euhydra.core.assessment.assess import STATIONS, Assessment
from euhydra.core.garden.model import Garden
from euhydra.core.statements.figures import Figure, Phrase
from euhydra.core.statements.findings import Finding, StationReport
from euhydra.core.units import System
from euhydra.store.kept import Kept, Made
from euhydra.web import measures, search, svg
from euhydra.web.fields import Rejected
from euhydra.web.longwork import LongWork
from euhydra.web.look import Look
from euhydra.web.marks import marked
from euhydra.web.offers import offer
from euhydra.web.panes import Pane, View, view_of, views_of
from euhydra.web.panes.base import folded
from euhydra.web.sheet import Sheet
from euhydra.web.sheets import sheet_of
from euhydra.web.shelf import Standing
from euhydra.web.wrong import case_seen

templates = Jinja2Templates(env=Environment(
    loader=FileSystemLoader(Path(__file__).parent / "templates"), autoescape=True,
    trim_blocks=True, lstrip_blocks=True))
templates.env.globals |= {"mark": svg.mark, "earth": svg.EARTH, "case_seen": case_seen}
HISTORY_SHOWN = 30
FIRST_FIGURES, FIRST_FINDINGS, FIRST_NOTES = 3, 3, 1  # what is told before anything is touched
STATE_WORDS = {"ok": "in order", "care": "take care", "stop": "stop"}


@dataclass(frozen=True)
class Stop:
    """A station on the Run."""

    key: str
    name: str
    figure: str
    state: str
    words: str


@dataclass(frozen=True)
class Top:
    """What stands over every page of a garden: its name, what it can step back to, the Run.

    ``here`` is the query that looks this way again, ``to_garden`` the one that leads to the garden
    on the same day; ``run_was`` the stations that differ from before, ``trying`` the remedy tried
    on.
    """

    garden: Garden
    look: Look
    kept: Kept
    station: str
    title: str
    system: System
    run: list[Stop]
    run_was: set[str]
    here: str
    date: str
    to_garden: str
    trying: dict[str, Any] | None
    rejected: Rejected | None
    asks_undo: Made | bool


def top_of(standing: Standing, assessment: Assessment, station: str, title: str, look: Look, *,
           before: Assessment | None = None, trying: dict[str, Any] | None = None,
           rejected: Rejected | None = None, asks_undo: Made | bool = False) -> dict[str, Any]:
    """The parts of :class:`Top` for a page."""
    garden = assessment.garden
    day = Look(today=look.today, asked_day=look.asked_day, year=look.year)
    return {"garden": garden, "look": look, "kept": standing.kept, "station": station,
            "title": title, "system": garden.units, "run": run_of(assessment, garden.units),
            "run_was": _run_changes(before, assessment, garden.units), "here": look.query(),
            "date": units.show_date(look.today) if look.asked_day else "today",
            "to_garden": day.query(), "trying": trying, "rejected": rejected,
            "asks_undo": asks_undo}


@dataclass(frozen=True)
class StationPage(Top):
    """What a station's page is rendered with.

    ``stops`` are its findings by name, told at once, of which the ``open`` ones stand unfolded;
    those ``beside``, all but the first ``notes`` (of which the ``fresh`` came with an edit) and
    all but the ``first_figures`` are a touch away; the panes numbered in ``folds`` are folded;
    ``working`` what is said of long work; ``by_view`` the queries of the station's other views.
    """

    history: Sequence[str]
    views: tuple[View, ...]
    view: View
    panes: list[Pane]
    folds: set[int]
    working: dict[str, Any] | None
    report: StationReport
    verdict: str
    stops: list[tuple[str, Finding]]
    open: set[str]
    beside: list[tuple[str, Finding]]
    notes: list[tuple[str, Finding]]
    more_notes: list[tuple[str, Finding]]
    fresh: set[str]
    first_figures: list[dict[str, Any]]
    more_figures: list[dict[str, Any]]
    measures: list[measures.Group]
    quick: bool
    rejected_here: bool
    by_view: dict[str, str]
    show: Callable[[Phrase], str]


def run_of(assessment: Assessment, system: System) -> list[Stop]:
    """Every station with its key figure and state."""
    return [Stop(key, report.name, report.key_figure.show(system), report.state,
                 STATE_WORDS[report.state])
            for key in STATIONS for report in [assessment.station(key)]]


def station_page(request: Request, standing: Standing, station: str, look: Look, *,
                 before: Assessment | None = None, rejected: Rejected | None = None,
                 status: int = 200, asks_undo: Made | bool = False) -> HTMLResponse:
    """A station as a whole page, or its inside alone when the page's own script asks.

    The inside comes without what takes longer than an answer may; the script asks for that next.
    """
    assessment, before, trying = tried(standing, station, look, before)
    fragment = bool(request.headers.get("x-fragment"))
    garden = assessment.garden
    system: System = garden.units
    sheet = sheet_of(request, standing, station, look, assessment, before if trying else None,
                     rejected, quick=fragment and not (look.now or look.trying))
    views = views_of(station, garden)
    view = view_of(station, look.view, garden)
    room: LongWork = request.app.state.long_work
    both = [a for a in (assessment, sheet.other) if a]
    heavy = is_heavy(view, both) and not look.now and not rejected
    drawn = room.drawn(assessment, drawn_as(station, look)) if heavy else None
    # While one remedy is tried on no other is shown, so that none is waited for.
    helping = not look.now and not trying and any(a.waits(station) for a in both)
    later = "drawing" if heavy and drawn is None else "remedies" if helping else ""
    if drawn is None:
        drawn = [] if later == "drawing" else view.panes(sheet)
    report = assessment.station(station)
    was = before.station(station) if before else None
    stops = [(name, f) for name, f in named(report) if f.level != "note"]
    told = unfolded(stops) | {name for name, _ in stops[:FIRST_FINDINGS]}
    notes = [(name, f) for name, f in named(report) if f.level == "note"]
    stood = {f.title.show(system) for f in was.findings} if was else set()
    fresh = {name for name, f in notes if was and f.title.show(system) not in stood}
    notes.sort(key=lambda note: note[0] not in fresh)
    few = max(FIRST_NOTES, len(fresh))
    figures = [_figure(f, system, was) for f in report.figures]
    first = [f for n, f in enumerate(figures) if n < FIRST_FIGURES or f["was"]]
    listed = measures.listed(station, sheet.fields)
    shown = StationPage(
        **top_of(standing, assessment, station, report.name, look, before=before, trying=trying,
                 rejected=rejected, asks_undo=asks_undo),
        history=standing.history[:HISTORY_SHOWN], views=views, view=view,
        panes=drawn, folds=folded(drawn),
        working=working(sheet, station, look, later) if later else None,
        report=report, verdict=(report.by_month[sheet.shown_month] if report.by_month
                                else report.verdict).show(system),
        stops=[(name, f) for name, f in stops if name in told], open=unfolded(stops),
        beside=[(name, f) for name, f in stops if name not in told],
        notes=notes[:few], more_notes=notes[few:], fresh=fresh,
        first_figures=first, more_figures=[f for f in figures if f not in first],
        measures=listed, quick=sheet.quick,
        rejected_here=bool(rejected) and any(f.error for group in listed for f in group.fields),
        by_view={v.key: replace(look, view=v.key).query() for v in views},
        show=lambda phrase: phrase.show(system))
    name = "_page.html" if fragment else "station.html"
    answer = templates.TemplateResponse(request, name, dict(vars(shown)), status_code=status)
    marked(request, answer)
    return answer


def named(report: StationReport) -> list[tuple[str, Finding]]:
    """Each finding by its rule and which of that rule's it is: so its remedies are asked for."""
    seen: Counter[str] = Counter()
    found = []
    for finding in report.findings:
        seen[finding.rule] += 1
        found.append((f"{finding.rule}-{seen[finding.rule]}", finding))
    return found


def unfolded(stops: Sequence[tuple[str, Finding]]) -> set[str]:
    """The findings that are told in full at once: the worst, and the first with a way out."""
    helps = [name for name, f in stops if f.pending or any(f.remedies)]
    return {*(name for name, _ in stops[:1]), *helps[:1]}


def left_out(request: Request, standing: Standing, station: str, look: Look,
             parts: frozenset[str]) -> dict[str, Any]:
    """What a quick page left out, by part: remedies as HTML, a chart's numbers."""
    a = standing.assessment
    system = a.garden.units
    found: dict[str, Any] = {}
    if not a.waits(station):
        remedies = templates.get_template("_remedies.html")
        found = {name: remedies.render(f=f, garden=a.garden, station=station, here=look.query(),
                                       show=lambda phrase: phrase.show(system))
                 for name, f in named(a.station(station)) if name in parts}
    if any(part.startswith("chart-") for part in parts):
        view = view_of(station, look.view, a.garden)
        panes = view.panes(sheet_of(request, standing, station, look, a))
        found |= {f"chart-{n}": pane.chart for n, pane in enumerate(panes, start=1)
                  if pane.chart and f"chart-{n}" in parts}
    return found


def is_heavy(view: View, both: list[Assessment]) -> bool:
    """Whether to draw a view of these gardens is long work."""
    return view.heavy and any(a.large for a in both)


def drawn_as(station: str, look: Look) -> str:
    """What tells one drawing of a reckoning from another."""
    return f"{station}{look.query()}{look.today}"


def working(sheet: Sheet, station: str, look: Look, later: str) -> dict[str, Any]:
    """What is said of long work still to be done, and where it is asked for.

    ``later`` is what waits for it: the drawing, or the remedies alone.
    """
    query = look.query() or "?"
    try_on = f"&{urlencode({'try': look.trying})}" if look.trying else ""
    there = f"/g/{sheet.garden.id}/{station}"
    return {"address": f"{there}/work{query}{try_on}", "now": f"{there}{query}{try_on}&now=1",
            "later": later, "view": view_of(station, look.view, sheet.garden).label,
            "plots": len(sheet.garden.plots)}


def tried(standing: Standing, station: str, look: Look, before: Assessment | None
           ) -> tuple[Assessment, Assessment | None, dict[str, Any] | None]:
    """The reckoning to show: as kept, or with a remedy tried on."""
    now = standing.assessment
    found = offer(now, station, look.trying) if look.trying else None
    if found is None:
        return now, before, None
    system = now.garden.units
    words = {"name": found.name, "label": found.title(system), "effect": found.effect.show(system)}
    return now.after(found.edit), now, words


def _figure(figure: Figure, system: System, was: StationReport | None) -> dict[str, Any]:
    now = figure.amount.show(system)
    old = None
    if was:
        old = next((f.amount.show(system) for f in was.figures if f.key == figure.key), None)
    return {"key": figure.key, "name": figure.name, "shown": now,
            "was": old if old is not None and old != now else None,
            "formula": figure.working.formula, "source": figure.working.source,
            "standing": figure.working.standing,
            "terms": [(t.name, t.amount.show(system), t.note) for t in figure.working.terms],
            "words": search.glossed(figure.name, figure.working.formula, *(
                f"{t.name} {t.note}" for t in figure.working.terms))}


def _run_changes(before: Assessment | None, now: Assessment, system: System) -> set[str]:
    """Stations whose key figure reads differently from before."""
    if before is None:
        return set()
    return {key for key in STATIONS if before.station(key).key_figure.show(system)
            != now.station(key).key_figure.show(system)}


def problem(request: Request, status: int, title: str, words: str,
            way: tuple[str, str] | None = None) -> HTMLResponse:
    """A plain page that says what is the matter, and an address that helps with its words."""
    return templates.TemplateResponse(
        request, "problem.html", {"title": title, "words": words, "way": way}, status_code=status)
