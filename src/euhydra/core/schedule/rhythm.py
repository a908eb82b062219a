"""When a zone runs in a month, as its timer is set: how often, and at which hour first."""

from __future__ import annotations

from typing import TYPE_CHECKING

from euhydra.core.schedule.timing import Setting

if TYPE_CHECKING:
    from euhydra.core.assessment.reckoning import Reckoning


FIRST_START_H = 5.0  # morning is the default against leaf disease
STARTS_H = {"morning": FIRST_START_H, "evening": 19.0, "pulses": FIRST_START_H}


def setting_in(r: Reckoning, zone_id: str, month: int) -> Setting | None:
    """A zone's setting in a month; None when it needs no water then."""
    return next((s for s in r.settings[zone_id] if s.month == month), None)


def rhythm(setting: Setting) -> str:
    """``every 48 h`` or ``Mon Wed Fri, 2 starts``."""
    if not setting.weekdays:
        return f"every {setting.every_h} h"
    days = "every day" if len(setting.weekdays) == 7 else " ".join(setting.weekdays)
    return days if setting.starts_a_day == 1 else f"{days}, {setting.starts_a_day} starts"


def first_hours(r: Reckoning) -> dict[tuple[str, int], float]:
    """The hour of each zone's first start in a day, by zone and month.

    Zones of a source open one after another from early morning or evening, so that no two fight
    for it.
    """
    begun: dict[tuple[str, int], float] = {}
    found = {}
    for zone in r.timed_zones:
        for setting in r.settings[zone.id]:
            turn = (zone.source, setting.month)
            hour = begun.get(turn, STARTS_H[r.garden.opens])
            found[zone.id, setting.month] = hour % 24
            begun[turn] = hour + setting.minutes / 60
    return found
