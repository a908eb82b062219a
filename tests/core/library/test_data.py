"""The trade tables: every row has its source, and rows that name each other agree."""

import dataclasses

import pytest

from euhydra.core import library as lib
from euhydra.core.garden.model import day_of_year, month_day
from euhydra.core.hydraulics.emitters import outlet_flow

TABLES = [f.name for f in dataclasses.fields(lib.Library) if f.name != "renamed_parts"]


@pytest.mark.parametrize("table", TABLES)
def test_every_row_says_where_it_comes_from(library, table):
    rows = getattr(library, table)
    assert rows
    for key, row in rows.items():
        assert row.key == key
        assert row.name
        assert row.standing in ("published", "common practice", "from memory", "physics")
        assert row.source or row.standing == "common practice"


# FAO-56 Table 12, recalled: Kc ini, mid, end.
KC = {"lettuce": (0.70, 1.00, 0.95), "spinach": (0.70, 1.00, 0.95), "cabbage": (0.70, 1.05, 0.95),
      "tomato": (0.60, 1.15, 0.80), "pepper": (0.60, 1.05, 0.90), "squash": (0.50, 1.00, 0.80),
      "cucumber": (0.60, 1.00, 0.75), "carrot": (0.70, 1.05, 0.95), "onion": (0.70, 1.05, 0.75),
      "beet": (0.50, 1.05, 0.95), "potato": (0.50, 1.15, 0.75), "bean": (0.50, 1.05, 0.90),
      "strawberry": (0.40, 0.85, 0.75), "bush-fruit": (0.30, 1.05, 0.50),
      "pear": (0.45, 0.95, 0.70), "herbs": (0.60, 1.15, 1.10)}


@pytest.mark.parametrize("key", sorted(KC))
def test_crop_coefficients_are_those_of_fao_56(library, key):
    crop = library.crops[key]
    assert (crop.kc_ini, crop.kc_mid, crop.kc_end) == KC[key]
    assert "FAO-56" in crop.source


# FAO-56 Table 11, recalled: days of the four stages.
STAGES = {"lettuce": (20, 30, 15, 10), "tomato": (30, 40, 45, 30), "cabbage": (40, 60, 50, 15),
          "carrot": (30, 40, 60, 20), "onion": (15, 25, 70, 40), "potato": (25, 30, 45, 30)}


@pytest.mark.parametrize("key", sorted(STAGES))
def test_stage_lengths_are_those_of_fao_56(library, key):
    crop = library.crops[key]
    assert (crop.days_ini, crop.days_dev, crop.days_mid, crop.days_late) == STAGES[key]


def test_soils_hold_what_fao_56_says(library):
    # FAO-56 Table 19, recalled: ranges of θFC − θWP.
    ranges = {"sand": (0.05, 0.11), "sandy-loam": (0.11, 0.15), "loam": (0.13, 0.18),
              "silt-loam": (0.13, 0.19), "clay": (0.12, 0.20)}
    for key, (low, high) in ranges.items():
        assert low <= library.soils[key].available <= high
    # From memory: potting mix has about a quarter of its volume to give.
    assert library.soils["potting-mix"].available == pytest.approx(0.25)


def test_rows_that_name_others_name_rows_that_are(library):
    for tube in library.tubes.values():
        assert not tube.outlet or tube.outlet in library.outlets
        assert bool(tube.outlet) == (tube.outlet_spacing_m > 0)
    for timer in library.timers.values():
        if timer.style != "hand":
            assert {f"{style}-{timer.valve}" for style in ("dial", "weekday", "multi", "weather")
                    } <= set(library.timers)
            assert {f"{timer.style}-{valve}" for valve in ("pilot", "ball")} <= set(library.timers)
        assert (timer.opens_kpa > 0) == (timer.valve == "pilot")


@pytest.mark.parametrize(("key", "change", "other"), [
    ("dial-pilot", {"valve": "ball"}, "dial-ball"), ("dial-ball", {"valve": "ball"}, "dial-ball"),
    ("dial-pilot", {"style": "weekday"}, "weekday-pilot"), ("dial-pilot", {"style": "sun"},
                                                           "dial-pilot")])
def test_a_timer_like_another(library, key, change, other):
    assert library.timer_like(key, **change) == other


def test_climates_are_twelve_whole_months(library):
    for climate in library.climates.values():
        for months in (climate.rain_mm, climate.wet_days, climate.tmin_c, climate.tmax_c):
            assert len(months) == 12
        assert all(hi > lo for lo, hi in zip(climate.tmin_c, climate.tmax_c, strict=True))
        assert bool(climate.last_frost) == bool(climate.first_frost)
    # The demo's place: product facts, invented.
    assert sum(library.climates["ostermere"].rain_mm) == 610


@pytest.mark.parametrize(("key", "nominal", "at_m"), [("plain-2", 2.0, 10), ("plain-4", 4.0, 10),
                                                      ("compensating-2", 2.0, 10),
                                                      ("soaker", 0.6, 10)])
def test_outlets_give_their_nominal_flow(library, key, nominal, at_m):
    assert float(outlet_flow(library.outlets[key], at_m)) == pytest.approx(nominal, rel=1e-3)


def test_days_of_the_year_go_round():
    assert [month_day(day_of_year(d)) for d in ("01-01", "02-28", "03-01", "12-31")] == [
        "01-01", "02-28", "03-01", "12-31"]
    assert day_of_year("02-29") == day_of_year("02-28")
    assert month_day(-1) == "12-31"
    assert month_day(365) == "01-01"
