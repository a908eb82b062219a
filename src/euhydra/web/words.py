"""What parts and things are called, wherever they are told of."""

PART_WORDS = {"gutter": "gutter", "downspout": "downspout", "diverter": "diverter",
              "link": "links between barrels", "overflow": "overflow"}
KIND_WORDS = {"store": "store", "tap": "tap", "well": "well", "drain": "drain", "spot": "level",
              "basin": "mulch basin", "rain-garden": "rain garden", "wet-area": "wet ground",
              "tower": "towers", "gutter": "buckets over a gutter", "chain": "bucket chain",
              "float-pots": "float-valve pots", "bags": "grow bags", "lawn": "lawn strip"}
