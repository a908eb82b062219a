"""What stands before every route: size, host, origin, and the headers that keep scripts ours."""

from __future__ import annotations

import asyncio
import logging
import re

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

HERE = re.compile(r"(localhost|127\.0\.0\.1|\[::1\])(:\d{1,5})?")
LARGEST_BODY = 4 * 1024 * 1024
# A hundred years of days with every column; a photo as a camera makes it.
LARGEST_FILE = 16 * 1024 * 1024
FILES = ("/weather", "/log", "/log/csv", "/sketch", "/outlines")
MOST_DRAINED = 128 * 1024 * 1024
# Everything of a garden, with its photos.
LARGEST_BUNDLE = 64 * 1024 * 1024
SILENT_S = 10.0  # a sender that is silent for so long has left
# The one <style> that Observable Plot puts into its charts; a browser test fails if it changes.
PLOT_STYLE = "'sha256-jSYQUrW7J0b3jPqhZP9C2Xh1PyJKHKXd4s0fpGGKrww='"
POLICY = "; ".join((
    "default-src 'none'", "script-src 'self'", f"style-src 'self' {PLOT_STYLE}",
    "img-src 'self' data:", "font-src 'self'", "connect-src 'self'", "form-action 'self'",
    "base-uri 'none'", "frame-ancestors 'none'"))
HEADERS = {"Content-Security-Policy": POLICY, "Cache-Control": "no-cache",
           "X-Content-Type-Options": "nosniff",
           "Referrer-Policy": "same-origin", "Cross-Origin-Opener-Policy": "same-origin",
           "Cross-Origin-Resource-Policy": "same-origin"}


class TooLarge(Exception):
    """The body went past the limit; it was read to its end and thrown away."""


class Gone(Exception):
    """The sender left before the body was whole; half a form is no form."""


class Guard:
    """ASGI middleware. Refuses foreign hosts (421), cross-site writes (403), large bodies (413)."""

    def __init__(self, app: ASGIApp, at: str = "") -> None:
        """``at`` is the one address besides this machine's own that the app answers under."""
        self.app, self.at = app, at

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Check, then pass on; add the headers to every answer."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        if scope["method"] == "HEAD":  # the server itself leaves the body off
            scope = {**scope, "method": "GET"}
        headers = Headers(scope=scope)
        refusal = (host_refused(headers, self.at)
                   or origin_refused(scope["method"], headers, self.at, scope.get("scheme", ""),
                                     scope["path"])
                   or elsewhere_refused(headers, scope["path"],
                                        scope.get("query_string", b"").decode("latin-1")))
        if refusal:
            await refusal(scope, receive, _with_headers(send))
            return
        try:
            most = largest_at(scope["path"])
            body = (await _whole_body(receive, most, headers) if scope["method"] == "POST"
                    else None)
        except Gone:
            return
        except TimeoutError:
            await _said(408, "Only a part of this arrived, then nothing more for 10 seconds. "
                             "Nothing was kept; send it again.")(scope, receive,
                                                                 _with_headers(send))
            return
        except TooLarge:
            await _said(413, f"This is larger than {most // 1024 // 1024} MB, the most "
                             "that can be sent here. A garden, its weather or a photo is smaller; "
                             "nothing was kept or lost.")(scope, receive, _with_headers(send))
            return
        await self._answer(scope, receive if body is None else _replay(body, receive), send)

    async def _answer(self, scope: Scope, receive: Receive, send: Send) -> None:
        """The app's answer; where it fails, words in its place."""
        begun = False

        async def sender(message: Message) -> None:
            nonlocal begun
            begun = True
            await send(message)

        try:
            await self.app(scope, receive, _with_headers(sender))
        except Exception:
            logging.getLogger("euhydra").exception("%s %s", scope["method"], scope["path"])
            if begun:
                raise
            await _said(500, "Something here does not work as it should; that is a fault of "
                             "Euhydra. Your gardens are as they were last kept. Go back, or "
                             "undo the last change.")(scope, receive, _with_headers(send))


def largest_at(path: str) -> int:
    """The largest body that an address takes, in bytes."""
    if path == "/import":
        return LARGEST_BUNDLE
    return LARGEST_FILE if path.endswith(FILES) else LARGEST_BODY


def host_refused(headers: Headers, at: str = "") -> PlainTextResponse | None:
    """An answer when the Host header names another host than this machine, or ``at``."""
    host = headers.get("host", "")
    if HERE.fullmatch(host) or (at and host == at.partition("://")[2]):
        return None
    return _said(421, "This app answers on this machine only, as localhost.")


def origin_refused(method: str, headers: Headers, at: str = "", scheme: str = "",
                   path: str = "") -> PlainTextResponse | None:
    """An answer when a write does not come from a page of this app."""
    if method in ("GET", "HEAD"):
        return None
    if headers.get("origin") is None and (path.startswith("/api/") or headers.get(
            "authorization", "")[:7].lower() == "bearer "):
        return None  # a device by its token; no browser sends one of itself
    origin, host = headers.get("origin"), headers.get("host", "")
    if origin is not None and origin in (f"{scheme or 'http'}://{host}", at):
        return None
    if origin is None and headers.get("sec-fetch-site") == "same-origin":
        return None
    return _said(403, "A change has to come from a page of this app. Open the garden here and "
                      "make it again.")


def elsewhere_refused(headers: Headers, path: str, query: str = "") -> PlainTextResponse | None:
    """An answer when another site asks for more than to show a page: no picture, file or work.

    Nor a page with its long work done at once.
    """
    if headers.get("sec-fetch-site") not in ("cross-site", "same-site"):
        return None
    shown = (headers.get("sec-fetch-mode"), headers.get("sec-fetch-dest")) == (
        "navigate", "document")
    costly = "/export/" in path or path.endswith(("/work", "/later")) or "now=" in query
    if shown and not costly:
        return None
    return _said(403, "Another site asked for this. Open Euhydra itself and ask for it there.")


def _said(status: int, words: str) -> PlainTextResponse:
    return PlainTextResponse(words + "\n", status_code=status)


async def _whole_body(receive: Receive, most: int, headers: Headers) -> bytes:
    """The body, read to its end. Raises Gone, TooLarge, or TimeoutError after a silence."""
    told = headers.get("content-length", "")
    if told.isdecimal() and int(told[:20]) > MOST_DRAINED:
        raise TooLarge
    chunks: list[bytes] = []
    size, more = 0, True
    while more:
        async with asyncio.timeout(SILENT_S):
            message = await receive()
        if message["type"] == "http.disconnect":
            raise Gone
        chunk = message.get("body", b"")
        size += len(chunk)
        if size <= most:
            chunks.append(chunk)
        elif size > MOST_DRAINED:
            break
        more = message.get("more_body", False)
    if size > most:
        raise TooLarge
    return b"".join(chunks)


def _replay(body: bytes, receive: Receive) -> Receive:
    sent = False

    async def again() -> Message:
        nonlocal sent
        if sent:
            return await receive()
        sent = True
        return {"type": "http.request", "body": body, "more_body": False}

    return again


def _with_headers(send: Send) -> Send:
    async def sender(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in HEADERS.items():
                if name not in headers or name != "Cache-Control":
                    headers[name] = value
        await send(message)

    return sender
