"""All changes that a garden can be helped by."""

from __future__ import annotations

from collections.abc import Iterable

from euhydra.core.advise.helping.moves import Move, unlike
from euhydra.core.advise.helping.of_plots import of_plots
from euhydra.core.advise.helping.of_times import of_times
from euhydra.core.advise.helping.of_water import of_water
from euhydra.core.results.results import Results


def moves_of(r: Results, more: Iterable[Move] = ()) -> tuple[Move, ...]:
    """Those of its water, times and plots, and ``more`` that are offered elsewhere; each once."""
    return unlike((*of_water(r), *of_times(r), *of_plots(r), *more))
