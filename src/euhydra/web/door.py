"""Who comes in from the network: this machine freely, others by passphrase, code or not at all."""

from __future__ import annotations

import datetime as dt
import ipaddress
import re
import threading
from collections.abc import Callable
from http.cookies import CookieError, SimpleCookie
from urllib.parse import quote

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers
from starlette.responses import PlainTextResponse, RedirectResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from euhydra.store.access import Access, Role
from euhydra.web.guard import HERE

COOKIE = "entry"
FREE = ("/static/", "/sign-in", "/pair/", "/trust.crt", "/api/openapi.json")
FORWARDED = ("forwarded", "x-forwarded-for", "x-forwarded-host", "x-real-ip", "via")
LOGS = re.compile(r"/g/[a-z0-9-]+/log")
GUESTS_NOT = ("/safe", "/first-pour")
FREE_TRIES, LONGEST_WAIT_S = 3, 600.0


class Door:
    """ASGI middleware. Lets nobody else in where the app answers this machine alone."""

    def __init__(self, app: ASGIApp, access: Access, *, stands_open: bool) -> None:
        self.app, self.access, self.stands_open = app, access, stands_open

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass on with the role in the scope, or say what is wanted."""
        scope["role"] = "owner"
        if scope["type"] != "http" or not self.stands_open:
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        role: Role | None = "owner" if is_here(scope, headers) else await run_in_threadpool(
            self._role, headers)
        if role is None and (scope["path"].startswith(FREE) or is_device(scope, headers)):
            await self.app(scope, receive, send)
            return
        refusal = _stranger(scope) if role is None else _looks(scope, role)
        scope["role"] = role
        await (refusal or self.app)(scope, receive, send)

    def _role(self, headers: Headers) -> Role | None:
        held = cookie(headers.get("cookie", ""))
        return self.access.role_of(held, dt.datetime.now(dt.UTC)) if held else None


def is_here(scope: Scope, headers: Headers) -> bool:
    """Whether a request comes from this machine itself, for this machine, past no other server.

    The Host header alone says nothing: anybody can write "localhost" into it.
    """
    address = (scope.get("client") or ("", 0))[0]
    try:
        local = ipaddress.ip_address(address).is_loopback
    except ValueError:
        local = False
    return (local and HERE.fullmatch(headers.get("host", "")) is not None
            and not any(name in headers for name in FORWARDED))


def is_device(scope: Scope, headers: Headers) -> bool:
    """Whether a device asks with a token, which its address looks at itself."""
    path = scope["path"]
    return ((path.startswith("/api/") or path.endswith(("/readings.json", "/today.json")))
            and headers.get("authorization", "")[:7].lower() == "bearer ")


def cookie(header: str) -> str:
    """What a device holds, from its cookies; empty where it holds nothing."""
    try:
        found = SimpleCookie(header).get(COOKIE)
    except CookieError:
        return ""
    return found.value[:200] if found else ""


def _stranger(scope: Scope) -> Response:
    if scope["method"] == "GET":
        asked = scope["path"] + (f"?{scope['query_string'].decode('latin-1')}"
                                 if scope["query_string"] else "")
        return RedirectResponse(f"/sign-in?to={quote(asked, safe='')}", status_code=303)
    return PlainTextResponse("This device is not let in any more. Open the app's front door, and "
                             "type the passphrase.\n", status_code=401)


def _looks(scope: Scope, role: Role) -> Response | None:
    """What keeps a guest to looking, and a neighbour to looking and logging what was done."""
    path = scope["path"]
    if role == "owner" or (role == "neighbour" and scope["method"] == "POST"
                           and LOGS.fullmatch(path)):
        return None
    if scope["method"] == "GET" and not path.startswith(GUESTS_NOT) and not path.endswith(
            "/everything.zip"):
        return None
    return PlainTextResponse("You are a guest here: look at everything; only those who keep the "
                             "gardens can change them.\n", status_code=403)


class Patience:
    """How long who typed a wrong passphrase waits before the next try; by address, doubling."""

    def __init__(self, clock: Callable[[], float]) -> None:
        self.clock, self.lock = clock, threading.Lock()
        self.one_at_a_time = threading.Lock()  # to look at a passphrase takes memory and time
        self._tries: dict[str, tuple[int, float]] = {}

    def wait_s(self, address: str) -> float:
        """Seconds that an address has still to wait; 0 where it may try."""
        with self.lock:
            tries, last = self._tries.get(address, (0, 0.0))
            if tries < FREE_TRIES:
                return 0.0
            longest = min(2.0 ** (tries - FREE_TRIES + 1), LONGEST_WAIT_S)
            return max(0.0, last + longest - self.clock())

    def missed(self, address: str) -> None:
        """One more wrong try. What is known of addresses is bounded."""
        with self.lock:
            if len(self._tries) > 10_000:
                self._tries.clear()
            tries, _ = self._tries.get(address, (0, 0.0))
            self._tries[address] = (tries + 1, self.clock())

    def found(self, address: str) -> None:
        """The right one: all is forgotten."""
        with self.lock:
            self._tries.pop(address, None)
