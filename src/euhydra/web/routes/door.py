"""The way in from the network: sign in, let a phone or a guest in, shut one out."""

from __future__ import annotations

import datetime as dt
import math
from pathlib import Path
from typing import Annotated
from urllib.parse import urlencode

import segno
from fastapi import APIRouter, Form, Request
from fastapi.responses import FileResponse, HTMLResponse, RedirectResponse, Response
from markupsafe import Markup
from starlette.exceptions import HTTPException

from euhydra.store.access import CODE_MINUTES, UNSEEN_DAYS, Access, Role
from euhydra.web import pages
from euhydra.web.door import COOKIE, Patience

router = APIRouter()
Text = Annotated[str, Form(max_length=1000)]


def access_of(request: Request) -> Access:
    """The app's own. A door that is not open has no rooms: 404."""
    found: Access | None = request.app.state.access
    if found is None:
        raise HTTPException(404)
    return found


@router.get("/sign-in", response_class=HTMLResponse)
def ask(request: Request, to: str = "/") -> HTMLResponse:
    """Ask for the passphrase."""
    access_of(request)
    return _ask(request, to)


@router.post("/sign-in")
def sign_in(request: Request, passphrase: Text = "", name: Text = "", to: Text = "/") -> Response:
    """Let a device in by the passphrase; who types wrong ones waits longer each time."""
    access, patience = access_of(request), _patience(request)
    address = request.client.host if request.client else ""
    if (wait := patience.wait_s(address)) > 0:
        return _ask(request, to, f"Too many tries. Try again in {math.ceil(wait)} seconds.", 429)
    with patience.one_at_a_time:
        fits = access.fits(passphrase)
    if not fits:
        patience.missed(address)
        return _ask(request, to, "That is not the passphrase.", 422)
    patience.found(address)
    return _with_entry(request, access.let_in("owner", name, _now()), to)


@router.get("/pair/{code}", response_class=HTMLResponse)
def offered(request: Request, code: str) -> HTMLResponse:
    """Where a code leads: whether this device is to be let in."""
    role = access_of(request).offered(code, _now())
    if role is None:
        return _used_up(request)
    return pages.templates.TemplateResponse(request, "pair.html", {
        "code": code, "role": role, "to": request.query_params.get("to", "")[:200]})


@router.post("/pair/{code}")
def take(request: Request, code: str, name: Text = "", to: Text = "") -> Response:
    """Let this device in by a code."""
    held = access_of(request).take(code, name, _now())
    return _used_up(request) if held is None else _with_entry(request, held, to)


@router.post("/safe/pair", response_class=HTMLResponse)
def offer(request: Request, role: Annotated[Role, Form()], to: Text = "") -> HTMLResponse:
    """A code for one more device, to be read by its camera from this screen."""
    address = f"{request.app.state.at}/pair/{access_of(request).offer(role, _now())}"
    address += f"?{urlencode({'to': to})}" if to else ""
    drawn = segno.make(address, error="m").svg_inline(scale=6, border=3, dark="#14262B",
                                                      light="#FBFAF4")
    return pages.templates.TemplateResponse(request, "offer.html", {
        "address": address, "role": role, "minutes": CODE_MINUTES[role],
        "code": Markup(drawn)})  # noqa: S704  drawn here, of an address made here


@router.get("/trust.crt")
def authority(request: Request) -> FileResponse:
    """The certificate of this machine's own authority, for a phone to trust."""
    found: Path | None = request.app.state.authority
    if found is None or not found.is_file():
        raise HTTPException(404)
    return FileResponse(found, media_type="application/x-x509-ca-cert", filename="euhydra.crt")


@router.post("/safe/shut-out")
def shut_out(request: Request, session: Text) -> RedirectResponse:
    """Let a device in no more."""
    access_of(request).shut_out(session)
    return RedirectResponse("/safe?done=shut#devices", status_code=303)


def _now() -> dt.datetime:
    return dt.datetime.now(dt.UTC)


def _patience(request: Request) -> Patience:
    patience: Patience = request.app.state.patience
    return patience


def _ask(request: Request, to: str, said: str = "", status: int = 200) -> HTMLResponse:
    return pages.templates.TemplateResponse(request, "sign_in.html", {"to": to[:500], "said": said},
                                            status_code=status)


def _used_up(request: Request) -> HTMLResponse:
    return pages.problem(request, 404, "This code lets nobody in", "It was used, or is too old. "
                         "Ask for another on the machine that Euhydra runs on, under Safekeeping.",
                         ("/sign-in", "Sign in with the passphrase"))


def _with_entry(request: Request, held: str, to: str) -> RedirectResponse:
    # Only a way within the app: no other site, and no way back here.
    there = to if to.startswith("/") and not to.startswith(("//", "/\\", "/sign-in")) else "/"
    answer = RedirectResponse(there, status_code=303)
    answer.set_cookie(COOKIE, held, max_age=UNSEEN_DAYS * 24 * 3600, httponly=True,
                      samesite="strict", secure=request.app.state.at.startswith("https:"))
    return answer
