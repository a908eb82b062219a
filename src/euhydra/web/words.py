"""What parts and things are called, wherever they are told of."""

from collections.abc import Sequence

from euhydra.core.garden.model import Store
from euhydra.core.garden.plot_kinds import PLOT_KINDS

PART_WORDS = {"gutter": "gutter", "downspout": "downspout", "diverter": "diverter",
              "merged pipe": "pipe they merge into", "link": "links between barrels",
              "overflow": "overflow"}
KIND_WORDS = {"store": "store", "tap": "tap", "well": "well", "drain": "drain", "spot": "level",
              "basin": "mulch basin", "rain-garden": "rain garden", "wet-area": "wet ground"} | {
    key: kind.name.lower() for key, kind in PLOT_KINDS.items()}


def held(stores: Sequence[Store]) -> str:
    """The letter of the water in some stores: H where a hand fills all of them, else R for rain."""
    return "H" if stores and all(store.hand_filled for store in stores) else "R"
