"""The whole garden day by day: timer as set, flow at the day's level, roots, pots, stores."""

from euhydra.core.season.simulate import run_season, warm
from euhydra.core.season.state import Season

__all__ = ["Season", "run_season", "warm"]
