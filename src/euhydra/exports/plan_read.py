"""What readers of plans share: their units, their limits, and what they say of a bad one."""

from __future__ import annotations

UNITS_M = {"m": 1.0, "cm": 0.01, "mm": 0.001, "ft": 0.3048, "in": 0.0254}
MOST_READ, MOST_M = 20_000, 2000.0
SMOOTH_M = 0.02  # how far off a curve its corners may lie
WANTED = "A plan in DXF, or GeoJSON as it is drawn on maps."


class BadPlan(ValueError):
    """The file holds no outlines that can be taken; the message says why."""
