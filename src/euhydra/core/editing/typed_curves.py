"""A pump's curve as it is typed: points of it, or two bucket tests at two heights."""

from __future__ import annotations

import re

from euhydra.core import parsing
from euhydra.core.garden.pump_curves import BadCurve, curve_of_buckets
from euhydra.core.parsing import BadEntry
from euhydra.core.units import System

CURVE_WORDS = ("is not a point of a curve. Type flow, head; flow, head; from no flow on, such as "
               "0 L/h, 12 m; 500 L/h, 9 m; 900 L/h, 2 m. Or two bucket tests, the hose's end so "
               "high over the water: 10 L in 40 s at 1 m; 10 L in 70 s at 3 m.")
BUCKET = re.compile(r"(?P<litres>.+?)\s+in\s+(?P<seconds>.+?)\s+at\s+(?P<height>.+)", re.IGNORECASE)


def parse_points(typed: str, system: System) -> list[tuple[float, float]]:
    """The (L/h, m) points that were typed, or those of the curve through two bucket tests.

    Raises BadEntry.
    """
    tests = [BUCKET.fullmatch(part.strip()) for part in typed.split(";") if part.strip()]
    if not any(tests):
        return list(parsing.parse_pairs(typed, ("flow", "lift"), system, CURVE_WORDS))
    if len(tests) != 2 or not all(tests):
        raise BadEntry(typed, f"“{typed[:60]}” is not two bucket tests. Type both alike, such as "
                              "10 L in 40 s at 1 m; 10 L in 70 s at 3 m.")
    first, second = (_bucket(test, system) for test in tests if test)
    try:
        return curve_of_buckets(first, second)
    except BadCurve as error:
        raise BadEntry(typed, f"“{typed[:60]}”: {error}.") from None


def _bucket(test: re.Match[str], system: System) -> tuple[float, float]:
    """Flow in L/h and height in m of one test."""
    litres = parsing.parse(test["litres"], "volume", system)
    seconds = parsing.parse(test["seconds"], "seconds", system)
    if not (litres > 0 and seconds > 0):
        raise BadEntry(test[0], f"“{test[0][:60]}” is no bucket test: its litres and its seconds "
                                "are above zero.")
    return 3600 * litres / seconds, parsing.parse(test["height"], "lift", system)
