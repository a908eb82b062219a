"""How far advice goes: what is built by hand and what is sold next larger."""

from __future__ import annotations

HIGHEST_STAND_M = 1.5  # of a gardener's own making, common practice
MOST_BARRELS = 24  # in one store
WIDE_LINK_MM = 50.0
LARGER_TUBE = {"poly-16": "poly-20", "poly-20": "poly-25"}
