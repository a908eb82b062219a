"""Catch and store against physics, handbook values and common practice."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from euhydra.core import parsing, storage, units
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Roof, Store
from euhydra.core.library import RoofMaterial
from euhydra.core.season import run_season
from euhydra.core.storage.filling import filling
from euhydra.core.supply.runoff import roof_yields
from gardens import poured
from worlds import world

GAL_L = 3.785411784


def roof(width_m: float, depth_m: float, flush_mm: float = 0.0) -> Roof:
    return Roof.model_validate({"id": "r", "name": "Roof", "corner": {"x_m": 0, "y_m": 0},
                                "width_m": width_m, "depth_m": depth_m, "material": "metal",
                                "first_flush_mm": flush_mm, "downspouts": [
                                    {"id": "d", "name": "d", "to": "s"}]})


def material(runoff: float) -> RoofMaterial:
    return RoofMaterial(key="m", name="m", source="", standing="physics", runoff=runoff,
                        first_flush_mm=0, caution="")


def store(**changes: object) -> Store:
    return Store.model_validate({"id": "s", "name": "Barrels", "at": {"x_m": 0, "y_m": 0},
                                 "volume_l": 208.2, "height_m": 0.85, "stand_m": 0.0} | changes)


def test_an_inch_of_rain_on_a_thousand_square_feet_is_623_gallons(library):
    # Physics and handbook.
    side = parsing.parse("1000 sq ft", "area", "us") ** 0.5
    rain = np.array([parsing.parse("1 in", "rain", "us")])
    (caught,) = roof_yields(rain, (roof(side, side),), replace(
        library, roof_materials={"metal": material(1.0)})).values()
    assert caught.caught_l[0] / GAL_L == pytest.approx(623, abs=0.5)


def test_a_barrel_under_a_carport_fills_in_about_ten_minutes(library):
    # Common practice, no source: 55 gal in about 10 minutes of heavy rain. A carport of 6 × 5.5 m
    # in a storm of 40 to 50 mm/h agrees.
    garden = poured(library, roof_width_m=6.0, roof_depth_m=5.5, roof_material="membrane",
                    barrels=1, barrel_l=55 * GAL_L)
    garden = SetValue("stores/barrels/outlet_m", 0.0).apply(garden, library)
    for rate in (40, 50):
        bank = storage.banks_of(garden).banks[0]
        filled = filling(garden.roofs, garden.joints, library, bank, rate)
        assert 7 < filled.minutes_to_spill < 12


def test_three_hundred_gallons_weigh_2502_pounds():
    # Physics; corrects the common practice of "2,000 lb".
    tote = store(volume_l=300 * GAL_L, height_m=1.0, shell_kg=0.0)
    pounds = units.convert(storage.full_mass_kg(tote), "mass", "us")
    assert pounds == pytest.approx(2502, abs=3)


def test_two_barrels_on_a_deck_press_about_8_kpa():
    # Physics; 1.9 kPa (40 psf) for a deck recalled from the residential code.
    pair = store(count=2, footing="deck", shell_kg=0.0)
    assert storage.bearing_kpa(pair) == pytest.approx(8.3, abs=0.1)
    assert storage.bearing_kpa(pair) > 4 * 1.9


def test_2550_gallons_last_six_weeks_at_60_gallons_a_day():
    # Common practice, no source: 2,550 gal carried a small-house garden six summer weeks.
    # The timer opens for that each morning; the days are those of the season itself.
    minutes = np.zeros((1, 365, 4))
    minutes[..., 0] = 60.0
    dry = world(np.full((1, 365), 60 * GAL_L), np.zeros((1, 365)), minutes, size=2550 * GAL_L,
                total=600.0, ready=400.0, flow=(60 * GAL_L,) * 3)
    kept = run_season(dry, start_share=1.0)
    assert int((~kept.short).sum()) / 7 == pytest.approx(6, abs=0.1)


def test_water_under_the_outlet_never_comes_out():
    # Common practice: usable water is what stands above the lowest outlet.
    barrel = store(outlet_m=0.085)
    assert storage.usable_l(barrel) == pytest.approx(208.2 * 0.9)


def test_the_five_percent_rule():
    # EN 16941-1 / BS 8515 intermediate approach, recalled: the lesser of yield and demand.
    assert storage.five_percent_l(40_000, 60_000) == 2000
    assert storage.five_percent_l(40_000, 10_000) == 500


def test_sequent_peak_by_hand():
    # Deficits worked by hand: 0, 20, 30, 0, 10, 25.
    assert storage.sequent_peak_l([50, 0, 10, 60, 0, 5], [20, 20, 20, 20, 10, 20]) == 30


@settings(deadline=None, max_examples=60)
@given(arrays(float, 40, elements=st.floats(0, 90)), arrays(float, 40, elements=st.floats(0, 60)))
def test_sequent_peak_is_the_smallest_simulated_size_that_never_fails(inflow, demand):
    peak = storage.sequent_peak_l(inflow, demand)
    assert not falls_short(inflow, demand, peak)
    if peak > 1:
        assert falls_short(inflow, demand, peak * 0.98 - 0.01)


def falls_short(inflow, demand, size):
    level = size
    for comes, wants in zip(inflow, demand, strict=True):
        if wants > level + comes + 1e-6:
            return True
        level = min(level + comes - wants, size)
    return False


def test_dry_spells_are_counted_by_year():
    rain = np.zeros((2, 365))
    rain[0, [0, 100, 364]] = 5
    rain[1, ::10] = 1
    assert storage.longest_dry_spell(rain).tolist() == [263, 9]


def test_a_dry_season_over_new_year_is_not_cut_in_two():
    """A tropical year: nothing falls from November to March."""
    year = np.ones(365)
    year[304:] = year[:90] = 0.0
    rain = np.tile(year, (4, 1))
    assert storage.longest_dry_spell(rain).tolist() == [90, 151, 151, 151]
