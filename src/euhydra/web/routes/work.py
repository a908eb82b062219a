"""What a page waits for: remedies tried, a curve, a large garden drawn."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from fastapi import APIRouter, Query, Request
from fastapi.responses import PlainTextResponse, Response, StreamingResponse
from starlette.exceptions import HTTPException

from euhydra.core.assessment.assess import STATIONS
from euhydra.web import pages, sheets
from euhydra.web.longwork import TOO_MANY, LongWork
from euhydra.web.look import look_of
from euhydra.web.panes import view_of
from euhydra.web.routes.stations import shelf_of
from euhydra.web.wishing import asked_of

router = APIRouter(prefix="/g/{garden_id}")


@router.get("/{station}/later")
def later(request: Request, garden_id: str, station: str,
          parts: str = Query(max_length=4000)) -> dict[str, Any]:
    """What a page that was to be there at once left out, and the change that it is true of."""
    if station not in STATIONS:
        raise HTTPException(404)
    standing = shelf_of(request).take(garden_id)
    return {"head": standing.kept.head, "parts": pages.left_out(
        request, standing, station, look_of(request), frozenset(parts.split(",")))}


@router.get("/{station}/work")
def work(request: Request, garden_id: str, station: str) -> Response:
    """Do a station's long work, a line of JSON for each step; whoever stops reading stops it."""
    if station not in STATIONS:
        raise HTTPException(404)
    room: LongWork = request.app.state.long_work
    if room.full:
        return PlainTextResponse(TOO_MANY, status_code=503)
    shelf, how = shelf_of(request), look_of(request)
    standing = shelf.take(garden_id)
    shown, before, _ = pages.tried(standing, station, how, None)
    sheet = sheets.sheet_of(request, standing, station, how, shown, before)
    todo = [a for a in (shown, sheet.other) if a]

    def steps() -> Iterator[float]:
        for i, assessment in enumerate(todo):
            for share in assessment.work(station):
                yield (i + share) / len(todo)
        wish = asked_of(how.wish, standing.garden).wish if how.view == "helps" else None
        if wish:
            yield from standing.assessment.look_for(wish)
        if how.view == "learnt":
            yield from standing.assessment.learn()
        view = view_of(station, how.view, shown.garden)
        key = pages.drawn_as(station, how)
        if pages.is_heavy(view, todo) and room.drawn(shown, key) is None:
            room.keep(shown, key, view.panes(sheet))

    return StreamingResponse(room.lines(steps()), media_type="application/x-ndjson")
