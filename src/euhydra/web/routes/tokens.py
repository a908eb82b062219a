"""What devices of one's own ask: readings taken in, today's plan given out; and their tokens."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Form, Request
from fastapi.responses import HTMLResponse, JSONResponse, RedirectResponse, Response
from pydantic import BaseModel, Field

from euhydra.core.assessment.assess import Assessment
from euhydra.core.editing.trees import EditRefused
from euhydra.core.log.entries import KINDS, BadEntryOf, Entry, checked, things_of
from euhydra.store.log import fresh_id
from euhydra.store.tokens import Scope, Tokens, TooMany
from euhydra.web import pages
from euhydra.web.routes.stations import shelf_of

router = APIRouter()
Text = Annotated[str, Form(max_length=400)]
DEVICES_SAY = tuple(key for key, kind in KINDS.items() if kind.device)


class Reading(BaseModel, extra="forbid"):
    """A number that a device read, in the unit of its kind: m, L/h, mm."""

    kind: Literal["dip", "flow", "rain"]
    value: float = Field(allow_inf_nan=False)
    about: str = Field("", max_length=64)
    day: dt.date | None = None
    id: str = Field("", pattern=r"^([a-z0-9-]{8,40})?$")


class Readings(BaseModel, extra="forbid"):
    """What a device has to say, now or for some days."""

    readings: list[Reading] = Field(min_length=1, max_length=200)


def tokens_of(request: Request) -> Tokens:
    """The app's tokens."""
    return Tokens(shelf_of(request).gardens.database)


def _refused(request: Request, garden_id: str, scope: Scope) -> Response | None:
    """An answer where the request's token does not let a device do this."""
    kind, _, held = request.headers.get("authorization", "").partition(" ")
    if kind.lower() == "bearer" and tokens_of(request).lets(
            held.strip()[:200], garden_id, scope, dt.datetime.now(dt.UTC)):
        return None
    return JSONResponse({"refused": f"This asks for a token for “{scope}” of this garden: "
                                    "Authorization: Bearer …"}, status_code=401,
                        headers={"WWW-Authenticate": "Bearer"})


@router.post("/g/{garden_id}/readings.json")
def readings(request: Request, garden_id: str, said: Readings) -> Response:
    """Put a device's readings into the log, all of them or none; one sent twice stands once."""
    if refused := _refused(request, garden_id, "readings"):
        return refused
    shelf, today = shelf_of(request), dt.date.today()
    garden = shelf.gardens.load(garden_id).garden
    entries = []
    for n, one in enumerate(said.readings):
        there = things_of(garden, KINDS[one.kind].about)
        try:
            if KINDS[one.kind].about and one.about not in there:
                raise BadEntryOf(f"“{one.about[:40]}” is none of: {', '.join(there)}.")
            entries.append(checked(Entry(
                one.id or fresh_id(), one.day or today, one.kind,
                one.about if KINDS[one.kind].about else "", one.value,
                named=there.get(one.about, "")), today))
        except BadEntryOf as error:
            return JSONResponse({"refused": f"Reading {n + 1}: {error}"}, status_code=422)
    with shelf.gardens.database.write():
        fresh = [e for e in entries if not shelf.log.knows(garden_id, e.id)]
        shelf.log.put(garden_id, fresh)
    return JSONResponse({"kept": len(fresh), "known": len(entries) - len(fresh)})


@router.get("/g/{garden_id}/today.json")
def today(request: Request, garden_id: str) -> Response:
    """What the timer is set to this month, zone by zone."""
    if refused := _refused(request, garden_id, "today"):
        return refused
    return JSONResponse(plan_of(shelf_of(request).take(garden_id).assessment, dt.date.today()))


def plan_of(assessment: Assessment, day: dt.date) -> dict[str, Any]:
    """The timer's settings of a day's month by zone; a zone that rests then has no minutes."""
    zones: list[dict[str, Any]] = []
    for zone in assessment.garden.timed_zones:
        now = assessment.schedule.setting_in(zone.id, day.month - 1)
        zones.append({
            "zone": zone.id, "name": zone.name, "source": zone.source,
            "minutes": now.minutes if now else 0, "every_h": now.every_h if now else 0,
            "weekdays": list(now.weekdays) if now else [],
            "starts_a_day": now.starts_a_day if now else 0,
            "flow_l_h": round(assessment.flows.run_flow_l_h(zone), 2)})
    return {"garden": assessment.garden.id, "day": day.isoformat(), "zones": zones,
            "hold_after_rain_mm": assessment.garden.rain_hold_mm}


@router.post("/safe/token", response_class=HTMLResponse)
def make(request: Request, garden: Text, scope: Annotated[Literal["readings", "today"], Form()],
         name: Text = "") -> HTMLResponse:
    """Make a token, and show it this once."""
    try:
        held = tokens_of(request).make(garden, scope, name, dt.datetime.now(dt.UTC))
    except TooMany as error:
        raise EditRefused(str(error)) from None
    path = "readings.json" if scope == "readings" else "today.json"
    return pages.templates.TemplateResponse(request, "token.html", {
        "held": held, "address": f"{request.app.state.at}/g/{garden}/{path}", "scope": scope})


@router.post("/safe/token-back")
def take_back(request: Request, token: Text) -> RedirectResponse:
    """Let a token do nothing any more."""
    tokens_of(request).take_back(token)
    return RedirectResponse("/safe?done=back-token#tokens", status_code=303)
