"""The stations: look at them, type on them, take a remedy, undo."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable
from typing import Annotated

from fastapi import APIRouter, Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from starlette.exceptions import HTTPException

from euhydra.core.assessment.assess import STATIONS, Assessment
from euhydra.core.editing.edits import Add, Edit, Remove, TurnRound, set_at
from euhydra.core.editing.fields import NoSuchValue, measure_at, parse_for, with_choices
from euhydra.core.editing.makers import MAKERS
from euhydra.core.editing.taking_back import TakeBack
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.log.entries import Entry
from euhydra.core.parsing import BadEntry
from euhydra.store.kept import Made
from euhydra.store.log import fresh_id
from euhydra.web import pages
from euhydra.web.fields import Rejected, shown, stepped
from euhydra.web.garden_page import garden_page
from euhydra.web.look import Look, at_what_is_new, look_of
from euhydra.web.marks import mark_of
from euhydra.web.offers import offer
from euhydra.web.shelf import Shelf, Standing

router = APIRouter(prefix="/g/{garden_id}")
Text = Annotated[str, Form(max_length=400)]
Named = Annotated[str, Form(max_length=1500)]
LONGEST_TITLE = 120


def shelf_of(request: Request) -> Shelf:
    """The app's shelf."""
    shelf: Shelf = request.app.state.shelf
    return shelf


@router.get("")
def garden_home(garden_id: str) -> RedirectResponse:
    """A garden opens on itself as it is today."""
    return RedirectResponse(f"/g/{garden_id}/garden", status_code=303)


@router.get("/{station}", response_class=HTMLResponse)
def look(request: Request, garden_id: str, station: str) -> HTMLResponse:
    """A station's page."""
    if station not in STATIONS:
        raise HTTPException(404)
    how, shelf = look_of(request), shelf_of(request)
    before = shelf.at_change(garden_id, how.since) if how.since else None
    return pages.station_page(request, shelf.take(garden_id), station, how, before=before)


@router.post("/edit")
def edit(request: Request, garden_id: str, path: Text, typed: Text = "", step: Text = "",
         station: Text = "push", on: Text = "") -> Response:
    """Keep what was typed in one field, or say beside it what is allowed.

    ``on`` is the change that the page showed: a field that was changed elsewhere since is asked
    about once more.
    """
    if station not in STATIONS:
        raise HTTPException(404)

    def make(standing: Standing) -> tuple[Edit, str]:
        garden = standing.garden
        _require_fresh(shelf_of(request), standing, path, on)
        measure = with_choices(measure_at(garden, path), standing.assessment.library)
        value = (stepped(measure, garden.units, 1 if step == "up" else -1)
                 if step in ("up", "down") and measure.high > measure.low
                 else parse_for(measure, typed, garden.units))
        if measure.kind == "count":
            value = round(value)
        edit = set_at(path, value)
        after = measure_at(standing.assessment.after(edit).garden, path)
        return edit, f"{measure.label} {shown(after, garden.units)}"[:120]

    return kept_or_said(request, garden_id, station, make, path, typed)


def _require_fresh(shelf: Shelf, standing: Standing, path: str, on: str) -> None:
    """Raise EditRefused where a value was changed elsewhere since the page that was typed on."""
    if not on.isdecimal() or len(on) > 15 or int(on) == standing.kept.head:
        return
    then = shelf.gardens.at_change(standing.garden.id, int(on))
    if then is None:
        return
    try:
        was = measure_at(then, path)
    except NoSuchValue:
        return
    now = measure_at(standing.garden, path)
    if was.value != now.value:
        units = standing.garden.units
        raise EditRefused(f"{now.label.capitalize()} was changed elsewhere meanwhile, from "
                          f"{shown(was, units)} to {shown(now, units)}. Keep that, or type yours "
                          "once more.")


@router.post("/remedy")
def remedy(request: Request, garden_id: str, station: Text, remedy: Named) -> Response:
    """Keep a remedy as one undoable change."""
    if station not in STATIONS:
        raise HTTPException(404)

    moves = ""

    def make(standing: Standing) -> tuple[Edit, str]:
        nonlocal moves
        found = offer(standing.assessment, station, remedy)
        if found is None:
            raise EditRefused("This remedy no longer applies: the garden has changed since it was "
                              "offered. Look at the findings again.")
        moves = found.moves
        return found.edit, found.title(standing.garden.units)[:LONGEST_TITLE]

    def note(title: str) -> None:
        """Put it into the log too, so that it is known when a run was moved."""
        if not moves:
            return
        shelf_of(request).log.put(garden_id, [Entry(
            fresh_id(), dt.date.today(), "changed", moves, note=title[:400])])

    return kept(request, garden_id, station, make, note if station == "keep" else None)


@router.post("/things")
def things(request: Request, garden_id: str, station: Text = "grow", add: Text = "",
           remove: Text = "", turn: Text = "") -> Response:
    """Add a thing (a bed, a roof, a well) or a part of one, take one away, turn a joint round."""
    if station not in STATIONS:
        raise HTTPException(404)

    def make(standing: Standing) -> tuple[Edit, str]:
        if add:
            return Add(add), MAKERS[add][0] if add in MAKERS else f"Add to {add}"[:80]
        if turn:
            return TurnRound(turn), f"Turn {_name_of(standing, f'joints/{turn}')} round"[:120]
        return Remove(remove), f"Remove {_name_of(standing, remove)}"[:120]

    return kept(request, garden_id, station, make)


def _name_of(standing: Standing, path: str) -> str:
    """What a thing is called; a planting goes by its crop."""
    if path.split("/")[-2:-1] == ["plantings"]:
        crop = measure_at(standing.garden, f"{path}/crop").value
        return standing.assessment.library.crops[crop].name.lower()
    return str(measure_at(standing.garden, f"{path}/name").value)


@router.post("/units")
def units(request: Request, garden_id: str, station: Text = "push") -> Response:
    """Show the garden in the other system of units."""
    def make(standing: Standing) -> tuple[Edit, str]:
        other = "us" if standing.garden.units == "metric" else "metric"
        return SetValue("units", other), ("Gallons and feet" if other == "us"
                                          else "Litres and metres")

    return kept(request, garden_id, _known(station), make)


@router.post("/undo")
def undo(request: Request, garden_id: str, station: Text = "push", sure: Text = "",
         mine: Text = "") -> Response:
    """Step back one change; one that another browser made is asked about first.

    ``mine`` takes the browser's own last change back from under it, as a change of its own.
    """
    shelf = shelf_of(request)
    standing = shelf.take(garden_id)
    kept, mark = standing.kept, mark_of(request)
    if mine:
        return _taken_back(request, garden_id, station, mine)
    others = bool(kept.undo and kept.made_by and mark and kept.made_by != mark)
    if others and sure != str(kept.head):
        return _page(request, standing, _known(station), look_of(request),
                     asks_undo=shelf.gardens.last_of(garden_id, mark) or True)
    return _moved(request, garden_id, station, back=True)


def _known(station: str) -> str:
    """The page that a form was on, where there is such a one."""
    return station if station in STATIONS or station == "garden" else "garden"


def _page(request: Request, standing: Standing, station: str, look: Look, *,
          before: Assessment | None = None, asks_undo: Made | bool = False) -> HTMLResponse:
    """The garden's own page, or a station's."""
    if station == "garden":
        return garden_page(request, standing, look, asks_undo=asks_undo)
    return pages.station_page(request, standing, station, look, before=before,
                              asks_undo=asks_undo)


def _taken_back(request: Request, garden_id: str, station: str, wanted: str) -> Response:
    gardens, station = shelf_of(request).gardens, _known(station)

    def make(_: Standing) -> tuple[Edit, str]:
        own = gardens.last_of(garden_id, mark_of(request))
        if own is not None and str(own.change) == wanted:
            before = gardens.at_change(garden_id, own.before)
            after = gardens.at_change(garden_id, own.change)
            if before and after:
                return TakeBack(before, after), f"Taken back: {own.title}"[:120]
        raise EditRefused("That change of yours cannot be taken back by itself any more.")

    return kept_or_said(request, garden_id, station, make, "", "")


@router.post("/redo")
def redo(request: Request, garden_id: str, station: Text = "push") -> Response:
    """Step forward one change."""
    return _moved(request, garden_id, station, back=False)


def _moved(request: Request, garden_id: str, station: str, *, back: bool) -> Response:
    gardens = shelf_of(request).gardens
    since = gardens.head(garden_id)
    if back:
        gardens.undo(garden_id)
    else:
        gardens.redo(garden_id)
    return _to(garden_id, _known(station), look_of(request), since)


def kept_or_said(request: Request, garden_id: str, station: str,
                 make: Callable[[Standing], tuple[Edit, str]], path: str, typed: str) -> Response:
    """Keep what was typed, or show the page with it still there and why it cannot be kept."""
    try:
        return kept(request, garden_id, station, make)
    except (BadEntry, EditRefused) as error:
        why = error.why if isinstance(error, BadEntry) else str(error)
        return refused(request, garden_id, station, Rejected(path, typed, why))


def refused(request: Request, garden_id: str, station: str, rejected: Rejected) -> Response:
    """The page as it stands, with what was sent and why it cannot be kept."""
    standing, look = shelf_of(request).take(garden_id), look_of(request)
    if station == "garden":
        return garden_page(request, standing, look, rejected=rejected, status=422)
    return pages.station_page(request, standing, station, look, rejected=rejected, status=422)


def kept(request: Request, garden_id: str, station: str,
         make: Callable[[Standing], tuple[Edit, str]],
         beside: Callable[[str], None] | None = None) -> Response:
    """Keep an edit; answer with the page's inside to its script, else go to the page.

    ``beside`` keeps what belongs to it, given its title, with it or not at all.
    """
    shelf = shelf_of(request)
    before = shelf.take(garden_id)
    after = shelf.edit(garden_id, make, beside, mark_of(request))
    look = at_what_is_new(look_of(request), before.garden, after.garden)
    if request.headers.get("x-fragment"):
        return _page(request, after, station, look, before=before.assessment)
    return _to(garden_id, station, look, before.kept.change)


def _to(garden_id: str, station: str, look: Look, since: int) -> RedirectResponse:
    return RedirectResponse(f"/g/{garden_id}/{station}{look.query(since)}", status_code=303)
