"""When a zone runs in a month, as its timer is set: how often, and from which hour on."""

from __future__ import annotations

from euhydra.core.garden.model import Timer
from euhydra.core.schedule.settings import ANY_HOUR, Allowed, Setting

FIRST_START_H = ANY_HOUR.first_h  # morning is the default against leaf disease
STARTS_H = {"morning": FIRST_START_H, "evening": 19.0, "pulses": FIRST_START_H}


def allowed(timer: Timer | None) -> Allowed:
    """The hours in which a timer may open, and its first start; of a hand at any hour."""
    if timer is None:
        return ANY_HOUR
    first = max(STARTS_H[timer.opens], timer.from_h)
    return Allowed(first if first < timer.until_h else timer.from_h, timer.from_h, timer.until_h)


def rhythm(setting: Setting) -> str:
    """``every 48 h`` or ``Mon Wed Fri, 2 starts``."""
    if not setting.weekdays:
        return f"every {setting.every_h} h"
    days = "every day" if len(setting.weekdays) == 7 else " ".join(setting.weekdays)
    return days if setting.starts_a_day == 1 else f"{days}, {setting.starts_a_day} starts"
