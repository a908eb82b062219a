"""Each browser's own mark: whose change the last one was, and nothing more of whoever uses it."""

from __future__ import annotations

import re
import secrets

from fastapi import Request
from starlette.responses import Response

COOKIE = "mark"
KEPT_S = 400 * 24 * 3600  # the longest that browsers keep


def mark_of(request: Request) -> str:
    """The mark of the browser that asks; empty where it brings none."""
    found = request.cookies.get(COOKIE, "")
    return found if re.fullmatch(r"[0-9a-f]{16}", found) else ""


def marked(request: Request, response: Response) -> None:
    """Give a browser that has none a mark of its own with an answer."""
    if not mark_of(request):
        response.set_cookie(COOKIE, secrets.token_hex(8), max_age=KEPT_S, httponly=True,
                            samesite="strict")
