"""What a station's drawings are given: the reckoning, and what a view needs beside the garden."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from fastapi import Request
from starlette.datastructures import State

from euhydra.core.assessment.assess import Assessment
from euhydra.core.editing.trees import at_path
from euhydra.core.garden.model import Garden
from euhydra.core.weather.generator import MONTH_OF_DAY
from euhydra.store.kept import Unreadable
from euhydra.web.fields import Fields, Rejected
from euhydra.web.look import Look
from euhydra.web.panes import view_of
from euhydra.web.readings import reading_of
from euhydra.web.sheet import Sheet
from euhydra.web.shelf import Standing
from euhydra.web.wishing import asked_of


def sheet_of(request: Request, standing: Standing, station: str, look: Look,
             assessment: Assessment, before: Assessment | None = None,
             rejected: Rejected | None = None, *, quick: bool = False) -> Sheet:
    """What a station's drawings are given."""
    state, garden = request.app.state, assessment.garden
    more: dict[str, Any] = {}
    for need in view_of(station, look.view, garden).needs:
        more |= BESIDE[need](state, standing, look)
    return Sheet(
        assessment, Fields(garden, assessment.library, rejected, station, look.query()), before,
        month=month_of(station, look),
        zone=look.zone, level=look.level, store=look.store,
        picked=standing_there(garden, look.picked), hidden=frozenset(look.hidden), plot=look.plot,
        today=look.today, asked_day=look.asked_day, away=look.away, rained=look.rained,
        asked=look.asked, at=state.at, quick=quick, **more)


def month_of(station: str, look: Look) -> int | None:
    """The month asked for; else this one on Time, which is opened to see what is to run now."""
    if look.month is None and station == "time":
        return int(MONTH_OF_DAY[look.today])
    return look.month


def standing_there(garden: Garden, picked: tuple[str, ...]) -> tuple[str, ...]:
    """Those of the things picked that the garden still has."""
    if not picked:
        return ()
    tree = garden.model_dump()
    rows = {f"plots/{p.id}/rows/" for p in garden.plots}
    lines = {f"line:{line.id}" for line in garden.lines}
    return tuple(path for path in picked
                 if isinstance(at_path(tree, path.split("/")), dict) or path in lines
                 or any(path.startswith(row) for row in rows))


def gardens_beside(state: State, standing: Standing, look: Look) -> dict[str, Any]:
    """The other gardens that there are, and the one to compare with, where it opens."""
    others = tuple((g.id, g.name) for g in state.shelf.gardens.listed()
                   if g.id != standing.garden.id)
    if look.other not in dict(others):
        return {"gardens": others}
    try:
        return {"gardens": others, "other": state.shelf.take(look.other).assessment}
    except Unreadable:
        return {"gardens": others}


def wished(state: State, standing: Standing, look: Look) -> dict[str, Any]:
    """What is wanted of the garden; looked for at once where the page has no script to wait."""
    wish = asked_of(look.wish, standing.garden).wish if look.now else None
    if wish:
        for _ in standing.assessment.look_for(wish):
            pass
    return {"wish": look.wish}


def learnt(state: State, standing: Standing, look: Look) -> dict[str, Any]:
    """What readings teach is worked out at once where the page has no script to wait."""
    for _ in standing.assessment.learn() if look.now else ():
        pass
    return {}


# By what a view calls it: fields of its sheet.
BESIDE: Mapping[str, Callable[[State, Standing, Look], dict[str, Any]]] = {
    "gardens": gardens_beside, "wish": wished,
    "case": lambda state, standing, look: {"case": look.case, "answer": look.answer},
    "lessons": learnt,
    "reading": lambda state, standing, look: {
        "reading": reading_of(state.shelf, standing, look.read)},
    "bench": lambda state, standing, _: {"bench": state.benches.of(standing)},
    "ticked": lambda state, standing, _: {"ticked": state.shelf.ticks.of(standing.garden.id)},
    "photos": lambda state, standing, _: {"photos": state.shelf.photos.of(standing.garden.id)}}
