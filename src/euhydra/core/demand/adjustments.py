"""What a gardener's habits do to thirst: mulch, shade, shelter, cover, and how packed plants stand.

Each gives a factor or a share; ``thirst`` puts them together.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from euhydra.core.garden.model import AnyPlot, Holder

Array = NDArray[np.float64]
# share of the evaporation from the soil that mulch over all of it stops: organic 5 % for each
# tenth of ground covered, plastic the middle of what is tabled; FAO-56 chapter 10, recalled
MULCH_STOPS = {"none": 0.0, "straw": 0.5, "chips": 0.5, "plastic": 0.65}
SHADE_STOPS = {"none": 0.0, "tree": 0.6, "cloth": 0.4, "panel": 0.85}  # of the light, from memory
LIGHT_SHARE = 0.75  # of ETo that sunlight drives, the rest wind and dry air; from memory
WIND = {"sheltered": 0.9, "open": 1.0, "windy": 1.15}  # from memory
GLASS = 0.75  # ETo under glass against outdoors, from memory
POT_EXPOSURE = 1.2  # warm sides and wind all round, from memory
BARE = 0.15  # Kc of dry bare soil, FAO-56 chapter 7, recalled


def light_about_noon(hours: float, daylight_h: ArrayLike) -> Array:
    """Share of a day's sunlight that falls in so many hours about noon.

    The sun's strength taken as half a sine wave from dawn to dusk: sin(π/2 · h/N).
    """
    share = np.clip(hours / np.maximum(np.asarray(daylight_h, dtype=float), 0.1), 0, 1)
    return np.asarray(np.sin(np.pi / 2 * share))


def air_factor(plot: AnyPlot, daylight_h: ArrayLike) -> Array:
    """What a plot's place makes of ETo: shade, wind, glass, and the warm sides of pots."""
    shade = 1 - LIGHT_SHARE * SHADE_STOPS[plot.shade] * light_about_noon(plot.shade_h, daylight_h)
    glass = GLASS if plot.cover == "glasshouse" else 1.0
    return np.asarray(shade * WIND[plot.exposure] * glass
                      * (POT_EXPOSURE if isinstance(plot, Holder) else 1.0))


def density_factor(cover: float, height_m: float) -> float:
    """Kd of Allen & Pereira (2009): min(1, 1.5 fc, fc^(1/(1+h))), recalled.

    ``cover`` is against the crop's usual planting, at which Kc is as tabled.
    """
    return float(min(1.0, 1.5 * cover, cover ** (1 / (1 + height_m))))


def with_habits(kc: Array, kcb: Array, stops: float, density: float) -> Array:
    """Kc thinned by density towards bare soil, its evaporation part cut by the mulch."""
    thin = np.where(kc > 0, BARE + density * (kc - BARE), 0.0)
    thin = np.minimum(thin, kc)
    leaf = np.minimum(np.where(kc > 0, BARE + density * (kcb - BARE), 0.0), thin)
    return np.asarray(leaf + (thin - leaf) * (1 - stops))
