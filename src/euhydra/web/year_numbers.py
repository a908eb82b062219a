"""A year of a garden in numbers, for the script that plays it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np
from numpy.typing import NDArray

from euhydra.core import units
from euhydra.core.daily.year import LEAST_L, TONES, WET_MM, Year
from euhydra.web.sheet import Sheet


def numbers(sheet: Sheet, year: Year) -> dict[str, Any]:
    """A year for the script, in the units shown: small arrays by day, January first."""
    system = sheet.system
    places = _unit("volume", system)[1]

    def shown(litres: NDArray[np.float64] | float, kind: str = "volume") -> Any:
        return litres * units.linear(kind, system)[0]

    def told(litres: NDArray[np.float64]) -> dict[str, float]:
        """Only the days with something to tell."""
        return {str(d): as_shown(float(v), places) for d, v in enumerate(shown(litres).tolist())
                if litres[d] >= LEAST_L}

    runs: dict[str, list[list[Any]]] = {}
    for run in year.runs:
        comes = run.litres >= LEAST_L
        runs.setdefault(str(run.day), []).append(
            [run.of, round(run.start_h, 2), round(run.minutes),
             as_shown(shown(run.litres), places) if comes else 0,
             as_shown(shown(run.flow_l_h, "flow"), 0)])
    return {
        "volume": _unit("volume", system), "flow": [units.unit_label("flow", system), 0],
        "depth": _unit("depth", system),
        "rain": [as_shown(float(v), _unit("depth", system)[1])
                 for v in shown(year.rain_mm, "depth")],
        "wet": "".join("1" if mm >= WET_MM else "0" for mm in year.rain_mm.tolist()),
        "dry": year.dry_days.tolist(),
        "left": {plot: _ints(100 * year.left[p]) for p, plot in enumerate(year.plots)},
        "tone": {plot: "".join(str(t) for t in year.tone[p].tolist())
                 for p, plot in enumerate(year.plots)},
        "tones": TONES,
        "level": [[as_shown(float(v), places) if year.has(d) else None
                   for d, v in enumerate(shown(row))] for row in year.level]
        if sheet.garden.stores else [],
        "size": [float(shown(bank.usable_l)) for bank in sheet.assessment.banks.banks],
        "over": told(year.over), "tap": told(year.tap), "well": told(year.well),
        "drain": told(year.used), "runs": runs,
        "names": _names(year),
        "came": {zone.id: told(year.came_to(zone)) for zone in sheet.garden.zones}}


def _names(year: Year) -> dict[str, str]:
    """What is run: the names of zones, and of plots that a hand waters."""
    r = year.results
    return {zone.id: zone.name for zone in r.garden.zones} | {
        plot: hand.plot.name for plot, hand in r.schedule.by_hand.items()}


def _unit(kind: str, system: units.System) -> list[Any]:
    here = units.KINDS[kind].metric if system == "metric" else units.KINDS[kind].us
    return [here[1], here[2]]


def as_shown(value: float, places: int) -> float:
    """A number a little finer than it is shown, but never so that its last place would be shown
    otherwise than by ``units.show``: near the middle between two it is the one that is shown.
    """
    places = units.decimals_of(value, places)
    whole = round(float(value), places)
    return whole if abs(value - whole) > 0.44 * 10**-places else round(float(value), places + 1)


def _ints(values: Iterable[float]) -> list[int]:
    return [round(float(v)) for v in values]
