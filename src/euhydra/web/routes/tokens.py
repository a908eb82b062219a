"""Tokens for devices of one's own: made, shown once, taken back."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from fastapi import APIRouter, Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse

from euhydra.core.editing.trees import EditRefused
from euhydra.store.tokens import Tokens, TooMany
from euhydra.web import pages
from euhydra.web.routes.stations import shelf_of

router = APIRouter()
Text = Annotated[str, Form(max_length=400)]


def tokens_of(request: Request) -> Tokens:
    """The app's tokens."""
    return Tokens(shelf_of(request).gardens.database)


@router.post("/g/{garden_id}/readings.json")
@router.get("/g/{garden_id}/today.json")
def moved(request: Request, garden_id: str) -> RedirectResponse:
    """Where devices asked before there was an API."""
    what = request.url.path.rpartition("/")[2].removesuffix(".json")
    return RedirectResponse(f"/api/gardens/{garden_id}/{what}", status_code=308)


@router.post("/safe/token", response_class=HTMLResponse)
def make(request: Request, garden: Text, scope: Annotated[Literal["readings", "today"], Form()],
         name: Text = "") -> HTMLResponse:
    """Make a token, and show it this once."""
    try:
        held = tokens_of(request).make(garden, scope, name, dt.datetime.now(dt.UTC))
    except TooMany as error:
        raise EditRefused(str(error)) from None
    return pages.templates.TemplateResponse(request, "token.html", {
        "held": held, "scope": scope,
        "address": f"{request.app.state.at}/api/gardens/{garden}/{scope}"})


@router.post("/safe/token-back")
def take_back(request: Request, token: Text) -> RedirectResponse:
    """Let a token do nothing any more."""
    tokens_of(request).take_back(token)
    return RedirectResponse("/safe?done=back-token#tokens", status_code=303)
