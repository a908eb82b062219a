"""When a zone runs in a month, as its timer is set: how often, and at which hour first."""

from __future__ import annotations

from euhydra.core.schedule.timing import Setting

FIRST_START_H = 5.0  # morning is the default against leaf disease
STARTS_H = {"morning": FIRST_START_H, "evening": 19.0, "pulses": FIRST_START_H}


def rhythm(setting: Setting) -> str:
    """``every 48 h`` or ``Mon Wed Fri, 2 starts``."""
    if not setting.weekdays:
        return f"every {setting.every_h} h"
    days = "every day" if len(setting.weekdays) == 7 else " ".join(setting.weekdays)
    return days if setting.starts_a_day == 1 else f"{days}, {setting.starts_a_day} starts"
