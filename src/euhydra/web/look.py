"""How a station is looked at, by its address: none of it is kept."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass, replace
from urllib.parse import urlencode

from fastapi import Request

from euhydra.core.garden.base import day_of_year, month_day
from euhydra.core.garden.model import Garden
from euhydra.core.hydraulics.surfaces import SHARES
from euhydra.core.season.absence import MOST_DAYS

CASE, CASED = ("see", "r", "cannot", "not", "play", "guess"), 200
ANSWER = ("key", "typed", "word")
WISHES, WISHED, MOST_WISHES = ("goal", "no", "most", "hours", "weeks", "leave", "set"), 600, 60
PERCENTS = {str(n) for n in range(101)}


@dataclass(frozen=True)
class Look:
    """How a station is looked at: none of it is kept."""

    view: str = ""
    month: int | None = None
    zone: str | None = None
    level: str = "half"
    trying: str | None = None
    since: int | None = None
    read: str = ""
    store: str | None = None
    picked: tuple[str, ...] = ()
    hidden: tuple[str, ...] = ()
    plot: str | None = None
    today: int = 0
    asked_day: bool = False
    away: int = 14
    other: str | None = None
    rained: str = ""
    now: bool = False
    asked: str = ""
    year: str = ""
    wish: tuple[tuple[str, str], ...] = ()
    case: tuple[tuple[str, str], ...] = ()
    answer: tuple[tuple[str, str], ...] = ()

    def query(self, since: int | None = None) -> str:
        """The part of an address that looks this way again, nothing tried; empty or from "?" on."""
        keep = {"view": self.view, "zone": self.zone, "store": self.store,
                "level": self.level if self.level != "half" else None,
                "month": self.month + 1 if self.month is not None else None, "since": since,
                "sel": ",".join(self.picked), "hide": ",".join(self.hidden), "plot": self.plot,
                "day": month_day(self.today) if self.asked_day else None,
                "away": self.away if self.away != 14 else None, "other": self.other,
                "rained": self.rained, "year": self.year}
        kept = [*((key, value) for key, value in keep.items() if value), *self.wish,
                *self.case]
        return f"?{urlencode(kept)}" if kept else ""


def look_of(request: Request) -> Look:
    """How the address says to look; what it does not know is left out. A write tries nothing on."""
    query = request.query_params
    month, since = query.get("month", ""), query.get("since", "")
    level = query.get("level", "half")
    day, asked = _day(query.get("day", ""))
    return Look(
        view=query.get("view", ""), zone=query.get("zone"), store=query.get("store"),
        month=int(month) - 1 if month in {str(m) for m in range(1, 13)} else None,
        read=query.get("read", "")[:16],
        level=level if level in SHARES or level in PERCENTS else "half",
        trying=query.get("try") if request.method == "GET" else None,
        since=int(since) if since.isdecimal() and len(since) < 10 else None,
        picked=_few(query.get("sel", "")), hidden=_few(query.get("hide", ""))[:4],
        plot=query.get("plot"), today=day, asked_day=asked,
        away=_days(query.get("away", "")), other=query.get("other"),
        rained=query.get("rained", "")[:40], now=query.get("now") == "1",
        asked=query.get("asked", "")[:60], year=query.get("year", "")[:8],
        wish=tuple((key, value[:WISHED]) for key, value in query.multi_items()
                   if key in WISHES)[:MOST_WISHES],
        case=tuple((key, value[:CASED]) for key, value in query.multi_items()
                   if key in CASE)[:MOST_WISHES],
        answer=tuple((key, query.get(key, "")[:CASED]) for key in ANSWER if key in query))


def _few(listed: str) -> tuple[str, ...]:
    """Paths from an address, each once; what is too long or too many is left out."""
    paths = [path for path in listed[:6000].split(",") if path and len(path) <= 150]
    return tuple(dict.fromkeys(paths))[:100]


def _days(typed: str) -> int:
    """How many days one is away; two weeks where none or nonsense is asked for."""
    days = int(typed) if typed.isdecimal() and len(typed) < 4 else 14
    return days if 1 <= days <= MOST_DAYS else 14


def _day(typed: str) -> tuple[int, bool]:
    """The day of the year asked for as month-day, else today's; and whether it was asked for."""
    try:
        return day_of_year(dt.date.fromisoformat(f"2001-{typed}").isoformat()[5:]), True
    except ValueError:
        return day_of_year(dt.date.today().isoformat()[5:]), False


def at_what_is_new(look: Look, before: Garden, after: Garden) -> Look:
    """The look at a roof, store, plot or timer that was just added; else as it was."""
    for kind in ("roofs", "stores", "plots", "timers"):
        old = {thing.id for thing in getattr(before, kind)}
        new = [thing.id for thing in getattr(after, kind) if thing.id not in old]
        if new and kind == "stores":
            look = replace(look, store=new[-1])
        elif new:
            look = replace(look, picked=(f"{kind}/{new[-1]}",))
    return look
