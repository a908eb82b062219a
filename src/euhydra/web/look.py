"""How a station is looked at, by its address: none of it is kept."""

from __future__ import annotations

from dataclasses import dataclass, replace
from urllib.parse import urlencode

from euhydra.core.garden.base import month_day
from euhydra.core.garden.model import Garden


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

    def query(self, since: int | None = None) -> str:
        """The part of an address that looks this way again, nothing tried; empty or from "?" on."""
        keep = {"view": self.view, "zone": self.zone, "store": self.store,
                "level": self.level if self.level != "half" else None,
                "month": self.month + 1 if self.month is not None else None, "since": since,
                "sel": ",".join(self.picked), "hide": ",".join(self.hidden), "plot": self.plot,
                "day": month_day(self.today) if self.asked_day else None,
                "away": self.away if self.away != 14 else None, "other": self.other,
                "rained": self.rained, "year": self.year}
        kept = {key: value for key, value in keep.items() if value}
        return f"?{urlencode(kept)}" if kept else ""


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
