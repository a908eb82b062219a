"""What parts and things are called, wherever they are told of."""

from euhydra.core.garden.plot_kinds import PLOT_KINDS

PART_WORDS = {"gutter": "gutter", "downspout": "downspout", "diverter": "diverter",
              "merged pipe": "pipe they merge into", "link": "links between barrels",
              "overflow": "overflow"}
KIND_WORDS = {"store": "store", "tap": "tap", "well": "well", "drain": "drain", "spot": "level",
              "basin": "mulch basin", "rain-garden": "rain garden", "wet-area": "wet ground"} | {
    key: kind.name.lower() for key, kind in PLOT_KINDS.items()}
