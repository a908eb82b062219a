"""First pour's fields: which a water or a plant asks for, and what stands in them at first."""

from __future__ import annotations

from typing import get_args

from euhydra.core.editing.answers import Feeds, Fixture
from euhydra.core.garden.today import MEASURES_OF
from euhydra.core.units import System

BED_ROWS, MORE_ROWS = 4, 2
MONTH_TABLES = ("rain_mm", "wet_days", "tmin_c", "tmax_c")
OWN = "own"
WAYS = tuple(MEASURES_OF)
TAP_FEEDS = ("stores", "pots", "lines")
SHUTTING = {"gutter", "chain", "float-pots"}  # that shut their float valves
LED = ("basins", "drum")
WELL_LED = ("stores", "lines")
FEEDS: tuple[Feeds, ...] = get_args(Feeds)
FIXTURES: tuple[Fixture, ...] = get_args(Fixture)
# What is asked about each water and each kind of plant, by the names of Answers.
ASKED: dict[str, tuple[str, ...]] = {
    "roof": ("roof_width_m", "roof_depth_m"), "tap": ("bucket_l", "bucket_s"),
    "laundry": ("washes", "wash_l", "basins", "drum_l"),
    "well": ("well_l_h", "well_bucket_l", "well_bucket_s"),
    "tank": ("tank_l", "tank_stand_m"), "barrels": ("barrel_l", "barrels", "stand_m"),
    "trees": ("trees", "canopy_m"), "pots": ("pots", "pot_diameter_m"), "towers": ("towers",),
    "gutter": ("gutters", "buckets"), "chain": ("chain",), "float-pots": ("float_pots",)}
NUMBER_OF = {"trees": "trees", "pots": "pots", "towers": "towers", "gutter": "gutters",
             "chain": "chain", "float-pots": "float_pots"}
PAIRS: dict[str, tuple[str, str]] = {
    "name": ("My garden", "My garden"), "archetype": ("continental", "continental"),
    "roof_width_m": ("5 m", "16 ft"), "roof_depth_m": ("3 m", "10 ft"),
    "roof_material": ("metal", "shingle"), "barrel_l": ("210 L", "55 gal"),
    "barrels": ("2", "2"), "stand_m": ("0.4 m", "16 in"), "well_l_h": ("100 L/h", "26 gph"),
    "well_led": ("stores", "stores"), "well_bucket_l": ("10 L", "2.5 gal"),
    "well_bucket_s": ("60 s", "60 s"), "well_feeds": ("all", "all"),
    "tank_l": ("47 L", "12 gal"), "tank_stand_m": ("25 cm", "10 in"),
    "bucket_l": ("10 L", "2.5 gal"), "bucket_s": ("40 s", "40 s"),
    "tap_feeds": ("stores", "stores"),
    "fixture": ("laundry", "laundry"),
    "washes": ("2", "2"), "wash_l": ("70 L", "18 gal"), "basins": ("2", "2"),
    "laundry_led": ("basins", "basins"), "drum_l": ("200 L", "55 gal"),
    "drum_feeds": ("all", "all"),
    "fall_way": ("lower", "lower"), "fall_m": ("0.5 m", "2 ft"), "distance_m": ("4 m", "12 ft"),
    "method": ("dripline", "dripline"), "trees": ("2", "2"), "canopy_m": ("1.5 m", "5 ft"),
    "pots": ("4", "4"), "pot_diameter_m": ("30 cm", "12 in"), "towers": ("2", "2"),
    "gutters": ("1", "1"), "buckets": ("8", "8"), "chain": ("6", "6"), "float_pots": ("6", "6"),
    "border_length_m": ("4 m", "12 ft"), "border_width_m": ("0.8 m", "2 ft 6 in"),
    "lawn_length_m": ("4 m", "12 ft"), "lawn_width_m": ("1.5 m", "5 ft"),
    "bed_1_count": ("2", "2"), "bed_1_length_m": ("2.4 m", "8 ft"),
    "bed_1_width_m": ("1.2 m", "4 ft"), "bed_1_group": ("fruiting", "fruiting"),
    "today": ("new", "new"), "cans": ("6", "6"), "can_l": ("10 L", "2.5 gal"),
    "hose_min": ("20 min", "20 min"), "timer_min": ("20 min", "20 min"), "every_days": ("1", "1")}
DEFAULTS: dict[System, dict[str, str]] = {
    "metric": {key: pair[0] for key, pair in PAIRS.items()},
    "us": {key: pair[1] for key, pair in PAIRS.items()}}
MOST_BEDS = 12
STANDS_IN = {"length_m": "2.4 m", "width_m": "1.2 m", "volume_l": "210 L",
             "count": "1", "lower_m": "0"}
